"""Reads for the session."""

from __future__ import annotations

from bilge_core.hardware import INSPECTION
from bilge_core.oil import GRADES
from bilge_core.quantities import KINDS, convert
from bilge_core.quantities.kinds import FIELD_SUFFIXES
from django.conf import settings

from accounts.models import User
from accounts.schemas import FieldUnitsOut, SessionOut, UnitOut


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
        inspection_items=list(INSPECTION),
        largest_upload_mb=settings.LARGEST_UPLOAD_BYTES // (1024 * 1024),
    )
