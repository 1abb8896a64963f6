"""An accumulator over a lap, tried otherwise, and the engine stopped: as everybody reads it."""

from __future__ import annotations

from dataclasses import dataclass, replace

from pydantic import BaseModel

from bilge_core.acts.act import Done
from bilge_core.acts.bottle import FitAccumulator
from bilge_core.acts.bottle_tuned import TuneAccumulator
from bilge_core.document.build import Build
from bilge_core.document.circuit.feeding import Accumulator, CheckValve
from bilge_core.document.circuit.joining import Restrictor, ShutOffValve
from bilge_core.document.circuit.run import length_of
from bilge_core.forecast.bottle import (
    Giving,
    best_charge,
    charge_cold,
    givings,
    holds_for,
    lost_backwards,
)
from bilge_core.forecast.bottle_map import BottleMap
from bilge_core.forecast.on_record import CircuitLap, Record, apart, circuit_lap
from bilge_core.forecast.stopping import Stopped, standing, stopped
from bilge_core.loads.corners import Corner, place_on_lap
from bilge_core.loads.log import Log
from bilge_core.network import Network, Trace, network_of, settled_in
from bilge_core.network.laws import AIR_PRESSURE
from bilge_core.network.order import order_of
from bilge_core.network.running import let_go_at_once
from bilge_core.physics.celsius import ZERO_CELSIUS
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.tell.verdict import PressureOut, pressure_out

_BELOW = 0.925
"""Of the best charge, to charge a warm bottle to: 5 to 10 % under it, as a hotter day would put it
over the cliff (ours)."""
TRIAL_STEP = 0.01
"""[s] of the circuit over a lap for an answer to a drag."""
_FIRST_LITRES = 2.0  # of a bottle that nobody has told the size of (ours)
_IDLE = speed_of_rpm(900.0)
"""Crank speed of an idling engine (ours)."""


class GivingOut(BaseModel):
    """One stretch in which the bottle gives oil; `refill_s` and `sag_share` of its refill."""

    start_s: float
    end_s: float
    place: str
    before_l: float
    after_l: float
    refill_s: float | None
    sag_share: float | None
    ran_empty: bool


class StandsOut(BaseModel):
    """Where the oil of a stopped engine stands in the pan; null: over the rail, or not known."""

    in_pan_l: float
    level_mm: float | None
    over_mark_mm: float | None
    under_crank_mm: float | None


class StoppedOut(BaseModel):
    """What a valve left open costs: what it keeps shut at speed, and at idle, and what runs out."""

    kept_at_speed_l: float
    kept_at_idle_l: float
    lands_l: float
    through_pump_l: float
    shut: StandsOut
    left_open: StandsOut


class OtherCheckOut(BaseModel):
    """The same lap with the check valve left out, or fitted where there is none."""

    fitted: bool
    lost_backwards_l: float
    lowest_bar: float


class BottleLineOut(BaseModel):
    """What is in an accumulator's line; None: not there, or not known."""

    switch_bar: float | None
    restrictor_mm: float | None
    length_mm: float | None
    is_laid: bool
    """Its length is that of its way on Lines."""


class BottleOut(BaseModel):
    """An accumulator over a lap.

    `advised_bar`: what to set cold, by the closed form. `opens`: how often an electric valve did;
    `chatters`: how often it would, were it not held open a second each time.
    """

    volume_l: float
    precharge_bar: float
    precharge_guessed: bool
    warm_bar: float
    warmth_c: float
    advised_bar: float | None
    holds_s: float
    charge_l: float
    least_l: float
    lost_backwards_l: float
    has_check: bool
    can_check: bool
    opens: int | None
    chatters: int | None
    line: BottleLineOut
    givings: list[GivingOut]


class TrialOut(BaseModel):
    """An accumulator tried over the lap, and what setting it would do."""

    words: str
    act: FitAccumulator | TuneAccumulator
    """That sets it so."""
    pressure: PressureOut
    bottle: BottleOut
    oil_added_l: float
    oil_apart_l: float
    draw_apart_l_min: float
    is_like: bool
    """The pan would hardly feel it: what is told will be near its own run."""


class BottleMapOut(BaseModel):
    """Lowest gallery pressure over size and pre-charge, a row a size."""

    volumes_l: list[float]
    precharges_bar: list[float]
    lowest_bar: list[list[float]]
    under_s: list[list[float]]


def _giving(giving: Giving, corners: tuple[Corner, ...]) -> GivingOut:
    _, place = place_on_lap(corners, giving.start)
    return GivingOut(
        start_s=round(giving.start, 2),
        end_s=round(giving.end, 2),
        place=place,
        before_l=round(giving.before * 1e3, 2),
        after_l=round(giving.after * 1e3, 2),
        refill_s=None if giving.refilled is None else round(giving.refilled - giving.end, 2),
        sag_share=None if giving.sag is None else round(giving.sag, 2),
        ran_empty=giving.ran_empty,
    )


def _check_of(build: Build, network: Network) -> tuple[bool, bool]:
    """Whether a check valve sits in line ahead of the bottle's tee; whether one can."""
    order = order_of(build, network)
    bottle = build.circuit.of_kind(Accumulator)[0]
    root = next(
        (each.root for each in order.branches if each.parts[-1].component == bottle.id), None
    )
    line = [part.component for part in order.line]
    if root not in line:
        return False, False
    before = line[line.index(root) - 1] if line.index(root) else build.circuit.pump.id
    return isinstance(build.circuit.component(before), CheckValve), True


def _opens(build: Build, lap: CircuitLap, trace: Trace) -> int | None:
    """How often an electric valve let oil out; None where there is none."""
    valves = [v for v in build.circuit.of_kind(ShutOffValve) if v.worked == "electric"]
    names = [at for at, (of, what) in enumerate(lap.network.elements)
             if what == "valve" and valves and of == valves[0].id]  # fmt: skip
    if not names or valves[0].opens_bar is None:
        return None
    out = trace.flow[:, names[0]] < -1e-6
    return int((out[1:] & ~out[:-1]).sum())


def _chatters(build: Build, lap: CircuitLap) -> int | None:
    """The same, were it let go as soon as the pressure is back; None where there is none."""
    if not lap.network.still.elements["holds"].any():
        return None
    network = let_go_at_once(lap.network)
    return _opens(build, lap, lap.met.run(network, lap.met.settled(network)))


def bottle_line_out(build: Build, network: Network) -> BottleLineOut:
    """What is in the line of a build's first accumulator, by its document; no lap feels it all."""
    bottle, circuit = build.circuit.of_kind(Accumulator)[0], build.circuit
    branches = order_of(build, network).branches
    names = next(
        ([each.component for each in branch.parts]
         for branch in branches if branch.parts[-1].component == bottle.id), [""],
    )  # fmt: skip
    valve = next((each for each in circuit.of_kind(ShutOffValve) if each.id in names), None)
    hole = next((each for each in circuit.of_kind(Restrictor) if each.id in names), None)
    run = next((each for each in circuit.runs if each.end.component == names[0]), None)
    long = None if run is None else length_of(run)
    return BottleLineOut(
        switch_bar=None if valve is None else valve.opens_bar,
        restrictor_mm=None if hole is None else hole.bore_mm,
        length_mm=None if long is None else round(long, 1),
        is_laid=run is not None and len(run.route) > 1,
    )


def bottle_out(build: Build, lap: CircuitLap, corners: tuple[Corner, ...]) -> BottleOut | None:
    """A build's first accumulator over a lap; None where it has none."""
    bottles = build.circuit.of_kind(Accumulator)
    if not bottles or not len(lap.network.still.bottles):
        return None
    row = lap.network.still.bottles[0]
    warmth = float(lap.network.still.whole["bottle_warmth"][0])
    volume = float(row["volume"])
    warm = float(row["amount"]) * warmth / volume - AIR_PRESSURE
    wanted = best_charge(lap.pressure.usual, lap.pressure.wanted) * _BELOW
    charge = lap.trace.charge[:, 0]
    has, can = _check_of(build, lap.network)
    return BottleOut(
        volume_l=round(volume * 1e3, 2),
        precharge_bar=round(charge_cold(warm, warmth) / 1e5, 2),
        precharge_guessed=bottles[0].precharge_bar is None,
        warm_bar=round(warm / 1e5, 2),
        warmth_c=round(warmth - ZERO_CELSIUS, 0),
        advised_bar=round(charge_cold(wanted, warmth) / 1e5, 1) if wanted > 0.0 else None,
        holds_s=round(holds_for(lap), 2),
        charge_l=round(float(lap.begin.charges[0]) * 1e3, 2),
        least_l=round(float(charge.min()) * 1e3, 2),
        lost_backwards_l=round(lost_backwards(lap) * 1e3, 2),
        has_check=has,
        can_check=can,
        opens=_opens(build, lap, lap.trace),
        chatters=_chatters(build, lap),
        line=bottle_line_out(build, lap.network),
        givings=[_giving(each, corners) for each in givings(lap)],
    )


def other_check(
    build: Build, log: Log, record: Record, corners: tuple[Corner, ...]
) -> OtherCheckOut | None:
    """The lap with the bottle's check valve left out, or with one; None where none can sit."""
    if not build.circuit.of_kind(Accumulator):
        return None
    has, can = _check_of(build, network_of(build))
    if not can:
        return None
    act = TuneAccumulator(kind="tune_accumulator", check_valve=not has, fill_up=False)
    lap = circuit_lap(act.done(build).build, log, record, corners, band=False)
    return OtherCheckOut(
        fitted=not has,
        lost_backwards_l=round(lost_backwards(lap) * 1e3, 2),
        lowest_bar=round(lap.pressure.lowest / 1e5, 2),
    )


def _stands(build: Build, more: float) -> StandsOut:
    found = standing(build, more)

    def shown(length: float | None) -> float | None:
        return None if length is None else round(length * 1e3, 0)

    return StandsOut(
        in_pan_l=round(found.volume * 1e3, 2),
        level_mm=shown(found.level),
        over_mark_mm=shown(found.over_mark),
        under_crank_mm=shown(found.under_crank),
    )


def stopped_out(build: Build) -> StoppedOut | None:
    """What a build's bottle does when the engine stops; None where it has none."""
    network = network_of(build)
    if not len(network.still.bottles):
        return None
    found: Stopped = stopped(
        network, settled_in(network, network.running), settled_in(network, _IDLE)
    )
    return StoppedOut(
        kept_at_speed_l=round(found.kept_at_speed * 1e3, 2),
        kept_at_idle_l=round(found.kept_at_idle * 1e3, 2),
        lands_l=round(found.lands * 1e3, 2),
        through_pump_l=round(found.through_pump * 1e3, 2),
        shut=_stands(build, 0.0),
        left_open=_stands(build, found.lands),
    )


def tried(build: Build, act: TuneAccumulator) -> tuple[FitAccumulator | TuneAccumulator, Done]:
    """An accumulator set otherwise, or fitted where there is none: the act, and what it does.

    It is fitted in the gallery's feed where there is a line, else at a tapping of the gallery.

    Raises
    ------
    InvalidInput
        If the act or the build cannot be, with the field named.
    """
    if build.circuit.of_kind(Accumulator):
        return act, act.done(build)
    fit = FitAccumulator(
        kind="fit_accumulator", volume_l=act.volume_l or _FIRST_LITRES,
        precharge_bar=act.precharge_bar, check_valve=act.check_valve is not False,
        valve=act.valve or "by_hand", dash=act.dash or 10, fill_up=act.fill_up,
    )  # fmt: skip
    return fit, fit.done(build)


@dataclass(frozen=True)
class OnRecord:
    """What trials are made on: a lap, what a mouth drew there, and the build that it is of.

    lap : of that build on its own record, in steps of `TRIAL_STEP`
    """

    log: Log
    record: Record
    corners: tuple[Corner, ...]
    of: Build
    lap: CircuitLap


def on_record(log: Log, record: Record, corners: tuple[Corner, ...], of: Build) -> OnRecord:
    """A build's own lap, for trials to be told from."""
    lap = circuit_lap(of, log, record, corners, step=TRIAL_STEP, band=False)
    return OnRecord(log, record, corners, of, lap)


def trial_out(build: Build, act: TuneAccumulator, on: OnRecord) -> TrialOut:
    """An accumulator set otherwise, over the lap on a record.

    Parameters
    ----------
    build : Build
        As it stands; without a bottle one is fitted to try.
    act : TuneAccumulator
    on : OnRecord

    Raises
    ------
    InvalidInput
        If the act or the build cannot be, with the field named.
    """
    whole, done = tried(build, act)
    corners = on.corners
    lap = circuit_lap(done.build, on.log, on.record, corners, step=TRIAL_STEP, band=False)
    far = apart(done.build, lap, on.of, on.lap)
    told = bottle_out(done.build, lap, corners)
    assert told is not None  # it has one
    return TrialOut(
        words=done.words,
        act=whole,
        pressure=pressure_out(replace(lap.pressure, band=None)),
        bottle=told,
        oil_added_l=round(done.build.oil.volume_l - build.oil.volume_l, 2),
        oil_apart_l=round(far.oil * 1e3, 3),
        draw_apart_l_min=round(far.draw * 60e3, 2),
        is_like=far.is_little,
    )


def bottle_map_out(found: BottleMap) -> BottleMapOut:
    """A map as everybody reads it."""
    return BottleMapOut(
        volumes_l=(found.volumes * 1e3).round(2).tolist(),
        precharges_bar=(found.precharges / 1e5).round(2).tolist(),
        lowest_bar=(found.lowest / 1e5).round(2).tolist(),
        under_s=found.under.round(2).tolist(),
    )
