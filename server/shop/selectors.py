"""Reads of a workshop's prices and hours."""

from __future__ import annotations

from dataclasses import replace

from accounts.models import Workshop
from bilge_core.errors import InvalidInput
from bilge_core.job.operations import OPERATIONS
from bilge_core.lines.bending import Bender
from bilge_core.lines.order import Need
from bilge_core.options.candidate import Prices
from bilge_core.shop import PARTS, ShopPart, own_part
from bilge_core.shop.own import OwnPart as Own
from bilge_core.shop.threads import NO_FITTING, joints
from builds.models import Build

from shop.models import OwnBender, OwnHours, OwnPart, OwnPrice
from shop.schemas import BenderOut, HoursOut, OwnPartOut, PartPriceOut, ShopOut


def prices_of(workshop: Workshop) -> Prices:
    """A workshop's own prices and hours over the generic set."""
    own = OwnPrice.objects.filter(workshop=workshop, part__in=list(PARTS))
    parts = {
        row.part: replace(PARTS[row.part], cost=row.cost, lead_days=row.lead_days) for row in own
    }
    added = own_parts_of(workshop)
    parts |= {each.part.key: each.part for each in added}
    hours = OwnHours.objects.filter(workshop=workshop, operation__in=list(OPERATIONS))
    fittings = tuple(each.fitting for each in added if each.fitting is not None)
    return Prices(parts, dict(hours.values_list("operation", "hours")), fittings)


def own_parts_of(workshop: Workshop) -> list[Own]:
    """What a workshop added to the catalogue; a row that is no part any more is left out."""
    found = []
    for row in OwnPart.objects.filter(workshop=workshop):
        part = ShopPart(row.key, row.words, row.per, row.cost, row.lead_days, row.weight_kg)
        try:
            found.append(
                own_part(part, (row.end_1, row.end_2), row.angle_deg, row.height_mm, row.spanner)
            )
        except InvalidInput:
            continue
    return found


def bought_besides(build: Build, prices: Prices) -> list[Need]:
    """What a build's order has besides what its lines and components take; `prices`: the shop's."""
    return [
        Need(row.part, row.count, row.why)
        for row in build.bought_besides.all()
        if prices.knows(row.part)
    ]


def shop_of(workshop: Workshop) -> ShopOut:
    """All parts and operations as a workshop pays and works."""
    prices = prices_of(workshop)
    parts = []
    for key in PARTS:  # its own stand by themselves
        part = prices.part(key)
        parts.append(
            PartPriceOut(
                key=key, words=part.words, per=part.per, cost=part.cost, lead_days=part.lead_days,
                weight_kg=part.weight, own=key in prices.parts,
            )
        )  # fmt: skip
    operations = [
        HoursOut(
            key=key, words=each.words, hours=prices.hours_of(key), source=each.source,
            own=key in prices.hours,
        )
        for key, each in OPERATIONS.items()
    ]  # fmt: skip
    own = [OwnPartOut.model_validate(row) for row in OwnPart.objects.filter(workshop=workshop)]
    return ShopOut(parts=parts, own_parts=own, threads=joints(NO_FITTING), operations=operations)


def bender_out(workshop: Workshop) -> BenderOut:
    """A workshop's bender; a guess until it measured its own."""
    own = OwnBender.objects.filter(workshop=workshop).first()
    if own is not None:
        return BenderOut(
            springback_pct=own.springback_pct, stretch_mm=own.stretch_mm, flare_mm=own.flare_mm,
            spare_mm=own.spare_mm, own=True,
        )  # fmt: skip
    guess = Bender()
    return BenderOut(
        springback_pct=100.0 * guess.springback, stretch_mm=1e3 * guess.stretch,
        flare_mm=1e3 * guess.flare, spare_mm=1e3 * guess.spare, own=False,
    )  # fmt: skip


def bender_of(workshop: Workshop) -> Bender:
    """The same, as the core takes it."""
    told = bender_out(workshop)
    return Bender(
        told.springback_pct / 100.0, told.stretch_mm * 1e-3, told.flare_mm * 1e-3,
        told.spare_mm * 1e-3,
    )  # fmt: skip
