"""What a logged lap must be like to be held against a forecast."""

from __future__ import annotations

from bilge_core.rules.rule import Rule

SAME_LAP = Rule(
    "same_lap",
    "Side load over the distance driven agrees with the forecast's lap, 1 being all of it",
    "ours: laps of one circuit by one car agree to 0.95 and more, of another to under 0.4",
    low=0.8,
    unit="1",
)
FORESEEN = Rule(
    "foreseen",
    "A dip was foreseen where it and the forecast's are no more apart than so long",
    "ours: no two laps are driven alike, and half a second is well short of the next corner",
    high=0.5,
    unit="s",
)
READINGS_IN_DIP = Rule(
    "readings_in_dip",
    "A dip is told by at least so many readings of the gauge",
    "ours: one reading may be a spike, and says nothing of how long",
    low=2.0,
    unit="1",
)
STRAIGHT_ON = Rule(
    "straight_on",
    "A car runs straight on under so much load, for as long as oil takes to lie still",
    "ours: the pickups of cars that run at all are covered there",
    high=0.35,
    unit="g",
)
SHORT_ON_STRAIGHTS = Rule(
    "short_on_straights",
    "Running straight on, the gallery has what it should at that speed, but for so little",
    "ours: a gauge, its sensor and 5 K of the oil are most of it",
    high=0.1,
    unit="1",
)
MAYBE_SHORT = Rule(
    "maybe_short",
    "So little short on straights says nothing",
    "ours: three times what a sensor's noise moves the middle one of some hundred readings",
    high=0.03,
    unit="1",
)
RULES = (SAME_LAP, FORESEEN, READINGS_IN_DIP, STRAIGHT_ON, SHORT_ON_STRAIGHTS, MAYBE_SHORT)
