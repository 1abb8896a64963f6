"""The lap, settled: the oil lies at once as each moment's load would have it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numba import njit

from bilge_core.document.build import Build
from bilge_core.loads.log import Log
from bilge_core.network import network_of, steady
from bilge_core.pan import Pan, Solid, column_volumes, columns_of
from bilge_core.pan.levels import solve_level, sorted_heights, tetrahedron_below
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import apparent_gravity, up_from
from bilge_core.pickup.demand import demanded_flow, drawn_flow
from bilge_core.pickup.draw_down import critical_depth, gas_share_kernel
from bilge_core.pickup.mouth import bare_area_share
from bilge_core.scavenge.lap import DryLap, dry_lap
from bilge_core.scavenge.tank import up_in_car

_ROUNDS = 3  # of draw and gas share, each from the other: more moves no share by 0.01 (ours)


@dataclass(frozen=True)
class SettledLap:
    """What the pickup finds at each sample of a lap, every array of shape (n,) but `normals`.

    time : [s]
    normals : shape (n, 3)
        "Up" in the engine's frame.
    levels : [m]
    cover : [m]
    gas_share : 0 to 1
    zones : shape (n, zones) [m3]
        What lies in each zone of the pan.
    to_cover : [m3]
        What the pan would have to hold for the mouth's centre to be covered.
    dry : DryLap or None
        Of a dry sump: then cover and gas share are of its tank's outlet, and so is `to_cover`.
    """

    time: Array
    normals: Array
    levels: Array
    cover: Array
    gas_share: Array
    zones: Array
    to_cover: Array
    dry: DryLap | None = None

    @property
    def step(self) -> float:
        """From one sample to the next [s]."""
        return float(self.time[1] - self.time[0])


@njit(cache=True)
def _levels(vertices, tetrahedra, volumes, volume, normals, levels):  # type: ignore[no-untyped-def]
    heights = np.empty((volumes.size, 4))
    guess = np.nan
    for i in range(normals.shape[0]):
        guess = solve_level(vertices, tetrahedra, volumes, normals[i], volume, guess, heights)
        levels[i] = guess


def settled_levels(solid: Solid, volume: float, normals: Array) -> Array:
    """Level [m] at which a volume rests under each of many normals; shapes (n, 3) to (n,).

    Like `level_of_volume`, each solve beginning from the one before it. The volume is
    trusted to be one that the solid can hold.

    Examples
    --------
    >>> import shapely
    >>> from bilge_core.pan import Prism, solid_from_prisms
    >>> box = solid_from_prisms([Prism(shapely.box(0, 0, 0.4, 0.25), (0, 0, 0), (0.14, 0, 0))])
    >>> settled_levels(box, 0.005, np.array([[0, 0, 1.0]] * 2)).round(6).tolist()
    [0.05, 0.05]
    """
    levels = np.empty(len(normals))
    parts = (solid.vertices, solid.tetrahedra, solid.volumes)
    _levels(*parts, volume, np.ascontiguousarray(normals), levels)
    return levels


@njit(cache=True)
def _volumes_at(vertices, tetrahedra, volumes, normals, levels, out):  # type: ignore[no-untyped-def]
    heights = np.empty((volumes.size, 4))
    for i in range(normals.shape[0]):
        sorted_heights(vertices, tetrahedra, normals[i], heights)
        total = 0.0
        for t in range(volumes.size):
            total += tetrahedron_below(
                heights[t, 0], heights[t, 1], heights[t, 2], heights[t, 3], volumes[t], levels[i]
            )[0]
        out[i] = total


def volumes_to_cover(pan: Pan, normals: Array) -> Array:
    """What the pan would have to hold [m3] for the mouth's centre to be just covered.

    Parameters
    ----------
    pan : Pan
    normals : ndarray, shape (n, 3)
        "Up", of length one, engine frame.

    Returns
    -------
    ndarray, shape (n,)

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> pan = assemble_pan(read_build(Path("demo/dunlin.json").read_text()))
    >>> bool(volumes_to_cover(pan, np.array([[0.0, 0.0, 1.0]]))[0] < pan.oil_volume)
    True
    """
    normals = np.ascontiguousarray(normals)
    out = np.empty(len(normals))
    parts = (pan.solid.vertices, pan.solid.tetrahedra, pan.solid.volumes)
    _volumes_at(*parts, normals, normals @ pan.mouth.centre, out)
    return out


@njit(cache=True)
def _gas_shares(mouth, normals, critical, cover, share):  # type: ignore[no-untyped-def]
    half_length, half_width, is_round = mouth
    for i in range(normals.shape[0]):
        normal = normals[i]
        bare = bare_area_share(cover[i], normal[0], normal[1], half_length, half_width, is_round)
        share[i] = gas_share_kernel(cover[i], critical[i], bare)


def settle_lap(pan: Pan, build: Build, log: Log) -> SettledLap:
    """Cover and gas share at every sample, the oil settling at once.

    Parameters
    ----------
    pan : Pan
    build : Build
        For how the engine sits and what its pump swallows.
    log : Log
        Ready for use: see `prepare`.

    Returns
    -------
    SettledLap

    Notes
    -----
    Oil that takes its time, overshoots and rocks is left out: quick left-rights
    are worse and short peaks kinder than this says.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.loads.log import Log
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> standing = Log(np.arange(3.0), *np.zeros((4, 3)))
    >>> settle_lap(assemble_pan(build), build, standing).gas_share.tolist()
    [0.0, 0.0, 0.0]
    """
    if build.circuit.is_dry:
        return _dry(pan, build, log)
    gravity = apparent_gravity(build.car, log.forward, log.leftward, log.upward)
    normals = np.ascontiguousarray(up_from(gravity))
    mouth = pan.mouth
    swept = demanded_flow(build.circuit.pump, log.engine_speed)
    taken = steady(network_of(build)).drawn_at(log.engine_speed)
    levels = settled_levels(pan.solid, pan.oil_volume, normals)
    cover = levels - normals @ mouth.centre
    share = np.zeros(len(log.time))
    size = (mouth.half_length, mouth.half_width, mouth.is_round)
    for _ in range(_ROUNDS):
        flow = drawn_flow(swept, taken, share)
        critical = critical_depth(flow, np.linalg.norm(gravity, axis=1))
        _gas_shares(size, normals, critical, cover, share)
    zones = column_volumes(columns_of(pan), normals, levels)
    to_cover = volumes_to_cover(pan, normals)
    return SettledLap(log.time, normals, levels, cover, share, zones, to_cover)


def _dry(pan: Pan, build: Build, log: Log) -> SettledLap:
    """A dry sump: what feeds the gallery is the tank's outlet."""
    lap = dry_lap(build, pan, log)
    normals = np.ascontiguousarray(
        up_from(apparent_gravity(build.car, log.forward, log.leftward, log.upward))
    )
    ups, outlet = up_in_car(build, normals), lap.tank.outlet.centre
    to_cover = np.empty(len(normals))
    solid = lap.tank.solid
    parts = (solid.vertices, solid.tetrahedra, solid.volumes)
    _volumes_at(*parts, np.ascontiguousarray(ups), ups @ outlet, to_cover)
    zones = column_volumes(columns_of(pan), normals, lap.levels)
    return SettledLap(log.time, normals, lap.levels, lap.cover, lap.gas, zones, to_cover, lap)
