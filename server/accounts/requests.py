"""The signed-in user of a request, with the type that services want."""

from __future__ import annotations

from django.http import HttpRequest

from accounts.models import User


def signed_in(request: HttpRequest) -> User:
    """The user; the API's session check has already refused everyone else."""
    user = request.user
    if not isinstance(user, User):
        raise TypeError("this call must sit behind the session check")
    return user
