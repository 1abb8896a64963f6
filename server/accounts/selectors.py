"""Reads for the session and of the people."""

from __future__ import annotations

from pathlib import Path

import segno
from bilge_core.oil import GRADES
from bilge_core.quantities import KINDS, convert
from bilge_core.quantities.kinds import FIELD_SUFFIXES
from bilge_core.rules import RULES
from bilge_core.rules.inspection import ITEMS
from config.errors import Over
from django.conf import settings
from django.contrib.sessions.models import Session
from django.db.models import Max
from django.utils import timezone

from accounts.models import User, Workshop
from accounts.schemas import (
    AccessOut,
    FieldUnitsOut,
    MemberOut,
    OpenInvitationOut,
    PeopleOut,
    RuleOut,
    SessionOut,
    SignInOut,
    UnitOut,
)


def _unit(kind: str, stored: str, shown: str, decimals: int) -> UnitOut:
    offset = convert(0.0, kind, stored, shown)
    scale = convert(1.0, kind, stored, shown) - offset
    return UnitOut(label=shown, scale=scale, offset=offset, decimals=decimals)


def _field_units() -> list[FieldUnitsOut]:
    rows = []
    for suffix, (name, stored) in FIELD_SUFFIXES.items():
        kind = KINDS[name]
        rows.append(
            FieldUnitsOut(
                suffix=suffix,
                metric=_unit(name, stored, kind.metric, kind.metric_decimals),
                us=_unit(name, stored, kind.us, kind.us_decimals),
            )
        )
    return rows


def session_of(user: User) -> SessionOut:
    """What the web needs once, at the start."""
    return SessionOut(
        username=user.username,
        workshop=user.workshop.name,
        units=_field_units(),
        grades=list(GRADES),
        inspection_items=list(ITEMS),
        rules=[
            RuleOut(
                key=rule.key,
                words=rule.words,
                source=rule.source,
                low=rule.low,
                high=rule.high,
                unit=rule.unit,
            )
            for rule in RULES
        ],
        largest_upload_mb=settings.LARGEST_UPLOAD_BYTES // (1024 * 1024),
    )


def people_of(user: User) -> PeopleOut:
    """Who works in the user's workshop."""
    workshop = Workshop.objects.get(pk=user.workshop_id)
    owns = workshop.owner_id == user.pk
    members = workshop.people.filter(is_active=True).annotate(seen=Max("sign_ins__seen_at"))
    waiting = workshop.invitations.filter(used_by=None, expires_at__gt=timezone.now())
    return PeopleOut(
        workshop=workshop.name,
        you_own_it=owns,
        members=[
            MemberOut(
                id=member.pk,
                username=member.username,
                is_owner=member.pk == workshop.owner_id,
                is_you=member.pk == user.pk,
                joined_at=member.date_joined,
                seen_at=member.seen,
            )
            for member in members.order_by("username")
        ],
        invitations=[
            OpenInvitationOut(id=each.pk, made_at=each.made_at, expires_at=each.expires_at)
            for each in (waiting if owns else [])
        ],
    )


def sign_ins_of(user: User, session_key: str | None) -> list[SignInOut]:
    """The browsers in which a user is signed in, the last used first."""
    alive = Session.objects.filter(expire_date__gt=timezone.now()).values("session_key")
    return [
        SignInOut(
            id=row.pk,
            address=row.address,
            browser=browser_words(row.browser),
            began_at=row.began_at,
            seen_at=row.seen_at,
            is_this=row.session_key == session_key,
        )
        for row in user.sign_ins.filter(session_key__in=alive)
    ]


_SYSTEMS = (("Android", "Android"), ("iPhone", "iPhone"), ("iPad", "iPad"), ("Windows", "Windows"),
            ("Mac OS", "Mac"), ("Linux", "Linux"))  # fmt: skip


def browser_words(agent: str) -> str:
    """A browser's own description in a word or two: on what it runs.

    >>> browser_words("Mozilla/5.0 (Linux; Android 14) Mobile")
    'phone, Android'
    >>> browser_words("")
    'unknown'
    """
    system = next((word for mark, word in _SYSTEMS if mark in agent), None)
    if system is None:
        return "unknown" if not agent else agent.split("/", maxsplit=1)[0][:40]
    kind = "phone" if "Mobile" in agent or system == "iPhone" else "computer"
    return f"{'tablet' if system == 'iPad' else kind}, {system}"


def access() -> AccessOut:
    """Where this Bilge is reached."""
    address = settings.ADDRESS
    rows = segno.make(address, error="m").matrix if address else ()
    return AccessOut(
        address=address,
        code_rows=["".join(map(str, row)) for row in rows],
        has_authority=bool(settings.AUTHORITY),
    )


def authority() -> bytes:
    """The file of this shop's own authority.

    Raises
    ------
    Over
        If Bilge is not served by a certificate of its own.
    """
    file = Path(settings.AUTHORITY) if settings.AUTHORITY else None
    if file is None or not file.is_file():
        raise Over("Bilge has no authority of its own here; ./bilge start --lan makes one.")
    return file.read_bytes()
