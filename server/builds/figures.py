"""Changing single figures of a document by their path, typed with any unit."""

from __future__ import annotations

import copy
from typing import Any

from bilge_core.document.ids import is_id
from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.quantities import KINDS, field_unit, parse_figure

from builds.schemas import FigureIn

Document = dict[str, Any]


def _key(holder: Any, key: str) -> int | str:
    """Where a step of a path leads: in a list of parts by id, in others by place."""
    if not isinstance(holder, list):
        return key
    if is_id(key):
        return next(at for at, part in enumerate(holder) if part["id"] == key)
    return int(key)


def _step(holder: Any, key: str, field: str) -> Any:
    try:
        return holder[_key(holder, key)]
    except (KeyError, IndexError, ValueError, TypeError, StopIteration):
        raise InvalidInput([Problem(field, "is not a field of this build")]) from None


def _read(typed: str, field: str, old: Any, system: str) -> Any:
    unit = field_unit(_unit_key(field))
    if unit is None or isinstance(old, str):
        return typed.strip()
    return _figure(typed, field, *unit, system)


def read_length(typed: str, field: str, system: str) -> float:
    """A length [mm] as typed, with any unit; bare in the system's own.

    Raises
    ------
    InvalidInput
        Naming the field.
    """
    return _figure(typed, field, "length", "mm", system)


def _figure(typed: str, field: str, kind: str, stored: str, system: str) -> float:
    shown = KINDS[kind].metric if system == "metric" else KINDS[kind].us
    try:
        return round(parse_figure(typed, kind, shown, stored), 6)
    except InvalidQuantity as error:
        if error.name == "unit":
            message = f"{error.value} is no unit of a {kind}; it must be {error.requirement}"
        else:
            message = f"{error.value} cannot be read; it must be {error.requirement}"
        raise InvalidInput([Problem(field, message)]) from None


def _unit_key(field: str) -> str:
    """The part of a path that names the unit: the last that is no place in a list and no id."""
    keys = reversed(field.split("."))
    return next(key for key in keys if not (key.isdigit() or is_id(key)))


def with_figures(document: Document, figures: list[FigureIn], system: str) -> Document:
    """A copy of a document with figures replaced; lengths typed bare are in the system's unit.

    Raises
    ------
    InvalidInput
        Naming each field whose text is no figure, or that does not exist.
    """
    changed = copy.deepcopy(document)
    problems: list[Problem] = []
    for figure in figures:
        keys = figure.field.split(".")
        if _unit_key(figure.field) in {"format", "version", "kind", "id"}:
            raise InvalidInput([Problem(figure.field, "cannot be changed this way")])
        holder: Any = changed
        for key in keys[:-1]:
            holder = _step(holder, key, figure.field)
        old = _step(holder, keys[-1], figure.field)
        try:
            new = _read(figure.typed, figure.field, old, system)
        except InvalidInput as error:
            problems += error.problems
            continue
        holder[_key(holder, keys[-1])] = new
    if problems:
        raise InvalidInput(problems)
    return changed


_WORDS = {
    "oil.volume_l": "oil in the engine",
    "oil.away_l": "oil away from the pan",
    "oil.temperature_c": "oil temperature",
    "oil.grade": "oil grade",
    "pickup.gap_mm": "mouth's gap",
    "pickup.x_mm": "mouth's place",
    "pickup.y_mm": "mouth's place",
    "pan.skirt_height_mm": "skirt's height",
    "car.lean_right_deg": "lean",
    "car.nose_up_deg": "rake",
    "name": "name",
    "notes": "notes",
}


def change_words(document: Document, figures: list[FigureIn]) -> str:
    """What an edit did, for the undo button."""
    field = figures[0].field
    keys = field.split(".")
    if keys[:2] == ["pan", "zones"] and len(keys) > 3:
        zones = document["pan"]["zones"]
        name = str(_step(zones, keys[2], field)["name"])
        words = f"{name}: {_unit_key(field).rsplit('_', 1)[0].replace('_', ' ')}"
    else:
        words = _WORDS.get(field, _unit_key(field).rsplit("_", 1)[0].replace("_", " "))
    return f"{words} to {figures[-1].typed.strip()}"[:200]
