"""What an act is: a change of a build as data, and what it did in words."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Annotated, Any

from pydantic import Field, WithJsonSchema

from bilge_core.document.build import Build
from bilge_core.document.ids import Document, ids_of, last_number, with_ids
from bilge_core.document.parts import Part
from bilge_core.document.read import build_from
from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.pan import assemble_pan

MOST_TYPED = 40
"""Letters of a length as it is typed."""

_AS_TYPED = WithJsonSchema(
    {
        "anyOf": [{"type": "number"}, {"type": "string", "maxLength": MOST_TYPED}],
        "description": "in the unit that ends its name, or as typed with any unit of its kind",
    }
)

Length = Annotated[float, _AS_TYPED]
"""A length [mm] of an act; `bilge_core.acts.registry` reads it as typed too."""

Angle = Annotated[float, _AS_TYPED]
"""An angle [deg] of an act."""

Typed = Annotated[float, Field(gt=0), _AS_TYPED]
"""A positive figure of an act in the unit that its name ends in; read as typed too."""


def most(part: type[Part], field: str) -> float:
    """The greatest that a figure may be: an act's is the document's.

    Parameters
    ----------
    part : type of Part
        Where the figure goes.
    field : str

    Raises
    ------
    ValueError
        If the document sets it no such limit.

    Examples
    --------
    >>> from bilge_core.document.circuit.feeding import Accumulator
    >>> most(Accumulator, "volume_l")
    20
    """
    return _limit(part, field, "le")


def least(part: type[Part], field: str) -> float:
    """The least that a figure may be: an act's is the document's.

    Raises
    ------
    ValueError
        If the document sets it no such limit.

    Examples
    --------
    >>> from bilge_core.document.circuit.feeding import Thermostat
    >>> least(Thermostat, "opens_c")
    20
    """
    return _limit(part, field, "ge")


def _limit(part: type[Part], field: str, which: str) -> float:
    for rule in part.model_fields[field].metadata:
        found: float | None = getattr(rule, which, None)
        if found is not None:
            return found
    raise ValueError(f"{part.__name__}.{field} has no limit of that kind ({which})")


@dataclass(frozen=True)
class Done:
    """The changed build, and what was done in words for the history."""

    build: Build
    words: str


class Act(Part):
    """A change of a build as data. A subclass says its kind, its figures and how it is done.

    The same act comes from a button, a check's mend, the command box or a search for remedies.
    """

    typed: dict[str, str] = Field(
        default={}, description="its figures as they were typed, for the words alone"
    )

    def said(self, field: str, unit: str = "mm") -> str:
        """A figure as it was typed, or with its unit, to the hundredth.

        Examples
        --------
        >>> from bilge_core.acts.deepen import Spacer
        >>> spacer = Spacer(kind="spacer", by_mm=6.35)
        >>> spacer.said("by_mm")
        '6.35 mm'
        >>> spacer.model_copy(update={"typed": {"by_mm": " 1/4 in"}}).said("by_mm")
        '1/4 in'
        >>> spacer.model_copy(update={"by_mm": 7.14375}).said("by_mm")
        '7.14 mm'
        """
        return self.typed.get(field, f"{round(getattr(self, field), 2):g} {unit}").strip()

    def done(self, build: Build) -> Done:
        """Do it.

        Raises
        ------
        InvalidInput
            With the act's field named, or the build's that would not hold together.
        """
        raise NotImplementedError


def build_with(build: Build, document: Document) -> Build:
    """A build from the changed plain data of another; new parts get ids that it never gave.

    Raises
    ------
    InvalidInput
        If it does not hold together or its pan cannot be assembled, with the field named.
    """
    before = build.model_dump(mode="json")
    given, _ = with_ids(document, last_number(before), ids_of(before))
    made = build_from(given)
    assemble_pan(made)
    return made


def place_of(build: Build, part: str, field: str) -> list[str | int]:
    """Where a part of a build stands in its document, by its id.

    Raises
    ------
    InvalidInput
        Naming the act's field, if there is no such part.
    """
    path = ids_of(build.model_dump()).get(part)
    if path is None:
        raise InvalidInput([Problem(field, f"is no part of this build ({part[:20]!r})")])
    return [int(step) if step.isdigit() else step for step in path.split(".")]


def at(document: Any, path: list[str | int]) -> Any:
    """What stands at a path of plain data."""
    for step in path:
        document = document[step]
    return document


@contextmanager
def figures_named(**fields: str) -> Iterator[None]:
    """Refusals of the core's functions, told by the act's own fields.

    Examples
    --------
    >>> with figures_named(amount="by_mm"):
    ...     raise InvalidQuantity("amount", 0.0, "not nil")
    Traceback (most recent call last):
    ...
    bilge_core.errors.InvalidInput: by_mm: must be not nil (it is 0.0)
    """
    try:
        yield
    except InvalidQuantity as error:
        field = fields.get(error.name, error.name)
        words = f"must be {error.requirement} (it is {error.value})"
        raise InvalidInput([Problem(field, words)]) from None
