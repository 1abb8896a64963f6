"""What a pressure gauge's readings are worth."""

from __future__ import annotations

from bilge_core.rules.rule import Check, Rule

ON_RELIEF = Rule(
    "on_relief",
    "A gauge that shows more than this of the relief's opening tells of the relief, "
    "not of the engine",
    "ours: with filter and cooler between, a gauge at the gallery reads a tenth under its setting",
    high=0.85,
    unit="1",
)
LIKE_WARMTH = Rule(
    "like_warmth",
    "A reading tells of the running engine when its oil is within 20 K of the running oil",
    "ours: the viscosity of a multigrade changes by a third over it",
    high=20.0,
    unit="K",
)
OVER_RELIEF = Rule(
    "over_relief",
    "No gauge shows more than a tenth over where the relief opens",
    "ours: hot oil takes a relief a third of a bar over its opening; gauges are off by more",
    high=1.1,
    unit="1",
)
JETS_APART = Rule(
    "jets_apart",
    "Readings tell jets from bearings when what the jets take follows to within a half",
    "ours: readings that part by a gauge's 0.1 bar and 2 K leave it this wide or wider where "
    "too few lie under and over the jets' opening",
    high=50.0,
    unit="%",
)
RULES = (ON_RELIEF, LIKE_WARMTH, OVER_RELIEF, JETS_APART)


def is_on_relief(pressure: float, relief: float) -> bool:
    """Whether a gauge that shows a pressure tells of the relief that opens at another.

    Examples
    --------
    >>> is_on_relief(4.25, 5.0), is_on_relief(4.2, 5.0)
    (True, False)
    """
    return pressure >= ON_RELIEF.most * relief


def is_told_of_engine(pressure: float, without_relief: float) -> bool:
    """Whether a gauge shows what the engine would have it show without a relief, or nearly.

    Examples
    --------
    >>> is_told_of_engine(4.3, 5.0), is_told_of_engine(4.2, 5.0)
    (True, False)
    """
    return pressure >= ON_RELIEF.most * without_relief


def check_highest(pressure: float, relief: float) -> Check | None:
    """The highest reading [bar] beside where the relief is said to open [bar]."""
    if OVER_RELIEF.holds(pressure / relief):
        return None
    words = (
        f"The gauge showed {pressure:.1f} bar, and the relief is said to open at {relief:.1f} bar: "
        "one of the two is wrong"
    )
    return Check("bad", words, "records.gauge", OVER_RELIEF)


def check_readings(below: int, count: int) -> Check | None:
    """How many of the gauge's readings are below the relief's opening."""
    if count == 0:
        return None
    if below:
        words = (
            f"{below} of {count} gauge readings are below the relief's "
            "opening and say what the engine drinks"
        )
        return Check("good", words, "records.gauge", ON_RELIEF)
    return Check(
        "caution",
        "Every gauge reading is on the relief valve, which says nothing of the engine's "
        "demand: read one hot at middling rpm",
        "records.gauge",
        ON_RELIEF,
    )
