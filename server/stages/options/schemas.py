"""What Options asks and is told beside the study itself."""

from __future__ import annotations

from bilge_core.tell.differences import DifferenceOut
from ninja import Schema
from studies.schemas import SearchOut, StudyOut


class LatestStudyOut(Schema):
    """The newest study of a build; null before the first."""

    study: StudyOut | None
    has_lap: bool


class LatestSearchOut(Schema):
    """The newest search of a kind; null before the first."""

    search: SearchOut | None


class RemedyOut(Schema):
    """What a remedy would change in the document, in words."""

    key: str
    title: str
    words: str
    differences: list[DifferenceOut]
