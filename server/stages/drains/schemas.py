"""What Drains draws, and what is tried on it."""

from __future__ import annotations

from typing import Annotated, Any

from bilge_core.acts.drain_tuned import TuneDrain
from bilge_core.acts.registry import read_act
from bilge_core.errors import InvalidInput, Problem
from bilge_core.quantities import UnitSystem
from bilge_core.tell.drains import DrainsOut
from ninja import Schema
from pydantic import BeforeValidator, Field, ValidationInfo


class DrainsStageOut(DrainsOut):
    """A build's drains as it stands, over its lap."""

    state: int
    has_lap: bool
    moves: bool
    """Told on the build's own run in moving oil."""
    duration_s: float
    words: str
    """What the figures rest on."""


class AssumedIn(Schema):
    """Guesses set otherwise: null leaves them."""

    foam_pct: float | None = Field(default=None, ge=0, le=80)
    blow_by_l_min: float | None = Field(default=None, gt=0, le=2000)


class LoadIn(AssumedIn):
    """A steady load: the car's acceleration, to the left and forward."""

    side_g: float = Field(ge=-3, le=3)
    fore_g: float = Field(ge=-3, le=3)


def _read(act: Any, told: ValidationInfo) -> TuneDrain:
    """The one act that is tried here, its figures as typed."""
    found = read_act(act, told.data.get("system", "metric"))
    if not isinstance(found, TuneDrain):
        raise InvalidInput([Problem("act.kind", "must be tune_drain: it is what is tried")])
    return found


class DrainTrialIn(AssumedIn):
    """A drain set otherwise, to try."""

    system: UnitSystem = "metric"
    act: Annotated[TuneDrain, BeforeValidator(_read)]


class DrainTrialOut(Schema):
    """What a trial would do: to the drain itself, and to the worst of all."""

    words: str
    run: str
    spare_mm: float
    spare_at_s: float
    flooded_s: float
    back_ups: int
    there_mm: float
    """At the build's own worst moment, as are the next two."""
    needed_mm: float
    push_mm: float
    highest_mbar: float
    worst_mm: float
    worst_name: str
