"""A workshop's prices and hours."""

from __future__ import annotations

from accounts.requests import signed_in
from django.http import HttpRequest, HttpResponse
from ninja import File, Router
from ninja.files import UploadedFile

from shop import selectors, services
from shop.catalogue import write_catalogue
from shop.schemas import BenderIn, BenderOut, HoursIn, OwnPartIn, PriceIn, ShopOut

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


@router.put("/own/{key}", response=ShopOut, operation_id="set_own_part")
def set_own_part(request: HttpRequest, key: str, payload: OwnPartIn) -> ShopOut:
    """Add a part of the workshop's own, or say it anew."""
    workshop = signed_in(request).workshop
    services.set_own_part(workshop, key, payload)
    return selectors.shop_of(workshop)


@router.delete("/own/{key}", response=ShopOut, operation_id="drop_own_part")
def drop_own_part(request: HttpRequest, key: str) -> ShopOut:
    """Take a part of its own out of the catalogue."""
    workshop = signed_in(request).workshop
    services.drop_own_part(workshop, key)
    return selectors.shop_of(workshop)


@router.put("/operations/{key}", response=ShopOut, operation_id="set_hours")
def set_hours(request: HttpRequest, key: str, payload: HoursIn) -> ShopOut:
    """Type over an operation's hours."""
    workshop = signed_in(request).workshop
    services.set_hours(workshop, key, payload)
    return selectors.shop_of(workshop)


@router.get("/catalogue", operation_id="export_catalogue")
def export_catalogue(request: HttpRequest) -> HttpResponse:
    """All parts with this workshop's cost and lead time, as CSV."""
    text = write_catalogue(selectors.prices_of(signed_in(request).workshop))
    return HttpResponse(
        text, content_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": 'attachment; filename="parts.csv"'},
    )  # fmt: skip


@router.post("/catalogue", response=ShopOut, operation_id="import_catalogue")
def import_catalogue(request: HttpRequest, file: File[UploadedFile]) -> ShopOut:
    """Own costs and lead times from a CSV as it is written here."""
    workshop = signed_in(request).workshop
    services.import_catalogue(workshop, file)
    return selectors.shop_of(workshop)


@router.get("/bender", response=BenderOut, operation_id="get_bender")
def get_bender(request: HttpRequest) -> BenderOut:
    """This workshop's bender."""
    return selectors.bender_out(signed_in(request).workshop)


@router.put("/bender", response=BenderOut, operation_id="set_bender")
def set_bender(request: HttpRequest, payload: BenderIn) -> BenderOut:
    """What was measured of the bender on a trial bend."""
    workshop = signed_in(request).workshop
    services.set_bender(workshop, payload)
    return selectors.bender_out(workshop)
