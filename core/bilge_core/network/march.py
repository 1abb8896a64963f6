"""The circuit step by step: one implicit solve of the pressures, then what flowed is booked.

Unknown is each node's pressure. A node of volume V holds liquid and gas::

    V (1 + p/K) = liquid + gas·p_air/P + what came in and went out in the step

every element lets a monotone function of the pressures through, and a step is backward Euler, so
that it may be as long as the plug allows. Newton's method with the planned elimination and a line
search on the sum of squares; a step that does not arrive is done again in four. Liquid and gas are
booked from the flows found, so that oil is conserved to rounding whatever the tolerance.
"""

from __future__ import annotations

import math

from numba import njit

from bilge_core.network.elimination import eliminate
from bilge_core.network.laws import (
    AIR_PRESSURE,
    CHECK_OPENS,
    SEAT,
    line_flow,
    pump_flow,
    valve_flow,
)
from bilge_core.network.plug import gas_about_to_leave, pop, push
from bilge_core.network.records import AIR, MOUTH, Kind
from bilge_core.network.vessels import step_vessels

LINE, VALVE, SENSED = int(Kind.LINE), int(Kind.VALVE), int(Kind.SENSED)
STAGE, SHUT_OFF = int(Kind.STAGE), int(Kind.SHUT_OFF)
_TOLERANCE = 1e-7  # [m3/s] of a node's volume left over; 1e-5 was too loose in a trial
_MOST_ROUNDS = 40
_SHORTEST = 1.0 / 512.0  # share of Newton's step that a line search still tries
_PARTED = 4  # a step that does not arrive is done again in so many
_FALLS_TO = 0.2  # of its absolute pressure that a node may come down to in one iteration
_ADIABATIC = 1.4  # of a bottle's nitrogen within a step
_SPOOL = 0.04
"""[s] in which a valve feels a pressure elsewhere (ours). Its lift is that of the step before, and
an engine answers it twelvefold: steps of an eighth of this do not chatter, of a quarter they do.
"""
_SPOOL_STEP = 0.005  # [s] that a network with such a valve is stepped by at most
_LEAST_LIFT = 1e-4  # of a valve that is sensed elsewhere, shut (ours)
_THIN = 0.02  # of the liquid's inertia and loss that gas in the tube still has (ours)


@njit
def _flows(nodes, elements, whole, now):  # type: ignore[no-untyped-def]
    """Every element's flow and slopes at the pressures tried."""
    low = now[0].low != 0
    for at in range(elements.size):
        row = elements[at]
        before = nodes[row.start].trial if row.start >= 0 else 0.0
        after = nodes[row.end].trial if row.end >= 0 else 0.0
        across = before - after
        opens = row.lowered if low and row.lowered > 0.0 else row.opens
        if row.kind == LINE:
            lighter = now[0].light if row.is_suction else 1.0
            inertia = row.inertance * lighter / now[0].size
            flow, slope = line_flow(
                across + inertia * row.flow, row.laminar + inertia, row.turbulent_from,
                row.extra, row.square * lighter,
            )  # fmt: skip
            other = -slope
        elif row.kind == VALVE:
            flow, slope = valve_flow(across, opens, row.leak, row.laminar, row.square)
            other = -slope
        elif row.kind == SENSED:
            lift = min(max((row.sensed - opens) / row.all_open, _LEAST_LIFT), 1.0)
            flow, slope = line_flow(across, row.laminar, 0.0, 0.0, row.square / (lift * lift))
            other = -slope
        elif row.kind == STAGE:
            displacement = row.low if low else row.displacement
            swept = displacement * row.ratio * now[0].speed / (2.0 * math.pi)
            flow, slope, other = pump_flow(
                before, after, swept, row.port, whole[0].vapour, whole[0].density, row.leak,
                now[0].inlet_gas, whole[0].sealing,
            )  # fmt: skip
        else:
            if row.held_open > 0.0:
                flow, slope = line_flow(across, row.laminar, 0.0, 0.0, row.square)
            else:
                flow, slope = valve_flow(across, CHECK_OPENS, SEAT, row.laminar, row.square)
            other = -slope
        row.through = flow
        row.by_start = slope
        row.by_end = other


@njit(inline="always")
def _made_of(nodes, row, arriving):  # type: ignore[no-untyped-def]
    """Oil and gas, the gas at the air's pressure, in a unit of what an element lets through."""
    above = row.start if row.through >= 0.0 else row.end
    if above >= 0:
        return nodes[above].oil_share, nodes[above].gas_share
    if above == MOUTH:
        return 1.0 - arriving, arriving
    return 0.0, 1.0


@njit
def _misfit(nodes, elements, bottles, whole, now):  # type: ignore[no-untyped-def]
    """What is left over of each node's volume [m3], and its slopes; the sum of squares."""
    for at in range(nodes.size):
        row = nodes[at]
        absolute = row.trial + AIR_PRESSURE
        slope = row.volume / whole[0].bulk
        volume = row.volume + slope * row.trial
        if row.bottle >= 0:
            bottle = bottles[row.bottle]
            was = bottle.amount * bottle.warmth / bottle.gas
            gas_now = bottle.gas * (was / absolute) ** (1.0 / _ADIABATIC)
            if gas_now < bottle.volume:
                volume += bottle.volume - gas_now
                slope += gas_now / (_ADIABATIC * absolute)
        row.per_gas = AIR_PRESSURE / absolute
        gas = (row.gas + whole[0].stays * row.volume) * row.per_gas
        row.misfit = volume - row.liquid - gas
        row.capacity = slope + gas / absolute
    step, arriving = now[0].size, now[0].arriving
    for at in range(elements.size):
        row = elements[at]
        oil, gas = _made_of(nodes, row, arriving)
        flow = row.through * step
        if row.start >= 0:
            nodes[row.start].misfit += flow * (oil + gas * nodes[row.start].per_gas)
        if row.end >= 0:
            nodes[row.end].misfit -= flow * (oil + gas * nodes[row.end].per_gas)
    total = 0.0
    for at in range(nodes.size):
        total += nodes[at].misfit * nodes[at].misfit
    return total


@njit
def _fill_matrix(nodes, elements, matrix, now):  # type: ignore[no-untyped-def]
    """Slopes of all misfits against all pressures; the misfits as the right side."""
    matrix[:] = 0.0
    for at in range(nodes.size):
        matrix[at] = nodes[at].capacity
        nodes[at].change = nodes[at].misfit
    step, arriving = now[0].size, now[0].arriving
    for at in range(elements.size):
        row = elements[at]
        oil, gas = _made_of(nodes, row, arriving)
        if row.start >= 0:
            part = step * (oil + gas * nodes[row.start].per_gas)
            matrix[row.start] += part * row.by_start
            if row.end >= 0:
                matrix[row.at_start] += part * row.by_end
        if row.end >= 0:
            part = step * (oil + gas * nodes[row.end].per_gas)
            matrix[row.end] -= part * row.by_end
            if row.start >= 0:
                matrix[row.at_end] -= part * row.by_start


@njit
def _largest(nodes):  # type: ignore[no-untyped-def]
    most = 0.0
    for at in range(nodes.size):
        most = max(most, abs(nodes[at].misfit))
    return most


@njit
def _share_of_step(nodes):  # type: ignore[no-untyped-def]
    """Of Newton's step, so much that no node's absolute pressure falls too far at once."""
    share = 1.0
    for at in range(nodes.size):
        row = nodes[at]
        row.before = row.trial
        room = (1.0 - _FALLS_TO) * (row.trial + AIR_PRESSURE)
        if row.change * share > room:
            share = room / row.change
    return share


@njit
def _solve(net):  # type: ignore[no-untyped-def]
    """Find the pressures at the end of a step, as each node's `trial`; whether they were found."""
    nodes, elements, bottles, whole, now = net.nodes, net.elements, net.bottles, net.whole, net.step
    enough = _TOLERANCE * now[0].size
    for at in range(nodes.size):
        nodes[at].trial = nodes[at].pressure
    _flows(nodes, elements, whole, now)
    total = _misfit(nodes, elements, bottles, whole, now)
    for _ in range(_MOST_ROUNDS):
        if _largest(nodes) <= enough:
            return True
        whole[0].rounds += 1
        _fill_matrix(nodes, elements, net.matrix, now)
        eliminate(net.matrix, nodes, net.pivots, net.meets, net.targets)
        share = _share_of_step(nodes)
        while True:
            for at in range(nodes.size):
                nodes[at].trial = nodes[at].before - share * nodes[at].change
            _flows(nodes, elements, whole, now)
            tried = _misfit(nodes, elements, bottles, whole, now)
            if tried < total or share < _SHORTEST:
                break
            share *= 0.5
        total = tried
    return _largest(nodes) <= enough


@njit
def _through_plug(parcels, whole, row, node, now):  # type: ignore[no-untyped-def]
    """What went through the tube: oil and gas into the node at its end [m3]."""
    volume = abs(row.through) * now[0].size
    if row.through >= 0.0:
        gas_in = volume * now[0].mouth_gas
        push(parcels, whole, volume, now[0].mouth_gas, True)
        gas = pop(parcels, whole, volume, False)
        whole[0].drawn_oil += volume - gas_in
        whole[0].drawn_gas += gas_in
        return volume - gas, gas
    both = max(node.oil_share + node.gas_share, 1e-12)
    push(parcels, whole, volume * both, node.gas_share / both, False)
    gas = pop(parcels, whole, volume * both, True)
    whole[0].drawn_oil -= volume * both - gas
    whole[0].drawn_gas -= gas
    return -volume * node.oil_share, -volume * node.gas_share


@njit
def _book(net):  # type: ignore[no-untyped-def]
    """Move liquid and gas as the flows say; what leaves the network falls to vessels and ways."""
    nodes, elements, vessels, now = net.nodes, net.elements, net.vessels, net.step
    sinks, given = net.sinks, net.given
    for at in range(elements.size):
        row = elements[at]
        row.flow = row.through
        if row.start == MOUTH:
            oil, gas = _through_plug(net.parcels, net.whole, row, nodes[row.end], now)
        else:
            oil, gas = _made_of(nodes, row, 1.0)
            oil *= row.through * now[0].size
            gas *= row.through * now[0].size
        if row.start >= 0:
            nodes[row.start].liquid -= oil
            nodes[row.start].gas -= gas
        if row.end >= 0:
            nodes[row.end].liquid += oil
            nodes[row.end].gas += gas
        elif row.end < AIR:
            to = sinks[-3 - row.end]
            if to >= 0:
                vessels[to].into += oil
            else:
                given[-1 - to] += oil


@njit
def _settle(nodes, elements, bottles, whole, step):  # type: ignore[no-untyped-def]
    """Take the pressures found over; bottles' gas warms, spools and switches follow."""
    for at in range(nodes.size):
        row = nodes[at]
        row.pressure = row.trial
        if row.bottle >= 0:
            bottle = bottles[row.bottle]
            was = bottle.amount * bottle.warmth / bottle.gas
            gas_now = bottle.gas * (was / (row.trial + AIR_PRESSURE)) ** (1.0 / _ADIABATIC)
            gas_now = min(gas_now, bottle.volume)
            warm = bottle.warmth * (bottle.gas / gas_now) ** (_ADIABATIC - 1.0)
            nearer = 1.0 - math.exp(-step / whole[0].bottle_time)
            bottle.warmth = warm + (whole[0].bottle_warmth - warm) * nearer
            bottle.gas = gas_now
    feels = 1.0 - math.exp(-step / _SPOOL)
    for at in range(elements.size):
        row = elements[at]
        if row.senses < 0:
            continue
        there = nodes[row.senses].pressure
        row.sensed += (there - row.sensed) * feels
        if row.kind == SHUT_OFF:
            if there < row.opens:
                row.held_open = row.holds
            else:
                row.held_open = max(row.held_open - step, 0.0)


@njit
def _begin(net, size, speed, mouth_gas):  # type: ignore[no-untyped-def]
    """What nodes are made of at the start of a step, and what arrives at the pump."""
    nodes, elements, bottles, whole = net.nodes, net.elements, net.bottles, net.whole
    now = net.step[0]
    now.size, now.speed, now.mouth_gas = size, speed, mouth_gas
    for at in range(nodes.size):
        row = nodes[at]
        absolute = row.pressure + AIR_PRESSURE
        space = row.volume
        if row.bottle >= 0:
            space += bottles[row.bottle].volume - bottles[row.bottle].gas
        share = min(max(row.gas, 0.0) * AIR_PRESSURE / absolute / space, 1.0)
        row.oil_share = 1.0 - share
        row.gas_share = share * absolute / AIR_PRESSURE
    for at in range(elements.size):
        row = elements[at]
        if row.kind == STAGE:
            now.inlet_gas = 1.0 - nodes[row.start].oil_share
            now.low = 1 if row.low > 0.0 and speed < row.switch else 0
        elif row.start == MOUTH:
            through = max(abs(row.flow) * size, 1e-9)
            now.arriving = gas_about_to_leave(net.parcels, whole, through)
            gas = gas_about_to_leave(net.parcels, whole, whole[0].tube)
            now.light = max(1.0 - gas, _THIN)


@njit
def _senses_elsewhere(elements):  # type: ignore[no-untyped-def]
    for at in range(elements.size):  # noqa: SIM110 - generators are not compiled
        if elements[at].kind == SENSED:
            return True
    return False


@njit
def advance(net, step, speed, gravity, mouth_gas):  # type: ignore[no-untyped-def]
    """One step of the whole network.

    `speed` of the crank [rad/s], `gravity` felt in the engine's frame, shape (3,) [m/s2],
    `mouth_gas` share of gas in what the mouth draws.
    """
    done = 0.0
    whole = step
    if _senses_elsewhere(net.elements):
        whole = step / math.ceil(step / _SPOOL_STEP - 1e-9)
    part = whole
    while done < step * (1.0 - 1e-12):
        _begin(net, part, speed, mouth_gas)
        found = _solve(net)
        if not found and part == whole:
            net.whole[0].parted += 1
            part = whole / _PARTED
            continue
        if not found:
            net.whole[0].failed += 1
        _book(net)
        _settle(net.nodes, net.elements, net.bottles, net.whole, part)
        step_vessels(net.vessels, net.holes, net.given, part, speed, gravity)
        done += part


@njit(cache=True, nogil=True)
def march(net, step, speed, gravity, mouth_gas, kept):  # type: ignore[no-untyped-def]
    """Many steps of equal length; what stood at the end of each.

    Parameters
    ----------
    net : `Flowing`, which is changed
    step : float [s]
    speed, mouth_gas : shape (n,)
    gravity : shape (n, 3)
    kept : `Kept`, filled
    """
    nodes, elements, vessels, bottles = net.nodes, net.elements, net.vessels, net.bottles
    for i in range(speed.size):
        advance(net, step, speed[i], gravity[i], mouth_gas[i])
        if kept.pressures.shape[0] > 0:
            for at in range(nodes.size):
                kept.pressures[i, at] = nodes[at].pressure
        if kept.gases.shape[0] > 0:
            for at in range(nodes.size):
                kept.gases[i, at] = 1.0 - nodes[at].oil_share
        if kept.flows.shape[0] > 0:
            for at in range(elements.size):
                kept.flows[i, at] = elements[at].flow
        if kept.held.shape[0] > 0:
            for at in range(vessels.size):
                kept.held[i, at] = vessels[at].one + vessels[at].two
        if kept.charges.shape[0] > 0:
            for at in range(bottles.size):
                kept.charges[i, at] = bottles[at].volume - bottles[at].gas
