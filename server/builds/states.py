"""States of a build: how one is made, laid on top of another, and shown.

A state is never changed. Nothing is half-saved, and no edit overwrites another.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

from accounts.models import User, Workshop
from bilge_core.acts.registry import AnyAct
from bilge_core.document.build import Build as BuildDocument
from bilge_core.document.ids import ids_of, last_number, with_ids
from bilge_core.document.marks import with_knowledge
from bilge_core.document.merge import merged
from bilge_core.document.read import read_build
from bilge_core.errors import InvalidInput, Problem
from bilge_core.pan import assemble_pan
from config.errors import Conflict, NotFound
from django.db import transaction
from loads.models import Lap

from builds import selectors
from builds.models import Build, BuildState, JudgedBy


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
    plain = document.model_dump(mode="json")
    build.current = BuildState.objects.create(
        build=build,
        number=1,
        document=plain,
        change=change,
        made_by=user,
    )
    if lap is not None:
        JudgedBy.objects.create(build=build, lap=lap)
    build.last_id = last_number(plain)
    build.save()
    return build


def locked(workshop: Workshop, build_id: int, base_state: int) -> tuple[Build, BuildState]:
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


MOST_WORDS = 200
"""Letters of what a change says of itself."""

Change = Callable[[dict[str, Any]], tuple[dict[str, Any], str]]
"""From a document to the changed one, with the change in words."""


def _laid_on(
    base: dict[str, Any], mine: dict[str, Any], theirs: dict[str, Any]
) -> dict[str, Any] | None:
    """An edit of an older state on top of the newest; None where the two do not go together."""
    both = merged(base, mine, theirs)
    if both.at_odds:
        return None
    try:
        return checked_document(both.document).model_dump(mode="json")
    except InvalidInput:
        return None


def make_state(
    user: User, build_id: int, base_state: int, change: Change, act: AnyAct | None = None
) -> Build:
    """Make a new state from the one that the user saw.

    When the build has moved on since, the edit is laid on top of the newest state if the two
    concern different things; else the new state is kept beside it.

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
        before, now = selectors.plain_document(base), selectors.plain_document(current)
        raw, words = change(before)
        given, last = with_ids(raw, build.last_id, ids_of(before))
        mine = checked_document(given).model_dump(mode="json")
        if mine in (before, now):
            return build
        document = mine if base == current else _laid_on(before, mine, now)
        newest = build.states.order_by("-number").values_list("number", flat=True).first() or 0
        made = BuildState.objects.create(
            build=build,
            number=newest + 1,
            parent=base if document is None else current,
            made_on=base,
            document=mine if document is None else document,
            change=words[:MOST_WORDS],
            act=act.model_dump(mode="json") if act else None,
            aside=document is None,
            made_by=user,
        )
        build.last_id = last
        build.save(update_fields=["last_id"])
        if document is not None:
            build = show(build, made)
            _carry(build, before, mine, made)
            return build
    raise Conflict(
        f"{current.made_by.username} changed this build while you worked: {current.change} "
        f"(state {current.number}). Yours, {words}, is kept as state {made.number}.",
        kept_state=made.number,
    )


def _carry(build: Build, before: dict[str, Any], mine: dict[str, Any], made: BuildState) -> None:
    """What an edit found out of the car holds in the state that the car is in as well.

    Raises
    ------
    InvalidInput
        If that state would not hold together with it.
    """
    was = build.as_is
    if was is None:
        return
    there = selectors.plain_document(was)
    known = with_knowledge(before, mine, there)
    if known == there:
        return
    try:
        document = checked_document(known).model_dump(mode="json")
    except InvalidInput as error:
        raise InvalidInput(
            [
                Problem(
                    p.field, f"does not hold in the car as it is, state {was.number}: {p.message}"
                )
                for p in error.problems
            ]
        ) from None
    build.as_is = BuildState.objects.create(
        build=build,
        number=made.number + 1,
        parent=was,
        made_on=was,
        carried_from=made,
        document=document,
        change=made.change,
        aside=True,
        made_by=made.made_by,
    )
    build.save(update_fields=["as_is"])


def with_what_was_carried(build: Build, left: BuildState, came: BuildState) -> None:
    """The car as it is, when an edit is undone or done again: what it found out goes and comes."""
    was = build.as_is
    if was is not None and was.carried_from_id == left.pk and came == left.parent:
        build.as_is = was.parent
    elif came.parent_id == left.pk:
        again = came.carried.filter(parent=was).order_by("-number").first()
        if again is not None:
            build.as_is = again


def show(build: Build, state: BuildState) -> Build:
    """Make a state the one that is shown."""
    build.current = state
    build.name = state.document["name"]
    build.save()
    return build
