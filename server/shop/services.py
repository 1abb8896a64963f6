"""Changes of a workshop's prices and hours."""

from __future__ import annotations

from accounts.models import User, Workshop
from bilge_core.document.work_file import MOST_BESIDES, MOST_OWN
from bilge_core.errors import InvalidInput, Problem
from bilge_core.job.operations import OPERATIONS
from bilge_core.shop import PARTS, ShopPart, own_part
from bilge_core.shop.own import OwnPart as Own
from builds.models import Build
from config.errors import NotFound
from django.db import transaction
from django.utils import timezone
from ninja.files import UploadedFile

from shop.catalogue import LARGEST, read_catalogue
from shop.models import BoughtBesides, OrderTick, OwnBender, OwnHours, OwnPart, OwnPrice
from shop.schemas import BenderIn, HoursIn, OwnPartIn, PriceIn


def set_price(workshop: Workshop, key: str, wanted: PriceIn) -> None:
    """A workshop's own cost and lead time of a part; nulls take the generic set's again.

    Raises
    ------
    NotFound
        If there is no such part.
    InvalidInput
        If only one of the two is given.
    """
    if key not in PARTS:
        raise NotFound("part")
    if (wanted.cost is None) != (wanted.lead_days is None):
        raise InvalidInput([Problem("cost", "needs its lead time beside it; null for both resets")])
    rows = OwnPrice.objects.filter(workshop=workshop, part=key)
    if wanted.cost is None or wanted.lead_days is None:
        rows.delete()
        return
    OwnPrice.objects.update_or_create(
        workshop=workshop, part=key,
        defaults={"cost": wanted.cost, "lead_days": wanted.lead_days},
    )  # fmt: skip


def set_hours(workshop: Workshop, key: str, wanted: HoursIn) -> None:
    """A workshop's own hours of an operation; null takes the generic set's again.

    Raises
    ------
    NotFound
        If there is no such operation.
    """
    if key not in OPERATIONS:
        raise NotFound("operation")
    if wanted.hours is None:
        OwnHours.objects.filter(workshop=workshop, operation=key).delete()
        return
    OwnHours.objects.update_or_create(
        workshop=workshop, operation=key, defaults={"hours": wanted.hours}
    )


def set_bender(workshop: Workshop, wanted: BenderIn) -> None:
    """What a workshop measured of its bender."""
    OwnBender.objects.update_or_create(workshop=workshop, defaults=wanted.model_dump())


@transaction.atomic
def import_catalogue(workshop: Workshop, upload: UploadedFile) -> int:
    """A workshop's own costs and lead times from a CSV; how many parts it named.

    Raises
    ------
    InvalidInput
        Naming line and column of everything at fault; nothing is kept then.
    """
    if (upload.size or 0) > LARGEST:
        raise InvalidInput([Problem("file", f"must be at most {LARGEST // 1000} kB")])
    found = read_catalogue(upload.read())
    for key, cost, days in found.prices:
        OwnPrice.objects.update_or_create(
            workshop=workshop, part=key, defaults={"cost": cost, "lead_days": days}
        )
    for own in found.own:
        _keep_own(workshop, own)
    return found.count


def _keep_own(workshop: Workshop, own: Own) -> None:
    """One more part of a workshop's own, or the one of that key anew."""
    part, fitting = own.part, own.fitting
    first, second = ("", "") if fitting is None else (f"{e.thread} {e.sex}" for e in fitting.ends)
    OwnPart.objects.update_or_create(
        workshop=workshop, key=part.key,
        defaults={
            "words": part.words, "per": part.per, "cost": part.cost,
            "lead_days": part.lead_days, "weight_kg": part.weight, "end_1": first, "end_2": second,
            "angle_deg": 0 if fitting is None else fitting.angle,
            "height_mm": 0.0 if fitting is None else round(fitting.height * 1e3, 3),
            "spanner": "" if fitting is None else fitting.spanner,
        },
    )  # fmt: skip
    if OwnPart.objects.filter(workshop=workshop).count() > MOST_OWN:
        raise InvalidInput([Problem("key", f"{MOST_OWN} parts of its own are the most")])


@transaction.atomic
def set_own_part(workshop: Workshop, key: str, wanted: OwnPartIn) -> None:
    """Add a part of the workshop's own, or say it anew.

    Raises
    ------
    InvalidInput
        Naming every field at fault.
    """
    words, per = wanted.words.strip(), wanted.per
    part = ShopPart(key, words, per, wanted.cost, wanted.lead_days, wanted.weight_kg)
    ends = wanted.end_1.strip(), wanted.end_2.strip()
    own = own_part(part, ends, wanted.angle_deg, wanted.height_mm, wanted.spanner.strip())
    _keep_own(workshop, own)


def drop_own_part(workshop: Workshop, key: str) -> None:
    """Take a part of its own out of a workshop's catalogue; orders lose it.

    Raises
    ------
    NotFound
    """
    gone, _ = OwnPart.objects.filter(workshop=workshop, key=key).delete()
    if not gone:
        raise NotFound("part")


def is_known(workshop: Workshop, key: str) -> bool:
    """Whether there is such a part in the workshop's catalogue."""
    return key in PARTS or OwnPart.objects.filter(workshop=workshop, key=key).exists()


@transaction.atomic
def buy_besides(build: Build, part: str, count: float, why: str) -> None:
    """So many of a part besides what a build's lines take; nil: none any more.

    Raises
    ------
    NotFound
        If there is no such part.
    InvalidInput
        If there are too many such rows.
    """
    if not is_known(build.workshop, part):
        raise NotFound("part")
    if count == 0:
        build.bought_besides.filter(part=part).delete()
        return
    BoughtBesides.objects.update_or_create(
        build=build, part=part, defaults={"count": count, "why": why}
    )
    if build.bought_besides.count() > MOST_BESIDES:
        raise InvalidInput([Problem("part", f"{MOST_BESIDES} rows besides the lines are the most")])


def tick(user: User, build: Build, part: str, state: str | None, count: float) -> None:
    """How far a part of a build's order is; None: to order still.

    Raises
    ------
    NotFound
        If there is no such part.
    """
    if not is_known(build.workshop, part):
        raise NotFound("part")
    if state is None:
        OrderTick.objects.filter(build=build, part=part).delete()
        return
    OrderTick.objects.update_or_create(
        build=build, part=part,
        defaults={
            "state": state, "count": count, "ticked_by": user, "hand": "",
            "ticked_at": timezone.now(),
        },
    )  # fmt: skip
