"""How a belt drive lies: its belt, how far the pump moves to tighten it, how far out of line."""

from __future__ import annotations

import math
from dataclasses import dataclass

import scipy

from bilge_core.document.drive import BeltDrive
from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.physics.pulleys import radius_of
from bilge_core.scavenge.belt import Round, Wheel, belt_round

_FARTHEST = 0.25  # [m] that the pump is tried nearer and farther when the belt is tightened (ours)


@dataclass(frozen=True)
class Drive:
    """A belt drive as it lies.

    ratio : turns of the pump per turn of the crank
    wheels : crank, pump and an idler that the belt meets, in the order that it runs round them
    names : what each is
    belt : over them
    centres : between crank and pump [m]
    move : how far the pump goes away from the crank until the belt is taut, nearer negative [m];
        None where no place near makes it taut
    meshing : teeth in the belt of the pulley that has the fewest, and which it is
    offset : of the middles of the pulleys along the crank [m]
    out_of_line : of the belt on its pulleys, offset and turn together [rad]
    touches : whether the belt meets its idler; True without one
    """

    ratio: float
    wheels: tuple[Wheel, ...]
    names: tuple[str, ...]
    belt: Round
    centres: float
    move: float | None
    meshing: float
    fewest: str
    offset: float
    out_of_line: float
    touches: bool


def _wheels(drive: BeltDrive, further: float = 0.0) -> list[tuple[str, Wheel]]:
    """The wheels in the order of a belt that runs anticlockwise, the pump moved away by [m]."""
    pitch = drive.pitch_mm * 1e-3
    across, up = drive.across_mm * 1e-3, drive.up_mm * 1e-3
    share = 1.0 + further / max(math.hypot(across, up), 1e-9)
    crank = ("crank", Wheel(0.0, 0.0, radius_of(pitch, drive.crank_teeth)))
    pump = ("pump", Wheel(across * share, up * share, radius_of(pitch, drive.pump_teeth)))
    if drive.idler is None:
        return [crank, pump]
    x, y = drive.idler.across_mm * 1e-3, drive.idler.up_mm * 1e-3
    idler = (
        "idler", Wheel(x, y, 0.5e-3 * drive.idler.diameter_mm, drive.idler.runs_on == "teeth")
    )  # fmt: skip
    is_left = across * y - up * x > 0.0
    return [crank, pump, idler] if is_left else [crank, idler, pump]


def _round(drive: BeltDrive, further: float = 0.0) -> tuple[list[tuple[str, Wheel]], Round, bool]:
    """The wheels that the belt meets, the belt, and whether it meets its idler."""
    named = _wheels(drive, further)
    found = belt_round([wheel for _, wheel in named])
    at = next((at for at, (name, _) in enumerate(named) if name == "idler"), None)
    if at is None or found.wraps[at] < math.pi:
        return named, found, True
    named = [each for each in named if each[0] != "idler"]
    return named, belt_round([wheel for _, wheel in named]), False


def _move(drive: BeltDrive) -> float | None:
    """How far the pump moves until the belt is taut [m]; None where no place near does."""
    wanted = drive.belt_teeth * drive.pitch_mm * 1e-3

    def over(further: float) -> float:
        try:
            return _round(drive, further)[1].length - wanted
        except InvalidQuantity:
            return -wanted

    if over(-_FARTHEST) > 0.0 or over(_FARTHEST) < 0.0:
        return None
    return float(scipy.optimize.brentq(over, -_FARTHEST, _FARTHEST, xtol=1e-7))


def drive_of(drive: BeltDrive) -> Drive:
    """A belt drive as it lies.

    Parameters
    ----------
    drive : BeltDrive

    Raises
    ------
    InvalidInput
        If two of its wheels touch.

    Examples
    --------
    >>> drive = drive_of(BeltDrive(pitch_mm=8, width_mm=25, crank_teeth=24, pump_teeth=48,
    ...                            belt_teeth=90, across_mm=-200, up_mm=0))
    >>> round(drive.belt.length * 1e3, 1), round(drive.move * 1e3, 1), round(drive.meshing, 1)
    (692.7, 13.8, 10.8)
    """
    try:
        named, belt, touches = _round(drive)
    except InvalidQuantity as error:
        words = f"must be apart: {error.requirement} (they are {error.value})"
        raise InvalidInput([Problem("drive.across_mm", words)]) from None
    names = tuple(name for name, _ in named)
    teeth = {"crank": drive.crank_teeth, "pump": drive.pump_teeth}
    in_belt = {
        name: teeth[name] * wrap / (2.0 * math.pi)
        for name, wrap in zip(names, belt.wraps, strict=True)
        if name in teeth
    }
    fewest = min(in_belt, key=in_belt.__getitem__)
    offset, centres = drive.offset_mm * 1e-3, math.hypot(drive.across_mm, drive.up_mm) * 1e-3
    straight = min(
        span for at, span in enumerate(belt.spans)
        if {names[at], names[(at + 1) % len(names)]} == {"crank", "pump"}
    )  # fmt: skip
    turned = math.radians(math.hypot(drive.turned_deg, drive.tilted_deg))
    return Drive(
        ratio=drive.crank_teeth / drive.pump_teeth, wheels=tuple(wheel for _, wheel in named),
        names=names, belt=belt, centres=centres, move=_move(drive), meshing=in_belt[fewest],
        fewest=fewest, offset=offset, out_of_line=turned + math.atan2(abs(offset), straight),
        touches=touches,
    )  # fmt: skip


def nearest_belt(drive: BeltDrive) -> int:
    """Teeth of the belt that comes nearest to a drive as it stands, whatever belt it names.

    Raises
    ------
    InvalidQuantity
        If two of its wheels touch.

    Examples
    --------
    >>> nearest_belt(BeltDrive(pitch_mm=8, width_mm=25, crank_teeth=24, pump_teeth=48,
    ...                        belt_teeth=90, across_mm=-200, up_mm=0))
    87
    """
    return round(_round(drive)[1].length / (drive.pitch_mm * 1e-3))


def made_taut(drive: BeltDrive) -> BeltDrive:
    """The same with the pump moved until its belt is taut, to 0.01 mm; as it is if no place does.

    Examples
    --------
    >>> made_taut(BeltDrive(pitch_mm=8, width_mm=25, crank_teeth=24, pump_teeth=48,
    ...                     belt_teeth=90, across_mm=-200, up_mm=0)).across_mm
    -213.81
    """
    found = drive_of(drive)
    if found.move is None:
        return drive
    share = 1.0 + found.move / found.centres
    across, up = (round(each * share, 2) for each in (drive.across_mm, drive.up_mm))
    return drive.model_copy(update={"across_mm": across, "up_mm": up})
