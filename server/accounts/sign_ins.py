"""Signing in and out, and the browsers in which somebody is signed in."""

from __future__ import annotations

import threading
from datetime import timedelta
from importlib import import_module

from axes.models import AccessAttempt
from config.errors import NotFound, SignInRefused, TooMany
from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.db.models import Sum
from django.http import HttpRequest
from django.utils import timezone

from accounts.models import SignIn, User

MOST_FAILURES_OF_AN_ADDRESS = 20
"""In a quarter of an hour, whatever the names; of one name it is fewer (AXES_FAILURE_LIMIT)."""

_LOOKED_EVERY = timedelta(minutes=5)
_PATIENCE = 5.0  # [s]
_one_at_a_time = threading.BoundedSemaphore(1)
"""Checking a password is slow on purpose: strangers may keep one thread busy, not all."""


def _check_address(request: HttpRequest) -> None:
    since = timezone.now() - timedelta(hours=settings.AXES_COOLOFF_TIME)
    of_address = AccessAttempt.objects.filter(
        ip_address=request.META.get("REMOTE_ADDR"), attempt_time__gte=since
    )
    failed = of_address.aggregate(failed=Sum("failures_since_start"))["failed"] or 0
    if failed >= MOST_FAILURES_OF_AN_ADDRESS:
        raise TooMany("Too many failed sign-ins from your address. Wait a quarter of an hour.")


def sign_in(request: HttpRequest, username: str, password: str) -> User:
    """Sign in with name and password; failed attempts are counted and limited.

    Raises
    ------
    SignInRefused
        If they do not belong together; the sentence does not say which is wrong.
    TooMany
        If too many failed from this address, or many sign in at this moment.
    """
    _check_address(request)
    if not _one_at_a_time.acquire(timeout=_PATIENCE):
        raise TooMany("Many people sign in at this moment. Try again.")
    try:
        user = authenticate(request, username=username, password=password)
    finally:
        _one_at_a_time.release()
    if not isinstance(user, User):
        raise SignInRefused("Name and password do not belong together.")
    begin(request, user)
    return user


def begin(request: HttpRequest, user: User) -> None:
    """Sign a known user in, in this browser."""
    login(request, user, backend="django.contrib.auth.backends.ModelBackend")
    _note(request, user)


def _note(request: HttpRequest, user: User) -> None:
    SignIn.objects.update_or_create(
        session_key=request.session.session_key or "",
        defaults={
            "user": user,
            "address": str(request.META.get("REMOTE_ADDR", ""))[:45],
            "browser": request.headers.get("User-Agent", "")[:200],
            "seen_at": timezone.now(),
        },
    )


def sign_out(request: HttpRequest) -> None:
    """End the session of this browser."""
    SignIn.objects.filter(session_key=request.session.session_key).delete()
    logout(request)


def seen(request: HttpRequest, user: User) -> None:
    """Note, now and then, that somebody is about in a browser."""
    lately = timezone.now() - _LOOKED_EVERY
    mine = SignIn.objects.filter(user=user, session_key=request.session.session_key)
    if not mine.filter(seen_at__gte=lately).exists():
        _note(request, user)


def _drop(rows: list[SignIn]) -> None:
    store = import_module(settings.SESSION_ENGINE).SessionStore
    for row in rows:
        store(row.session_key).delete()
        row.delete()


def end_sign_in(user: User, sign_in_id: int) -> None:
    """End a sign-in of one's own, in whatever browser.

    Raises
    ------
    NotFound
    """
    row = SignIn.objects.filter(user=user, pk=sign_in_id).first()
    if row is None:
        raise NotFound("sign-in")
    _drop([row])


def end_all(user: User, but: str | None = None) -> None:
    """End all sign-ins of a user, but for one session."""
    _drop(list(SignIn.objects.filter(user=user).exclude(session_key=but or "")))
