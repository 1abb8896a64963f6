"""A circuit in other conditions, and the oil's heat, as everybody reads them."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
from pydantic import BaseModel

from bilge_core.acts.filtering import SecondFilter
from bilge_core.cooling.engine import (
    Conditions,
    Cooling,
    cooling_over,
    first_cooler,
    heat_from_temperatures,
    rated_over,
    rating_for,
)
from bilge_core.cooling.exchangers import BTU_PER_HOUR
from bilge_core.document.build import Build
from bilge_core.document.circuit.feeding import Filter, RemoteFilter
from bilge_core.document.circuit.pumps import Regulator, Relief
from bilge_core.document.circuit.run import HardLine, Hose, bore_of, contents_of
from bilge_core.errors import InvalidInput
from bilge_core.network import held_running
from bilge_core.network.conditions import (
    Condition,
    Setting,
    StartUp,
    at_temperature,
    conditions,
    past_filter,
    setting_for,
    start_up,
)
from bilge_core.oil import GRADES, density
from bilge_core.physics.celsius import ZERO_CELSIUS
from bilge_core.physics.turns import rpm_of_speed, speed_of_rpm
from bilge_core.rules.pickup import INLET_DEPRESSION

COLD_C = 15.0
"""[°C] of a cold start that is told (ours)."""
CRANKING_RPM = 250.0
"""[rpm] of a starter (from memory: 200 to 300)."""
_POINTS = (900.0, 2000.0, 3000.0, 4000.0, 5000.0, 6000.0, 7000.0)


class PartDropOut(BaseModel):
    """A part of the line at one condition."""

    component: str
    drop_bar: float
    flow_l_min: float
    bypassed_l_min: float


class ConditionOut(BaseModel):
    """The circuit running steadily. `unfiltered`: share that goes past the filter's element.

    `starves`: the pump's inlet is sucked so low that it fills badly.
    """

    rpm: float
    outlet_bar: float
    gallery_bar: float
    inlet_bar: float
    brought_l_min: float
    relieved_l_min: float
    unfiltered: float
    starves: bool
    along: list[PartDropOut]


class SettingOut(BaseModel):
    """What the valve that rules the pressure is set to for a wanted gallery."""

    valve: str
    wanted_bar: float
    rpm: float
    opens_bar: float | None
    now_bar: float | None
    most_bar: float
    least_bar: float


class SecondFilterOut(BaseModel):
    """The same at the highest speed with another filter on the base, and the oil it holds more."""

    gallery_bar: float
    drop_bar: float
    before_bar: float
    before_drop_bar: float
    more_oil_l: float


class HeldByLinesOut(BaseModel):
    """What the lines under pressure hold, and a metre more of the one that would be made longer.

    `name`, `bore_mm`: of that, the widest.
    """

    held_l: float
    name: str
    bore_mm: float
    more_l_m: float


class StartUpOut(BaseModel):
    """How long until the gallery has pressure, cranked: from dry, and primed."""

    rpm: float
    dry_s: float
    primed_s: float
    to_fill_l: float
    to_fill_primed_l: float


class SupplyOut(BaseModel):
    """A circuit at many speeds, hot and cold; its valve's setting; its start."""

    hot_c: float
    cold_c: float
    hot: list[ConditionOut]
    cold: list[ConditionOut]
    setting: SettingOut | None
    second_filter: SecondFilterOut | None
    lines: HeldByLinesOut | None
    start_up: StartUpOut


class CoolerOut(BaseModel):
    """A cooler where the oil comes to rest. `rating_known`: else it takes nothing out here."""

    component: str
    heat_kw: float
    heat_btu_h: float
    effectiveness: float
    flow_l_min: float
    oil_in_c: float
    oil_out_c: float
    other_out_c: float
    rating_known: bool


class CoolingOut(BaseModel):
    """The oil's heat over a stint; `steady_c` null: hotter than its figures reach.

    `needed_kw`, `needed_btu_h`: rating of the first cooler that keeps the wanted temperature.
    `usual_bar`: gallery at the mean speed, at the document's temperature and at the steady one.
    """

    power_guessed: bool
    given_kw: float
    given_btu_h: float
    lost_kw: float
    steady_c: float | None
    wanted_c: float
    needed_kw: float | None
    needed_btu_h: float | None
    needed_over_kelvin: float | None
    """Between oil and what cools it, at which that rating counts; null without a cooler."""
    over_is_guessed: bool
    coolers: list[CoolerOut]
    time_s: list[float]
    temperature_c: list[float]
    usual_bar: float
    steady_bar: float | None


def _bar(pressure: float) -> float:
    return round(pressure / 1e5, 2)


def _flow(flow: float) -> float:
    return round(flow * 60e3, 1)


def _condition(found: Condition, filters: frozenset[str]) -> ConditionOut:
    return ConditionOut(
        rpm=round(float(rpm_of_speed(found.speed))),
        outlet_bar=_bar(found.outlet),
        gallery_bar=_bar(found.gallery),
        inlet_bar=_bar(found.inlet),
        brought_l_min=_flow(found.swept),
        relieved_l_min=_flow(max(found.relieved, 0.0)),
        unfiltered=round(past_filter(found, filters), 2),
        starves=not INLET_DEPRESSION.holds(-found.inlet),
        along=[
            PartDropOut(
                component=part.component,
                drop_bar=_bar(part.drop),
                flow_l_min=_flow(part.flow),
                bypassed_l_min=_flow(part.bypassed),
            )
            for part in found.along
        ],
    )


def _filters(build: Build) -> frozenset[str]:
    found = [*build.circuit.of_kind(Filter), *build.circuit.of_kind(RemoteFilter)]
    return frozenset(each.id for each in found)


def _setting(build: Build, wanted: float | None, rpm: float) -> SettingOut | None:
    regulators, reliefs = build.circuit.of_kind(Regulator), build.circuit.of_kind(Relief)
    valves: list[Regulator | Relief] = [*regulators, *reliefs]
    if not valves or wanted is None:
        return None
    found: Setting = setting_for(build, wanted, speed_of_rpm(rpm))
    return SettingOut(
        valve=valves[0].name,
        wanted_bar=round(wanted / 1e5, 2),
        rpm=rpm,
        opens_bar=None if found.opens is None else _bar(found.opens),
        now_bar=valves[0].opens_bar,
        most_bar=_bar(found.most),
        least_bar=_bar(found.least),
    )


def _second_filter(build: Build, before: Condition) -> SecondFilterOut | None:
    """What a second filter gains, where the base has room for one."""
    try:
        more = SecondFilter(kind="second_filter").done(build).build
    except InvalidInput:
        return None
    after = conditions(more, np.array([before.speed]))[0]

    def drop(found: Condition, of: Build) -> float:
        return _bar(sum(p.drop for p in found.along if p.component in _filters(of)))

    return SecondFilterOut(
        gallery_bar=_bar(after.gallery),
        drop_bar=drop(after, more),
        before_bar=_bar(before.gallery),
        before_drop_bar=drop(before, build),
        more_oil_l=round((held_running(more).pressed - held_running(build).pressed) * 1e3, 2),
    )


def _lines(build: Build) -> HeldByLinesOut | None:
    """Hoses and hard lines under pressure; None where there are none of a known bore."""
    known = [
        (bore, run)
        for run in build.circuit.runs
        if run.service == "pressure" and isinstance(run.line, Hose | HardLine)
        and (bore := bore_of(run.line)) is not None
    ]  # fmt: skip
    if not known:
        return None
    bore, widest = max(known, key=lambda each: each[0])
    held = sum(contents_of(run) or 0.0 for _, run in known)
    return HeldByLinesOut(
        held_l=round(held * 1e3, 2), name=widest.name, bore_mm=round(bore, 1),
        more_l_m=round(math.pi / 4.0 * bore**2 * 1e-3, 3),
    )  # fmt: skip


def _start_up(found: StartUp) -> StartUpOut:
    return StartUpOut(
        rpm=CRANKING_RPM,
        dry_s=round(found.dry, 1),
        primed_s=round(found.primed, 1),
        to_fill_l=round(found.from_dry * 1e3, 2),
        to_fill_primed_l=round(found.from_primed * 1e3, 2),
    )


def supply_out(build: Build, wanted: float | None, rpm: float) -> SupplyOut:
    """A build's circuit in other conditions.

    Parameters
    ----------
    build : Build
    wanted : float, optional
        Gallery pressure that the valve is to be set for [Pa].
    rpm : float
        At which.

    Raises
    ------
    InvalidInput
        If it cannot be run, with the field named.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> told = supply_out(read_build(Path("demo/dunlin.json").read_text()), 4e5, 6000.0)
    >>> told.cold[0].gallery_bar > 2 * told.hot[0].gallery_bar, told.setting.valve
    (True, 'relief valve')
    """
    top = build.car.top_rpm or _POINTS[-1]
    speeds = np.array([speed_of_rpm(each) for each in _POINTS if each <= max(top, _POINTS[0])])
    filters = _filters(build)
    hot = conditions(build, speeds)
    cold = conditions(at_temperature(build, COLD_C), speeds[:3])
    return SupplyOut(
        hot_c=build.oil.temperature_c,
        cold_c=COLD_C,
        hot=[_condition(each, filters) for each in hot],
        cold=[_condition(each, filters) for each in cold],
        setting=_setting(build, wanted, rpm),
        second_filter=_second_filter(build, hot[-1]),
        lines=_lines(build),
        start_up=_start_up(start_up(build, speed_of_rpm(CRANKING_RPM))),
    )


def _cooling(build: Build, found: Cooling) -> list[CoolerOut]:
    return [
        CoolerOut(
            component=each.component,
            heat_kw=round(each.heat / 1e3, 2),
            heat_btu_h=round(each.heat / BTU_PER_HOUR, -2),
            effectiveness=round(each.effectiveness, 2),
            flow_l_min=_flow(each.flow),
            oil_in_c=round(each.oil_in - ZERO_CELSIUS, 1),
            oil_out_c=round(each.oil_out - ZERO_CELSIUS, 1),
            other_out_c=round(each.other_out - ZERO_CELSIUS, 1),
            rating_known=not each.is_guessed,
        )
        for each in found.coolers
    ]


def _gallery_at(build: Build, temperature_c: float, speed: float) -> float:
    there = at_temperature(build, temperature_c)
    return _bar(conditions(there, np.array([speed]))[0].gallery)


def measured_share(
    build: Build, stint_in: Conditions, flow: float, into_c: float, out_c: float
) -> Conditions:
    """The same with the heat that the oil's temperatures tell, in and out of the engine.

    Parameters
    ----------
    build : Build
    stint_in : Conditions
    flow : float
        Through the engine [m3/s].
    into_c, out_c : float
        [°C]

    Raises
    ------
    InvalidQuantity
        If the oil leaves no warmer than it came.
    """
    weight = density(GRADES[build.oil.grade], into_c + ZERO_CELSIUS)
    heat = heat_from_temperatures(flow, weight, into_c + ZERO_CELSIUS, out_c + ZERO_CELSIUS)
    return replace(stint_in, share=heat / (stint_in.power * stint_in.used))


def cooling_out(build: Build, stint_in: Conditions, power_guessed: bool) -> CoolingOut:
    """A build's oil over a stint; the temperature wanted is the document's.

    Raises
    ------
    InvalidInput
        If a cooler's rating cannot be, with its field named.
    """
    found = cooling_over(build, stint_in)
    wanted = build.oil.temperature_c + ZERO_CELSIUS
    needed = rating_for(build, stint_in, wanted)
    first = first_cooler(build)
    steady = None if found.steady is None else found.steady - ZERO_CELSIUS
    return CoolingOut(
        power_guessed=power_guessed,
        given_kw=round(found.given / 1e3, 2),
        given_btu_h=round(found.given / BTU_PER_HOUR, -2),
        lost_kw=round(found.lost / 1e3, 2),
        steady_c=None if steady is None else round(steady, 1),
        wanted_c=build.oil.temperature_c,
        needed_kw=None if needed is None else round(needed / 1e3, 1),
        needed_btu_h=None if needed is None else round(needed / BTU_PER_HOUR, -2),
        needed_over_kelvin=rated_over(first) if first else None,
        over_is_guessed=first is not None and first.rated_over_kelvin is None,
        coolers=_cooling(build, found),
        time_s=found.time.round(0).tolist(),
        temperature_c=(found.temperature - ZERO_CELSIUS).round(1).tolist(),
        usual_bar=_gallery_at(build, build.oil.temperature_c, stint_in.speed),
        steady_bar=None if steady is None else _gallery_at(build, steady, stint_in.speed),
    )
