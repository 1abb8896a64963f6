"""Lines: bends, speeds, losses, gaps, clips, slack."""

from __future__ import annotations

from bilge_core.rules.dry import RETURN_SPEED
from bilge_core.rules.pickup import TUBE_SPEED
from bilge_core.rules.rule import COMMON, Check, Rule

_MAKERS = "from memory: its maker's own figure goes before it"

_HOT_THINGS = ("exhaust", "turbo", "manifold", "header", "downpipe")
"""Words in a name by which something is known to be hot (ours)."""
LEAST_HOSE_BEND = {
    3: 38e-3, 4: 50e-3, 6: 65e-3, 8: 90e-3, 10: 125e-3, 12: 140e-3, 16: 190e-3, 20: 230e-3,
    24: 280e-3,
}  # fmt: skip
"""[m] at the middle of a braided rubber hose, by dash (from memory)."""
LEAST_TUBE_BEND = 2.0
"""Diameters of the tube, at its middle, that a hand bender goes down to (from memory)."""
THIN_WALL = 1.0 / 15.0
"""Of its diameter: a thinner tube wants more radius, or sand in it (from memory)."""
THIN_BEND = 3.0
"""Diameters that a thin tube is bent to without sand (from memory)."""

HOSE_BEND = Rule("hose_bend", "A hose bends no tighter than its least radius", _MAKERS)
TUBE_BEND = Rule(
    "tube_bend",
    "A tube is bent to two diameters at least, a thin one to three",
    "from memory: tighter it kinks; dry sand in it helps, and every grain is washed out and signed "
    "off",
)
SPEEDS = {
    "pressure": Rule(
        "pressure_speed", "Oil under pressure goes at 6 m/s at most",
        "from memory, 4.5 to 6 m/s", high=6.0, unit="m/s",
    ),
    "return": Rule(
        "line_return_speed",
        f"Oil on its way back goes at {RETURN_SPEED.most:g} m/s at most", RETURN_SPEED.source,
        high=RETURN_SPEED.most, unit="m/s",
    ),
    "suction": Rule(
        "suction_speed", f"Oil to a pump goes at {TUBE_SPEED.most:g} m/s at most",
        "from memory: 1.5 to 3 m/s, what counts is how far the inlet is under the air's pressure",
        high=TUBE_SPEED.most, unit="m/s",
    ),
    "scavenge": Rule(
        "scavenge_speed", "Oil and gas to a scavenge stage go at 6 m/s at most", "from memory",
        high=6.0, unit="m/s",
    ),
    "water": Rule(
        "water_speed", "Water goes at 3 m/s at most", "from memory", high=3.0, unit="m/s"
    ),
}  # fmt: skip
"""By what a run carries; drains and vents are judged on Drains."""
LINE_LOSS = Rule(
    "line_loss", "A line under pressure takes 0.5 bar at most, hot", "from memory", high=50e3,
    unit="Pa",
)  # fmt: skip
GAP = Rule("line_gap", "A line keeps the gap that is wanted to what is round it", "the builder's")
ROCKS = 6e-3
"""[m] that an engine rocks on its mounts, taken off a gap between what it carries and what the car
does (ours: stiff mounts less, soft ones more)."""
HEAT = Rule(
    "heat_sleeve", "A line within 60 mm of the exhaust has a heat sleeve",
    f"{COMMON}; the distance is ours", low=60e-3, unit="m",
)  # fmt: skip
CLIPS = Rule(
    "clips", "A clip every 300 mm at least", f"{COMMON}; the distance is from memory", high=0.3,
    unit="m",
)  # fmt: skip
SLACK = Rule(
    "slack", "A hose has 2 % more length than its way",
    "from memory: under pressure a hose may shorten by a few parts in a hundred", low=0.02,
    unit="1",
)  # fmt: skip
SHORT = Rule(
    "hose_cut", "A hose has 50 mm between its ends at least",
    "from memory: shorter it cannot be made up, and takes no movement", low=0.05, unit="m",
)  # fmt: skip
GROUND = Rule("line_ground", "No line is nearer the ground than the pan may be", "ours")
LAID = Rule("line_laid", "Every hose and hard line has a length", "ours")
STRAIGHT = Rule(
    "leg_length", "Every leg of a route is longer than its bends take", "elementary geometry"
)
ENDS_MEET = Rule(
    "ends_meet", "A route begins and ends at its ports, within 20 mm", "ours", high=20e-3, unit="m"
)
CHAIN = Rule(
    "chain", "What is screwed together at both ends fits, thread on thread",
    "the threads' own standards; never two kinds of seal on one thread",
)  # fmt: skip
HOSE_END = Rule(
    "hose_end_turns", "A hose end points where its hose goes, within 25°", "ours", high=25.0,
    unit="°",
)  # fmt: skip

PARALLEL = Rule(
    "parallel_bend", "Tubes side by side are as far apart in a bend as before it, within 2 mm",
    f"{COMMON}: bent to the same radius they do not stay parallel; the 2 mm are ours",
    high=2e-3, unit="m",
)  # fmt: skip
RULES = (
    HOSE_BEND, TUBE_BEND, *SPEEDS.values(), LINE_LOSS, GAP, HEAT, CLIPS, SLACK, SHORT, GROUND, LAID,
    STRAIGHT, ENDS_MEET, CHAIN, HOSE_END, PARALLEL,
)  # fmt: skip


def least_radius(kind: str, dash: int | None, diameter: float, wall: float | None) -> float:
    """The least radius of a line's bends at its middle [m].

    Parameters
    ----------
    kind : hose or hard_line
    dash : int or None
        Its size; None: by its diameter.
    diameter : float
        Outside [m].
    wall : float or None
        Of a tube [m]; None: not thin.

    Examples
    --------
    >>> least_radius("hose", 10, 0.0159, None)
    0.125
    >>> round(least_radius("hard_line", 8, 0.0127, 0.7e-3) * 1e3, 1)
    38.1
    """
    if kind == "hose":
        sizes = sorted(LEAST_HOSE_BEND)
        if dash is None:
            sixteenths = diameter / 25.4e-3 * 16.0
            dash = next((each for each in sizes if each >= sixteenths - 0.01), sizes[-1])
        return LEAST_HOSE_BEND[dash]
    thin = wall is not None and wall < THIN_WALL * diameter
    return (THIN_BEND if thin else LEAST_TUBE_BEND) * diameter


def _mm(metres: float) -> str:
    return f"{metres * 1e3:.0f} mm"


def check_bend(kind: str, radius: float, least: float, field: str) -> Check:
    """The tightest bend of a line."""
    rule = HOSE_BEND if kind == "hose" else TUBE_BEND
    what = "hose" if kind == "hose" else "tube"
    if radius >= least * (1.0 - 1e-9):
        return Check("good", f"Tightest bend {_mm(radius)}, least {_mm(least)}", field, rule)
    mend = (
        "give it room, or an angled hose end"
        if kind == "hose"
        else "a larger die, or sand in it, washed out to the last grain"
    )
    words = f"Bent to {_mm(radius)}, a {what} of this size wants {_mm(least)}: {mend}"
    return Check("bad", words, field, rule)


def check_speed(service: str, speed: float, field: str) -> Check | None:
    """How fast a line's oil goes; None where that is not judged here."""
    rule = SPEEDS.get(service)
    if rule is None:
        return None
    if rule.holds(speed):
        return Check("good", f"{speed:.1f} m/s, at most {rule.most:g}", field, rule)
    words = f"{speed:.1f} m/s where {rule.most:g} is the most: the next size up"
    return Check("caution", words, field, rule)


def check_loss(loss: float, field: str) -> Check:
    """What a line under pressure takes, hot [Pa]."""
    if LINE_LOSS.holds(loss):
        return Check("good", f"Takes {loss / 1e5:.2f} bar hot", field, LINE_LOSS)
    words = (
        f"Takes {loss / 1e5:.2f} bar hot, {LINE_LOSS.most / 1e5:g} is the most: larger, or shorter"
    )
    return Check("caution", words, field, LINE_LOSS)


def check_gap(name: str, gap: float, wanted: float, rocks: bool, field: str) -> Check:
    """The gap between a line's outside and one thing round it [m], rocking counted."""
    how = f", {_mm(ROCKS)} for the engine's rocking taken off" if rocks else ""
    if gap <= 0.0:
        words = f"Touches the {name}{how}: lead it another way"
        return Check("bad", words, field, GAP)
    if gap < wanted:
        words = f"{_mm(gap)} to the {name}, {_mm(wanted)} wanted{how}: lead it further off"
        return Check("bad" if gap < 0.5 * wanted else "caution", words, field, GAP)
    return Check("good", f"{_mm(gap)} to the {name}, {_mm(wanted)} wanted{how}", field, GAP)


def is_hot(name: str) -> bool:
    """Whether what is called so gets hot.

    >>> is_hot("Exhaust, left"), is_hot("subframe")
    (True, False)
    """
    return any(word in name.lower() for word in _HOT_THINGS)


def check_heat(name: str, gap: float, sleeved: bool, field: str) -> Check | None:
    """A line near an exhaust; None where it is far."""
    if HEAT.holds(gap):
        return None
    if sleeved:
        return Check("good", f"Sleeved past the {name}", field, HEAT)
    words = f"{_mm(gap)} from the {name} and no heat sleeve: put one on"
    return Check("caution", words, field, HEAT)


def check_clips(spacing: float | None, length: float, field: str) -> Check:
    """A line's clips."""
    if length <= CLIPS.most:
        return Check("good", "Short enough without a clip", field, CLIPS)
    if spacing is None:
        return Check("caution", f"No clips told: one every {_mm(CLIPS.most)}", field, CLIPS)
    if not CLIPS.holds(spacing):
        words = f"A clip every {_mm(spacing)}: one every {_mm(CLIPS.most)}, or it chafes"
        return Check("caution", words, field, CLIPS)
    return Check("good", f"A clip every {_mm(spacing)}", field, CLIPS)


def check_slack(slack: float, length: float, field: str) -> Check:
    """A hose's slack [m] over its way [m]."""
    if SLACK.holds(slack / length + 1e-9):
        return Check("good", f"{_mm(slack)} of slack", field, SLACK)
    words = f"{_mm(slack)} of slack on {_mm(length)}: {_mm(SLACK.least * length)} at least"
    return Check("caution", words, field, SLACK)


def check_cut(cut: float, field: str) -> Check:
    """What of a hose is between its ends [m]."""
    if SHORT.holds(cut):
        return Check("good", f"Cut {_mm(cut)} of hose", field, SHORT)
    words = f"{_mm(cut)} of hose between its ends: screw the two together, or give them room"
    return Check("caution", words, field, SHORT)


def check_ground(height: float, wanted: float, field: str) -> Check:
    """A line's lowest place above the ground [m]."""
    if height >= wanted:
        return Check("good", f"{_mm(height)} above the ground", field, GROUND)
    words = f"{_mm(height)} above the ground, {_mm(wanted)} wanted: a stone or a kerb takes it off"
    return Check("bad" if height <= 0.0 else "caution", words, field, GROUND)


def check_meets(which: str, off: float, field: str) -> Check:
    """How far a route's end is from its port [m]."""
    if ENDS_MEET.holds(off):
        return Check("good", f"{which} at its port", field, ENDS_MEET)
    words = f"{which} {_mm(off)} from its port: move it there, or the port's own place"
    return Check("bad", words, field, ENDS_MEET)


def check_legs(shortest: float, field: str) -> Check:
    """The shortest straight piece between bends [m], below nil where they overlap."""
    if shortest >= -1e-6:
        return Check("good", "Its bends have room", field, STRAIGHT)
    words = f"A leg is {_mm(-shortest)} shorter than its bends take: smaller bends, or a longer leg"
    return Check("bad", words, field, STRAIGHT)


def check_hose_end(which: str, off: float, field: str) -> Check:
    """By how much a hose end points past its hose [°]."""
    if HOSE_END.holds(off):
        return Check("good", f"{which} points the right way", field, HOSE_END)
    words = f"{which} points {off:.0f}° past its hose: another angle of end"
    return Check("caution", words, field, HOSE_END)


def check_parallel(
    name: str, apart: float, between: float, gap: float, keeps: float | None, field: str
) -> Check:
    """A tube beside another: apart on the straight and in the bend, the gap there [m].

    `keeps` is the radius that keeps them parallel [m]; None: none does.
    """
    if PARALLEL.holds(abs(between - apart)):
        return Check("good", f"Parallel to {name!r} round the bend", field, PARALLEL)
    way = "opens" if between > apart else "closes"
    mend = (
        f"a radius of {_mm(keeps)} keeps them parallel" if keeps else
        f"a larger radius of {name!r} keeps them parallel"
    )  # fmt: skip
    touch = ", where they touch" if gap <= 0.0 else ""
    words = f"{_mm(apart)} from {name!r}, {way} to {_mm(between)} in the bend{touch}: {mend}"
    return Check("bad" if gap <= 0.0 else "caution", words, field, PARALLEL)


def check_chain(which: str, fits: bool, thread: str, dash: int, field: str) -> Check:
    """Whether an end can be screwed together from what is bought."""
    if fits:
        return Check("good", f"{which} fits", field, CHAIN)
    words = f"{which}: no chain from {thread} to size {dash}; needs a made part"
    return Check("bad", words, field, CHAIN)


def no_length(field: str) -> Check:
    """A line that nobody has measured."""
    return Check("caution", "Has no length yet: lay it, or type a rough length", field, LAID)
