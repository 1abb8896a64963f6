"""The builds of a workshop, each with its verdict and a small section."""

from __future__ import annotations

from accounts.models import Workshop
from bilge_core.errors import BilgeError
from bilge_core.pan import assemble_pan
from bilge_core.tell.drawing import mouth_out, side_section, standing_surface, surface_out
from bilge_core.tell.verdict import faulty, no_lap
from builds.models import Build
from builds.selectors import builds_of, document_of, invented_parts

from forecasts.schemas import ShelfOut
from forecasts.verdicts import verdicts_of


def _on_shelf(build: Build) -> ShelfOut:
    try:
        document = document_of(build)
        pan = assemble_pan(document)
        over = verdicts_of(build, document)
        return ShelfOut(
            id=build.pk,
            name=build.name,
            lap_name=over[0].lap_name if over else None,
            laps=len(over),
            changed_at=build.changed_at,
            invented=invented_parts(build),
            verdict=over[0].verdict if over else no_lap(),
            side=side_section(pan),
            mouth=mouth_out(pan),
            standing=surface_out(standing_surface(pan, document)),
        )
    except BilgeError as error:  # one faulty build must not hide the others
        return ShelfOut(
            id=build.pk,
            name=build.name,
            lap_name=None,
            laps=0,
            changed_at=build.changed_at,
            invented=[],
            verdict=faulty(str(error)),
            side=None,
            mouth=None,
            standing=None,
        )


def shelf(workshop: Workshop) -> list[ShelfOut]:
    """The builds of a workshop with their verdicts, last changed first."""
    return [_on_shelf(build) for build in builds_of(workshop)]
