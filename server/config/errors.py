"""What services raise beside the core's own errors."""

from __future__ import annotations


class NotFound(Exception):
    """No such thing in the user's workshop."""

    def __init__(self, what: str) -> None:
        super().__init__(f"There is no such {what} in your workshop.")


class Conflict(Exception):
    """The thing changed since the user read it; nothing was saved."""


class SignInRefused(Exception):
    """Wrong name or password."""
