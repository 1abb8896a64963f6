"""Operations of the trade with the hours that they take in a workshop of one or two.

Hours are Bilge's guesses but where a source stands beside them; a workshop types over its own.
"""

from __future__ import annotations

from dataclasses import dataclass

from bilge_core.errors import InvalidQuantity
from bilge_core.rules.rule import COMMON

GUESS = "ours: a guess"


@dataclass(frozen=True)
class Operation:
    """A piece of work.

    key : what it is known by
    words : what is done
    hours : for one time [h]
    opens_pan : whether the pan has to come off for it
    source : of the hours
    """

    key: str
    words: str
    hours: float
    opens_pan: bool = False
    source: str = GUESS

    def __post_init__(self) -> None:
        if self.hours < 0.0:
            raise InvalidQuantity(self.key, self.hours, "nil or more hours")


_ROWS = (
    Operation("top_up", "pour in oil, run, dip again", 0.3),
    Operation("let_out", "let oil out to the mark, dip again", 0.3),
    Operation("drain", "drain on a level car", 0.75, source=f"{COMMON}: about 45 min"),
    Operation("access", "get at the pan: what must come off or be loosened, and back on", 2.5),
    Operation(
        "pan_off_on", "pan off, cleaned, looked over; back on, sealed, waited, torqued", 2.75
    ),
    Operation("refill", "fill, prime, prove pressure, look for leaks", 0.5),
    Operation("fit_plate", "cut, fit by hand and weld a plate", 0.75, True),
    Operation("take_plate_out", "cut a plate out and dress the pan", 0.5, True),
    Operation("hang_gate", "hang a gate and try its swing", 0.4, True),
    Operation("fit_tray", "fit a windage tray and turn the crank over", 1.5, True),
    Operation("fit_scraper", "fit a scraper to the crank and turn it over", 1.5, True),
    Operation("reshape_sump", "cut a piece of the sump, weld it anew, test for leaks", 4.0, True),
    Operation("make_pan", "offer up a made pan, mark, take out, make room", 2.0, True),
    Operation("fit_spacer", "fit a spacer, longer bolts and studs", 0.75, True),
    Operation("lower_pickup", "lower the pickup with its floor", 1.0, True),
    Operation("set_gap", "set the mouth's gap to the floor", 0.5, True),
    Operation("make_pickup", "make a pickup tube that reaches, brace it", 2.5, True),
    Operation("renew_seal", "renew the pickup joint's seal", 0.3, True),
    Operation("brace_pickup", "brace the pickup tube", 0.7, True),
    Operation("open_boss", "drill or weld a boss, deburr, wash out", 0.75, True),
    Operation("blank_boss", "blank a hole that is out of use", 0.4, True),
    Operation("look_over", "look a part over, and write down what was found", 0.2),
    Operation("trim_webs", "trim webs that are in the way, as little as possible", 0.3, True),
    Operation("raise_baffle", "bring a baffle up by the spacer's thickness", 0.3, True),
    Operation("wash_pan", "wash out what was cut, drilled and welded", 0.3, True),
    Operation("stand_up", "car on two independent supports, level", 0.3),
    Operation("hold_engine", "hold the engine from above while a member is away", 0.5),
    Operation("release_bottle", "shut a bottle's valve and let its pressure off", 0.1),
    Operation("run_up", "first start, look again warm, write down", 0.6),
    Operation("mark_stick", "pour a litre at a time, dip, mark the stick", 0.4),
    Operation("send_back", "send a part back", 0.3),
    Operation("lock_nut", "pump drive nut: locker, torque, lock wire", 0.5, True),
    Operation("make_line", "make a line up and lay it", 0.5),
    Operation("shorten_line", "cut a line that is there for a part in it", 0.25),
    Operation(
        "fit_remote_filter", "fit a remote filter", 1.5,
        source=f"{COMMON}: half an hour on a bare chassis; an hour more in a car is ours",
    ),
    Operation("fit_filter", "fit a filter", 0.2),
    Operation("fit_accumulator", "mount a bottle to hold in a crash, fill, charge", 2.5),
    Operation("fit_valve", "fit a valve where it is reached", 0.4),
    Operation("set_charge", "set a bottle's pre-charge", 0.3),
    Operation("fit_cooler", "mount a cooler with its ducting, test for leaks", 2.5),
    Operation("fit_plate_cooler", "mount a plate cooler, plumb its water, test both sides", 3.0),
    Operation("fit_regulator", "fit an external regulator, set it", 1.25),
    Operation("fit_in_line", "fit a part into the circuit", 0.5),
    Operation("take_out_part", "take a part out of the circuit, plug what it leaves", 0.4),
    Operation("fit_stage", "fit a scavenge stage and its line", 1.0),
    Operation("fit_drive", "bracket, pulleys and belt: set up in line, turn over", 5.0),
    Operation("wet_pump_out", "wet pump out, its passage blocked, the gallery fed anew", 1.0),
    Operation("fit_tank", "mount a tank to hold in a crash, plumb, find its level", 5.0),
    Operation("fit_scavenge_pickup", "fit a scavenge pickup into the pan", 1.0, True),
    Operation("fit_breather", "fit a breather or a catch can", 0.75),
)  # fmt: skip

OPERATIONS: dict[str, Operation] = {each.key: each for each in _ROWS}
"""All operations by their keys."""

TO_OPEN_THE_PAN = ("drain", "access", "pan_off_on", "refill")
"""What comes with anything that opens the pan, once."""
