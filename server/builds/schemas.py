"""Builds as they cross the boundary."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from bilge_core.document.build import Build as BuildDocument
from bilge_core.document.parts import Name, Seen
from bilge_core.rules import Fix
from ninja import Schema
from pydantic import Field, StringConstraints

UnitSystem = Literal["metric", "us"]
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


class FigureIn(Schema):
    """A field's path in the document and what was typed for it."""

    field: str = Field(min_length=1, max_length=200, pattern=r"^[a-z_]+(\.[a-z0-9_]+)*$")
    typed: str = Field(max_length=20_000)


class FiguresIn(Schema):
    """An edit by figures: made on `base_state`, refused if the build has moved on."""

    base_state: int
    system: UnitSystem
    figures: list[FigureIn] = Field(min_length=1, max_length=50)


class DocumentIn(Schema):
    """An edit of the whole document, for adding and removing parts."""

    base_state: int
    document: dict[str, Any]
    change: str = Field(min_length=1, max_length=200)


class DeepenIn(Schema):
    """Lower the pan by a spacer, or some of its zones alone (null: a spacer under the rail)."""

    base_state: int
    system: UnitSystem
    typed: str = Field(min_length=1, max_length=40)
    zones: list[int] | None = Field(max_length=40)


class FixIn(Schema):
    """Mend what a check of the pan found, by the check's own field."""

    base_state: int
    fix: Fix
    field: str = Field(
        max_length=80,
        pattern=r"^pan\.plates\.\d+\.(from_mm|to_mm|openings\.\d+\.gate\.swings)$",
    )


class PresetIn(Schema):
    """Begin the pan anew with its sump somewhere else."""

    base_state: int
    place: Literal["front", "middle", "rear"]
    depth: str = Field(max_length=40)
    shelf: str = Field(max_length=40)
    system: UnitSystem


class FlangeIn(Schema):
    """A flange and holes round the rail."""

    base_state: int
    width: str = Field(max_length=40)
    spacing: str = Field(max_length=40)
    hole: str = Field(max_length=40)
    thickness: str = Field(max_length=40)
    system: UnitSystem


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
    """The lap to judge by, null for none; chosen on `base_state`."""

    base_state: int
    lap_id: int | None


class BuildOut(Schema):
    """A build as it stands; `revision` is the last named state on the way to it.

    `invented` names the parts that are a template's numbers still; `joined` says what others had
    changed when the last edit was laid on top of theirs.
    """

    id: int
    name: str
    state: int
    undo: str | None
    redo: str | None
    joined: str | None
    lap_id: int | None
    lap_name: str | None
    revision: RevisionOut | None
    document: BuildDocument
    invented: list[Part]
    changed_at: datetime
