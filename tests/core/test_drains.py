"""Drains by gravity against closed forms and handbook values, and what must never be."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from bilge_core.drains.drain_rose import drain_rose
from bilge_core.drains.line import Piece, foamed, line_along
from bilge_core.drains.round_line import (
    depth_at_brink,
    friction,
    friction_slope,
    head_at_hole,
    head_through_hole,
    wetted,
)
from bilge_core.drains.standing import Load, capacity, held_back_by, stands
from bilge_core.errors import InvalidQuantity
from bilge_core.network.pipes import bend_loss, hole_resistance
from fluids.friction import friction_factor
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.falling import BELOW, BUILD, FROTH, OIL, PAN, UP, G, straight


class TestARoundLine:
    @pytest.mark.parametrize(
        ("share", "area", "radius"),
        [
            # hydraulic elements of a circular section: depth, area and hydraulic radius as shares
            # of the full one's (handbooks of sewer design, from memory)
            (0.1, 0.0520, 0.2541), (0.2, 0.1424, 0.4824), (0.25, 0.1955, 0.5865),
            (0.3, 0.2523, 0.6836), (0.5, 0.5, 1.0), (0.7, 0.7477, 1.1849), (0.75, 0.8045, 1.2067),
            (0.8, 0.8576, 1.2168), (0.9, 0.9480, 1.1921), (1.0, 1.0, 1.0),
        ],
    )  # fmt: skip
    def test_against_the_table_of_hydraulic_elements(
        self, share: float, area: float, radius: float
    ) -> None:
        found, perimeter = wetted(share, 1.0)
        full = math.pi / 4
        assert found / full == pytest.approx(area, abs=5e-4)
        assert (found / perimeter) / 0.25 == pytest.approx(radius, abs=5e-4)

    @pytest.mark.parametrize("reynolds", [10.0, 500.0, 2000.0, 4100.0, 2e4, 1e5])
    def test_friction_against_a_library(self, reynolds: float) -> None:
        """`fluids`: 64/Re, and Clamond's solution of Colebrook's equation for a smooth line."""
        assert friction(reynolds) == pytest.approx(friction_factor(reynolds), rel=0.03)

    def test_friction_never_falls_with_the_flow(self) -> None:
        flows = np.geomspace(1e-7, 1e-2, 400)
        slopes = [friction_slope(each, 0.007, 0.014, 12e-6, G) for each in flows]
        assert np.all(np.diff(slopes) > 0.0)

    def test_full_and_slow_is_hagen_and_poiseuille(self) -> None:
        """``h = 128 ν L q / (π g d⁴)`` a metre."""
        slope = friction_slope(1 / 60e3, 0.014, 0.014, 600e-6, G)
        assert slope == pytest.approx(128 * 600e-6 / (math.pi * G * 0.014**4) / 60e3, rel=1e-6)

    def test_critical_depth_by_its_definition(self) -> None:
        """At it ``Q² T = g A³``, T the width of the surface; the short form is right to 4 %."""
        for share in (0.25, 0.4, 0.6, 0.8):
            area, _ = wetted(share * 0.014, 0.014)
            width = 2 * 0.014 * math.sqrt(share * (1 - share))
            flow = math.sqrt(G * area**3 / width)
            assert depth_at_brink(flow, 0.014, G) == pytest.approx(share * 0.014, rel=0.04)

    def test_a_hole_under_oil_is_torricellis(self) -> None:
        """``q = 0.6 A √(2 g h)``."""
        flow = 0.6 * math.pi / 4 * 0.012**2 * math.sqrt(2 * G * 0.05)
        assert head_at_hole(flow, 0.012, G, 1.0) == pytest.approx(0.05)
        assert head_through_hole(flow, 0.012, G) == pytest.approx(0.05)

    def test_a_restrictor_of_two_millimetres(self) -> None:
        """1.3, 2.6 and 3.7 L/min at 0.5, 2 and 4 bar, by the orifice formula, Cd 0.62."""
        hole = hole_resistance(0.002, 820.0, 0.010)
        for bar, flow in ((0.5, 1.3), (2.0, 2.6), (4.0, 3.7)):
            assert hole.drop(flow / 60e3) == pytest.approx(bar * 1e5, rel=0.07)


class TestStandingInADrain:
    def test_hardly_any_flow_stands_as_high_as_the_pan(self) -> None:
        """Hydrostatics: connected oil stands level, whichever way "up" is."""
        for tilt in (0.0, 0.3, -0.4):
            up = np.array([0.0, tilt, 1.0]) / math.hypot(tilt, 1.0)
            line = straight(seal=0.5)
            level = float(line.outlet @ up) + 0.05
            found = stands(line, 1e-12, OIL, Load(up, G, level))
            assert found.head == pytest.approx(level, abs=1e-6)
            assert found.sealed

    def test_thick_oil_in_a_full_line_is_the_closed_form(self) -> None:
        thick = foamed(880.0, 600e-6, 0.0)
        flow, line = 0.5 / 60e3, straight(seal=0.5)
        level = float(line.outlet[2]) + 0.02
        found = stands(line, flow, thick, Load(UP, G, level))
        friction_head = 128 * 600e-6 * line.length * flow / (math.pi * G * 0.0141**4)
        assert found.head - level == pytest.approx(friction_head, rel=0.01)

    @pytest.mark.parametrize("bent", [False, True])
    def test_thin_oil_in_a_full_line_takes_its_speed_too(self, bent: bool) -> None:
        """Darcy's friction, Rennels' bend, one speed's head at the exit, the outlet's orifice."""
        route = [(0, 0, 0.2), (0, 0, 0.1), (0, 0.1, 0.1)] if bent else [(0, 0, 0.2), (0, 0.1, 0.0)]
        line = line_along(
            route, [0, 0.03, 0][: len(route)], [Piece("hose", 0.012)], [Piece("outlet", 0.012)],
            seal=(0, 0, 0.9),
        )  # fmt: skip
        flow = 6 / 60e3
        found = stands(line, flow, OIL, Load(UP, G, 0.25))
        speed = flow / (math.pi / 4 * 0.012**2)
        head = speed * speed / (2 * G)
        factor = friction_factor(speed * 0.012 / OIL.viscosity)
        bend = bend_loss(math.pi / 2, 0.03, 0.012) if bent else 0.0
        wanted = (factor * line.length / 0.012 + 1.0 + bend + 1.0 / 0.6**2) * head
        assert found.head - 0.25 == pytest.approx(wanted, rel=0.03)
        assert found.there == pytest.approx(0.9 - 0.25)  # from the pan's oil up to the seal

    def test_a_long_even_line_runs_at_its_normal_depth(self) -> None:
        line = line_along([(0, 0, 0.4), (0, 2.0, 0)], [0, 0], [Piece("hose", 0.0141)])
        found = stands(line, 2 / 60e3, OIL, BELOW)
        depth = found.fill[3] * 0.0141
        slope = 0.4 / math.hypot(0.4, 2.0)
        tilt = 2.0 / math.hypot(0.4, 2.0)
        assert friction_slope(2 / 60e3, depth, 0.0141, OIL.viscosity, G) == pytest.approx(
            slope, rel=0.03
        )
        assert 0.9 < tilt < 1.0
        assert not found.sealed

    def test_ten_millibar_are_128_mm_of_oil(self) -> None:
        """``p / (ρ g)`` with 797 kg/m3, and 212 mm at a foam of 0.4."""
        for foam, head in ((0.0, 0.128), (0.4, 0.213)):
            oil = foamed(797.0, 12e-6, foam)
            line = straight(seal=0.5)
            load = Load(UP, G, float(line.outlet[2]) + 0.05, 1000.0)
            assert stands(line, 0.5 / 60e3, oil, load).against_push == pytest.approx(head, abs=1e-3)

    def test_gas_evens_out_over_a_part_full_line(self) -> None:
        found = stands(straight(), 1 / 60e3, OIL, replace(BELOW, pressure=3000.0))
        assert found.against_push == 0.0
        assert not found.sealed

    def test_a_trap_stays_full_and_shuts_gas_in(self) -> None:
        route = [(0, 0, 0.08), (0, 0.05, 0.0), (0, 0.10, 0.07), (0, 0.2, -0.05)]
        line = line_along(route, [0, 0.02, 0.02, 0], [Piece("hose", 0.0141)], seal=(0, 0, 0.23))
        assert stands(line, 0.5 / 60e3, OIL, BELOW).fill[0] < 1.0  # gas alone lifts it there
        found = stands(line, 0.5 / 60e3, OIL, replace(BELOW, pressure=500.0))
        assert found.sealed
        assert found.fill.max() == 1.0
        assert found.fill[0] == 1.0
        assert found.against_push == pytest.approx(500.0 / (OIL.density * G), abs=0.03)

    def test_what_holds_it_back(self) -> None:
        holes = [Piece("outlet", 0.016), Piece("gasket", 0.007)]
        line = line_along([(0, 0, 0.2), (0, 0.05, 0)], [0, 0], [Piece("hose", 0.0141, 0.2)], holes)
        first, *others = held_back_by(line, 1.5 / 60e3, FROTH, BELOW)
        assert line.pieces[first.piece].name == "gasket"
        assert all(each.gains <= first.gains for each in others)

    def test_sizes_of_the_trade(self) -> None:
        """Common practice, no published source: size 10 for one turbo by gravity. Size 6 fails."""
        fed = 1.8 / 60e3
        ten, six = straight(), straight(bore=0.0078)
        assert capacity(ten, FROTH, BELOW) > fed > capacity(six, FROTH, BELOW)

    def test_cold_oil_hardly_drains(self) -> None:
        cold = foamed(880.0, 600e-6, 0.0)
        assert capacity(straight(), cold, BELOW) < 0.25 * capacity(straight(), OIL, BELOW)

    def test_half_as_long_cells_move_nothing(self) -> None:
        route = [(0.1, 0.2, 0.18), (0.1, 0.2, 0.10), (0.1, 0.11, 0.02)]
        coarse, fine = (
            line_along(route, [0, 0.03, 0], [Piece("hose", 0.0141)], cell=cell)
            for cell in (0.04, 0.02)
        )
        for flow in (0.5, 1.5, 2.5):
            margins = [stands(each, flow / 60e3, FROTH, BELOW).margin for each in (coarse, fine)]
            assert margins[0] == pytest.approx(margins[1], abs=5e-4)

    @pytest.mark.parametrize(
        ("what", "words"),
        [
            (lambda: line_along([(0, 0, 0)], [0], [Piece("hose", 0.01)]), "two places"),
            (lambda: line_along([(0, 0, 0), (0, 0, 0)], [0, 0], [Piece("h", 0.01)]), "two places"),
            (lambda: line_along([(0, 0, 1), (0, 0, 0)], [0, 0], [Piece("h", 0.0)]), "bore above"),
            (lambda: stands(straight(), 0.0, OIL, BELOW), "above 0"),
            (lambda: foamed(820.0, 12e-6, 0.9), "0 to 0.9"),
            (lambda: foamed(820.0, 0.0, 0.1), "above 0"),
            (lambda: drain_rose(straight(), PAN, BUILD.car, 1e-5, OIL, 0.0, 3), "at least 4"),
            (lambda: drain_rose(straight(), PAN, BUILD.car, 0.0, OIL, 0.0), "above 0"),
        ],
    )
    def test_what_cannot_be(self, what: Any, words: str) -> None:
        with pytest.raises(InvalidQuantity, match=words):
            what()


heights = st.floats(0.02, 0.3)
flows = st.floats(0.2, 3.0).map(lambda each: each / 60e3)
surfaces = st.floats(-0.2, 0.35)
tilts = st.tuples(st.floats(-0.8, 0.8), st.floats(-0.8, 0.8))
foams = st.floats(0.0, 0.5)
pushes = st.floats(0.0, 1500.0)


def up_of(tilt: tuple[float, float]) -> tuple[np.ndarray[Any, np.dtype[np.float64]], float]:
    length = math.sqrt(1.0 + tilt[0] ** 2 + tilt[1] ** 2)
    return np.array([tilt[0], tilt[1], 1.0]) / length, length * G


class TestWhatMustNeverBe:
    @settings(max_examples=150, deadline=None)
    @given(heights, flows, surfaces, tilts, foams, pushes)
    def test_more_help_never_hurts_and_more_hindrance_never_helps(
        self, high: float, flow: float, surface: float, tilt: tuple[float, float], foam: float,
        push: float,
    ) -> None:  # fmt: skip
        up, gravity = up_of(tilt)
        line, oil = straight(high), foamed(820.0, 12e-6, foam)
        load = Load(up, gravity, surface, push)
        now = stands(line, flow, oil, load).margin
        slack = 2e-6
        lower = stands(line, flow, oil, replace(load, surface=surface - 0.03)).margin
        assert lower >= now - slack
        calmer = stands(line, flow, oil, replace(load, pressure=0.5 * push)).margin
        assert calmer >= now - slack
        thicker = foamed(820.0, 24e-6, foam)
        assert stands(line, flow, thicker, load).margin <= now + slack
        frothier = foamed(820.0, 12e-6, foam + 0.1)
        assert stands(line, flow, frothier, load).margin <= now + slack
        assert stands(line, 0.5 * flow, oil, load).margin >= now - slack

    @settings(max_examples=100, deadline=None)
    @given(heights, flows, surfaces, foams)
    def test_a_higher_outlet_never_hurts(
        self, high: float, flow: float, surface: float, foam: float
    ) -> None:
        oil, load = foamed(820.0, 12e-6, foam), Load(UP, G, surface)
        now = stands(straight(high, 0.0), flow, oil, load).margin
        assert stands(straight(high + 0.04, 0.0), flow, oil, load).margin >= now - 1e-4

    @settings(max_examples=100, deadline=None)
    @given(heights, flows, surfaces, foams)
    def test_a_wider_line_never_hurts(
        self, high: float, flow: float, surface: float, foam: float
    ) -> None:
        """Where it is full, or free: a wider one stands a little higher over its own lowest point
        where it is neither, by less than it is wider."""
        oil, load = foamed(820.0, 12e-6, foam), Load(UP, G, surface)
        line = straight(high)
        wider = line.widened(1)
        now = stands(line, flow, oil, load).margin
        assert stands(wider, flow, oil, load).margin >= now - 0.1 * 0.0141

    @settings(max_examples=100, deadline=None)
    @given(heights, surfaces, tilts, foams)
    def test_no_drain_takes_oil_uphill_by_itself(
        self, high: float, surface: float, tilt: tuple[float, float], foam: float
    ) -> None:
        up, gravity = up_of(tilt)
        line = straight(high)
        load = Load(up, gravity, surface)
        if float(line.seal @ up) < max(surface, float(line.entry @ up)) - 0.01:
            assert capacity(line, foamed(820.0, 12e-6, foam), load) < 1e-9

    def test_raising_an_entry_that_falls_free_can_hurt(self) -> None:
        """The line gets flatter. It is said so where it is so."""
        route = [(0, 0, 0.1), (0, 0.5, 0.0)]
        low = line_along(route, [0, 0], [Piece("hose", 0.0141)], seal=(0, 0, 0.12))
        route[1] = (0, 0.5, 0.09)
        flat = line_along(route, [0, 0], [Piece("hose", 0.0141)], seal=(0, 0, 0.12))
        load = Load(UP, G, -0.05)
        found = [stands(each, 2.2 / 60e3, FROTH, load).margin for each in (low, flat)]
        assert found[0] > found[1]
