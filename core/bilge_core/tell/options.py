"""Remedies as everybody reads them: rows with what each buys and costs, and the choice."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, Literal

from pydantic import BaseModel

from bilge_core.forecast.lying import Lying
from bilge_core.job.operations import OPERATIONS
from bilge_core.options.candidate import Prices, Room
from bilge_core.options.choice import SCATTER, Proof, Standing, State, choose, standing
from bilge_core.options.ladder import Failed, Results, Trial
from bilge_core.options.prepared import Prepared
from bilge_core.options.schools import SCHOOLS
from bilge_core.options.trial import BaseLap, Outcome, Rung
from bilge_core.rules.gallery import PRESSURE_DIP
from bilge_core.tell.remedies import mm_if_known


class NeededPartOut(BaseModel):
    """A part that a remedy takes."""

    key: str
    words: str
    per: str
    count: float
    cost: float
    lead_days: int
    invented: bool


class NeededWorkOut(BaseModel):
    """A piece of work that it takes."""

    key: str
    words: str
    times: int
    hours: float
    source: str
    guessed: bool


class NeedsOut(BaseModel):
    """What a remedy takes: sums of its parts and operations."""

    cost: float
    hours: float
    lead_days: int
    weight_kg: float
    parts: list[NeededPartOut]
    operations: list[NeededWorkOut]


class StandingOut(BaseModel):
    """What is known of a remedy so far, and by which rung of the ladder."""

    state: State
    rung: Rung | None
    rung_words: str
    dry_s: float | None
    is_estimate: bool
    under_s: float | None
    lowest_bar: float | None
    share: float | None
    starts: int
    mouth_dips: int
    pan_l: float | None
    words: str
    lies: str
    """Where its oil lies at the moments that the build as it is runs dry; empty: not known."""


class OptionRowOut(BaseModel):
    """A remedy as a row."""

    key: str
    letter: str
    title: str
    group: str
    words: str
    note: str
    applies: bool
    reason: str
    told: bool
    worse: str
    needs: NeedsOut | None
    ground_mm: float | None
    ground_spare_mm: float | None
    crank_mm: float | None
    standing: StandingOut


class ProofOut(BaseModel):
    """A line of the winner's proof."""

    key: str
    words: str
    keeps: bool
    share: float | None


class ChoiceOut(BaseModel):
    """What is chosen, and how sure that is."""

    key: str | None
    is_provisional: bool
    is_close: bool
    words: str
    proofs: list[ProofOut]
    margin: float | None


class SchoolOut(BaseModel):
    """A question that the trade disagrees on, both ways with their figures."""

    question: str
    why: str
    default: str
    other: str
    default_title: str
    other_title: str
    default_words: str
    other_words: str


class OptionsOut(BaseModel):
    """The table of a study: rows by effort, the build as it is first."""

    base: StandingOut
    base_ground_mm: float | None
    base_ground_spare_mm: float | None
    rows: list[OptionRowOut]
    choice: ChoiceOut
    schools: list[SchoolOut]
    scatter_s: float
    """Dry time that two rows must differ by to be told apart."""
    dip_share: float
    """Of its usual pressure, below which the gallery's is told to dip."""
    tried: int
    to_try: int


RUNGS: dict[Rung, str] = {
    "settled": "settled oil",
    "record": "circuit on the stored record",
    "worst": "moving oil, worst windows",
    "windows": "moving oil, all windows",
    "lap": "moving oil, whole laps",
    "grip": "moving oil, more grip",
    "less_oil": "moving oil, less oil",
    "hot": "moving oil, hotter",
}
"""Rungs of the ladder as they are read."""


def lies_when(hand: str) -> str:
    """When all rows' oil is looked at, so that they can be compared.

    Examples
    --------
    >>> lies_when("left"), lies_when("")
    ('While the build as it is runs dry in left-handers', 'While the build as it is runs dry')
    """
    return f"While the build as it is runs dry{f' in {hand}-handers' if hand else ''}"


def _rounded(value: float | None, places: int) -> float | None:
    return None if value is None else round(value, places)


def _lies(found: Lying | None, base: BaseLap | None) -> str:
    if found is None or base is None:
        return ""
    own = base.lies
    beside = "" if own is None or own == found else f"; as it is, {own.near * 1e3:.1f} L are there"
    return f"{lies_when(base.hand)}: {found.words}{beside}."


def standing_out(found: Standing, base: BaseLap | None = None) -> StandingOut:
    """What is known of a remedy, as it is read; its oil beside that of `base`."""
    return StandingOut(
        state=found.state,
        rung=found.rung,
        rung_words="" if found.rung is None else RUNGS[found.rung],
        dry_s=_rounded(found.dry, 2),
        is_estimate=found.is_estimate,
        under_s=_rounded(found.under, 2),
        lowest_bar=None if found.lowest is None else round(found.lowest / 1e5, 2),
        share=_rounded(found.share, 3),
        starts=found.starts,
        mouth_dips=found.mouth_dips,
        pan_l=None if found.pan is None else round(found.pan * 1e3, 2),
        words=found.words,
        lies=_lies(found.lies, base),
    )


def base_standing(base: BaseLap) -> Standing:
    """The build as it is, by its own run."""
    state: State = "does_not" if base.under > 0.0 else "holds"
    words = (
        f"Without pressure for {base.under:.1f} s a lap; the mouth is dry for {base.dry:.1f} s."
        if base.under
        else f"Keeps its pressure; the mouth is dry for {base.dry:.1f} s a lap."
    )
    return Standing(
        state, "lap", base.dry, False, base.under, base.lowest, base.share, 1, 0, None, words,
        base.lies,
    )  # fmt: skip


def needs_out(one: Prepared, prices: Prices) -> NeedsOut | None:
    """What a remedy takes, at a workshop's prices and hours."""
    needs = one.needs(prices)
    if needs is None:
        return None
    parts = [
        NeededPartOut(
            key=key, words=paid.words, per=paid.per, count=count, cost=round(paid.cost * count, 2),
            lead_days=paid.lead_days, invented=key not in prices.parts,
        )
        for key, count in needs.work.parts
        for paid in [prices.part(key)]
    ]  # fmt: skip
    operations = [
        NeededWorkOut(
            key=key, words=OPERATIONS[key].words, times=times,
            hours=round(prices.hours_of(key) * times, 2), source=OPERATIONS[key].source,
            guessed=key not in prices.hours,
        )
        for key, times in needs.work.operations
    ]  # fmt: skip
    return NeedsOut(
        cost=needs.cost, hours=needs.hours, lead_days=needs.lead_days, weight_kg=needs.weight,
        parts=parts, operations=operations,
    )  # fmt: skip


def letter(number: int) -> str:
    """A row's letter, by its place among those that apply.

    Examples
    --------
    >>> letter(0), letter(25), letter(26)
    ('A', 'Z', 'AA')
    """
    first = "" if number < 26 else letter(number // 26 - 1)
    return first + chr(ord("A") + number % 26)


def options_out(
    offered: Sequence[Prepared],
    results: Results,
    base: BaseLap | None,
    room: Room,
    prices: Prices,
    laps: Sequence[str],
    is_over: bool = False,
) -> OptionsOut:
    """A study's table.

    Parameters
    ----------
    offered : sequence of Prepared
    results : mapping from Trial to Outcome or Failed
    base : BaseLap or None
        None: the build's own run is under way.
    room : Room
        That the build as it is leaves.
    prices : Prices
    laps : sequence of str
        Names of those that the build is judged by, the worst first.
    is_over : bool
        Whether nothing more will be run.
    """
    efforts = {one.candidate.key: one.entry(prices) for one in offered}
    entries = [entry for entry in efforts.values() if entry is not None]

    def rank(one: Prepared) -> tuple[int, float]:
        needs = one.needs(prices)
        entry = efforts[one.candidate.key]
        if needs is None:
            return 2, 0.0
        return (0, entry.effort) if entry is not None else (1, needs.cost)

    ordered = sorted(offered, key=rank)
    told: dict[str, Standing] = {}
    for each in entries:
        told[each.key] = _standing(each.key, efforts, results, base, len(laps))
    rows = [
        _row(one, number, told.get(one.candidate.key), base, prices)
        for number, one in enumerate(ordered)
    ]
    titles = {one.candidate.key: one.candidate.title for one in offered}
    made = choose(entries, titles, results, len(laps), is_over)
    done = sum(each.state in ("holds", "does_not", "failed") for each in told.values())
    return OptionsOut(
        base=standing_out(_WAITS if base is None else base_standing(base), base),
        base_ground_mm=mm_if_known(room.ground),
        base_ground_spare_mm=mm_if_known(room.ground_spare),
        rows=rows,
        choice=ChoiceOut(
            key=made.key, is_provisional=made.is_provisional, is_close=made.is_close,
            words=made.words, margin=_rounded(made.margin, 3),
            proofs=[_proof(each, laps) for each in made.proofs],
        ),
        schools=_schools(told, titles),
        scatter_s=SCATTER, dip_share=PRESSURE_DIP.least,
        tried=done if not is_over else len(told),
        to_try=len(told),
    )  # fmt: skip


_WAITS = Standing(
    "waiting", None, None, False, None, None, None, 0, 0, None, "Its own run is under way."
)
_UNTOLD = Standing(
    "waiting", None, None, False, None, None, None, 0, 0, None, "The model cannot tell."
)


def _standing(
    key: str,
    efforts: Mapping[str, Any],
    results: Results,
    base: BaseLap | None,
    laps: int,
) -> Standing:
    if base is not None:
        return standing(efforts[key], results, base, laps)
    settled = results.get(Trial(key, "settled"))
    if isinstance(settled, Outcome):
        words = f"Dry for {settled.dry:.1f} s of a lap in settled oil, which knows no waves."
        return Standing(
            "first_look", "settled", settled.dry, False, None, None, None, 0, 0, settled.pan, words
        )
    if isinstance(settled, Failed):
        return Standing("failed", None, None, False, None, None, None, 0, 0, None, settled.reason)
    return Standing("waiting", None, None, False, None, None, None, 0, 0, None, "Not run yet.")


def _row(
    one: Prepared, number: int, found: Standing | None, base: BaseLap | None, prices: Prices
) -> OptionRowOut:
    each = one.candidate
    room = one.room
    return OptionRowOut(
        key=each.key, letter=letter(number), title=each.title, group=each.group, words=each.words,
        note=each.note, applies=one.work is not None, reason=each.reason, told=each.told,
        worse=one.worse, needs=needs_out(one, prices),
        ground_mm=None if room is None else mm_if_known(room.ground),
        ground_spare_mm=None if room is None else mm_if_known(room.ground_spare),
        crank_mm=None if room is None else mm_if_known(room.crank),
        standing=standing_out(found or _UNTOLD, base),
    )  # fmt: skip


def _proof(proof: Proof, laps: Sequence[str]) -> ProofOut:
    """A line of the proof; that of another lap by its name."""
    words = proof.words
    if proof.key.startswith("lap_"):
        words = f"over {laps[int(proof.key.removeprefix('lap_'))]}"
    return ProofOut(key=proof.key, words=words, keeps=proof.keeps, share=proof.share)


def _schools(told: Mapping[str, Standing], titles: Mapping[str, str]) -> list[SchoolOut]:
    """Both sides of what the trade disagrees on, where both were tried."""
    return [
        SchoolOut(
            question=each.question, why=each.why, default=each.default, other=each.other,
            default_title=titles[each.default], other_title=titles[each.other],
            default_words=told[each.default].words, other_words=told[each.other].words,
        )
        for each in SCHOOLS
        if each.default in told and each.other in told
    ]  # fmt: skip


Status = Literal["waiting", "running", "finished", "cancelled", "failed"]
"""Of a study."""
