"""Two or three remedies together, where no single one holds."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import combinations

from bilge_core.document.build import Build
from bilge_core.options.candidate import Act, Candidate, candidate
from bilge_core.options.ladder import Results, Trial, windows_outcome
from bilge_core.options.trial import Outcome

_BEST = 5  # singles that are put together (ours)
_MOST = 8  # pairs, and as many triples (ours)


def _gain(key: str, results: Results) -> float:
    """How badly a single remedy did: time in pressure dips, else dry time [s]; unknown: last."""
    found = windows_outcome(key, results) or results.get(Trial(key, "worst"))
    if not isinstance(found, Outcome):
        return float("inf")
    return (found.under or 0.0) + 0.1 * found.dry


def joined_acts(base: Build, parts: Sequence[Candidate]) -> list[Act]:
    """The acts of some remedies one after the other, their oil added up.

    Each remedy's own filling counts from the build as it is; together they count from one another.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.options.remedies import remedies
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> found = {each.key: each for each in remedies(build)}
    >>> joined_acts(build, [found["oil_1"], found["gates_3"]])
    [{'kind': 'fit_gates'}, {'kind': 'refill', 'to_l': 7.2}]
    """
    acts: list[Act] = []
    more = 0.0
    for part in parts:
        for act in part.acts:
            if act["kind"] == "refill":
                more += float(act["to_l"]) - base.oil.volume_l
            else:
                acts.append(act)
    if not more:
        return acts
    bare = candidate(base, "", "", "together", acts)
    there = base.oil.volume_l if bare.build is None else bare.build.oil.volume_l
    return [*acts, {"kind": "refill", "to_l": round(there + more, 2)}]


def together(
    base: Build, singles: Sequence[Candidate], results: Results, count: int = 2
) -> tuple[Candidate, ...]:
    """The best of the single remedies in twos or threes, none of one group with another of it.

    Parameters
    ----------
    base : Build
    singles : sequence of Candidate
    results : mapping from Trial to Outcome or Failed
    count : int
        Two or three.

    Returns
    -------
    tuple of Candidate
        The most promising first.
    """
    best: dict[str, Candidate] = {}
    tried = [each for each in singles if each.applies and each.told and not each.parts]
    for each in sorted(tried, key=lambda each: _gain(each.key, results)):
        if _gain(each.key, results) < float("inf"):
            best.setdefault(each.group, each)
    chosen = list(best.values())[:_BEST]
    sets = sorted(
        combinations(chosen, count),
        key=lambda parts: sum(_gain(each.key, results) for each in parts),
    )
    made = []
    for parts in sets[:_MOST]:
        key = "+".join(each.key for each in parts)
        title = ", with ".join([parts[0].title, *(_lowered(each.title) for each in parts[1:])])
        notes = " ".join(each.note for each in parts if each.note)
        acts = joined_acts(base, parts)
        keys = tuple(each.key for each in parts)
        made.append(candidate(base, key, title, "together", acts, notes, parts=keys))
    return tuple(each for each in made if each.applies)


def _lowered(title: str) -> str:
    """A title in the middle of another.

    >>> _lowered("Plates and gates"), _lowered("0.5 L over")
    ('plates and gates', '0.5 L over')
    """
    return title[:1].lower() + title[1:]
