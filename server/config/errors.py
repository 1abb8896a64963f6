"""What services raise beside the core's own errors."""

from __future__ import annotations


class NotFound(Exception):
    """No such thing in the user's workshop."""

    def __init__(self, what: str) -> None:
        super().__init__(f"There is no such {what} in your workshop.")


class Over(NotFound):
    """It was there once."""

    def __init__(self, words: str) -> None:
        Exception.__init__(self, words)


class Conflict(Exception):
    """The thing changed since the user read it.

    `kept_state` is the number of the state in which the user's edit is kept beside the newer
    one; None when there was nothing to keep.
    """

    def __init__(self, words: str, kept_state: int | None = None) -> None:
        self.kept_state = kept_state
        super().__init__(words)


class NotAllowed(Exception):
    """Somebody else's to decide."""


class TooMany(Exception):
    """Too much of it in too short a time."""


class SignInRefused(Exception):
    """Wrong name or password."""
