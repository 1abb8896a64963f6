"""The scavenge rose: what is left lying in a dry sump's pan under steady loads from all sides."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from bilge_core.document.build import Build
from bilge_core.errors import InvalidQuantity
from bilge_core.pan.assembly import Pan
from bilge_core.pan.levels import level_of_volume
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import apparent_gravity, up_from
from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.scavenge.lap import mouth_row, oil_of_stage, settled_share, stages_of
from bilge_core.scavenge.stages import scavenged

_MOST = 0.6  # of pan and skirt that is looked at (ours)
_HALVINGS = 30  # of what lies there: to a millionth of a litre


@dataclass(frozen=True)
class ScavengeRose:
    """What lies in the pan when stages bring as much as comes down, by where oil is thrown.

    thrown : ndarray, shape (n,)
        In the car [rad]: 0 forward (braking), a quarter turn is left, anticlockwise from above.
    left : ndarray, shape (n,)
        In the pan [m3]; infinite where the stages never bring so much.
    shares : ndarray, shape (n, stages)
        Of all oil that each stage brings then.
    capacity : ndarray, shape (n,)
        What the stages that have oil sweep, of what comes down [-].
    load : in g
    """

    thrown: Array
    left: Array
    shares: Array
    capacity: Array
    load: float


def scavenge_rose(
    build: Build, pan: Pan, returned: float, speed: float, load: float, directions: int = 24
) -> ScavengeRose:
    """Steady oil left lying in a dry sump's pan, for directions all round the car.

    Parameters
    ----------
    build : Build
    pan : Pan
        As assembled from it.
    returned : float
        That comes down into the pan [m3/s].
    speed : float
        Of the crank [rad/s].
    load : float
        In g.
    directions : int
        At least 4.

    Raises
    ------
    InvalidQuantity
        If there are fewer than 4 directions, or nothing comes down.
    """
    if directions < 4:
        raise InvalidQuantity("directions", directions, "at least 4")
    if not (returned > 0.0 and speed > 0.0):
        raise InvalidQuantity("flow that comes down", returned, "positive, the crank turning")
    stages, mouths = scavenged(build, pan)
    swept = np.array([float(stage.swept(speed)) for stage in stages])
    stage_of = stages_of(stages, len(mouths))
    rows = [mouth_row(each.mouth) for each in mouths]
    angles = np.arange(directions) * (2.0 * math.pi / directions)
    left = np.full(directions, np.inf)
    shares = np.zeros((directions, len(stages)))
    capacity = np.zeros(directions)
    most = _MOST * pan.solid.volume
    for at, angle in enumerate(angles):
        pull = load * STANDARD_GRAVITY
        felt = apparent_gravity(build.car, -pull * math.cos(angle), -pull * math.sin(angle))
        up, strength = up_from(felt), float(np.linalg.norm(felt))

        def brought(volume: float, up: Array = up, strength: float = strength) -> Array:
            level = level_of_volume(pan.solid, up, volume)
            gas = np.array([
                settled_share(level - float(up @ row[:3]), up, strength, swept[n], row)
                for n, row in zip(stage_of, rows, strict=True)
            ])  # fmt: skip
            shares = [oil_of_stage(gas, stage_of, n) for n in range(len(stages))]
            return np.asarray(swept * np.array(shares))

        low, high = 0.0, most
        if brought(most).sum() >= returned:
            for _ in range(_HALVINGS):
                middle = 0.5 * (low + high)
                low, high = (middle, high) if brought(middle).sum() < returned else (low, middle)
            left[at] = high
        oil = brought(high)
        shares[at] = oil / max(float(oil.sum()), 1e-12)
        capacity[at] = float(swept[oil > _HAS_OIL * swept].sum()) / returned
    return ScavengeRose(np.asarray(angles, dtype=np.float64), left, shares, capacity, load)


_HAS_OIL = 0.05
"""Share of oil from which a stage is said to have some (ours)."""
