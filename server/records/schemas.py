"""Records as they cross the boundary."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from bilge_core.acts.registry import figures_read
from bilge_core.document.records import AnyRecord, RecordKind, read_record
from bilge_core.quantities import UnitSystem
from ninja import Schema
from pydantic import BeforeValidator, ValidationInfo


def _read(record: Any, told: ValidationInfo) -> AnyRecord | None:
    """A record, its figures as typed in the unit system that is told before it."""
    if record is None:
        return None
    return read_record(figures_read(record, told.data.get("system", "metric"), "record"))


class RecordIn(Schema):
    """Something looked at or measured on a state of the build.

    `replaces`: the record that it is written anew for. Without a record that one is struck out.
    """

    state: int
    system: UnitSystem
    replaces: int | None = None
    record: Annotated[AnyRecord | None, BeforeValidator(_read)]


class RecordOut(Schema):
    """A record that counts. `state`: the number of the one that it was taken on."""

    id: int
    kind: RecordKind
    record: AnyRecord
    state: int
    taken_by: str
    taken_at: datetime
    written_anew: bool
    """Whether it took the place of another."""
