"""Studies as they cross the boundary."""

from __future__ import annotations

from typing import Annotated, Any

from bilge_core.acts.registry import AnyAct, read_act
from bilge_core.options.search import What
from bilge_core.quantities import UnitSystem
from bilge_core.tell.options import OptionsOut, Status
from ninja import Schema
from pydantic import BeforeValidator, Field, ValidationInfo

MOST_OWN = 8
"""Remedies of the builder's own in one study."""


def _read(act: Any, told: ValidationInfo) -> AnyAct:
    """An act, its figures as typed."""
    return read_act(act, told.data.get("system", "metric"))


class OwnIn(Schema):
    """A remedy of the builder's own: edits of the build."""

    system: UnitSystem = "metric"
    title: str = Field(min_length=1, max_length=80)
    acts: list[Annotated[AnyAct, BeforeValidator(_read)]] = Field(min_length=1, max_length=12)


class StudyIn(Schema):
    """A study to begin: what is switched off, and what is the builder's own."""

    off: list[Annotated[str, Field(max_length=120)]] = Field(default=[], max_length=60)
    own: list[OwnIn] = Field(default=[], max_length=MOST_OWN)


class OwnOut(Schema):
    """A remedy of the builder's own, as it was given."""

    title: str
    system: UnitSystem
    acts: list[AnyAct]


class ProgressOut(Schema):
    """How far a study is."""

    status: Status
    reason: str
    ready: bool
    """Its remedies are worked out."""
    base_reached: float
    """Share of the build's own run that is done."""
    trials_done: int
    trials_known: int
    now: list[str]
    """What is being run, in words."""
    cpu_s: float
    wall_s: float


class StudyOut(Schema):
    """A study of a build: its progress and its table."""

    id: int
    state: int
    is_current: bool
    """Of the build as it stands, over the laps that it is judged by."""
    laps: list[str]
    off: list[str]
    off_titles: dict[str, str]
    """Of those switched off, by their keys."""
    own: list[OwnOut]
    progress: ProgressOut
    options: OptionsOut | None
    """Null while its remedies are worked out."""


class SearchIn(Schema):
    """What is looked for on a grid."""

    what: What


class PlaceOut(Schema):
    """A place of a search, and what it gave over the worst windows."""

    key: str
    across_mm: float
    up_mm: float
    reason: str
    """Why it does not apply."""
    dry_s: float | None
    under_s: float | None
    starts: int
    alike: bool
    """Starts do not tell it from the best."""


class SearchOut(Schema):
    """A search: its grid, and the best place of it so far."""

    what: What
    state: int
    is_current: bool
    progress: ProgressOut
    across_label: str
    up_label: str
    places: list[PlaceOut]
    best: str | None


class ApplyIn(Schema):
    """A remedy to apply as a revision."""

    base_state: int
    key: str = Field(max_length=120)


class TraceOut(Schema):
    """The worst of each tenth of a second; where there is a gap, nothing was run."""

    time_s: list[float]
    bar: list[float]
    gas: list[float]


class OverLapOut(Schema):
    """A remedy over a lap beside the build as it is."""

    lap: str
    duration_s: float
    own: TraceOut
    remedy: TraceOut
    rung_words: str
    dry_above: float
    """Share of gas with which the mouth is dry."""
