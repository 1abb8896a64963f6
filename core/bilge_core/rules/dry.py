"""Dry sumps: stages, lines and tank."""

from __future__ import annotations

from bilge_core.rules.rule import Check, Rule

SCAVENGE_RATIO = Rule(
    "scavenge_ratio",
    "All scavenge stages together sweep 2 to 3 times what the pressure stage does",
    "from memory: scavenged oil is half gas, and a stage that sucks air brings none",
    low=2.0,
    high=3.0,
    unit="1",
)
PUMP_SPEED = Rule(
    "pump_speed",
    "An outside pump turns at 5000 rpm at most",
    "from memory: faster its inlets do not fill; the maker's own figure goes before it",
    high=5000.0,
    unit="1/min",
)
RETURN_SPEED = Rule(
    "return_speed",
    "Oil and gas go back to the tank at 5.5 m/s at most",
    "from memory: faster a joined line holds the stages back",
    high=5.5,
    unit="m/s",
)
OUTLET_COVER = Rule(
    "outlet_cover",
    "The tank's outlet stays 60 mm under oil all lap",
    "ours: less, and a swirl reaches it",
    low=0.060,
    unit="m",
)
TANK_TIME = Rule(
    "tank_time",
    "Oil stays in the tank for 8 s at full flow",
    "from memory: its gas wants time to rise",
    low=8.0,
    unit="s",
)
TANK_FULL = Rule(
    "tank_full",
    "The tank is at most four fifths full",
    "ours: foam, and oil that comes back as the engine stops, want room",
    high=0.8,
    unit="1",
)
LEFT_LYING = Rule(
    "left_lying",
    "At most 1.5 L lie in the pan",
    "ours: more, and the crank throws it about",
    high=1.5e-3,
    unit="m3",
)
TANK_BREATHES = Rule(
    "tank_breathes",
    "A tank has a way out for gas",
    "from memory: the stages blow more gas into it than oil",
)
STAGE_LEADS_ON = Rule(
    "stage_leads_on",
    "What a scavenge stage brings goes to the tank",
    "ours: led back to where it draws, it scavenges nothing",
)
OWN_STAGE = Rule(
    "stage_a_mouth",
    "Each scavenge pickup has a stage of its own",
    "ours, from a trial: of two on one stage the one that sucks air has all of it, whatever the "
    "lengths of their hoses or restrictors in them",
)
RULES = (
    SCAVENGE_RATIO, PUMP_SPEED, RETURN_SPEED, OUTLET_COVER, TANK_TIME, TANK_FULL, LEFT_LYING,
    TANK_BREATHES, STAGE_LEADS_ON, OWN_STAGE,
)  # fmt: skip


def check_ratio(ratio: float, field: str) -> Check:
    """What all scavenge stages sweep over what the pressure stage does."""
    words = f"The scavenge stages sweep {ratio:.1f} times what the pressure stage does"
    if ratio < 1.0:
        return Check("bad", f"{words}: the pan fills up and the tank runs empty", field,
                     SCAVENGE_RATIO)  # fmt: skip
    if not SCAVENGE_RATIO.holds(ratio):
        how = "little, oil is left lying" if ratio < SCAVENGE_RATIO.least else "more than is usual"
        return Check("caution", f"{words}: {how}", field, SCAVENGE_RATIO)
    return Check("good", words, field, SCAVENGE_RATIO)


def check_breathes(breathes: bool, tank: str, field: str) -> Check:
    """Whether a tank has a way out for gas."""
    if breathes:
        return Check("good", f"The {tank} breathes", field, TANK_BREATHES)
    words = f"The {tank} has no way out for gas: lead a vent from it to a catch can or a breather"
    return Check("bad", words, field, TANK_BREATHES)


def check_leads_on(stage: str, field: str) -> Check:
    """A stage whose oil does not get to the tank."""
    words = f"The {stage} does not lead to the tank: lead its outlet there"
    return Check("bad", words, field, STAGE_LEADS_ON)


def check_mouths(stage: str, mouths: int, field: str) -> Check:
    """A stage that draws by several mouths."""
    words = (
        f"The {stage} draws by {mouths} mouths: once one sucks air the others get nothing; give "
        "each a stage"
    )
    return Check("caution", words, field, OWN_STAGE)


def check_tank_size(tank: str, volume: float, lines: float, field: str) -> Check:
    """A tank [m3] that is smaller than the lines that it fills [m3]."""
    words = (
        f"The {tank} holds {volume * 1e3:.1f} L, less than the {lines * 1e3:.1f} L in lines, "
        "filter and gallery: it is empty before they are full"
    )
    return Check("bad", words, field, TANK_FULL)
