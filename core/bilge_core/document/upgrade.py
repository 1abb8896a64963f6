"""Documents of older versions, read as today's: a chain of steps, one for each version."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from bilge_core.document.ids import Document, with_ids, without_ids
from bilge_core.document.problems import VERSION
from bilge_core.document.version_2 import circuit_of_2

__all__ = ["VERSION", "upgraded", "with_ids_of"]


def _to_2(document: Document) -> Document:
    """Version 2 gave every part an id; those that read it fill in what is missing."""
    return {**document, "version": 2}


def _to_3(document: Document) -> Document:
    """Version 3 made one circuit of pump, relief, pickup's tube and joint, and what holds oil."""
    return {**circuit_of_2(with_ids(document)[0]), "version": 3}


_STEPS: dict[int, Callable[[Document], Document]] = {1: _to_2, 2: _to_3}
"""From each version to the next."""


def upgraded(raw: Any) -> Any:
    """Plain data of any version as the newest one; what is no document is left as it is.

    Examples
    --------
    >>> upgraded({"format": "bilge-build", "version": 1})["version"]
    3
    >>> upgraded({"format": "bilge-build", "version": 99})["version"]
    99
    """
    if not isinstance(raw, dict):
        return raw
    document: Document = raw
    while type(version := document.get("version")) is int and version in _STEPS:
        document = _STEPS[version](document)
    return with_ids(document)[0]


def _pairs(before: list[Document], after: list[Document]) -> dict[int, int]:
    """Which part of `after` is which one of `before`, by places in the two lists.

    First those that are alike, then those of one kind and name, then, where as many are left on
    both sides, those in the same order.
    """
    pairs: dict[int, int] = {}

    def pair(same: Callable[[Document, Document], bool]) -> None:
        for at, part in enumerate(after):
            if at in pairs:
                continue
            free = (place for place in range(len(before)) if place not in pairs.values())
            found = next((place for place in free if same(before[place], part)), None)
            if found is not None:
                pairs[at] = found

    pair(lambda old, new: without_ids(old) == without_ids(new))
    pair(lambda old, new: (old.get("kind"), old["name"]) == (new.get("kind"), new["name"]))
    left = [place for place in range(len(before)) if place not in pairs.values()]
    new = [at for at in range(len(after)) if at not in pairs]
    if len(left) == len(new):
        pairs.update(zip(new, left, strict=True))
    return pairs


def _followed(before: list[Document], after: list[Document]) -> list[Document]:
    pairs = _pairs(before, after)
    return [
        _same_part(before[pairs[at]], part) if at in pairs else {**part, "id": ""}
        for at, part in enumerate(after)
    ]


def _same_part(before: Document, after: Document) -> Document:
    """A part with the ids of the state before, its openings and gate with theirs."""
    part = {**after, "id": before["id"]}
    if "openings" in after:
        part["openings"] = _followed(before.get("openings", []), after["openings"])
    if part.get("gate"):
        old = before["gate"]["id"] if before.get("gate") else ""
        part["gate"] = {**part["gate"], "id": old}
    return part


def with_ids_of(before: Document, after: Document, last: int) -> tuple[Document, int]:
    """A state whose parts have the ids that the state before it gave them.

    Parameters
    ----------
    before, after : dict
        Two states of one build; ids in the later one count for nothing.
    last : int
        New ids count on from here.

    Returns
    -------
    document : dict
    last : int

    Notes
    -----
    What is the same part in both is guessed, as documents of version 1 did not say: see `_pairs`.

    Examples
    --------
    >>> def pan(*names):
    ...     parts = [{"id": f"z{at}", "name": name} for at, name in enumerate(names, 1)]
    ...     return {"car": {}, "pan": {"zones": parts}}
    >>> later, last = with_ids_of(pan("sump", "shelf"), pan("shelf", "box"), 2)
    >>> later["pan"]["zones"], last
    ([{'id': 'z2', 'name': 'shelf'}, {'id': 'z1', 'name': 'box'}], 2)
    """
    followed = dict(after)
    for part, names in (
        ("car", ("keep_outs",)),
        ("pan", ("zones", "plates", "bosses", "scrapers")),
    ):
        lists = {
            name: _followed(before[part].get(name, []), after[part][name])
            for name in names
            if name in after[part]  # documents of before some lists were have none
        }
        followed[part] = {**after[part], **lists}
    return with_ids(followed, last)
