"""Reads of builds, always within a workshop."""

from __future__ import annotations

from accounts.models import Workshop
from bilge_core.build import Build as BuildDocument
from config.errors import NotFound
from django.db.models import QuerySet

from builds.models import Build, BuildState
from builds.schemas import BuildOut


def builds_of(workshop: Workshop) -> QuerySet[Build]:
    """Builds of a workshop, last changed first."""
    return (
        Build.objects.filter(workshop=workshop, current__isnull=False)
        .select_related("current", "lap")
        .defer("lap__samples")
    )


def build_of(workshop: Workshop, build_id: int, lock: bool = False) -> Build:
    """One build of a workshop; `lock` holds its row to the end of the transaction.

    Raises
    ------
    NotFound
        If it is not there, or belongs to another workshop.
    """
    rows = Build.objects.select_for_update() if lock else Build.objects.select_related("current")
    build = rows.filter(workshop=workshop, pk=build_id, current__isnull=False).first()
    if build is None:
        raise NotFound("build")
    return build


def redo_state(state: BuildState) -> BuildState | None:
    """The newest state made from this one, if any."""
    return state.children.order_by("-number").first()


def document_of(build: Build) -> BuildDocument:
    """The document as it stands."""
    assert build.current is not None
    return BuildDocument.model_validate(build.current.document)


def build_out(build: Build) -> BuildOut:
    """A build as the web wants it."""
    current = build.current
    assert current is not None
    after = redo_state(current)
    return BuildOut(
        id=build.pk,
        name=build.name,
        state=current.number,
        undo=current.change if current.parent_id else None,
        redo=after.change if after else None,
        lap_id=build.lap_id,
        lap_name=build.lap.name if build.lap else None,
        document=document_of(build),
        changed_at=build.changed_at,
    )
