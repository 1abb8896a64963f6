"""The clock on the wall where a page is looked at: days and hours are told by it."""

from __future__ import annotations

from collections.abc import Callable
from urllib.parse import unquote
from zoneinfo import ZoneInfo

from django.http import HttpRequest, HttpResponse
from django.utils import timezone

_LONGEST = 64


def _zone(name: str) -> ZoneInfo | None:
    """A time zone by its name; None where there is none of that name."""
    if not name or len(name) > _LONGEST:
        return None
    try:
        return ZoneInfo(name)
    except (KeyError, ValueError, OSError):
        return None


class ZoneMiddleware:
    """Answers in the zone that the page says it is in; else in the server's."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """An answer."""
        with timezone.override(_zone(unquote(request.COOKIES.get("zone", "")))):
            return self.get_response(request)
