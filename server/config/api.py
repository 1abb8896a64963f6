"""The API: one router an app, and one a stage."""

from __future__ import annotations

from accounts.api import people as people_router
from accounts.api import router as accounts_router
from builds.api import router as builds_router
from django.http import HttpRequest
from forecasts.api import router as shelf_router
from loads.api import router as loads_router
from ninja import Schema
from ninja.renderers import BaseRenderer
from ninja.security import django_auth
from pydantic_core import to_json
from records.api import router as records_router
from runs.api import router as runs_router
from saved.api import router as saved_router
from shop.api import router as shop_router
from stages import stage_routers

from config.description import DescribedApi
from config.problems import install_handlers


class QuickJson(BaseRenderer):
    """JSON as pydantic writes it: several times quicker than Python's own writer."""

    media_type = "application/json"

    def render(self, request: HttpRequest, data: object, *, response_status: int) -> bytes:
        """An answer's body."""
        return to_json(data, inf_nan_mode="null")


api = DescribedApi(
    renderer=QuickJson(),
    title="Bilge",
    version="1",
    auth=django_auth,
    docs_url=None,
    openapi_url=None,
    urls_namespace="api",
)
install_handlers(api)
api.add_router("/session", accounts_router, tags=["session"])
api.add_router("/people", people_router, tags=["people"])
api.add_router("/builds", builds_router, tags=["builds"])
api.add_router("/builds", records_router, tags=["records"])
api.add_router("/builds", saved_router, tags=["records"])
api.add_router("/shelf", shelf_router, tags=["shelf"])
api.add_router("/laps", loads_router, tags=["laps"])
api.add_router("/runs", runs_router, tags=["runs"])
api.add_router("/shop", shop_router, tags=["shop"])
for key, router in stage_routers():
    api.add_router(f"/stages/{key}", router, tags=[key])


class Health(Schema):
    """It answers."""

    ok: bool


@api.get("/health", auth=None, response=Health, operation_id="health")
def health(request: HttpRequest) -> Health:
    """Whether the server answers."""
    return Health(ok=True)
