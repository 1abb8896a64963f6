"""What of a build is work and what is knowledge, each field marked once.

*Work* is what is built: it differs from state to state, and a job card is made from it. *Knowledge*
is what is known of the car and the engine whatever is built: it is the same in the state that is
planned and in the one that the car is in. A *label* is neither.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Literal

from bilge_core.document.ids import Document, are_parts
from bilge_core.document.merge import merged

Mark = Literal["work", "knowledge", "label"]

MARKS: dict[str, Mark] = {
    "format": "label",
    "version": "label",
    "name": "label",
    "notes": "label",
    "car": "knowledge",
    "oil.grade": "work",
    "oil.volume_l": "work",
    "oil.away_l": "knowledge",
    "oil.temperature_c": "knowledge",
    "oil.mark_l": "work",
    "pan.zones": "work",
    "pan.skirt_height_mm": "knowledge",
    "pan.plates": "work",
    "pan.spacer_mm": "work",
    "pan.bolt_length_mm": "knowledge",
    "pan.dip_marks": "work",
    "pan.sheet_mm": "work",
    "pan.made": "work",
    "pan.making": "label",
    "pan.flange": "work",
    "pan.bosses": "work",
    "pan.scrapers": "work",
    "pickup": "work",
    "circuit.components": "work",
    "circuit.runs": "work",
    "circuit.gauge": "work",
    "drive": "work",
    "learned": "knowledge",
}
"""Every field of the document, by itself or with the part that it lies in."""

OF_COMPONENTS: dict[str, Mark] = {
    "holds_l": "knowledge",
    "bearings": "knowledge",
    "jets": "knowledge",
    "blow_by_l_min": "knowledge",
    "assumed": "label",
}
"""Fields of a component or a run that are marked otherwise than the part that they are of."""

_PARTED = ("circuit.components", "circuit.runs")


def mark_of(field: str) -> Mark:
    """The mark of a field, by its path through places or ids.

    Examples
    --------
    >>> mark_of("circuit.components.c3.drive_ratio"), mark_of("circuit.components.3.holds_l")
    ('work', 'knowledge')
    """
    keys = field.split(".")
    if ".".join(keys[:2]) in _PARTED and len(keys) > 3 and keys[3] in OF_COMPONENTS:
        return OF_COMPONENTS[keys[3]]
    return next(mark for path, mark in MARKS.items() if f"{field}.".startswith(f"{path}."))


def _at(document: Document, path: str) -> Any:
    value: Any = document
    for key in path.split("."):
        value = value.get(key) if isinstance(value, dict) else None
    return value


def _as_marked(path: str, value: Any, mark: Mark) -> Any:
    """Of components and runs, what has a mark: work without the rest, or by its id the rest."""
    if path not in _PARTED or not are_parts(value):
        return value
    if mark == "work":
        return [{k: v for k, v in row.items() if k not in OF_COMPONENTS} for row in value]
    known = [key for key, given in OF_COMPONENTS.items() if given == mark]
    return {row["id"]: {key: row[key] for key in known if key in row} for row in value}


def _part(document: Document, mark: Mark) -> dict[str, Any]:
    return {
        path: _as_marked(path, _at(document, path), mark)
        for path, given in MARKS.items()
        if given == mark
    }


def _holds_apart(document: Document) -> bool:
    """Whether the oil away from the pan follows from what components hold."""
    parts = _at(document, "circuit.components") or []
    return any(each.get("holds_l") is not None for each in parts)


def with_knowledge(before: Document, mine: Document, into: Document) -> Document:
    """Another state of a build with what an edit changed of its knowledge, and nothing else of it.

    Parameters
    ----------
    before, mine : dict
        The state that was edited, and as the edit made it.
    into : dict
        The other state.

    Returns
    -------
    dict
        `into` itself where the edit changed no knowledge. Where it was known otherwise there, what
        the edit says holds.

    Examples
    --------
    >>> before = {"car": {"rail_height_mm": 200}, "oil": {"volume_l": 6}}
    >>> mine = {"car": {"rail_height_mm": 210}, "oil": {"volume_l": 7}}
    >>> with_knowledge(before, mine, {"car": {"rail_height_mm": 190}, "oil": {"volume_l": 5}})
    {'car': {'rail_height_mm': 210}, 'oil': {'volume_l': 5}}
    """
    was, now = _part(before, "knowledge"), _part(mine, "knowledge")
    changed = {path: now[path] for path in now if now[path] != was[path]}
    if _holds_apart(before) or _holds_apart(mine):
        changed.pop("oil.away_l", None)  # it follows from what each component holds
    into = _with_known_of_components(before, mine, into)
    for path, value in changed.items():
        base, theirs = was[path], _at(into, path)
        # the other state's own parts stay; where both differ, what was found out last is right
        both = merged({"it": base}, {"it": value}, {"it": theirs}, prefer="mine").document["it"]
        into = _put(into, path.split("."), both)
    return into


def _with_known_of_components(before: Document, mine: Document, into: Document) -> Document:
    """What an edit found out of components that were there, where they are in the other state."""
    for path in _PARTED:
        rows = _at(into, path)
        if not are_parts(rows) or not rows:
            continue
        was, now = (_as_marked(path, _at(each, path) or [], "knowledge") for each in (before, mine))
        found = {
            name: {key: value for key, value in now[name].items() if was[name].get(key) != value}
            for name in now
            if name in was
        }
        known = [{**row, **found.get(row["id"], {})} for row in rows]
        if known != rows:
            into = _put(into, path.split("."), known)
    return into


def _put(document: Document, keys: list[str], value: Any) -> Document:
    first, *rest = keys
    inner = _put(document.get(first) or {}, rest, value) if rest else value
    return {**document, first: inner}


@dataclass(frozen=True)
class Difference:
    """One thing that differs between two states.

    path : through lists of parts by id
    part : name of the part that it lies in, empty where it has none
    was, now : plain data; None where the part or figure is not there
    """

    path: str
    part: str
    was: Any
    now: Any


def _differing(was: Any, now: Any, path: str, part: str) -> Iterator[Difference]:
    if was == now:
        return
    if isinstance(was, dict) and isinstance(now, dict) and was.get("kind") == now.get("kind"):
        inside = str(now.get("name") or part)
        for key in {**was, **now}:
            yield from _differing(was.get(key), now.get(key), f"{path}.{key}", inside)
    elif are_parts(was) and are_parts(now):
        old, new = ({each["id"]: each for each in rows} for rows in (was, now))
        for name in {**old, **new}:
            named = str((new.get(name) or old[name]).get("name", part))
            yield from _differing(old.get(name), new.get(name), f"{path}.{name}", named)
    else:
        yield Difference(path, part, was, now)


def differences(before: Document, after: Document) -> tuple[Difference, ...]:
    """What is to be built to get from one state to another: differences of work alone.

    Parameters
    ----------
    before, after : dict
        Two states of one build, as `Build.model_dump(mode="json")` gives them.

    Returns
    -------
    tuple of Difference
        In the document's order. A part that is new or gone is one difference.

    Examples
    --------
    >>> def build(litres, *zones):
    ...     rows = [{"id": name, "name": "sump", "depth": depth} for name, depth in zones]
    ...     return {"oil": {"volume_l": litres, "away_l": 1}, "pan": {"zones": rows}}
    >>> for each in differences(build(6, ("z1", 90)), build(7, ("z1", 95), ("z2", 60))):
    ...     print(each.path, each.part, each.was, each.now is not None)
    oil.volume_l  6 True
    pan.zones.z1.depth sump 90 True
    pan.zones.z2 sump None True
    """
    was, now = _part(before, "work"), _part(after, "work")
    return tuple(each for path in now for each in _differing(was[path], now[path], path, ""))
