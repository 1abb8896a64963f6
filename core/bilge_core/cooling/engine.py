"""A build's heat: what its power gives to the oil, what its coolers take, where that ends."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bilge_core.cooling.exchangers import (
    OIL_HEAT,
    WATER_DENSITY,
    WATER_HEAT,
    Exchanger,
    capacity_rate,
    exchanger_rated,
)
from bilge_core.cooling.stint import HOTTEST, Heat, steady_temperature, stint
from bilge_core.document.build import Build
from bilge_core.document.circuit.feeding import Cooler, PlateCooler, WaterSource
from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.network.conditions import at_temperature, conditions
from bilge_core.oil import GRADES, density
from bilge_core.physics.arrays import Array
from bilge_core.physics.celsius import ZERO_CELSIUS
from bilge_core.quantities import si_from

SHARE_OF_POWER = 0.035
"""Of the engine's power that goes into the oil (from memory)."""
USED_OF_POWER = 0.6
"""Of its greatest power that an engine gives on average over a racing lap (ours)."""
LOST_A_KELVIN = 15.0
"""[W/K] through pan and block to the air that passes (ours: 10 to 25)."""
METAL_STORES = 12e3
"""[J/K] of block, pan and pump that go with the oil's temperature (ours: about 25 kg of steel)."""
RATED_AT = {"cooler": 80.0, "plate_cooler": 30.0}
"""[K] between oil and air, oil and water, that a maker rates a cooler at (ours: ask the maker)."""
RATED_FLOW = 40.0 / 60e3
"""[m3/s] of oil that it is rated at (ours)."""
AIR_WARMS = 35.0
"""[K] by which air through a matrix is warmed at its rating (ours)."""
WATER_FLOW = 60.0 / 60e3
"""[m3/s] of water through a plate cooler where nobody told (ours)."""
GAS_SPOILS = 1.0
"""Of a cooler's conductance that a share of gas takes away (a guess: no figure is known)."""

_SAMPLED = (40.0, 60.0, 75.0, 85.0, 95.0, 105.0, 115.0, 130.0, 150.0, 170.0)
"""[°C] at which the flow to the coolers is worked out; between them straight lines."""


@dataclass(frozen=True)
class Conditions:
    """What a stint is run in; each with a likely value where nobody measured.

    power : the engine's greatest [W]
    used : of it, on average
    share : of it that goes into the oil
    air, water : what cools [K]
    speed : of the crank, mean [rad/s]
    gas : mean share of gas in the oil
    lasts : [s]
    begin : oil's temperature at the start [K]
    """

    power: float
    used: float
    share: float
    air: float
    water: float
    speed: float
    gas: float
    lasts: float
    begin: float

    @property
    def given(self) -> float:
        """Heat into the oil [W]."""
        return self.power * self.used * self.share


def heat_from_temperatures(flow: float, density_: float, into: float, out: float) -> float:
    """Heat that the oil takes up, from how much warmer it leaves the engine than it came [W].

    Parameters
    ----------
    flow : float
        [m3/s]
    density_ : float
        [kg/m3]
    into, out : float
        Temperatures of the oil into the engine and out of it [K].

    Raises
    ------
    InvalidQuantity
        If it leaves no warmer than it came.

    Examples
    --------
    >>> round(heat_from_temperatures(20.0 / 60e3, 820.0, 373.0, 393.0))
    12027
    """
    if not out > into:
        raise InvalidQuantity("temperature out", out, f"above that into the engine, {into:.1f} K")
    return capacity_rate(flow, density_) * (out - into)


@dataclass(frozen=True)
class CoolerAt:
    """A cooler where the oil comes to rest.

    component : its id
    heat : taken out [W]
    effectiveness : share of what could be
    flow : of oil through it [m3/s]
    oil_in, oil_out : [K]
    other_out : of air or water [K]
    is_guessed : its rating is not known, and it takes nothing out here
    """

    component: str
    heat: float
    effectiveness: float
    flow: float
    oil_in: float
    oil_out: float
    other_out: float
    is_guessed: bool


@dataclass(frozen=True)
class Cooling:
    """A stint's heat.

    given : into the oil [W]
    steady : where its temperature comes to rest [K]; None: hotter than is followed
    time, temperature : over the stint, shapes (n,) [s], [K]
    coolers : at rest, or at the hottest
    lost : through pan and block, there [W]
    """

    given: float
    steady: float | None
    time: Array
    temperature: Array
    coolers: tuple[CoolerAt, ...]
    lost: float


class _Coolers:
    """A build's coolers with the oil that its circuit sends through each at any temperature."""

    def __init__(self, build: Build, stint_in: Conditions) -> None:
        self.of: list[Cooler | PlateCooler] = [
            *build.circuit.of_kind(Cooler),
            *build.circuit.of_kind(PlateCooler),
        ]
        self._in = stint_in
        grade = GRADES[build.oil.grade]
        self._grade = grade
        self._made = {each.id: self._exchanger(build, each) for each in self.of}
        self._flows = {each.id: np.zeros(len(_SAMPLED)) for each in self.of}
        for at, warm in enumerate(_SAMPLED):
            there = conditions(at_temperature(build, warm), np.array([stint_in.speed]))[0]
            for part in there.along:
                if part.component in self._flows:
                    self._flows[part.component][at] = max(part.flow, 0.0)

    def _exchanger(self, build: Build, cooler: Cooler | PlateCooler) -> Exchanger | None:
        if cooler.rating_kw is None:
            return None
        rating, difference = cooler.rating_kw * 1e3, rated_over(cooler)
        oil = capacity_rate(RATED_FLOW, density(self._grade, si_from(100.0, "temperature", "°C")))
        if isinstance(cooler, Cooler):
            other = rating / AIR_WARMS
        else:
            other = WATER_DENSITY * WATER_HEAT * water_flow(build)
        try:
            return exchanger_rated(
                rating, difference, oil, other,
                "crossflow" if isinstance(cooler, Cooler) else "counterflow",
            )  # fmt: skip
        except InvalidQuantity as error:
            at = build.circuit.components.index(cooler)
            field = f"circuit.components.{at}.rating_kw"
            words = f"cannot be {error.value}: it must be {error.requirement}"
            raise InvalidInput([Problem(field, words)]) from error

    def flow(self, cooler: Cooler | PlateCooler, temperature: float) -> float:
        """Oil through one [m3/s] at the oil's temperature [K]."""
        return float(np.interp(temperature - ZERO_CELSIUS, _SAMPLED, self._flows[cooler.id]))

    def at(self, cooler: Cooler | PlateCooler, temperature: float) -> CoolerAt:
        """One at the oil's temperature [K]."""
        flow = self.flow(cooler, temperature)
        cold = self._in.air if isinstance(cooler, Cooler) else self._in.water
        rate = capacity_rate(flow, density(self._grade, temperature))
        made = self._made[cooler.id]
        if made is None or rate <= 0.0:
            return CoolerAt(cooler.id, 0.0, 0.0, flow, temperature, temperature, cold, made is None)
        spoiled = min(GAS_SPOILS * self._in.gas, 1.0)
        share = made.effectiveness(rate, spoiled)
        heat = made.takes(rate, temperature - cold, spoiled)
        return CoolerAt(
            cooler.id, heat, share, flow, temperature, temperature - heat / rate,
            cold + heat / made.other, False,
        )  # fmt: skip

    def taken(self, temperature: float) -> float:
        """By all of them [W]."""
        return sum(self.at(each, temperature).heat for each in self.of)


def first_cooler(build: Build) -> Cooler | PlateCooler | None:
    """The one whose rating is asked for: in the air before in the water; None without any."""
    in_air, in_water = build.circuit.of_kind(Cooler), build.circuit.of_kind(PlateCooler)
    return next(iter(in_air), None) or next(iter(in_water), None)


def rated_over(cooler: Cooler | PlateCooler) -> float:
    """Between oil and what cools it [K], at which a cooler is rated: its maker's, or guessed.

    Examples
    --------
    >>> rated_over(Cooler(kind="cooler", name="it", rated_over_kelvin=50))
    50.0
    >>> rated_over(Cooler(kind="cooler", name="it"))
    80.0
    """
    told = cooler.rated_over_kelvin
    return RATED_AT[cooler.kind] if told is None else told


def water_flow(build: Build) -> float:
    """Water through a build's plate cooler [m3/s]."""
    sources = build.circuit.of_kind(WaterSource)
    told = sources[0].flow_l_min if sources else None
    return WATER_FLOW if told is None else told / 60e3


def _heat(build: Build, stint_in: Conditions, coolers: _Coolers) -> Heat:
    oil = build.oil.volume_l * 1e-3 * density(GRADES[build.oil.grade], stint_in.begin)
    return Heat(
        stint_in.given, oil * OIL_HEAT + METAL_STORES, LOST_A_KELVIN, stint_in.air, coolers.taken
    )


def cooling_over(build: Build, stint_in: Conditions) -> Cooling:
    """A build's oil over a stint.

    Parameters
    ----------
    build : Build
    stint_in : Conditions

    Returns
    -------
    Cooling

    Raises
    ------
    InvalidInput
        If a cooler's rating cannot be, with its field named.

    Notes
    -----
    One temperature for all oil. A thermostat opens by that of the oil in the pan. A cooler in the
    air is rated, and run, at the same air: the car's mean speed is in its maker's figure.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> hot = Conditions(200e3, 0.6, 0.035, 298.0, 363.0, 500.0, 0.0, 1800.0, 333.0)
    >>> found = cooling_over(build, hot)
    >>> round(found.given), found.steady, found.coolers[0].is_guessed
    (4200, None, True)
    """
    coolers = _Coolers(build, stint_in)
    heat = _heat(build, stint_in, coolers)
    steady = steady_temperature(heat)
    there = HOTTEST if steady is None else steady
    time, temperature = stint(heat, stint_in.begin, stint_in.lasts)
    return Cooling(
        stint_in.given, steady, time, temperature,
        tuple(coolers.at(each, there) for each in coolers.of), heat.lost * (there - heat.air),
    )  # fmt: skip


def rating_for(build: Build, stint_in: Conditions, wanted: float) -> float | None:
    """The rating that a build's first cooler needs to keep the oil at a temperature.

    Parameters
    ----------
    build : Build
    stint_in : Conditions
    wanted : float
        [K]

    Returns
    -------
    float or None
        [W] at the difference it is rated at; None where no rating does, or it has no cooler.

    Notes
    -----
    By proportion first, then by halving: what a rating takes out rises with it.
    """
    first = first_cooler(build)
    if first is None:
        return None

    def steady_with(rating_kw: float) -> float | None:
        parts = [
            each.model_copy(update={"rating_kw": rating_kw}) if each.id == first.id else each
            for each in build.circuit.components
        ]
        circuit = build.circuit.model_copy(update={"components": parts})
        tried = build.model_copy(update={"circuit": circuit})
        try:
            made = _Coolers(tried, stint_in)
        except InvalidInput:
            return None
        return steady_temperature(_heat(tried, stint_in, made)) or HOTTEST

    low, high = 0.5, 60.0
    while (found := steady_with(high)) is None or found > wanted:
        if found is not None or high < 1.0:
            return None
        high *= 0.8
    for _ in range(20):
        middle = 0.5 * (low + high)
        found = steady_with(middle)
        if found is None or found < wanted:
            high = middle
        else:
            low = middle
    return high * 1e3
