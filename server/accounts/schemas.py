"""What the session says, who works here, and from where."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from bilge_core.document.parts import Seen
from ninja import Schema
from pydantic import Field, StringConstraints

UnitSystem = Literal["metric", "us"]
Password = Annotated[str, Field(min_length=1, max_length=200)]


class SignInIn(Schema):
    """Name and password."""

    username: str = Field(min_length=1, max_length=150)
    password: Password


class InvitationIn(Schema):
    """The secret of a link that somebody was given."""

    secret: str = Field(min_length=1, max_length=100)


class JoinIn(InvitationIn):
    """Name and password of whoever joins by an invitation."""

    username: Annotated[str, StringConstraints(min_length=1, max_length=150), Seen]
    password: Password


class InvitedOut(Schema):
    """Whose workshop an invitation opens."""

    workshop: str
    invited_by: str
    expires_at: datetime


class PasswordIn(Schema):
    """A new password, and the present one."""

    current: Password
    new: Password


class UnitOut(Schema):
    """How a stored figure is shown: ``shown = scale * stored + offset``."""

    label: str
    scale: float
    offset: float
    decimals: int


class FieldUnitsOut(Schema):
    """The unit of each ending of a field's name, in both systems."""

    suffix: str
    metric: UnitOut
    us: UnitOut


class RuleOut(Schema):
    """A limit of the trade or of ours, with its source; a limit is null where there is none."""

    key: str
    words: str
    source: str
    low: float | None
    high: float | None
    unit: str


class SessionOut(Schema):
    """Who is signed in, and what every screen needs to know."""

    username: str
    workshop: str
    units: list[FieldUnitsOut]
    grades: list[str]
    inspection_items: list[str]
    rules: list[RuleOut]
    largest_upload_mb: int


class MemberOut(Schema):
    """Somebody of the workshop."""

    id: int
    username: str
    is_owner: bool
    is_you: bool
    joined_at: datetime
    seen_at: datetime | None


class OpenInvitationOut(Schema):
    """An invitation that nobody has used yet."""

    id: int
    made_at: datetime
    expires_at: datetime


class PeopleOut(Schema):
    """Who works here; invitations are the owner's to see."""

    workshop: str
    you_own_it: bool
    members: list[MemberOut]
    invitations: list[OpenInvitationOut]


class NewInvitationOut(OpenInvitationOut):
    """With the secret of its link, told this once."""

    secret: str


class SignInOut(Schema):
    """A browser in which you are signed in."""

    id: int
    address: str
    browser: str
    began_at: datetime
    seen_at: datetime
    is_this: bool


class AccessOut(Schema):
    """Where Bilge is reached: the address, its QR code's rows of dark (1) and light (0) fields, and
    whether a phone needs this shop's own authority to trust it.
    """

    address: str
    code_rows: list[str]
    has_authority: bool
