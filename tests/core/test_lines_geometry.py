"""Routes, bending sheets, threads and chains: against closed forms, tables and cases by hand."""

from __future__ import annotations

import math
from typing import Any

import fluids
import numpy as np
import pytest
from bilge_core.document.circuit.route import laid, turn_between
from bilge_core.document.circuit.run import Run, length_of
from bilge_core.errors import InvalidQuantity
from bilge_core.lines.bending import Bender, bending_sheet, clocking, retraced
from bilge_core.lines.chain import chain_of, chains, screws
from bilge_core.lines.laid import loss_of
from bilge_core.lines.stock import cut_from
from bilge_core.shop import PARTS
from bilge_core.shop.fittings import FITTINGS, cut_off
from bilge_core.shop.threads import (
    DASHES,
    INCH,
    THREADS,
    Joint,
    inches,
    joint_of,
    taper_form,
    tube_diameter,
)
from hypothesis import given, settings
from hypothesis import strategies as st

coordinates = st.floats(-1.0, 1.0).map(lambda value: round(value, 3))
places = st.tuples(coordinates, coordinates, coordinates)


class TestRoutes:
    def test_a_quarter_bend_is_as_long_as_the_closed_form(self) -> None:
        """Legs of 300 and 400, a radius of 100: 200 + 300 + 100 pi / 2."""
        route = laid([[0, 0, 0], [0.3, 0, 0], [0.3, 0.4, 0]], [0.1])
        assert route.length == pytest.approx(0.2 + 0.3 + 0.1 * math.pi / 2, abs=1e-12)
        assert route.arcs[0].taken == pytest.approx(0.1)
        assert route.tightest is route.arcs[0]

    def test_its_samples_lie_on_the_bend(self) -> None:
        route = laid([[0, 0, 0], [0.3, 0, 0], [0.3, 0.4, 0]], [0.1])
        samples = route.sampled(0.005)
        steps = np.linalg.norm(np.diff(samples, axis=0), axis=1)
        assert steps.max() < 0.0051
        assert steps.sum() == pytest.approx(route.length, rel=1e-3)
        bent = samples[(samples[:, 0] > 0.2 + 1e-9) & (samples[:, 1] < 0.1 - 1e-9)]
        away = np.linalg.norm(bent - [0.2, 0.1, 0.0], axis=1)
        assert away == pytest.approx(np.full(len(bent), 0.1), abs=1e-9)

    def test_a_point_on_a_straight_is_no_bend(self) -> None:
        route = laid([[0, 0, 0], [0.1, 0, 0], [0.3, 0, 0], [0.3, 0.2, 0]], [0.5, 0.05])
        assert len(route.arcs) == 1 and route.arcs[0].point == 2
        assert route.straights == pytest.approx((0.25, 0.15))

    def test_a_leg_that_is_too_short_is_below_nil(self) -> None:
        route = laid([[0, 0, 0], [0.05, 0, 0], [0.05, 0.2, 0]], [0.1])
        assert route.straights[0] == pytest.approx(-0.05)

    @pytest.mark.parametrize(
        ("points", "radii"),
        [
            ([[0, 0, 0]], []),
            ([[0, 0, 0], [0, 0, 0]], []),
            ([[0, 0, 0], [1, 0, 0], [0, 0, 0]], [0.1]),
            ([[0, 0, 0], [1, 0, 0], [1, 1, 0]], [-0.1]),
            ([[0, 0, 0], [1, 0, 0], [1, 1, 0]], []),
        ],
        ids=["one point", "no length", "turns back", "radius", "no radius"],
    )
    def test_what_is_no_route_is_refused(self, points: Any, radii: Any) -> None:
        with pytest.raises(InvalidQuantity):
            laid(points, radii)

    @settings(max_examples=60, deadline=None)
    @given(points=st.lists(places, min_size=2, max_size=6, unique=True), by=places)
    def test_moving_all_of_it_by_one_vector_changes_no_length(
        self, points: list[tuple[float, float, float]], by: tuple[float, float, float]
    ) -> None:
        radii = [0.01] * (len(points) - 2)
        try:
            route = laid(points, radii)
        except InvalidQuantity:
            return
        moved = laid(np.array(points) + np.array(by), radii)
        assert moved.length == pytest.approx(route.length, abs=1e-9)

    def test_a_run_counts_its_bends_and_its_slack(self) -> None:
        ends: Any = {"component": "c1", "port": "a"}
        by: Any = [{"at_mm": (0, 0, 0)}, {"at_mm": (300, 0, 0), "radius_mm": 100},
                   {"at_mm": (300, 400, 0)}]  # fmt: skip
        line: Any = {"kind": "hose", "dash": 10, "slack_mm": 15}
        run = Run(name="it", service="pressure", start=ends, end=ends, line=line, route=by)
        assert length_of(run) == pytest.approx(500 + 50 * math.pi + 15)


@st.composite
def tubes(draw: st.DrawFn) -> Any:
    """Tubes with room for their bends: legs of 150 to 400 mm, bends of 40 mm up to 120°."""
    points = [np.zeros(3)]
    way = np.array([1.0, 0.0, 0.0])
    for at in range(draw(st.integers(2, 6))):
        if at:
            turn = math.radians(draw(st.floats(15, 120)))
            roll = draw(st.floats(-math.pi, math.pi))
            aside = np.cross(way, [0.3, 0.5, 0.81] if abs(way[2]) < 0.9 else [1.0, 0.0, 0.0])
            aside /= np.linalg.norm(aside)
            other = np.cross(way, aside)
            side = math.cos(roll) * aside + math.sin(roll) * other
            way = math.cos(turn) * way + math.sin(turn) * side
        points.append(points[-1] + draw(st.floats(0.15, 0.4)) * way)
    return laid(points, [0.04] * (len(points) - 2))


class TestBendingSheet:
    @settings(max_examples=80, deadline=None)
    @given(route=tubes())
    def test_bent_by_its_sheet_a_tube_comes_to_its_route(self, route: Any) -> None:
        """Within 0.5 mm, figures as they are written on the sheet: to 0.1 mm and 0.1°."""
        sheet = bending_sheet(route, Bender())
        points = retraced(sheet)
        apart = np.linalg.norm(points[:, None] - points[None], axis=2)
        wanted = np.linalg.norm(route.points[:, None] - route.points[None], axis=2)
        assert np.abs(apart - wanted).max() < 5e-7
        if len(points) > 3:  # handed the right way, too

            def hand(rows: Any) -> float:
                return float(np.linalg.det(rows[1:4] - rows[0:3]))

            assert hand(points) == pytest.approx(hand(route.points), abs=1e-9)

    def test_an_s_in_a_plane_is_rolled_half_round(self) -> None:
        route = laid([[0, 0, 0], [0.2, 0, 0], [0.2, 0.2, 0], [0.4, 0.2, 0]], [0.04, 0.04])
        first, second = bending_sheet(route, Bender()).pulls
        assert abs(second.roll) == pytest.approx(math.pi)
        assert first.turn == second.turn == pytest.approx(math.pi / 2)
        assert second.straight == pytest.approx(0.2 - 0.08)

    def test_out_of_the_plane_it_is_rolled_a_quarter(self) -> None:
        """Along x, turned to y, then up: about the tube, seen from behind, with the clock."""
        route = laid([[0, 0, 0], [0.2, 0, 0], [0.2, 0.2, 0], [0.2, 0.2, 0.2]], [0.04, 0.04])
        assert bending_sheet(route, Bender()).pulls[1].roll == pytest.approx(math.pi / 2)

    def test_springback_stretch_flares_and_spare_are_counted(self) -> None:
        route = laid([[0, 0, 0], [0.3, 0, 0], [0.3, 0.4, 0]], [0.05])
        bender = Bender(springback=0.1, stretch=0.004, flare=0.003, spare=0.1)
        sheet = bending_sheet(route, bender)
        assert sheet.pulls[0].pulled == pytest.approx(0.55 * math.pi)
        assert sheet.pulls[0].mark == pytest.approx(0.253)
        assert sheet.developed == pytest.approx(0.25 + 0.35 + 0.025 * math.pi)
        assert sheet.cut == pytest.approx(sheet.developed + 0.006 - 0.004)
        assert sheet.stock == pytest.approx(sheet.cut + 0.1)

    def test_a_tube_that_cannot_be_bent_is_refused(self) -> None:
        with pytest.raises(InvalidQuantity, match="no elbows"):
            bending_sheet(laid([[0, 0, 0], [0.3, 0, 0], [0.3, 0.4, 0]], [0.0]), Bender())
        with pytest.raises(InvalidQuantity, match="as long as its bends take"):
            bending_sheet(laid([[0, 0, 0], [0.03, 0, 0], [0.03, 0.4, 0]], [0.05]), Bender())

    def test_clocking_of_two_ends(self) -> None:
        straight = laid([[0, 0, 0], [0.5, 0, 0]], [])
        up, left, ahead = np.eye(3)[2], np.eye(3)[1], np.eye(3)[0]
        assert clocking(straight, up, up) == pytest.approx(0.0)
        assert clocking(straight, left, up) == pytest.approx(math.pi / 2)
        assert clocking(straight, ahead, up) is None
        # round a bend in the plane the plane's own normal stays
        bent = laid([[0, 0, 0], [0.3, 0, 0], [0.3, 0.4, 0]], [0.1])
        assert clocking(bent, up, up) == pytest.approx(0.0)
        assert clocking(bent, up, ahead) == pytest.approx(math.pi / 2)


class TestThreads:
    @pytest.mark.parametrize(
        ("dash", "thread"),
        [(3, "3/8-24"), (4, "7/16-20"), (6, "9/16-18"), (8, "3/4-16"), (10, "7/8-14"),
         (12, "1 1/16-12"), (16, "1 5/16-12"), (20, "1 5/8-12")],
    )  # fmt: skip
    def test_flares_have_the_standards_threads(self, dash: int, thread: str) -> None:
        """SAE J514 table of 37° flares, from memory; J1926 ports have the same by size."""
        assert THREADS[f"flare {dash}"].thread == THREADS[f"o_ring {dash}"].thread == thread

    @pytest.mark.parametrize("dash", DASHES)
    def test_a_tapping_drill_lies_between_the_internal_threads_limits(self, dash: int) -> None:
        """ASME B1.1 (from memory): least minor diameter D - 1.0825 p; class 2B's most is about
        D - 0.9 p. A drill is chosen between, a few thousandths over at the most."""
        port = THREADS[f"o_ring {dash}"]
        assert port.major is not None and port.pitch is not None
        letters = {"Q": 0.332}
        drill = letters.get(port.drill) or inches(port.drill)
        least = (port.major - 1.0825 * port.pitch) / INCH
        assert least - 5e-4 <= drill <= (port.major - 0.85 * port.pitch) / INCH + 1e-3

    @pytest.mark.parametrize(
        ("size", "small", "hand_tight", "effective"),
        [("1/8", 0.36351, 0.37360, 0.2639), ("1/4", 0.47739, 0.49163, 0.4018),
         ("3/8", 0.61201, 0.62701, 0.4078), ("1/2", 0.75843, 0.77843, 0.5337),
         ("3/4", 0.96768, 0.98887, 0.5457), ("1", 1.21363, 1.23863, 0.6828)],
    )  # fmt: skip
    def test_taper_threads_against_the_standards_table(
        self, size: str, small: float, hand_tight: float, effective: float
    ) -> None:
        """ASME B1.20.1 table 2, E0, E1 and L2 in inches, from memory."""
        form = taper_form(size)
        assert form.small_end / INCH == pytest.approx(small, abs=2e-5)
        assert form.hand_tight / INCH == pytest.approx(hand_tight, abs=3e-5)
        assert form.effective / INCH == pytest.approx(effective, abs=1e-4)

    def test_a_dash_is_sixteenths_of_an_inch(self) -> None:
        """Common practice, no published source."""
        assert [round(tube_diameter(dash) / INCH, 4) for dash in (4, 6, 8, 10, 12, 16, 20)] == [
            0.25, 0.375, 0.5, 0.625, 0.75, 1.0, 1.25,
        ]  # fmt: skip

    def test_no_tape_on_a_flare_and_some_on_a_taper(self) -> None:
        assert "no tape" in THREADS["flare 10"].seals
        assert "1 1/2 to 2 turns" in THREADS["taper 1/2"].seals
        assert "one thread back" in THREADS["taper 1/2"].seals

    def test_what_a_document_says_is_read(self) -> None:
        assert joint_of(" o_ring 10 male ") == Joint("o_ring 10", "male")
        assert joint_of("") is None and joint_of("flare 10 both") is None


def keys(port: str, end: str = "flare 10 female") -> list[list[str]]:
    here, there = joint_of(port), joint_of(end)
    assert here and there
    return [[part.key for part in each.fittings] for each in chains(here, there)]


class TestChains:
    """Cases worked by hand."""

    def test_a_flare_takes_its_hose_end_bare(self) -> None:
        assert keys("flare 10 male") == [[]]

    def test_one_adaptor(self) -> None:
        assert keys("taper 1/2 female")[0] == ["taper_1-2_10"]
        assert keys("o_ring 10 female")[0] == ["o_ring_10_10"]
        assert keys("metric M22x1.5 female")[0] == ["metric_M22x1.5_10"]
        assert keys("flange drain female")[0] == ["drain_flange_10"]

    def test_two_where_no_one_part_has_both_ends(self) -> None:
        """3/4 in pipe to size 10: a bush to 1/2 in, then the adaptor (16 + 12); the other way, an
        adaptor to size 12 and a reducer, costs more."""
        first = keys("taper 3/4 female")[0]
        assert first == ["bush_3-4_1-2", "taper_1-2_10"]

    def test_three(self) -> None:
        """A size 4 metric port to a size 12 line: adaptor to 4 or 6, then up by expanders."""
        first = keys("metric M10x1 female", "flare 12 female")[0]
        assert first[0] == "metric_M10x1_4" and 2 <= len(first) <= 3

    def test_straight_before_angled_and_others_on_demand(self) -> None:
        found = keys("taper 1/2 female")
        assert "taper_1-2_10_90" not in found[0] and len(found) == 3
        assert len({tuple(each) for each in found}) == 3

    def test_fewer_parts_first_and_straight_before_angled(self) -> None:
        ends = [each for each in THREADS.values() if each.family == "flare"]
        ports = [each for each in THREADS.values() if each.family in ("taper", "o_ring", "metric")]
        for port in ports:
            for end in ends:
                told = chains(Joint(port.key, "female"), Joint(end.key, "female"))
                ranks = [
                    (len(each.fittings), sum(part.angle > 0 for part in each.fittings))
                    for each in told
                ]
                assert ranks == sorted(ranks)

    def test_none(self) -> None:
        assert keys("stud M20x1.5 male") == []
        assert keys("flange feed female", "flare 24 female") == []

    @pytest.mark.parametrize("port", ["taper 1/2 female", "o_ring 8 female", "taper 1 female"])
    def test_every_chain_screws_together(self, port: str) -> None:
        here, there = joint_of(port), joint_of("flare 10 female")
        assert here and there
        for chain in chains(here, there, 3):
            assert screws(here, chain, there)
            assert not screws(there, chain, there)

    def test_a_chosen_chain_that_is_no_fitting_is_none(self) -> None:
        assert chain_of(["union_11"]) is None
        with pytest.raises(InvalidQuantity):
            chains(Joint("flare 10", "male"), Joint("flare 10", "female"), 0)

    def test_two_seals_never_share_a_thread(self) -> None:
        """Flare and O-ring of a size have one thread, and must not be screwed together."""
        for part in FITTINGS.values():
            assert part.key in PARTS and "/" not in part.key and len(part.key) <= 40
        assert keys("o_ring 10 female")[0] != [] and keys("flare 10 female")[0] == ["union_10"]


class TestLoss:
    @pytest.mark.parametrize(("bore", "flow"), [(0.0141, 30 / 60e3), (0.0173, 60 / 60e3)])
    def test_friction_and_bends_against_fluids(self, bore: float, flow: float) -> None:
        """`fluids`: Darcy friction of a smooth pipe, entry 0.5 and exit 1, 0.3 a quarter bend."""
        ends: Any = {"component": "c1", "port": "a"}
        line: Any = {"kind": "hard_line", "dash": 10}
        run = Run(name="it", service="pressure", start=ends, end=ends, line=line)
        route = laid([[0, 0, 0], [0.3, 0, 0], [0.3, 0.4, 0]], [0.1])
        density, viscosity = 820.0, 0.009
        found = loss_of(run, route, route.length, bore, flow, density, viscosity)
        speed = flow / (math.pi / 4 * bore**2)
        friction = fluids.friction_factor(Re=density * speed * bore / viscosity, eD=0.0)
        head = density * speed**2 / 2
        wanted = head * (friction * route.length / bore + 1.5 + 0.3)
        assert found == pytest.approx(wanted, rel=0.2)

    def test_an_angled_hose_end_takes_more(self) -> None:
        ends: Any = {"component": "c1", "port": "a"}
        line: Any = {"kind": "hose", "dash": 10}

        def loss(angle: int) -> float:
            end: Any = {**ends, "hose_end_deg": angle}
            run = Run(name="it", service="pressure", start=ends, end=end, line=line)
            return loss_of(run, None, 0.5, 0.0141, 5e-4, 820.0, 0.009)

        assert loss(0) < loss(45) < loss(90)
        assert cut_off(10, 0) < cut_off(10, 45) < cut_off(10, 90) < cut_off(12, 90)


class TestStock:
    def test_pieces_come_out_of_bars_with_nothing_lost(self) -> None:
        pieces = [1.2, 1.9, 0.9, 1.0, 2.9]
        bars = cut_from(pieces, 3.0, 0.002)
        assert sorted(at for bar in bars for at in bar.pieces) == [0, 1, 2, 3, 4]
        assert len(bars) == 3  # 7.9 m: two and two thirds
        for bar in bars:
            used = sum(pieces[at] + 0.002 for at in bar.pieces)
            assert bar.left == pytest.approx(max(3.0 - used, 0.0))

    @pytest.mark.parametrize("length", [0.0, -1.0, 3.1])
    def test_a_piece_longer_than_a_bar_is_refused(self, length: float) -> None:
        with pytest.raises(InvalidQuantity, match="at most 3 m"):
            cut_from([length])


def test_turns_are_sound_near_nil_and_half_a_turn() -> None:
    ahead = np.array([1.0, 0.0, 0.0])
    for angle in (1e-7, 1e-3, math.pi - 1e-7):
        there = np.array([math.cos(angle), math.sin(angle), 0.0])
        assert turn_between(ahead, there) == pytest.approx(angle, rel=1e-6)
