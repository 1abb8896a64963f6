"""Everything that changes a build."""

from __future__ import annotations

from typing import Any

from accounts.models import User, Workshop
from bilge_core.acts.deepen import deepen
from bilge_core.acts.flange import with_flange
from bilge_core.acts.mend import mended_by
from bilge_core.acts.reshape import sump_preset
from bilge_core.document.ids import last_number, without_ids
from bilge_core.document.read import build_from
from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.pan import assemble_pan
from config.errors import Conflict, NotFound
from django.db import transaction
from loads.models import Lap
from loads.selectors import lap_of
from ninja.files import UploadedFile

from builds import figures, selectors
from builds.models import Build, Revision
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
from builds.states import add_build, checked_document, locked, make_state, show
from builds.templates import template_document

LARGEST_DOCUMENT_BYTES = 1024 * 1024
MOST_NUMBERED = 1_000_000
"""Ids of a file that count higher are not of our giving: they are given anew, or would run out."""


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
    if last_number(document.model_dump()) > MOST_NUMBERED:
        document = checked_document(without_ids(document.model_dump(mode="json")))
    return add_build(user, document, "from a file", _newest_lap(user.workshop))


def _newest_lap(workshop: Workshop) -> Lap | None:
    return Lap.objects.filter(workshop=workshop).defer("samples").first()


def change_figures(user: User, build_id: int, edit: FiguresIn) -> Build:
    """Replace figures by what was typed; a new state.

    Raises
    ------
    NotFound, Conflict, InvalidInput
    """

    def change(document: dict[str, Any]) -> tuple[dict[str, Any], str]:
        changed = figures.with_figures(document, edit.figures, edit.system)
        return changed, figures.change_words(document, edit.figures)

    return make_state(user, build_id, edit.base_state, change)


def replace_document(user: User, build_id: int, edit: DocumentIn) -> Build:
    """Replace the document; a new state.

    Raises
    ------
    NotFound, Conflict, InvalidInput
    """
    return make_state(user, build_id, edit.base_state, lambda _: (edit.document, edit.change))


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

    return make_state(user, build_id, edit.base_state, change)


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

    return make_state(user, build_id, edit.base_state, change)


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

    return make_state(user, build_id, edit.base_state, change)


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

    return make_state(user, build_id, edit.base_state, change)


@transaction.atomic
def undo(user: User, build_id: int, base_state: int) -> Build:
    """Go back to the state before the last edit.

    Raises
    ------
    NotFound
    Conflict
        If there is nothing to undo, or the build has moved on.
    """
    build, current = locked(user.workshop, build_id, base_state)
    if current.parent is None:
        raise Conflict("There is nothing to undo.")
    return show(build, current.parent)


@transaction.atomic
def redo(user: User, build_id: int, base_state: int) -> Build:
    """Go forward again to the newest state made from this one.

    Raises
    ------
    NotFound
    Conflict
        If nothing was undone here, or the build has moved on.
    """
    build, current = locked(user.workshop, build_id, base_state)
    after = selectors.redo_state(current)
    if after is None:
        raise Conflict("There is nothing to do again.")
    return show(build, after)


@transaction.atomic
def show_state(user: User, build_id: int, move: ShowIn) -> Build:
    """Show any state of the build; states made since stay where they are.

    Raises
    ------
    NotFound, Conflict
    """
    build, _ = locked(user.workshop, build_id, move.base_state)
    state = build.states.filter(number=move.state).first()
    if state is None:
        raise NotFound(f"state {move.state} of this build")
    return show(build, state)


@transaction.atomic
def name_revision(user: User, build_id: int, wanted: RevisionIn) -> Build:
    """Give the state shown a name, or another one.

    Raises
    ------
    NotFound, Conflict
    """
    build, current = locked(user.workshop, build_id, wanted.base_state)
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
    build, _ = locked(user.workshop, build_id, wanted.base_state)
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
