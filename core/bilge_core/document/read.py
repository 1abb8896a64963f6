"""Reading and writing the build document, with every fault named by its field."""

from __future__ import annotations

import json
from typing import Any

from pydantic import ValidationError

from bilge_core.document.build import Build
from bilge_core.document.problems import problems_of
from bilge_core.errors import InvalidInput


def read_build(text: str | bytes) -> Build:
    """Read a build document from JSON.

    Parameters
    ----------
    text : str or bytes
        The file's contents, UTF-8.

    Returns
    -------
    Build
        The document, checked field by field and each outline for sanity.

    Raises
    ------
    InvalidInput
        With every faulty field named.

    Examples
    --------
    >>> read_build("{}")
    Traceback (most recent call last):
    ...
    bilge_core.errors.InvalidInput: format: is missing; version: is missing; name: is missing; \
car: is missing; oil: is missing; pan: is missing; pickup: is missing; circuit: is missing
    """
    try:
        return Build.model_validate_json(text)
    except ValidationError as error:
        raise InvalidInput(problems_of(error)) from None


def build_from(document: dict[str, Any]) -> Build:
    """The same from a document as plain data.

    Raises
    ------
    InvalidInput
        With every faulty field named.

    Examples
    --------
    >>> build_from({"format": "bilge-build"})
    Traceback (most recent call last):
    ...
    bilge_core.errors.InvalidInput: version: is missing; name: is missing; \
car: is missing; oil: is missing; pan: is missing; pickup: is missing; circuit: is missing
    """
    return read_build(json.dumps(document))


def write_build(build: Build) -> str:
    """A build document as JSON text, ending in a newline; `read_build` reads it back."""
    return build.model_dump_json(indent=2) + "\n"
