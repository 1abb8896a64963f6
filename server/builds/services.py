"""Everything that changes a build."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from accounts.models import User, Workshop
from bilge_core.document.ids import last_number, with_ids_by_place
from bilge_core.document.read import build_from
from bilge_core.errors import InvalidInput, Problem
from config.errors import Conflict, NotFound
from django.db import transaction
from loads.models import Lap
from loads.selectors import lap_of

from builds import selectors
from builds.models import Build, BuildState, JudgedBy, Revision
from builds.schemas import (
    ActIn,
    AsIsIn,
    ChooseLapIn,
    DocumentIn,
    JudgeIn,
    NewBuildIn,
    RevisionIn,
    ShowIn,
)
from builds.states import (
    add_build,
    checked_document,
    locked,
    make_state,
    show,
    with_what_was_carried,
)
from builds.templates import template_document

MOST_LAPS = 12
"""That judge a build: each is a run after each edit."""
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


def new_from_document(user: User, text: bytes) -> Build:
    """A new build from a bare document.

    Raises
    ------
    InvalidInput
        Naming the fields at fault; nothing is kept then.
    """
    document = checked_document(text)
    if last_number(document.model_dump()) > MOST_NUMBERED:
        document = checked_document(with_ids_by_place(document.model_dump(mode="json")))
    return add_build(user, document, "from a file", _newest_lap(user.workshop))


def new_from_states(
    user: User, documents: Mapping[int, bytes], shown: int, change: str
) -> tuple[Build, dict[int, BuildState]]:
    """A new build with several states, as a file numbers them; the one shown is its newest.

    Raises
    ------
    InvalidInput
        Naming the fields at fault; nothing is kept then.
    """
    first, *others = sorted(documents, key=lambda number: (number == shown, number))
    for number, text in documents.items():
        if len(text) > LARGEST_DOCUMENT_BYTES:
            raise InvalidInput([Problem(f"states/{number}.json", "is larger than 1 MB")])
    if not others:
        build = new_from_document(user, documents[first])
        assert build.current is not None
        return build, {first: build.current}
    checked = {number: checked_document(documents[number]) for number in (first, *others)}
    last = max(last_number(each.model_dump()) for each in checked.values())
    if last > MOST_NUMBERED:
        raise InvalidInput([Problem("states", f"have ids that count past {MOST_NUMBERED}")])
    build = add_build(user, checked[first], change, _newest_lap(user.workshop))
    assert build.current is not None
    states = {first: build.current}
    for number in others:
        states[number] = BuildState.objects.create(
            build=build, number=len(states) + 1, parent=build.current, change=change,
            document=checked[number].model_dump(mode="json"), made_by=user,
        )  # fmt: skip
        build.current = states[number]
    build.name, build.last_id = checked[shown].name, last
    build.save()
    return build, states


def _newest_lap(workshop: Workshop) -> Lap | None:
    return Lap.objects.filter(workshop=workshop).defer("samples").first()


def act(user: User, build_id: int, wanted: ActIn) -> Build:
    """Do an act; a new state that remembers it.

    Raises
    ------
    NotFound, Conflict, InvalidInput
    """

    def change(document: dict[str, Any]) -> tuple[dict[str, Any], str]:
        done = wanted.act.done(build_from(document))
        return done.build.model_dump(mode="json"), done.words

    return make_state(user, build_id, wanted.base_state, change, wanted.act)


def replace_document(user: User, build_id: int, edit: DocumentIn) -> Build:
    """Replace the document; a new state.

    Raises
    ------
    NotFound, Conflict, InvalidInput
    """
    return make_state(user, build_id, edit.base_state, lambda _: (edit.document, edit.change))


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
    with_what_was_carried(build, current, current.parent)
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
    with_what_was_carried(build, current, after)
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
def say_as_is(user: User, build_id: int, move: AsIsIn) -> Build:
    """Say which state the car is in, or that none of them is known to be.

    Raises
    ------
    NotFound, Conflict
    """
    build, _ = locked(user.workshop, build_id, move.base_state)
    state = build.states.filter(number=move.state).first() if move.state is not None else None
    if move.state is not None and state is None:
        raise NotFound(f"state {move.state} of this build")
    build.as_is = state
    build.save()
    return build


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
    """Show a build over a lap, and judge it by that lap; null: by none at all.

    One of a set stays one of it, and another comes to a set of several. Where the lap shown was
    the only one, the new one takes its place: who looks at lap after lap gathers none.

    Raises
    ------
    NotFound
        If build or lap is not in the user's workshop.
    Conflict
        If the build has moved on.
    """
    build, _ = locked(user.workshop, build_id, wanted.base_state)
    lap = None if wanted.lap_id is None else lap_of(user.workshop, wanted.lap_id)
    laps = [each.lap for each in build.judged_by.select_related("lap").defer("lap__samples")]
    if lap is None:
        laps = []
    elif lap not in laps:
        laps = [*laps, lap] if len(laps) > 1 else [lap]
    return _judge(build, laps, lap)


def _judge(build: Build, laps: list[Lap], shown: Lap | None) -> Build:
    """Judge a build by these laps, one of them shown.

    Raises
    ------
    InvalidInput
    """
    if len(laps) > MOST_LAPS:
        words = f"are {len(laps)}; a build is judged by {MOST_LAPS} at most, untick some first"
        raise InvalidInput([Problem("lap_ids", words)])
    build.judged_by.exclude(lap__in=laps).delete()
    for lap in laps:
        JudgedBy.objects.get_or_create(build=build, lap=lap)
    build.lap = shown
    build.save()
    return build


@transaction.atomic
def judge_by(user: User, build_id: int, wanted: JudgeIn) -> Build:
    """Say by which laps a build is judged; the one shown stays, or the first of them is.

    Raises
    ------
    NotFound
        If build or a lap is not in the user's workshop.
    Conflict
        If the build has moved on.
    """
    build, _ = locked(user.workshop, build_id, wanted.base_state)
    laps = [lap_of(user.workshop, lap_id) for lap_id in dict.fromkeys(wanted.lap_ids)]
    first = laps[0] if laps else None
    return _judge(build, laps, build.lap if build.lap in laps else first)


@transaction.atomic
def delete_build(user: User, build_id: int) -> None:
    """Delete a build with all its states.

    Raises
    ------
    NotFound
    """
    build = selectors.build_of(user.workshop, build_id, lock=True)
    build.current, build.as_is = None, None
    build.save()
    build.delete()
