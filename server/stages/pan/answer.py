"""What Pan asks, worked out or kept."""

from __future__ import annotations

import io
import zipfile
from typing import Literal

from accounts.models import Workshop
from bilge_core.acts.act import figures_named
from bilge_core.acts.deepen import zones_at
from bilge_core.acts.reshape import depth_for_capacity
from bilge_core.errors import InvalidInput, Problem
from bilge_core.making.dxf import as_dxf
from bilge_core.making.flat import FlatPart
from bilge_core.making.parts import flat_parts
from bilge_core.making.solids import Format, written
from bilge_core.making.svg import as_svg
from bilge_core.pan import assemble_pan
from bilge_core.scan.drawing_file import ALONE, MOST_BYTES
from bilge_core.scan.mesh_file import hold_size
from bilge_core.tell.flat_drawing import FlatDrawingOut, flat_drawing_out, traced_out
from bilge_core.tell.making import MakingOut, making_out
from bilge_core.tell.pan import pan_out
from bilge_core.tell.printed import PrintAsked, PrintedOut, plate_flat, printed, printed_out
from builds.selectors import build_of, document_of
from config.errors import NotFound
from forecasts.kept import kept
from loads.services import log_of
from ninja.files import UploadedFile
from records.selectors import records_for

from stages.pan.paper import MOST_SHEETS, as_paper, tiles_of
from stages.pan.schemas import DepthForIn, DepthForOut, DrawingIn, TracedIn


def pan_figures(workshop: Workshop, build_id: int) -> bytes:
    """Fills, dips and checks of a build as it stands, as JSON.

    Raises
    ------
    NotFound, InvalidInput
    """
    build = build_of(workshop, build_id)
    assert build.current is not None
    lap, records = build.lap, records_for(build)
    parts = kept(
        "checks",
        build.current,
        lap,
        lambda: {"pan": pan_out(document_of(build), log_of(lap) if lap else None, records)},
        repr(records).encode(),
    )
    return parts["pan"]


def depth_for(workshop: Workshop, build_id: int, wanted: DepthForIn) -> DepthForOut:
    """How much deeper some zones must be for the pan to hold a volume.

    Raises
    ------
    NotFound, InvalidInput
    """
    document = document_of(build_of(workshop, build_id))
    zones = zones_at(document, wanted.zones)
    with figures_named(**{"volume to hold": "capacity_l"}):
        by = depth_for_capacity(document, wanted.capacity_l * 1e-3, zones)
    return DepthForOut(by_mm=round(by * 1e3, 1))


def making(workshop: Workshop, build_id: int) -> MakingOut:
    """Flat patterns of a build's pan.

    Raises
    ------
    NotFound, InvalidInput
    """
    document = document_of(build_of(workshop, build_id))
    return making_out(document, assemble_pan(document))


def _chosen(workshop: Workshop, build_id: int, part: str) -> tuple[str, list[FlatPart]]:
    """A build's name and its parts; of one alone by its key."""
    build = build_of(workshop, build_id)
    document = document_of(build)
    parts = [*flat_parts(document, assemble_pan(document))]
    chosen = [each for each in parts if part in ("", each.key)]
    if not chosen:
        raise NotFound("part of the pan")
    return build.name, chosen


def patterns(workshop: Workshop, build_id: int, part: str) -> str:
    """The patterns as DXF; of one part alone, by its key.

    Raises
    ------
    NotFound, InvalidInput
    """
    return as_dxf(_chosen(workshop, build_id, part)[1])


def drawn(workshop: Workshop, build_id: int, part: str) -> str:
    """The patterns as SVG at full size; of one part alone, by its key.

    Raises
    ------
    NotFound, InvalidInput
    """
    return as_svg(_chosen(workshop, build_id, part)[1])


def on_paper(workshop: Workshop, build_id: int, part: str) -> bytes:
    """The same at full size on paper, as PDF.

    Raises
    ------
    NotFound, InvalidInput
        If they would take more than sixty sheets.
    """
    name, parts = _chosen(workshop, build_id, part)
    sheets = sum(across * up for across, up in map(tiles_of, parts))
    if sheets > MOST_SHEETS:
        words = f"would take {sheets} sheets; print one part at a time"
        raise InvalidInput([Problem("part", words)])
    return as_paper(name, parts)


def to_print(workshop: Workshop, build_id: int, asked: PrintAsked) -> PrintedOut:
    """What is printed of a build's pan, in figures.

    Raises
    ------
    NotFound, InvalidInput
    """
    document = document_of(build_of(workshop, build_id))
    return printed_out(document, assemble_pan(document), asked)


def print_file(
    workshop: Workshop, build_id: int, asked: PrintAsked, form: Format | Literal["dxf"]
) -> tuple[bytes, str, str]:
    """The file itself, its media type and ending; several solids as STL are a ZIP of them.

    Raises
    ------
    NotFound, InvalidInput
    """
    document = document_of(build_of(workshop, build_id))
    if form == "dxf":
        return as_dxf([plate_flat(document, asked)]).encode(), "image/vnd.dxf", "dxf"
    bodies = printed(document, assemble_pan(document), asked)
    if form != "stl" or len(bodies) == 1:
        return written(bodies, form), _MEDIA[form], form
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, body in bodies:
            archive.writestr(f"{name}.stl", written([(name, body)], "stl"))
    return out.getvalue(), "application/zip", "zip"


def flat_drawing(
    workshop: Workshop, build_id: int, file: UploadedFile, asked: DrawingIn
) -> FlatDrawingOut:
    """A DXF laid over a build's pan; nothing of the build is changed, nothing is kept.

    Raises
    ------
    NotFound, InvalidInput
    """
    pan = assemble_pan(document_of(build_of(workshop, build_id)))
    hold_size(file.size or 0, MOST_BYTES, ALONE)
    return flat_drawing_out(file.read(), pan, asked.unit, asked.ahead, asked.mirrored)


def traced(workshop: Workshop, build_id: int, asked: TracedIn) -> FlatDrawingOut:
    """A flange traced on a picture, laid over a build's pan; nothing is changed, nothing kept.

    Raises
    ------
    NotFound, InvalidInput
    """
    pan = assemble_pan(document_of(build_of(workshop, build_id)))
    return traced_out(asked.read(), pan)


_MEDIA: dict[Format, str] = {
    "stl": "model/stl", "3mf": "model/3mf", "glb": "model/gltf-binary",
}  # fmt: skip
