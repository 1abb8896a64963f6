"""The way back from the stages to the tank, and the gas that goes along it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from bilge_core.document.build import Build
from bilge_core.document.circuit.circuit import Circuit
from bilge_core.document.circuit.component import Component
from bilge_core.document.circuit.dry_and_gas import Separator, Tank
from bilge_core.document.circuit.feeding import Cooler, PlateCooler
from bilge_core.document.circuit.pumps import ScavengeStage
from bilge_core.errors import InvalidQuantity
from bilge_core.network.held import running_shares
from bilge_core.network.on_the_way import OnTheWay
from bilge_core.network.way_back import TAKEN_OUT, way_back_of
from bilge_core.physics.arrays import Array

Order = Literal["ahead", "after", "alone", "none"]


def way_back(circuit: Circuit) -> tuple[Component, ...]:
    """What oil goes through from the first scavenge stage's outlet as far as the tank, in order.

    Empty where no stage leads to a tank.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> circuit = read_build(Path("demo/curlew.json").read_text()).circuit
    >>> [part.kind for part in way_back(circuit) if part.kind != "tee"]
    ['separator', 'cooler', 'tank']
    """
    for stage in circuit.of_kind(ScavengeStage):
        passed: list[Component] = []
        here = stage.id
        while True:
            onward = (
                each for each in circuit.runs
                if each.service == "return" and each.start.component == here
            )  # fmt: skip
            run = next(onward, None)
            part = None if run is None else circuit.component(run.end.component)
            if part is None or part in passed:
                break
            passed.append(part)
            if isinstance(part, Tank):
                return tuple(passed)
            here = part.id
    return ()


def after_separator(share: float, taken: float = TAKEN_OUT) -> float:
    """Share of gas behind a separator that takes a part of the gas and no oil.

    Parameters
    ----------
    share : float
        Of gas ahead of it, by volume.
    taken : float
        Share of that gas that it takes out.

    Raises
    ------
    InvalidQuantity
        If either is not from 0 to 1.

    Examples
    --------
    >>> round(after_separator(0.5, 0.7), 3), after_separator(1.0, 1.0)
    (0.231, 0.0)
    """
    if not (0.0 <= share <= 1.0 and 0.0 <= taken <= 1.0):
        raise InvalidQuantity("share", (share, taken), "from 0 to 1")
    gas = share * (1.0 - taken)
    return gas / (gas + 1.0 - share) if gas > 0.0 else 0.0


@dataclass(frozen=True)
class Carried:
    """Gas along the way back; shares by volume at the air's pressure.

    order : where the separator is, seen from the cooler; alone: there is no cooler
    joined : of gas in what the stages bring together
    in_cooler : in what goes through the cooler; None: there is none
    into_tank : in what comes into the tank
    """

    order: Order
    joined: float
    in_cooler: float | None
    into_tank: float


def carried(circuit: Circuit, joined: float) -> Carried | None:
    """Gas along the way back to the tank; None where no stage leads to one.

    Parameters
    ----------
    circuit : Circuit
    joined : float
        Share of gas in what all stages bring, by volume.

    Raises
    ------
    InvalidQuantity
        If it is no share.
    """
    way = way_back(circuit)
    if not way:
        return None
    share, in_cooler, order = joined, None, "none"
    for part in way:
        if isinstance(part, Separator):
            share = after_separator(share)
            order = "alone" if in_cooler is None else "after"
        if isinstance(part, Cooler | PlateCooler):
            in_cooler = share
            order = "ahead" if order == "alone" else order
    return Carried(order, joined, in_cooler, share)  # type: ignore[arg-type]


@dataclass(frozen=True)
class Along:
    """The way back at n moments.

    joined : share of gas in what comes together, ahead of separator and cooler, shape (n,)
    in_cooler : in the cooler; None: there is none
    into_tank : in what comes into the tank, shape (n,)
    held : oil on the way [m3], shape (n,)
    """

    joined: Array
    in_cooler: Array | None
    into_tank: Array
    held: Array


def _gas(volume: Array, oil: Array) -> Array:
    """Share of gas; all gas where nothing moves."""
    share = np.divide(oil, volume, out=np.zeros_like(oil), where=volume > 1e-12)
    return np.asarray(np.clip(1.0 - share, 0.0, 1.0))


def along(build: Build, time: Array, swept: Array, oil: Array, every: int = 1) -> Along:
    """Gas and oil on the way back while the stages bring what they do.

    Parameters
    ----------
    build : Build
        With stages.
    time : ndarray, shape (n,)
        [s]
    swept, oil : ndarray, shape (n, s)
        Gas and oil together, and oil alone, that each stage brings [m3/s].
    every : int
        Told of every so manyth moment, by what passes until the next.

    Notes
    -----
    It begins as it is when running steadily.
    """
    way = way_back_of(build)
    assert way is not None  # it has stages
    on_way = OnTheWay(way, running_shares(build, way))
    steps = np.diff(time, append=2.0 * time[-1] - time[-2])[:, None]
    on_way.brings_all(swept * steps, oil * steps)
    came, left = on_way.seen()
    at = np.append(np.arange(0, len(time), every), len(time))
    came_then, left_then = (np.diff(each[:, :, at], axis=2) for each in (came, left))
    last = way.onward < 0
    in_cooler = None
    if way.cooler >= 0 and way.volumes[way.cooler] > 0.0:
        lies = (came[1] - left[1])[way.cooler, at[:-1]]
        in_cooler = np.clip(1.0 - lies / way.volumes[way.cooler], 0.0, 1.0)
    return Along(
        _gas(*came_then[:, way.joined]),
        in_cooler,
        _gas(*left_then[:, last].sum(axis=1)),
        (came[1] - left[1]).sum(axis=0)[at[:-1]],
    )
