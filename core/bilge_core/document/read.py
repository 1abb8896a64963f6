"""Reading and writing the build document, with every fault named by its field."""

from __future__ import annotations

import json
from typing import Any

from pydantic import ValidationError

from bilge_core.document.build import Build
from bilge_core.document.upgrade import VERSION
from bilge_core.errors import InvalidInput, Problem

_TAGS = {
    "flat",
    "ramp",
    "round",
    "rectangular",
    "vertical",
    "horizontal",
    "box",
    "cylinder",
    "plane",
}
_TAGGED = {"floor", "mouth"}

_PLAIN = {
    "missing": "is missing",
    "extra_forbidden": "is not a field of a build; remove it or check its spelling",
    "finite_number": "must be a finite number",
    "float_parsing": "must be a number",
    "float_type": "must be a number",
    "json_invalid": "is not a readable JSON file",
}


def _plain(error: Any) -> Problem:
    path = [str(step) for step in error["loc"]]
    kept = [
        step
        for index, step in enumerate(path)
        if not (
            index and step in _TAGS and (path[index - 1] in _TAGGED or path[index - 1].isdigit())
        )
    ]
    kind = error["type"]
    if path == ["version"] and kind == "literal_error":
        message = f"is not one that this Bilge reads: 1 to {VERSION}"
    elif kind in _PLAIN:
        message = _PLAIN[kind]
        if kind == "json_invalid":
            message += f" ({error['ctx']['error']})"
    else:
        text = error["msg"].removeprefix("Value error, ")
        message = text[0].lower() + text[1:]
    if kind not in {"missing", "json_invalid"} and isinstance(error["input"], str | int | float):
        message += f" (it is {str(error['input'])[:60]!r})"
    return Problem(".".join(kept) or "file", message)


def problems_of(error: ValidationError) -> list[Problem]:
    """What is wrong, field by field, in plain words."""
    return [_plain(item) for item in error.errors(include_url=False)]


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
car: is missing; oil: is missing; pan: is missing; pickup: is missing; pump: is missing
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
car: is missing; oil: is missing; pan: is missing; pickup: is missing; pump: is missing
    """
    return read_build(json.dumps(document))


def write_build(build: Build) -> str:
    """A build document as JSON text, ending in a newline; `read_build` reads it back."""
    return build.model_dump_json(indent=2) + "\n"
