"""Limits and headers for every answer."""

from __future__ import annotations

from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from django.middleware.gzip import GZipMiddleware

from config.problems import REMOVED_MEANWHILE, problem_response, unexpected

Handler = Callable[[HttpRequest], HttpResponse]


_WORTH_COMPRESSING_BYTES = 1024
_COMPRESSED = ("application/json", "application/problem+json", "text/html", "text/csv")


class CompressMiddleware(GZipMiddleware):
    """Compress text of more than 1 kB; what is compressed already or comes in steps is left."""

    def process_response(
        self, request: HttpRequest, response: HttpResponseBase
    ) -> HttpResponseBase:
        """Django's own, where it is worth it."""
        kind = response.headers.get("Content-Type", "").split(";")[0]
        if (
            not isinstance(response, HttpResponse)
            or kind not in _COMPRESSED
            or len(response.content) < _WORTH_COMPRESSING_BYTES
        ):
            return response
        return super().process_response(request, response)


class ProxyMiddleware:
    """Behind a proxy the caller's address is the one that the proxy added last."""

    def __init__(self, handler: Handler) -> None:
        self.handler = handler

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Take it over, when the settings say that there is a proxy."""
        told = request.headers.get("X-Forwarded-For", "")
        if settings.BEHIND_PROXY and told:
            request.META["REMOTE_ADDR"] = told.rsplit(",", 1)[-1].strip()
        return self.handler(request)


class UploadLimitMiddleware:
    """Refuse a body over the limit before any of it is read."""

    def __init__(self, handler: Handler) -> None:
        self.handler = handler

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Answer 413 or pass on."""
        length = request.headers.get("Content-Length", "")
        if length.isdigit() and int(length) > settings.LARGEST_UPLOAD_BYTES:
            most = settings.LARGEST_UPLOAD_BYTES // (1024 * 1024)
            return problem_response(413, f"The file is larger than {most} MB; export fewer laps.")
        return self.handler(request)


class AnswerMiddleware:
    """What holds for every answer: errors before and after the API, and what may be kept."""

    def __init__(self, handler: Handler) -> None:
        self.handler = handler

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Pass on; an API answer may be kept by the browser alone, and only to ask again."""
        response = self.handler(request)
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "private, no-cache")
        return response

    def process_exception(self, request: HttpRequest, raised: Exception) -> HttpResponse:
        """Whatever nobody caught."""
        return unexpected(request, raised)


class ReadAgainMiddleware:
    """Of what another removed while it was read, what is left is read: once, and changes never."""

    def __init__(self, handler: Handler) -> None:
        self.handler = handler

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Pass on, and once more if need be."""
        response = self.handler(request)
        if request.method == "GET" and request.META.get(REMOVED_MEANWHILE):
            return self.handler(request)
        return response


class PermissionsPolicyMiddleware:
    """The app uses no camera, microphone or place."""

    def __init__(self, handler: Handler) -> None:
        self.handler = handler

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Add the header."""
        response = self.handler(request)
        response.headers["Permissions-Policy"] = "camera=(), microphone=(), geolocation=()"
        return response
