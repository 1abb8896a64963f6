"""All that the stages tell of a build over a lap, for tests that hold it against what it was."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from functools import cached_property
from typing import Any

import numpy as np
from bilge_core.agreement.fit_entries import read_offered
from bilge_core.agreement.offered import Entered, offered_of
from bilge_core.agreement.places import places_of
from bilge_core.checks.circuit import check_circuit
from bilge_core.checks.drains import check_drains
from bilge_core.checks.dry import check_drive, check_dry
from bilge_core.cooling.engine import Conditions
from bilge_core.document.build import Build
from bilge_core.errors import BilgeError
from bilge_core.forecast import SettledForecast, forecast_settled
from bilge_core.forecast.alone import swings
from bilge_core.forecast.back_ups import DrainsForecast, drains_at, forecast_drains
from bilge_core.forecast.moving import forecast_moving
from bilge_core.forecast.on_record import CircuitLap, Record, circuit_lap, in_pan
from bilge_core.job.card import card_of
from bilge_core.job.line_parts import with_line_parts
from bilge_core.job.settings import CardSettings
from bilge_core.job.standing import NOTHING_DONE
from bilge_core.lines.bending import Bender
from bilge_core.loads.log import Log
from bilge_core.network import network_of
from bilge_core.options.candidate import Prices
from bilge_core.options.overfill import overfill_plan
from bilge_core.options.prepared import prepare
from bilge_core.pan import Pan, assemble_pan
from bilge_core.tell.alone import guesses_out
from bilge_core.tell.bottle import bottle_out, other_check, stopped_out
from bilge_core.tell.checks import check_out
from bilge_core.tell.circuit import circuit_out
from bilge_core.tell.circuit_lap import circuit_lap_out, layout_out
from bilge_core.tell.differences import differences_out
from bilge_core.tell.drains import drains_out
from bilge_core.tell.drains_at import at_load_out
from bilge_core.tell.drawing import drawing_out
from bilge_core.tell.dry_sump import dry_sump_out
from bilge_core.tell.fit import fit_out
from bilge_core.tell.heads import heads_out
from bilge_core.tell.job import Arrivals, Told, card_out
from bilge_core.tell.lines_all import lines_out
from bilge_core.tell.making import making_out
from bilge_core.tell.moving import figures_of, moving_out
from bilge_core.tell.overfill import overfill_out
from bilge_core.tell.pan import pan_out
from bilge_core.tell.printed import PrintAsked, printed_out
from bilge_core.tell.remedies import kept
from bilge_core.tell.settled import held_out, lap_out, rose_out, tilt_out
from bilge_core.tell.supply import cooling_out, supply_out

from tests.core.told_shortly import shortly

NOON = datetime(2026, 7, 13, 12, 0, tzinfo=UTC)  # a Monday
STINT = Conditions(
    power=160e3, used=0.45, share=0.08, air=301.0, water=361.0, speed=520.0, gas=0.02,
    lasts=1500.0, begin=330.0,
)  # fmt: skip


@dataclass(frozen=True)
class Stages:
    """A build over a lap, as each stage has it.

    as_is : what the car is, that the job makes a build of
    """

    build: Build
    log: Log
    as_is: Build

    @cached_property
    def pan(self) -> Pan:
        return assemble_pan(self.build)

    @cached_property
    def settled(self) -> SettledForecast:
        return forecast_settled(self.build, self.log)

    @cached_property
    def circuit(self) -> CircuitLap:
        found = self.settled
        return circuit_lap(self.build, found.log, self.record, found.corners)

    @cached_property
    def record(self) -> Record:
        return Record(self.settled.log.time, self.settled.gas_share)

    @cached_property
    def drains(self) -> DrainsForecast:
        return forecast_drains(self.build, self.settled.log, self.settled.corners)

    def slosh(self) -> Any:
        over = lap_out(self.settled)
        rose = rose_out(self.pan, self.build.car)
        return [
            over, rose, held_out(self.pan, self.build.car, rose),
            tilt_out(self.pan, self.build.car, over), drawing_out(self.pan, self.build),
        ]  # fmt: skip

    def moves(self) -> Any:
        start = float(self.log.time[0]) + 3.0
        log = self.log.between(start, start + 0.4)
        return moving_out(figures_of(forecast_moving(self.build, log)))

    def of_the_pan(self) -> Any:
        return [pan_out(self.build, self.log), making_out(self.build, self.pan)]

    def printed(self) -> Any:
        return printed_out(self.build, self.pan, PrintAsked(what="pan"))

    def pressure(self) -> Any:
        lap = self.circuit
        return [
            circuit_out(self.build), layout_out(self.build, network_of(self.build)),
            circuit_lap_out(lap, in_pan(self.build, lap)),
            bottle_out(self.build, lap, self.settled.corners), stopped_out(self.build),
            other_check(self.build, self.settled.log, self.record, self.settled.corners),
            heads_out(self.build, self.settled.log, self.settled.corners),
            [check_out(self.build, each) for each in check_circuit(self.build)],
        ]  # fmt: skip

    def guesses(self) -> Any:
        return guesses_out(swings(self.build, self.settled.log, self.settled.corners))

    def supply(self) -> Any:
        return [supply_out(self.build, 4.2e5, 5000.0), cooling_out(self.build, STINT, True)]

    def backing_up(self) -> Any:
        told = drains_out(self.build, self.pan, self.drains, False)
        checks = check_drains(self.build, self.pan, self.drains)
        leaned = at_load_out(drains_at(self.build, 2.0, -8.0))
        return [told, leaned, [check_out(self.build, each) for each in checks]]

    def dry_sump(self) -> Any:
        checks = [*check_dry(self.build), *check_drive(self.build)]
        told = [check_out(self.build, each) for each in checks]
        if not self.build.circuit.is_dry:
            return told
        return [dry_sump_out(self.build, self.pan, self.settled), told]

    def lines(self) -> Any:
        return lines_out(self.build, Prices.generic(), Bender(), self.as_is)

    def fit(self) -> Any:
        entries = [{"kind": "round_begun", "means": "cardboard"}]
        places = places_of(self.build)
        for gap, place in zip((4.0, 11.0, None), places, strict=False):
            there = {"touches": True} if gap is None else {"gap_mm": gap}
            entries.append({"kind": "found", "place": place.id, **there})
        rows = (Entered(read_offered(each), "MK", NOON, 1) for each in entries)
        return fit_out(self.build, offered_of(rows), {1})

    def job(self) -> Any:
        said, prices = CardSettings(), Prices.generic()
        card = card_of(self.as_is, self.build, said, prices.hours)
        card = with_line_parts(card, self.build, Bender(), prices.fittings)
        told = Told(self.build, said, NOTHING_DONE, {})
        was, now = (each.model_dump(mode="json") for each in (self.as_is, self.build))
        return [
            card_out(card, told, NOON, prices, Arrivals({}, frozenset())),
            differences_out(was, now, "metric"),
        ]  # fmt: skip

    def remedies(self) -> Any:
        return [kept(each) for each in prepare(self.build, None)]

    def overfill(self) -> Any:
        plan = overfill_plan(self.build, self.settled.log, self.settled.corners)
        return overfill_out(self.build, plan)


SECTIONS: dict[str, Callable[[Stages], Any]] = {
    "slosh": Stages.slosh,
    "moves": Stages.moves,
    "pan": Stages.of_the_pan,
    "printed": Stages.printed,
    "pressure": Stages.pressure,
    "guesses": Stages.guesses,
    "supply": Stages.supply,
    "drains": Stages.backing_up,
    "dry sump": Stages.dry_sump,
    "lines": Stages.lines,
    "fit": Stages.fit,
    "job": Stages.job,
    "remedies": Stages.remedies,
    "overfill": Stages.overfill,
}


def told(stages: Stages, section: str) -> Any:
    """What one stage tells, shortly; what cannot be told says why."""
    try:
        found = plain(SECTIONS[section](stages))
    except BilgeError as error:
        return f"cannot be told: {error}"
    return [shortly(each) for each in found] if isinstance(found, list) else shortly(found)


def plain(value: Any) -> Any:
    """Answers as plain data."""
    if hasattr(value, "model_dump"):
        return value.model_dump(mode="json")
    if isinstance(value, list | tuple):
        return [plain(each) for each in value]
    return value


def short_lap(log: Log) -> Log:
    """A lap's first half minute, in which it brakes and turns both ways."""
    return log.between(float(log.time[0]), float(np.minimum(log.time[-1], log.time[0] + 30.0)))
