"""Reads of builds, always within a workshop."""

from __future__ import annotations

from datetime import datetime
from functools import lru_cache
from typing import Any

from accounts.models import Workshop
from bilge_core.document.build import Build as BuildDocument
from bilge_core.document.reach import as_felt
from bilge_core.document.spacer import without_spacer
from bilge_core.quantities import UnitSystem
from bilge_core.tell.differences import DifferenceOut, differences_out
from config.errors import NotFound
from django.db.models import QuerySet
from loads.models import Lap

from builds.models import Build, BuildState, Revision
from builds.schemas import BuildOut, Part, RevisionOut, StateOut

MOST_STATES = 200
"""Of a build's history, how many of the newest are listed."""


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
    # unlocked with its lap as it is at this moment: another may remove it before it is looked at
    rows = Build.objects.select_for_update() if lock else builds_of(workshop)
    build = rows.filter(workshop=workshop, pk=build_id, current__isnull=False).first()
    if build is None:
        raise NotFound("build")
    build.workshop = workshop  # no further read for it
    return build


def state_of(workshop: Workshop, build_id: int, number: int) -> BuildState:
    """One state of a build of a workshop.

    Raises
    ------
    NotFound
    """
    state = build_of(workshop, build_id).states.filter(number=number).first()
    if state is None:
        raise NotFound("state of this build")
    return state


def laps_of(build: Build) -> list[Lap]:
    """The laps that a build is judged by, the one shown first."""
    rows = build.judged_by.select_related("lap").defer("lap__samples")
    laps = [row.lap for row in rows]
    return sorted(laps, key=lambda lap: lap.pk != build.lap_id)


def redo_state(state: BuildState) -> BuildState | None:
    """The newest state made from this one, if any."""
    return state.children.filter(aside=False).order_by("-number").first()


def _way_to(build: Build) -> list[int]:
    """Keys of the states from the one shown back to the first."""
    parents = dict(build.states.values_list("pk", "parent_id"))
    way, here = [], build.current_id
    while here is not None:
        way.append(here)
        here = parents[here]
    return way


def stands_on(build: Build, number: int | None) -> bool:
    """Whether a build as it stands came by the state of a number; not once that was undone."""
    if number is None:
        return False
    return build.states.filter(pk__in=_way_to(build), number=number).exists()


def revision_out(revision: Revision) -> RevisionOut:
    """A revision as it crosses the boundary."""
    return RevisionOut(number=revision.number, name=revision.name, state=revision.state.number)


def revision_of(build: Build) -> RevisionOut | None:
    """The last named state on the way to the one shown."""
    named = {r.state_id: r for r in build.revisions.select_related("state")}
    found = next((named[key] for key in _way_to(build) if key in named), None)
    return revision_out(found) if found else None


def history_of(build: Build) -> list[StateOut]:
    """The newest states of a build, newest first, and every named one."""
    way = set(_way_to(build))
    named = {r.state_id: revision_out(r) for r in build.revisions.select_related("state")}
    states = build.states.select_related("made_by", "parent").defer("document", "parent__document")
    newest = states.order_by("-number")[:MOST_STATES]
    rows = {state.pk: state for state in [*newest, *states.filter(pk__in=named)]}
    return [
        StateOut(
            number=state.number,
            parent=state.parent.number if state.parent else None,
            change=state.change,
            made_by=state.made_by.username,
            made_at=state.made_at,
            on_way=state.pk in way,
            aside=state.aside,
            revision=named.get(state.pk),
        )
        for state in sorted(rows.values(), key=lambda each: -each.number)
    ]


def differences_between(
    workshop: Workshop, build_id: int, before: int, after: int, system: UnitSystem
) -> list[DifferenceOut]:
    """What is to be built to get from one state of a build to another.

    Raises
    ------
    NotFound
    """
    states = [state_of(workshop, build_id, number) for number in (before, after)]
    was, now = (plain_document(state) for state in states)
    return differences_out(was, now, system)


def document_of(build: Build) -> BuildDocument:
    """The document as it stands."""
    assert build.current is not None
    return build.current.read


def plain_document(state: BuildState) -> dict[str, Any]:
    """A state's document as plain data, with all of today's fields."""
    return state.read.model_dump(mode="json")


FROM_TEMPLATE = "from a template"
"""What the first state of a build from a template says."""


def invented_parts(build: Build) -> list[Part]:
    """The parts of the document that are a template's still: nobody measured them."""
    assert build.current is not None
    first = build.states.filter(number=1, change=FROM_TEMPLATE).first()
    if first is None:
        return []
    now, then = (as_felt(plain_document(state)) for state in (build.current, first))
    parts: tuple[Part, ...] = ("car", "oil", "pan", "pickup", "pump")
    way = (build.pk, first.pk, build.current.pk, build.current.made_at)

    def is_as_it_was(part: Part) -> bool:
        if part == "car":
            return _measured(now[part]) == _measured(then[part])
        if part != "pan":
            return bool(now[part] == then[part])
        return _zones_are(now[part], then[part]) or not _was_told(*way)

    return [part for part in parts if is_as_it_was(part)]


def _measured(car: dict[str, Any]) -> dict[str, Any]:
    """A car without what stands at a usual place: to put that in measured nothing."""
    crank = car["crank"]
    return {
        **car,
        "crank": None if crank and crank.get("assumed") else crank,
        "keep_outs": [each for each in car["keep_outs"] if not each.get("assumed")],
    }


def _zones_are(now: dict[str, Any], then: dict[str, Any]) -> bool:
    """Whether a pan has the zones that it had, whatever was fitted to or under them since."""
    spacer = now["spacer_mm"] - then["spacer_mm"]
    zones = [without_spacer(zone, spacer) for zone in now["zones"]]
    return now["skirt_height_mm"] == then["skirt_height_mm"] and all(
        without_spacer(zone, 0.0) in zones for zone in then["zones"]
    )


_PANS_FIGURES = ("pan.zones.", "pan.skirt_height_mm")


def tells_the_pan(act: dict[str, Any]) -> bool:
    """Whether an act says what the pan is: its figures typed, or a scan of it read."""
    if act["kind"] != "figures":
        return bool(act["kind"] == "pan_from_scan")
    return any(each["field"].startswith(_PANS_FIGURES) for each in act["figures"])


@lru_cache(maxsize=2048)  # states are never changed; of a database that is filled anew, their time
def _was_told(build: int, first: int, last: int, _made_at: datetime) -> bool:
    """Whether anybody told the pan between two states: typed its figures, drew or scanned it.

    What an act makes of it, shallower for a dry sump, cut out or deeper, measures nothing.
    """
    rows = BuildState.objects.filter(build=build).values_list("pk", "parent", "act")
    made = {pk: (parent, act) for pk, parent, act in rows}
    at: int | None = last
    while at is not None and at != first:
        parent, act = made[at]
        if act is None:  # its document was replaced
            states = BuildState.objects.in_bulk([at, parent])
            now, then = (as_felt(plain_document(states[pk]))["pan"] for pk in (at, parent))
            if not _zones_are(now, then):
                return True
        elif tells_the_pan(act):
            return True
        at = parent
    return False


def _joined(state: BuildState) -> str | None:
    """What others had changed when this state's edit was laid on top of theirs, in words."""
    if state.made_on_id in (None, state.parent_id):
        return None
    others, each = [], state.parent
    while each is not None and each.pk != state.made_on_id:
        others.append(each)
        each = each.parent
    if each is None:  # they had gone back instead
        return f"The build was taken back to state {others[0].number} meanwhile; yours is on it."
    changes = ", ".join(f"{other.change} ({other.made_by.username})" for other in reversed(others))
    return f"Meanwhile, by others: {changes}. Yours is on top."


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
        joined=_joined(current),
        as_is=build.as_is.number if build.as_is else None,
        lap_id=build.lap_id,
        lap_name=build.lap.name if build.lap else None,
        judged_by=list(build.judged_by.values_list("lap_id", flat=True)),
        revision=revision_of(build),
        document=document_of(build),
        invented=invented_parts(build),
        changed_at=build.changed_at,
    )
