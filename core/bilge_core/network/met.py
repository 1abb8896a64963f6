"""What a circuit meets over a lap: speed, lean and gas at its mouth, step by step."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bilge_core.errors import InvalidQuantity
from bilge_core.network.assembly import Network
from bilge_core.network.records import Flowing
from bilge_core.network.running import STEP, Trace, run, settled_in
from bilge_core.physics.arrays import Array


def between_looks(time: Array, share: Array) -> tuple[Array, Array]:
    """Means since the look before, as a share that runs through the middles between looks.

    Parameters
    ----------
    time : ndarray, shape (n,)
        Of the looks [s].
    share : ndarray, shape (n,)
        Mean since the look before.

    Returns
    -------
    pair of ndarray, shapes (n + 1,)
        Times [s], the first and the last look's among them, and the share there.

    Examples
    --------
    >>> between_looks(np.array([0.0, 1.0, 2.0]), np.array([0.0, 0.2, 0.4]))
    (array([0. , 0.5, 1.5, 2. ]), array([0. , 0.2, 0.4, 0.4]))
    """
    middles = 0.5 * (time[1:] + time[:-1])
    return np.concatenate([time[:1], middles, time[-1:]]), np.append(share, share[-1])


@dataclass(frozen=True)
class Met:
    """A row a step; times are since the start of the lap.

    time : ends of the steps, shape (n,) [s]
    speed : of the crank, half way through, shape (n,) [rad/s]
    gravity : felt at the end, in the engine's frame, shape (n, 3) [m/s2]
    gas : share in what the mouth draws, as the step begins, shape (n,)
    step : [s]
    first_speed, first_gravity : as the lap begins
    """

    time: Array
    speed: Array
    gravity: Array
    gas: Array
    step: float
    first_speed: float
    first_gravity: Array

    def settled(self, network: Network) -> Flowing:
        """The state of a network that has long run as the lap begins."""
        return settled_in(network, self.first_speed, self.first_gravity)

    def run(self, network: Network, begin: Flowing | None = None) -> Trace:
        """Run a network over the lap, settled in as it begins unless told how it stands."""
        start = self.settled(network) if begin is None else begin
        return run(network, start, self.speed, self.gravity, self.gas, self.step)


def met_over(
    time: Array, speed: Array, gravity: Array, gas_time: Array, gas: Array, step: float = STEP
) -> Met:
    """What a circuit meets, in equal steps.

    Parameters
    ----------
    time : ndarray, shape (n,)
        Rising, of the next two [s].
    speed : ndarray, shape (n,)
        Of the crank [rad/s].
    gravity : ndarray, shape (n, 3)
        Felt, in the engine's frame [m/s2].
    gas_time : ndarray, shape (m,)
        Rising, of the gas share, on the same clock [s]; the lap is as long as it.
    gas : ndarray, shape (m,)
        Share of gas in what the mouth draws.
    step : float
        [s]

    Returns
    -------
    Met

    Raises
    ------
    InvalidQuantity
        If there is not a step's worth of lap.

    Examples
    --------
    >>> time = np.arange(0.0, 1.01, 0.1)
    >>> met = met_over(time, 400.0 + 10.0 * time, np.tile([0, 0, -9.81], (11, 1)), time, 0.0 * time)
    >>> len(met.time), round(float(met.speed[0]), 3)
    (200, 400.025)
    """
    begin = float(gas_time[0])
    count = round((float(gas_time[-1]) - begin) / step)
    if count < 1:
        raise InvalidQuantity("lap", f"{gas_time[-1] - begin:g} s", f"of {step:g} s or more")
    ends: Array = step * np.arange(1.0, count + 1.0)
    at = time - begin
    return Met(
        ends,
        np.interp(ends - 0.5 * step, at, speed),
        np.column_stack([np.interp(ends, at, gravity[:, axis]) for axis in range(3)]),
        np.interp(ends - step, gas_time - begin, gas),
        step,
        float(np.interp(0.0, at, speed)),
        np.array([np.interp(0.0, at, gravity[:, axis]) for axis in range(3)]),
    )
