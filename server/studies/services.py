"""Asking for studies, cancelling them, waking those whose workers are gone, applying a remedy."""

from __future__ import annotations

from typing import Any

from accounts.models import User, Workshop
from bilge_core.acts.registry import read_act
from bilge_core.document.read import build_from
from bilge_core.errors import InvalidInput, Problem
from bilge_core.options.search import LABELS, What
from bilge_core.tell.remedies import CandidateKept
from builds.models import Build
from builds.schemas import RevisionIn
from builds.selectors import build_of
from builds.services import name_revision
from builds.states import make_state
from config.errors import Conflict, NotFound
from django.db import transaction
from django.db.models.functions import Now
from loads.models import Lap
from runs.felt import felt_in
from runs.long_jobs import end_those, for_each_core, wake_quiet
from runs.schemas import RunIn
from runs.selectors import over_laps
from runs.services import ask_for_run

from studies.basis import CELLS
from studies.growth import candidates_of
from studies.models import Study, StudyLap
from studies.schemas import StudyIn
from studies.selectors import UNDER_WAY, latest_of, search_of
from studies.tasks import enqueue

MOST_AT_ONCE = 3
"""Studies of one workshop under way: more would only wait."""


def _worst_first(build: Build) -> list[Lap]:
    """The laps that a build is judged by, that of the worst verdict first."""
    rows = {row.lap_id: row.lap for row in build.judged_by.select_related("lap")}
    return [rows[over.lap_id] for over in over_laps(build) if over.lap_id in rows]


@transaction.atomic
def ask_for_study(user: User, build_id: int, wanted: StudyIn) -> Study:
    """A study of a build as it stands: the one there is, or a new one in place of an older.

    Raises
    ------
    NotFound
    InvalidInput
        If the build has no lap, or too many studies are under way.
    """
    build = build_of(user.workshop, build_id, lock=True)
    laps = _worst_first(build)
    if not laps:
        raise InvalidInput([Problem("build_id", "has no lap to try remedies on; import one first")])
    off = sorted(set(wanted.off))
    own = [
        {
            "title": each.title,
            "system": each.system,
            "acts": [act.model_dump(mode="json") for act in each.acts],
        }
        for each in wanted.own
    ]
    last = latest_of(user.workshop, build_id)
    if last is not None and _is_the_same(last, build, laps) and (last.off, last.own) == (off, own):
        return last
    end_those(
        Study.objects.filter(build=build, search=""), Study.CANCELLED, "A newer one took its place."
    )
    return _begun(user, build, laps, off=off, own=own)


@transaction.atomic
def ask_for_search(user: User, build_id: int, what: What) -> Study:
    """A search on a build as it stands: the one there is, or a new one in place of an older.

    Raises
    ------
    NotFound
    InvalidInput
        If the build has no lap, or too many studies are under way.
    """
    build = build_of(user.workshop, build_id, lock=True)
    laps = _worst_first(build)
    if not laps:
        raise InvalidInput([Problem("build_id", "has no lap to try places on; import one first")])
    last = search_of(user.workshop, build_id, what)
    if last is not None and _is_the_same(last, build, laps):
        return last
    end_those(
        Study.objects.filter(build=build, search=what),
        Study.CANCELLED,
        "A newer one took its place.",
    )
    return _begun(user, build, laps, search=what)


def _is_the_same(last: Study, build: Build, laps: list[Lap]) -> bool:
    """Whether a study is of a build as it stands over its laps, and not ended before its time."""
    assert build.current is not None
    return (
        last.state_id == build.current_id
        and last.felt == felt_in(build.current, laps[0])
        and last.status in (*UNDER_WAY, Study.FINISHED)
        and [each.lap_id for each in last.over.all()] == [lap.pk for lap in laps]
    )


def _begun(user: User, build: Build, laps: list[Lap], **more: Any) -> Study:
    """A new study in the queue, and the build's own run that it rests on.

    Raises
    ------
    InvalidInput
        If too many are under way.
    """
    under_way = Study.objects.filter(workshop=user.workshop, status__in=UNDER_WAY).count()
    if under_way >= MOST_AT_ONCE:
        words = f"waits behind {MOST_AT_ONCE} studies; cancel one of them first"
        raise InvalidInput([Problem("build_id", words)])
    assert build.current is not None
    study = Study.objects.create(
        workshop=user.workshop, build=build, state=build.current, asked_by=user,
        felt=felt_in(build.current, laps[0]), stirred_at=Now(), **more,
    )  # fmt: skip
    StudyLap.objects.bulk_create(
        [StudyLap(study=study, lap=lap, place=place) for place, lap in enumerate(laps)]
    )
    ask_for_run(user, RunIn(build_id=build.pk, lap_id=laps[0].pk, cells=CELLS))
    transaction.on_commit(lambda: for_each_core(enqueue, study.pk))
    return study


def cancel_study(workshop: Workshop, build_id: int, search: str = "") -> None:
    """End a build's study, or one of its searches; what was tried stays.

    Raises
    ------
    NotFound
    """
    build = build_of(workshop, build_id)
    end_those(Study.objects.filter(build=build, search=search), Study.CANCELLED, "Cancelled.")


def wake() -> int:
    """Put studies whose workers are gone into the queue again; how many."""
    return wake_quiet(Study.objects, enqueue)


def candidate_of(study: Study, key: str) -> CandidateKept:
    """One remedy of a study.

    Raises
    ------
    NotFound
    """
    found = next((each for each in candidates_of(study) if each.key == key), None)
    if found is None:
        raise NotFound("remedy of this study")
    return found


def _offered(workshop: Workshop, build_id: int, key: str) -> CandidateKept:
    """A remedy of a build's newest study, or a place of its newest searches.

    Raises
    ------
    NotFound
    """
    searches = [search_of(workshop, build_id, what) for what in LABELS]
    for study in (latest_of(workshop, build_id), *searches):
        for each in candidates_of(study) if study else []:
            if each.key == key:
                return each
    raise NotFound("remedy of this build")


def apply_remedy(user: User, build_id: int, base_state: int, key: str) -> Build:
    """Do a remedy's acts as one edit, and name what comes of it as a revision.

    Raises
    ------
    NotFound
        If the build has no study with such a remedy.
    Conflict, InvalidInput
    """
    remedy = _offered(user.workshop, build_id, key)
    if not remedy.acts or remedy.reason:
        raise InvalidInput([Problem("key", remedy.reason or "changes nothing")])

    def change(document: dict[str, Any]) -> tuple[dict[str, Any], str]:
        build, words = build_from(document), []
        for raw in remedy.acts:
            done = read_act(raw).done(build)
            build = done.build
            words.append(done.words)
        return build.model_dump(mode="json"), ", ".join(words)

    try:
        with transaction.atomic():
            build = make_state(user, build_id, base_state, change)
            assert build.current is not None
            named = RevisionIn(base_state=build.current.number, name=remedy.title)
            return name_revision(user, build_id, named)
    except Conflict:
        # what was kept beside the newest state went with the transaction: keep it by itself
        return make_state(user, build_id, base_state, change)
