"""From a piece of work to the steps that it consists of."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from bilge_core.document.ids import Document
from bilge_core.job.difference import Piece
from bilge_core.job.settings import CardSettings

_STEPS: dict[str, tuple[str, ...]] = {
    "take_plate_out": ("cut_plate_out",),
    "fit_tray": ("fit_tray", "turn_crank"),
    "fit_scraper": ("fit_scraper", "turn_crank"),
    "reshape_sump": ("cut_sump", "weld_sump", "test_pan"),
    "make_pan": ("look_at_new", "offer_up"),
    "lower_pickup": ("space_pickup", "measure_gap"),
    "set_gap": ("measure_gap",),
    "make_pickup": ("make_tube", "brace_tube", "measure_gap"),
    "renew_seal": ("renew_seal",),
    "brace_pickup": ("brace_tube",),
    "lock_nut": ("pump_nut", "lock_wire"),
    "blank_boss": ("blank",),
    "hang_gate": ("hang_gate", "try_gate"),
    "fit_remote_filter": ("mount_filter", "plug_ports", "fit_filter"),
    "fit_filter": ("fit_filter",),
    "shorten_line": ("shorten_line",),
    "set_charge": ("charge_bottle",),
    "fit_cooler": ("leak_test", "mount_cooler"),
    "fit_plate_cooler": ("leak_test_both", "mount_plate_cooler"),
    "fit_regulator": ("fit_regulator", "set_regulator"),
    "fit_stage": ("fit_stage",),
    "fit_drive": ("fit_drive",),
    "wet_pump_out": ("old_pump",),
    "fit_tank": ("mount_tank", "find_level"),
    "fit_scavenge_pickup": ("fit_scavenge_pickup",),
    "fit_breather": ("fit_breather",),
}
"""Steps of operations that are always the same."""

_HOLES: dict[str, tuple[str, ...]] = {
    "through_fitting": ("drill_wall", "deburr", "through_fitting", "reach_bolts"),
    "welded_boss": ("drill_wall", "weld_boss", "deburr", "reach_bolts"),
    "tapped": ("drill_wall", "tap_boss", "deburr"),
    "as_made": ("drill_wall", "deburr"),
}
IN_PLACE = ("sensor_out", "drill_in_place", "pass_nut_in", "swarf_out", "sensor_back")
METAL = frozenset(
    {"fit_plate", "take_plate_out", "hang_gate", "reshape_sump", "open_boss", "blank_boss",
     "fit_tray"}
)  # fmt: skip
"""Operations that leave chips or sparks in a pan: it is washed out afterwards."""
PICKUP_OFF = frozenset({"lower_pickup", "make_pickup", "fit_spacer"})
"""Operations that take the pickup off its joint: the seal is new afterwards."""


@dataclass(frozen=True)
class Circumstances:
    """What decides which steps an operation consists of.

    settings : CardSettings
    parts : the plan's parts by id
    is_cast : of the pan
    in_place : whether holes are drilled with the pan on the car
    baffles : plates that rise with a spacer
    joint : the run into the pump, see `bilge_core.job.difference.suction_joint`
    is_dry : whether the pump draws from a tank once all is done
    """

    settings: CardSettings
    parts: Mapping[str, Document]
    is_cast: bool
    in_place: bool
    baffles: tuple[Document, ...]
    joint: Document
    is_dry: bool = False

    def row(self, part: str) -> Document:
        """A part as plain data; empty where the plan has none of that id."""
        return self.parts.get(part, {})


def _plate(piece: Piece, at: Circumstances) -> tuple[str, ...]:
    return ("trim_webs", "cut_plate", "fit_plate") if at.is_cast else ("cut_plate", "fit_plate")


def _hole(piece: Piece, at: Circumstances) -> tuple[str, ...]:
    if at.in_place:
        return IN_PLACE
    row = at.row(piece.part)
    return _HOLES[row.get("fixing", "through_fitting" if "line" in row else "as_made")]


def _is_electric(valve: Document) -> bool:
    return valve.get("worked") == "electric"


def _bottle(piece: Piece, at: Circumstances) -> tuple[str, ...]:
    last = ("charge_bottle", "shut_valve")
    if piece.part not in at.settings.in_cabin:
        return ("mount_bottle", *last)
    valves = [row for row in at.parts.values() if row.get("kind") == "shut_off_valve"]
    levers = () if valves and all(_is_electric(row) for row in valves) else ("lever_clear",)
    return ("mount_bottle", "through_bulkhead", *levers, *last)


def _valve(piece: Piece, at: Circumstances) -> tuple[str, ...]:
    row = at.row(piece.part)
    if row.get("kind") == "check_valve":
        return ("fit_check",)
    if _is_electric(row):
        return ("fit_electric", "wire_valve")
    return ("fit_valve",)


def _in_line(piece: Piece, at: Circumstances) -> tuple[str, ...]:
    kind = at.row(piece.part).get("kind")
    if kind == "turbo":
        return ("fit_part",)
    if kind == "bulkhead":
        return ("through_wall",)
    return ("drill_cover", "fit_part") if kind in {"cover", "take_off_plate"} else ("fit_part",)


def _taken_out(piece: Piece, at: Circumstances) -> tuple[str, ...]:
    return ("pickup_out",) if at.row(piece.part).get("kind") == "pickup" else ("take_out",)


def _line(piece: Piece, at: Circumstances) -> tuple[str, ...]:
    run = at.row(piece.part)
    if run.get("line", {}).get("kind") == "hard_line":
        made: tuple[str, ...] = ("bend_line", "sand_out", "lay_line")
    else:
        made = ("cut_line", "wash_line", "lay_line")
    if run.get("service") == "drain" and run.get("start", {}).get("component") in at.parts:
        from_turbo = at.row(run["start"]["component"]).get("kind") == "turbo"
        return (*made, "match_flange") if from_turbo else made
    return made


_BY: dict[str, Callable[[Piece, Circumstances], tuple[str, ...]]] = {
    "fit_plate": _plate,
    "open_boss": _hole,
    "fit_accumulator": _bottle,
    "fit_valve": _valve,
    "fit_in_line": _in_line,
    "make_line": _line,
    "take_out_part": _taken_out,
    "fit_spacer": lambda piece, at: ("fit_spacer", "long_bolts"),
}


def steps_of(piece: Piece, at: Circumstances) -> tuple[str, ...]:
    """Keys of the steps that a piece of work consists of.

    Raises
    ------
    KeyError
        If the library has no steps for its operation.

    Examples
    --------
    >>> steps_of(Piece("set_gap"), Circumstances(CardSettings(), {}, False, False, (), {}))
    ('measure_gap',)
    """
    found = _BY.get(piece.operation)
    return found(piece, at) if found else _STEPS[piece.operation]
