"""What is done four at a time or in one leap, against the plain way of doing it."""

from __future__ import annotations

import itertools
from collections.abc import Callable
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from bilge_core.moving.lanes import scatter, splat
from bilge_core.moving.poisson import nearness_of
from bilge_core.moving.simulation import Simulation
from bilge_core.moving.transfer import towards
from bilge_core.moving.viscosity import spread_viscosity
from bilge_core.moving.ways import ways_in
from hypothesis import given, settings
from hypothesis import strategies as st
from numba import njit

from tests.oil_boxes import G, box_of_oil, run

STEPS = (17, 5, 1)
SHARES = st.floats(0.0, 1.0, width=32)
FIGURES = st.floats(-2.0, 2.0, width=32)
VOLUMES = st.floats(0.125, 2.0, width=32)


@njit
def _scatter(*given: Any) -> None:
    scatter(*given)


@njit
def _splat(*given: Any) -> None:
    splat(*given)


@njit
def _towards(f: Any, h: Any, sizes: Any, at: Any, shut: Any, axis: Any, stride: Any) -> Any:
    return towards(f, h, sizes, at, shut, axis, stride)


def corners(weights: tuple[float, ...]) -> list[tuple[int, float, tuple[int, ...]]]:
    """Each of eight places: its number, its weight, and which of the two along each axis."""
    found = []
    for sides in itertools.product((0, 1), repeat=3):
        at = 30 + sum(step for step, side in zip(STEPS, sides, strict=True) if side)
        share = [w if side else 1.0 - w for w, side in zip(weights, sides, strict=True)]
        found.append((at, float(np.prod(share)), sides))
    return found


@settings(max_examples=60, deadline=None)
@given(
    SHARES,
    SHARES,
    SHARES,
    VOLUMES,
    st.lists(FIGURES, min_size=10, max_size=10),
)
def test_what_a_particle_gives_eight_faces(
    w1: float, w2: float, w3: float, volume: float, figures: list[float]
) -> None:
    base, g1, g2, g3, o1, n1, o2, n2, o3, n3 = figures
    field = np.full(160, 0.25, dtype=np.float32)
    single = [np.float32(each) for each in (w1, w2, w3, volume, *figures)]
    _scatter(field, 30, *STEPS, *single)
    wanted = np.full(160, 0.25)
    for at, share, sides in corners((w1, w2, w3)):
        ways = [
            pair[side] for pair, side in zip(((o1, n1), (o2, n2), (o3, n3)), sides, strict=True)
        ]
        speed = base + g1 * ways[0] + g2 * ways[1] + g3 * ways[2]
        wanted[2 * at] += volume * share * speed
        wanted[2 * at + 1] += volume * share
    np.testing.assert_allclose(field, wanted, atol=3e-5)


@settings(max_examples=60, deadline=None)
@given(SHARES, SHARES, SHARES, VOLUMES)
def test_what_it_gives_eight_centres(w1: float, w2: float, w3: float, volume: float) -> None:
    field = np.full(80, 0.5, dtype=np.float32)
    _splat(field, 30, *STEPS, *(np.float32(each) for each in (w1, w2, w3, volume)))
    wanted = np.full(80, 0.5)
    for at, share, _ in corners((w1, w2, w3)):
        wanted[at] += volume * share
    np.testing.assert_allclose(field, wanted, atol=1e-5)
    assert field.sum() == pytest.approx(40.0 + volume, rel=1e-5)


def test_places_that_are_one_get_all_of_it() -> None:
    """A plate on the particle's side: the step is nil, and its own centre takes both shares."""
    field = np.zeros(80, dtype=np.float32)
    _splat(field, 30, 0, 0, 0, *(np.float32(each) for each in (0.3, 0.0, 0.0, 1.0)))
    assert field[30] == pytest.approx(1.0) and field.sum() == pytest.approx(1.0)


@pytest.mark.parametrize("place", [0.0, 0.2, 0.4999, 0.5, 0.7, 0.99])
@pytest.mark.parametrize("shut", [0, 1, 2, 3])
def test_the_second_centre_along_an_axis(place: float, shut: int) -> None:
    """By the plain rule, with a branch: the one on the side of the cell that the particle is in."""
    sizes = np.array([0.01, 0.02, 0.03], dtype=np.float32)
    found = _towards(np.float32(place), sizes[1], sizes, 1, shut, 0, 7)
    own = (0.5 - place) * 0.02
    side = 1 if place >= 0.5 else -1
    if shut & (2 if side > 0 else 1):
        assert found == pytest.approx((0, 0.0, own, own, 0.0), abs=1e-9)
        return
    apart = 0.5 * (0.02 + float(sizes[1 + side]))
    wanted = (7 * side, -side * own / apart, own, own + side * apart, side / apart)
    assert found == pytest.approx(wanted, rel=1e-5, abs=1e-6)


def graded() -> tuple[Any, Any, Any]:
    """Lines of unlike cells along each axis of the box."""
    return tuple(
        np.concatenate([[0.0], np.cumsum(widths) / np.sum(widths) * size])
        for size, widths in (
            (0.4, [1, 1.3, 1.7, 2, 2, 1.7, 1.3, 1, 1, 1]),
            (0.24, [1, 1.2, 1.4, 1.4, 1.2, 1, 1]),
            (0.14, [1, 1, 1.2, 1.4, 1.6, 1.8, 2, 2]),
        )
    )  # type: ignore[return-value]


def tossed(make: Callable[[], Simulation], leaps: bool) -> Simulation:
    oil = make()
    if not leaps:
        oil._ways = oil._ways._replace(clear=np.zeros_like(oil._ways.clear))
    run(oil, 0.3, np.array([0.3 * G, 0.9 * G, -G]), lambda: None)
    return oil


@pytest.mark.parametrize("lines", [None, "graded"])
def test_a_leap_ends_where_the_walk_does(lines: str | None) -> None:
    """Same load, same start, a few steps: the same particles at the same places."""

    def make() -> Simulation:
        of_cells = graded() if lines else None
        return box_of_oil((0.4, 0.24, 0.14), (0.04, 0.04, 0.02), 0.004, lines=of_cells)

    leapt, walked = tossed(make, leaps=True), tossed(make, leaps=False)
    assert leapt.count == walked.count
    # both keep their particles in the same order: compared row by row
    apart = np.linalg.norm(leapt.places() - walked.places(), axis=1)
    assert np.median(apart) < 1e-4 and float(np.mean(apart < 1e-3)) > 0.97
    assert leapt.centre_of_mass() == pytest.approx(walked.centre_of_mass(), abs=2e-5)


ALL, HERE = (1 << 27) - 1, 1 << 13


def bit(x: int, y: int, z: int) -> int:
    return 1 << (13 + x + 3 * y + 9 * z)


class TestWhereAWayIsClear:
    OIL = box_of_oil((0.4, 0.24, 0.14), 0.02, 0.004)

    def ways(self, **change: Any) -> np.ndarray:
        domain = replace(self.OIL.domain, **change)
        shape = [count + 2 for count in domain.shape]
        return ways_in(domain, self.OIL._up).clear.reshape(shape)

    def test_all_about_a_cell_amid_the_oil_and_none_outside(self) -> None:
        clear = self.ways()
        assert (clear[3:-3, 3:-3, 3:-3] == ALL).all()
        assert (clear[0] == 0).all() and (clear[:, :, -1] == 0).all()

    def test_along_a_wall_but_not_into_it(self) -> None:
        at_wall = int(self.ways()[1, 5, 4])
        assert at_wall & bit(1, 0, 0) and at_wall & bit(0, 1, 1) and at_wall & HERE
        for y, z in itertools.product((-1, 0, 1), repeat=2):
            assert not at_wall & bit(-1, y, z)

    def test_a_cut_cell_is_walked_from_and_to(self) -> None:
        shape = [count + 2 for count in self.OIL.domain.shape]
        cut = self.OIL.domain.cut.copy().reshape(shape)
        cut[8, 6, 4] = 0
        clear = self.ways(cut=cut.ravel())
        assert clear[8, 6, 4] == 0
        beside = int(clear[9, 6, 4])
        assert not beside & bit(-1, 0, 0) and not beside & bit(-1, 1, 0)  # past it, by one way
        assert beside & bit(0, 1, 0) and beside & bit(1, 1, 1) and beside & HERE

    def test_an_opening_is_walked_through(self) -> None:
        """What passes it is counted, so nothing leaps it; past its edge it takes the walk too."""
        shape = [count + 2 for count in self.OIL.domain.shape]
        opening = self.OIL.domain.opening_at.copy().reshape(3, *shape)
        opening[0, 8, 6, 4] = 1
        clear = self.ways(opening_at=opening.reshape(3, -1))
        before, behind = int(clear[7, 6, 4]), int(clear[8, 6, 4])
        assert not before & bit(1, 0, 0) and not behind & bit(-1, 0, 0)
        assert not before & bit(1, 1, 0) and before & bit(0, 1, 0) and before & bit(-1, 0, 0)
        assert not int(clear[7, 5, 4]) & bit(1, 1, 0) and int(clear[7, 5, 4]) & bit(1, 0, 0)

    def test_over_an_edge_both_orders_must_be_open(self) -> None:
        shape = [count + 2 for count in self.OIL.domain.shape]
        opening = self.OIL.domain.opening_at.copy().reshape(3, *shape)
        opening[1, 8, 6, 4] = 1  # along y, in the next row of cells along x
        from_corner = int(self.ways(opening_at=opening.reshape(3, -1))[7, 5, 4])
        assert not from_corner & bit(1, 1, 0) and not from_corner & bit(1, 1, 1)
        assert from_corner & bit(1, 0, 0) and from_corner & bit(0, 1, 0)


def test_faces_are_as_near_as_their_cells_middles() -> None:
    unlike = np.array([0.1, 0.2, 0.6, 0.6], dtype=np.float32)
    alike = np.full(3, 0.5, dtype=np.float32)
    found = nearness_of((unlike, alike, alike)).reshape(3, 4, 3, 3)
    assert found[0, 1:, 1, 1].tolist() == pytest.approx([1 / 0.15, 1 / 0.4, 1 / 0.6])
    assert (found[1] == 2.0).all()


def test_thick_oil_leaves_a_shear_alone_whose_slope_is_even_whatever_the_cells() -> None:
    oil = box_of_oil((0.4, 0.24, 0.14), (0.04, 0.04, 0.02), 0.004, lines=graded())
    domain = oil.domain
    shape = [count + 2 for count in domain.shape]
    middles = [np.cumsum(size) - 0.5 * size for size in domain.sizes]
    velocity = np.zeros((3, domain.cells), dtype=np.float32)
    velocity[0] = np.broadcast_to(middles[1][None, :, None], shape).astype(np.float32).ravel()
    before = velocity.reshape(3, *shape).copy()
    carried = np.ones((3, domain.cells), dtype=np.bool_)
    assert spread_viscosity(domain, velocity, carried, 1e-3, 0.01) == 1
    after = velocity.reshape(3, *shape)
    inside = (0, slice(2, -2), slice(2, -2), slice(2, -2))
    np.testing.assert_allclose(after[inside], before[inside], atol=2e-6)
