"""API paths, and the web's one page for all others."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.urls import path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe

from config.api import api
from config.problems import problem_response, unexpected


@require_safe
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    """The web's page; its own router reads the path."""
    index = settings.WEB_DIST / "index.html"
    if not index.exists():
        return problem_response(503, "The web is not built; run ./bilge start.")
    response = HttpResponse(index.read_bytes(), content_type="text/html; charset=utf-8")
    response.headers["Cache-Control"] = "no-cache"
    return response


def no_such_call(request: HttpRequest) -> HttpResponse:
    """An API path that does not exist."""
    return problem_response(404, "There is no such call.")


def bad_request(request: HttpRequest, exception: Exception) -> HttpResponse:
    """What a middleware refused: a host that is not ours, a body that cannot be read."""
    return unexpected(request, exception)


handler400 = "config.urls.bad_request"

urlpatterns = [
    path("api/", api.urls),
    re_path(r"^api/.*$", no_such_call),
    re_path(r"^(?!assets/).*$", page),
]
