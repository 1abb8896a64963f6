"""Drains with a stage of their own: whether it takes all that comes."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from bilge_core.drains.feeds import Feed
from bilge_core.drains.laid import Drains, falling_oil
from bilge_core.drains.line import FallingOil
from bilge_core.drains.pulled import Pulled, suction
from bilge_core.network import Network
from bilge_core.physics.arrays import Array
from bilge_core.scavenge.stages import swept_of


@dataclass(frozen=True)
class PulledForecast:
    """A drain with a stage of its own.

    pulled : Pulled
    feed : Feed
    oil : FallingOil
    sweeps : of the stage, at the feed's speeds, shape (n,) [m3/s]
    suction : pressure that its line takes at the most that comes [Pa]
    """

    pulled: Pulled
    feed: Feed
    oil: FallingOil
    sweeps: Array
    suction: float

    @property
    def share(self) -> Array:
        """Of what the stage sweeps, what comes with its foam, shape (n,)."""
        return np.asarray(self.feed.flow * self.oil.swells / self.sweeps)


def pulled_by_stages(
    drains: Drains, feeds: Mapping[str, Feed], network: Network, turbo_foam: float | None
) -> tuple[PulledForecast, ...]:
    """Drains with stages of their own, on what comes to them.

    Parameters
    ----------
    drains : Drains
    feeds : mapping of str to Feed
        By their first run's id.
    network : Network
    turbo_foam : float or None
        Share of gas in what turbos drain; None: as guessed.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.drains.laid import drains_of
    >>> from bilge_core.network import network_of
    >>> build = read_build(Path("demo/sandpiper.json").read_text())
    >>> pulled_by_stages(drains_of(build), {}, network_of(build), None)
    ()
    """
    found = []
    for pulled in drains.pulled:
        if pulled.run not in feeds:
            continue
        feed = feeds[pulled.run]
        told = turbo_foam if pulled.kind == "turbo" else None
        oil = falling_oil(network, pulled.foam if told is None else told)
        sweeps = swept_of(pulled.stage, feed.speed)
        found.append(
            PulledForecast(pulled, feed, oil, sweeps, suction(pulled.pieces, feed.most, oil))
        )
    return tuple(found)
