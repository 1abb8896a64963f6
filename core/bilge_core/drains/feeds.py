"""What comes into the housings that drains empty."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from bilge_core.document.build import Build
from bilge_core.document.circuit.run import HardLine, Hose, bore_of
from bilge_core.drains.laid import Drain, Drains, From
from bilge_core.drains.pulled import Pulled
from bilge_core.network import Network, network_of
from bilge_core.network.guesses import GUESSES, HEAD_DRAINS
from bilge_core.network.records import at_rest
from bilge_core.network.running import on_steadily
from bilge_core.physics.arrays import Array
from bilge_core.physics.turns import speed_of_rpm

_SPEEDS = speed_of_rpm(
    np.array([600.0, 1000.0, 1500.0, 2000.0, 3000.0, 4000.0, 5000.0, 6000.0, 7000.0, 8000.0, 9e3])
)
"""Crank speeds [rad/s] at which a feed is worked out; between them straight lines (ours)."""
_STEADY_FOR = 6.0  # [s] to come to rest at a speed (ours)
_LEAST = 1e-9  # [m3/s] of a feed that shares are told of


@dataclass(frozen=True)
class Feed:
    """What comes into a housing, running hot, mouth covered.

    speed : of the crank, rising, shape (n,) [rad/s]
    flow : oil without foam, shape (n,) [m3/s]
    """

    speed: Array
    flow: Array

    def at(self, speed: Array) -> Array:
        """At other speeds [m3/s]; a crank that stands feeds nothing."""
        known = np.concatenate([[0.0], self.speed])
        flow = np.concatenate([[0.0], np.maximum(self.flow, 0.0)])
        return np.asarray(np.interp(speed, known, flow))

    @property
    def most(self) -> float:
        """[m3/s]"""
        return float(self.flow.max())


_FED_BY: Mapping[From, str] = {"turbo": "bearings", "head": "cams"}
"""What lets oil into each, as the network names it."""


def feeds_of(build: Build, drains: Drains, network: Network | None = None) -> Mapping[str, Feed]:
    """What comes into each drain, by its first run's id, running hot.

    Parameters
    ----------
    build : Build
    drains : Drains
        Of it.
    network : Network, optional
        Of it, or of it with its oil at another temperature.

    Returns
    -------
    mapping of str to Feed
        A turbo's is what its feed lets through. A head's outside line is taken to carry as much of
        what its head is fed as it has of the area of all its drains.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.drains.laid import drains_of
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> feeds_of(build, drains_of(build))
    {}
    """
    fed: Sequence[Drain | Pulled] = (*drains.placed, *drains.pulled)
    if not fed:
        return {}
    network = network_of(build) if network is None else network
    elements = {
        drain.run: network.elements.index((drain.component, _FED_BY[drain.kind]))
        for drain in fed
        if (drain.component, _FED_BY[drain.kind]) in network.elements
    }
    state = at_rest(network.still)
    flows: dict[str, list[float]] = {run: [] for run in elements}
    for speed in _SPEEDS.tolist():
        on_steadily(state, speed, _STEADY_FOR)
        for run, element in elements.items():
            flows[run].append(float(state.elements["flow"][element]))
    return {
        drain.run: Feed(_SPEEDS, np.array(flows[drain.run]) * _share_of_head(build, drain))
        for drain in fed
        if drain.run in flows
    }


def _share_of_head(build: Build, drain: Drain | Pulled) -> float:
    """Of what a head is fed, what its outside line is taken to carry: by area."""
    if drain.kind == "turbo":
        return 1.0
    whole = mine = 0.0
    for run in build.circuit.runs:
        if run.start.component != drain.component or run.service != "drain":
            continue
        bore = bore_of(run.line) or GUESSES["drain_bore"].likely * 1e3
        many = getattr(run.line, "count", 1)
        if bore_of(run.line) is None and not isinstance(run.line, Hose | HardLine):
            many = HEAD_DRAINS
        whole += many * bore * bore
        if run.id == drain.run:
            mine += bore * bore
    return mine / whole if whole else 1.0


def with_others(drains: Drains, feeds: Mapping[str, Feed]) -> Drains:
    """Drains with what others bring into the lengths that they share, at the most of each feed.

    Notes
    -----
    Each with its own foam: a litre from a turbo takes more room than one from a head.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.drains.laid import drains_of
    >>> build = read_build(Path("demo/sandpiper.json").read_text())
    >>> drains = drains_of(build)
    >>> float(with_others(drains, feeds_of(build, drains)).placed[0].line.falls.carries.max())
    1.0
    """
    swells = {each.run: 1.0 / (1.0 - each.foam) for each in drains.placed}
    brings = {run: feed.most * swells[run] for run, feed in feeds.items() if run in swells}

    def of(drain: Drain) -> Drain:
        own = max(brings.get(drain.run, 0.0), _LEAST)
        return drain.carrying(
            {
                run: 1.0 + sum(brings.get(each, 0.0) for each in others) / own
                for run, others in drain.shares.items()
            }
        )

    return drains.with_placed(tuple(of(drain) for drain in drains.placed))
