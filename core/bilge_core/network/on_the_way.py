"""Oil on its way back to a dry sump's tank, step by step: each section a plug.

What has come into a section is summed up; what leaves is what came in as much earlier as there is
room for. So nothing is mixed, and nothing made or lost.
"""

from __future__ import annotations

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bilge_core.network.way_back import WayBack
from bilge_core.physics.arrays import Array

_FIRST = 1024  # steps that there is room for to begin with (ours)
_Way = tuple[Array, NDArray[np.int64], Array, NDArray[np.int64], Array]


@njit(cache=True)
def carry(way, came, left, at, brought):  # type: ignore[no-untyped-def]
    """What comes into the tank over a step [m3 of oil].

    Parameters
    ----------
    way : volumes, onward, kept, entries, and the share of oil that each section began with
    came : volume and oil that have come into each section by each step, shape (2, k, n) [m3]
    left : by each section, volume and oil that have left it, and the step as far as which
        what has left came in, shape (3, k)
    at : of the step that begins; `came` is written at the one after it
    brought : by each stage over the step, volume and oil, shape (2, s) [m3]
    """
    volumes, onward, kept, entries, shares = way
    volume, oil = came
    for k in range(volumes.size):
        volume[k, at + 1], oil[k, at + 1] = volume[k, at], oil[k, at]
    for s in range(entries.size):
        volume[entries[s], at + 1] += brought[0, s]
        oil[entries[s], at + 1] += brought[1, s]
    into_tank = 0.0
    for k in range(volumes.size):
        # all that came in, less what there is room for: as far as there it has left
        gone = volume[k, at + 1] - volumes[k]
        if gone < 0.0:
            gone_oil = gone * shares[k]
        else:
            by = int(left[2, k])
            while volume[k, by + 1] < gone:
                by += 1
            left[2, k] = by
            span = volume[k, by + 1] - volume[k, by]
            part = (gone - volume[k, by]) / span if span > 0.0 else 1.0
            gone_oil = oil[k, by] + part * (oil[k, by + 1] - oil[k, by])
        out, out_oil = gone - left[0, k], gone_oil - left[1, k]
        left[0, k], left[1, k] = gone, gone_oil
        if onward[k] < 0:
            into_tank += out_oil
        else:
            volume[onward[k], at + 1] += out_oil + (out - out_oil) * kept[k]
            oil[onward[k], at + 1] += out_oil
    return into_tank


@njit(cache=True)
def _carry_all(way, came, left, at, volume, oil):  # type: ignore[no-untyped-def]
    """`carry` over many steps, of which each row of `volume` and `oil` is one."""
    brought = np.empty((2, volume.shape[1]))
    for step in range(volume.shape[0]):
        brought[0], brought[1] = volume[step], oil[step]
        carry(way, came, left, at + step, brought)


def carried_from(way: WayBack, shares: Array, steps: int) -> tuple[_Way, Array, Array]:
    """What `carry` needs over so many steps: the way, what came, what left, as it begins."""
    count = len(way.volumes)
    left = np.zeros((3, count))
    left[0], left[1] = -way.volumes, -way.volumes * shares
    return (
        (way.volumes, way.onward, way.kept, way.entries, shares),
        np.zeros((2, count, steps + 1)),
        left,
    )


class OnTheWay:
    """Oil on its way back, step by step, for as long as it is asked.

    Parameters
    ----------
    way : WayBack
    shares : ndarray, shape (k,)
        Of oil in each section to begin with.
    """

    def __init__(self, way: WayBack, shares: Array) -> None:
        self._way, self._came, self._left = carried_from(way, shares, _FIRST)
        self._at = 0

    def brings(self, volume: Array, oil: Array) -> float:
        """Oil that comes into the tank [m3] while the stages bring a volume and the oil in it."""
        if self._at + 1 == self._came.shape[2]:
            self._grow()
        into = carry(self._way, self._came, self._left, self._at, np.stack([volume, oil]))
        self._at += 1
        return float(into)

    def brings_all(self, volume: Array, oil: Array) -> None:
        """The same over many steps, shape (steps, stages) each [m3]."""
        while self._at + len(volume) >= self._came.shape[2]:
            self._grow()
        _carry_all(self._way, self._came, self._left, self._at, volume, oil)
        self._at += len(volume)

    def _grow(self) -> None:
        self._came = np.concatenate([self._came, np.zeros_like(self._came)], axis=2)

    def seen(self) -> tuple[Array, Array]:
        """Volume and oil that have come into each section, and left it, by each step so far.

        Returns
        -------
        came, left : ndarray, shape (2, k, steps + 1) [m3]
            Counted from the first step on: what a section began with leaves it below nil.
        """
        came = self._came[:, :, : self._at + 1]
        gone = came[0] - self._way[0][:, None]
        oil = [
            np.where(volume < 0.0, volume * share, np.interp(volume, *sent))
            for volume, share, sent in zip(gone, self._way[4], came.swapaxes(0, 1), strict=True)
        ]
        return came, np.stack([gone, np.array(oil)])

    @property
    def held(self) -> float:
        """Oil on the way now [m3]."""
        return float((self._came[1, :, self._at] - self._left[1]).sum())
