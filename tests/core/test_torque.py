"""How tight and in which order: units against NIST SP 811, the cross pattern on any flange."""

from __future__ import annotations

import itertools

import numpy as np
import pint
import pytest
from bilge_core.document.fitted import Flange
from bilge_core.errors import InvalidInput, InvalidQuantity
from bilge_core.job.settings import CardSettings
from bilge_core.job.torque import (
    LBF_FT,
    LBF_IN,
    PAN_BOLTS,
    PUMP_NUT,
    WINDOW,
    Torque,
    cross_pattern,
    neighbours_of,
    pattern_of,
    round_the_outline,
)
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import LinearRing

from tests.core.jobs import SANDPIPER


def test_the_trades_figure_is_the_same_in_every_unit() -> None:
    """Common practice, no published source: 106 lbf in is 8.8 lbf ft is 12.0 N m."""
    assert PAN_BOLTS.words == "12.0 N·m, 106 lbf·in, 8.8 lbf·ft"
    assert PUMP_NUT.left_handed and PUMP_NUT.words.endswith("17.0 lbf·ft")


def test_units_against_an_independent_library() -> None:
    unit = pint.UnitRegistry()
    assert pytest.approx(unit("1 lbf*ft").to("N*m").magnitude, rel=1e-9) == LBF_FT
    assert pytest.approx(unit("1 lbf*inch").to("N*m").magnitude, rel=1e-9) == LBF_IN


def test_pounds_force_against_nist() -> None:
    """NIST SP 811, B.8: 1 lbf ft = 1.355 818 N m, 1 lbf in = 0.112 984 8 N m (from memory)."""
    assert pytest.approx(1.355818, rel=1e-6) == LBF_FT
    assert pytest.approx(0.1129848, rel=1e-6) == LBF_IN


@pytest.mark.parametrize("wrong", [0.0, -3.0, 2000.1])
def test_a_torque_of_nothing_or_too_much_is_refused(wrong: float) -> None:
    with pytest.raises(InvalidQuantity, match="torque"):
        Torque(wrong, "ours")
    assert Torque(2000.0, "ours").newton_metres == 2000.0


def one_row(
    shares: list[float], length: float, width: float
) -> tuple[list[tuple[float, float]], list[tuple[float, float]]]:
    outline = [(0.0, 0.0), (length, 0.0), (length, width), (0.0, width)]
    ring = LinearRing(outline)
    return [ring.interpolate(each, normalized=True).coords[0] for each in shares], outline


flanges = st.builds(
    one_row,
    st.lists(st.floats(0.0, 0.999), min_size=6, max_size=40, unique_by=lambda at: round(at, 3)),
    st.floats(150.0, 700.0), st.floats(60.0, 350.0),
)  # fmt: skip


def holds(places: list[tuple[float, float]], outline: list[tuple[float, float]]) -> None:
    order = cross_pattern(places, outline)
    assert sorted(order) == list(range(len(places)))
    beside = neighbours_of(round_the_outline(np.array(places), outline))
    assert not any(after in beside[before] for before, after in itertools.pairwise(order))
    at = np.array(places)
    out = np.linalg.norm(at - 0.5 * (at.min(axis=0) + at.max(axis=0)), axis=1)
    near = np.sort(out)
    assert out[order[0]] == pytest.approx(near[0])
    assert out[order[1]] <= near[min(WINDOW + 2, len(near) - 1)] + 1e-6


@settings(deadline=None)
@given(flanges)
def test_no_neighbours_follow_each_other_and_the_middle_comes_first(
    flange: tuple[list[tuple[float, float]], list[tuple[float, float]]],
) -> None:
    holds(*flange)


@settings(deadline=None)
@given(st.integers(3, 20), st.floats(200, 600), st.floats(80, 300))
def test_two_rows_along_the_rails(count: int, length: float, width: float) -> None:
    along = np.linspace(10.0, length - 10.0, count)
    places = [(float(x), y) for y in (8.0, width - 8.0) for x in along]
    holds(places, [(0.0, 0.0), (length, 0.0), (length, width), (0.0, width)])


@settings(deadline=None)
@given(st.integers(3, 10), st.floats(200, 600))
def test_an_inner_and_an_outer_row(count: int, length: float) -> None:
    along = np.linspace(15.0, length - 15.0, count)
    places = [(float(x), y) for y in (6.0, 26.0, 174.0, 194.0) for x in along][:40]
    holds(places, [(0.0, 0.0), (length, 0.0), (length, 200.0), (0.0, 200.0)])


def test_an_l_shaped_flange_goes_round_its_own_outline() -> None:
    outline = [(0.0, 0.0), (300.0, 0.0), (300.0, 80.0), (120.0, 80.0), (120.0, 200.0), (0.0, 200.0)]
    ring = LinearRing(outline)
    holds([ring.interpolate(at, normalized=True).coords[0] for at in np.linspace(0, 0.97, 17)],
          outline)  # fmt: skip


def test_the_demos_flange_has_a_pattern_of_all_its_bolts() -> None:
    flange = SANDPIPER.pan.flange
    assert flange is not None
    assert sorted(pattern_of(flange)) == list(range(14))


def test_few_bolts_and_none_are_each_named_once() -> None:
    square = [(0.0, 0.0), (40.0, 0.0), (40.0, 40.0), (0.0, 40.0)]
    for count in range(5):
        assert sorted(cross_pattern(square[:count], square)) == list(range(count))
    assert pattern_of(Flange(outline_mm=square, thickness_mm=5)) == ()


@pytest.mark.parametrize("wrong", [[0, 0, 1], [0, 2], [1, 2, 3]])
def test_an_own_order_names_every_bolt_once(wrong: list[int]) -> None:
    assert CardSettings(pattern=[2, 0, 1]).pattern == [2, 0, 1]
    with pytest.raises((ValueError, InvalidInput), match="every bolt once"):
        CardSettings(pattern=wrong)
