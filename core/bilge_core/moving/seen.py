"""What was seen of a lap in moving oil, look by look and put together."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from bilge_core.moving.dry_engine import TankSeen
from bilge_core.moving.observe import Sight
from bilge_core.physics.arrays import Array
from bilge_core.rules.crank import SPLASH

RATE = 50.0
"""Looks [1/s]: a dip of a twentieth of a second is seen two or three times."""

MOUTHS = ("pickup",)
"""By which a wet sump draws: the one that feeds the gallery."""
TANK = "tank"
"""What the outlet of a dry sump's tank is known by: it feeds the gallery then."""


def scavenge_names(count: int) -> tuple[str, ...]:
    """What a dry sump's mouths in the pan are known by, by their places.

    Examples
    --------
    >>> scavenge_names(2)
    ('mouth 1', 'mouth 2')
    """
    return tuple(f"mouth {at}" for at in range(1, count + 1))


@dataclass(frozen=True)
class LookAt:
    """One look during a run: time since the start [s], what was seen, and what stands outside.

    `drawn` is of each mouth, shape (mouths,) [m3/s]; `swallowed` the oil and the gas that each has
    drawn since the start, shape (mouths, 2) [m3].
    """

    time: float
    sight: Sight
    drawn: Array
    swallowed: Array
    pressure: float
    held: float
    vessels: Array
    gates: NDArray[np.bool_]
    passed: Array
    tank: TankSeen | None = None


@dataclass(frozen=True)
class MouthOverLap:
    """What one mouth saw, each of shape (n,).

    gas_share : of all that it draws, 0 to 1
    cover : [m]
    drawn : oil and gas [m3/s]
    swallowed : share of gas in what was drawn since the look before: what the pump was given, where
        `gas_share` is what the mouth found at the look
    """

    name: str
    gas_share: Array
    cover: Array
    drawn: Array
    swallowed: Array


@dataclass(frozen=True)
class MovingLap:
    """What was seen, every array with one row a look; `time` is the log's own [s].

    time : shape (n,)
    mouths : tuple of MouthOverLap, the one that feeds the gallery first; of a dry sump that is its
        tank's outlet
    pressure : in the main gallery, over the air's [Pa]
    usual : what the gallery steadily has at that speed, mouth covered [Pa]
    centre : of mass, shape (n, 3) [m]
    regions : litres between plates, shape (n, regions) [m3]
    region_names : tuple of str
    crank : that the crank's sweep reaches [m3]
    volume : in the pan [m3]
    in_tank : in a dry sump's tank [m3]
    near : of it near the mouth that feeds the gallery [m3]
    held : outside it [m3]
    vessels : in heads, chests and off the crank, shape (n, vessels) [m3]
    gates_open : share of each gate that stands open, shape (n, gates)
    gate_names : tuple of str
    passed : through each opening since the start, the way its gate opens, else up or to the
        plate's left, shape (n, openings) [m3]
    opening_names : tuple of str
    """

    time: Array
    mouths: tuple[MouthOverLap, ...]
    pressure: Array
    usual: Array
    centre: Array
    regions: Array
    region_names: tuple[str, ...]
    crank: Array
    volume: Array
    in_tank: Array
    near: Array
    held: Array
    vessels: Array
    gates_open: Array
    gate_names: tuple[str, ...]
    passed: Array
    opening_names: tuple[str, ...]

    @property
    def mouth(self) -> MouthOverLap:
        """The one that feeds the gallery."""
        return self.mouths[0]

    def crank_time(self) -> float:
        """Time in which the crank's sweep reaches oil [s]: more of it than a splash."""
        return float((self.crank > SPLASH.most).sum() / RATE)


def _swallowed(drawn: Array, found: Array) -> Array:
    """Share of gas between looks, of volumes drawn since the start; what was found where nothing
    was drawn.

    Examples
    --------
    >>> _swallowed(np.array([[0.0, 0.0], [3.0, 1.0], [3.0, 1.0]]), np.array([0.0, 0.5, 0.6]))
    array([0.  , 0.25, 0.6 ])
    """
    oil, gas = np.diff(drawn, axis=0, prepend=drawn[:1]).T
    both = oil + gas
    some = both > 1e-9
    return np.where(some, gas / np.where(some, both, 1.0), found).clip(0.0, 1.0)


def mouth_seen(looks: Sequence[LookAt], number: int, name: str) -> MouthOverLap:
    """One of the pan's mouths over a lap."""
    found = np.array([1.0 - look.sight.oil_share[number] for look in looks]).clip(0.0, 1.0)
    return MouthOverLap(
        name,
        found,
        np.array([look.sight.cover[number] for look in looks]),
        np.array([look.drawn[number] for look in looks]),
        _swallowed(np.array([look.swallowed[number] for look in looks]), found),
    )


def outlet_seen(looks: Sequence[LookAt]) -> MouthOverLap:
    """A tank's outlet over a lap, as a mouth."""
    seen = [look.tank for look in looks if look.tank is not None]
    gas = np.array([each.gas for each in seen])
    drawn = np.array([each.drawn for each in seen])
    flow = np.gradient(drawn.sum(axis=1)) * RATE if len(seen) > 1 else np.zeros(len(seen))
    return MouthOverLap(
        TANK, gas, np.array([each.cover for each in seen]), flow, _swallowed(drawn, gas)
    )
