"""What Lines asks, worked out."""

from __future__ import annotations

from datetime import timedelta

from accounts.models import User, Workshop
from bilge_core.document.build import Build as BuildDocument
from bilge_core.errors import InvalidInput, Problem
from bilge_core.job.difference import work_between
from bilge_core.shop import PARTS
from bilge_core.tell.lines_all import lines_out
from builds.selectors import build_of, document_of
from django.utils import timezone
from shop import services
from shop.models import OrderTick
from shop.selectors import bender_of, bender_out, bought_besides, prices_of

from stages.lines.schemas import BesidesIn, BesidesOut, LinesStageOut, TickOut, TickState

_THERE = frozenset({OrderTick.State.HAVE, OrderTick.State.ARRIVED})


def lines(workshop: Workshop, build_id: int) -> LinesStageOut:
    """A build's lines and order.

    Raises
    ------
    NotFound, InvalidInput
    """
    build = build_of(workshop, build_id)
    assert build.current is not None
    as_is = None if build.as_is is None else build.as_is.read
    prices = prices_of(workshop)
    also = bought_besides(build, prices)
    told = lines_out(document_of(build), prices, bender_of(workshop), as_is, also=also)
    wanted = {row.part: row for row in told.order}
    ticks = {tick.part: tick for tick in build.order_ticks.select_related("ticked_by")}
    waiting = [
        row for row in told.order
        if row.part not in ticks
        or ticks[row.part].state not in _THERE
        or ticks[row.part].count + 1e-6 < row.count
    ]  # fmt: skip
    days = max((row.lead_days for row in waiting), default=0)
    order = {key: at for at, key in enumerate(PARTS)}
    of_the_job = set() if as_is is None else _of_the_job(as_is, document_of(build))
    return LinesStageOut(
        state=build.current.number,
        lines=told,
        ticks=[
            TickOut(
                part=part, words=prices.part(part).words, state=_state_of(tick), count=tick.count,
                by=tick.by, on=timezone.localdate(tick.ticked_at),
                wanted=wanted[part].count if part in wanted else 0,
            )
            for part, tick in sorted(ticks.items(), key=lambda pair: order.get(pair[0], 0))
            if prices.knows(part) and (part in wanted or part not in of_the_job)
        ],
        compared=as_is is not None,
        to_come=len(waiting),
        wait_days=days,
        begin_on=timezone.localdate() + timedelta(days=days),
        bender=bender_out(workshop),
        besides=[BesidesOut(part=row.part, count=row.count, why=row.why) for row in also],
    )  # fmt: skip


def _of_the_job(as_is: BuildDocument, plan: BuildDocument) -> set[str]:
    """Parts that the job takes besides the lines: they are ticked on its card."""
    return {part for part, _ in work_between(as_is, plan).parts}


def _state_of(tick: OrderTick) -> TickState:
    states: dict[str, TickState] = {"have": "have", "ordered": "ordered", "arrived": "arrived"}
    return states[tick.state]


def tick(user: User, build_id: int, part: str, state: TickState | None) -> LinesStageOut:
    """Say how far a part of the order is.

    Raises
    ------
    NotFound, InvalidInput
    """
    told = lines(user.workshop, build_id)
    row = next((each for each in told.lines.order if each.part == part), None)
    if row is None and state is not None:
        raise InvalidInput([Problem("part", "is not on this order")])
    services.tick(user, build_of(user.workshop, build_id), part, state, row.count if row else 1.0)
    return lines(user.workshop, build_id)


def besides(user: User, build_id: int, part: str, wanted: BesidesIn) -> LinesStageOut:
    """Put so many of a part on the order, besides what its lines take.

    Raises
    ------
    NotFound, InvalidInput
    """
    build = build_of(user.workshop, build_id)
    services.buy_besides(build, part, wanted.count, wanted.why.strip() or "besides the lines")
    return lines(user.workshop, build_id)
