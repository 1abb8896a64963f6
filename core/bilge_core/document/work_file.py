"""What was done on a car, as a saved build has it: job cards, fit rounds, the order's state.

What happened is kept as its own readers take it; here are its hand, its time and the state that it
was made on, which is a number in the file.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field

MOST_ENTRIES = 5000
"""That one card, the fit rounds of one build or its track book have."""
MOST_CARDS = 2000
"""Job cards of one build."""
MOST_BESIDES = 100
"""Parts of one order that no line takes."""
MOST_OWN = 500
"""Parts of a workshop's own in its catalogue."""

ClientId = Annotated[str, Field(pattern=r"^[0-9a-f]{8}-[0-9a-f-]{27}$")]
"""What a device names an entry by: the same one sent twice is one."""
Hand = Annotated[str, Field(max_length=150)]
Number = Annotated[int, Field(ge=1, le=999_999)]
PartKey = Annotated[str, Field(min_length=1, max_length=40)]
Count = Annotated[float, Field(gt=0, le=1e6)]


class InFile(BaseModel):
    """Part of a file: what it does not know is refused."""

    model_config = ConfigDict(extra="forbid")


class EntryInFile(InFile):
    """An entry with its hand, its time and the state that it was made on: a number in the file."""

    client_id: ClientId
    by: Hand
    at: AwareDatetime
    state: Number
    entry: dict[str, Any]


class CardInFile(InFile):
    """A job card, closed or not."""

    number: Annotated[int, Field(ge=1, le=10_000)]
    said: dict[str, Any]
    begun_on: Number
    begun_by: Hand
    begun_at: AwareDatetime
    built: Number | None = None
    closed_by: Hand = ""
    closed_at: AwareDatetime | None = None
    entries: Annotated[list[EntryInFile], Field(max_length=MOST_ENTRIES)] = []


class TickInFile(InFile):
    """How far a part of the order is."""

    part: PartKey
    state: Literal["have", "ordered", "arrived"]
    count: Count
    by: Hand
    at: AwareDatetime


class BesidesInFile(InFile):
    """A part bought besides what lines take."""

    part: PartKey
    count: Count
    why: Annotated[str, Field(max_length=80)] = ""


class PartInFile(InFile):
    """A part of the workshop's own that the build's order or lines have."""

    key: PartKey
    words: Annotated[str, Field(max_length=200)]
    per: Annotated[str, Field(max_length=40)]
    cost: float
    lead_days: int
    weight_kg: float = 0.0
    end_1: Annotated[str, Field(max_length=80)] = ""
    end_2: Annotated[str, Field(max_length=80)] = ""
    angle_deg: int = 0
    height_mm: float = 0.0
    spanner: Annotated[str, Field(max_length=80)] = ""


class WorkInFile(InFile):
    """All that was done on a build.

    shown : the state that is the document of the file
    car_in : the state that the car is in; null: nobody said
    parts : of the workshop's own, that the order or the lines have
    """

    shown: Number = 1
    car_in: Number | None = None
    cards: Annotated[list[CardInFile], Field(max_length=MOST_CARDS)] = []
    fits: Annotated[list[EntryInFile], Field(max_length=MOST_ENTRIES)] = []
    order: Annotated[list[TickInFile], Field(max_length=1000)] = []
    besides: Annotated[list[BesidesInFile], Field(max_length=MOST_BESIDES)] = []
    parts: Annotated[list[PartInFile], Field(max_length=MOST_OWN)] = []

    @property
    def is_empty(self) -> bool:
        """Nothing was done yet.

        Examples
        --------
        >>> WorkInFile().is_empty, WorkInFile(car_in=1).is_empty
        (True, False)
        """
        return self == WorkInFile(shown=self.shown)

    @property
    def states(self) -> set[int]:
        """Numbers of the states that it speaks of, the one shown among them.

        Examples
        --------
        >>> sorted(WorkInFile(shown=3, car_in=1).states)
        [1, 3]
        """
        entries = [each for card in self.cards for each in card.entries] + self.fits
        told = [self.shown, self.car_in, *(each.state for each in entries)]
        told += [number for card in self.cards for number in (card.begun_on, card.built)]
        return {number for number in told if number is not None}
