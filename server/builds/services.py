"""Everything that changes a build. Each edit is a new state; nothing is half-saved."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

from accounts.models import User, Workshop
from bilge_core.acts.deepen import deepen
from bilge_core.acts.flange import with_flange
from bilge_core.acts.mend import mended_by
from bilge_core.acts.reshape import sump_preset
from bilge_core.document.build import Build as BuildDocument
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.pan import assemble_pan
from config.errors import Conflict, NotFound
from django.db import transaction
from loads.models import Lap
from loads.selectors import lap_of
from ninja.files import UploadedFile

from builds import figures, selectors
from builds.models import Build, BuildState, Revision
from builds.schemas import (
    ChooseLapIn,
    DeepenIn,
    DocumentIn,
    FiguresIn,
    FixIn,
    FlangeIn,
    NewBuildIn,
    PresetIn,
    RevisionIn,
    ShowIn,
)
from builds.templates import template_document

LARGEST_DOCUMENT_BYTES = 1024 * 1024


def checked_document(document: dict[str, Any] | bytes) -> BuildDocument:
    """A document that holds together: each field right, and the pan can be assembled and filled.

    Raises
    ------
    InvalidInput
        With every fault's field named.
    """
    text = document if isinstance(document, bytes) else json.dumps(document)
    build = read_build(text)
    assemble_pan(build)
    return build


@transaction.atomic
def add_build(user: User, document: BuildDocument, change: str, lap: Lap | None) -> Build:
    """A new build with its first state."""
    build = Build.objects.create(workshop=user.workshop, name=document.name, lap=lap)
    build.current = BuildState.objects.create(
        build=build,
        number=1,
        document=document.model_dump(mode="json"),
        change=change,
        made_by=user,
    )
    build.save()
    return build


def new_from_template(user: User, wanted: NewBuildIn) -> Build:
    """A new build from a template, under a name of its own, judged by the newest lap if any.

    Raises
    ------
    NotFound
        If there is no such template.
    """
    document = template_document(wanted.template).model_copy(update={"name": wanted.name})
    checked = checked_document(document.model_dump(mode="json"))
    return add_build(user, checked, selectors.FROM_TEMPLATE, _newest_lap(user.workshop))


def import_build(user: User, upload: UploadedFile) -> Build:
    """A new build from a document file.

    Raises
    ------
    InvalidInput
        Naming the fields at fault; nothing is kept then.
    """
    if (upload.size or 0) > LARGEST_DOCUMENT_BYTES:
        raise InvalidInput([Problem("file", "is larger than 1 MB; a build document is a few kB")])
    document = checked_document(upload.read())
    return add_build(user, document, "from a file", _newest_lap(user.workshop))


def _newest_lap(workshop: Workshop) -> Lap | None:
    return Lap.objects.filter(workshop=workshop).defer("samples").first()


def _locked(workshop: Workshop, build_id: int, base_state: int) -> tuple[Build, BuildState]:
    """The build, held until the transaction ends, and its current state.

    Raises
    ------
    NotFound, Conflict
    """
    build = selectors.build_of(workshop, build_id, lock=True)
    current = build.current
    assert current is not None
    if current.number != base_state:
        raise Conflict(
            "This build was changed elsewhere since you opened it. "
            "Look at the newer state, then go on from there."
        )
    return build, current


Change = Callable[[dict[str, Any]], tuple[dict[str, Any], str]]
"""From a document to the changed one, with the change in words."""


def _edit(user: User, build_id: int, base_state: int, change: Change) -> Build:
    """Make a new state from the one that the user saw.

    When the build has moved on since, the new state is kept beside the newer one.

    Raises
    ------
    NotFound, InvalidInput
    Conflict
        Naming both states; nothing is lost.
    """
    with transaction.atomic():
        build = selectors.build_of(user.workshop, build_id, lock=True)
        current = build.current
        base = build.states.filter(number=base_state).first()
        if base is None or current is None:
            raise NotFound(f"state {base_state} of this build")
        # read anew, so that a state of an older version has all of today's fields
        before = selectors.plain_document(base)
        raw, words = change(before)
        document = checked_document(raw)
        kept = document.model_dump(mode="json")
        if kept in (before, current.document):
            return build
        newest = build.states.order_by("-number").values_list("number", flat=True).first() or 0
        made = BuildState.objects.create(
            build=build,
            number=newest + 1,
            parent=base,
            document=kept,
            change=words,
            aside=base != current,
            made_by=user,
        )
        if base == current:
            return _show(build, made)
    raise Conflict(
        f"{current.made_by.username} changed this build while you worked: {current.change} "
        f"(state {current.number}). Yours, {words}, is kept as state {made.number}.",
        kept_state=made.number,
    )


def change_figures(user: User, build_id: int, edit: FiguresIn) -> Build:
    """Replace figures by what was typed; a new state.

    Raises
    ------
    NotFound, Conflict, InvalidInput
    """

    def change(document: dict[str, Any]) -> tuple[dict[str, Any], str]:
        changed = figures.with_figures(document, edit.figures, edit.system)
        return changed, figures.change_words(document, edit.figures)

    return _edit(user, build_id, edit.base_state, change)


def replace_document(user: User, build_id: int, edit: DocumentIn) -> Build:
    """Replace the document; a new state.

    Raises
    ------
    NotFound, Conflict, InvalidInput
    """
    return _edit(user, build_id, edit.base_state, lambda _: (edit.document, edit.change))


def deepen_pan(user: User, build_id: int, edit: DeepenIn) -> Build:
    """A spacer or a deeper sump as one act; a new state.

    Raises
    ------
    NotFound, Conflict, InvalidInput
    """
    by_mm = figures.read_length(edit.typed, "typed", edit.system)

    def change(document: dict[str, Any]) -> tuple[dict[str, Any], str]:
        try:
            done = deepen(build_from(document), by_mm * 1e-3, edit.zones)
        except InvalidQuantity as error:
            raise InvalidInput([Problem(error.name, f"must be {error.requirement}")]) from None
        what = "spacer under the pan" if edit.zones is None else "sump deeper"
        gained = f"{done.capacity_gained * 1e3:+.2f} L to the rail"
        return done.build.model_dump(mode="json"), f"{what}, {edit.typed.strip()}: {gained}"

    return _edit(user, build_id, edit.base_state, change)


def _figures_refused(error: InvalidQuantity) -> InvalidInput:
    return InvalidInput([Problem(error.name, f"{error.value}; it must be {error.requirement}")])


def preset_pan(user: User, build_id: int, edit: PresetIn) -> Build:
    """Begin the pan anew with its sump somewhere else; a new state.

    Raises
    ------
    NotFound, Conflict, InvalidInput
    """
    depth = figures.read_length(edit.depth, "depth", edit.system)
    shelf = figures.read_length(edit.shelf, "shelf", edit.system)

    def change(document: dict[str, Any]) -> tuple[dict[str, Any], str]:
        try:
            made = sump_preset(build_from(document), edit.place, depth * 1e-3, shelf * 1e-3)
        except InvalidQuantity as error:
            raise _figures_refused(error) from None
        return made.model_dump(mode="json"), f"pan begun anew, sump {edit.place}"

    return _edit(user, build_id, edit.base_state, change)


def lay_out_flange(user: User, build_id: int, edit: FlangeIn) -> Build:
    """A flange and holes round the rail; a new state.

    Raises
    ------
    NotFound, Conflict, InvalidInput
    """
    names = ("width", "spacing", "hole", "thickness")
    width, spacing, hole, thickness = (
        figures.read_length(getattr(edit, name), name, edit.system) * 1e-3 for name in names
    )

    def change(document: dict[str, Any]) -> tuple[dict[str, Any], str]:
        build = build_from(document)
        try:
            made = with_flange(build, assemble_pan(build), width, spacing, hole, thickness)
        except InvalidQuantity as error:
            raise _figures_refused(error) from None
        assert made.pan.flange is not None
        return made.model_dump(mode="json"), f"flange with {len(made.pan.flange.bolts)} holes"

    return _edit(user, build_id, edit.base_state, change)


def mend(user: User, build_id: int, edit: FixIn) -> Build:
    """Do what a check of the pan offers; a new state.

    Raises
    ------
    NotFound, Conflict, InvalidInput
    """

    def change(document: dict[str, Any]) -> tuple[dict[str, Any], str]:
        mended = mended_by(build_from(document), edit.fix, edit.field)
        words = {"turn_gate": "gate turned round", "carry_to_wall": "plate carried to the wall"}
        return mended.model_dump(mode="json"), words[edit.fix]

    return _edit(user, build_id, edit.base_state, change)


def _show(build: Build, state: BuildState) -> Build:
    build.current = state
    build.name = state.document["name"]
    build.save()
    return build


@transaction.atomic
def undo(user: User, build_id: int, base_state: int) -> Build:
    """Go back to the state before the last edit.

    Raises
    ------
    NotFound
    Conflict
        If there is nothing to undo, or the build has moved on.
    """
    build, current = _locked(user.workshop, build_id, base_state)
    if current.parent is None:
        raise Conflict("There is nothing to undo.")
    return _show(build, current.parent)


@transaction.atomic
def redo(user: User, build_id: int, base_state: int) -> Build:
    """Go forward again to the newest state made from this one.

    Raises
    ------
    NotFound
    Conflict
        If nothing was undone here, or the build has moved on.
    """
    build, current = _locked(user.workshop, build_id, base_state)
    after = selectors.redo_state(current)
    if after is None:
        raise Conflict("There is nothing to do again.")
    return _show(build, after)


@transaction.atomic
def show_state(user: User, build_id: int, move: ShowIn) -> Build:
    """Show any state of the build; states made since stay where they are.

    Raises
    ------
    NotFound, Conflict
    """
    build, _ = _locked(user.workshop, build_id, move.base_state)
    state = build.states.filter(number=move.state).first()
    if state is None:
        raise NotFound(f"state {move.state} of this build")
    return _show(build, state)


@transaction.atomic
def name_revision(user: User, build_id: int, wanted: RevisionIn) -> Build:
    """Give the state shown a name, or another one.

    Raises
    ------
    NotFound, Conflict
    """
    build, current = _locked(user.workshop, build_id, wanted.base_state)
    newest = build.revisions.order_by("-number").values_list("number", flat=True).first() or 0
    Revision.objects.update_or_create(
        state=current,
        defaults={"name": wanted.name},
        create_defaults={
            "build": build,
            "number": newest + 1,
            "name": wanted.name,
            "made_by": user,
        },
    )
    return build


@transaction.atomic
def choose_lap(user: User, build_id: int, wanted: ChooseLapIn) -> Build:
    """Choose the lap that a build is judged by.

    Raises
    ------
    NotFound
        If build or lap is not in the user's workshop.
    Conflict
        If the build has moved on.
    """
    build, _ = _locked(user.workshop, build_id, wanted.base_state)
    lap_id = wanted.lap_id
    build.lap = lap_of(user.workshop, lap_id) if lap_id is not None else None
    build.save()
    return build


@transaction.atomic
def delete_build(user: User, build_id: int) -> None:
    """Delete a build with all its states.

    Raises
    ------
    NotFound
    """
    build = selectors.build_of(user.workshop, build_id, lock=True)
    build.current = None
    build.save()
    build.delete()
