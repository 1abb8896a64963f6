"""What differs between two states, in words."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel

from bilge_core.acts.figures import called, named_in
from bilge_core.document.ids import Document, is_id
from bilge_core.document.marks import Difference, differences
from bilge_core.quantities import KINDS, UnitSystem, convert, field_unit


class DifferenceOut(BaseModel):
    """One difference: where, and in words."""

    field: str
    words: str


def _figure(value: float, field: str, system: UnitSystem) -> str:
    unit = field_unit(named_in(field))
    if unit is None:
        return f"{value:g}"
    kind, stored = unit
    shown = KINDS[kind].shown_in(system)
    return f"{round(convert(value, kind, stored, shown), 3):g} {shown}".strip()


def _shown(value: Any, field: str, system: UnitSystem) -> str:
    if value is None:
        return "none"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, int | float):
        return _figure(value, field, system)
    if isinstance(value, str):
        return value.replace("_", " ")
    return "another"


def _words(each: Difference, system: UnitSystem) -> str:
    last = each.path.rsplit(".", 1)[-1]
    if each.path.startswith("circuit.runs.") and last in ("component", "port"):
        return f"line, {each.part}: joined elsewhere"
    if is_id(last) or isinstance(each.was, dict) or isinstance(each.now, dict):
        what = each.part
        if not is_id(last):
            what = f"{each.part} ({last.replace('_', ' ')})" if each.part else called(each.path)
        if is_id(last) and each.path.startswith("circuit.runs."):
            what = f"line, {each.part}"  # often named as what it ends at
        if each.was is None:
            return f"{what}: new"
        return f"{what}: taken out" if each.now is None else f"{what}: another"
    figure = called(each.path)
    where = f"{each.part}, {figure}" if each.part else figure
    if isinstance(each.was, list) or isinstance(each.now, list):
        return f"{where}: changed"
    return (
        f"{where}: {_shown(each.was, each.path, system)} to {_shown(each.now, each.path, system)}"
    )


def differences_out(
    before: Document, after: Document, system: UnitSystem = "metric"
) -> list[DifferenceOut]:
    """What is to be built to get from one state to another, in words.

    Examples
    --------
    >>> before = {"pickup": {"gap_mm": 8.0}, "pan": {"plates": []}}
    >>> plates = [{"id": "p1", "name": "P1"}]
    >>> after = {"pickup": {"gap_mm": 9.5}, "pan": {"plates": plates}}
    >>> [each.words for each in differences_out(before, after)]
    ['P1: new', "mouth's gap: 8 mm to 9.5 mm"]
    >>> [each.words for each in differences_out({"drive": None}, {"drive": {"pump_teeth": 40}})]
    ['belt drive: new']
    >>> differences_out(before, after, "us")[1].words
    "mouth's gap: 0.315 in to 0.374 in"
    """
    told = {_words(d, system): d.path for d in reversed(differences(before, after))}
    return [DifferenceOut(field=path, words=words) for words, path in reversed(told.items())]
