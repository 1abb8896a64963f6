"""What Options is told."""

from __future__ import annotations

from accounts.models import Workshop
from bilge_core.quantities import UnitSystem
from bilge_core.tell.differences import differences_out
from bilge_core.tell.remedies import build_of as built
from builds.selectors import build_of, plain_document
from config.errors import NotFound
from studies.basis import document_of
from studies.selectors import latest_of, study_out
from studies.services import candidate_of

from stages.options.schemas import LatestStudyOut, RemedyOut


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
    made = built(document_of(study.state), told)
    was = plain_document(study.state)
    now = was if made is None else made.model_dump(mode="json")
    return RemedyOut(
        key=key, title=told.title, words=told.words, differences=differences_out(was, now, system)
    )
