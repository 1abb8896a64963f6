"""The crankcase over a lap: its pressure, and the oil that leaves by ways out under oil."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bilge_core.network.breathing import MOST_PRESSURE, Breathing
from bilge_core.physics.arrays import Array


@dataclass(frozen=True)
class CrankcaseOverLap:
    """The crankcase over a lap, each of shape (n,).

    pressure : over the air's [Pa]
    covered : how many of its own ways out are under oil
    carried : oil pushed into breather hoses so far [m3]
    """

    pressure: Array
    covered: Array
    carried: Array


_TABLE = 9  # flows at which pressures are worked out (ours: between them straight lines)


def crankcase_over(
    breathing: Breathing, flow: Array, density: float, gravity: Array, under: dict[str, Array],
    step: float,
) -> CrankcaseOverLap:  # fmt: skip
    """The crankcase's pressure over a lap, ways out that are under oil shut.

    Parameters
    ----------
    breathing : Breathing
    flow : ndarray, shape (n,)
        Blow-by, less what stages pull [m3/s].
    density : float
        Of the oil [kg/m3].
    gravity : ndarray, shape (n,)
        Felt [m/s2].
    under : from a run's id to how deep its port is under oil, shape (n,) [m], negative above it
    step : float
        From one moment to the next [s].

    Returns
    -------
    CrankcaseOverLap

    Notes
    -----
    Quasi-steady. Gas pushes oil up a covered hose as soon as it can lift it over the hose's highest
    point: as much oil as there is blow-by then goes into can or breather. That a shut crankcase
    takes about a tenth of a second to reach that pressure is left out.

    Examples
    --------
    >>> from bilge_core.network.breathing import AIR, GasWay
    >>> from bilge_core.network.pipes import pipe_resistance
    >>> hose = GasWay("r1", "hose", "c7", AIR, pipe_resistance(0.0141, 1.0, 1.0, 2e-5, 1.5),
    ...               np.zeros(3), 0.1)
    >>> found = crankcase_over(Breathing((hose,), "c7", ("c7",)), np.full(2, 1e-3), 820.0,
    ...                        np.full(2, 9.81), {"r1": np.array([-0.01, 0.02])}, 0.5)
    >>> found.pressure.round().tolist(), found.carried.tolist()
    ([89.0, 965.0], [0.0, 0.0005])
    """
    names = list(under)
    masks = np.column_stack([under[name] > 0.0 for name in names]) if names else np.zeros(
        (len(flow), 0), dtype=bool
    )  # fmt: skip
    pressure = np.zeros(len(flow))
    levels = np.linspace(min(float(flow.min()), 0.0), max(float(flow.max()), 1e-6), _TABLE)
    for mask in np.unique(masks, axis=0):
        here = (masks == mask).all(axis=1)
        shut = {name for name, is_under in zip(names, mask, strict=True) if is_under}
        table = [breathing.pressures(each, shut)[breathing.source] for each in levels.tolist()]
        pressure[here] = np.interp(flow[here], levels, table) if np.all(np.isfinite(table)) else (
            MOST_PRESSURE
        )  # fmt: skip
    lifts = np.full(len(flow), np.inf)
    rises = {way.run: way.rise for way in breathing.ways}
    for name in names:
        deep = under[name]
        lift = density * gravity * (deep + rises.get(name, 0.0))
        lifts = np.where(deep > 0.0, np.minimum(lifts, lift), lifts)
    pushes = pressure > lifts
    pressure = np.minimum(np.minimum(pressure, lifts), MOST_PRESSURE)
    carried = np.cumsum(np.where(pushes, flow, 0.0)) * step
    return CrankcaseOverLap(pressure, masks.sum(axis=1), np.asarray(carried))
