"""Level and upright cuts through the inside, against areas by hand."""

from __future__ import annotations

import math

import numpy as np
import pytest
import shapely
from bilge_core.pan.cuts import level_cut, upright_cut
from bilge_core.pan.solid import Prism


def ramp(slope_x: float, slope_y: float = 0.0) -> Prism:
    """A box of 400 by 200 mm whose floor slopes down from 100 mm under the rail."""
    floor = (-0.1, -slope_x, -slope_y)
    return Prism(shapely.box(0.0, 0.0, 0.4, 0.2), floor, (0.0, 0.0, 0.0))


@pytest.mark.parametrize("slope", [0.05, 0.2, 1.0, 3.0])
@pytest.mark.parametrize("share", [0.25, 0.5, 0.9])
def test_a_level_cut_of_a_ramp_ends_where_its_floor_is_as_deep(slope: float, share: float) -> None:
    """Behind x = s·L the floor is deeper than 0.1 + s·L·slope: (1 − s) of the box is left."""
    height = -0.1 - slope * share * 0.4
    assert level_cut([ramp(slope)], height).area == pytest.approx((1.0 - share) * 0.08, rel=1e-4)
    across = level_cut([ramp(0.0, slope)], -0.1 - slope * share * 0.2)
    assert across.area == pytest.approx((1.0 - share) * 0.08, rel=1e-4)


def test_a_level_cut_of_a_ramp_both_ways_is_a_corner() -> None:
    """Floor −0.1 − 0.2 x − 0.2 y at −0.2: x + y ≥ 0.5, the last corner, 100 mm a side."""
    found = level_cut([ramp(0.2, 0.2)], -0.2)
    assert found.area == pytest.approx(0.5 * 0.1**2, rel=1e-3)
    assert found.centroid.x == pytest.approx(0.4 - 0.1 / 3.0, abs=1e-4)


def test_over_and_under_all_floors_it_is_all_or_nothing() -> None:
    assert level_cut([ramp(0.2)], -0.05).area == pytest.approx(0.08)
    assert level_cut([ramp(0.2)], -0.19).is_empty
    assert level_cut([ramp(1e-12)], -0.0999999).area == pytest.approx(0.08)


def test_an_upright_cut_has_the_depth_under_it() -> None:
    """Along the ramp: 0.1 deep at one end, 0.1 + 0.2·0.4 at the other; slantwise longer."""
    straight = upright_cut([ramp(0.2)], np.array([0.0, 0.1]), np.array([1.0, 0.0]), 0.0, 1.0)
    assert straight.area == pytest.approx(0.4 * (0.1 + 0.5 * 0.2 * 0.4), rel=1e-4)
    along = np.array([0.4, 0.2]) / math.hypot(0.4, 0.2)
    slant = upright_cut([ramp(0.2)], np.array([0.0, 0.0]), along, 0.0, 1.0)
    assert slant.area == pytest.approx(math.hypot(0.4, 0.2) * 0.14, rel=1e-4)
