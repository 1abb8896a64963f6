"""What was looked at and measured, beside the document: taken once, never undone with the design.

A record has a time, a hand and the state that it was taken on, which whoever keeps it adds. Writing
one anew makes another that takes its place.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import Field, TypeAdapter

from bilge_core.document.dipped import Dipped
from bilge_core.document.ids import Document
from bilge_core.document.inspection import Inspected
from bilge_core.document.parts import Part
from bilge_core.document.problems import read_kept
from bilge_core.document.pump import GaugeReading


class InspectionRecord(Inspected):
    """One thing looked at."""

    kind: Literal["inspection"]


class PouredRecord(Dipped):
    """Oil poured in a litre at a time, and dipped."""

    kind: Literal["poured"]


class GaugeRecord(GaugeReading):
    """What the pressure gauge read."""

    kind: Literal["gauge"]


class LevelRecord(Part):
    """Where the oil stood on the stick."""

    kind: Literal["level"]
    level_mm: float = Field(ge=0, le=600, description="straight up from the lowest point inside")
    engine: Literal["cold", "hot", "running"]
    note: str = Field(default="", max_length=2000)


class TankLevelRecord(Part):
    """Where the oil stood in a dry sump's tank, and what the catch can took meanwhile."""

    kind: Literal["tank_level"]
    level_mm: float = Field(ge=0, le=1500, description="over the tank's floor, car level")
    engine: Literal["cold", "hot", "running"]
    after_min: float | None = Field(
        default=None, ge=0, le=600, description="since it was started, or stopped"
    )
    can_l: float | None = Field(
        default=None, ge=0, le=20, description="in the catch can since it was emptied"
    )
    note: str = Field(default="", max_length=2000)


AnyRecord = Annotated[
    InspectionRecord | PouredRecord | GaugeRecord | LevelRecord | TankLevelRecord,
    Field(discriminator="kind"),
]
RecordKind = Literal["inspection", "poured", "gauge", "level", "tank_level"]

_RECORDS: TypeAdapter[AnyRecord] = TypeAdapter(AnyRecord)


@dataclass(frozen=True)
class Records:
    """The records that count: none that another took the place of."""

    inspection: tuple[Inspected, ...] = ()
    dipped: Dipped | None = None
    gauge_readings: tuple[GaugeReading, ...] = ()


NO_RECORDS = Records()


def read_record(raw: Any, field: str = "record") -> AnyRecord:
    """A record from plain data.

    Raises
    ------
    InvalidInput
        With every faulty field named.

    Examples
    --------
    >>> read_record({"kind": "level", "level_mm": -3, "engine": "hot"})
    Traceback (most recent call last):
    ...
    bilge_core.errors.InvalidInput: record.level_mm: input should be greater than or equal to 0 \
(it is '-3')
    """
    return read_kept(_RECORDS, raw, field)


def records_from(records: Iterable[AnyRecord]) -> Records:
    """Those that count, by their kinds; of several pours the last.

    Examples
    --------
    >>> rows = [{"kind": "gauge", "engine_rpm": 900, "pressure_bar": 1, "oil_temperature_c": 90}]
    >>> len(records_from(read_record(row) for row in rows).gauge_readings)
    1
    """
    rows = list(records)
    poured = [each for each in rows if isinstance(each, PouredRecord)]
    return Records(
        inspection=tuple(each for each in rows if isinstance(each, InspectionRecord)),
        dipped=poured[-1] if poured else None,
        gauge_readings=tuple(each for each in rows if isinstance(each, GaugeRecord)),
    )


def records_in(document: Any) -> list[AnyRecord]:
    """What a document of before version 3 had in it that is a record since; none of a newer one.

    Raises
    ------
    InvalidInput
        With the document's field named.

    Examples
    --------
    >>> old = {"version": 1, "pan": {"inspection": [{"item": "Cracks", "found": "sound"}]}}
    >>> [each.kind for each in records_in(old)]
    ['inspection']
    """
    if not isinstance(document, dict) or document.get("version") not in (1, 2):
        return []
    pan: Document = document["pan"] if isinstance(document.get("pan"), dict) else {}
    found = [
        (f"pan.inspection.{at}", "inspection", row)
        for at, row in enumerate(_rows(pan.get("inspection")))
    ]
    if pan.get("dipped") is not None:
        found.append(("pan.dipped", "poured", pan["dipped"]))
    found += [
        (f"gauge_readings.{at}", "gauge", row)
        for at, row in enumerate(_rows(document.get("gauge_readings")))
    ]
    return [
        read_record({**row, "kind": kind} if isinstance(row, dict) else row, field)
        for field, kind, row in found
    ]


def _rows(value: Any) -> list[Any]:
    return value if isinstance(value, list) else []
