"""The lap, settled: the oil lies at once as each moment's load would have it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bilge_core.build import Build
from bilge_core.loads.frames import apparent_gravity
from bilge_core.loads.log import Log
from bilge_core.pan import Pan
from bilge_core.pan.levels import solve_level
from bilge_core.pan.mouth import bare_area_share
from bilge_core.pressure.suction import critical_depth, gas_share_kernel, pump_volume_flow
from bilge_core.statics.surface import up_from

Array = NDArray[np.float64]


@dataclass(frozen=True)
class SettledLap:
    """What the pickup finds at each sample of a lap, every array of shape (n,) but `normals`.

    time : [s]
    normals : shape (n, 3)
        "Up" in the engine's frame.
    levels : [m]
    cover : [m]
    gas_share : 0 to 1
    """

    time: Array
    normals: Array
    levels: Array
    cover: Array
    gas_share: Array


@njit(cache=True)
def _march(solid, volume, mouth, normals, critical, levels, cover, share):  # type: ignore[no-untyped-def]
    vertices, tetrahedra, volumes = solid
    centre, half_length, half_width, is_round = mouth
    heights = np.empty((volumes.size, 4))
    guess = np.nan
    for i in range(normals.shape[0]):
        normal = normals[i]
        guess = solve_level(vertices, tetrahedra, volumes, normal, volume, guess, heights)
        levels[i] = guess
        cover[i] = guess - (normal[0] * centre[0] + normal[1] * centre[1] + normal[2] * centre[2])
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
    >>> from bilge_core.build import read_build
    >>> from bilge_core.loads.log import Log
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> standing = Log(np.arange(3.0), *np.zeros((4, 3)))
    >>> settle_lap(assemble_pan(build), build, standing).gas_share.tolist()
    [0.0, 0.0, 0.0]
    """
    gravity = apparent_gravity(build.car, log.forward, log.leftward)
    normals = np.ascontiguousarray(up_from(gravity))
    flow = pump_volume_flow(
        build.pump.displacement_cm3 * 1e-6, build.pump.drive_ratio, log.engine_speed
    )
    critical = critical_depth(flow, np.linalg.norm(gravity, axis=1))
    levels, cover, share = np.empty((3, len(log.time)))
    solid, mouth = pan.solid, pan.mouth
    _march(
        (solid.vertices, solid.tetrahedra, solid.volumes),
        pan.oil_volume,
        (mouth.centre, mouth.half_length, mouth.half_width, mouth.is_round),
        normals,
        critical,
        levels,
        cover,
        share,
    )
    return SettledLap(log.time, normals, levels, cover, share)
