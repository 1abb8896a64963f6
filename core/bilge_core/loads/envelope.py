"""The g-g cloud: how hard the car pulls in each direction, and for how long it holds it."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import scipy

from bilge_core.errors import InvalidQuantity
from bilge_core.loads.log import Log
from bilge_core.physics.arrays import Array
from bilge_core.physics.gravity import STANDARD_GRAVITY

HOLDS = (0.1, 0.5, 1.0, 2.0, 4.0)
"""Times [s] for which a load is held."""


@dataclass(frozen=True)
class HeldLoads:
    """Highest load held, by direction and time.

    thrown : shape (d,) [rad]
        Where the oil is thrown: 0 forward (braking), rising to the left.
    holds : shape (h,) [s]
    load : shape (h, d) [g]
        At least this much, without a break, for so long.
    """

    thrown: Array
    holds: Array
    load: Array


def held_loads(log: Log, holds: tuple[float, ...] = HOLDS, directions: int = 72) -> HeldLoads:
    """How much a lap pulls in each direction, held for each time.

    Parameters
    ----------
    log : Log
        Prepared.
    holds : tuple of float
        Times [s]; those longer than the lap hold nothing.
    directions : int
        At least 4.

    Returns
    -------
    HeldLoads

    Raises
    ------
    InvalidQuantity
        If there are fewer than 4 directions, a time is not positive, or the log has fewer than
        two samples.

    Notes
    -----
    The load in a direction is the part of the horizontal load along it, so a
    direction beside a strong one shows its cosine: what a wall standing that
    way would feel. Between samples nothing is seen.

    Examples
    --------
    >>> time = np.arange(0.0, 10.0, 0.1)
    >>> braking = np.where((time >= 3.0) & (time < 5.05), -9.80665, 0.0)
    >>> log = Log(time, 30 + 0 * time, braking, 0 * time, 600 + 0 * time)
    >>> held = held_loads(log, (1.0, 4.0), 4)
    >>> held.load.round(2).tolist()
    [[1.0, 0.0, 0.0, 0.0], [0.0, 0.0, 0.0, 0.0]]
    """
    if directions < 4:
        raise InvalidQuantity("directions", directions, "at least 4")
    if len(log.time) < 2:
        raise InvalidQuantity("log", f"{len(log.time)} samples", "at least two samples")
    if not all(math.isfinite(hold) and hold > 0.0 for hold in holds):
        raise InvalidQuantity("holds", holds, "positive times in seconds")
    step = log.step
    thrown: Array = np.arange(directions) * np.float64(2.0 * math.pi / directions)
    load = np.zeros((len(holds), directions))
    for d, angle in enumerate(thrown.tolist()):
        along = -(math.cos(angle) * log.forward + math.sin(angle) * log.leftward)
        for h, hold in enumerate(holds):
            width = round(hold / step) + 1
            if width > len(along):
                continue
            least = scipy.ndimage.minimum_filter1d(along, width, mode="constant", cval=-math.inf)
            load[h, d] = max(0.0, float(least.max())) / STANDARD_GRAVITY
    return HeldLoads(thrown, np.array(holds), load)
