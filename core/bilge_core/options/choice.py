"""What the trials say: a state for each remedy, the smallest that holds, and how sure that is."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from bilge_core.forecast.lying import Lying, together
from bilge_core.options.ladder import (
    MAY_HOLD,
    PROOF_STARTS,
    STARTS,
    Entry,
    Failed,
    Results,
    Trial,
    holds,
    is_out,
    is_proved,
    starts_of,
    windows_outcome,
    winner,
)
from bilge_core.options.trial import HOTTER, LESS_OIL, MORE_GRIP, BaseLap, Outcome, Rung
from bilge_core.rules.gallery import PRESSURE_DIP

SCATTER = 0.3
"""Dry time a lap [s] that two trials from one start each must differ by to be told apart.

Ours: three times the deviation between starts, 0.10 s a lap in a trial of seeds.
"""
_CLOSE = 0.03  # of the usual pressure: what starts differ by (ours)

State = Literal["holds", "may_hold", "does_not", "first_look", "failed", "waiting"]


@dataclass(frozen=True)
class Standing:
    """What is known of a remedy so far.

    state : State
    rung : that the figures come from; None: nothing was run
    dry : over the worst lap [s]; an estimate where only some windows were run
    is_estimate : whether it is one
    under : time in pressure dips [s]; None: not known
    lowest : pressure at the worst moment, over the air's [Pa]; None: not known
    share : of the usual pressure there
    starts : whole laps run from different starts
    mouth_dips : that the gallery does not feel, where it holds
    pan : oil in the pan as the lap begins [m3]; None: not known
    words : what it came to, from these figures alone
    lies : where its oil lies while the build as it is is driest; None: not known
    """

    state: State
    rung: Rung | None
    dry: float | None
    is_estimate: bool
    under: float | None
    lowest: float | None
    share: float | None
    starts: int
    mouth_dips: int
    pan: float | None
    words: str
    lies: Lying | None = None


_NOTHING = Standing("waiting", None, None, False, None, None, None, 0, 0, None, "Not run yet.")


def standing(entry: Entry, results: Results, base: BaseLap, laps: int = 1) -> Standing:
    """What is known of a remedy.

    Parameters
    ----------
    entry : Entry
    results : mapping from Trial to Outcome or Failed
    base : BaseLap
        The worst lap.
    laps : int
        That the build is judged by.

    Returns
    -------
    Standing
    """
    failed = next(
        (each for trial, each in results.items()
         if trial.candidate == entry.key and isinstance(each, Failed) and trial.rung != "record"),
        None,
    )  # fmt: skip
    whole = starts_of(entry.key, results)
    if whole:
        return _of_laps(entry, results, whole, laps)
    found = windows_outcome(entry.key, results)
    if found is not None:
        rung: Rung = "windows" if Trial(entry.key, "windows") in results else "record"
        keeps = (found.under or 0.0) <= MAY_HOLD
        return _told("may_hold" if keeps else "does_not", rung, found, base, False)
    worst = results.get(Trial(entry.key, "worst"))
    if isinstance(worst, Outcome):
        keeps = (worst.under or 0.0) <= MAY_HOLD
        return _told("first_look" if keeps else "does_not", "worst", worst, base, True)
    if failed is not None:
        return Standing("failed", None, None, False, None, None, None, 0, 0, None, failed.reason)
    settled = results.get(Trial(entry.key, "settled"))
    if isinstance(settled, Outcome):
        state: State = "does_not" if is_out(entry, results) else "first_look"
        return _told(state, "settled", settled, base, False)
    return _NOTHING


def _of_laps(entry: Entry, results: Results, whole: list[Outcome], laps: int) -> Standing:
    keeps = holds(entry.key, results, laps)
    worst = min(whole, key=lambda each: 1.0 if each.share is None else each.share)
    dry = sum(each.dry for each in whole) / len(whole)
    under = max(each.under or 0.0 for each in whole)
    state: State = "may_hold" if keeps is None else "holds" if keeps else "does_not"
    words = _lap_words(dry, under, worst.lowest, len(whole))
    return Standing(
        state, "lap", dry, False, under, worst.lowest, worst.share, len(whole),
        max(each.mouth_dips for each in whole) if not under else 0, whole[0].pan, words,
        together([each.lies for each in whole]),
    )  # fmt: skip


def _told(state: State, rung: Rung, found: Outcome, base: BaseLap, is_estimate: bool) -> Standing:
    dry = found.dry
    if is_estimate and found.base_dry > 0.0:
        dry = found.dry / found.base_dry * base.dry
    words = (
        f"Dry for {found.dry:.1f} s of a lap in settled oil, which knows no waves"
        if rung == "settled"
        else _lap_words(dry, found.under or 0.0, found.lowest, 1, found.windows)
    )
    if rung == "record":
        words = f"On the stored record, its pan unchanged: {_first_down(words)}"
    return Standing(
        state, rung, dry, is_estimate, found.under, found.lowest, found.share, 0,
        found.mouth_dips, found.pan, f"{words.rstrip('.')}.", found.lies,
    )  # fmt: skip


def _lap_words(
    dry: float, under: float, lowest: float | None, starts: int, windows: int | None = None
) -> str:
    """A sentence from the figures alone.

    >>> _lap_words(1.94, 0.0, 3.1e5, 3)
    'The gallery keeps at least 3.1 bar in 3 starts; the mouth is dry for 1.9 s a lap.'
    >>> _lap_words(6.2, 1.04, 1.8e5, 1, 2)
    'Without pressure for 1.0 s in the 2 worst windows, down to 1.8 bar; the mouth is dry for \
about 6.2 s a lap.'
    """
    about = "about " if windows else ""
    mouth = f"the mouth is dry for {about}{dry:.1f} s a lap" if dry >= 0.05 else "no dip at all"
    bar = "" if lowest is None else f"{lowest / 1e5:.1f} bar"
    if under > 0.0:
        worst = "in the worst window" if windows == 1 else f"in the {windows} worst windows"
        where = worst if windows else "a lap"
        return f"Without pressure for {under:.1f} s {where}, down to {bar}; {mouth}."
    often = f" in {starts} starts" if starts > 1 else ""
    return f"The gallery keeps at least {bar}{often}; {mouth}."


def _first_down(words: str) -> str:
    return words[:1].lower() + words[1:]


@dataclass(frozen=True)
class Proof:
    """One line of a winner's proof: what was varied, and what came of it."""

    key: str
    words: str
    keeps: bool
    share: float | None


@dataclass(frozen=True)
class Choice:
    """What is chosen.

    key : of the smallest that holds; None: none is known to
    is_provisional : its proof is not all run
    is_close : it holds by less than starts differ by, or a lesser one fails by as little
    words : the choice in a sentence, from its figures
    proofs : tuple of Proof
    margin : least of the usual pressure over all starts, less what a dip is [-]; None as key
    """

    key: str | None
    is_provisional: bool
    is_close: bool
    words: str
    proofs: tuple[Proof, ...]
    margin: float | None


_VARIED: dict[Rung, str] = {
    "grip": f"{MORE_GRIP - 1.0:.0%} more grip".replace("%", " %"),
    "less_oil": f"{LESS_OIL:g} L less oil",
    "hot": f"oil {HOTTER:.0f} °C hotter",
}


def choose(
    entries: Sequence[Entry],
    titles: Mapping[str, str],
    results: Results,
    laps: int = 1,
    is_over: bool = False,
) -> Choice:
    """The smallest remedy that holds.

    Parameters
    ----------
    entries : sequence of Entry
    titles : mapping from a key to its title
    results : mapping from Trial to Outcome or Failed
    laps : int
        That the build is judged by.
    is_over : bool
        Whether nothing more will be run.

    Returns
    -------
    Choice
        One that holds by less than starts differ by is told to be a close call.

    Examples
    --------
    >>> choose([], {}, {}, is_over=True).words
    'No remedy of the list holds.'
    """
    best = winner(entries, results, laps)
    if best is None:
        words = "No remedy of the list holds." if is_over else "None is known to hold yet."
        return Choice(None, not is_over, False, words, (), None)
    found = starts_of(best, results)
    share = min(1.0 if each.share is None else each.share for each in found)
    margin = share - PRESSURE_DIP.least
    proofs = _proofs(best, results, laps)
    lesser = _fails_by_little(best, entries, results)
    is_close = margin < _CLOSE or lesser is not None
    words = _choice_words(titles[best], found, share)
    if margin < _CLOSE:
        words += (
            f" That is a close call: a dip is told below {PRESSURE_DIP.least:.0%}, and starts "
            f"differ by {_CLOSE:.0%}."
        )
    elif lesser is not None:
        words += (
            f" A close call: {_first_down(titles[lesser])} takes less, and loses pressure in "
            "some starts only."
        )
    fails = [each.words for each in proofs if not each.keeps]
    if fails:
        words += f" It does not hold with {' or '.join(fails)}."
    return Choice(best, not is_proved(best, results, laps), is_close, words, proofs, margin)


def _choice_words(title: str, found: Sequence[Outcome], share: float) -> str:
    dry = sum(each.dry for each in found) / len(found)
    mouth = f"; the mouth still runs dry for {dry:.1f} s a lap" if dry >= 0.05 else ""
    return (
        f"{title} is the least that holds: in {len(found)} starts out of {len(found)} the gallery "
        f"keeps at least {share:.0%} of its usual pressure{mouth}."
    )


def _fails_by_little(best: str, entries: Sequence[Entry], results: Results) -> str | None:
    """A lesser remedy that fails in some of its starts only, by no more than starts differ by."""
    ordered = sorted(entries, key=lambda each: each.effort)
    for entry in ordered:
        if entry.key == best:
            return None
        found = starts_of(entry.key, results)
        fails = [each.under or 0.0 for each in found if each.under]
        if entry.may_win and found and fails and len(fails) < len(found) and max(fails) < SCATTER:
            return entry.key
    return None


def _proofs(key: str, results: Results, laps: int) -> tuple[Proof, ...]:
    proofs = []
    found = starts_of(key, results)
    if len(found) >= STARTS:
        keeps = sum(not each.under for each in found)
        share = min(1.0 if each.share is None else each.share for each in found)
        words = f"{keeps} of {len(found)} starts"
        if len(found) < PROOF_STARTS:
            words += f", {PROOF_STARTS} wanted"
        proofs.append(Proof("starts", words, keeps == len(found), share))
    for rung, words in _VARIED.items():
        one = results.get(Trial(key, rung))
        if isinstance(one, Outcome):
            proofs.append(Proof(rung, words, not one.under, one.share))
    for lap in range(1, laps):
        one = results.get(Trial(key, "lap", lap))
        if isinstance(one, Outcome):
            proofs.append(Proof(f"lap_{lap}", f"lap {lap + 1}", not one.under, one.share))
    return tuple(proofs)
