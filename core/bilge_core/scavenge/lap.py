"""A dry sump over a lap in settled oil: pan, stages and tank, each feeling the others."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numba import njit
from numpy.typing import NDArray

from bilge_core.document.build import Build
from bilge_core.loads.log import Log
from bilge_core.network import network_of, steady
from bilge_core.network.held import running_shares
from bilge_core.network.on_the_way import carried_from, carry
from bilge_core.network.way_back import way_back_of
from bilge_core.pan.assembly import Pan
from bilge_core.pan.filling import oil_in_tank
from bilge_core.pan.levels import solve_level
from bilge_core.pan.solid import Solid
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import apparent_gravity, up_from
from bilge_core.pickup.demand import SQUEEZED, demanded_flow
from bilge_core.pickup.draw_down import CRAYA_POINT_SINK, gas_share_kernel
from bilge_core.pickup.mouth import Mouth, bare_area_share
from bilge_core.scavenge.stages import DrawnMouth, Stage, scavenged
from bilge_core.scavenge.tank import FULLEST, TankSpace, tank_of, tank_space, up_in_car

STARVES = 0.5
"""Share of gas at one of a stage's mouths from which the others get nothing: what sucks air has
hardly any resistance (ours, from a trial: 20.0 and 0.0 L/min)."""
_SETTLES = 3.0  # [s] run before the lap begins, as it begins (ours)


@dataclass(frozen=True)
class DryLap:
    """A dry sump over a lap; n samples, m mouths, s stages.

    stages : tuple of Stage
    mouths : tuple of DrawnMouth
    tank : TankSpace
    time : [s], shape (n,)
    in_pan, in_tank, coming_back : oil there and on its way from stages to tank [m3], shape (n,)
    levels : of the pan's oil along its normals [m], shape (n,)
    shares : of gas at each mouth, shape (n, m)
    swept : by each stage [m3/s], shape (n, s)
    oil : that each stage brings [m3/s], shape (n, s)
    returned : that comes down into the pan [m3/s], shape (n,)
    cover : over the tank's outlet [m], shape (n,)
    gas : share of it in what the pressure stage draws, shape (n,)
    lost : oil that neither pan nor tank had room for [m3]
    """

    stages: tuple[Stage, ...]
    mouths: tuple[DrawnMouth, ...]
    tank: TankSpace
    time: Array
    in_pan: Array
    in_tank: Array
    coming_back: Array
    levels: Array
    shares: Array
    swept: Array
    oil: Array
    returned: Array
    cover: Array
    gas: Array
    lost: float


@njit(cache=True)
def settled_share(cover, normal, gravity, flow, mouth):  # type: ignore[no-untyped-def]
    """Share of gas that a mouth finds; `mouth` as `mouth_row` has it."""
    bare = bare_area_share(cover, normal[0], normal[1], mouth[3], mouth[4], mouth[5] > 0.5)
    critical = CRAYA_POINT_SINK * (flow * flow / gravity) ** 0.2
    return gas_share_kernel(cover, critical, bare)


@njit(cache=True)
def mouth_in_air(shares, stage_of, stage):  # type: ignore[no-untyped-def]
    """The mouth that has all of a stage's flow, -1 where its mouths share that evenly.

    They do until one of several sucks air; `shares` are of gas, of each mouth.
    """
    count, worst = 0, -1
    for m in range(shares.size):
        if stage_of[m] == stage:
            count += 1
            if worst < 0 or shares[m] > shares[worst]:
                worst = m
    return worst if count > 1 and shares[worst] > STARVES else -1


@njit(cache=True)
def oil_of_stage(shares, stage_of, stage):  # type: ignore[no-untyped-def]
    """Share of oil in what a stage draws by its mouths, of which `shares` are gas."""
    has_all = mouth_in_air(shares, stage_of, stage)
    if has_all >= 0:
        return 1.0 - shares[has_all]
    count, sum_of = 0, 0.0
    for m in range(shares.size):
        if stage_of[m] == stage:
            count += 1
            sum_of += 1.0 - shares[m]
    return sum_of / count if count > 0 else 0.0


@njit(cache=True)
def _march(pan, tank, moments, asked, stages, mouths, back, start, out):  # type: ignore[no-untyped-def]
    """Step by step; what ran over [m3].

    pan, tank : vertices, tetrahedra, volumes, and the most that oil may fill
    moments : the pan's normals and the tank's, shape (n, 3), strength of gravity, shape (n,)
    asked : step [s], what the engine takes of oil alone and what its pump sweeps, shape (n,)
    stages : what they sweep, shape (n, s), and the stage of each mouth
    mouths : rows of the pan's, and the outlet's
    back : the way back to the tank, as `carry` takes it
    start : in pan and tank [m3]
    out : pan, tank, level, cover, gas, feed, on the way back of each moment; shares of gas; oil of
        each stage
    """
    normals, tank_normals, gravity = moments
    step, wanted, pump = asked
    swept, stage_of = stages
    mouths, outlet = mouths
    way, came, left = back
    on_way = (way[0] * way[4]).sum()
    brought = np.empty((2, swept.shape[1]))
    seen, shares, oil = out
    heights = np.empty((pan[2].size, 4))
    tank_heights = np.empty((tank[2].size, 4))
    in_pan, in_tank, lost = start[0], start[1], 0.0
    guess, tank_guess = np.nan, np.nan
    many = mouths.shape[0]
    for i in range(normals.shape[0]):
        normal, up = normals[i], tank_normals[i]
        level = solve_level(pan[0], pan[1], pan[2], normal, in_pan, guess, heights)
        guess = level
        tank_level = solve_level(tank[0], tank[1], tank[2], up, in_tank, tank_guess, tank_heights)
        tank_guess = tank_level
        cover = tank_level - (up[0] * outlet[0] + up[1] * outlet[1] + up[2] * outlet[2])
        gas = settled_share(cover, up, gravity[i], wanted[i], outlet)
        drawn = min(pump[i], wanted[i] / (1.0 - gas * (1.0 - SQUEEZED)))
        feed = min(drawn * (1.0 - gas), in_tank / step)
        taken = 0.0
        for m in range(many):
            at = normal[0] * mouths[m, 0] + normal[1] * mouths[m, 1] + normal[2] * mouths[m, 2]
            flow = swept[i, stage_of[m]]
            shares[i, m] = settled_share(level - at, normal, gravity[i], flow, mouths[m])
        for s in range(swept.shape[1]):
            oil[i, s] = swept[i, s] * oil_of_stage(shares[i], stage_of, s)
            taken += oil[i, s]
        # no more than lies there: all stages get less alike
        most = in_pan / step + feed
        if taken > most:
            oil[i] *= most / taken
            taken = most
        in_pan += (feed - taken) * step
        brought[0], brought[1] = swept[i] * step, oil[i] * step
        back_in = carry(way, came, left, i, brought)
        on_way += taken * step - back_in
        in_tank += back_in - feed * step
        if in_tank > tank[3]:  # the tank runs over: what its vent carries away is gone
            lost += in_tank - tank[3]
            in_tank = tank[3]
        if in_pan > pan[3]:
            lost += in_pan - pan[3]
            in_pan = pan[3]
        row = (in_pan, in_tank, level, cover, gas, feed, on_way)
        for k in range(7):
            seen[i, k] = row[k]
    return lost


def mouth_row(mouth: Mouth) -> Array:
    """A mouth as compiled loops take it: centre, half length, half width, whether it is round."""
    x, y, z = mouth.centre
    return np.array([x, y, z, mouth.half_length, mouth.half_width, float(mouth.is_round)])


def dry_lap(
    build: Build, pan: Pan, log: Log, blocked: str = "", stages: tuple[Stage, ...] = ()
) -> DryLap:
    """A dry-sumped build over a log, its oil settling at once.

    Parameters
    ----------
    build : Build
        With a tank.
    pan : Pan
        As assembled from it.
    log : Log
        Prepared.
    blocked : str
        Id of a scavenge stage that sweeps nothing, from before the lap begins; empty: none.
    stages : tuple of Stage
        Other stages on the build's own mouths; empty: its own.

    Returns
    -------
    DryLap

    Raises
    ------
    InvalidInput
        If a mouth is outside the pan, or no stage draws from it.

    Notes
    -----
    Oil comes down as it is pumped up: what hangs up top is as it is when running steadily. A stage
    brings what its mouth finds of oil, which is in the tank once lines, separator and cooler have
    let it through. A stage with several mouths draws by the one that sucks air alone, once one
    does.
    """
    own, mouths = scavenged(build, pan)
    stages = stages or own
    space = tank_space(tank_of(build))
    gravity = apparent_gravity(build.car, log.forward, log.leftward, log.upward)
    normals = np.ascontiguousarray(up_from(gravity))
    step = float(np.median(np.diff(log.time)))
    lead = max(1, round(_SETTLES / step))

    def with_lead(values: Array) -> Array:
        return np.ascontiguousarray(np.concatenate([np.repeat(values[:1], lead, axis=0), values]))

    swept = np.column_stack([
        stage.swept(log.engine_speed) * (stage.component != blocked) for stage in stages
    ])  # fmt: skip
    count = len(log.time) + lead
    out = np.zeros((count, 7)), np.zeros((count, len(mouths))), np.zeros((count, len(stages)))
    most = FULLEST * space.volume
    lost = _march(
        (*_parts(pan.solid), FULLEST * pan.solid.volume),
        (*_parts(space.solid), most),
        (
            with_lead(normals), with_lead(up_in_car(build, normals)),
            with_lead(np.linalg.norm(gravity, axis=1)),
        ),
        (step, *(with_lead(each) for each in _asked(build, log))),
        (with_lead(swept), stages_of(stages, len(mouths))),
        (np.array([mouth_row(each.mouth) for each in mouths]), mouth_row(space.outlet)),
        _way_back(build, own, stages, count),
        (pan.oil_volume, min(oil_in_tank(build), most)),
        out,
    )  # fmt: skip
    seen, shares, oil = (each[lead:] for each in out)
    in_pan, in_tank, levels, cover, gas, feed, on_way = seen.T
    return DryLap(
        stages, mouths, space, log.time, in_pan, in_tank, on_way, levels, shares, swept, oil, feed,
        cover, gas, float(lost),
    )  # fmt: skip


def _way_back(
    build: Build, own: tuple[Stage, ...], stages: tuple[Stage, ...], steps: int
) -> tuple[Any, Array, Array]:
    """As the lap begins: what it holds when running steadily; other stages go the way of those
    whose mouths they have.
    """
    way = way_back_of(build)
    assert way is not None  # it has stages
    shares = running_shares(build, way)
    if stages is not own:
        of_mouth = {m: int(way.entries[at]) for at, each in enumerate(own) for m in each.mouths}
        entries = [of_mouth[each.mouths[0]] if each.mouths else 0 for each in stages]
        way = replace(way, entries=np.array(entries))
    return carried_from(way, shares, steps)


def _parts(solid: Solid) -> tuple[Array, NDArray[np.int64], Array]:
    return solid.vertices, solid.tetrahedra, solid.volumes


def _asked(build: Build, log: Log) -> tuple[Array, Array]:
    """What the engine takes of oil alone, and what its pump sweeps [m3/s]."""
    taken = steady(network_of(build)).drawn_at(log.engine_speed)
    return taken, demanded_flow(build.circuit.pump, log.engine_speed)


def stages_of(stages: Sequence[Stage], mouths: int) -> NDArray[np.int64]:
    """The stage of each of so many mouths, by its place.

    Examples
    --------
    >>> stages_of([Stage("c1", "a", 1e-5, 0.5, (1,)), Stage("c2", "b", 1e-5, 0.5, (0, 2))], 3)
    array([1, 0, 1])
    """
    found = np.full(mouths, -1)
    for number, stage in enumerate(stages):
        found[list(stage.mouths)] = number
    return found
