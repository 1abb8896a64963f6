"""The one place that turns errors into problem+json (RFC 9457)."""

from __future__ import annotations

import errno
import logging
import shutil
from collections.abc import Sequence
from typing import Any

from bilge_core.errors import BilgeError, InvalidInput, Problem
from django.conf import settings
from django.core.exceptions import (
    ObjectDoesNotExist,
    RequestDataTooBig,
    SuspiciousOperation,
    TooManyFieldsSent,
    TooManyFilesSent,
)
from django.db import DatabaseError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse, UnreadablePostError
from django.http.multipartparser import MultiPartParserError
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError
from ninja.errors import ValidationError as PayloadError
from pydantic import BaseModel

from config.errors import Conflict, NotAllowed, NotFound, SignInRefused, TooMany

log = logging.getLogger(__name__)


class FieldProblem(BaseModel):
    """One fault: where, and what would be right."""

    field: str
    message: str


class ProblemOut(BaseModel):
    """The body of every refusal."""

    status: int
    title: str
    problems: list[FieldProblem]
    kept_state: int | None = None


def problem_response(
    status: int, title: str, problems: Sequence[Problem] = (), kept_state: int | None = None
) -> HttpResponse:
    """A refusal as problem+json."""
    body = ProblemOut(
        status=status,
        title=title,
        problems=[FieldProblem(field=p.field, message=p.message) for p in problems],
        kept_state=kept_state,
    )
    return JsonResponse(body.model_dump(), status=status, content_type="application/problem+json")


def locked_out(request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
    """Too many failed sign-ins from one place for one name."""
    return problem_response(429, "Too many failed sign-ins. Wait a quarter of an hour.")


def csrf_refused(request: HttpRequest, reason: str = "") -> HttpResponse:
    """A write without this site's own token."""
    return problem_response(403, "The page is out of date; load it again.")


def _payload_problems(error: PayloadError) -> list[Problem]:
    found = []
    for item in error.errors:
        path = [str(step) for step in item["loc"][1:]]
        if path and path[0] in {"payload", "form", "mapping"}:
            path = path[1:]
        message = item["msg"].removeprefix("Value error, ")
        found.append(Problem(".".join(path) or "payload", message[0].lower() + message[1:]))
    return found


def install_handlers(api: NinjaAPI) -> None:
    """Teach the API which error is which answer."""

    def on(error: type[Exception], status: int) -> None:
        def handle(request: HttpRequest, raised: Exception | type[Exception]) -> HttpResponse:
            return problem_response(status, str(raised))

        api.add_exception_handler(error, handle)

    on(NotFound, 404)
    on(SignInRefused, 401)
    on(NotAllowed, 403)
    on(TooMany, 429)
    on(BilgeError, 422)

    @api.exception_handler(Conflict)
    def _conflict(request: HttpRequest, raised: Conflict) -> HttpResponse:
        return problem_response(409, str(raised), kept_state=raised.kept_state)

    @api.exception_handler(InvalidInput)
    def _invalid(request: HttpRequest, raised: InvalidInput) -> HttpResponse:
        return problem_response(422, "This was refused; nothing was saved.", raised.problems)

    @api.exception_handler(PayloadError)
    def _payload(request: HttpRequest, raised: PayloadError) -> HttpResponse:
        return problem_response(422, "The request was not understood.", _payload_problems(raised))

    @api.exception_handler(AuthenticationError)
    def _unknown(request: HttpRequest, raised: AuthenticationError) -> HttpResponse:
        return problem_response(401, "Sign in first.")

    @api.exception_handler(Http404)
    def _missing(request: HttpRequest, raised: Http404) -> HttpResponse:
        return problem_response(404, "There is no such page.")

    @api.exception_handler(HttpError)
    def _http(request: HttpRequest, raised: HttpError) -> HttpResponse:
        return problem_response(raised.status_code, str(raised))

    @api.exception_handler(Exception)
    def _other(request: HttpRequest, raised: Exception) -> HttpResponse:
        return unexpected(request, raised)


_BODY_FAULTS: dict[type[Exception], tuple[int, str]] = {
    MultiPartParserError: (400, "The form cannot be read: its parts are not as its head says."),
    UnreadablePostError: (400, "The request broke off; nothing was saved. Try again."),
    RequestDataTooBig: (413, "That is more text than Bilge takes at once."),
    TooManyFieldsSent: (413, "The form has more fields than Bilge takes."),
    TooManyFilesSent: (413, "The form has more files than Bilge takes."),
    SuspiciousOperation: (400, "The request cannot be read."),
}
"""What Django says of a body, looked up in this order."""

_NO_ROOM_ERRNOS = (errno.ENOSPC, errno.EDQUOT)
_NO_ROOM_IN_MARIADB = {28, 1021, 1114}
"""Its own errno, disk full, table full."""


REMOVED_MEANWHILE = "bilge.removed_meanwhile"
"""Set on a request while whose answer was read something of it went."""


def _no_room(raised: Exception) -> bool:
    if isinstance(raised, OSError):
        return raised.errno in _NO_ROOM_ERRNOS
    return isinstance(raised, DatabaseError) and bool({*raised.args[:1]} & _NO_ROOM_IN_MARIADB)


def unexpected(request: HttpRequest, raised: Exception) -> HttpResponse:
    """The answer to what no service raises: a body at fault, what another removed
    meanwhile, no database, no room, or a bug.
    """
    for fault, (status, words) in _BODY_FAULTS.items():
        if isinstance(raised, fault):
            return problem_response(status, words)
    if _no_room(raised):
        log.error("no room at %s: %s", request.path, raised)
        free = shutil.disk_usage(settings.ROOT).free / 1e6
        return problem_response(
            507, f"No room left on the disk: {free:.0f} MB free. Nothing was saved."
        )
    if isinstance(raised, ObjectDoesNotExist):
        log.warning("removed while it was asked for at %s: %s", request.path, raised)
        request.META[REMOVED_MEANWHILE] = True
        return problem_response(404, "Something of it was removed meanwhile. Ask again.")
    if isinstance(raised, OperationalError):
        log.warning("no database at %s: %s", request.path, raised)
        return problem_response(503, "The database does not answer just now. Try again.")
    log.error("unexpected error at %s", request.path, exc_info=raised)
    return problem_response(500, "Something went wrong in Bilge; nothing was saved.")
