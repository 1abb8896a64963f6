"""Limits and headers for every answer."""

from __future__ import annotations

from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest, HttpResponse

from config.problems import problem_response

Handler = Callable[[HttpRequest], HttpResponse]


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


class PermissionsPolicyMiddleware:
    """The app uses no camera, microphone or place."""

    def __init__(self, handler: Handler) -> None:
        self.handler = handler

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Add the header."""
        response = self.handler(request)
        response.headers["Permissions-Policy"] = "camera=(), microphone=(), geolocation=()"
        return response
