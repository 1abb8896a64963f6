"""Dry sumps: stages, lines and tank."""

from __future__ import annotations

import math

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
CASE_PULL = Rule(
    "case_pull",
    "The crankcase is at most 0.25 bar under the air",
    "from memory: plain lip seals are made to keep oil in, and let air past beyond it",
    high=25e3,
    unit="Pa",
)
TANK_VENT = Rule(
    "tank_vent",
    "The tank has at most 10 mbar over what its vent leads to",
    "ours: as much as a crankcase may have; more, and its vent carries oil out",
    high=1e3,
    unit="Pa",
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
BELT_LINE = Rule(
    "belt_line",
    "A toothed belt runs within a quarter of a degree of its pulleys' line",
    "from memory: further out it climbs a flange, wears its edge and walks off",
    high=math.radians(0.25),
    unit="rad",
)
BELT_MESH = Rule(
    "belt_mesh",
    "Six teeth at least of every pulley are in the belt",
    "from memory: with fewer it jumps under load",
    low=6.0,
    unit="1",
)
DRIVE_RATIO = Rule(
    "drive_ratio",
    "The pulleys turn the pump within 2 % of what the forecasts count",
    "ours: a stage's flow goes with it, and no flow is known better",
    high=0.02,
    unit="1",
)
BELT_TAUT = Rule(
    "belt_taut",
    "The pump's travel on its bracket makes the belt taut",
    "ours: a belt has whole teeth, shafts stand where they stand",
)
BELT_IDLER = Rule("belt_idler", "The belt meets its idler", "ours: one that it misses does nothing")
_AS_IT_STANDS = 0.05e-3  # [m] that a millimetre told to a tenth does not show

RULES = (
    SCAVENGE_RATIO, PUMP_SPEED, RETURN_SPEED, OUTLET_COVER, TANK_TIME, TANK_FULL, LEFT_LYING,
    CASE_PULL, TANK_VENT, TANK_BREATHES, STAGE_LEADS_ON, OWN_STAGE, BELT_LINE, BELT_MESH,
    DRIVE_RATIO, BELT_TAUT, BELT_IDLER,
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


def check_belt_line(angle: float, offset: float) -> Check:
    """How far a belt is out of its pulleys' line [rad], their middles apart along the crank [m]."""
    degrees = math.degrees(angle)
    words = f"The belt runs {degrees:.2f}° out of line, its pulleys {abs(offset) * 1e3:.1f} mm"
    if BELT_LINE.holds(angle):
        return Check("good", words, "drive.offset_mm", BELT_LINE)
    words = f"{words}: shim the pulley or turn the bracket until a straight edge lies on both"
    return Check("bad", words, "drive.offset_mm", BELT_LINE)


def check_mesh(teeth: float, pulley: str) -> Check:
    """Teeth of the pulley that has the fewest in the belt."""
    words = f"{teeth:.1f} teeth of the {pulley}'s pulley are in the belt"
    if BELT_MESH.holds(teeth):
        return Check("good", words, f"drive.{pulley}_teeth", BELT_MESH)
    words = f"{words}: a larger pulley, or an idler on the belt's back that makes it wrap further"
    return Check("bad", words, f"drive.{pulley}_teeth", BELT_MESH)


def check_drive_ratio(pulleys: float, counted: float) -> Check:
    """What the pulleys give against what the forecasts count: turns of the pump for the crank's."""
    field = "drive.pump_teeth"
    words = f"The pulleys turn the pump {pulleys:.3f} times a turn of the crank"
    if DRIVE_RATIO.holds(abs(pulleys / counted - 1.0)):
        return Check("good", words, field, DRIVE_RATIO)
    words = f"{words}, the forecasts count {counted:.3f}: fit the drive anew, or other pulleys"
    return Check("bad", words, field, DRIVE_RATIO)


def check_taut(move: float | None, travel: float) -> Check:
    """How far the pump must go until the belt is taut [m], and how far it can [m]."""
    field = "drive.belt_teeth"
    if move is None:
        words = "No place of the pump near its own makes the belt taut: another number of teeth"
        return Check("bad", words, field, BELT_TAUT)
    way = "away from the crank" if move >= 0.0 else "toward the crank"
    words = f"The belt is taut with the pump {abs(move) * 1e3:.1f} mm {way}"
    if abs(move) < _AS_IT_STANDS:
        words = "The belt is taut as the pump stands"
    if abs(move) <= travel + 1e-9:
        return Check("good", words, field, BELT_TAUT)
    words = f"{words}, and its bracket lets it go {travel * 1e3:.0f} mm: another belt, or an idler"
    return Check("bad", words, field, BELT_TAUT)


def check_idler(touches: bool) -> Check:
    """Whether the belt meets its idler."""
    if touches:
        return Check("good", "The belt meets its idler", "drive.idler", BELT_IDLER)
    words = "The belt does not meet its idler: move it against the belt"
    return Check("bad", words, "drive.idler", BELT_IDLER)
