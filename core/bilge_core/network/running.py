"""The network run from Python: settled in, over a lap, steady at a speed."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bilge_core.errors import InvalidQuantity
from bilge_core.network.assembly import Network
from bilge_core.network.laws import SOLENOID
from bilge_core.network.march import march
from bilge_core.network.records import MOUTH, NOTHING_KEPT, Flowing, Kept, at_rest
from bilge_core.physics.arrays import Array
from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.physics.turns import speed_of_rpm

STEP = 0.005
"""[s]: 200 steps a second. Halved, it moves the time under a line by less than 0.02 s."""

_SETTLING_STEP = 0.05  # [s] with nothing but oil at the mouth, so that the plug allows it
_SETTLES_IN = 120.0  # [s]: what lies in a head with small drains takes half a minute (ours)
_STEADY_IN = 6.0  # [s] for pressures alone (ours)
LEVEL = np.array([0.0, 0.0, -STANDARD_GRAVITY])
"""Gravity that an engine feels standing upright [m/s2]."""

TABLE = speed_of_rpm(np.concatenate([np.arange(400.0, 4000.0, 200.0), np.arange(4e3, 14.1e3, 5e2)]))
"""Crank speeds [rad/s] at which steady pressures are worked out; between them straight lines."""


@dataclass(frozen=True)
class Trace:
    """A run of the network, a row for the end of each step.

    time : shape (n,) [s]
    pressure : of nodes, over the air's, shape (n, nodes) [Pa]
    gas : share of nodes' space that is gas, shape (n, nodes)
    flow : of elements, shape (n, elements) [m3/s]
    held : in vessels, shape (n, vessels) [m3]
    charge : oil in bottles, shape (n, bottles) [m3]
    end : the state after it
    """

    time: Array
    pressure: Array
    gas: Array
    flow: Array
    held: Array
    charge: Array
    end: Flowing


def run(
    network: Network,
    start: Flowing,
    speed: Array,
    gravity: Array,
    mouth_gas: Array,
    step: float = STEP,
) -> Trace:
    """Run a network over equal steps.

    Parameters
    ----------
    network : Network
    start : Flowing
        The state to begin from; it is left as it is.
    speed : ndarray, shape (n,)
        Of the crank [rad/s].
    gravity : ndarray, shape (n, 3)
        Felt, in the engine's frame [m/s2].
    mouth_gas : ndarray, shape (n,)
        Share of gas in what the mouth draws.
    step : float
        [s]

    Returns
    -------
    Trace

    Raises
    ------
    InvalidQuantity
        If the arrays differ in length, hold what is not a number, or the step is not above nil.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.network.assembly import network_of
    >>> network = network_of(read_build(Path("demo/dunlin.json").read_text()))
    >>> speed = np.full(400, 400.0)
    >>> trace = run(network, network.still, speed, np.tile(LEVEL, (400, 1)), np.zeros(400))
    >>> bool(4e5 < trace.pressure[-1, network.gallery] < 5e5)
    True
    """
    count = len(speed)
    if gravity.shape != (count, 3) or mouth_gas.shape != (count,):
        raise InvalidQuantity("gravity and gas", f"{gravity.shape}", f"{count} rows, as the speed")
    if not step > 0.0:
        raise InvalidQuantity("step", step, "above 0 s")
    if not all(np.all(np.isfinite(each)) for each in (speed, gravity, mouth_gas)):
        raise InvalidQuantity("speed, gravity or gas", "not a number", "finite")
    state = start.copy()
    kept = Kept(
        np.zeros((count, len(state.nodes))),
        np.zeros((count, len(state.nodes))),
        np.zeros((count, len(state.elements))),
        np.zeros((count, len(state.vessels))),
        np.zeros((count, len(state.bottles))),
    )
    rows, gas = np.ascontiguousarray(gravity), np.ascontiguousarray(mouth_gas)
    march(state, step, np.ascontiguousarray(speed), rows, gas, kept)
    time: Array = step * np.arange(1.0, count + 1.0)
    return Trace(time, kept.pressures, kept.gases, kept.flows, kept.held, kept.charges, state)


def _go_on(state: Flowing, speed: Array, gravity: Array, step: float) -> None:
    """Run on with nothing but oil at the mouth, keeping nothing."""
    rows = np.tile(gravity, (len(speed), 1))
    march(state, step, speed, rows, np.zeros(len(speed)), NOTHING_KEPT)


def on_steadily(state: Flowing, speed: float, seconds: float, gravity: Array = LEVEL) -> None:
    """Run a state on at one speed [rad/s] with nothing but oil at the mouth, keeping nothing."""
    _go_on(state, np.full(round(seconds / _SETTLING_STEP), speed), gravity, _SETTLING_STEP)


def settled_in(network: Network, speed: float, gravity: Array = LEVEL) -> Flowing:
    """The state of an engine that has long run at a speed under a steady load, mouth covered.

    Parameters
    ----------
    network : Network
    speed : float
        Of the crank [rad/s].
    gravity : ndarray, shape (3,)
        Felt [m/s2].

    Returns
    -------
    Flowing
        What has come back to the pan is taken out of it, so that `held` is what the engine holds.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.network.assembly import network_of
    >>> network = network_of(read_build(Path("demo/dunlin.json").read_text()))
    >>> 1.5e-3 < settled_in(network, 400.0).held < 4e-3
    True
    """
    state = at_rest(network.still)
    on_steadily(state, speed, _SETTLES_IN, gravity)
    state.given[:] = 0.0
    state.whole["drawn_oil"] = state.whole["drawn_gas"] = 0.0
    return state


@dataclass(frozen=True)
class Steady:
    """Running steadily with nothing but oil at the mouth; each of shape (n,).

    speed : of the crank, rising [rad/s]
    gallery : pressure in the main gallery, over the air's [Pa]
    drawn : at the mouth [m3/s]
    """

    speed: Array
    gallery: Array
    drawn: Array

    def gallery_at(self, speed: Array) -> Array:
        """Pressure in the gallery [Pa] at other speeds [rad/s]; beyond the last as there."""
        return np.asarray(np.interp(speed, self.speed, self.gallery))

    def drawn_at(self, speed: Array) -> Array:
        """Flow at the mouth [m3/s] at other speeds; a crank that hardly turns draws nothing."""
        there = np.concatenate([[0.0], self.speed])
        drawn = np.concatenate([[0.0], np.maximum(self.drawn, 0.0)])
        return np.asarray(np.interp(speed, there, drawn))


def steady(network: Network, speed: Array = TABLE) -> Steady:
    """A network running steadily at each of some speeds, level, its mouth covered.

    Parameters
    ----------
    network : Network
    speed : ndarray, shape (n,)
        Of the crank, rising [rad/s].

    Returns
    -------
    Steady

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.network.assembly import network_of
    >>> network = network_of(read_build(Path("demo/dunlin.json").read_text()))
    >>> idle, fast = steady(network, np.array([100.0, 600.0])).gallery
    >>> bool(idle < 2.0e5 < 4.5e5 < fast)
    True
    """
    state = at_rest(network.still)
    gallery, drawn = np.zeros(len(speed)), np.zeros(len(speed))
    for at, each in enumerate(speed.tolist()):
        on_steadily(state, each, _STEADY_IN)
        gallery[at] = state.nodes["pressure"][network.gallery]
        drawn[at] = state.elements["flow"][suction_of(network)]
    return Steady(speed, gallery, drawn)


def steady_at(network: Network, speed: float, node: int) -> float:
    """Pressure at a node [Pa], running steadily at a crank speed [rad/s] with nothing but oil."""
    state = at_rest(network.still)
    on_steadily(state, speed, _STEADY_IN)
    return float(state.nodes["pressure"][node])


def suction_of(network: Network) -> int:
    """The element from the mouth to the pump."""
    return int(np.flatnonzero(network.still.elements["start"] == MOUTH)[0])


def let_go_at_once(network: Network) -> Network:
    """The same network with electric valves that are not held open once the pressure is back."""
    still = network.still.copy()
    still.elements["holds"] = np.where(still.elements["holds"] > 0.0, SOLENOID, 0.0)
    return Network(**{**network.__dict__, "still": still})


def slips_on_gas(network: Network, sealing: float) -> Network:
    """The same network with a pump that slips otherwise on gas: see the guess `sealing_oil`."""
    still = network.still.copy()
    still.whole["sealing"] = sealing
    return Network(**{**network.__dict__, "still": still})
