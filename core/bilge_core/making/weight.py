"""What a pan weighs, and where: its metal, and the oil in it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
import trimesh
from shapely import Polygon

from bilge_core.document.build import Build
from bilge_core.making.solids import body_round
from bilge_core.oil import GRADES, density
from bilge_core.pan import Pan, inside_faces, level_of_volume
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import standing_up
from bilge_core.quantities import si_from

_WIDE = 8.0  # [m] of a box that takes all of a pan below a plane
Metal = Literal["steel", "aluminium"]
DENSITY: dict[Metal, float] = {"steel": 7850.0, "aluminium": 2700.0}
"""[kg/m3], of handbooks (from memory)."""


@dataclass(frozen=True)
class Weight:
    """A mass [kg] and its centre in the engine's frame [m]."""

    mass: float
    centre: Array


def pan_weight(build: Build, pan: Pan, metal: Metal, thickness: float) -> Weight:
    """The pan's panels and its flange, empty; plates, bosses and welds left out.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/curlew.json").read_text())
    >>> empty = pan_weight(build, assemble_pan(build), "aluminium", 4e-3)
    >>> round(empty.mass, 2), (empty.centre * 1e3).round().tolist()
    (1.63, [205.0, 0.0, -44.0])
    """
    masses, places = [], []
    for face in inside_faces(pan):
        if face.kind == "skirt":
            continue
        fan = np.array([face.corners[[0, at, at + 1]] for at in range(1, len(face.corners) - 1)])
        turned = np.cross(fan[:, 1] - fan[:, 0], fan[:, 2] - fan[:, 0])
        area = 0.5 * turned.sum(axis=0)
        way = area / max(float(np.linalg.norm(area)), 1e-15)
        parts = 0.5 * turned @ way  # with their sign: an outline may bend inward
        masses.append(float(parts.sum()) * thickness * DENSITY[metal])
        places.append(
            (fan.mean(axis=1) * parts[:, None]).sum(axis=0) / max(float(parts.sum()), 1e-15)
        )
    flange = build.pan.flange
    if flange is not None:
        ring = Polygon(np.array(flange.outline_mm) * 1e-3).difference(pan.rail)
        masses.append(ring.area * flange.thickness_mm * 1e-3 * DENSITY[metal])
        places.append(np.array([ring.centroid.x, ring.centroid.y, 0.0]))
    mass = float(sum(masses))
    return Weight(mass, np.average(np.array(places), axis=0, weights=masses))


def with_oil(build: Build, pan: Pan, empty: Weight) -> Weight:
    """The same with the oil that is in it while the engine runs, lying as the car stands.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> pan = assemble_pan(build)
    >>> full = with_oil(build, pan, pan_weight(build, pan, "aluminium", 3e-3))
    >>> 4.0 < full.mass < 8.0
    True
    """
    up = standing_up(build.car)
    level = level_of_volume(pan.solid, up, pan.oil_volume)
    turned = trimesh.geometry.align_vectors([0.0, 0.0, 1.0], up)  # type: ignore[no-untyped-call]
    under = trimesh.creation.box((_WIDE, _WIDE, _WIDE), turned)
    under.apply_translation(up * (level - 0.5 * _WIDE))
    skirt = pan.skirt_height
    wet = trimesh.boolean.intersection([body_round(pan, 0.0, skirt), under], engine="manifold")
    temperature = si_from(build.oil.temperature_c, "temperature", "°C")
    oil = density(GRADES[build.oil.grade], temperature) * pan.oil_volume
    mass = empty.mass + oil
    return Weight(mass, (empty.mass * empty.centre + oil * np.asarray(wet.center_mass)) / mass)
