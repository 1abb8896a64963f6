"""What Job card asks, worked out."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Mapping
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from accounts.models import User, Workshop
from bilge_core.document.build import Build as BuildDocument
from bilge_core.errors import InvalidInput, Problem
from bilge_core.job.card import Card, card_of
from bilge_core.job.changed import stale_steps
from bilge_core.job.difference import suction_joint
from bilge_core.job.entries import AnyEntry, BoltTight, Overridden, Ticked, WaitOver
from bilge_core.job.line_parts import order_parts, with_line_parts
from bilge_core.job.named import parts_of
from bilge_core.job.progress import progress_of, refusal_of
from bilge_core.job.settings import WHOLE_PAN, CardSettings
from bilge_core.job.standing import Kept, Standing, standing_of
from bilge_core.options.candidate import Prices
from bilge_core.tell.job import Arrivals, Told, card_out
from builds.models import Build
from builds.selectors import build_of, document_of
from config.errors import Conflict
from django.db import transaction
from django.utils import timezone
from records import cards
from records.clocks import believed
from records.models import JobCard
from shop import services
from shop.models import OrderTick
from shop.selectors import bender_of, bought_besides, prices_of

from stages.job_card.choices import states_to_choose
from stages.job_card.schemas import (
    CardOverOut,
    EntryIn,
    HowFar,
    JobStageOut,
    NamedPartOut,
    RefusedOut,
    SurplusOut,
    WantedPartOut,
)

_THERE = frozenset({OrderTick.State.HAVE, OrderTick.State.ARRIVED})
_RENEWED = frozenset({"filter", "remote_filter", "pressure_stage"})


@dataclass(frozen=True)
class _Job:
    """A card worked out, with all that it was worked out from."""

    build: Build
    row: JobCard | None
    as_is: BuildDocument
    plan: BuildDocument
    said: CardSettings
    entries: tuple[Kept, ...]
    standing: Standing
    states: dict[int, BuildDocument]
    card: Card
    prices: Prices

    @property
    def stale(self) -> frozenset[str]:
        return stale_steps(self.card.steps, self.standing, self.plan, self.states)


def _worked_out(build: Build, row: JobCard | None, said: CardSettings | None = None) -> _Job | None:
    """The job of a build; None where nobody said which state the car is in."""
    if build.as_is is None:
        return None
    prices = prices_of(build.workshop)
    as_is = build.as_is.read
    plan = document_of(build)
    if said is None:
        said = cards.said_of(row) if row else cards.settings_to_begin(build)
    entries = cards.entries_of(row) if row else ()
    standing, states = standing_of(entries), dict(cards.states_of(build, entries))
    card = card_of(as_is, plan, said, prices.hours, standing, states)
    card = with_line_parts(card, plan, bender_of(build.workshop), prices.fittings)
    return _Job(build, row, as_is, plan, said, entries, standing, states, card, prices)


def _arrivals(
    build: Build, wanted: Mapping[str, float], prices: Prices, in_hand: Collection[str]
) -> Arrivals:
    """When the parts of a job are there: in hand, enough ticked, ordered, or ordered today."""
    ticks = {tick.part: tick for tick in build.order_ticks.all()}
    today, days, there = timezone.localdate(), {}, set(in_hand)
    for part, count in wanted.items():
        if part in in_hand:
            continue
        tick, lead = ticks.get(part), timedelta(days=prices.part(part).lead_days)
        if tick is not None and tick.count + 1e-6 < count:
            tick = None  # more is wanted than was ticked: the rest is ordered today
        if tick is not None and tick.state in _THERE:
            there.add(part)
        elif tick is not None:
            days[part] = max(today, timezone.localdate(tick.ticked_at) + lead)
        elif lead:
            days[part] = today + lead
    return Arrivals(days, frozenset(there))


def _in_hand(card: Card, standing: Standing) -> frozenset[str]:
    """What was bought for nothing but parts that were found bad.

    It came, or nobody could have looked at it.
    """
    bad: set[str] = set()
    others: set[str] = set()
    for each in card.steps:
        is_bad = each.part in standing.bad or (
            WHOLE_PAN in standing.bad and each.step.key == "look_at_new"
        )
        (bad if is_bad else others).update(part for part, _ in each.bought)
    return frozenset(bad - others)


def _counted(card: Card) -> Counter[str]:
    counts: Counter[str] = Counter()
    for each in card.steps:
        for part, count in each.bought:
            counts[part] += count  # type: ignore[assignment]
    return counts


def _how_far(tick: OrderTick | None) -> HowFar | None:
    states: dict[str, HowFar] = {"have": "have", "ordered": "ordered", "arrived": "arrived"}
    return states[tick.state] if tick else None


def _wanted(job: _Job, counts: Counter[str], arrivals: Arrivals) -> list[WantedPartOut]:
    ticks = {tick.part: tick for tick in job.build.order_ticks.all()}
    rows = []
    for part, count in counts.items():
        bought = job.prices.part(part)
        rows.append(
            WantedPartOut(
                part=part, words=bought.words, count=round(count, 2), per=bought.per,
                price=round(bought.cost * count, 2), own_price=part in job.prices.parts,
                lead_days=bought.lead_days, how_far=_how_far(ticks.get(part)),
                there=arrivals.days.get(part),
            )
        )  # fmt: skip
    return sorted(rows, key=lambda row: (row.there or date.min, row.words), reverse=True)


def _surplus(job: _Job, counts: Counter[str]) -> list[SurplusOut]:
    """Ordered once, wanted by nothing of the job and nothing of the circuit as planned."""
    ticks = [tick for tick in job.build.order_ticks.all() if tick.part not in counts]
    if not ticks:
        return []
    prices = job.prices
    still = order_parts(job.plan, bender_of(job.build.workshop), job.as_is, prices.fittings)
    still |= {need.part for need in bought_besides(job.build, prices)}
    return [
        SurplusOut(part=tick.part, words=prices.part(tick.part).words, count=tick.count,
                   how_far=_how_far(tick) or "have")
        for tick in ticks
        if prices.knows(tick.part) and tick.part not in still
    ]  # fmt: skip


def _named(*documents: BuildDocument) -> list[NamedPartOut]:
    """Parts that can be renewed, looked at or found bad."""
    rows: dict[str, dict[str, object]] = {}
    for document in documents:
        rows |= parts_of(document)
    joint = suction_joint(documents[-1].model_dump(mode="json")).get("id")
    found = [NamedPartOut(id=WHOLE_PAN, name="the pan and its joint", kind="pan", renewable=True)]
    for part, row in rows.items():
        line = row.get("line")
        kind = "gate" if "swings" in row else str(row.get("kind") or row.get("service") or "")
        is_joint = isinstance(line, dict) and line.get("kind") in {"hose", "hard_line"}
        renewable = kind in {*_RENEWED, "gate"} or is_joint or part == joint
        found.append(NamedPartOut(id=part, name=str(row["name"]), kind=kind, renewable=renewable))
    return found


def _over(build: Build) -> list[CardOverOut]:
    rows = build.job_cards.exclude(closed_at=None).select_related("closed_by", "built")
    return [
        CardOverOut(
            number=row.number, begun_at=row.begun_at, closed_at=row.closed_at,
            closed_by=row.who_closed, state=row.built.number, change=row.built.change,
        )
        for row in rows
        if row.closed_at and row.closed_by and row.built
    ]  # fmt: skip


def _at_first(job: _Job) -> frozenset[str] | None:
    """Ids of the steps when the card was begun; None where the plan has not moved since."""
    row = job.row
    assert job.build.current is not None
    if row is None or row.begun_on_id == job.build.current.pk:
        return None
    plan = row.begun_on.read
    card = card_of(job.as_is, plan, job.said, job.prices.hours)
    return frozenset(each.id for each in card.steps)


def _told(
    build: Build, row: JobCard | None, refused: list[RefusedOut], said: CardSettings | None = None
) -> JobStageOut:
    job = _worked_out(build, row, said)
    assert build.current is not None
    found = JobStageOut(
        state=build.current.number, as_is=build.as_is.number if build.as_is else None,
        number=row.number if row else None, begun_by=row.who_began if row else "",
        begun_at=row.begun_at if row else None,
        said=job.said if job else cards.settings_to_begin(build),
        card=None, parts=[], wanted=[], surplus=[], over=_over(build),
        choose=states_to_choose(build), refused=refused,
    )  # fmt: skip
    if job is None:
        return found
    counts = _counted(job.card)
    arrivals = _arrivals(build, counts, job.prices, _in_hand(job.card, job.standing))
    told = Told(job.plan, job.said, job.standing, job.states, _at_first(job))
    now = timezone.localtime(timezone.now())
    return found.model_copy(
        update={
            "card": card_out(job.card, told, now, job.prices, arrivals),
            "parts": _named(job.as_is, job.plan), "wanted": _wanted(job, counts, arrivals),
            "surplus": _surplus(job, counts),
        }
    )  # fmt: skip


def job(workshop: Workshop, build_id: int) -> JobStageOut:
    """A build's job card, or how one would be.

    Raises
    ------
    NotFound
    """
    build = build_of(workshop, build_id)
    return _told(build, cards.open_card(build), [])


def tried(workshop: Workshop, build_id: int, said: CardSettings) -> JobStageOut:
    """How the card would be with other things said of it; nothing is kept.

    Raises
    ------
    NotFound
    """
    build = build_of(workshop, build_id)
    return _told(build, cards.open_card(build), [], said)


def begun(user: User, build_id: int, said: CardSettings) -> JobStageOut:
    """Begin a job.

    Raises
    ------
    NotFound, Conflict, InvalidInput
    """
    cards.begin(user, build_id, said)
    return job(user.workshop, build_id)


def said(user: User, build_id: int, said: CardSettings) -> JobStageOut:
    """Say of the card that is worked on how the job is done.

    Raises
    ------
    NotFound, Conflict
    """
    cards.say(user, build_id, said)
    return job(user.workshop, build_id)


def _why_not(job: _Job, entry: AnyEntry, at: datetime) -> str | None:
    """Why an entry is not kept; None where it is."""
    if isinstance(entry, Ticked | BoltTight):
        return refusal_of(job.card, job.standing, entry.step, at, job.stale)
    if isinstance(entry, Overridden | WaitOver):
        step = job.card.step(entry.step)
        if step is None:
            return "is not on this card"
        if isinstance(entry, Overridden):
            if not step.step.is_gate:
                return "is no step that must not be passed: leave it, or tick it"
            rows = progress_of(job.card, job.standing, at, job.stale)
            if any(job.card.step(g).step.key == "look_again" for g in rows[step.id].gates):  # type: ignore[union-attr]
                return "waits for a part that was found bad"
        elif not (step.wait or step.wait_days):
            return "has no wait"
    return None


def _named_by(entry: AnyEntry, job: _Job) -> AnyEntry:
    """A tick keeps the words of its step: they are wanted when the plan drops it."""
    if not isinstance(entry, Ticked):
        return entry
    step = job.card.step(entry.step)
    return entry.model_copy(update={"words": step.words[:200] if step else ""})


@transaction.atomic
def entered(user: User, build_id: int, rows: list[EntryIn]) -> JobStageOut:
    """Keep what happened, in its order; what is not let is told, and what is kept twice is not.

    Raises
    ------
    NotFound, Conflict
    """
    build, row = cards.locked_card(user, build_id)
    assert build.current is not None
    refused = []
    for each in rows:
        if cards.is_kept(row, each.client_id):
            continue
        job = _worked_out(build, row)
        if job is None:
            raise Conflict("Nobody says which state the car is in any more: say it first.")
        at = believed(each.at, row.begun_at)
        why = _why_not(job, each.entry, at)
        if why:
            refused.append(RefusedOut(client_id=each.client_id, why=why))
            continue
        cards.keep(user, row, build.current, _named_by(each.entry, job), each.client_id, at)
    return _told(build, row, refused)


@transaction.atomic
def closed(user: User, build_id: int) -> JobStageOut:
    """Close the card: the car is as it was planned.

    Raises
    ------
    NotFound, Conflict
    InvalidInput
        Naming what is left.
    """
    build, row = cards.locked_card(user, build_id)
    told = _told(build, row, [])
    left = [step for step in (told.card.steps if told.card else [])
            if step.state not in {"done", "overridden"}]  # fmt: skip
    if left:
        more = f" and {len(left) - 1} more" if len(left) > 1 else ""
        raise InvalidInput([Problem("card", f"is not done: {left[0].words}{more} left")])
    cards.close(user, build, row)
    return job(user.workshop, build_id)


def ticked_part(user: User, build_id: int, part: str, how_far: HowFar | None) -> JobStageOut:
    """Say how far a part of the job is.

    Raises
    ------
    NotFound, InvalidInput
    """
    told = job(user.workshop, build_id)
    count = next((row.count for row in told.wanted if row.part == part), None)
    known = any(row.part == part for row in told.surplus)
    if count is None and not known and how_far is not None:
        raise InvalidInput([Problem("part", "is not wanted by this job")])
    build = build_of(user.workshop, build_id)
    there = build.order_ticks.filter(part=part).first()
    services.tick(user, build, part, how_far, count or (there.count if there else 1.0))
    return job(user.workshop, build_id)
