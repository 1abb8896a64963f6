"""What is cut from sheet."""

from __future__ import annotations

from bilge_core.rules.rule import Rule

HOLE = Rule(
    "hole_in_sheet",
    "A hole that is cut or punched is as wide as its sheet is thick at least",
    "from memory: narrower, a punch breaks and a torch leaves it ragged",
    low=1.0,
    unit="1",
)
WEB = Rule(
    "web_of_sheet",
    "Metal left beside a hole is one and a half thicknesses wide at least",
    "from memory: narrower, it burns away or tears",
    low=1.5,
    unit="1",
)
SOCKET = Rule(
    "socket_room",
    "From a bolt's middle to the wall below is 1.2 times its thread's diameter at least",
    "from memory: half of what a socket of its hexagon is wide (ISO 2725-1: about 15 mm for M6)",
    low=1.2,
    unit="of the thread",
)
TORCH = Rule(
    "torch_room",
    "60 mm are free before an edge that is welded from outside",
    "ours: a torch's nozzle, and room to lean it",
    low=60e-3,
    unit="m",
)
TORCH_ANGLE = Rule(
    "torch_angle",
    "A corner that a torch goes into is open by 45° at least",
    "ours: a nozzle does not reach the root of a sharper one",
    low=45.0,
    unit="deg",
)
SCALE = Rule(
    "drawing_scale",
    "A drawing's two farthest bolts are as far apart as on the engine, within half a per cent",
    "ours: a tape shows it, and no hole would meet its thread beyond it",
    low=0.995,
    high=1.005,
    unit="of what is measured",
)
RULES = (HOLE, WEB, SOCKET, TORCH, TORCH_ANGLE, SCALE)


def fault_of_scale(drawn: float, measured: float) -> str | None:
    """What is wrong with a drawing's scale, and what would be right; None when nothing is.

    Parameters
    ----------
    drawn, measured : float
        Between its two farthest bolts, in the same unit.

    Examples
    --------
    >>> fault_of_scale(439.1, 439.0) is None
    True
    >>> fault_of_scale(17.29, 439.1)
    'is 25.4 times what the drawing has: say that it is drawn in another unit'
    >>> fault_of_scale(439.1, 452.0)
    'is 2.9 % more than the drawing has: measure again, or have the drawing corrected'
    """
    times = drawn / measured
    if SCALE.holds(times):
        return None
    for between in _UNITS_APART:
        for share in (between, 1.0 / between):
            if SCALE.holds(times / share):
                much = f"{1.0 / share:g}" if share < 1.0 else f"one {share:g}th of"
                said = f"{much} times" if share < 1.0 else much
                return f"is {said} what the drawing has: say that it is drawn in another unit"
    off, way = (1.0 / times - 1.0, "more") if times < 1.0 else (1.0 - 1.0 / times, "less")
    return (
        f"is {100.0 * off:.1f} % {way} than the drawing has: measure again, or have the drawing "
        "corrected"
    )


_UNITS_APART = (2.54, 10.0, 25.4, 39.37, 100.0, 1000.0)
"""Between mm, cm, in and m."""
