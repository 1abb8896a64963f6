"""Changes of a workshop's prices and hours."""

from __future__ import annotations

from accounts.models import User, Workshop
from bilge_core.errors import InvalidInput, Problem
from bilge_core.job.operations import OPERATIONS
from bilge_core.shop import PARTS
from builds.models import Build
from config.errors import NotFound
from django.db import transaction
from ninja.files import UploadedFile

from shop.catalogue import LARGEST, read_catalogue
from shop.models import OrderTick, OwnBender, OwnHours, OwnPrice
from shop.schemas import BenderIn, HoursIn, PriceIn


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
    rows = read_catalogue(upload.read())
    for key, cost, days in rows:
        OwnPrice.objects.update_or_create(
            workshop=workshop, part=key, defaults={"cost": cost, "lead_days": days}
        )
    return len(rows)


def tick(user: User, build: Build, part: str, state: str | None, count: float) -> None:
    """How far a part of a build's order is; None: to order still.

    Raises
    ------
    NotFound
        If there is no such part.
    """
    if part not in PARTS:
        raise NotFound("part")
    if state is None:
        OrderTick.objects.filter(build=build, part=part).delete()
        return
    OrderTick.objects.update_or_create(
        build=build, part=part, defaults={"state": state, "count": count, "ticked_by": user}
    )
