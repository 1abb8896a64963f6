"""How far scavenge stages pull the crankcase under the air: the gas they take, blow-by, leaks.

Nobody measures how much an engine leaks, so what is pulled is a band.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from scipy.optimize import brentq

from bilge_core.document.build import Build
from bilge_core.document.circuit.dry_and_gas import Tank
from bilge_core.network import Network, steady
from bilge_core.network.breathing import (
    AIR,
    GAS_DENSITY,
    GAS_VISCOSITY,
    Breathing,
    GasWay,
    blow_by,
    blow_by_at,
    gas_ways,
)
from bilge_core.network.drain_guesses import DrainGuesses
from bilge_core.network.guesses import Guess
from bilge_core.network.laws import AIR_PRESSURE
from bilge_core.network.pipes import hole_resistance
from bilge_core.physics.arrays import Array
from bilge_core.scavenge.stages import stages_on_pan, swept_of

LEAK = Guess(
    "case_leak", "a hole that leaks as all of an engine's seals and joints do",
    4e-3, 2e-3, 8e-3, "mm", 1e3, "ours: a gauge on the crankcase tells it",
)  # fmt: skip


def tank_over(build: Build, flow: float) -> float | None:
    """The tank's pressure over what its vent leads to [Pa], a flow of gas going out by it [m3/s].

    A breather at the vent's end is counted with it; of several vents each has its share.

    Returns
    -------
    float or None
        None where no vent leaves the tank.
    """
    tanks = {each.id for each in build.circuit.of_kind(Tank)}
    ways = gas_ways(build, DrainGuesses()).ways
    vents = [way for way in ways if way.start in tanks]
    if not vents:
        return None
    each = flow / len(vents)
    ends = {way.start: way.by for way in ways if way.end == AIR}
    return max(
        way.by.drop(each) + (ends[way.end].drop(each) if way.end in ends else 0.0) for way in vents
    )


def with_leak(breathing: Breathing, bore: float) -> Breathing:
    """The same with one more way between crankcase and air, a hole of that bore [m]."""
    leak = GasWay(
        LEAK.key, LEAK.words, breathing.source, AIR,
        hole_resistance(bore, GAS_DENSITY, GAS_VISCOSITY),
    )  # fmt: skip
    return replace(breathing, ways=(*breathing.ways, leak))


def case_pressure(breathing: Breathing, blow: float, pulled: float) -> float:
    """The crankcase's pressure over the air's [Pa] with so much gas pulled from it.

    Parameters
    ----------
    breathing : Breathing
        With a way to the air from its crankcase: see `with_leak`.
    blow : float
        Blow-by [m3/s].
    pulled : float
        Gas that stages sweep, as they find it in the crankcase [m3/s].

    Notes
    -----
    Quasi-steady. The thinner the crankcase's gas, the less of it a stage takes a turn: its share of
    what is swept is that of its pressure over the air's.

    Examples
    --------
    >>> bare = with_leak(Breathing((), "c7", ("c7",)), 4e-3)
    >>> [round(case_pressure(bare, 1e-3, pulled)) for pulled in (0.0, 1e-3, 2e-3)]
    [8252, 0, -6323]
    """

    def misses(pressure: float) -> float:
        left = blow - pulled * (1.0 + pressure / AIR_PRESSURE)
        return breathing.pressures(left)[breathing.source] - pressure

    if pulled <= 0.0:
        return breathing.pressures(blow)[breathing.source]
    highest = max(breathing.pressures(blow)[breathing.source], 0.0)
    above = 1.0 + highest * (1.0 + _SOLVED_TO)
    return float(brentq(misses, -AIR_PRESSURE, above, xtol=1e-3))


def gas_pulled(build: Build, network: Network, speed: Array) -> Array:
    """Gas that stages which draw from the pan sweep at crank speeds [rad/s]: [m3/s].

    What is pumped into the engine comes back through them; all else that they sweep is gas.
    """
    stages = stages_on_pan(build.circuit)
    swept = np.sum([swept_of(each, speed) for each in stages], axis=0)
    return np.maximum(np.asarray(swept) - steady(network).drawn_at(speed), 0.0)


@dataclass(frozen=True)
class CasePull:
    """How far the crankcase is under the air [Pa]: likely, and by how much it may leak."""

    least: float
    likely: float
    most: float


def case_pull(build: Build, network: Network, speed: float) -> CasePull | None:
    """How far a build's stages pull its crankcase at a crank speed [rad/s].

    Returns
    -------
    CasePull or None
        None where no stage draws from the pan.

    Raises
    ------
    InvalidInput
        If the build has no crankcase.
    """
    if not stages_on_pan(build.circuit):
        return None
    guessed = DrainGuesses()
    breathing = gas_ways(build, guessed)
    blow = float(blow_by_at(blow_by(build, guessed), build.car, np.array(speed)))
    pulled = float(gas_pulled(build, network, np.array(speed)))
    leaks = (LEAK.high, LEAK.likely, LEAK.low)
    found = [-case_pressure(with_leak(breathing, leak), blow, pulled) for leak in leaks]
    return CasePull(*found)


_SOLVED_TO = 1e-3  # of a pressure, at the least, that the ways out are solved to
_TABLE = 9  # speeds at which it is worked out (ours: between them straight lines)


def breathing_when_pulled(
    build: Build, network: Network, breathing: Breathing, blow: Array, speed: Array
) -> tuple[Breathing, Array]:
    """A crankcase whose stages pull gas from it: its ways with a leak, and the gas that is left.

    It is taken to leak as much as it likely may: what drains are helped by is not overstated.

    Parameters
    ----------
    build, network, breathing
    blow : ndarray, shape (n,)
        Blow-by [m3/s].
    speed : ndarray, shape (n,)
        Of the crank [rad/s].

    Returns
    -------
    Breathing, ndarray of shape (n,)
        As they were where no stage draws from the pan.
    """
    if not stages_on_pan(build.circuit):
        return breathing, blow
    leaky = with_leak(breathing, LEAK.high)
    order = np.argsort(speed)
    speeds = np.linspace(float(speed.min()), float(speed.max()), _TABLE)
    blows = np.interp(speeds, speed[order], blow[order])
    pulled = gas_pulled(build, network, speeds)
    left = [
        here - gas * (1.0 + case_pressure(leaky, here, gas) / AIR_PRESSURE)
        for here, gas in zip(blows.tolist(), pulled.tolist(), strict=True)
    ]
    return leaky, np.asarray(np.interp(speed, speeds, left))
