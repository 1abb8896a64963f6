"""Session: who am I, sign in, sign out."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router, Status
from ninja.errors import HttpError
from ninja.utils import check_csrf

from accounts import selectors, services
from accounts.requests import signed_in
from accounts.schemas import SessionOut, SignInIn

router = Router()


@router.get("", response=SessionOut, operation_id="get_session")
def get_session(request: HttpRequest) -> SessionOut:
    """Who is signed in."""
    return selectors.session_of(signed_in(request))


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
