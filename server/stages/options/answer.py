"""What Options is told."""

from __future__ import annotations

from accounts.models import Workshop
from bilge_core.errors import InvalidInput, Problem
from bilge_core.options.overfill import overfill_plan
from bilge_core.options.search import What
from bilge_core.quantities import UnitSystem
from bilge_core.tell.differences import differences_out
from bilge_core.tell.overfill import OverfillOut, overfill_out
from bilge_core.tell.remedies import build_of as built
from builds.selectors import build_of, document_of, plain_document
from config.errors import NotFound
from loads.services import corners_of, log_of
from studies.basis import document_of as document_in
from studies.over_lap import over_lap
from studies.schemas import OverLapOut
from studies.selectors import latest_of, search_of, search_out, study_out
from studies.services import candidate_of

from stages.options.page import study_page
from stages.options.schemas import LatestSearchOut, LatestStudyOut, RemedyOut


def latest(workshop: Workshop, build_id: int) -> LatestStudyOut:
    """The newest study of a build.

    Raises
    ------
    NotFound
    """
    study = latest_of(workshop, build_id)
    build = build_of(workshop, build_id)
    return LatestStudyOut(
        study=None if study is None else study_out(study), has_lap=build.judged_by.exists()
    )


def latest_search(workshop: Workshop, build_id: int, what: What) -> LatestSearchOut:
    """The newest search of a kind for a build.

    Raises
    ------
    NotFound
    """
    study = search_of(workshop, build_id, what)
    return LatestSearchOut(search=None if study is None else search_out(study))


def laid_over(workshop: Workshop, build_id: int, key: str) -> OverLapOut:
    """A remedy of the newest study over the worst lap.

    Raises
    ------
    NotFound
    InvalidInput
        If it was not run in moving oil yet.
    """
    study = latest_of(workshop, build_id)
    if study is None:
        raise NotFound("study of this build")
    return over_lap(workshop, study, key)


def overfill(workshop: Workshop, build_id: int) -> OverfillOut:
    """Oil above the mark over the build's lap, pour by pour.

    Raises
    ------
    NotFound
    InvalidInput
        If it has no lap, or its crank is not known.
    """
    build = build_of(workshop, build_id)
    if build.lap is None:
        raise InvalidInput([Problem("build_id", "has no lap to look at; import one first")])
    document, log = document_of(build), log_of(build.lap)
    return overfill_out(document, overfill_plan(document, log, corners_of(build.lap, log)))


def page(workshop: Workshop, build_id: int) -> bytes:
    """The newest study on one page.

    Raises
    ------
    NotFound
        If there is none with remedies made ready.
    """
    study = latest_of(workshop, build_id)
    told = None if study is None else study_out(study)
    if told is None or told.options is None:
        raise NotFound("study of this build")
    return study_page(build_of(workshop, build_id).name, told, told.options)


def remedy(workshop: Workshop, build_id: int, key: str, system: UnitSystem) -> RemedyOut:
    """What one remedy of the newest study would change.

    Raises
    ------
    NotFound
    """
    study = latest_of(workshop, build_id)
    if study is None:
        raise NotFound("study of this build")
    told = candidate_of(study, key)
    made = built(document_in(study.state), told)
    was = plain_document(study.state)
    now = was if made is None else made.model_dump(mode="json")
    return RemedyOut(
        key=key, title=told.title, words=told.words, differences=differences_out(was, now, system)
    )
