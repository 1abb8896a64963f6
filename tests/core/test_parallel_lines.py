"""Tubes beside each other: the distance in a bend against both arcs as they are laid."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
from bilge_core.checks.lines import check_line
from bilge_core.document.build import Build
from bilge_core.document.circuit.route import laid
from bilge_core.lines.bending import Bender
from bilge_core.lines.laid import Line
from bilge_core.lines.parallel import beside, between_in_bend
from bilge_core.options.candidate import Prices
from bilge_core.tell.lines_all import lines_out
from hypothesis import given
from hypothesis import strategies as st

from tests.laid_lines import DUNLIN, TO_COOLER, done, laid_out

BACK = next(run.id for run in DUNLIN.circuit.runs if run.name == "from the cooler")


def pair(
    own: float, other: float, apart: float = 25.0, made: str = "hard_line", **more: Any
) -> Build:
    """Two tubes along the car that turn to its left, the second inside; radii and distance [mm]."""
    up, turned = more.get("up", 0.0), more.get("reverse", False)
    ways = [
        [[100, 0, 100], [400, 0, 100], [400, 300, 100]],
        [[100, apart, 100 + up], [400 - apart, apart, 100 + up], [400 - apart, 300, 100 + up]],
    ]
    if turned:
        ways[1].reverse()
    build = DUNLIN
    for run, way, radius in ((TO_COOLER, ways[0], own), (BACK, ways[1], other)):
        points = [{"at_mm": at} for at in way]
        points[1]["radius_mm"] = radius
        build = done(build, kind="lay_line", run=run, made_of=made, dash=8, points=points)
    return build


def found(build: Build) -> tuple[Line, list[Any]]:
    lines = laid_out(build)
    line = next(each for each in lines if each.run.id == TO_COOLER)
    return line, list(beside(line, lines))


@given(
    st.floats(0.012, 0.05), st.floats(0.4, 2.2), st.floats(0.02, 0.09), st.floats(0.02, 0.09),
)  # fmt: skip
def test_it_is_what_the_two_arcs_have(
    apart: float, turn: float, inner: float, outer: float
) -> None:
    """Both laid in a plane, the inner corner moved in along the bisector: middle to middle."""
    half = turn / 2.0
    legs = 1.0
    into = np.array([math.cos(half), math.sin(half), 0.0])
    after = np.array([math.cos(half), -math.sin(half), 0.0])

    def middle(corner_down: float, radius: float) -> float:
        corner = np.array([0.0, -corner_down, 0.0])
        route = laid([corner - legs * into, corner, corner + legs * after], [radius])
        places = route.sampled(2e-4)
        return float(places[np.abs(places[:, 0]).argmin(), 1])

    far = middle(0.0, outer) - middle(apart / math.cos(half), inner)
    assert between_in_bend(apart, turn, inner, outer) == pytest.approx(far, abs=5e-5)


def test_the_same_radius_opens_a_pair_and_the_right_one_keeps_it() -> None:
    """25 mm apart round a quarter turn: 25 root 2 with equal radii."""
    _, [same] = found(pair(60.0, 60.0))
    assert same.apart == pytest.approx(0.025, abs=2e-5)
    assert same.between == pytest.approx(0.025 * math.sqrt(2.0), abs=5e-5)
    assert same.keeps == pytest.approx(0.085, abs=2e-5)
    _, [kept] = found(pair(85.0, 60.0))
    assert kept.between == pytest.approx(0.025, abs=5e-5)
    assert kept.name == "from the cooler"


def test_the_inner_one_is_told_from_its_own_side() -> None:
    build = pair(60.0, 60.0)
    lines = laid_out(build)
    [told] = beside(next(each for each in lines if each.run.id == BACK), lines)
    assert told.name == "to the cooler" and told.keeps == pytest.approx(0.035, abs=2e-5)
    tight = pair(20.0, 60.0)
    lines = laid_out(tight)
    [none] = beside(next(each for each in lines if each.run.id == BACK), lines)
    assert none.keeps is None  # the outer one's radius is less than the distance


def test_what_closes_so_far_that_it_touches_is_wrong() -> None:
    build = pair(160.0, 40.0)
    line, [told] = found(build)
    assert told.between < told.apart and told.gap < 0.0
    check = next(
        each for each in check_line(build, line, laid_out(build))
        if each.rule.key == "parallel_bend"
    )  # fmt: skip
    assert check.state == "bad" and "where they touch: a radius of 65 mm keeps" in check.words
    assert not any(each.rule.key == "parallel_bend" for each in check_line(build, line))


@pytest.mark.parametrize(
    ("more", "count"),
    [
        ({}, 1), ({"reverse": True}, 1), ({"apart": 59.0}, 1), ({"apart": 61.0}, 0),
        ({"made": "hose"}, 0), ({"up": 7.0}, 1), ({"up": 9.0}, 0),
    ],
)  # fmt: skip
def test_which_tubes_are_a_pair(more: dict[str, Any], count: int) -> None:
    """Both ways along, no further than 60 mm, hard lines both, level with each other."""
    assert len(found(pair(90.0, 60.0, **more))[1]) == count


def test_the_page_of_lines_tells_it() -> None:
    out = lines_out(pair(60.0, 60.0), Prices.generic(), Bender())
    told = next(each for each in out.lines if each.id == TO_COOLER)
    assert any("25 mm from 'from the cooler', opens to 35 mm" in c.words for c in told.checks)
