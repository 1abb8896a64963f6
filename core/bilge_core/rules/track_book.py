"""When the track book speaks: of oil under its mark, of a trend, of what a fit could not tell."""

from __future__ import annotations

from bilge_core.rules.rule import Rule

SHORT_OF_MARK = Rule(
    "short_of_mark",
    "Oil stands under its mark by no more than so much before a session",
    "ours: what a dipstick's reading is worth, twice",
    high=0.3e-3,
    unit="m3",
)
UNLIKE_BEFORE = Rule(
    "unlike_before",
    "What a session used is at most so many times what was usual before it",
    "ours: a guess; a class of engine has its own",
    high=1.5,
    unit="1",
)
DUE_SOON = Rule(
    "due_soon",
    "Something is due soon where at most so much of its interval is left",
    "ours: a fifth",
    high=0.2,
    unit="1",
)
TOLD_APART = Rule(
    "told_apart",
    "Two figures of a fit are told apart where what is uncertain of them is correlated by less",
    "ours: at so much either is known three times as well once the other is measured",
    high=0.9,
    unit="1",
)
LEANS = Rule(
    "leans",
    "A fit leans on no lap that brings more than so much of what is known",
    "ours: four fifths",
    high=0.8,
    unit="1",
)
TELLS = Rule(
    "tells",
    "A fit tells of a figure where it leaves at most so much of what was guessed",
    "ours: half of what was not known, by its square",
    high=0.7,
    unit="1",
)
AS_EXPECTED = Rule(
    "as_expected",
    "A gallery that is followed has at least so much of what is expected there",
    "ours: laps of one car differ by less between dips",
    low=0.85,
    unit="1",
)
CORNER_NEAR = Rule(
    "corner_near",
    "A corner in which a dip is expected is told at the latest so long before it",
    "ours: time to read two figures and to press a button",
    high=4.0,
    unit="s",
)
RULES = (
    SHORT_OF_MARK, UNLIKE_BEFORE, DUE_SOON, TOLD_APART, LEANS, TELLS, AS_EXPECTED, CORNER_NEAR,
)  # fmt: skip
