"""How much flows through one element of the circuit at a pressure: closed forms, all monotone.

Each gives the volume flow [m3/s] and its slope against the pressure across [m3/s/Pa]. Newton's
method in `march` needs both, and a slope that is nowhere nil.
"""

from __future__ import annotations

import math

from numba import njit

AIR_PRESSURE = 101_325.0
"""[Pa] absolute: what gauge pressures count from. Standard atmosphere, ISO 2533."""

DISCHARGE = 0.62
"""Of small sharp holes: handbooks give 0.60 to 0.65 (from memory)."""
SEAT = 1e-12
"""[m3/s/Pa] through a shut valve's seat (ours)."""
STAYS_OPEN = 1.0
"""[s] that an electric valve is held open, or it would chatter (ours)."""
SOLENOID = 0.05
"""[s] in which an electric valve shuts again (from memory: some hundredths of a second)."""
CHECK_OPENS = 5e3
"""[Pa] of a check valve whose opening nobody gave (ours)."""
CHARGED_AT = 293.15
"""[K] at which a bottle's pre-charge is told."""

_LEAST_HEAD = 200.0  # [Pa] above the vapour's at a pump's inlet: so that its filling has a slope
_LIGHTEST = 0.05  # of the liquid's density [-] that a gassy inlet flow is taken to weigh (ours)


@njit(inline="always")
def line_flow(across, laminar, turbulent_from, extra, square):  # type: ignore[no-untyped-def]
    """Flow through a line under a pressure across it, and its slope.

    ``Δp = laminar·q + extra·(q − q_c)₊ + square·(q − q_c)₊²``, the same backwards; solved for q
    without loss of digits.
    """
    size = abs(across)
    bend = laminar * turbulent_from
    if size <= bend:
        flow = size / laminar
        slope = 1.0 / laminar
    else:
        linear = laminar + extra
        root = math.sqrt(linear * linear + 4.0 * square * (size - bend))
        flow = turbulent_from + 2.0 * (size - bend) / (linear + root)
        slope = 1.0 / root
    return (flow if across >= 0.0 else -flow), slope


@njit(inline="always")
def valve_flow(across, opens, leak, laminar, square):  # type: ignore[no-untyped-def]
    """Flow through a valve that opens at a pressure across it; its seat leaks a little both ways.

    Above its opening it lets ``Δp − opens = laminar·q + square·q²`` through.
    """
    if across <= opens:
        return leak * across, leak
    flow, slope = line_flow(across - opens, laminar, 0.0, 0.0, square)
    return leak * across + flow, leak + slope


@njit(inline="always")
def pump_flow(  # type: ignore[no-untyped-def]
    inlet, outlet, swept, port, vapour, density, leak, gas, least_oil
):
    """Flow of a stage, and its slopes against the pressure before and after it.

    `swept` [m3/s] is all that its chambers sweep. They fill as its inlet port, an orifice of
    discharge area `port` [m2], lets them: ``q = swept·(1 + r⁸)^(−1/8)``, r what they sweep over
    what the port lets through at the pressure `inlet` (gauge) above the `vapour`'s. What slips back
    goes by the pressure across it and by how much oil is there to seal; `least_oil` bounds that.
    """
    liquid = 1.0 - gas
    head = max(inlet + AIR_PRESSURE - vapour, _LEAST_HEAD)
    through = port * math.sqrt(2.0 * head / (density * max(liquid, _LIGHTEST)))
    ratio = swept / through
    r2 = ratio * ratio
    r8 = r2 * r2 * r2 * r2
    filled = swept / math.sqrt(math.sqrt(math.sqrt(1.0 + r8)))
    rising = filled * r8 / (1.0 + r8) * 0.5 / head
    slip = leak / max(liquid, least_oil)
    return filled - slip * (outlet - inlet), rising + slip, -slip
