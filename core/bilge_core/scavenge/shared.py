"""Pickups that share a stage: the one that sucks air starves the other."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from itertools import combinations

import numpy as np

from bilge_core.document.build import Build
from bilge_core.errors import InvalidQuantity
from bilge_core.loads.log import Log
from bilge_core.network.breathing import GAS_DENSITY, GAS_VISCOSITY
from bilge_core.oil import density, kinematic_viscosity
from bilge_core.oil.grades import GRADES
from bilge_core.pan.assembly import Pan
from bilge_core.quantities import si_from
from bilge_core.scavenge.lap import STARVES, DryLap, dry_lap
from bilge_core.scavenge.stages import Stage, scavenged


@dataclass(frozen=True)
class Way:
    """A lap with two pickups on one stage, or on a stage each, in settled oil.

    left : most that lies in the pan [m3]
    least_cover : over the tank's outlet [m]
    """

    left: float
    least_cover: float


@dataclass(frozen=True)
class Shared:
    """Two pickups, both ways; the same swept volume in all.

    names : of the pickups
    is_built : the build has them on one stage
    starved : time in which one had oil at its mouth and their one stage drew air [s]
    one, each : Way
    """

    names: tuple[str, str]
    is_built: bool
    starved: float
    one: Way
    each: Way


def on_one_stage(stages: tuple[Stage, ...], pair: tuple[int, int]) -> tuple[Stage, ...]:
    """Stages with two mouths on one of them, which sweeps what theirs did.

    Examples
    --------
    >>> two = (Stage("c1", "front", 10e-6, 0.5, (0,)), Stage("c2", "rear", 20e-6, 0.25, (1,)))
    >>> (one,) = on_one_stage(two, (0, 1))
    >>> one.mouths, round(one.per_turn * 1e6, 3)
    ((0, 1), 20.0)
    """
    first, second = (_stage_of(stages, mouth) for mouth in pair)
    if first is second:
        return stages
    per_turn = first.per_turn + second.per_turn * second.ratio / first.ratio
    both = replace(first, per_turn=per_turn, mouths=(*first.mouths, *second.mouths))
    return tuple(both if each is first else each for each in stages if each is not second)


def on_a_stage_each(stages: tuple[Stage, ...], pair: tuple[int, int]) -> tuple[Stage, ...]:
    """Stages with two mouths that shared one on stages of their own, alike, of what it swept.

    Examples
    --------
    >>> one = (Stage("c1", "front", 20e-6, 0.5, (0, 1)),)
    >>> [(each.mouths, round(each.per_turn * 1e6, 3)) for each in on_a_stage_each(one, (0, 1))]
    [((0,), 10.0), ((1,), 10.0)]
    """
    first, second = (_stage_of(stages, mouth) for mouth in pair)
    if first is not second:
        return stages
    share = first.per_turn / len(first.mouths)
    rest = tuple(mouth for mouth in first.mouths if mouth != pair[1])
    kept = replace(first, per_turn=first.per_turn - share, mouths=rest)
    own = replace(first, component="", per_turn=share, mouths=(pair[1],))
    return (*(kept if each is first else each for each in stages), own)


def _stage_of(stages: tuple[Stage, ...], mouth: int) -> Stage:
    return next(each for each in stages if mouth in each.mouths)


def shared_pairs(build: Build, pan: Pan, log: Log, own: DryLap) -> tuple[Shared, ...]:
    """Each two pickups of a dry sump on one stage and on a stage each, over a lap.

    Parameters
    ----------
    build : Build
        With a tank.
    pan : Pan
        As assembled from it.
    log : Log
        Prepared.
    own : DryLap
        The build's own over it, with nothing blocked.

    Returns
    -------
    tuple of Shared
        In the order of the pickups; empty with one pickup.

    Raises
    ------
    InvalidInput
        If a mouth is outside the pan, or no stage draws from it.

    Notes
    -----
    Where a stage draws oil by one mouth and air by another, the air has all of it (a trial: 20.0
    and 0.0 L/min), whatever the lengths of hose.
    """
    stages, mouths = scavenged(build, pan)
    found = []
    for pair in combinations(range(len(mouths)), 2):
        is_built = _stage_of(stages, pair[0]) is _stage_of(stages, pair[1])
        other = (on_a_stage_each if is_built else on_one_stage)(stages, pair)
        with_others = dry_lap(build, pan, log, stages=other)
        one, each = (own, with_others) if is_built else (with_others, own)
        shares = one.shares[:, list(pair)]
        starved = (shares.max(axis=1) > STARVES) & (shares.min(axis=1) <= STARVES)
        names = mouths[pair[0]].name, mouths[pair[1]].name
        step = float(np.median(np.diff(log.time)))
        found.append(
            Shared(names, is_built, float(starved.sum()) * step, _way(one), _way(each))
        )  # fmt: skip
    return tuple(found)


def _way(lap: DryLap) -> Way:
    return Way(float(lap.in_pan.max()), float(lap.cover.min()))


def left_to_the_wet(ratio: float, exponent: float) -> float:
    """Share of a stage that the branch in oil gets, the other in air and alike in all else [-].

    Parameters
    ----------
    ratio : float
        Of oil to air: densities for a hole, viscosities for a long narrow hose; above 0.
    exponent : float
        Of it in the flow under one pull: a half for a hole, one for a hose.

    Raises
    ------
    InvalidQuantity
        For a ratio that is not above 0.

    Notes
    -----
    A hole passes ``Q ~ sqrt(p / density)``, a long hose in laminar flow ``Q ~ p / viscosity``.

    Examples
    --------
    >>> round(left_to_the_wet(841.0, 0.5), 4)  # 1 part in 30
    0.0333
    >>> left_to_the_wet(1.0, 1.0)
    0.5
    """
    if not ratio > 0.0:
        raise InvalidQuantity("ratio", ratio, "above 0")
    return 1.0 / (1.0 + math.pow(ratio, exponent))


def by_restrictors(build: Build) -> tuple[float, float]:
    """What restrictors alike, and hoses alike, would leave the wet branch of a build's stage [-].

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/curlew.json").read_text())
    >>> [round(share, 3) for share in by_restrictors(build)]
    [0.034, 0.002]
    """
    grade = GRADES[build.oil.grade]
    hot = si_from(build.oil.temperature_c, "temperature", "°C")
    heavy = density(grade, hot)
    thick = float(kinematic_viscosity(grade, hot)) * heavy
    return (
        left_to_the_wet(heavy / GAS_DENSITY, 0.5),
        left_to_the_wet(thick / GAS_VISCOSITY, 1.0),
    )
