"""What is kept of the core's answers to its tests: every word and figure, but no machine's last."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
import pytest
from bilge_core.acts.registry import read_act

from tests.core.answered import Answers, differs
from tests.core.test_plates_fitted import DUNLIN


@dataclass(frozen=True)
class Drop:
    words: str
    bar: float
    over: Any = None


def kept_of(answer: Any) -> Any:
    """What is kept where a test is answered this."""

    def asks() -> None:
        answers.note("drop", answer, 0)

    answers = Answers(asks)
    asks()
    return answers.shortly()


FIRST = Drop("2 bar at 90 °C", 2.0, np.array([1.0, 2e-3]))


@pytest.mark.parametrize(
    ("other", "is_another"),
    [
        (Drop("2 bar at 90 °C", 2.0 * (1.0 + 1e-4), FIRST.over), False),
        (Drop("2 bar at 90 °C", 2.0 * (1.0 + 4e-4), FIRST.over), True),
        (Drop("2 bar at 90 °C", 2.0, np.array([1.0, 2e-3 + 1e-9])), False),
        (Drop("2 bar at 90 °C", 2.0, np.array([1.0, 2.1e-3])), True),
        (Drop("2 bar at 90 °C", 2.0, np.array([2e-3, 1.0])), True),
        (Drop("2 bar at 90 °C", -2.0, FIRST.over), True),
        (Drop("2 bar at 91 °C", 2.0, FIRST.over), True),
        (Drop("2 psi at 90 °C", 2.0, FIRST.over), True),
        (Drop("2 bar at 90 °C", 2.0, np.array([[1.0, 2e-3]])), True),
        (Drop("2 bar at 90 °C", 2.0, {"a": 1.0, "b": 2e-3}), True),
    ],
)
def test_another_word_or_figure_is_another_answer(other: Drop, is_another: bool) -> None:
    assert bool(differs(kept_of(FIRST), kept_of(other))) == is_another


def test_an_answer_more_or_less_is_told_by_its_name() -> None:
    one = {"drop": ["a", 1, 2.0, 2.0]}
    assert differs(one, {}) == ["drop"] and differs({}, one) == ["drop"]


def test_only_what_the_test_itself_is_answered_is_kept() -> None:
    def asks() -> None:
        answers.note("own", 1, 0)
        other()

    def other() -> None:
        answers.note("another's", 2, 0)

    answers = Answers(asks)
    asks()
    assert list(answers.shortly()) == ["own"]
    answers.has_moved = True
    assert answers.shortly() == {}


def test_what_an_act_does_is_listened_to() -> None:
    assert "is_heard" in type(read_act({"kind": "spacer", "by_mm": 6})).done.__dict__
    assert "is_heard" in read_act.__dict__  # as this file has it
    assert "spacer" in read_act({"kind": "spacer", "by_mm": 6}).done(DUNLIN).words
