"""Which trials are worth running next: the ladder from settled oil to a winner's proof.

Everything is tried cheaply first. What is clearly no remedy stops on the two worst windows; what
may hold is run over all of them, and the least effort of those over whole laps from three starts.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from bilge_core.options.trial import Outcome, Rung

STOPS_AT = 0.3
"""Time in pressure dips [s] on the worst windows from which a remedy cannot hold (ours: three times
what two starts differ by)."""
MAY_HOLD = 0.1
"""Time in pressure dips [s] over the windows with which whole laps are worth running (ours: what
two starts differ by)."""
STARTS = 3
"""Of a provisional winner; a proof has five."""
PROOF_STARTS = 5
_PROOFS: tuple[Rung, ...] = ("grip", "less_oil", "hot")
_AT_ONCE = 2  # remedies run over whole laps at a time: the winner and the next (ours)


@dataclass(frozen=True)
class Trial:
    """A remedy on a rung, over one of the laps (the worst is 0), from one start."""

    candidate: str
    rung: Rung
    lap: int = 0
    seed: int = 0


@dataclass(frozen=True)
class Failed:
    """A trial that could not be run, and why."""

    reason: str


@dataclass(frozen=True)
class Entry:
    """What the ladder must know of a remedy.

    key : str
    effort : to rank by, the least first
    same_pan : pan and pickup are as they were, so that the stored record may do
    has_plates : settled oil does not feel those
    may_win : its room is no worse than what is wanted
    """

    key: str
    effort: float
    same_pan: bool
    has_plates: bool
    may_win: bool


Results = Mapping[Trial, Outcome | Failed]


def _got(results: Results, trial: Trial) -> Outcome | None:
    found = results.get(trial)
    return found if isinstance(found, Outcome) else None


def is_out(entry: Entry, results: Results) -> bool:
    """Whether settled oil throws a remedy out: no plates, and no better than the build as it is.

    Moving dry time was never less than settled, and settled oil orders pans without plates well
    (docs/options.md); it never accepts.
    """
    own = _got(results, Trial(entry.key, "settled"))
    base = _got(results, Trial(BASE, "settled"))
    if entry.has_plates or entry.same_pan or own is None or base is None:
        return False
    return own.dry > base.dry + MAY_HOLD


BASE = "base"
"""The key of the build as it is."""


def windows_outcome(key: str, results: Results) -> Outcome | None:
    """What a remedy gave on all of the worst lap: its windows, or the stored record."""
    return _got(results, Trial(key, "windows")) or _got(results, Trial(key, "record"))


def may_hold(entry: Entry, results: Results) -> bool:
    """Whether whole laps are worth running: room, and hardly a pressure dip over the windows."""
    found = windows_outcome(entry.key, results)
    return entry.may_win and found is not None and (found.under or 0.0) <= MAY_HOLD


def starts_of(key: str, results: Results) -> list[Outcome]:
    """What whole laps over the worst lap gave, as it is."""
    found = (_got(results, Trial(key, "lap", 0, seed)) for seed in range(PROOF_STARTS))
    return [each for each in found if each is not None]


def holds(key: str, results: Results, laps: int = 1) -> bool | None:
    """Whether a remedy keeps its pressure: from every start, on every lap run so far.

    None: not known yet, fewer than three starts were run.
    """
    others = (_got(results, Trial(key, "lap", lap)) for lap in range(1, laps))
    found = [*starts_of(key, results), *(each for each in others if each is not None)]
    if any(each.under for each in found):
        return False
    return True if len(starts_of(key, results)) >= STARTS else None


def winner(entries: Sequence[Entry], results: Results, laps: int = 1) -> str | None:
    """The remedy of least effort that holds; None: none is known to, yet."""
    ordered = sorted(entries, key=lambda each: each.effort)
    found = (e.key for e in ordered if e.may_win and holds(e.key, results, laps))
    return next(found, None)


def next_trials(entries: Sequence[Entry], results: Results, laps: int = 1) -> tuple[Trial, ...]:
    """What is worth running now, the most worth first; nothing: the ladder has been climbed.

    Parameters
    ----------
    entries : sequence of Entry
        Without the build as it is.
    results : mapping from Trial to Outcome or Failed
        Of all that was run so far.
    laps : int
        That the build is judged by.

    Returns
    -------
    tuple of Trial
        All may be run at the same time.

    Examples
    --------
    >>> entry = Entry("oil", 30.0, same_pan=True, has_plates=False, may_win=True)
    >>> [each.rung for each in next_trials([entry], {})]
    ['settled', 'settled']
    >>> dry = Outcome(1.0, 0.9, 0.4, 1e5, 2, 3, 2, 4e-3, 1.1)
    >>> sure = {Trial("base", "settled"): dry, Trial("oil", "settled"): dry,
    ...         Trial("oil", "record"): Failed("the pan feels it"), Trial("oil", "worst"): dry}
    >>> next_trials([entry], sure)
    ()
    """
    ordered = sorted(entries, key=lambda each: each.effort)
    wanted = [t for key in (BASE, *(e.key for e in ordered)) for t in [Trial(key, "settled")]]
    missing = [trial for trial in wanted if trial not in results]
    if missing:
        return tuple(missing)
    first: list[Trial] = []
    rest: list[Trial] = []
    for entry in ordered:
        trial = _climb(entry, results)
        if trial is not None:
            (first if trial.rung in ("record", "worst") else rest).append(trial)
    if first or rest:
        return (*first, *rest)
    return _whole_laps(ordered, results, laps)


def _climb(entry: Entry, results: Results) -> Trial | None:
    """The next rung of one remedy below whole laps."""
    settled = results.get(Trial(entry.key, "settled"))
    if isinstance(settled, Failed) or is_out(entry, results):
        return None
    if entry.same_pan:
        record = Trial(entry.key, "record")
        if record not in results:
            return record
        if isinstance(results[record], Outcome):
            return None
    worst = Trial(entry.key, "worst")
    if worst not in results:
        return worst
    found = _got(results, worst)
    whole = Trial(entry.key, "windows")
    if found is None or (found.under or 0.0) > STOPS_AT or whole in results:
        return None
    return whole


def _whole_laps(ordered: Sequence[Entry], results: Results, laps: int) -> tuple[Trial, ...]:
    """Starts of those that may hold, the least effort first; then the winner's proof."""
    wanted: list[Trial] = []
    running = 0
    for entry in ordered:
        if not may_hold(entry, results) or holds(entry.key, results, laps) is False:
            continue
        missing = _missing(entry.key, results, STARTS)
        wanted += missing
        running += 1
        if running == _AT_ONCE:
            break
    if wanted:
        return tuple(wanted)
    best = winner(ordered, results, laps)
    if best is None:
        return ()
    others = [Trial(best, "lap", lap) for lap in range(1, laps)]
    proofs = [*others, *_missing(best, results, PROOF_STARTS), *(Trial(best, r) for r in _PROOFS)]
    return tuple(trial for trial in proofs if trial not in results)


def _missing(key: str, results: Results, starts: int) -> list[Trial]:
    trials = (Trial(key, "lap", 0, seed) for seed in range(starts))
    return [trial for trial in trials if trial not in results]


def is_proved(key: str, results: Results, laps: int) -> bool:
    """Whether all of a remedy's proof has been run."""
    proof = [
        *(Trial(key, "lap", 0, seed) for seed in range(PROOF_STARTS)),
        *(Trial(key, "lap", lap) for lap in range(1, laps)),
        *(Trial(key, rung) for rung in _PROOFS),
    ]
    return all(trial in results for trial in proof)
