"""A tank as a vessel under g: where its oil lies, and how much of it covers the outlet.

What swirls in it is not modelled: its oil lies at once as the load would have it, square to that.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import shapely

from bilge_core.document.build import Build
from bilge_core.document.circuit.dry_and_gas import Tank
from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.pan.levels import level_of_volume, volume_below
from bilge_core.pan.solid import Prism, Solid, solid_from_prisms
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import engine_to_car
from bilge_core.pickup.mouth import Mouth

_SIDES = 32
"""Corners of the prism that stands for a cylinder of equal area (ours: its tilted level is exact to
0.0005 mm, and its litres to rounding)."""
SLIM = 2.2
"""Height over diameter of a tank that gives its volume alone (ours)."""
_OFF_FLOOR = 5e-3
"""[m] from the floor to an outlet's middle (ours)."""
FULLEST = 0.98
"""Of pan or tank that oil may fill (ours)."""

_TOWARD = {"middle": (0.0, 0.0), "front": (1.0, 0.0), "rear": (-1.0, 0.0),
           "left": (0.0, 1.0), "right": (0.0, -1.0)}  # fmt: skip


@dataclass(frozen=True)
class TankSpace:
    """A tank's inside and its outlet, in the car's directions, its floor's middle at nil.

    solid : Solid
    height : inside [m]
    half_length, half_width : along and across the car [m]
    is_round : bool
    outlet : Mouth
    """

    solid: Solid
    height: float
    half_length: float
    half_width: float
    is_round: bool
    outlet: Mouth

    @property
    def volume(self) -> float:
        """All that it holds [m3]."""
        return self.solid.volume

    @property
    def area(self) -> float:
        """Of its floor [m2]."""
        return self.volume / self.height

    def cover(self, volume: float, up: Array) -> float:
        """Oil over the outlet's middle, square to the surface [m]; minus: bare.

        Parameters
        ----------
        volume : float
            In the tank [m3]; more than it holds is as much as it holds.
        up : ndarray, shape (3,)
            Against apparent gravity, of length one, the car's axes.

        Examples
        --------
        >>> space = tank_space(Tank(kind="tank", name="t", volume_l=8, diameter_mm=180))
        >>> round(space.cover(4e-3, np.array([0.0, 0.0, 1.0])) * 1e3, 1)  # 4 L / (pi 90^2) less 5
        152.2
        """
        held = min(max(volume, 0.0), FULLEST * self.volume)
        level = level_of_volume(self.solid, up, held)
        return level - float(up @ self.outlet.centre)

    def to_cover(self, wanted: float, up: Array) -> float:
        """Oil that covers the outlet by so much [m] under a load [m3]; all of it where none does.

        Examples
        --------
        >>> space = tank_space(Tank(kind="tank", name="t", volume_l=8, diameter_mm=180))
        >>> round(space.to_cover(0.1522, np.array([0.0, 0.0, 1.0])) * 1e3, 2)
        4.0
        """
        return volume_below(self.solid, up, wanted + float(up @ self.outlet.centre))


def tank_space(tank: Tank) -> TankSpace:
    """A tank's inside by its measures; one that gives its volume alone is taken to be slim.

    Raises
    ------
    InvalidQuantity
        If its measures do not leave room for its outlet.

    Examples
    --------
    >>> round(tank_space(Tank(kind="tank", name="t", volume_l=8)).volume * 1e3, 6)
    8.0
    """
    volume = tank.volume_l * 1e-3
    if tank.length_mm is not None and tank.width_mm is not None:
        half = (tank.length_mm * 0.5e-3, tank.width_mm * 0.5e-3)
        outline = shapely.box(-half[0], -half[1], half[0], half[1])
        is_round = False
    else:
        wide = tank.diameter_mm
        if wide is None and tank.height_mm is not None:
            radius = math.sqrt(volume / (math.pi * tank.height_mm * 1e-3))
        elif wide is None:
            radius = (volume / (2.0 * math.pi * SLIM)) ** (1.0 / 3.0)
        else:
            radius = wide * 0.5e-3
        half, is_round = (radius, radius), True
        outline = shapely.Polygon(_circle(radius))
    area = outline.area
    height = volume / area
    bore = tank.outlet_mm * 0.5e-3
    if bore >= min(half) or height <= 2.0 * _OFF_FLOOR:
        raise InvalidQuantity(
            "tank's outlet", f"{tank.outlet_mm:g} mm", "smaller than the tank is wide and high"
        )
    ahead, left = _TOWARD[tank.outlet]
    centre = np.array([ahead * (half[0] - bore), left * (half[1] - bore), _OFF_FLOOR])
    solid = solid_from_prisms([Prism(outline, (0.0, 0.0, 0.0), (height, 0.0, 0.0))])
    return TankSpace(solid, height, *half, is_round, Mouth(centre, bore, bore, True))


def _circle(radius: float) -> Array:
    """Corners of a polygon of a circle's area."""
    grown = radius * math.sqrt(
        2.0 * math.pi / _SIDES / math.sin(2.0 * math.pi / _SIDES)
    )  # a polygon through the circle itself has less
    angle = np.arange(_SIDES) * (2.0 * math.pi / _SIDES)
    return np.column_stack([grown * np.cos(angle), grown * np.sin(angle)])


def up_in_car(build: Build, up: Array) -> Array:
    """ "Up" of the engine's frame, shape (3,) or (n, 3), in the car's."""
    return np.asarray(np.asarray(up) @ engine_to_car(build.car).T)


def tank_of(build: Build) -> Tank:
    """The tank that a build's pump draws from.

    Raises
    ------
    InvalidInput
        If it is a wet sump.
    """
    tank = build.circuit.tank
    if tank is None:
        words = "must have a tank that the pump draws from: this is a wet sump"
        raise InvalidInput([Problem("circuit.components", words)])
    return tank
