"""What Pan asks, worked out or kept."""

from __future__ import annotations

from accounts.models import Workshop
from bilge_core.acts.act import figures_named
from bilge_core.acts.deepen import zones_at
from bilge_core.acts.reshape import depth_for_capacity
from bilge_core.tell.pan import pan_out
from builds.selectors import build_of, document_of
from forecasts.kept import kept
from loads.services import log_of
from records.selectors import records_for

from stages.pan.schemas import DepthForIn, DepthForOut


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
