"""Test fits: what was entered while parts were offered up."""

from __future__ import annotations

from datetime import datetime

from accounts.models import User
from bilge_core.agreement.fit_entries import AnyOffered, read_offered
from bilge_core.agreement.offered import Entered
from bilge_core.document.reach import felt_by
from bilge_core.document.work_file import MOST_ENTRIES
from bilge_core.errors import InvalidInput, Problem
from builds.models import Build, BuildState

from records.models import FitEntry


def entries_of(build: Build) -> tuple[Entered, ...]:
    """All that was entered, in the order kept."""
    rows = build.fit_entries.select_related("made_by", "state")
    return tuple(
        Entered(read_offered(row.data), row.by, row.happened_at, row.state.number) for row in rows
    )


def same_gaps(build: Build) -> frozenset[int]:
    """Numbers of the states that were entered on whose gaps are those of the state shown."""
    assert build.current is not None
    numbers = set(build.fit_entries.values_list("state__number", flat=True))
    now = _felt(build.current)
    return frozenset(
        state.number for state in build.states.filter(number__in=numbers) if _felt(state) == now
    ) | {build.current.number}


def _felt(state: BuildState) -> object:
    plain = state.read.model_dump(mode="json")
    circuit = plain["circuit"]
    tanks = [part for part in circuit["components"] if part["kind"] == "tank"]
    return (
        felt_by("clearance", plain),
        tanks,
        [(run["id"], run["route"]) for run in circuit["runs"]],
    )


def is_kept(build: Build, client_id: str) -> bool:
    """Whether what was entered under that id is kept already."""
    return build.fit_entries.filter(client_id=client_id).exists()


def keep(user: User, build: Build, entry: AnyOffered, client_id: str, at: datetime) -> None:
    """Keep one entry; whoever calls has asked whether it is let.

    Raises
    ------
    InvalidInput
        If there are too many.
    """
    if build.fit_entries.count() >= MOST_ENTRIES:
        raise InvalidInput([Problem("entries", f"{MOST_ENTRIES} are the most of one build")])
    assert build.current is not None
    FitEntry.objects.create(
        build=build, client_id=client_id, state=build.current, made_by=user, happened_at=at,
        data=entry.model_dump(mode="json"),
    )  # fmt: skip
