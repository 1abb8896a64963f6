"""From an assembled pan to the domain that its oil moves in."""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
import shapely

from bilge_core.moving import Fineness
from bilge_core.moving.domain import Domain, build_domain
from bilge_core.moving.grading import graded_faces
from bilge_core.moving.sheets import on_axes, straight_axis
from bilge_core.pan import Pan, Prism, ZoneShape
from bilge_core.pan.solid import height_on
from bilge_core.physics.arrays import Array


@dataclass(frozen=True)
class Resolution:
    """How coarse the cells are.

    name : quick, bench or fine
    plan : their size along and across [m]
    height : [m]
    longest_step : of time [s]
    """

    name: Fineness
    plan: float
    height: float
    longest_step: float


RESOLUTIONS: dict[Fineness, Resolution] = {
    "quick": Resolution("quick", 0.022, 0.007, 0.02),
    "bench": Resolution("bench", 0.010, 0.010, 0.01),
    "fine": Resolution("fine", 0.008, 0.008, 0.01),
}
"""[m] and [s]. Ours: quick cells are flat, no higher than half the mouth's space, and give dry time
to 0.1 s a manoeuvre in a quarter of the lap's own time; 8 mm is where the violent slosh came within
3.5 mm of the reference (tests/reference/test_moving_vessels.py); docs/speed.md has what each takes.
"""


def inside_prisms(pan: Pan) -> list[Prism]:
    """All that oil can fill: the zones and the skirt above the rail."""
    prisms = [prism for zone in pan.zones for prism in zone.prisms]
    if pan.skirt_height > 0.0:
        prisms.append(Prism(pan.rail, (0.0, 0.0, 0.0), (pan.skirt_height, 0.0, 0.0)))
    return prisms


def _ends(shape: shapely.Geometry) -> tuple[list[float], list[float]]:
    """Places along both axes of a flat shape's edges that run square to them."""
    first: list[float] = []
    second: list[float] = []
    for part in shapely.get_parts(shape):
        for ring in (part.exterior, *part.interiors):
            for a, b in itertools.pairwise(np.asarray(ring.coords)[:, :2]):
                if abs(a[0] - b[0]) < 1e-6:
                    first.append(float(a[0]))
                if abs(a[1] - b[1]) < 1e-6:
                    second.append(float(a[1]))
    return first, second


def _rounded(places: Iterable[float]) -> list[float]:
    return sorted({round(place, 6) for place in places})


def _wanted(pan: Pan) -> list[list[list[float]]]:
    """For each axis: places of plates, of their openings and edges, of walls and floors."""
    plates: list[list[float]] = [[], [], []]
    edges: list[list[float]] = [[], [], []]
    walls: list[list[float]] = [[], [], []]
    for plate in pan.plates:
        axis = straight_axis(plate)
        low, high = plate.sheet.bounds[1], plate.sheet.bounds[3]
        if axis is None:
            edges[2] += [low, high]
            edges[2] += [
                edge for o in plate.openings for edge in (o.hole.bounds[1], o.hole.bounds[3])
            ]
            continue
        plates[axis].append(float(plate.axes.origin[axis]))
        others = [a for a in range(3) if a != axis]
        for shape in (*(o.hole for o in plate.openings), plate.sheet):
            for other, places in zip(others, _ends(on_axes(plate, shape)), strict=True):
                edges[other] += places
    scanned = {id(prism) for zone in pan.zones if zone.is_surface for prism in zone.prisms}
    for zone in pan.zones:
        if zone.is_surface:
            for axis, places in enumerate(_of_surface(zone)):
                walls[axis] += places
    for prism in inside_prisms(pan):
        if id(prism) in scanned:
            continue
        along, across = _ends(prism.outline)
        walls[0] += along
        walls[1] += across
        for plane in (prism.floor, prism.top):
            if plane[1] == 0.0 and plane[2] == 0.0:
                walls[2].append(plane[0])
    return [[_rounded(group) for group in axis] for axis in zip(plates, edges, walls, strict=True)]


_LEVEL = 0.03  # of slope: a piece of a scanned floor that is level (ours)
_TOGETHER = 3e-3  # [m] of height within which level pieces are one floor (ours)
_ALONG = 0.02  # by which an edge of a scan may be off an axis, of its length (ours)
_LONG = 40e-3  # [m] of such an edge that a face of the grid is worth
_WIDE = 0.03  # of the plan that a level floor is worth one


def _of_surface(zone: ZoneShape) -> tuple[list[float], list[float], list[float]]:
    """Places along each axis of a scanned zone's straight walls and level floors."""
    along: list[float] = []
    across: list[float] = []
    for a, b in itertools.pairwise(np.asarray(zone.outline.exterior.coords)[:, :2]):
        way = np.abs(b - a)
        if way.max() > _LONG and way.min() < _ALONG * way.max():
            (along if way[0] < way[1] else across).append(
                float(0.5 * (a + b)[int(way.argmax() == 0)])
            )
    level = sorted(
        (float(height_on(prism.floor, *prism.outline.centroid.coords[0])), prism.outline.area)
        for prism in zone.prisms
        if math.hypot(prism.floor[1], prism.floor[2]) < _LEVEL
    )
    floors, least = [float(zone.prism.top[0])], _WIDE * zone.outline.area
    while level:
        near = [each for each in level if each[0] < level[0][0] + _TOGETHER]
        level = level[len(near) :]
        area = sum(each for _, each in near)
        if area > least:
            floors.append(sum(height * each for height, each in near) / area)
    return along, across, floors


def domain_of_pan(pan: Pan, resolution: Resolution) -> Domain:
    """Lay a pan, its plates and the skirt above it onto a grid.

    Parameters
    ----------
    pan : Pan
    resolution : Resolution

    Returns
    -------
    Domain
        With a face on every plate, then on every edge of an opening, then on walls and floors, as
        far as they are not closer together than 0.4 of a cell. Open to the crankcase at its top.

    Notes
    -----
    Crank, webs and pickup tube that stand in the oil are left out.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> pan = assemble_pan(read_build(Path("demo/dunlin-gated.json").read_text()))
    >>> domain = domain_of_pan(pan, RESOLUTIONS["quick"])
    >>> abs(domain.volume / pan.solid.volume - 1) < 1e-3, domain.region_count
    (True, 3)
    """
    prisms = inside_prisms(pan)
    wanted = _wanted(pan)
    low, high = pan.solid.vertices.min(axis=0), pan.solid.vertices.max(axis=0)
    sizes = (resolution.plan, resolution.plan, resolution.height)
    x, y, z = (
        graded_faces(float(low[axis]), float(high[axis]), sizes[axis], wanted[axis])
        for axis in range(3)
    )
    return build_domain(prisms, pan.plates, (x, y, z))


def region_names(domain: Domain, mouth: Array) -> tuple[str, ...]:
    """What to call the parts between plates, by where they lie from the one with the mouth.

    Parameters
    ----------
    domain : Domain
    mouth : ndarray, shape (3,) [m]

    Returns
    -------
    tuple of str
        As many as the domain has regions, no two alike.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> pan = assemble_pan(read_build(Path("demo/dunlin-gated.json").read_text()))
    >>> sorted(region_names(domain_of_pan(pan, RESOLUTIONS["quick"]), pan.mouth.centre))
    ['above the pickup', 'at the pickup', 'behind it']
    """
    nx, ny, nz = domain.shape
    at = np.unravel_index(domain.fluid, (nx + 2, ny + 2, nz + 2))
    places = np.stack(
        [centre[index - 1] for centre, index in zip(domain.centres(), at, strict=True)], axis=1
    )
    region = domain.region[domain.fluid]
    room = domain.room[domain.fluid].astype(float)
    nearest = int(region[np.argmin(((places - mouth) ** 2).sum(axis=1))])
    names: list[str] = []
    for number in range(domain.region_count):
        mine = region == number
        middle = (places[mine] * room[mine, None]).sum(axis=0) / room[mine].sum()
        name = "at the pickup" if number == nearest else _from_mouth(middle - mouth)
        count = sum(other.removesuffix(" (2)") == name for other in names) + 1
        names.append(name if count == 1 else f"{name} ({count})")
    return tuple(names)


_ABOVE = 0.02  # [m] sideways within which a part lies above (ours: a mouth's radius)


def _from_mouth(way: Array) -> str:
    if max(abs(way[0]), abs(way[1])) < max(_ABOVE, 0.5 * way[2]):
        return "above the pickup"
    if abs(way[0]) >= abs(way[1]):
        return "ahead of it" if way[0] > 0 else "behind it"
    return "left of it" if way[1] > 0 else "right of it"
