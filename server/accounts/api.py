"""Session: who am I, sign in, sign out; the people of the workshop."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from ninja import Router, Status
from ninja.errors import HttpError
from ninja.utils import check_csrf

from accounts import selectors, services, sign_ins
from accounts.models import User
from accounts.requests import signed_in
from accounts.schemas import (
    AccessOut,
    InvitationIn,
    InvitedOut,
    JoinIn,
    NewInvitationOut,
    PasswordIn,
    PeopleOut,
    SessionOut,
    SignInIn,
    SignInOut,
)

router = Router()
people = Router()


def _check_token(request: HttpRequest) -> None:
    """What needs no session needs the page's own token all the same."""
    if check_csrf(request) is not None:
        raise HttpError(403, "The page is out of date; load it again.")


@router.get("", auth=None, response=SessionOut | None, operation_id="get_session")
def get_session(request: HttpRequest) -> SessionOut | None:
    """Who is signed in; null when nobody is."""
    get_token(request)  # a page that was kept on a phone brings no token of its own
    if not isinstance(request.user, User):
        return None
    sign_ins.seen(request, request.user)
    return selectors.session_of(request.user)


@router.post("", auth=None, response=SessionOut, operation_id="sign_in")
def sign_in(request: HttpRequest, payload: SignInIn) -> SessionOut:
    """Sign in."""
    _check_token(request)
    return selectors.session_of(sign_ins.sign_in(request, payload.username, payload.password))


@router.delete("", response={204: None}, operation_id="sign_out")
def sign_out(request: HttpRequest) -> Status[None]:
    """Sign out."""
    sign_ins.sign_out(request)
    return Status(204, None)


@router.post("/invitation", auth=None, response=InvitedOut, operation_id="look_at_invitation")
def look_at_invitation(request: HttpRequest, payload: InvitationIn) -> InvitedOut:
    """Whose workshop an invitation opens; it is not used up by looking."""
    _check_token(request)
    found = services.invitation_of(payload.secret)
    return InvitedOut(
        workshop=found.workshop.name,
        invited_by=found.made_by.username,
        expires_at=found.expires_at,
    )


@router.post("/join", auth=None, response={201: SessionOut}, operation_id="accept_invitation")
def accept_invitation(request: HttpRequest, payload: JoinIn) -> Status[SessionOut]:
    """Join a workshop by an invitation."""
    _check_token(request)
    user = services.join(request, payload.secret, payload.username, payload.password)
    return Status(201, selectors.session_of(user))


@router.put("/password", response={204: None}, operation_id="change_password")
def change_password(request: HttpRequest, payload: PasswordIn) -> Status[None]:
    """Change your own password; your other browsers are signed out."""
    services.change_password(request, signed_in(request), payload.current, payload.new)
    return Status(204, None)


@router.get("/sign-ins", response=list[SignInOut], operation_id="list_sign_ins")
def list_sign_ins(request: HttpRequest) -> list[SignInOut]:
    """Where you are signed in."""
    return selectors.sign_ins_of(signed_in(request), request.session.session_key)


@router.delete("/sign-ins/{int:sign_in_id}", response={204: None}, operation_id="end_sign_in")
def end_sign_in(request: HttpRequest, sign_in_id: int) -> Status[None]:
    """Sign out a browser of yours."""
    sign_ins.end_sign_in(signed_in(request), sign_in_id)
    return Status(204, None)


@router.get("/access", response=AccessOut, operation_id="get_access")
def get_access(request: HttpRequest) -> AccessOut:
    """Where Bilge is reached, for a phone's camera."""
    return selectors.access()


@router.get("/authority", operation_id="get_authority")
def get_authority(request: HttpRequest) -> HttpResponse:
    """The certificate of this shop's own authority, for a phone to trust."""
    return HttpResponse(
        selectors.authority(),
        content_type="application/x-x509-ca-cert",
        headers={"Content-Disposition": 'attachment; filename="bilge-authority.pem"'},
    )


@people.get("", response=PeopleOut, operation_id="list_people")
def list_people(request: HttpRequest) -> PeopleOut:
    """Who works here."""
    return selectors.people_of(signed_in(request))


@people.post("/invitations", response={201: NewInvitationOut}, operation_id="invite")
def invite(request: HttpRequest) -> Status[NewInvitationOut]:
    """A link by which one person joins."""
    made, secret = services.invite(signed_in(request))
    return Status(
        201,
        NewInvitationOut(
            id=made.pk, made_at=made.made_at, expires_at=made.expires_at, secret=secret
        ),
    )


@people.delete(
    "/invitations/{int:invitation_id}", response={204: None}, operation_id="take_back_invitation"
)
def take_back_invitation(request: HttpRequest, invitation_id: int) -> Status[None]:
    """Make a link worthless."""
    services.take_back(signed_in(request), invitation_id)
    return Status(204, None)


@people.delete("/{int:user_id}", response={204: None}, operation_id="remove_member")
def remove_member(request: HttpRequest, user_id: int) -> Status[None]:
    """Let a member in no more."""
    services.remove_member(signed_in(request), user_id)
    return Status(204, None)


@people.post("/{int:user_id}/owner", response=PeopleOut, operation_id="hand_over")
def hand_over(request: HttpRequest, user_id: int) -> PeopleOut:
    """Make another member the owner."""
    user = signed_in(request)
    services.hand_over(user, user_id)
    return selectors.people_of(user)
