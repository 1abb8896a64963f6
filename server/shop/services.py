"""Changes of a workshop's prices and hours."""

from __future__ import annotations

from accounts.models import Workshop
from bilge_core.errors import InvalidInput, Problem
from bilge_core.job.operations import OPERATIONS
from bilge_core.shop import PARTS
from config.errors import NotFound

from shop.models import OwnHours, OwnPrice
from shop.schemas import HoursIn, PriceIn


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
