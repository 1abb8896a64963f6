"""The pan zone by zone: each zone with the skirt above it, and the oil that lies there."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from numba import njit
from numpy.typing import NDArray

from bilge_core.errors import InvalidQuantity
from bilge_core.pan.assembly import Pan
from bilge_core.pan.levels import sorted_heights, tetrahedron_below
from bilge_core.pan.solid import Prism, Solid, solid_from_prisms
from bilge_core.pan.zone_shape import ZoneShape
from bilge_core.physics.arrays import Array


@dataclass(frozen=True)
class Columns:
    """All zones' columns as one list of tetrahedra.

    solid : Solid
    owner : ndarray of int, shape (t,)
        Which zone each tetrahedron belongs to, as in `Pan.zones`.
    count : int
        How many zones there are.
    """

    solid: Solid
    owner: NDArray[np.int64]
    count: int


def column_of(pan: Pan, zone: ZoneShape) -> Solid:
    """One zone, with the skirt straight above it where it is open to the rail."""
    prisms = list(zone.prisms)
    if zone.is_open and pan.skirt_height > 0.0:
        outline = shapely.intersection(zone.outline, pan.rail)
        prisms += [
            Prism(part, (0.0, 0.0, 0.0), (pan.skirt_height, 0.0, 0.0))
            for part in shapely.get_parts(outline)
            if part.area > 0.0
        ]
    return solid_from_prisms(prisms)


def columns_of(pan: Pan) -> Columns:
    """Cut the pan and its skirt into the columns of its zones.

    Parameters
    ----------
    pan : Pan

    Returns
    -------
    Columns
        Together they hold what the pan holds, but for hairline gaps between zones.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> pan = assemble_pan(read_build(Path("demo/dunlin.json").read_text()))
    >>> columns = columns_of(pan)
    >>> columns.count, bool(abs(columns.solid.volume - pan.solid.volume) < 1e-6)
    (4, True)
    """
    solids = [column_of(pan, zone) for zone in pan.zones]
    firsts = np.cumsum([0] + [len(solid.vertices) for solid in solids[:-1]])
    return Columns(
        Solid(
            np.concatenate([solid.vertices for solid in solids]),
            np.concatenate([s.tetrahedra + first for s, first in zip(solids, firsts, strict=True)]),
            np.concatenate([solid.volumes for solid in solids]),
        ),
        np.concatenate([np.full(len(s.volumes), i) for i, s in enumerate(solids)]),
        len(solids),
    )


@njit(cache=True)
def _share_out(solid, owner, normals, levels, out):  # type: ignore[no-untyped-def]
    vertices, tetrahedra, volumes = solid
    heights = np.empty((volumes.size, 4))
    for i in range(levels.size):
        sorted_heights(vertices, tetrahedra, normals[i], heights)
        for t in range(volumes.size):
            out[i, owner[t]] += tetrahedron_below(
                heights[t, 0], heights[t, 1], heights[t, 2], heights[t, 3], volumes[t], levels[i]
            )[0]


def column_volumes(columns: Columns, normals: Array, levels: Array) -> Array:
    """Oil in each zone's column under surfaces.

    Parameters
    ----------
    columns : Columns
    normals : ndarray, shape (n, 3)
        "Up", of length one, engine frame.
    levels : ndarray, shape (n,)
        Surfaces are where ``point · normal = level`` [m].

    Returns
    -------
    ndarray, shape (n, zones) [m3]

    Raises
    ------
    InvalidQuantity
        If there is not one finite level for each normal.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> pan = assemble_pan(read_build(Path("demo/dunlin.json").read_text()))
    >>> up = np.array([[0.0, 0.0, 1.0]])
    >>> inside = column_volumes(columns_of(pan), up, np.array([0.0]))
    >>> bool(abs(inside.sum() - pan.capacity_to_rail) < 1e-6)  # all full to the rail
    True
    """
    if normals.shape != (len(levels), 3) or not np.all(np.isfinite(levels)):
        raise InvalidQuantity("levels", levels.shape, "one finite level for each normal")
    out = np.zeros((len(levels), columns.count))
    solid = (columns.solid.vertices, columns.solid.tetrahedra, columns.solid.volumes)
    _share_out(solid, columns.owner, np.ascontiguousarray(normals), levels, out)
    return out
