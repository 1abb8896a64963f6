"""Signing in and out, and making accounts."""

from __future__ import annotations

from config.errors import SignInRefused
from django.contrib.auth import authenticate, login, logout
from django.db import transaction
from django.http import HttpRequest

from accounts.models import User, Workshop


def sign_in(request: HttpRequest, username: str, password: str) -> User:
    """Sign in with name and password; failed attempts are counted and limited.

    Raises
    ------
    SignInRefused
        If they do not belong together; the sentence does not say which is wrong.
    """
    user = authenticate(request, username=username, password=password)
    if not isinstance(user, User):
        raise SignInRefused("Name and password do not belong together.")
    login(request, user)
    return user


def sign_out(request: HttpRequest) -> None:
    """End the session."""
    logout(request)


@transaction.atomic
def open_account(username: str, password: str, workshop_name: str) -> User:
    """Make a workshop and its first user; an existing user only gets the password set."""
    user = User.objects.filter(username=username).first()
    if user is None:
        workshop = Workshop.objects.create(name=workshop_name)
        user = User(username=username, workshop=workshop)
    user.set_password(password)
    user.save()
    return user
