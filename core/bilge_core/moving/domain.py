"""The space that oil can move in, on its grid: what is open, what is wall, where gates hang."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from bilge_core.errors import InvalidQuantity
from bilge_core.moving.openings import Shares, inside_shares
from bilge_core.moving.planes import cut_planes
from bilge_core.moving.regions import part_regions
from bilge_core.moving.sheets import Opening, Sheets, lay_plates
from bilge_core.moving.walls import aligned_walls, behind_walls, blocked_bits, wall_areas
from bilge_core.moving.when_full import volumes_when_full
from bilge_core.pan.plates import PlacedPlate
from bilge_core.pan.solid import Prism
from bilge_core.physics.arrays import Array, Single, Whole

JET_LOSS = 3.0
"""In an opening, of the head of the speed there before the pressure acts. Fitted: openings of a few
cells pass 0.78 to 0.89 of the ideal flow, for want of the jet's contraction; with this they pass
0.65 (under oil) to 0.78 (into air), nearer to a sharp-edged hole (0.61, from memory)."""

_LEAST_OPEN = 1e-3  # of a face [-]: less is rounding (ours)
_LEAST_ROOM = 1e-3  # of a cell's volume [-]: a thinner sliver is wall (ours: exact volumes stay)
_MOST_CELLS = 1023  # along an axis: ten bits each in `Domain.where`


@dataclass(frozen=True)
class Gates:
    """Faces that gates hang in; all arrays of shape (n,).

    axis, face : the face, flat
    sign : +1 or -1, the way it lets oil pass
    area : [m2] when open
    leak : share of it that stays open when shut
    opening : row of `Domain.openings`
    """

    axis: Whole
    face: Whole
    sign: Single
    area: Single
    leak: Single
    opening: Whole


@dataclass(frozen=True)
class Domain:
    """A grid padded by one cell on every side, everything held flat.

    lines : faces along each axis [m]
    sizes : of the cells along each axis, padded [m]
    area : shape (3, n) [m2], open area of the low face of each cell, gates open
    shut_area : shape (3, n) [m2], the same with every gate shut
    share : shape (3, n), of what comes to a face that its plate lets pass
    opening_at : shape (3, n), row of `openings` plus one, minus where what passes along the axis is
        told as minus; nil where there is none
    room : shape (n,) [m3]
    fluid : flat numbers of the cells that have room, rising
    when_full : shape (n,) [m3], what particles give a cell when all the inside is full
    blocked : shape (n,), six bits: low and high along x, y, z
    cut, walls : plane of the wall in cut cells
    still : shape (m, 2), faces (axis, flat) on walls and plates, where nothing passes
    behind : shape (m, 2), faces behind an oblique wall, where velocity is carried on
    drag_faces, drag_walls : where walls slow the flow; wall area per volume and 1/size [1/m]
    jet_faces, jet_loss : faces of openings, and half their loss over the way across [1/m]
    vent : shape (n,), cells open to the outside
    region : shape (n,), which part between plates, or -1
    """

    lines: tuple[Array, Array, Array]
    sizes: tuple[Single, Single, Single]
    strides: NDArray[np.int64]
    where: Whole
    area: Single
    shut_area: Single
    share: Single
    opening_at: Whole
    room: Single
    fluid: Whole
    when_full: Single
    blocked: NDArray[np.uint8]
    cut: Whole
    walls: Single
    still: Whole
    behind: Whole
    drag_faces: Whole
    drag_walls: Single
    jet_faces: Whole
    jet_loss: Single
    vent: NDArray[np.bool_]
    region: Whole
    region_count: int
    gates: Gates
    openings: tuple[Opening, ...]

    @property
    def shape(self) -> tuple[int, int, int]:
        """Cells along each axis, without the padding."""
        return (len(self.lines[0]) - 1, len(self.lines[1]) - 1, len(self.lines[2]) - 1)

    @property
    def cells(self) -> int:
        """Cells with the padding: the length of a flat array."""
        return len(self.room)

    @property
    def volume(self) -> float:
        """All that it holds [m3]."""
        return float(self.room.astype(np.float64).sum())

    def unpadded(self, flat: NDArray[Any]) -> NDArray[Any]:
        """A flat array as shape (nx, ny, nz)."""
        nx, ny, nz = self.shape
        return flat.reshape(nx + 2, ny + 2, nz + 2)[1:-1, 1:-1, 1:-1]

    def centres(self) -> tuple[Array, Array, Array]:
        """Middles of the cells along each axis [m]."""
        x, y, z = (0.5 * (line[1:] + line[:-1]) for line in self.lines)
        return x, y, z


def pack_places(shape: tuple[int, int, int]) -> Whole:
    """Each flat cell's three numbers in one: ten bits each, x first.

    Raises
    ------
    InvalidQuantity
        If an axis has more than 1023 cells.

    Examples
    --------
    >>> packed = pack_places((2, 3, 4))
    >>> packed[-1] >> 20, (packed[-1] >> 10) & 1023, packed[-1] & 1023
    (np.int32(1), np.int32(2), np.int32(3))
    """
    if max(shape) > _MOST_CELLS:
        raise InvalidQuantity("cells along an axis", max(shape) - 2, f"under {_MOST_CELLS - 1}")
    i, j, k = np.indices(shape, dtype=np.int32)
    return np.asarray((i << 20) | (j << 10) | k).ravel().astype(np.int32)


def _padded(cells: NDArray[Any], fill: float = 0) -> NDArray[Any]:
    return np.pad(cells, 1, constant_values=fill)


def _faces_flat(faces: Sequence[NDArray[Any]], fill: float, kind: type) -> NDArray[Any]:
    """Three face arrays as shape (3, n): the face at the low end of each padded cell."""
    flat: list[NDArray[Any]] = []
    for axis, one in enumerate(faces):
        width = [(1, 0) if a == axis else (1, 1) for a in range(3)]
        width[axis] = (1, 1)
        whole = np.pad(one, width, constant_values=fill)
        cutting = tuple(slice(0, -1) if a == axis else slice(None) for a in range(3))
        flat.append(whole[cutting].astype(kind).ravel())
    return np.stack(flat)


def _gates(sheets: Sheets, allowed: NDArray[np.int8], holes: Whole, gate_area: Array) -> Gates:
    axis, face = np.nonzero(allowed != 0)
    opening = holes[axis, face]
    leaks = {n: o.gate.leak for n, o in enumerate(sheets.openings) if o.gate is not None}
    return Gates(
        axis.astype(np.int32),
        face.astype(np.int32),
        allowed[axis, face].astype(np.float32),
        gate_area[axis, face].astype(np.float32),
        np.array([leaks[o] for o in opening.tolist()], dtype=np.float32),
        opening.astype(np.int32),
    )


def _check_lines(lines: tuple[Array, Array, Array]) -> None:
    for name, line in zip("xyz", lines, strict=True):
        if len(line) < 2 or not np.all(np.isfinite(line)) or not np.all(np.diff(line) > 0.0):
            raise InvalidQuantity(f"faces along {name}", len(line), "rising, for one cell or more")


def _without_slivers(
    shares: Shares, lines: tuple[Array, Array, Array]
) -> tuple[Array, tuple[Array, Array, Array]]:
    """Room and open areas, cells with next to no room closed."""
    x, y, z = (np.diff(line) for line in lines)
    slivers = shares.room < _LEAST_ROOM * (x[:, None, None] * y[None, :, None] * z[None, None, :])
    if slivers.all():
        raise InvalidQuantity("inside", "nothing of it", "between the faces of the grid")
    area = []
    for axis, one in enumerate(shares.area):
        gone = np.zeros_like(one, dtype=bool)
        gone[tuple(slice(0, -1) if a == axis else slice(None) for a in range(3))] |= slivers
        gone[tuple(slice(1, None) if a == axis else slice(None) for a in range(3))] |= slivers
        area.append(np.where(gone, 0.0, one))
    return np.where(slivers, 0.0, shares.room), (area[0], area[1], area[2])


@dataclass(frozen=True)
class _Faces:
    """Faces with plates on them, flat; see `Domain`."""

    covered: Array
    area: Array
    shut_area: Array
    share: Array
    opening_at: Whole
    parts: NDArray[np.bool_]
    blocked: NDArray[np.uint8]
    gates: Gates


def _plated(sheets: Sheets, area: tuple[Array, Array, Array], strides: NDArray[np.int64]) -> _Faces:
    free = _faces_flat(area, 0.0, np.float64)
    covered = _faces_flat(sheets.covered, 0.0, np.float64)
    allowed = _faces_flat(sheets.allowed, 0, np.int8)
    holes = _faces_flat(sheets.holes, -1, np.int32)
    gate_area = _faces_flat(sheets.gate_area, 0.0, np.float64)
    gates = _gates(sheets, allowed, holes, gate_area)
    open_area = np.maximum(free - covered, 0.0)
    open_area[open_area < _LEAST_OPEN * free] = 0.0
    shut_area = open_area.copy()
    axis, face = gates.axis, gates.face
    shut_area[axis, face] = np.maximum(open_area[axis, face] - gates.area * (1.0 - gates.leak), 0.0)
    shut_area[shut_area < _LEAST_OPEN * free] = 0.0
    share = np.where(free > 0.0, open_area / np.where(free > 0.0, free, 1.0), 0.0)
    blocked = blocked_bits(share, allowed, strides)
    parts = _faces_flat(sheets.parts, 0, np.bool_)
    toward = _faces_flat(sheets.toward, 0, np.int32)
    opening_at = ((holes + 1) * toward).astype(np.int32)
    return _Faces(covered, open_area, shut_area, share, opening_at, parts, blocked, gates)


def _jets(
    faces: _Faces, sizes: tuple[Single, Single, Single], where: Whole
) -> tuple[Whole, Single]:
    axis, face = np.nonzero((faces.opening_at != 0) & (faces.area > 0.0))
    loss = np.zeros(len(axis))
    for a, shift in enumerate((20, 10, 0)):
        mine = axis == a
        at = (where[face[mine]] >> shift) & 1023
        loss[mine] = JET_LOSS / (sizes[a][at] + sizes[a][at - 1])
    return np.column_stack([axis, face]).astype(np.int32), loss.astype(np.float32)


def build_domain(
    prisms: Sequence[Prism],
    plates: Sequence[PlacedPlate],
    lines: tuple[Array, Array, Array],
    vent: NDArray[np.bool_] | None = None,
) -> Domain:
    """Lay a space and its plates onto a grid.

    Parameters
    ----------
    prisms : sequence of Prism
        The inside; prisms that touch are open to each other.
    plates : sequence of PlacedPlate
    lines : three arrays
        Faces along each axis [m], enclosing the prisms.
    vent : ndarray of bool, shape (nx, ny, nz), optional
        Cells that are open to the outside; the topmost ones when not given.

    Returns
    -------
    Domain

    Raises
    ------
    InvalidQuantity
        If the faces do not rise, or nothing of the inside lies between them.

    Examples
    --------
    >>> import shapely
    >>> box = Prism(shapely.box(0, 0, 0.4, 0.24), (0, 0, 0), (0.14, 0, 0))
    >>> lines = tuple(np.linspace(0, l, n) for l, n in ((0.4, 11), (0.24, 7), (0.14, 8)))
    >>> domain = build_domain([box], [], lines)
    >>> domain.shape, round(domain.volume, 6), len(domain.gates.face)
    ((10, 6, 7), 0.01344, 0)
    """
    _check_lines(lines)
    shares = inside_shares(prisms, *lines)
    room, area = _without_slivers(shares, lines)
    sheets = lay_plates(plates, prisms, lines, area)
    padded = tuple(len(line) + 1 for line in lines)
    strides = np.array([padded[1] * padded[2], padded[2], 1], dtype=np.int64)
    x, y, z = (np.pad(np.diff(line), 1, mode="edge").astype(np.float32) for line in lines)
    sizes = (x, y, z)
    faces = _plated(sheets, area, strides)
    low = np.stack([_padded(one).ravel() for one in shares.low])
    high = np.stack([_padded(one).ravel() for one in shares.high])
    rows, planes = cut_planes(shares, lines, room)
    cut = _padded(rows, -1).ravel().astype(np.int32)
    flat_room = _padded(room).ravel().astype(np.float32)
    ends = aligned_walls(low, high, strides)
    still, behind = behind_walls(faces.area, ends, faces.covered, cut, flat_room, strides)
    drag_faces, drag_walls = wall_areas(
        low, high, faces.area, planes, cut, flat_room, sizes, strides
    )
    where = pack_places((padded[0], padded[1], padded[2]))
    jet_faces, jet_loss = _jets(faces, sizes, where)
    fluid = np.flatnonzero(flat_room > 0.0).astype(np.int32)
    if vent is None:
        vent = np.zeros(room.shape, dtype=np.bool_)
        vent[:, :, -1] = True
    region, region_count = part_regions(fluid, faces.area, faces.parts, flat_room, strides)
    walls = planes[:, :4].astype(np.float32)
    return Domain(
        lines=lines,
        sizes=sizes,
        strides=strides,
        where=where,
        area=faces.area.astype(np.float32),
        shut_area=faces.shut_area.astype(np.float32),
        share=faces.share.astype(np.float32),
        opening_at=faces.opening_at,
        room=flat_room,
        fluid=fluid,
        when_full=volumes_when_full(sizes, where, faces.blocked, fluid, flat_room, cut, walls),
        blocked=faces.blocked,
        cut=cut,
        walls=walls,
        still=still,
        behind=behind,
        drag_faces=drag_faces,
        drag_walls=drag_walls,
        jet_faces=jet_faces,
        jet_loss=jet_loss,
        vent=_padded(vent).ravel().astype(np.bool_),
        region=region,
        region_count=region_count,
        gates=faces.gates,
        openings=tuple(sheets.openings),
    )
