"""Parts of a build by their ids: what they are called, and what of them is work."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from bilge_core.document.build import Build
from bilge_core.document.ids import Document
from bilge_core.document.marks import OF_COMPONENTS
from bilge_core.lines.ports import is_through_a_wall

MADE = ("hose", "hard_line")
"""Kinds of line that are made up."""

_LABELS = frozenset({"name", *OF_COMPONENTS})


def gates_of(plate: Document) -> Iterator[Document]:
    """Gates of a plate as plain data, each with a name to call it by.

    Examples
    --------
    >>> openings = [{"name": "right gate", "gate": {"id": "g1"}}, {"name": "slot", "gate": None},
    ...             {"name": "mouth", "gate": {"id": "g2"}}]
    >>> [each["name"] for each in gates_of({"name": "rear wall", "openings": openings})]
    ['right gate of rear wall', 'gate in mouth of rear wall']
    """
    for opening in plate["openings"]:
        if opening.get("gate"):
            name = opening["name"]
            called = name if "gate" in name else f"gate in {name}"
            yield {"name": f"{called} of {plate['name']}", **opening["gate"]}


def untold_entries(document: Document) -> Iterator[Document]:
    """Lines that come in through the pan's wall at no boss: that they do is told, not where."""
    kinds = {each["id"]: each["kind"] for each in document["circuit"]["components"]}
    for run in document["circuit"]["runs"]:
        end, is_made = run["end"], run["line"]["kind"] in MADE
        through = is_through_a_wall(kinds[end["component"]], run["service"])
        if is_made and end["port"] == "returns" and through:
            yield run


def _rows(document: Document) -> Iterator[Document]:
    pan, circuit = document["pan"], document["circuit"]
    for plate in pan["plates"]:
        yield plate
        yield from gates_of(plate)
    for rows in (
        pan["zones"], pan["bosses"], pan["scrapers"], circuit["components"], circuit["runs"],
    ):  # fmt: skip
        yield from rows


def parts_of(build: Build) -> dict[str, Document]:
    """All that a step can be done to, by its id, as plain data with a name.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> parts_of(build)["b8"]["name"]
    'drain plug'
    """
    document = build.model_dump(mode="json")
    return {row["id"]: row for row in _rows(document) if row.get("id")}


def _made_of(row: Document) -> Any:
    """What of a part a hand makes: names and what is known of it left out.

    Of a plate its own shape and holes; its gates are parts of their own.
    """
    plain = {key: value for key, value in row.items() if key not in _LABELS}
    if "openings" in plain:
        plain["openings"] = [
            {key: value for key, value in hole.items() if key not in {"gate", "name"}}
            for hole in plain["openings"]
        ]
    return plain


def is_drawn_otherwise(before: Build, after: Build, part: str) -> bool:
    """Whether a part is another piece of work in one build than in the other.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> is_drawn_otherwise(build, build, "b8")
    False
    """
    was, now = parts_of(before).get(part), parts_of(after).get(part)
    if was is None or now is None:
        return False
    return bool(_made_of(was) != _made_of(now))
