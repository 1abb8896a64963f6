"""One settled surface, and the litres-to-level curve."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bilge_core.errors import InvalidQuantity
from bilge_core.pan import Pan, level_of_volume
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import up_from
from bilge_core.pickup.mouth import bare_share


@dataclass(frozen=True)
class Surface:
    """Oil at rest in the pan.

    normal : ndarray, shape (3,)
        "Up", of length one, engine frame.
    level : float
        ``point · normal`` on the surface [m].
    cover : float
        Oil above the mouth's centre along the normal [m]; negative when bare.
    bare : float
        Share of the mouth's area in air.
    """

    normal: Array
    level: float
    cover: float
    bare: float


def settle(pan: Pan, apparent_gravity: Array) -> Surface:
    """Where the pan's oil comes to rest under a steady apparent gravity.

    Parameters
    ----------
    pan : Pan
    apparent_gravity : ndarray, shape (3,)
        Engine frame [m/s2].

    Returns
    -------
    Surface

    Raises
    ------
    InvalidQuantity
        If apparent gravity is nil or not finite.

    Notes
    -----
    All oil is one body: plates and gates are not part of it yet.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> pan = assemble_pan(read_build(Path("demo/dunlin.json").read_text()))
    >>> settle(pan, np.array([0.0, 0.0, -9.80665])).bare
    0.0
    """
    normal = up_from(apparent_gravity)
    level = level_of_volume(pan.solid, normal, pan.oil_volume)
    cover = level - float(np.dot(normal, pan.mouth.centre))
    return Surface(normal, level, cover, bare_share(pan.mouth, normal, level))


@dataclass(frozen=True)
class LevelCurve:
    """Litres against level with the car standing.

    volumes : ndarray, shape (n,) [m3]
    heights : ndarray, shape (n,)
        Surface above the pan's lowest point, straight up [m].
    """

    volumes: Array
    heights: Array


def level_curve(pan: Pan, standing_gravity: Array, points: int = 41) -> LevelCurve:
    """Level against volume in the pan as the engine sits, up to the top of the skirt.

    Parameters
    ----------
    pan : Pan
    standing_gravity : ndarray, shape (3,)
        Gravity in the engine's frame with the car standing [m/s2].
    points : int
        At least 2.

    Returns
    -------
    LevelCurve

    Raises
    ------
    InvalidQuantity
        If there are fewer than 2 points, or gravity is nil.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> pan = assemble_pan(read_build(Path("demo/dunlin.json").read_text()))
    >>> curve = level_curve(pan, np.array([0.0, 0.0, -9.80665]))
    >>> bool(np.all(np.diff(curve.heights) > 0))
    True
    """
    if points < 2:
        raise InvalidQuantity("points", points, "at least 2")
    normal = up_from(standing_gravity)
    lowest = float((pan.solid.vertices @ normal).min())
    volumes = np.linspace(0.0, pan.solid.volume, points)
    heights = [level_of_volume(pan.solid, normal, float(volume)) - lowest for volume in volumes]
    return LevelCurve(volumes, np.array(heights))
