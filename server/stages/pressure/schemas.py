"""What Pressure draws, and what is tried on it."""

from __future__ import annotations

from typing import Annotated, Any

from bilge_core.acts.bottle_tuned import TuneAccumulator
from bilge_core.acts.registry import figures_read, read_act
from bilge_core.cooling.engine import SHARE_OF_POWER, USED_OF_POWER
from bilge_core.errors import InvalidInput, Problem
from bilge_core.quantities import UnitSystem
from bilge_core.tell.bottle import BottleOut, OtherCheckOut, StoppedOut
from bilge_core.tell.circuit_lap import CircuitSamplesOut, LayoutOut
from bilge_core.tell.verdict import PressureOut
from ninja import Schema
from pydantic import BeforeValidator, Field, ValidationInfo

from stages.pressure.basis import Kind


class BasisOut(Schema):
    """What the figures rest on.

    `oil_apart_l`, `draw_apart_l_min`: of a preview, how far its circuit is from the run's.
    """

    kind: Kind
    run_id: int | None
    run_name: str
    words: str
    oil_apart_l: float | None
    draw_apart_l_min: float | None


class PressureStageOut(Schema):
    """The circuit of a build as it stands, over its lap."""

    state: int
    basis: BasisOut
    layout: LayoutOut
    pressure: PressureOut
    samples: CircuitSamplesOut
    in_pan_l: list[float]
    duration_s: float
    bottle: BottleOut | None
    other_check: OtherCheckOut | None
    stopped: StoppedOut | None


def _read(act: Any, told: ValidationInfo) -> TuneAccumulator:
    """The one act that is tried here, its figures as typed."""
    found = read_act(act, told.data.get("system", "metric"))
    if not isinstance(found, TuneAccumulator):
        raise InvalidInput([Problem("act.kind", "must be tune_accumulator: it is what is tried")])
    return found


class TrialIn(Schema):
    """An accumulator to try."""

    system: UnitSystem
    act: Annotated[TuneAccumulator, BeforeValidator(_read)]


class MapIn(Schema):
    """Sizes and pre-charges to map, in even steps from nearly nil."""

    most_l: Annotated[float, Field(gt=0.2, le=20)] = 4.0
    most_bar: Annotated[float, Field(gt=0.2, le=30)] = 4.0


class Supply(Schema):
    """What the pressure valve is to be set for; null: nothing."""

    wanted_bar: Annotated[float, Field(gt=0, le=20)] | None = None
    at_rpm: Annotated[float, Field(ge=300, le=20_000)] = 6000.0


class Stint(Schema):
    """What the oil's heat is worked out in; null: the likely figure, marked as guessed."""

    greatest_power_kw: Annotated[float, Field(gt=0, le=3000)] | None = None
    used_pct: Annotated[float, Field(gt=0, le=100)] = 100.0 * USED_OF_POWER
    to_oil_pct: Annotated[float, Field(gt=0, le=20)] = 100.0 * SHARE_OF_POWER
    air_c: Annotated[float, Field(ge=-30, le=60)] = 25.0
    water_c: Annotated[float, Field(ge=0, le=130)] = 88.0
    minutes: Annotated[float, Field(gt=0, le=1500)] = 25.0
    begin_c: Annotated[float, Field(ge=-30, le=150)] = 60.0
    engine_in_c: Annotated[float, Field(ge=-30, le=190)] | None = None
    engine_out_c: Annotated[float, Field(ge=-30, le=190)] | None = None
    """Of the oil, measured: both tell the heat, whatever the power."""


def _figures(raw: Any, told: ValidationInfo) -> Any:
    """Figures as typed, in the unit system that is told before them."""
    return figures_read(raw, told.data.get("system", "metric"), "asked")


class SupplyIn(Schema):
    """What to tell of the circuit in other conditions."""

    system: UnitSystem
    asked: Annotated[Supply, BeforeValidator(_figures)] = Supply()


class CoolingIn(Schema):
    """What to work the oil's heat out in."""

    system: UnitSystem
    asked: Annotated[Stint, BeforeValidator(_figures)] = Stint()
