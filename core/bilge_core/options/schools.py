"""Where people of the trade disagree: both ways, with their own figures.

The default and the other school, and why the default is one: common practice, no published source.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class School:
    """A question, what Bilge takes by default, and the other way.

    question, why : str
    default, other : keys of the remedies that stand for them
    """

    question: str
    default: str
    other: str
    why: str


SCHOOLS = (
    School(
        "Check valve ahead of the accumulator's tee", "bottle", "bottle_open",
        "Fitted by default, so that the charge goes to the engine and not back through filter and "
        "cooler. Left out there are fewer parts, and many engines live so.",
    ),
    School(
        "Accumulator's valve", "bottle", "bottle_electric",
        "By hand by default: simplest and cheapest, within reach. Electric where the bottle is out "
        "of reach, or the driver will forget.",
    ),
    School(
        "Gates of rubber or metal", "gates_3", "gates_metal",
        "Rubber by default: it seals well, ages, and must be looked at. Metal lasts and leaks.",
    ),
    School(
        "Oil above the mark", "oil_1", "gates_3",
        "More oil only as a measured trial, with the crank's clearance looked at; the other school "
        "never does, and goes to gates at once.",
    ),
    School(
        "Pickup moved, or gates where it is", "pickup_right", "gates_3",
        "Where the dominant g throws the oil; the other school leaves it where the chassis has "
        "room, with gates.",
    ),
    School(
        "Accumulator, or dry sump", "bottle", "dry",
        "An accumulator for short dips; a dry sump when the dips are long or the sump must be "
        "shallow.",
    ),
    School(
        "Wet with gates, or dry", "gates_3", "dry",
        "Gates first: far less work. Dry where no gate keeps enough, or the car must sit "
        "lower.",
    ),
)  # fmt: skip
"""All that the list of remedies has both sides of."""
