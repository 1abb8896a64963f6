"""A drain over a lap, its oil taking its time: cells that fill and empty, and the housing above.

Level-implicit in time: what each cell holds follows from its head, what goes from one to the next
from the difference of the two, with friction as of the step before. So a step may be as long as a
look at the lap. Row 0 of all is the housing, row k the line's cell k - 1. Of a cell that others'
drains come into, rows hold this one's share: what is in it over `carries`.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
from numba import njit

from bilge_core.drains.profile import height_of, holds_gas, tilt_of
from bilge_core.drains.round_line import ORIFICE, depth_at_brink, friction, head_at_hole, wetted
from bilge_core.physics.arrays import Array

_SLOT = 0.003
"""Of the bore: a slot over a full cell, in which its pressure stands (Preissmann's; ours: so
narrow)."""
_ROUNDS = 8
_NEAR = 1e-9  # [m3] of what a cell holds that is near enough
_THIN = 1e-4  # of the bore: a cell that holds no more is dry
_SPILLS = 2e-3  # [m2/s] past a shaft's seal, for each metre over it (ours: it stops no flood)
_LEAST_DRIVE = 1e-5  # [m] of head at which a hole's flow is told
_DEPTH_NEAR = 1e-7  # [m]
_HALVINGS = 14


class Rows(NamedTuple):
    """What the march works in, a row for the housing and one for each cell, [m], [m3], [m3/s].

    flow : what came into each, and behind the last what left it, shape (n + 2,)
    lead : what goes on for each metre of head [m2/s]
    coupled : whether the next one's head counts, or its threshold alone
    rests : head that counts instead, or is added to the next one's
    """

    floors: Array
    tilts: Array
    heads: Array
    depths: Array
    volumes: Array
    flow: Array
    lead: Array
    coupled: Array
    rests: Array
    low: Array
    main: Array
    high: Array
    right: Array


def empty_rows(cells: int) -> Rows:
    """Of a line with so many cells, all dry.

    Examples
    --------
    >>> empty_rows(3).flow.shape
    (5,)
    """
    size = cells + 1
    made = {name: np.zeros(size) for name in Rows._fields}
    made["tilts"] = np.ones(size)
    made["flow"] = np.zeros(size + 1)
    return Rows(**made)


@njit
def _holds(depth, bore, length):  # type: ignore[no-untyped-def]
    """Volume [m3] of a cell filled to a depth, and its slope against the depth."""
    slot = _SLOT * bore * length
    if depth >= bore:
        return 0.25 * math.pi * bore * bore * length + (depth - bore) * slot, slot
    depth = max(depth, 0.0)
    area, _ = wetted(depth, bore)
    width = 2.0 * math.sqrt(max(depth * (bore - depth), 0.0))
    return area * length, max(width * length, slot)


@njit
def _depth_of(volume, bore, length, guess):  # type: ignore[no-untyped-def]
    """Depth [m] to which a volume fills a cell: Newton's method, held inside a bracket."""
    slot = _SLOT * bore * length
    whole = 0.25 * math.pi * bore * bore * length
    if volume >= whole:
        return bore + (volume - whole) / slot
    low, high = 0.0, bore
    depth = min(max(guess, 0.01 * bore), 0.99 * bore)
    for _ in range(40):
        held, slope = _holds(depth, bore, length)
        if held > volume:
            high = depth
        else:
            low = depth
        step = depth - (held - volume) / slope
        if not low < step < high:
            step = 0.5 * (low + high)
        if abs(step - depth) < _DEPTH_NEAR:
            return step
        depth = step
    return depth


@njit
def _through_hole(drive, bore, gravity, facing_down):  # type: ignore[no-untyped-def]
    """Flow [m3/s] of a hole under a head over it: `head_at_hole` turned round."""
    low, high = 0.0, 0.25 * math.pi * bore * bore * math.sqrt(2.0 * gravity * drive)
    for _ in range(_HALVINGS):
        middle = 0.5 * (low + high)
        if head_at_hole(middle, bore, gravity, facing_down) < drive:
            low = middle
        else:
            high = middle
    return high


@njit
def _conductance(depth, bore, far, before, loss, viscosity, gravity):  # type: ignore[no-untyped-def]
    """Flow for each metre of head between two cells [m2/s], at the flow `before`."""
    depth = min(max(depth, _THIN * bore), bore)
    area, perimeter = wetted(depth, bore)
    wide = 4.0 * area / perimeter
    speed = abs(before) / area
    drag = 64.0 * viscosity / wide
    reynolds = speed * wide / viscosity
    if reynolds > 1.0:
        drag = max(drag, friction(reynolds) * speed)
    by_head = far * drag / (2.0 * gravity * wide)
    if depth >= bore:
        by_head += loss * speed / (2.0 * gravity)
    return area / by_head


@njit
def _lie(line, room, rows, up, facing_down):  # type: ignore[no-untyped-def]
    """Where everything lies under a load, and how high it stands with what it holds."""
    leans = math.sqrt(max(1.0 - facing_down * facing_down, 0.0))
    rows.floors[0] = height_of(line.points, 0, up) - 0.5 * line.outlet * leans
    rows.heads[0] = rows.floors[0] + rows.volumes[0] / room
    for at in range(1, rows.floors.size):
        bore = line.bores[at - 1]
        rows.tilts[at] = tilt_of(line.tangents, at - 1, up)
        middle = height_of(line.points, at - 1, up) + height_of(line.points, at, up)
        rows.floors[at] = 0.5 * middle - 0.5 * bore * rows.tilts[at]
        held = rows.volumes[at] * line.carries[at - 1]
        rows.depths[at] = _depth_of(held, bore, line.lengths[at - 1], rows.depths[at])
        rows.heads[at] = rows.floors[at] + rows.depths[at] * rows.tilts[at]


@njit
def _sealed_at(line, rows, up, gravity, brink, surface, push):  # type: ignore[no-untyped-def]
    """The row behind which gas is shut in, nil for none, and the push that its oil can hold.

    Gas breaks through a plug of oil that is less high than its own pressure's head, or that flows
    slower than a bubble rises in it.
    """
    last = rows.floors.size - 1
    lowest = 0
    for at in range(1, last + 1):
        bore = line.bores[at - 1]
        if rows.depths[at] >= bore:
            flow = rows.flow[at + 1] * line.carries[at - 1]
            if holds_gas(line, at - 1, flow, up, gravity):
                lowest = at
    shut = surface >= brink + line.bores[last - 1] * rows.tilts[last]
    if not shut and lowest == 0:
        return 0, 0.0
    bottom = rows.floors[lowest]
    if shut:
        lowest, bottom = last, brink
    top = lowest
    while top > 1 and rows.depths[top - 1] >= line.bores[top - 2]:
        top -= 1
    above = rows.heads[top]
    if top == 1 and rows.depths[1] >= line.bores[0]:
        above = max(above, rows.heads[0])
    return lowest, min(push, max(above - bottom, 0.0))


@njit
def _led(line, rows, at, depth, bore, viscosity, gravity):  # type: ignore[no-untyped-def]
    """This drain's flow for each metre of head from a cell's middle to the next one's [m2/s]."""
    half, more = 0.5 * line.lengths[at - 1], 0.5 * line.lengths[at]
    loss, flow = line.losses[at - 1], rows.flow[at + 1]
    times, after = line.carries[at - 1], line.carries[at]
    if after == times:
        on = _conductance(depth, bore, half + more, flow * times, loss, viscosity, gravity)
        return on / times
    # others come in between the two: each half with what it carries
    on = _conductance(depth, bore, half, flow * times, loss, viscosity, gravity) / times
    off = _conductance(depth, bore, more, flow * after, 0.0, viscosity, gravity) / after
    return on * off / (on + off)


@njit
def _lead_on(line, rows, up, brink, surface, push, viscosity, gravity, facing_down):  # type: ignore[no-untyped-def]
    """What goes from each on to the next for each metre of head, as of the step before."""
    last = rows.floors.size - 1
    sealed, push = _sealed_at(line, rows, up, gravity, brink, surface, push)
    heads, floors, tilts = rows.heads, rows.floors, rows.tilts
    drive = max(heads[0] - max(floors[0], heads[1]), _LEAST_DRIVE)
    if rows.depths[1] >= line.bores[0]:
        area = 0.25 * math.pi * line.outlet * line.outlet
        hole = 0.5 / (gravity * ORIFICE * ORIFICE * area * area)
        bore, half, times = line.bores[0], 0.5 * line.lengths[0], line.carries[0]
        on = _conductance(bore, bore, half, rows.flow[1] * times, 0.0, viscosity, gravity) / times
        # through the hole and on to the middle of the first cell: drive = hole q² + q / on
        rows.lead[0] = 2.0 * on / (1.0 + math.sqrt(1.0 + 4.0 * hole * on * on * drive))
    else:
        rows.lead[0] = _through_hole(drive, line.outlet, gravity, facing_down) / drive
    rows.coupled[0] = 1.0 if heads[1] > floors[0] else 0.0
    rows.rests[0] = 0.0 if heads[1] > floors[0] else floors[0]
    for at in range(1, last):
        bore, onward = line.bores[at - 1], heads[at + 1]
        sill = height_of(line.points, at, up) - 0.5 * bore * tilts[at]
        depth = (max(heads[at], onward) - sill) / tilts[at]
        if heads[at] >= onward:
            depth = min(depth, rows.depths[at])
        else:
            depth = min(depth, rows.depths[at + 1])
        narrow = min(bore, line.bores[at])
        rows.lead[at] = _led(line, rows, at, depth, narrow, viscosity, gravity)
        if depth <= _THIN * narrow:
            rows.lead[at] = 0.0
        extra = push if at == sealed else 0.0
        rows.coupled[at] = 1.0 if onward + extra > sill else 0.0
        rows.rests[at] = extra if onward + extra > sill else sill
    bore, tilt = line.bores[last - 1], tilts[last]
    times = line.carries[last - 1]
    flow = rows.flow[last + 1] * times
    over = depth_at_brink(max(flow, 0.0), bore, gravity)
    extra = push if sealed == last else 0.0
    beyond = max(brink + over * tilt, surface)
    rows.coupled[last] = 0.0
    rows.rests[last] = beyond + extra
    depth = (max(heads[last], beyond) - brink) / tilt
    if heads[last] >= beyond:
        depth = min(depth, max(rows.depths[last], over))
    half, loss = 0.5 * line.lengths[last - 1], line.losses[last - 1]
    rows.lead[last] = _conductance(depth, bore, half, flow, loss, viscosity, gravity) / times
    if heads[last] < beyond + extra and surface <= brink:
        rows.lead[last] = 0.0  # nothing comes up over the brink


@njit
def _goes(rows, at):  # type: ignore[no-untyped-def]
    """What goes from a row on to the next [m3/s]."""
    onward = rows.rests[at]
    if rows.coupled[at] > 0.0:
        onward += rows.heads[at + 1]
    return rows.lead[at] * (rows.heads[at] - onward)


@njit
def _heads_after(line, room, rows, step, flow, limit):  # type: ignore[no-untyped-def]
    """Heads at a step's end: Newton's method on what each row holds, three diagonals at a time."""
    last = rows.floors.size - 1
    low, main, high, right = rows.low, rows.main, rows.high, rows.right
    for _ in range(_ROUNDS):
        worst = 0.0
        for at in range(last + 1):
            if at == 0:
                held, slope = max(rows.heads[0] - rows.floors[0], 0.0) * room, room
            else:
                depth = (rows.heads[at] - rows.floors[at]) / rows.tilts[at]
                held, slope = _holds(depth, line.bores[at - 1], line.lengths[at - 1])
                held /= line.carries[at - 1]
                slope /= rows.tilts[at] * line.carries[at - 1]
            miss = held - rows.volumes[at] + step * _goes(rows, at)
            main[at] = slope + step * rows.lead[at]
            high[at] = -step * rows.lead[at] * rows.coupled[at]
            low[at] = 0.0
            if at == 0:
                miss -= step * flow
                if rows.heads[0] > limit:
                    miss += step * _SPILLS * (rows.heads[0] - limit)
                    main[0] += step * _SPILLS
            else:
                low[at] = -step * rows.lead[at - 1]
                main[at] += step * rows.lead[at - 1] * rows.coupled[at - 1]
                miss -= step * _goes(rows, at - 1)
            right[at] = -miss
            worst = max(worst, abs(miss))
        if worst < _NEAR:
            break
        for at in range(1, last + 1):
            share = low[at] / main[at - 1]
            main[at] -= share * high[at - 1]
            right[at] -= share * right[at - 1]
        right[last] /= main[last]
        for at in range(last - 1, -1, -1):
            right[at] = (right[at] - high[at] * right[at + 1]) / main[at]
        for at in range(last + 1):
            rows.heads[at] = max(rows.heads[at] + right[at], rows.floors[at])


@njit
def _book(rows, step, flow, limit):  # type: ignore[no-untyped-def]
    """Move what went, never more than was there; what was spilled past the seal [m3]."""
    spilled = 0.0
    if rows.heads[0] > limit:
        spilled = min(step * _SPILLS * (rows.heads[0] - limit), rows.volumes[0])
    rows.flow[0] = flow - spilled / step
    last = rows.floors.size - 1
    for at in range(last + 1):
        goes = _goes(rows, at)
        there = rows.volumes[at] + step * rows.flow[at]
        goes = min(goes, there / step)
        if at < last:
            goes = max(goes, -rows.volumes[at + 1] / step)
        rows.flow[at + 1] = goes
        rows.volumes[at] = max(there - step * goes, 0.0)
    return spilled


@njit(cache=True, nogil=True)
def fill_over(line, rows, room, seal, step, loads, viscosity, out):  # type: ignore[no-untyped-def]
    """Run a drain over steps of equal length.

    Parameters
    ----------
    line : `Falls`
    rows : `Rows`, as it stands at the start; left as it stands at the end
    room : floor of the housing [m2]
    seal : shape (3,), up to which oil may stand in it
    step : [s]
    loads : shape (n, 7), a row a step: up (3), gravity felt [m/s2], oil with its foam into the
        housing [m3/s], height of the pan's oil at the entry [m], head of the crankcase's pressure
        [m]
    viscosity : kinematic [m2/s]
    out : shape (n, 4), filled: room under the seal [m], oil in the housing [m3], spilled past the
        seal in the step [m3], share of the line's cells that are full
    """
    points, tangents = line.points, line.tangents
    last = line.lengths.size
    for i in range(loads.shape[0]):
        up, gravity, flow = loads[i, :3], loads[i, 3], loads[i, 4]
        surface, push = loads[i, 5], loads[i, 6]
        down = -(tangents[0, 0] * up[0] + tangents[0, 1] * up[1] + tangents[0, 2] * up[2])
        limit = seal[0] * up[0] + seal[1] * up[1] + seal[2] * up[2]
        _lie(line, room, rows, up, down)
        brink = height_of(points, last, up) - 0.5 * line.bores[last - 1] * rows.tilts[last]
        _lead_on(line, rows, up, brink, surface, push, viscosity, gravity, down)
        _heads_after(line, room, rows, step, flow, limit)
        spilled = _book(rows, step, flow, limit)
        full = 0
        for at in range(1, last + 1):
            bore, held = line.bores[at - 1], rows.volumes[at] * line.carries[at - 1]
            if held >= 0.25 * math.pi * bore * bore * line.lengths[at - 1]:
                full += 1
        out[i, 0] = limit - rows.floors[0] - rows.volumes[0] / room
        out[i, 1] = rows.volumes[0]
        out[i, 2] = spilled
        out[i, 3] = full / last
