"""A flat drawing read from DXF: closed rings and round holes, in metres."""

from __future__ import annotations

import io
import itertools
import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

import ezdxf.path
import numpy as np
import shapely
from ezdxf import disassemble, recover
from ezdxf.document import Drawing
from ezdxf.entities.dxfentity import DXFEntity
from ezdxf.lldxf.const import DXFError
from shapely import LineString, Polygon

from bilge_core.physics.arrays import Array
from bilge_core.scan.mesh_file import METRES, Unit, hold_size, refused

Ahead = Literal["up", "down", "left", "right"]
MOST_BYTES = 5_000_000
ALONE = "leave the flange alone in it"
MOST_ENTITIES = 20_000
_MOST_PLACES = 200_000  # along all curves
_UNITS: dict[int, Unit] = {1: "in", 4: "mm", 5: "cm", 6: "m"}
_SAGITTA = 0.02e-3  # [m] by which an arc may be off when it is drawn straight (ours)
_JOIN = 0.02e-3  # [m] within which two ends meet (ours)
_ROUND = 0.985  # of 4 pi A / P2: a ring that is a hole (a circle has 1)
_LARGEST_HOLE = 60e-3  # [m]
_LEAST = 1e-6  # [m2] of a ring that is none
_SMALLEST, _LONGEST = 0.05, 3.0  # [m] of a drawing's longest side


@dataclass(frozen=True)
class FlatDrawing:
    """A drawing of flat parts.

    rings : closed outlines, the largest first [m]
    holes : x, y and diameter of round ones [m]
    unit : that its figures are in
    """

    rings: tuple[Polygon, ...]
    holes: tuple[tuple[float, float, float], ...]
    unit: Unit


def read_drawing(data: bytes, unit: Unit | None = None) -> FlatDrawing:
    """Closed rings and holes of a DXF's model space, blocks opened, splines followed.

    Parameters
    ----------
    data : bytes
    unit : mm, cm, m or in
        That its figures are in, where the file does not say; None: it must.

    Raises
    ------
    InvalidInput
        If it cannot be read, says no unit, is no flange by its size, or nothing in it is closed.

    Examples
    --------
    >>> import ezdxf
    >>> document = ezdxf.new(); document.units = 4
    >>> corners = [(0, 0), (300, 0), (300, 200), (0, 200)]
    >>> _ = document.modelspace().add_lwpolyline(corners, close=True)
    >>> _ = document.modelspace().add_circle((10, 10), 3.5)
    >>> out = io.StringIO(); document.write(out)
    >>> found = read_drawing(out.getvalue().encode())
    >>> round(found.rings[0].area, 6), [round(each, 4) for each in found.holes[0]], found.unit
    (0.06, [0.01, 0.01, 0.007], 'mm')
    """
    hold_size(len(data), MOST_BYTES, ALONE)
    try:
        document, _ = recover.read(io.BytesIO(data))
    except (DXFError, OSError, ValueError, UnicodeError):
        raise refused("file", "cannot be read as DXF: write it again, R2000 or later") from None
    if len(document.modelspace()) == 0:
        words = "cannot be read as DXF, or nothing is drawn in it: write it again, R2000 or later"
        raise refused("file", words)
    said = _UNITS.get(int(document.units))
    taken = said or unit
    if taken is None:
        raise refused("unit", "is not told by the file: choose the one that it was drawn in")
    scale = METRES[taken]
    lines = list(_lines(document, scale))
    rings, holes = _parted(_closed(lines))
    if not rings:
        words = "has no closed outline: join its ends, or draw it as a closed polyline"
        raise refused("file", words)
    low = np.min([each.bounds[:2] for each in rings], axis=0)
    high = np.max([each.bounds[2:] for each in rings], axis=0)
    longest = float((high - low).max())
    if not _SMALLEST <= longest <= _LONGEST:
        long = f"{round(longest * 1e3, 1):,.10g} mm"
        raise refused("unit", f"makes the drawing {long} long: choose the one it was drawn in")
    return FlatDrawing(tuple(rings), tuple(holes), taken)


def _lines(document: Drawing, scale: float) -> Iterator[LineString]:
    """What the model space draws, blocks opened, as straight stretches [m].

    Raises
    ------
    InvalidInput
        If it is more than a flange can be: blocks in blocks, curves without end.
    """
    room = _MOST_PLACES
    opened = disassemble.recursive_decompose(document.modelspace())
    for number, entity in enumerate(opened):
        if number >= MOST_ENTITIES:
            words = f"has more than {MOST_ENTITIES:,} things in it: {ALONE}"
            raise refused("file", words)
        for part in _paths(entity):
            curve = itertools.islice(part.flattening(_SAGITTA / scale), room + 1)
            places = np.array([(each.x, each.y) for each in curve])
            room -= len(places)
            if room < 0:
                words = f"has curves that are too long: {ALONE}"
                raise refused("file", words)
            if len(places) > 1 and np.isfinite(places).all():
                yield LineString(places * scale)


def _paths(entity: DXFEntity) -> Sequence[ezdxf.path.Path]:
    try:
        return list(ezdxf.path.make_path(entity).sub_paths())
    except TypeError:  # text, dimensions, hatches
        return ()


def _closed(lines: list[LineString]) -> list[Polygon]:
    """Rings that lines make: closed ones, and open ones whose ends meet."""
    found = [Polygon(each.coords) for each in lines if len(each.coords) > 3 and _meets(each)]
    open_ones = [shapely.set_precision(each, _JOIN) for each in lines if not _meets(each)]
    found += list(shapely.polygonize(open_ones).geoms)
    sound = [each if each.is_valid else each.buffer(0) for each in found]
    parts = [part for each in sound for part in shapely.get_parts(each)]
    return [Polygon(each.exterior) for each in parts if each.area > _LEAST]


def _meets(line: LineString) -> bool:
    return math.dist(line.coords[0], line.coords[-1]) < _JOIN


def _parted(
    rings: list[Polygon],
) -> tuple[list[Polygon], list[tuple[float, float, float]]]:
    """Outlines, the largest first, and round holes."""
    outlines, holes = [], []
    for ring in rings:
        roundness = 4.0 * math.pi * ring.area / ring.length**2
        across = 2.0 * math.sqrt(ring.area / math.pi)
        if roundness > _ROUND and across < _LARGEST_HOLE:
            middle = ring.centroid
            ring_of = np.asarray(ring.exterior.coords) - (middle.x, middle.y)
            wide = 2.0 * float(np.hypot(ring_of[:, 0], ring_of[:, 1]).max())  # corners lie on it
            holes.append((float(middle.x), float(middle.y), wide))
        else:
            outlines.append(shapely.orient_polygons(ring.simplify(_SAGITTA)))
    return sorted(outlines, key=lambda each: -each.area), holes


def turned(drawing: FlatDrawing, ahead: Ahead, mirrored: bool, middle: Array) -> FlatDrawing:
    """A drawing in the engine's frame: which way the nose is on it, its middle where it belongs.

    Parameters
    ----------
    drawing : FlatDrawing
    ahead : up, down, left or right
        Where the nose is on the drawing.
    mirrored : bool
        It is seen from below.
    middle : ndarray, shape (2,)
        Where the middle of its largest ring is, ahead and left [m].

    Examples
    --------
    >>> flat = FlatDrawing((shapely.box(0, 0, 0.2, 0.4),), ((0.19, 0.39, 0.007),), "mm")
    >>> there = turned(flat, "up", False, np.array([0.2, 0.0]))
    >>> [round(each, 3) for each in there.rings[0].bounds]
    [0.0, -0.1, 0.4, 0.1]
    >>> [round(each, 3) for each in there.holes[0][:2]]
    [0.39, -0.09]
    """
    left, low, right, high = drawing.rings[0].bounds
    own = np.array([0.5 * (left + right), 0.5 * (low + high)])
    way = {"up": (0.0, 1.0), "down": (0.0, -1.0), "right": (1.0, 0.0), "left": (-1.0, 0.0)}[ahead]
    first = np.array(way)
    second = np.array([-first[1], first[0]]) * (-1.0 if mirrored else 1.0)
    axes = np.array([first, second])

    def there(places: Array) -> Array:
        return np.asarray((places[:, :2] - own) @ axes.T + middle)

    holes = np.array(drawing.holes).reshape(-1, 3)
    spots = there(holes) if len(holes) else np.zeros((0, 2))
    return FlatDrawing(
        tuple(shapely.orient_polygons(shapely.transform(ring, there)) for ring in drawing.rings),
        tuple((float(x), float(y), float(d)) for (x, y), d in zip(spots, holes[:, 2], strict=True)),
        drawing.unit,
    )
