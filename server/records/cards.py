"""Job cards: begun, said of, entered on, closed."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime

from accounts.models import User
from bilge_core.document.build import Build as BuildDocument
from bilge_core.document.work_file import MOST_ENTRIES
from bilge_core.errors import InvalidInput, Problem
from bilge_core.job.entries import AnyEntry, read_entry
from bilge_core.job.settings import CardSettings
from bilge_core.job.standing import Kept
from builds.models import Build, BuildState
from builds.selectors import build_of
from config.errors import Conflict
from django.db import transaction
from django.utils import timezone

from records.models import CardEntry, JobCard


def open_card(build: Build) -> JobCard | None:
    """The card that is being worked on, if any."""
    return build.job_cards.filter(closed_at=None).last()


def last_card(build: Build) -> JobCard | None:
    """The newest card, closed or not: what is in the way is kept from one to the next."""
    return build.job_cards.last()


def said_of(card: JobCard) -> CardSettings:
    """What was said of a card."""
    return CardSettings.model_validate(card.said)


def settings_to_begin(build: Build) -> CardSettings:
    """What a new card begins with: the car's access and the workshop's ways, no other jobs."""
    card = last_card(build)
    if card is None:
        return CardSettings()
    return said_of(card).model_copy(update={"extras": [], "begins_on": None})


def entries_of(card: JobCard) -> tuple[Kept, ...]:
    """All that happened on a card, in the order kept."""
    rows = card.entries.select_related("made_by", "state")
    return tuple(
        Kept(read_entry(row.data), row.pk, row.by, row.happened_at, row.state.number)
        for row in rows
    )


def states_of(build: Build, entries: tuple[Kept, ...]) -> Mapping[int, BuildDocument]:
    """States of the plan that something was entered on, the one shown left out."""
    assert build.current is not None
    numbers = {each.state for each in entries} - {build.current.number}
    return {state.number: state.read for state in build.states.filter(number__in=numbers)}


@transaction.atomic
def begin(user: User, build_id: int, said: CardSettings) -> JobCard:
    """Begin a job on the plan as it stands.

    Raises
    ------
    NotFound
    Conflict
        If one is being worked on.
    InvalidInput
        If nobody said which state the car is in.
    """
    build = build_of(user.workshop, build_id, lock=True)
    there = open_card(build)
    if there is not None:
        raise Conflict(f"{there.who_began} began job card {there.number} already.")
    if build.as_is is None:
        raise InvalidInput([Problem("as_is", "is not said: which state is the car in?")])
    last = last_card(build)
    assert build.current is not None
    return JobCard.objects.create(
        build=build, number=(last.number if last else 0) + 1, said=said.model_dump(mode="json"),
        begun_on=build.current, begun_by=user,
    )  # fmt: skip


def locked_card(user: User, build_id: int) -> tuple[Build, JobCard]:
    """The build and the card that is worked on, held until the transaction ends.

    Raises
    ------
    NotFound
    Conflict
        If none is.
    """
    build = build_of(user.workshop, build_id, lock=True)
    card = open_card(build)
    if card is None:
        raise Conflict("No job is begun on this build: begin one, then tick.")
    return build, card


@transaction.atomic
def say(user: User, build_id: int, said: CardSettings) -> JobCard:
    """Say of a card what is in the way, which school, what else is to be done.

    Raises
    ------
    NotFound, Conflict
    """
    _, card = locked_card(user, build_id)
    card.said = said.model_dump(mode="json")
    card.save(update_fields=["said"])
    return card


def is_kept(card: JobCard, client_id: str) -> bool:
    """Whether what was entered under that id is kept already."""
    return card.entries.filter(client_id=client_id).exists()


def keep(
    user: User, card: JobCard, state: BuildState, entry: AnyEntry, client_id: str, at: datetime
) -> None:
    """Keep one entry; whoever calls has asked whether it is let.

    Raises
    ------
    InvalidInput
        If there are too many.
    """
    if card.entries.count() >= MOST_ENTRIES:
        raise InvalidInput([Problem("entries", f"{MOST_ENTRIES} are the most of one card")])
    CardEntry.objects.create(
        card=card, client_id=client_id, state=state, data=entry.model_dump(mode="json"),
        made_by=user, happened_at=at,
    )  # fmt: skip


def close(user: User, build: Build, card: JobCard) -> None:
    """Close a card; the car is in the state that was built from then on."""
    assert build.current is not None
    card.built, card.closed_by, card.closed_at = build.current, user, timezone.now()
    card.save()
    build.as_is = build.current
    build.save(update_fields=["as_is", "changed_at"])
