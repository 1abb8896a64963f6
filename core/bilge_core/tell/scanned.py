"""A pan from a mesh as everybody reads it: its zones, and how near they come."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, Field, ValidationError

from bilge_core.document.pan import Zone
from bilge_core.document.problems import problems_of
from bilge_core.errors import InvalidInput, Problem
from bilge_core.scan.mesh_file import METRES, Unit, read_mesh
from bilge_core.scan.placed import Axis, placed, placed_by
from bilge_core.scan.surface import ScannedZone, zones_of_mesh
from bilge_core.tell.numbers import litres, mm


class ScanAsked(BaseModel):
    """How a mesh stands in its own frame."""

    unit: Unit = "mm"
    up: Axis = "guess"
    nose: Axis = "guess"
    points: list[tuple[float, float, float]] = Field(
        default=[], max_length=3,
        description="of the rail, in the file's unit: rear right, rear left, one ahead; they go "
        "before up and nose",
    )  # fmt: skip


class ScannedOut(BaseModel):
    """A mesh as zones with surfaces for floors."""

    zones: list[Zone]
    triangles: int
    """Of the mesh."""
    pieces: int
    """Triangles of the floors that stand for it."""
    long_mm: float
    wide_mm: float
    deep_mm: float
    volume_l: float
    """Of the mesh, to its rail."""
    kept_l: float
    """Of the zones."""
    off_mm: float
    """What 98 of a hundred places of the mesh's floor are within, over or under the zones'."""
    rms_mm: float


def scan_asked(raw: dict[str, Any]) -> ScanAsked:
    """How a mesh stands, points as words such as "0, -120, 0".

    Raises
    ------
    InvalidInput

    Examples
    --------
    >>> scan_asked({"unit": "mm", "points": ["0 -120 0", "0, 120, 0", "400,0,0"]}).points[2]
    (400.0, 0.0, 0.0)
    """
    points = [each for each in raw.get("points", []) if str(each).strip()]
    try:
        places = [[float(one) for one in str(each).replace(",", " ").split()] for each in points]
    except ValueError:
        raise InvalidInput(
            [Problem("points", "must each be three figures, as 0, -120, 0")]
        ) from None
    if places and (len(places) != 3 or any(len(each) != 3 for each in places)):
        words = "must be three places of three figures: rear right, rear left, one ahead; or none"
        raise InvalidInput([Problem("points", words)])
    try:
        return ScanAsked.model_validate({**raw, "points": places})
    except ValidationError as error:
        raise InvalidInput(list(problems_of(error))) from None


def _zone(number: int, zone: ScannedZone) -> Zone:
    return Zone.model_validate(
        {
            "name": "scanned pan" if number == 0 else f"scanned box {number}",
            "outline_mm": [(mm(x), mm(y)) for x, y in list(zone.outline.exterior.coords)[:-1]],
            "floor": {
                "kind": "surface",
                "places_mm": [(mm(x), mm(y), mm(depth)) for x, y, depth in zone.places],
                "triangles": [tuple(int(each) for each in row) for row in zone.triangles],
            },
            "ceiling_depth_mm": None if zone.ceiling is None else mm(zone.ceiling),
        }
    )


def scanned_out(data: bytes, name: str, asked: ScanAsked) -> ScannedOut:
    """A mesh file as zones.

    Raises
    ------
    InvalidInput
        With what is wrong, and what would be right.

    Examples
    --------
    >>> import trimesh
    >>> box = trimesh.creation.box((400, 240, 140)).export(file_type="stl")
    >>> told = scanned_out(box, "box.stl", ScanAsked(up="+z"))
    >>> told.kept_l, told.deep_mm, told.pieces
    (13.44, 140.0, 2)
    """
    mesh = read_mesh(data, name, asked.unit)
    if asked.points:
        scale = METRES[asked.unit]
        stands = placed_by(mesh, [[each * scale for each in point] for point in asked.points])
    else:
        stands = placed(mesh, asked.up, asked.nose)
    found = zones_of_mesh(stands)
    size = stands.bounds[1] - stands.bounds[0]
    try:
        zones = [_zone(number, zone) for number, zone in enumerate(found.zones)]
    except ValidationError as error:
        words = f"cannot be a pan's: {problems_of(error)[0].message}"
        raise InvalidInput([Problem("file", words)]) from None
    return ScannedOut(
        zones=zones, triangles=found.triangles,
        pieces=sum(len(zone.triangles) for zone in found.zones), long_mm=mm(size[0], 1),
        wide_mm=mm(size[1], 1), deep_mm=mm(size[2], 1), volume_l=litres(found.volume),
        kept_l=litres(found.kept), off_mm=mm(found.worst), rms_mm=mm(found.rms),
    )  # fmt: skip
