"""What Pan asks, worked out or kept."""

from __future__ import annotations

from accounts.models import Workshop
from bilge_core.acts.act import figures_named
from bilge_core.acts.deepen import zones_at
from bilge_core.acts.reshape import depth_for_capacity
from bilge_core.document.build import Build as BuildDocument
from bilge_core.errors import InvalidInput, Problem
from bilge_core.making.bends import Sheet
from bilge_core.making.dxf import as_dxf
from bilge_core.making.parts import FlatPart, flat_parts, sheet_of
from bilge_core.pan import assemble_pan
from bilge_core.tell.making import MakingOut, making_out, pairs_of
from bilge_core.tell.pan import pan_out
from builds.selectors import build_of, document_of
from config.errors import NotFound
from forecasts.kept import kept
from loads.services import log_of
from records.selectors import records_for

from stages.pan.paper import MOST_SHEETS, as_paper, tiles_of
from stages.pan.schemas import DepthForIn, DepthForOut, MakingIn


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


def making(workshop: Workshop, build_id: int, wanted: MakingIn) -> MakingOut:
    """Flat patterns of a build's pan.

    Raises
    ------
    NotFound, InvalidInput
    """
    document = document_of(build_of(workshop, build_id))
    sheet = _sheet(document, wanted)
    return making_out(document, assemble_pan(document), pairs_of(wanted.bent), sheet)


def _sheet(document: BuildDocument, wanted: MakingIn) -> Sheet:
    radius = None if wanted.radius_mm is None else wanted.radius_mm * 1e-3
    return sheet_of(document, radius, wanted.k_factor)


def _chosen(
    workshop: Workshop, build_id: int, wanted: MakingIn, part: str
) -> tuple[str, list[FlatPart]]:
    """A build's name and its parts; of one alone by its key."""
    build = build_of(workshop, build_id)
    document = document_of(build)
    parts = flat_parts(
        document, assemble_pan(document), pairs_of(wanted.bent), _sheet(document, wanted)
    )
    chosen = [each for each in parts if part in ("", each.key)]
    if not chosen:
        raise NotFound("part of the pan")
    return build.name, chosen


def patterns(workshop: Workshop, build_id: int, wanted: MakingIn, part: str) -> str:
    """The patterns as DXF; of one part alone, by its key.

    Raises
    ------
    NotFound, InvalidInput
    """
    return as_dxf(_chosen(workshop, build_id, wanted, part)[1])


def on_paper(workshop: Workshop, build_id: int, wanted: MakingIn, part: str) -> bytes:
    """The same at full size on paper, as PDF.

    Raises
    ------
    NotFound, InvalidInput
        If they would take more than sixty sheets.
    """
    name, parts = _chosen(workshop, build_id, wanted, part)
    sheets = sum(across * up for across, up in map(tiles_of, parts))
    if sheets > MOST_SHEETS:
        words = f"would take {sheets} sheets; print one part at a time"
        raise InvalidInput([Problem("part", words)])
    return as_paper(name, parts)
