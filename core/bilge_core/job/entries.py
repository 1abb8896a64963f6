"""What happens on a card, entry by entry: kept once, never changed, taken back by another entry."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, TypeAdapter

from bilge_core.document.parts import Part
from bilge_core.document.problems import read_kept
from bilge_core.job.settings import PartId

StepId = Annotated[str, Field(pattern=r"^[a-z_.]{1,60}(:[a-z]{1,12}[0-9]{0,9})?$")]
Token = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{8,40}$")]
Words = Annotated[str, Field(max_length=2000)]


class Ticked(Part):
    """A step is done."""

    kind: Literal["ticked"]
    step: StepId
    words: Annotated[str, Field(max_length=200)] = ""


class Unticked(Part):
    """It is not: taken back."""

    kind: Literal["unticked"]
    step: StepId


class BoltTight(Part):
    """One bolt of a pattern, in one pass."""

    kind: Literal["bolt_tight"]
    step: StepId
    bolt: int = Field(ge=0, lt=120)
    in_pass: int = Field(default=1, ge=1, le=3)


class BoltLoose(Part):
    """Taken back."""

    kind: Literal["bolt_loose"]
    step: StepId
    bolt: int = Field(ge=0, lt=120)
    in_pass: int = Field(default=1, ge=1, le=3)


class WaitOver(Part):
    """A wait is over before its time, and why."""

    kind: Literal["wait_over"]
    step: StepId
    why: Annotated[str, Field(min_length=3, max_length=500)]


class Overridden(Part):
    """A gate is passed without being done. The reason stays."""

    kind: Literal["overridden"]
    step: StepId
    why: Annotated[str, Field(min_length=8, max_length=500)]


class Noted(Part):
    """Words or photos to a step."""

    kind: Literal["noted"]
    step: StepId
    words: Words = ""
    photos: list[Token] = Field(default=[], max_length=12)


class FoundBad(Part):
    """A part was found bad: its steps stop until it is back."""

    kind: Literal["found_bad"]
    part: PartId
    words: Annotated[str, Field(min_length=3, max_length=500)]
    wait_days: float = Field(default=7.0, ge=0, le=365, description="until it is back")
    photos: list[Token] = Field(default=[], max_length=12)


class PutRight(Part):
    """It was not bad after all, or was mended at once."""

    kind: Literal["put_right"]
    part: PartId
    words: Words = ""


AnyEntry = Annotated[
    Ticked | Unticked | BoltTight | BoltLoose | WaitOver | Overridden | Noted | FoundBad | PutRight,
    Field(discriminator="kind"),
]
_ENTRIES: TypeAdapter[AnyEntry] = TypeAdapter(AnyEntry)


def read_entry(raw: Any, field: str = "entry") -> AnyEntry:
    """An entry from plain data.

    Raises
    ------
    InvalidInput
        With every faulty field named.

    Examples
    --------
    >>> read_entry({"kind": "ticked", "step": "drain"}).step
    'drain'
    >>> read_entry({"kind": "overridden", "step": "stands", "why": "no"})
    Traceback (most recent call last):
    ...
    bilge_core.errors.InvalidInput: entry.why: string should have at least 8 characters (it is 'no')
    """
    return read_kept(_ENTRIES, raw, field)
