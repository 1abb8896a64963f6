"""Accounts, workshops and their members."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta

from bilge_core.errors import InvalidInput, Problem
from config.errors import Conflict, NotAllowed, NotFound, Over
from django.contrib.auth import update_session_auth_hash
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import transaction
from django.http import HttpRequest
from django.utils import timezone

from accounts import sign_ins
from accounts.models import Invitation, User, Workshop

INVITATION_DAYS = 7
MOST_INVITATIONS = 20
"""Open at a time."""


def _digest(secret: str) -> str:
    return hashlib.sha256(secret.encode()).hexdigest()


@transaction.atomic
def open_account(username: str, password: str, workshop_name: str) -> User:
    """Make a user in the workshop of that name, which is made where there is none.

    An existing user only gets the password set. Whoever is first in a workshop owns it.
    """
    user = User.objects.filter(username=username).first()
    if user is None:
        workshop = Workshop.objects.filter(name=workshop_name).order_by("pk").first()
        user = User(
            username=username, workshop=workshop or Workshop.objects.create(name=workshop_name)
        )
    user.set_password(password)
    user.save()
    Workshop.objects.filter(pk=user.workshop_id, owner=None).update(owner=user)
    return user


def _owned(user: User) -> Workshop:
    """The user's workshop, held to the end of the transaction.

    Raises
    ------
    NotAllowed
        If it is somebody else's to decide.
    """
    workshop = Workshop.objects.select_for_update().get(pk=user.workshop_id)
    if workshop.owner_id != user.pk:
        raise NotAllowed("Only the workshop's owner invites, removes and hands over.")
    return workshop


def _member(workshop: Workshop, user_id: int) -> User:
    member = workshop.people.filter(pk=user_id, is_active=True).first()
    if member is None:
        raise NotFound("member")
    return member


@transaction.atomic
def invite(user: User) -> tuple[Invitation, str]:
    """A link's secret that lets one person join the user's workshop, once, for a week.

    Raises
    ------
    NotAllowed
    Conflict
        If too many are open.
    """
    workshop = _owned(user)
    now = timezone.now()
    if workshop.invitations.filter(used_by=None, expires_at__gt=now).count() >= MOST_INVITATIONS:
        raise Conflict(f"{MOST_INVITATIONS} invitations are open; take some back first.")
    secret = secrets.token_urlsafe(24)
    made = Invitation.objects.create(
        workshop=workshop,
        secret_digest=_digest(secret),
        made_by=user,
        expires_at=now + timedelta(days=INVITATION_DAYS),
    )
    return made, secret


@transaction.atomic
def take_back(user: User, invitation_id: int) -> None:
    """Make an invitation that nobody used worthless.

    Raises
    ------
    NotAllowed, NotFound
    """
    open_ones = Invitation.objects.filter(workshop=user.workshop_id, used_by=None)
    if not open_ones.filter(pk=invitation_id).exists():
        raise NotFound("invitation")
    _owned(user)
    open_ones.filter(pk=invitation_id).delete()


def invitation_of(secret: str, lock: bool = False) -> Invitation:
    """An invitation that is still good, by its secret.

    Raises
    ------
    Over
        If there is none, it was used or taken back, or its week is over.
    """
    rows = Invitation.objects.select_for_update() if lock else Invitation.objects.all()
    found = rows.filter(
        secret_digest=_digest(secret), used_by=None, expires_at__gt=timezone.now()
    ).first()
    if found is None:
        raise Over("This invitation was used, taken back, or its week is over. Ask for another.")
    return found


def _check_password(password: str, user: User, field: str) -> None:
    try:
        validate_password(password, user)
    except ValidationError as error:
        raise InvalidInput([Problem(field, " ".join(error.messages))]) from None


def join(request: HttpRequest, secret: str, username: str, password: str) -> User:
    """Make a user by an invitation and sign them in; the invitation is used up.

    Raises
    ------
    Over
        If the invitation is good no more.
    InvalidInput
        If the name is taken or the password too simple.
    """
    with transaction.atomic():
        invitation = invitation_of(secret, lock=True)
        user = User(username=username, workshop_id=invitation.workshop_id)
        try:
            user.clean_fields(exclude=["password", "workshop"])
        except ValidationError as error:
            raise InvalidInput([Problem("username", " ".join(error.messages))]) from None
        if User.objects.filter(username=username).exists():
            raise InvalidInput([Problem("username", "is taken already; choose another")])
        _check_password(password, user, "password")
        user.set_password(password)
        user.save()
        invitation.used_by = user
        invitation.save(update_fields=["used_by"])
    sign_ins.begin(request, user)
    return user


@transaction.atomic
def remove_member(user: User, user_id: int) -> None:
    """Let a member sign in no more; what they did keeps their name.

    Raises
    ------
    NotAllowed, NotFound
    Conflict
        If it is the owner.
    """
    member = _member(user.workshop, user_id)
    workshop = _owned(user)
    if member.pk == workshop.owner_id:
        raise Conflict("The owner cannot be removed; hand the workshop over first.")
    member.is_active = False
    member.save(update_fields=["is_active"])
    sign_ins.end_all(member)


@transaction.atomic
def hand_over(user: User, user_id: int) -> None:
    """Make another member the owner.

    Raises
    ------
    NotAllowed, NotFound
    """
    member = _member(user.workshop, user_id)
    workshop = _owned(user)
    workshop.owner = member
    workshop.save(update_fields=["owner"])


def change_password(request: HttpRequest, user: User, current: str, new: str) -> None:
    """Change one's own password; other browsers are signed out.

    Raises
    ------
    InvalidInput
        If the present one is wrong or the new one too simple.
    """
    if not user.check_password(current):
        raise InvalidInput([Problem("current", "is not your present password")])
    _check_password(new, user, "new")
    user.set_password(new)
    user.save(update_fields=["password"])
    before = request.session.session_key
    update_session_auth_hash(request, user)  # this browser stays, under another key
    user.sign_ins.filter(session_key=before).update(session_key=request.session.session_key)
    sign_ins.end_all(user, but=request.session.session_key)
