"""What is printed or milled, as everybody reads it."""

from __future__ import annotations

from typing import Literal

import trimesh
from pydantic import BaseModel, Field, ValidationError

from bilge_core.acts.registry import figures_read
from bilge_core.document.build import Build
from bilge_core.document.circuit.run import bore_of
from bilge_core.document.problems import problems_of
from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.making.flat import FlatPart
from bilge_core.making.pickup_plate import PickupPlate, plate_body, plate_part
from bilge_core.making.solids import Bed, body_round, in_pieces, spacer_body
from bilge_core.pan import Pan
from bilge_core.quantities import UnitSystem
from bilge_core.tell.numbers import mm

What = Literal["pan", "inside", "spacer", "pickup_plate"]


class PrintAsked(BaseModel):
    """What is to be printed, and on what."""

    what: What = "pan"
    wall_mm: float = Field(default=2.4, ge=0.4, le=20)
    bed_long_mm: float = Field(default=220, ge=60, le=3000)
    bed_wide_mm: float = Field(default=220, ge=60, le=3000)
    bed_high_mm: float = Field(default=250, ge=20, le=3000)
    bore_mm: float | None = Field(default=None, ge=6, le=80, description="of the plate's port")
    between_mm: float = Field(default=48, ge=15, le=250, description="its two bolts' middles")
    hole_mm: float = Field(default=6.6, ge=3, le=16)
    thickness_mm: float = Field(default=10, ge=3, le=60)
    tube_deg: float = Field(default=0, ge=0, le=60, description="from square")


class PrintedOut(BaseModel):
    """Solids for a printer or a mill; `asked` has the figures that they are of."""

    asked: PrintAsked
    pieces: int
    names: list[str]
    size_mm: tuple[float, float, float]
    """Of the whole, along, across and up."""
    largest_mm: tuple[float, float, float]
    """Of the largest piece."""
    solid_cm3: float
    """Of material, as if it were filled."""
    is_closed: bool
    triangles: int
    about: str


def print_asked(raw: dict[str, str], system: UnitSystem) -> PrintAsked:
    """What is asked for, its figures as typed; what is empty is as usual.

    Raises
    ------
    InvalidInput
        Naming each figure that cannot be read or is none.

    Examples
    --------
    >>> print_asked({"what": "pan", "wall_mm": "1/8 in", "bore_mm": ""}, "metric").wall_mm
    3.175
    """
    told = {name: text for name, text in raw.items() if text}
    problems: list[Problem] = []
    read: dict[str, object] = {}
    for name, text in told.items():
        try:
            read |= figures_read({name: text}, system, "")
        except InvalidInput as error:
            problems += [Problem(each.field.lstrip("."), each.message) for each in error.problems]
    if problems:
        raise InvalidInput(problems)
    try:
        return PrintAsked.model_validate(read)
    except ValidationError as error:
        raise InvalidInput(list(problems_of(error))) from None


_ABOUT: dict[What, str] = {
    "pan": "The pan as a shell, in pieces whose walls lap by half their thickness: glue them. "
    "To offer up, to check bolts and gaps; no oil in it. Bosses are left out: drill them.",
    "inside": "The space that oil fills, to the rail, as one closed solid: to lay beside a scan.",
    "spacer": "The spacer as a plate with the flange's holes. A printed one is for offering up.",
    "pickup_plate": "The plate that the pickup's tube is welded to, its groove on top. Hold the "
    "groove against the ring's own sheet before it is cut.",
}


def _plate(build: Build, asked: PrintAsked) -> PickupPlate:
    bore = asked.bore_mm
    if bore is None:
        line = None if build.circuit.suction is None else build.circuit.suction.line
        known = None if line is None else bore_of(line)
        if known is None:
            words = "must be said: the suction line's bore is not known"
            raise InvalidInput([Problem("bore_mm", words)])
        bore = known
    return PickupPlate(
        bore * 1e-3, asked.between_mm * 1e-3, asked.hole_mm * 1e-3, asked.thickness_mm * 1e-3,
        asked.tube_deg,
    )  # fmt: skip


def plate_flat(build: Build, asked: PrintAsked) -> FlatPart:
    """The pickup's plate, flat; nothing else of what is printed is.

    Raises
    ------
    InvalidInput
    """
    if asked.what != "pickup_plate":
        words = "is flat for the pickup's plate alone; patterns of the pan are beside it"
        raise InvalidInput([Problem("form", words)])
    return plate_part(_plate(build, asked))


def printed(build: Build, pan: Pan, asked: PrintAsked) -> list[tuple[str, trimesh.Trimesh]]:
    """Names and solids of what is asked for.

    Raises
    ------
    InvalidInput
        With the field that cannot be.
    """
    if asked.what == "inside":
        return [("inside", body_round(pan, 0.0))]
    if asked.what == "spacer":
        return [("spacer", spacer_body(build, pan))]
    if asked.what == "pickup_plate":
        return [("pickup's plate", plate_body(_plate(build, asked)))]
    bed = Bed(asked.bed_long_mm * 1e-3, asked.bed_wide_mm * 1e-3, asked.bed_high_mm * 1e-3)
    try:
        pieces = in_pieces(build, pan, asked.wall_mm * 1e-3, bed)
    except InvalidQuantity as error:
        words = f"cannot be made so: {error.name} must be {error.requirement}"
        raise InvalidInput([Problem("wall_mm", words)]) from None
    if len(pieces) == 1:
        return [("pan", pieces[0].body)]
    return [(f"pan {each.along}-{each.across}", each.body) for each in pieces]


def printed_out(build: Build, pan: Pan, asked: PrintAsked) -> PrintedOut:
    """What is printed, in figures.

    Raises
    ------
    InvalidInput

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/curlew.json").read_text())
    >>> told = printed_out(build, assemble_pan(build), PrintAsked())
    >>> told.pieces, told.is_closed, told.names
    (2, True, ['pan 1-1', 'pan 2-1'])
    """
    found = printed(build, pan, asked)
    lows = [body.bounds[0] for _, body in found]
    highs = [body.bounds[1] for _, body in found]
    whole = [max(h[at] for h in highs) - min(low[at] for low in lows) for at in range(3)]
    largest = max((high - low for low, high in zip(lows, highs, strict=True)), key=max)
    return PrintedOut(
        asked=asked, pieces=len(found), names=[name for name, _ in found],
        size_mm=(mm(whole[0]), mm(whole[1]), mm(whole[2])),
        largest_mm=(mm(largest[0]), mm(largest[1]), mm(largest[2])),
        solid_cm3=round(sum(float(body.volume) for _, body in found) * 1e6, 1),
        is_closed=all(bool(body.is_watertight) for _, body in found),
        triangles=sum(len(body.faces) for _, body in found), about=_ABOUT[asked.what],
    )  # fmt: skip
