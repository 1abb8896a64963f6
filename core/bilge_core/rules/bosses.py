"""Openings through the pan's wall: drains, plugs, dipsticks, and how they are fixed."""

from __future__ import annotations

from bilge_core.rules.rule import COMMON, Check, Rule

DRAIN = Rule("drain_entry", "A drain enters above the oil", COMMON, low=0.0, unit="m")
DRAIN_UNDER = Rule(
    "drain_under", "A drain is under oil for at most 0.05 s of a lap", "ours: a splash is none",
    high=0.05, unit="s",
)  # fmt: skip
PLUG = Rule(
    "plug_height", "The plug's lower edge is within 8 mm of the lowest point", "ours",
    high=8e-3, unit="m",
)  # fmt: skip
DIPSTICK = Rule("dipstick_over", "A dipstick stands over floor that oil covers", COMMON)
FIXING = Rule("boss_fixing", "A sheet wall is too thin for a thread", COMMON)
SPANNER = Rule(
    "spanner_room", "12 mm from a pan bolt's middle to the side of a boss",
    "ours: a small socket's half width", low=12e-3, unit="m",
)  # fmt: skip
SPANNER_DEPTH = Rule(
    "spanner_depth", "A boss more than 45 mm below the rail is out of a spanner's way", "ours",
    high=45e-3, unit="m",
)  # fmt: skip
RULES = (DRAIN, DRAIN_UNDER, PLUG, DIPSTICK, FIXING, SPANNER, SPANNER_DEPTH)


def check_drain(name: str, height: float, under: float | None, field: str) -> Check:
    """A drain whose lower edge is a height [m] above the standing oil.

    `under` is for how long of the lap its middle is under oil [s], None without a lap.

    Examples
    --------
    >>> check_drain("turbo drain", -0.018, None, "pan.bosses.0").state
    'bad'
    """
    mm = abs(height) * 1e3
    if not DRAIN.holds(height):
        return Check(
            "bad",
            f"{name} enters {mm:.0f} mm under the standing oil; a drain enters above it, "
            "or it cannot drain",
            field,
            DRAIN,
        )
    if under is not None and not DRAIN_UNDER.holds(under):
        return Check(
            "caution",
            f"{name} enters {mm:.0f} mm above the standing oil, but is under it for "
            f"{under:.1f} s of the lap",
            field,
            DRAIN_UNDER,
        )
    lap = " and all the lap" if under is not None else ""
    return Check("good", f"{name} enters {mm:.0f} mm above the oil, standing{lap}", field, DRAIN)


def check_plug(name: str, left_in: float, field: str) -> Check:
    """A drain plug whose lower edge is so high above the lowest point [m]."""
    if PLUG.holds(left_in):
        return Check("good", f"{name} drains to the lowest point, car level", field, PLUG)
    return Check(
        "caution",
        f"{name} sits {left_in * 1e3:.0f} mm above the lowest point: oil stays behind it when "
        "it is drained",
        field,
        PLUG,
    )


def check_dipstick(name: str, is_over: bool, is_covered: bool, field: str) -> Check | None:
    """A dipstick's place over the pan; None where nothing is wrong."""
    if not is_over:
        return Check(
            "bad",
            f"{name} is not over the pan any more: a sump that moved leaves its old dipstick "
            "hole to be blocked",
            field,
            DIPSTICK,
        )
    if not is_covered:
        words = f"{name} stands over a floor that no standing oil covers"
        return Check("caution", words, field, DIPSTICK)
    return None


def tapped(name: str, field: str) -> Check:
    """A thread cut into the wall."""
    return Check(
        "bad",
        f"{name} is tapped into the pan's wall: too thin for a thread. Weld a boss, or use a "
        "through-fitting with a nut inside and sealing washers",
        field,
        FIXING,
    )


def check_spanner(name: str, to_bolt: float, bore: float, depth: float, field: str) -> Check | None:
    """A boss so far from the nearest pan bolt, middle to middle, and so deep below the rail [m]."""
    if not SPANNER_DEPTH.holds(depth) or SPANNER.holds(to_bolt - 0.5 * bore):
        return None
    return Check(
        "caution",
        f"{name} is {to_bolt * 1e3:.0f} mm from a pan bolt: no spanner gets on that bolt",
        field,
        SPANNER,
    )
