"""Asking what laps say of the figures that nobody measured; cancelling; taking figures over."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from accounts.models import User
from bilge_core.acts.registry import read_act
from bilge_core.agreement.as_usual import as_usual
from bilge_core.agreement.book import book_of
from bilge_core.agreement.book_entries import HoldUp, Session
from bilge_core.agreement.hold_up import learn_held_up
from bilge_core.agreement.judged import Named, kept_of, read_kept_laps
from bilge_core.agreement.most_telling import most_telling
from bilge_core.agreement.response import LEVELS
from bilge_core.document.marks import with_knowledge
from bilge_core.document.reach import felt_by
from bilge_core.document.read import build_from
from bilge_core.errors import InvalidInput, Problem
from bilge_core.tell.learned import FitTold, LapTold, learn_act
from builds.models import Build, BuildState
from builds.selectors import build_of, plain_document
from builds.states import make_state
from config.errors import Conflict, NotFound
from django.db import transaction
from django.db.models.functions import Now
from records.books import entries_of
from records.models import SessionJudged
from runs.long_jobs import end_those, for_each_core, wake_quiet

from learning.models import Learning, LearningStep
from learning.selectors import newest_of, taken_in
from learning.tasks import enqueue

SESSIONS = 6
"""The newest of a car as it was last driven that are looked through for the most telling laps."""


def _driven(build: Build) -> dict[str, tuple[int, Session]]:
    """What is written down of each session, and the number of the state that was driven."""
    book = book_of(entries_of(build))
    return {entry.id: (row.state, entry) for entry, row in book.in_order}


@dataclass(frozen=True)
class _Chosen:
    """Laps that tell most, which they are, and the state that they were driven in."""

    laps: tuple[Named, ...]
    which: tuple[LapTold, ...]
    state: BuildState


def _numbers(driven: dict[str, tuple[int, Session]]) -> set[int]:
    return {number for number, _ in driven.values()}


def _as_known(document: dict[str, Any], now: dict[str, Any]) -> dict[str, Any]:
    """A state with all that is known of the car today."""
    return with_knowledge(document, now, document)


def _chosen(build: Build, now: dict[str, Any]) -> _Chosen:
    """Of all sessions of the car as it was last driven.

    Raises
    ------
    InvalidInput
        If no lap is held against a forecast, or none has a dip.
    """
    driven = _driven(build)
    rows_kept = build.judged.defer("kept", "told")
    judged = [row for row in rows_kept if row.session in driven]
    if not judged:
        raise InvalidInput([Problem("build_id", "has no laps in its track book; give it some")])
    states = {row.number: row for row in build.states.filter(number__in=_numbers(driven))}
    judged.sort(key=lambda row: driven[row.session][1].on, reverse=True)
    state = states[driven[judged[0].session][0]]
    felt = felt_by("moving", _as_known(plain_document(state), now))
    rows = []
    for row in judged[:SESSIONS]:
        number, session = driven[row.session]
        there = _as_known(plain_document(states[number]), now)
        if number == state.number or felt_by("moving", there) == felt:
            rows += _laps_of(row, session)
    numbers = most_telling([(named.log, usual) for named, usual, _ in rows])
    if not numbers:
        raise InvalidInput(
            [Problem("build_id", "has no lap with a dip in it: none tells of what is not measured")]
        )
    return _Chosen(
        tuple(rows[at][0] for at in numbers), tuple(rows[at][2] for at in numbers), state
    )


def _laps_of(row: SessionJudged, session: Session) -> list[tuple[Named, Any, LapTold]]:
    _, laps = read_kept_laps(bytes(row.kept))
    usual = as_usual([each.log for each in laps])
    return [
        (
            each, usual,
            LapTold(session=session.id, on=session.on.isoformat(), circuit=session.circuit,
                    lap=each.name),
        )
        for each in laps
    ]  # fmt: skip


@transaction.atomic
def ask(user: User, build_id: int) -> Learning:
    """Ask what the most telling laps of a car's track book say; one under way gives way.

    Raises
    ------
    NotFound
    InvalidInput
        If there is no lap that tells of anything.
    """
    build = build_of(user.workshop, build_id, lock=True)
    assert build.current is not None
    now = plain_document(build.as_is or build.current)
    chosen = _chosen(build, now)
    document = _as_known(plain_document(chosen.state), now)
    end_those(build.learnings, Learning.CANCELLED, "A newer one took its place.")
    learning = Learning.objects.create(
        workshop=user.workshop, build=build, state=chosen.state, asked_by=user,
        document=build_from(document).model_dump(mode="json"),
        laps=[each.model_dump(mode="json") for each in chosen.which],
        kept=kept_of(None, chosen.laps), stirred_at=Now(),
    )  # fmt: skip
    asked = [(lap, level) for level in range(len(LEVELS)) for lap in range(len(chosen.laps))]
    steps = [
        LearningStep(learning=learning, place=place, lap=lap, level=level)
        for place, (lap, level) in enumerate(asked)
    ]
    steps.append(LearningStep(learning=learning, place=len(asked)))
    LearningStep.objects.bulk_create(steps)
    transaction.on_commit(lambda: for_each_core(enqueue, learning.pk))
    return learning


def cancel(user: User, build_id: int) -> None:
    """End one that is under way; others stay as they are.

    Raises
    ------
    NotFound
    """
    build = build_of(user.workshop, build_id)
    end_those(build.learnings, Learning.CANCELLED, "Cancelled.")


def _finished(user: User, build_id: int, learning_id: int) -> Learning:
    """The newest of a build, which must be the one that was read and not yet be decided.

    Raises
    ------
    NotFound, Conflict
    """
    learning = newest_of(user.workshop, build_id)
    if learning is None or learning.pk != learning_id or learning.status != Learning.FINISHED:
        raise NotFound("fit of this build")
    taken = taken_in(learning)
    if taken is not None:
        raise Conflict(f"These figures were taken over already, as state {taken}.")
    return learning


def take(
    user: User, build_id: int, learning_id: int, base_state: int, keys: list[str]
) -> Build:  # fmt: skip
    """Take figures over into what is known of the car, as one edit.

    Raises
    ------
    NotFound, Conflict
    InvalidInput
        If none of them can be taken, or the build would not hold together with them.
    """
    learning = _finished(user, build_id, learning_id)
    told = FitTold.model_validate(learning.told)
    raw = learn_act(told, build_from(learning.document), keys)
    # no transaction round both: an edit that comes too late is kept beside the newest state
    build = _learnt(user, build_id, base_state, raw)
    assert build.current is not None
    learning.taken_in, learning.left = build.current.number, False
    learning.save(update_fields=["taken_in", "left"])
    return build


def _learnt(user: User, build_id: int, base_state: int, raw: dict[str, Any]) -> Build:
    """A `learn` done as one edit.

    Raises
    ------
    NotFound, Conflict, InvalidInput
    """
    act = read_act(raw)

    def change(document: dict[str, Any]) -> tuple[dict[str, Any], str]:
        done = act.done(build_from(document))
        return done.build.model_dump(mode="json"), done.words

    return make_state(user, build_id, base_state, change, act)


def take_held_up(user: User, build_id: int, trial_id: str, base_state: int) -> Build:
    """Take over what a hold-up trial told, in place of what was guessed.

    Raises
    ------
    NotFound, Conflict
    InvalidInput
        If the build would not hold together with it.
    """
    build = build_of(user.workshop, build_id)
    row = book_of(entries_of(build)).hold_ups.get(trial_id)
    if row is None or not isinstance(row.entry, HoldUp):
        raise NotFound("hold-up trial of this build")
    stood = build.states.get(number=row.state)
    raw = learn_held_up(row.entry, build_from(plain_document(stood)))
    return _learnt(user, build_id, base_state, raw)


@transaction.atomic
def leave(user: User, build_id: int, learning_id: int) -> None:
    """Say that all stays as it was.

    Raises
    ------
    NotFound, Conflict
    """
    build_of(user.workshop, build_id, lock=True)
    learning = _finished(user, build_id, learning_id)
    learning.left = True
    learning.save(update_fields=["left"])


def wake() -> int:
    """Put those whose workers are gone into the queue again; how many."""
    return wake_quiet(Learning.objects, enqueue)
