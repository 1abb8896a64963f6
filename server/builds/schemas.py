"""Builds as they cross the boundary."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from bilge_core.acts.registry import AnyAct, read_act
from bilge_core.document.build import Build as BuildDocument
from bilge_core.document.parts import Name, Seen
from bilge_core.quantities import UnitSystem
from ninja import Schema
from pydantic import BeforeValidator, Field, StringConstraints, ValidationInfo

Part = Literal["car", "oil", "pan", "pickup", "pump"]
"""Of a build's document, what a builder measures or reads off."""


class TemplateOut(Schema):
    """A document to begin from; its numbers are invented."""

    key: str
    name: str
    words: str


class NewBuildIn(Schema):
    """A new build from a template."""

    template: str = Field(max_length=40)
    name: Name


class DocumentIn(Schema):
    """An edit of the whole document, for adding and removing parts."""

    base_state: int
    document: dict[str, Any]
    change: str = Field(min_length=1, max_length=200)


def _read(act: Any, told: ValidationInfo) -> AnyAct:
    """An act, its figures as typed in the unit system that is told before it."""
    return read_act(act, told.data.get("system", "metric"))


class ActIn(Schema):
    """An act on `base_state`: figures as numbers in the unit of their names, or as typed."""

    base_state: int
    system: UnitSystem
    act: Annotated[AnyAct, BeforeValidator(_read)]


class PhotoOut(Schema):
    """A photo kept, by its token."""

    token: str


class MoveIn(Schema):
    """Undo or redo, made on `base_state`."""

    base_state: int


class ShowIn(Schema):
    """Show another state of the build, made on `base_state`."""

    base_state: int
    state: int


class AsIsIn(Schema):
    """The state that the car is in, null for none of them; said on `base_state`."""

    base_state: int
    state: int | None


class RevisionIn(Schema):
    """A name for the state shown."""

    base_state: int
    name: Annotated[str, StringConstraints(min_length=1, max_length=60), Seen]


class RevisionOut(Schema):
    """A named state; `state` is its number."""

    number: int
    name: str
    state: int


class StateOut(Schema):
    """One state of a build. `on_way`: shown, or on the way from the first to the one shown."""

    number: int
    parent: int | None
    change: str
    made_by: str
    made_at: datetime
    on_way: bool
    aside: bool
    revision: RevisionOut | None


class ChooseLapIn(Schema):
    """The lap to show, among those to judge by; null for none; chosen on `base_state`."""

    base_state: int
    lap_id: int | None


class JudgeIn(Schema):
    """The laps that a build is judged by, all of them; chosen on `base_state`."""

    base_state: int
    lap_ids: list[int] = Field(max_length=1000)


class BuildOut(Schema):
    """A build as it stands; `revision` is the last named state on the way to it.

    `lap_id` is shown, `judged_by` has all laps it is judged by. `invented` names the parts that
    are a template's numbers still; `joined` says what others had changed when the last edit was
    laid on top of theirs.
    """

    id: int
    name: str
    state: int
    undo: str | None
    redo: str | None
    joined: str | None
    as_is: int | None
    """The state that the car is in."""
    lap_id: int | None
    lap_name: str | None
    judged_by: list[int]
    revision: RevisionOut | None
    document: BuildDocument
    invented: list[Part]
    changed_at: datetime
