"""What an accumulator does over a lap: what it gives, how long it holds, what it loses."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bilge_core.forecast.on_record import CircuitLap
from bilge_core.network.laws import AIR_PRESSURE, CHARGED_AT
from bilge_core.physics.arrays import Array
from bilge_core.rules.air import DRAWS_AIR

_ADIABATIC = 1.4
_GIVES = 0.2 / 60e3  # [m3/s] out of the bottle that is told as giving (ours)
_WORTH_TELLING = 0.1e-3  # [m3] that it gives in one go (ours)
_SPENT = 1e-5  # [m3] left in it: nothing (ours)


def charge_cold(warm: float, warmth: float) -> float:
    """What to set on a gauge at 20 °C for a pre-charge when warm [Pa], both over the air's.

    Parameters
    ----------
    warm : float
        Wanted at its running warmth [Pa].
    warmth : float
        What the bottle comes to [K].

    Returns
    -------
    float
        [Pa]

    Examples
    --------
    >>> round(charge_cold(3.2e5, 363.15) / 1e5, 1)
    2.4
    """
    return (warm + AIR_PRESSURE) * CHARGED_AT / warmth - AIR_PRESSURE


def charge_warm(cold: float, warmth: float) -> float:
    """What a pre-charge set at 20 °C is when warm [Pa], both over the air's.

    Examples
    --------
    >>> round(charge_warm(2.4e5, 363.15) / 1e5, 1)
    3.2
    """
    return (cold + AIR_PRESSURE) * warmth / CHARGED_AT - AIR_PRESSURE


def best_charge(full: float, least: float, exponent: float = _ADIABATIC) -> float:
    """The warm pre-charge with which a bottle gives most between two pressures [Pa].

    Parameters
    ----------
    full, least : float
        Pressures before and after, over the air's [Pa].
    exponent : float
        Of the gas while it gives: 1 for a slow dip, 1.4 for a quick one.

    Returns
    -------
    float
        Over the air's [Pa]. In a slow dip the least pressure wanted; in a quick one the gas cools
        as it grows, and the best is a little above. Just above it a cliff.

    References
    ----------
    Closed form of the ideal gas: all oil is out just as the least pressure is reached.

    Examples
    --------
    >>> round(best_charge(5e5, 2.5e5, exponent=1.0) / 1e5, 6)
    2.5
    >>> round(best_charge(5e5, 2.5e5) / 1e5, 2)
    3.08
    """
    first, last = full + AIR_PRESSURE, least + AIR_PRESSURE
    return float(first * (last / first) ** (1.0 / exponent) - AIR_PRESSURE)


def oil_given(
    volume: float, warm: float, full: float, least: float, exponent: float = _ADIABATIC
) -> float:
    """Oil that a bottle gives between two pressures [m3], its gas having come to its warmth before.

    Parameters
    ----------
    volume : float
        Of the bottle [m3].
    warm : float
        Its pre-charge when warm [Pa].
    full, least : float
        Pressures before and after [Pa]; all three over the air's.
    exponent : float
        Of the gas while it gives.

    Returns
    -------
    float

    Notes
    -----
    The gas is as warm as the bottle when it is charged, and cools while it gives: that takes a
    second or two. See `best_charge`.

    References
    ----------
    Closed form of the ideal gas.

    Examples
    --------
    >>> round(oil_given(2e-3, 2.4e5, 5e5, 2.5e5) * 1e3, 2)
    0.53
    """
    if full <= warm:
        return 0.0
    first = volume * (warm + AIR_PRESSURE) / (full + AIR_PRESSURE)
    grows = math.pow((full + AIR_PRESSURE) / (least + AIR_PRESSURE), 1.0 / exponent)
    second = first * grows
    return max(min(second, volume) - first, 0.0)


@dataclass(frozen=True)
class Giving:
    """One stretch in which a bottle gives oil.

    start, end : [s]
    before, after : oil in it [m3]
    refilled : when it was back to nine tenths of what it had [s]; None: not before the next
    sag : least share of the usual pressure that its refill pulled the gallery down to, the pump
        having oil again; None: it was not refilled
    """

    start: float
    end: float
    before: float
    after: float
    refilled: float | None
    sag: float | None

    @property
    def ran_empty(self) -> bool:
        """Nothing is left."""
        return self.after <= _SPENT


def givings(lap: CircuitLap, bottle: int = 0) -> tuple[Giving, ...]:
    """Stretches of a lap in which its bottle gives oil, in order.

    Parameters
    ----------
    lap : CircuitLap
    bottle : int

    Returns
    -------
    tuple of Giving
        Of a tenth of a litre or more each.
    """
    charge, time = lap.trace.charge[:, bottle], lap.log.time
    share = lap.gallery / lap.usual
    rate = np.gradient(charge, time)
    out = -rate > _GIVES
    fills = (rate > _GIVES) & (lap.trace.gas[:, lap.network.inlet] < DRAWS_AIR.most)
    edges = np.flatnonzero(np.diff(np.concatenate([[0], out.astype(np.int8), [0]])))
    found = []
    stretches = [
        (int(start), int(end) - 1)
        for start, end in edges.reshape(-1, 2)
        if charge[start] - charge[end - 1] >= _WORTH_TELLING
    ]
    for at, (start, end) in enumerate(stretches):
        next_one = stretches[at + 1][0] if at + 1 < len(stretches) else len(charge)
        after = charge[end:next_one]
        back = np.flatnonzero(after >= charge[end] + 0.9 * (charge[start] - charge[end]))
        refilled = float(time[end + back[0]]) if len(back) else None
        refill = share[end:next_one][fills[end:next_one]]
        found.append(
            Giving(
                float(time[start]), float(time[end]), float(charge[start]), float(charge[end]),
                refilled, float(refill.min()) if len(refill) else None,
            )
        )  # fmt: skip
    return tuple(found)


def drunk(lap: CircuitLap) -> Array:
    """What the engine drinks, shape (n,) [m3/s]: bearings, jets, cams, turbo."""
    takes = [
        at
        for at, (_, what) in enumerate(lap.network.elements)
        if what in ("bearings", "jets", "cams")
    ]
    return np.asarray(lap.trace.flow[:, takes].sum(axis=1))


def lost_backwards(lap: CircuitLap, bottle: int = 0) -> float:
    """Oil that left a bottle beyond what the engine drank, over the lap [m3].

    It can only have gone back, to the pump and its relief.
    """
    charge = lap.trace.charge[:, bottle]
    out = -np.gradient(charge, lap.trace.time)
    step = float(lap.trace.time[1] - lap.trace.time[0])
    return float(np.maximum(out - drunk(lap), 0.0).sum() * step)


def holds_for(lap: CircuitLap, bottle: int = 0) -> float:
    """How long a bottle alone feeds the engine, at the lap's worst moment [s].

    From the pressure usual there to the least that were no dip, with a dry pump.

    Notes
    -----
    The closed form of `oil_given`, over what the engine drinks at the mean of both pressures: that
    goes with the pressure, as in bearings.
    """
    network, pressure = lap.network, lap.pressure
    row = network.still.bottles[bottle]
    warmth = float(network.still.whole["bottle_warmth"][0])
    warm = float(row["amount"]) * warmth / float(row["volume"]) - AIR_PRESSURE
    oil = oil_given(float(row["volume"]), warm, pressure.usual, pressure.wanted)
    worst = int(np.argmin(np.abs(lap.log.time - pressure.lowest_at)))
    there = max(float(lap.gallery[worst]), 1e4)
    mean = 0.5 * (pressure.usual + pressure.wanted)
    flow = float(drunk(lap)[worst]) * mean / there
    return oil / flow if flow > 0.0 else 0.0
