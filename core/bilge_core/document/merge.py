"""Two people's edits of one document, laid on top of each other."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from bilge_core.document.ids import Document, are_parts

Side = Literal["mine", "theirs"]


@dataclass(frozen=True)
class Merged:
    """A document with two edits in it, and the paths that both of them changed otherwise.

    Where `at_odds` is not empty, the document has the preferred one's values there.
    """

    document: Document
    at_odds: tuple[str, ...]


def _of_one_kind(*values: Any) -> bool:
    """Whether parts can be compared field by field: a ramp's fields are not a flat floor's."""
    return all(isinstance(value, dict) for value in values) and (
        len({value.get("kind") for value in values}) == 1
    )


class _Merge:
    """One merge under way, gathering what is at odds."""

    def __init__(self, prefer: Side) -> None:
        self.at_odds: list[str] = []
        self.prefer = prefer

    def value(self, base: Any, mine: Any, theirs: Any, path: str) -> Any:
        if mine in (base, theirs):
            return theirs
        if theirs == base:
            return mine
        if _of_one_kind(base, mine, theirs):
            return self._fields(base, mine, theirs, path)
        if all(are_parts(each) for each in (base, mine, theirs)):
            return self._parts(base, mine, theirs, path)
        self.at_odds.append(path)
        return theirs if self.prefer == "theirs" else mine

    def _fields(self, base: Document, mine: Document, theirs: Document, path: str) -> Document:
        return {
            key: self.value(base.get(key), mine.get(key), theirs.get(key), f"{path}.{key}")
            for key in {**theirs, **mine}
        }

    def _parts(
        self, base: list[Document], mine: list[Document], theirs: list[Document], path: str
    ) -> list[Document]:
        """By id: theirs in their order, each new one of mine behind the one it stands behind."""
        was, here, there = ({part["id"]: part for part in parts} for parts in (base, mine, theirs))
        kept = []
        for name, part in there.items():
            if name in here:
                kept.append(self.value(was.get(name), here[name], part, f"{path}.{name}"))
            elif name not in was:
                kept.append(part)
            elif part != was[name]:  # taken away here, changed there
                self.at_odds.append(f"{path}.{name}")
                kept.append(part)
        for name, part in here.items():
            if name in was and name not in there and part != was[name]:
                self.at_odds.append(f"{path}.{name}")  # changed here, taken away there
        behind = None
        for part in mine:
            if part["id"] not in was:
                places = [each["id"] for each in kept]
                at = places.index(behind) + 1 if behind in places else len(places)
                kept.insert(at, part)
            behind = part["id"]
        return kept


def merged(base: Document, mine: Document, theirs: Document, prefer: Side = "theirs") -> Merged:
    """An edit of an older state, laid on top of what came in between.

    Parameters
    ----------
    base : dict
        The document that both edits began from.
    mine : dict
        It, as the edit made it.
    theirs : dict
        It, as it stands now.
    prefer : mine or theirs
        Whose value stands in the document where both changed one figure.

    Returns
    -------
    Merged

    Notes
    -----
    Field by field, parts of a list by their ids. Lists without ids (outlines, points) are one
    value. What only one side changed is taken from it; what both changed alike stays.

    Examples
    --------
    >>> base = {"oil": {"volume_l": 6, "away_l": 1}, "zones": [{"id": "z1", "depth": 90}]}
    >>> mine = {"oil": {"volume_l": 7, "away_l": 1}, "zones": base["zones"]}
    >>> theirs = {"oil": {"volume_l": 6, "away_l": 2}, "zones": [{"id": "z1", "depth": 95}]}
    >>> merged(base, mine, theirs).document
    {'oil': {'volume_l': 7, 'away_l': 2}, 'zones': [{'id': 'z1', 'depth': 95}]}
    >>> merged(base, mine, {"oil": {"volume_l": 8, "away_l": 1}, "zones": []}).at_odds
    ('oil.volume_l',)
    """
    merge = _Merge(prefer)
    document = merge.value(base, mine, theirs, "")
    return Merged(document, tuple(path.lstrip(".") for path in merge.at_odds))
