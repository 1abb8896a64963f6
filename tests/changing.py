"""Every field of a document given another value, one by one or many at once, for tests."""

from __future__ import annotations

import copy
from collections import Counter
from collections.abc import Iterator
from typing import Any

from bilge_core.document.build import Build
from bilge_core.document.circuit.kinds import CLASSES
from bilge_core.document.ids import ids_of
from bilge_core.document.read import build_from
from bilge_core.errors import BilgeError
from bilge_core.pan import assemble_pan

Document = dict[str, Any]
Path = tuple[str, ...]


def leaves(value: Any, path: Path = ()) -> Iterator[tuple[Path, Any]]:
    if isinstance(value, dict):
        for key, part in value.items():
            yield from leaves(part, (*path, key))
    elif isinstance(value, list):
        for at, part in enumerate(value):
            yield from leaves(part, (*path, str(at)))
    else:
        yield path, value


def words_of_the_schema() -> list[str]:
    """Every word that a field may have to be."""
    found: set[str] = set()

    def look(part: Any) -> None:
        if isinstance(part, dict):
            found.update(word for word in part.get("enum", []) if isinstance(word, str))
            for each in part.values():
                look(each)
        elif isinstance(part, list):
            for each in part:
                look(each)

    look(Build.model_json_schema())
    return sorted(found)


WORDS = words_of_the_schema()
PORTS = sorted({port.key for kind in CLASSES.values() for port in kind.PORTS})


def others(value: Any, document: Document) -> list[Any]:
    """Values that a field might have instead."""
    if isinstance(value, bool):
        return [not value]
    if isinstance(value, float):
        return [value + 1.5, value - 1.5, value + 0.2, value - 0.2, value * 1.02]
    if isinstance(value, str):
        lists = (WORDS, PORTS, list(ids_of(document)))
        of_its_kind = [word for words in lists if value in words or not value for word in words]
        return [*of_its_kind, "10W-60", "another", "hgfedcba21", "q97"]
    if value is None:
        return ["another", 1.0, 12, *WORDS]
    if isinstance(value, int) and not isinstance(value, bool):
        return [value + 1, value - 1, value + 2]
    return [1.0]


WORKED: dict[Path, Any] = {}
"""By kind of field the value that was taken last: it is tried first in the next of that kind."""


ROOM = ("car", "oil", "pan", "pickup")
"""What may leave no room for oil or mouth; a field of the circuit that would is seen by what
answers, and asking costs a third of a second each."""


FAILED: Counter[Path] = Counter()
"""By kind of field how often no other value was found; twice is enough."""


def in_turn(path: Path, value: Any, document: Document) -> list[Any]:
    """Values that a field might have instead, the likeliest first."""
    if path[-1] == "kind" or FAILED[kind_of(path)] >= 2:
        return []
    found = others(value, document)
    likely = WORKED.get(kind_of(path))
    return [likely, *found] if any(each is likely or each == likely for each in found) else found


def with_other(document: Document, path: Path) -> Document | None:
    """The document with another value at a place, as it would be stored; None if there is none."""
    *keys, last = path
    changed = copy.deepcopy(document)
    holder: Any = changed
    for key in keys:
        holder = holder[int(key)] if isinstance(holder, list) else holder[key]
    place = int(last) if isinstance(holder, list) else last
    for value in in_turn(path, holder[place], document):
        holder[place] = value
        try:
            build = build_from(changed)
            if path[0] in ROOM:
                assemble_pan(build)
        except BilgeError:
            continue
        plain = build.model_dump(mode="json")
        if plain != document:
            WORKED[kind_of(path)] = value
            return plain
    FAILED[kind_of(path)] += 1
    return None


def kind_of(path: Path) -> Path:
    return tuple("*" if key.isdigit() else key for key in path)


def placed(document: Document, values: dict[Path, Any]) -> Document | None:
    """A document with values at some of its places, as it would be stored; None if it is wrong."""
    changed = copy.deepcopy(document)
    for (*keys, last), value in values.items():
        holder: Any = changed
        for key in keys:
            holder = holder[int(key)] if isinstance(holder, list) else holder[key]
        holder[int(last) if isinstance(holder, list) else last] = value
    try:
        return build_from(changed).model_dump(mode="json")
    except BilgeError:
        return None
