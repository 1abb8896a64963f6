"""A dry sump's sizes, each wanted against found."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bilge_core.document.build import Build
from bilge_core.document.circuit.engine_side import Crankcase
from bilge_core.document.circuit.pumps import ScavengeStage
from bilge_core.document.circuit.run import Hose, Open, bore_of, length_of
from bilge_core.loads.log import Log
from bilge_core.network import Network, network_of, steady
from bilge_core.network.pipes import ENDS, pipe_resistance
from bilge_core.network.running import steady_at
from bilge_core.network.way_back import lines_behind, way_back_of
from bilge_core.oil import GRADES, kinematic_viscosity
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import apparent_gravity, up_from
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.pickup.demand import demanded_flow
from bilge_core.quantities import si_from
from bilge_core.rules import dry, pickup
from bilge_core.rules.drains import CRANKCASE, STAGE_SUCTION
from bilge_core.rules.rule import Rule, State
from bilge_core.scavenge.bubbles import least_bubble
from bilge_core.scavenge.lap import DryLap
from bilge_core.scavenge.level import IDLE
from bilge_core.scavenge.stages import scavenge_ratio, stages_on_pan, swept_of
from bilge_core.scavenge.tank import tank_of, tank_space, up_in_car
from bilge_core.scavenge.vacuum import case_pull, tank_over

_WORTH_SAYING = 0.05e-3  # [m3]: what is told has one decimal of a litre
_TOLD = 500.0  # [Pa] of pull that shows in hundredths of a bar
_TOP = 7000.0  # [rpm] where the build does not say its own (ours)


@dataclass(frozen=True)
class Sized:
    """One size: what it is, what is wanted, what was found, SI.

    key : str
    name, at : what, and where or when it counts
    unit : what both figures are in, SI
    wanted : None: nothing is wanted of it, it is told
    wanted_most : a range's upper end; None: `wanted` is one end alone
    found : None: not known
    state : good, caution or bad
    why : what is wrong and what would mend it; or what it means
    source : who says what is wanted
    """

    key: str
    name: str
    at: str
    unit: str
    wanted: float | None
    wanted_most: float | None
    found: float | None
    state: State
    why: str
    source: str


def _by_rule(
    rule: Rule, key: str, name: str, at: str, found: float, why: str, bad: bool = False
) -> Sized:
    holds = rule.holds(found)
    wanted, most = (rule.low, rule.high) if rule.low is not None else (rule.high, None)
    state: State = "good" if holds else "bad" if bad else "caution"
    return Sized(
        key, name, at, rule.unit, wanted, most, found, state, "" if holds else why, rule.source
    )


def top_speed(build: Build) -> float:
    """The crank's top speed [rad/s]; one of ours where the build does not say."""
    return float(speed_of_rpm(build.car.top_rpm or _TOP))


def _stages(build: Build) -> list[Sized]:
    pump, top = build.circuit.pump, top_speed(build)
    rpm = f"{build.car.top_rpm or _TOP:,.0f} rpm"
    idle = float(speed_of_rpm(IDLE))
    network = network_of(build)
    table = steady(network)
    taken, swept = float(table.drawn_at(np.array(idle))), float(demanded_flow(pump, idle))
    feeds: State = "good" if swept >= taken else "bad"
    rows = [
        Sized(
            "pressure_stage", "Pressure stage", "idle, hot", "m3/s", taken, None, swept, feeds,
            "" if swept >= taken else "It sweeps less than the engine lets through at idle: a "
            "larger stage, or a faster drive.",
            "ours: the circuit's own figure",
        )
    ]  # fmt: skip
    ratio = scavenge_ratio(build.circuit)
    check = dry.check_ratio(ratio, "circuit.components")
    rule = dry.SCAVENGE_RATIO
    rows.append(
        Sized(
            "ratio", "Scavenge over pressure", "all stages, times", "1", rule.low, rule.high, ratio,
            check.state, "" if check.state == "good" else f"{check.words}.", rule.source,
        )
    )  # fmt: skip
    ratios = [each.drive_ratio for each in build.circuit.of_kind(ScavengeStage)]
    fastest = max(pump.drive_ratio, *ratios)
    rows.append(
        _by_rule(
            dry.PUMP_SPEED, "pump_speed", "Pump speed", f"at {rpm}",
            fastest * (build.car.top_rpm or _TOP),
            "Its inlets do not fill: a larger pulley on the pump, and larger stages.",
        )
    )  # fmt: skip
    pull = -steady_at(network, top, network.inlet)
    rows.append(
        _by_rule(
            pickup.INLET_DEPRESSION, "suction_pull", "Suction pull", f"tank to pump, {rpm}",
            max(pull, 0.0), "A larger or shorter line from the tank.",
        )
    )  # fmt: skip
    rows += [*_scavenge_lines(build, network, top, rpm), *_crankcase(build, network, top, rpm)]
    rows += _tank_vent(build, float(table.drawn_at(np.array(top))), top, rpm)
    joined = _joined_speed(build, top)
    if joined is not None:
        rows.append(
            _by_rule(
                dry.RETURN_SPEED, "return_speed", "Joined line", f"at {rpm}", joined,
                "Oil and gas of all stages go through it: the next size up, or lines of their own "
                "to the tank.",
            )
        )  # fmt: skip
    return rows


def scavenge_suction(
    build: Build, network: Network, stage: ScavengeStage, speed: float
) -> float | None:
    """What a stage's line takes of pressure [Pa], its mouth under oil, at a crank speed [rad/s].

    Returns
    -------
    float or None
        None where it has no mouth or several (each has its share, nobody knows which), or the size
        or length of a line is not known.
    """
    tubes, lines = lines_behind(build.circuit, stage.id)
    if len(tubes) != 1:
        return None
    taken = 0.0
    for run in lines:
        if isinstance(run.line, Open):
            continue
        bore, long = bore_of(run.line), length_of(run)
        if bore is None or long is None:
            return None
        oil = network.oil
        line = pipe_resistance(bore * 1e-3, long * 1e-3, oil.density, oil.viscosity, ENDS)
        taken += line.drop(float(swept_of(stage, np.array(speed))))
    return taken


def _scavenge_lines(build: Build, network: Network, top: float, rpm: str) -> list[Sized]:
    """The line that holds its stage back most, running full of oil."""
    stages = stages_on_pan(build.circuit)
    known = {each.name: scavenge_suction(build, network, each, top) for each in stages}
    pulls = {name: pull for name, pull in known.items() if pull is not None}
    if not pulls:
        return []
    worst = max(pulls, key=lambda name: pulls[name])
    return [
        _by_rule(
            STAGE_SUCTION, "scavenge_suction", "Scavenge suction", f"{worst}, all oil, {rpm}",
            pulls[worst], "The stage does not fill just when oil comes: a size wider, or shorter.",
        )
    ]  # fmt: skip


def _tank_vent(build: Build, fed: float, top: float, rpm: str) -> list[Sized]:
    """The gas that all stages bring, out by the tank's vent; nothing of a build that says none."""
    swept = sum(
        float(swept_of(each, np.array(top))) for each in build.circuit.of_kind(ScavengeStage)
    )
    gas = max(swept - fed, 0.0)
    over = tank_over(build, gas) if build.circuit.of_kind(Crankcase) else None
    if over is None:
        return []
    return [
        _by_rule(
            dry.TANK_VENT, "tank_vent", "Tank's vent", f"{gas * 60e3:.0f} L/min of gas, {rpm}",
            over, "What the stages bring of gas hardly gets out: a wider vent, and breather.",
        )
    ]  # fmt: skip


def _crankcase(build: Build, network: Network, top: float, rpm: str) -> list[Sized]:
    """How far the stages pull it, told as a band; nothing of a build without one."""
    if not build.circuit.of_kind(Crankcase):
        return []
    pull = case_pull(build, network, top)
    if pull is None:
        return []
    band = f"{pull.least * 1e-5:.2f} to {pull.most * 1e-5:.2f} bar by how much it leaks"
    at = f"under the air, {rpm}" + (f"; {band}" if pull.most > _TOLD else "")
    if not CRANKCASE.holds(-pull.likely):
        return [
            Sized(
                "case_pull", "Crankcase", at, "Pa", None, None, 0.0, "caution",
                f"Blow-by is more than the stages take: {-pull.likely * 1e-2:.0f} mbar over the "
                "air. A wider breather, or larger stages.", CRANKCASE.source,
            )
        ]  # fmt: skip
    return [
        _by_rule(
            dry.CASE_PULL, "case_pull", "Crankcase", at, max(pull.likely, 0.0),
            "Seals let air past and the stages bring less: a relief valve for vacuum, or a way in "
            "for air.",
        )
    ]  # fmt: skip


def _joined_speed(build: Build, speed: float) -> float | None:
    """Speed of what all stages bring, gas and all, in the last line into the tank [m/s]."""
    circuit = build.circuit
    tank = tank_of(build)
    into = [r for r in circuit.runs if r.end.component == tank.id and r.service == "return"]
    bores = [bore for run in into if isinstance(run.line, Hose) and (bore := bore_of(run.line))]
    if not bores:
        return None
    area = sum(math.pi / 4.0 * (bore * 1e-3) ** 2 for bore in bores)
    turns = speed / (2.0 * math.pi)
    swept = sum(
        each.displacement_cm3 * 1e-6 * each.drive_ratio * turns
        for each in circuit.of_kind(ScavengeStage)
    )
    return swept / area


def _coming_back(build: Build, lap: DryLap) -> Sized:
    """What is in the lines between stages and tank, and for how long."""
    way, network = way_back_of(build), network_of(build)
    assert way is not None  # the lap has stages
    fed = float(steady(network).drawn_at(np.array(network.running)))
    longest = float(way.takes(fed, network.running)[way.draws].max())
    why = (
        f"{way.rough} of its lines have no length yet and count as empty."
        if way.rough
        else "In no tank meanwhile; what its cooler holds is a guess where nobody told it."
    )
    return Sized(
        "coming_back", "Coming back", f"in lines and cooler; {longest:.1f} s from mouth to tank",
        "m3", None, None, float(lap.coming_back.mean()), "caution" if way.rough else "good", why,
        "ours: lines as plugs, gas and oil in the order in which they came in",
    )  # fmt: skip


def _ups(build: Build, log: Log) -> Array:
    gravity = apparent_gravity(build.car, log.forward, log.leftward, log.upward)
    return np.asarray(up_in_car(build, up_from(gravity)))


def _tank(build: Build, log: Log, lap: DryLap) -> list[Sized]:
    space, ups = lap.tank, _ups(build, log)
    wanted_cover = dry.OUTLET_COVER.least
    worst = int(np.argmin(lap.cover))
    hardest = ups[np.argsort(lap.cover)[: max(1, len(ups) // 50)]]
    needs = max(space.to_cover(wanted_cover, up) for up in hardest)
    least = float(lap.in_tank.min())
    enough = least >= needs
    flow = float(np.percentile(lap.returned, 95))
    seconds = float(lap.in_tank.mean()) / max(flow, 1e-9)
    grade = GRADES[build.oil.grade]
    thick = float(kinematic_viscosity(grade, si_from(build.oil.temperature_c, "temperature", "°C")))
    deep = float(lap.in_tank.mean()) / space.area
    bubble = least_bubble(deep, max(seconds, 1e-3), thick)
    moved = _moved_outlet(build, space.outlet.centre, needs, hardest)
    more = max(1, math.ceil((needs - least) * 1e4)) / 10.0  # upward: what it says is enough
    short = f"{more:.1f} L more at the least moment, or a slimmer tank.{moved}"
    return [
        Sized(
            "tank_oil", "Oil in the tank", f"to cover its outlet by {wanted_cover * 1e3:.0f} mm",
            "m3", needs, None, least, "good" if enough else "caution", "" if enough else short,
            dry.OUTLET_COVER.source,
        ),
        _by_rule(
            dry.OUTLET_COVER, "outlet_cover", "Outlet's cover",
            f"lowest of the lap, at {log.time[worst] - log.time[0]:.1f} s", float(lap.cover[worst]),
            short, bad=float(lap.cover[worst]) <= 0.0,
        ),
        _by_rule(
            dry.TANK_TIME, "tank_time", "Time in the tank", "at full flow", seconds,
            "Its gas has little time to rise: more oil in a larger tank, or a separator ahead.",
        ),
        _coming_back(build, lap),
        Sized(
            "bubbles", "Bubbles that rise", "in that time, larger than", "m", None, None, bubble,
            "good", "Stokes's law, a cut size: no promise of how much gas is left.",
            "Stokes's law",
        ),
        _by_rule(
            dry.TANK_FULL, "tank_full", "Tank, fullest", "share of its room",
            float(lap.in_tank.max()) / space.volume,
            "It may throw oil out by its vent: less oil, or a taller tank.",
        ),
        _by_rule(
            dry.LEFT_LYING, "left_lying", "Left lying in the pan", "most of the lap",
            float(lap.in_pan.max()), "A mouth where it lies, or larger stages.",
        ),
    ]  # fmt: skip


def _moved_outlet(build: Build, centre: Array, needs: float, ups: Array) -> str:
    """What an outlet in the middle would be worth, where it is not there."""
    if float(np.hypot(centre[0], centre[1])) < 1e-6:
        return ""
    tank = tank_of(build).model_copy(update={"outlet": "middle"})
    middle = tank_space(tank)
    less = needs - max(middle.to_cover(dry.OUTLET_COVER.least, up) for up in ups)
    if less < _WORTH_SAYING:
        return ""
    return f" With its outlet in the middle {less * 1e3:.1f} L less would do."


def sizing(build: Build, log: Log | None, lap: DryLap | None) -> tuple[Sized, ...]:
    """All sizes of a dry-sumped build; those of the tank over a lap where there is one.

    Parameters
    ----------
    build : Build
        With a tank.
    log : Log or None
        Prepared.
    lap : DryLap or None
        Over that log.

    Raises
    ------
    InvalidInput
        If its circuit cannot be run.
    """
    rows = _stages(build)
    if log is not None and lap is not None:
        rows += _tank(build, log, lap)
    return tuple(rows)
