"""Session: who am I, sign in, sign out."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router, Status
from ninja.errors import HttpError
from ninja.utils import check_csrf

from accounts import selectors, services
from accounts.models import User
from accounts.schemas import SessionOut, SignInIn

router = Router()


@router.get("", auth=None, response=SessionOut | None, operation_id="get_session")
def get_session(request: HttpRequest) -> SessionOut | None:
    """Who is signed in; null when nobody is."""
    return selectors.session_of(request.user) if isinstance(request.user, User) else None


@router.post("", auth=None, response=SessionOut, operation_id="sign_in")
def sign_in(request: HttpRequest, payload: SignInIn) -> SessionOut:
    """Sign in."""
    if check_csrf(request) is not None:
        raise HttpError(403, "The page is out of date; load it again.")
    return selectors.session_of(services.sign_in(request, payload.username, payload.password))


@router.delete("", response={204: None}, operation_id="sign_out")
def sign_out(request: HttpRequest) -> Status[None]:
    """Sign out."""
    services.sign_out(request)
    return Status(204, None)
