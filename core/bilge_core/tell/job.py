"""A job as everybody reads it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time

from pydantic import BaseModel

from bilge_core.document.build import Build
from bilge_core.job.card import Card
from bilge_core.job.cautions import CAUTIONS
from bilge_core.job.changed import stale_steps
from bilge_core.job.order import Days, Placed, critical_path, placed_in_time
from bilge_core.job.progress import Progress, StepState, next_step, progress_of, wait_is_over
from bilge_core.job.settings import CardSettings
from bilge_core.job.standing import Standing
from bilge_core.job.step import PHASES, CardStep
from bilge_core.job.torque import LBF_FT, LBF_IN, Torque, cross_pattern
from bilge_core.options.candidate import Prices

_OIL_STEPS = frozenset({"refill", "top_up"})


class TorqueOut(BaseModel):
    """How tight, in every unit that a wrench may have."""

    newton_metres: float
    lbf_in: float
    lbf_ft: float
    words: str
    source: str
    left_handed: bool
    is_own: bool
    """The workshop typed it: the maker's."""


class BoughtOut(BaseModel):
    """A part that a step takes."""

    part: str
    words: str
    count: float
    per: str
    is_there: bool
    """Ticked on the order: in the shop or arrived."""


class NoteOut(BaseModel):
    """Words or photos to a step."""

    words: str
    photos: list[str]
    by: str
    at: datetime


class StepOut(BaseModel):
    """A step of a card."""

    id: str
    part: str
    words: str
    phase: str
    why: str
    cautions: list[str]
    tools: str
    hours: float
    wait_h: float
    wait_days: float
    needs: list[str]
    bought: list[BoughtOut]
    torque: TorqueOut | None
    has_bolts: bool
    is_gate: bool
    photo: bool
    source: str
    state: StepState
    until: datetime | None
    gates: list[str]
    """Words of the gates before it that are not passed."""
    is_void: bool
    is_new: bool
    """It came onto the card after the card was begun."""
    is_critical: bool
    by: str
    at: datetime | None
    reason: str
    """Why a gate was passed without, or why a wait was over."""
    wait_over: datetime | None
    """When the wait that it began is over."""
    tight: list[tuple[int, int]]
    """Pass and bolt of each that is tight."""
    notes: list[NoteOut]
    begins: datetime | None
    """When the plan has it; None where it is done."""


class FlangeOut(BaseModel):
    """The pan's flange with its bolts in the order in which they are tightened."""

    outline_mm: list[tuple[float, float]]
    bolts_mm: list[tuple[float, float]]
    pattern: list[int]
    is_own: bool
    passes: int
    zones_mm: list[list[tuple[float, float]]]


class BadOut(BaseModel):
    """A part that was found bad."""

    part: str
    name: str
    words: str
    photos: list[str]
    by: str
    at: datetime


class LateOut(BaseModel):
    """A part that the job waits for, and what it costs."""

    part: str
    words: str
    there: date
    slips_days: int
    """How many days sooner all would be done if it were there."""


class PlanOut(BaseModel):
    """When."""

    begins: datetime
    oil_in: datetime | None
    ends: datetime
    hands_h: float
    waits_h: float
    idle_h: float
    """Hours in which nobody can do anything but wait, if all went on without a break."""
    late: list[LateOut]


class CardOut(BaseModel):
    """A job in the order of the work."""

    steps: list[StepOut]
    opens: bool
    ignores_in_place: bool
    done: int
    next: str | None
    flange: FlangeOut | None
    bad: list[BadOut]
    plan: PlanOut


@dataclass(frozen=True)
class Arrivals:
    """When parts that are bought are there, by their keys; today's and missing ones are."""

    days: Mapping[str, date]
    there: frozenset[str] = frozenset()

    def of(self, step: CardStep) -> dict[str, date]:
        """The parts that a step waits for."""
        return {part: self.days[part] for part, _ in step.bought if part in self.days}


def torque_out(step: CardStep, settings: CardSettings) -> TorqueOut | None:
    """A step's torque: the workshop's own over the library's."""
    own = settings.torque_nm.get(step.step.key)
    if own is None and step.step.torque is None:
        return None
    found = step.step.torque if own is None else Torque(own, "typed by the workshop")
    assert found is not None
    at = found.newton_metres
    return TorqueOut(
        newton_metres=round(at, 3), lbf_in=round(at / LBF_IN, 2), lbf_ft=round(at / LBF_FT, 3),
        words=found.words, source=found.source, left_handed=found.left_handed,
        is_own=own is not None,
    )  # fmt: skip


def flange_out(build: Build, settings: CardSettings) -> FlangeOut | None:
    """The bolts in their order; None where nobody measured them."""
    flange = build.pan.flange
    if flange is None or not flange.bolts:
        return None
    places = [(bolt.x_mm, bolt.y_mm) for bolt in flange.bolts]
    own = settings.pattern if len(settings.pattern or ()) == len(places) else None
    return FlangeOut(
        outline_mm=[(x, y) for x, y in flange.outline_mm],
        bolts_mm=places,
        pattern=own or list(cross_pattern(places, flange.outline_mm)),
        is_own=own is not None,
        passes=settings.passes,
        zones_mm=[[(x, y) for x, y in zone.outline_mm] for zone in build.pan.zones],
    )


def _begin(settings: CardSettings, now: datetime) -> datetime:
    """When the work begins, in the workshop's own time without a zone."""
    wanted = settings.begins_on
    plain = now.replace(tzinfo=None)
    if wanted is None or wanted <= plain.date():
        return plain
    return datetime.combine(wanted, time(0, 0))


def _released(steps: Sequence[CardStep], arrivals: Arrivals) -> dict[str, datetime]:
    found = {}
    for each in steps:
        days = arrivals.of(each).values()
        if days:
            found[each.id] = datetime.combine(max(days), time(0, 0))
    return found


@dataclass(frozen=True)
class Told:
    """What is known of a job besides its card.

    plan : Build
    settings : CardSettings
    standing : Standing
    states : mapping of number to Build
        States of the plan that something was ticked on, the present one left out.
    at_first : frozenset of str
        Ids of the steps when the card was begun; None: all that there are.
    """

    plan: Build
    settings: CardSettings
    standing: Standing
    states: Mapping[int, Build]
    at_first: frozenset[str] | None = None


def plan_out(
    card: Card, told: Told, now: datetime, arrivals: Arrivals, prices: Prices,
    passed: frozenset[str],
) -> tuple[PlanOut, dict[str, Placed]]:  # fmt: skip
    """When each step that is left is done, and what a part that is late costs.

    Parameters
    ----------
    now : datetime
        With the workshop's zone.
    """
    settings, standing = told.settings, told.standing
    begin, days = _begin(settings, now), Days(settings.hours_a_day, settings.weekends)
    over = {}
    for each in card.steps:
        ends = wait_is_over(each, standing)
        if ends is not None:
            over[each.id] = ends.astimezone(now.tzinfo).replace(tzinfo=None)

    def placed(there: Arrivals) -> tuple[Placed, ...]:
        released = _released(card.steps, there)
        return placed_in_time(card.steps, begin, days, released, passed, over)

    rows = placed(arrivals)
    ends = max((row.over for row in rows), default=begin)
    late = []
    for part, day in sorted(arrivals.days.items()):
        if day <= begin.date():
            continue
        others = Arrivals({key: value for key, value in arrivals.days.items() if key != part})
        sooner = max((row.over for row in placed(others)), default=begin)
        slips = (ends.date() - sooner.date()).days
        if slips > 0:
            late.append(LateOut(part=part, words=prices.part(part).words, there=day,
                                slips_days=slips))  # fmt: skip
    oil = next((row.begins for row in rows if row.step.step.key in _OIL_STEPS), None)
    plan = PlanOut(
        begins=rows[0].begins if rows else begin, oil_in=oil, ends=ends,
        hands_h=round(sum(row.step.hours for row in rows), 2),
        waits_h=round(sum(row.step.wait for row in rows), 2),
        idle_h=round(_waiting(card.steps, begin, passed, over), 2), late=late,
    )  # fmt: skip
    return plan, {row.step.id: row for row in rows}


def _waiting(
    steps: Sequence[CardStep], begin: datetime, passed: frozenset[str],
    over: Mapping[str, datetime],
) -> float:  # fmt: skip
    """Hours in which a wait cannot be filled; nights and parts that are not there left out."""
    rows = placed_in_time(steps, begin, Days(), None, passed, over)
    return sum(row.idle for row in rows)


def card_out(card: Card, told: Told, now: datetime, prices: Prices, arrivals: Arrivals) -> CardOut:
    """A card with how each of its steps stands.

    Parameters
    ----------
    card : Card
    told : Told
    now : datetime
        With the workshop's zone.
    prices : Prices
    arrivals : Arrivals
    """
    settings, standing = told.settings, told.standing
    stale = stale_steps(card.steps, standing, told.plan, told.states)
    progress = progress_of(card, standing, now, stale)
    passed = frozenset(key for key, row in progress.items() if row.state in {"done", "overridden"})
    plan, placed = plan_out(card, told, now, arrivals, prices, passed)
    flange = flange_out(told.plan, settings)
    critical = frozenset(critical_path(card.steps))
    words = {each.id: each.words for each in card.steps}
    names = {each.part: each.name for each in card.steps if each.part}
    return CardOut(
        steps=[
            StepOut(
                **_fixed(each, settings, prices, arrivals),
                **_happened(each, progress[each.id], standing, words),
                has_bolts=each.step.key == "torque_pan" and flange is not None,
                is_new=told.at_first is not None and each.id not in told.at_first,
                is_critical=each.id in critical,
                begins=placed[each.id].begins if each.id in placed else None,
            )
            for each in card.steps
        ],
        opens=card.opens, ignores_in_place=card.ignores_in_place, done=len(passed),
        next=next_step(card, progress), flange=flange, plan=plan,
        bad=[
            BadOut(part=part, name=names.get(part, part), words=entry.words, photos=entry.photos,
                   by=how.by, at=how.at)
            for part, (entry, how) in standing.bad.items()
        ],
    )  # fmt: skip


def _fixed(
    each: CardStep, settings: CardSettings, prices: Prices, arrivals: Arrivals
) -> dict[str, object]:
    """What a step is, whatever happened."""
    cast = each.step
    return {
        "id": each.id, "part": each.part, "words": each.words, "phase": PHASES[cast.phase],
        "why": cast.why, "cautions": [CAUTIONS[key] for key in cast.cautions],
        "tools": cast.tools, "hours": round(each.hours, 2), "wait_h": round(each.wait, 2),
        "wait_days": each.wait_days, "needs": list(each.needs),
        "bought": [
            BoughtOut(part=part, words=prices.part(part).words, count=count,
                      per=prices.part(part).per, is_there=part in arrivals.there)
            for part, count in each.bought
        ],
        "torque": torque_out(each, settings), "is_gate": cast.is_gate, "photo": cast.photo,
        "source": cast.source,
    }  # fmt: skip


def _happened(
    each: CardStep, row: Progress, standing: Standing, words: Mapping[str, str]
) -> dict[str, object]:
    """What happened to a step."""
    how = standing.done.get(each.id) or standing.overridden.get(each.id)
    over = standing.over.get(each.id)
    passed = standing.overridden.get(each.id)
    reason = passed or over
    return {
        "state": row.state, "until": row.until, "gates": [words[name] for name in row.gates],
        "is_void": row.is_void, "by": how.by if how else "", "at": how.at if how else None,
        "reason": reason.words if reason else "", "wait_over": wait_is_over(each, standing),
        "tight": sorted(standing.bolts.get(each.id, ())),
        "notes": [
            NoteOut(words=entry.words, photos=entry.photos, by=noted.by, at=noted.at)
            for entry, noted in standing.noted.get(each.id, ())
        ],
    }  # fmt: skip
