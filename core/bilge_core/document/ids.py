"""Short ids of a document's parts: given once, kept for good, never used twice.

Whatever refers to a part (an edit, a check, a photo) names it by its id; a number in a list would
mean another part after the next edit. The numbers run on over all kinds.
"""

from __future__ import annotations

import hashlib
import json
import re
from collections.abc import Callable, Collection, Iterator
from typing import Annotated, Any

from pydantic import Field

Document = dict[str, Any]

Id = Annotated[
    str,
    Field(
        pattern=r"^([a-z][0-9]{1,7})?$",
        description="short and for good, given by the server; empty or left out: not given yet",
    ),
]


def are_parts(value: object) -> bool:
    """Whether plain data is a list of parts that have ids.

    Examples
    --------
    >>> are_parts([{"id": "z1"}]), are_parts([[0, 1]]), are_parts([])
    (True, False, True)
    """
    return isinstance(value, list) and all(
        isinstance(each, dict) and "id" in each for each in value
    )


LETTERS = {
    "car.keep_outs.*": "k",
    "pan.zones.*": "z",
    "pan.plates.*": "p",
    "pan.plates.*.openings.*": "o",
    "pan.plates.*.openings.*.gate": "g",
    "pan.bosses.*": "b",
    "pan.scrapers.*": "s",
    "circuit.components.*": "c",
    "circuit.runs.*": "r",
}
"""What has an id, and the letter that it begins with."""

REFERENCES = (
    "circuit.components.*.senses",
    "circuit.gauge",
    "circuit.runs.*.start.component",
    "circuit.runs.*.start.port",
    "circuit.runs.*.end.component",
    "circuit.runs.*.end.port",
)
"""Where a document names a part by its id; a port is a boss's id or a word."""

_ON_TRIAL = 1_000_000
"""Parts of builds on trial are numbered from here on (ours: the seventh digit, which no build that
counts one by one comes to)."""

_GIVEN = re.compile(r"[a-z][0-9]{1,7}")


def is_id(text: object) -> bool:
    """Whether a text is formed as an id is.

    Examples
    --------
    >>> is_id("p12"), is_id("12"), is_id("")
    (True, False, False)
    """
    return isinstance(text, str) and _GIVEN.fullmatch(text) is not None


def _below(value: Any, steps: list[str], path: str) -> Iterator[tuple[str, Document]]:
    if not steps:
        if isinstance(value, dict):
            yield path, value
    elif steps[0] == "*":
        for at, each in enumerate(value if isinstance(value, list) else []):
            yield from _below(each, steps[1:], f"{path}.{at}")
    elif isinstance(value, dict):
        yield from _below(value.get(steps[0]), steps[1:], f"{path}.{steps[0]}".lstrip("."))


def parts_with_ids(document: Document) -> Iterator[tuple[str, str, Document]]:
    """Path, letter and the part itself of everything that has an id, kind by kind.

    Examples
    --------
    >>> plates = [{"id": "p1", "openings": [{"id": "o2"}]}]
    >>> [(path, letter) for path, letter, _ in parts_with_ids({"pan": {"plates": plates}})]
    [('pan.plates.0', 'p'), ('pan.plates.0.openings.0', 'o')]
    """
    for pattern, letter in LETTERS.items():
        for path, part in _below(document, pattern.split("."), ""):
            yield path, letter, part


def ids_of(document: Document) -> dict[str, str]:
    """From each id to the path of its part; of two alike, the last.

    Examples
    --------
    >>> ids_of({"pan": {"zones": [{"id": "z4"}, {"id": "z2"}, {}]}})
    {'z4': 'pan.zones.0', 'z2': 'pan.zones.1'}
    """
    return {part["id"]: path for path, _, part in parts_with_ids(document) if part.get("id")}


def _mapped(value: Any, steps: list[str], change: Callable[[Any], Any]) -> Any:
    if not steps:
        return change(value)
    if steps[0] == "*":
        if not isinstance(value, list):
            return value
        return [_mapped(each, steps[1:], change) for each in value]
    if not isinstance(value, dict) or steps[0] not in value:
        return value
    return {**value, steps[0]: _mapped(value[steps[0]], steps[1:], change)}


def last_number(document: Document) -> int:
    """The greatest number of any id in a document; 0 when there is none.

    Examples
    --------
    >>> last_number({"pan": {"zones": [{"id": "z4"}, {"id": "z12"}]}})
    12
    """
    return _greatest(ids_of(document))


def _greatest(ids: Collection[str]) -> int:
    return max((int(each[1:]) for each in ids if is_id(each)), default=0)


def with_ids(
    document: Document, after: int = 0, known: Collection[str] | None = None
) -> tuple[Document, int]:
    """A document in which every part has an id of its own, and the last number given.

    Parameters
    ----------
    document : dict
        Plain data; what is not of a document's shape is left as it is.
    after : int
        New ids count on from here, or from the greatest number that stays where that is greater.
    known : collection of str, optional
        Ids that stay. Any other is taken for a new part's, made up elsewhere, and given anew. When
        left out, every well-formed id stays.

    Returns
    -------
    document : dict
    last : int
        What the next call counts on from.

    Notes
    -----
    Of two parts with one id the first keeps it: the other is a copy. What names a part by its id
    names it by the new one; of two with one id, the first.

    Examples
    --------
    >>> zones = [{"id": "z3"}, {"name": "new"}, {"id": "z3"}]
    >>> with_ids({"pan": {"zones": zones}}, after=7)
    ({'pan': {'zones': [{'id': 'z3'}, {'name': 'new', 'id': 'z8'}, {'id': 'z9'}]}}, 9)
    >>> with_ids({"pan": {"zones": zones}}, after=7, known=[])[0]["pan"]["zones"][0]
    {'id': 'z8'}
    """
    seen: set[str] = set()
    now: dict[str, str] = {}
    staying = ids_of(document) if known is None else known
    last = max(after, _greatest(staying))

    def given(letter: str) -> Callable[[Any], Any]:
        def change(part: Any) -> Any:
            nonlocal last
            if not isinstance(part, dict):
                return part
            old = part.get("id")
            new = str(old)
            if not is_id(old) or old in seen or (known is not None and old not in known):
                last += 1
                new = f"{letter}{last}"
            seen.add(new)
            if is_id(old):
                now.setdefault(str(old), new)
            return {**part, "id": new}

        return change

    for pattern, letter in LETTERS.items():
        document = _mapped(document, pattern.split("."), given(letter))
    for pattern in REFERENCES:
        document = _mapped(
            document,
            pattern.split("."),
            lambda named: now.get(named, named) if isinstance(named, str) else named,
        )
    return document, last


def with_ids_of_a_trial(document: Document, known: Collection[str], acts: object) -> Document:
    """A document on trial: parts that it has besides those known are numbered from its acts.

    The same acts on the same build give the same ids, other acts others, and no build that counts
    its own parts comes to such a number: what is said of a part on trial is said of no real one.

    Parameters
    ----------
    document : dict
    known : collection of str
        Ids of the build that it is tried on; they stay.
    acts : plain data
        What was done to it, in order.

    Examples
    --------
    >>> pan = {"pan": {"zones": [{"id": "z3"}, {"id": "z4"}]}}
    >>> told = with_ids_of_a_trial(pan, {"z3"}, [{"kind": "kick_outs"}])
    >>> told["pan"]["zones"]
    [{'id': 'z3'}, {'id': 'z7767018'}]
    >>> with_ids_of_a_trial(pan, {"z3"}, [{"kind": "refill"}]) == told
    False
    """
    plain = json.dumps(acts, sort_keys=True, default=str).encode()
    number = int.from_bytes(hashlib.sha256(plain).digest()[:4])
    return with_ids(document, _ON_TRIAL + number % (8 * _ON_TRIAL), known)[0]


def with_ids_by_place(document: Document) -> Document:
    """A document whose ids count its parts, kind by kind: two that are the same work are alike.

    Examples
    --------
    >>> pan = {"zones": [{"id": "z7"}], "bosses": [{"id": "b3"}]}
    >>> runs = [{"id": "r9", "end": {"component": "c2", "port": "b3"}}]
    >>> told = with_ids_by_place({"pan": pan, "circuit": {"components": [], "runs": runs}})
    >>> told["pan"]["bosses"][0]["id"], told["circuit"]["runs"][0]["end"]["port"]
    ('b2', 'b2')
    """
    return with_ids(document, known=())[0]


def without_ids(value: Any) -> Any:
    """Plain data without its ids, however deep they lie: two that are the same work are alike.

    Examples
    --------
    >>> without_ids({"pan": {"zones": [{"id": "z3", "name": "sump"}]}})
    {'pan': {'zones': [{'name': 'sump'}]}}
    """
    if isinstance(value, list):
        return [without_ids(each) for each in value]
    if isinstance(value, dict):
        return {key: without_ids(each) for key, each in value.items() if key != "id"}
    return value
