"""A workshop's prices and hours."""

from __future__ import annotations

from accounts.requests import signed_in
from django.http import HttpRequest
from ninja import Router

from shop import selectors, services
from shop.schemas import HoursIn, PriceIn, ShopOut

router = Router()


@router.get("", response=ShopOut, operation_id="get_shop")
def get_shop(request: HttpRequest) -> ShopOut:
    """All parts and operations as this workshop pays and works."""
    return selectors.shop_of(signed_in(request).workshop)


@router.put("/parts/{key}", response=ShopOut, operation_id="set_price")
def set_price(request: HttpRequest, key: str, payload: PriceIn) -> ShopOut:
    """Type over a part's cost and lead time."""
    workshop = signed_in(request).workshop
    services.set_price(workshop, key, payload)
    return selectors.shop_of(workshop)


@router.put("/operations/{key}", response=ShopOut, operation_id="set_hours")
def set_hours(request: HttpRequest, key: str, payload: HoursIn) -> ShopOut:
    """Type over an operation's hours."""
    workshop = signed_in(request).workshop
    services.set_hours(workshop, key, payload)
    return selectors.shop_of(workshop)
