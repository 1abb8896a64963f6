"""What pydantic found wrong with a document, field by field in plain words."""

from __future__ import annotations

from typing import Any, TypeVar

from pydantic import TypeAdapter, ValidationError

from bilge_core.document.circuit.kinds import CLASSES
from bilge_core.errors import InvalidInput, Problem

VERSION = 3
"""Of the document that is written."""

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
    "open",
    "passage",
    "hose",
    "hard_line",
    *CLASSES,
}
_TAGGED = {"floor", "mouth", "line"}

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


Kept = TypeVar("Kept")


def read_kept(adapter: TypeAdapter[Kept], raw: Any, field: str) -> Kept:
    """One of several kinds of thing from plain data, known by its ``kind``.

    Raises
    ------
    InvalidInput
        With every faulty field named, behind `field`; the kind is left out of the path.
    """
    try:
        return adapter.validate_python(raw)
    except ValidationError as error:
        kind = raw.get("kind") if isinstance(raw, dict) else None

        def path(each: Problem) -> str:
            inside = each.field.removeprefix(f"{kind}.")
            return field if inside == kind else f"{field}.{inside}"

        raise InvalidInput(
            [Problem(path(each), each.message) for each in problems_of(error)]
        ) from None
