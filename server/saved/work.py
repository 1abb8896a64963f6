"""What was done on a build, to and from a file: job cards, fit rounds, how far the order is."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any, TypeVar

from accounts.models import User
from bilge_core.agreement.fit_entries import read_offered
from bilge_core.document.read import write_build
from bilge_core.document.sealed import named_in
from bilge_core.document.work_file import (
    BesidesInFile,
    CardInFile,
    EntryInFile,
    PartInFile,
    TickInFile,
    WorkInFile,
)
from bilge_core.errors import InvalidInput, Problem
from bilge_core.job.entries import read_entry
from bilge_core.job.settings import CardSettings
from builds import photos
from builds.models import Build, BuildState
from django.db.models import QuerySet
from pydantic import BaseModel, ValidationError
from records.models import CardEntry, Entry, FitEntry, JobCard
from shop.models import BoughtBesides, OrderTick, OwnPart
from shop.schemas import OwnPartIn
from shop.services import is_known, set_own_part

E = TypeVar("E", bound=Entry)
_FILE = "work.json"


def work_of(build: Build) -> WorkInFile:
    """All that was done on a build; states by their own numbers."""
    assert build.current is not None
    return WorkInFile(
        shown=build.current.number,
        car_in=build.as_is.number if build.as_is else None,
        cards=[_card(each) for each in build.job_cards.select_related("begun_on", "built")],
        fits=_entries(build.fit_entries.all()),
        order=[
            TickInFile(part=t.part, state=t.state, count=t.count, by=t.by, at=t.ticked_at)
            for t in build.order_ticks.select_related("ticked_by").order_by("part")
        ],
        besides=[
            BesidesInFile(part=row.part, count=row.count, why=row.why)
            for row in build.bought_besides.all()
        ],
        parts=_parts(build),
    )


def _parts(build: Build) -> list[PartInFile]:
    """Parts of the workshop's own that the order has, or that a line is screwed together with."""
    assert build.current is not None
    runs = build.current.read.circuit.runs
    wanted = {key for run in runs for end in (run.start, run.end) for key in end.fittings}
    wanted |= set(build.order_ticks.values_list("part", flat=True))
    wanted |= set(build.bought_besides.values_list("part", flat=True))
    fields = [name for name in PartInFile.model_fields if name != "key"]
    rows = OwnPart.objects.filter(workshop=build.workshop, key__in=wanted).order_by("key")
    return [PartInFile(**row) for row in rows.values("key", *fields)]


def _card(card: JobCard) -> CardInFile:
    return CardInFile(
        number=card.number, said=card.said, begun_on=card.begun_on.number,
        begun_by=card.who_began, begun_at=card.begun_at,
        built=card.built.number if card.built else None, closed_by=card.who_closed,
        closed_at=card.closed_at, entries=_entries(card.entries.all()),
    )  # fmt: skip


def _entries(rows: QuerySet[Any]) -> list[EntryInFile]:
    return [
        EntryInFile(
            client_id=row.client_id, by=row.by, at=row.happened_at, state=row.state.number,
            entry=row.data,
        )
        for row in rows.select_related("made_by", "state")
    ]  # fmt: skip


def photos_in(work: WorkInFile) -> set[str]:
    """Tokens of the photos that were taken on the way."""
    rows = [*work.fits, *(each for card in work.cards for each in card.entries)]
    return {token for row in rows for token in row.entry.get("photos", [])}


def states_of(build: Build, work: WorkInFile) -> dict[int, bytes]:
    """Documents of the states that are spoken of, but for the one shown."""
    rows = build.states.filter(number__in=work.states - {work.shown})
    return {row.number: write_build(row.read).encode() for row in rows}


def keep_work(
    user: User,
    build: Build,
    work: WorkInFile,
    states: Mapping[int, BuildState],
    tokens: Mapping[str, str],
) -> None:
    """Keep what a file says was done on a build.

    Parameters
    ----------
    user : User
        Who brings it in; whose hand it was stays as it is told.
    build : Build
    work : WorkInFile
    states : of the build, by their numbers in the file
    tokens : of photos, by what the file calls them

    Raises
    ------
    InvalidInput
        Naming what is at fault.
    """
    if work.car_in is not None:
        build.as_is = states[work.car_in]
        build.save(update_fields=["as_is"])
    _once([card.number for card in work.cards], "cards")
    if sum(card.closed_at is None for card in work.cards) > 1:
        raise InvalidInput([Problem(f"{_FILE}.cards", "has two that are open; one is the most")])
    for at, card in enumerate(work.cards):
        _keep_card(user, build, card, f"cards.{at}", states, tokens)
    _keep_entries(FitEntry, {"build": build}, user, work.fits, "fits", read_offered, states, tokens)
    for at, part in enumerate(work.parts):
        _keep_part(user, part, f"parts.{at}")
    _once([row.part for row in work.order], "order")
    OrderTick.objects.bulk_create(
        OrderTick(
            build=build, part=row.part, state=row.state, count=row.count, ticked_by=user,
            ticked_at=row.at, hand=row.by,
        )
        for row in work.order
    )  # fmt: skip
    _once([row.part for row in work.besides], "besides")
    BoughtBesides.objects.bulk_create(
        BoughtBesides(build=build, part=row.part, count=row.count, why=row.why)
        for row in work.besides
    )


def _once(keys: Sequence[object], where: str) -> None:
    if len(set(keys)) < len(keys):
        raise InvalidInput([Problem(f"{_FILE}.{where}", "has one of them twice")])


def _keep_part(user: User, part: PartInFile, where: str) -> None:
    """A part that the workshop has not yet; what it has of that key stays as it says it."""
    if is_known(user.workshop, part.key):
        return
    try:
        set_own_part(user.workshop, part.key, OwnPartIn(**part.model_dump(exclude={"key"})))
    except ValidationError as error:
        raise InvalidInput([named_in(error, f"{_FILE}.{where}")]) from None
    except InvalidInput as error:
        faults = [Problem(f"{_FILE}.{where}.{p.field}", p.message) for p in error.problems]
        raise InvalidInput(faults) from None


def _keep_card(
    user: User, build: Build, card: CardInFile, where: str,
    states: Mapping[int, BuildState], tokens: Mapping[str, str],
) -> None:  # fmt: skip
    is_closed = card.closed_at is not None
    if is_closed != (card.built is not None):
        wrong = "must say both when it was closed and the state built, or neither"
        raise InvalidInput([Problem(f"{_FILE}.{where}", wrong)])
    try:
        said = CardSettings.model_validate(card.said)
    except ValidationError as error:
        raise InvalidInput([named_in(error, f"{_FILE}.{where}.said")]) from None
    kept = JobCard.objects.create(
        build=build, number=card.number, said=said.model_dump(mode="json"),
        begun_on=states[card.begun_on], begun_by=user, begun_at=card.begun_at,
        begun_hand=card.begun_by, built=states[card.built] if card.built else None,
        closed_by=user if is_closed else None, closed_at=card.closed_at,
        closed_hand=card.closed_by,
    )  # fmt: skip
    _keep_entries(
        CardEntry,
        {"card": kept},
        user,
        card.entries,
        f"{where}.entries",
        read_entry,
        states,
        tokens,
    )


def _keep_entries(
    model: type[E], of: Mapping[str, Any], user: User, rows: Sequence[EntryInFile], where: str,
    read: Callable[[Any, str], BaseModel], states: Mapping[int, BuildState],
    tokens: Mapping[str, str],
) -> None:  # fmt: skip
    _once([row.client_id for row in rows], where)
    model._default_manager.bulk_create(
        model(
            **of, client_id=row.client_id, state=states[row.state], made_by=user, hand=row.by,
            happened_at=row.at,
            data=photos.renamed(
                read(row.entry, f"{_FILE}.{where}.{at}.entry").model_dump(mode="json"), tokens
            ),
        )
        for at, row in enumerate(rows)
    )  # fmt: skip
