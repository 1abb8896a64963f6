"""A dry sump's way back to its tank: plugs by hand, oil that adds up, sections of circuits."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from bilge_core.acts.go_dry import GoDry
from bilge_core.agreement.book import litres_at as in_book
from bilge_core.agreement.book import short_of_mark, used_in
from bilge_core.agreement.book_entries import Session
from bilge_core.document.build import Build
from bilge_core.document.ids import Document
from bilge_core.document.read import build_from, read_build
from bilge_core.forecast.stopping import standing
from bilge_core.network import network_of, steady
from bilge_core.network.breathing import AIR, gas_ways
from bilge_core.network.drain_guesses import DrainGuesses
from bilge_core.network.held import held_running, held_words
from bilge_core.network.on_the_way import OnTheWay
from bilge_core.network.way_back import TAKEN_OUT, WayBack, way_back_of
from bilge_core.pan import assemble_pan
from bilge_core.pan.filling import LYING, oil_in_tank
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.scavenge.lap import dry_lap
from bilge_core.scavenge.level import after_a_start
from bilge_core.scavenge.sizing import sizing
from bilge_core.scavenge.vacuum import tank_over
from bilge_core.scavenge.way_back import Along, along, carried
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import DEMO, steady_log

CURLEW = read_build((DEMO / "curlew.json").read_text())
DASH_12, DASH_16 = 1.727e-2, 2.362e-2  # [m] bores of the hoses, as `bore_of` has them


def one(volume: float = 2e-3, kept: float = 1.0) -> WayBack:
    """A single section before the tank, one stage."""
    return WayBack(
        np.array([volume]), np.array([-1]), np.array([kept]), np.zeros(1, dtype=np.int64),
        np.ones(1, dtype=bool), np.array([1e-6]),
    )  # fmt: skip


def fed(on_way: OnTheWay, volume: float, oil: float, steps: int = 1) -> list[float]:
    return [on_way.brings(np.array([volume]), np.array([oil])) for _ in range(steps)]


class TestPlug:
    def test_what_came_in_first_leaves_first(self) -> None:
        """By hand: two litres at a litre a second; what is sent comes out two seconds later."""
        on_way = OnTheWay(one(), np.array([0.2]))
        assert on_way.held == pytest.approx(0.4e-3)
        out = fed(on_way, 1e-4, 0.5e-4, 40)
        assert out[:20] == pytest.approx([0.2e-4] * 20)
        assert out[20:] == pytest.approx([0.5e-4] * 20)
        assert on_way.held == pytest.approx(1.0e-3)

    def test_a_step_may_be_longer_than_the_way(self) -> None:
        on_way = OnTheWay(one(1e-4), np.array([1.0]))
        assert fed(on_way, 5e-4, 1e-4) == pytest.approx([1e-4 + 4e-4 * 0.2])
        assert on_way.held == pytest.approx(0.2e-4)

    def test_a_way_that_holds_nothing_delays_nothing(self) -> None:
        assert fed(OnTheWay(one(0.0), np.zeros(1)), 1e-4, 0.3e-4, 3) == pytest.approx([0.3e-4] * 3)

    def test_a_stage_that_stands_moves_nothing(self) -> None:
        on_way = OnTheWay(one(), np.array([0.5]))
        assert fed(on_way, 0.0, 0.0, 5) == [0.0] * 5
        assert on_way.held == pytest.approx(1e-3)

    def test_behind_a_separator_there_is_less_to_carry(self) -> None:
        """By hand: of 1 L/s with half oil, 0.3 of the gas goes on: 0.65 L/s, a litre in 1.54 s."""
        way = WayBack(
            np.array([0.0, 1e-3]), np.array([1, -1]), np.array([0.3, 1.0]),
            np.zeros(1, dtype=np.int64), np.ones(1, dtype=bool), np.array([2e-6]),
        )  # fmt: skip
        on_way = OnTheWay(way, np.zeros(2))
        out = np.array(fed(on_way, 1e-3, 0.5e-3, 4))
        gone = 4 * 0.65 - 1.0  # litres that have left, of which each holds 0.5 of 0.65
        assert out.sum() == pytest.approx(gone * 0.5 / 0.65 * 1e-3)
        assert way.steady_shares(0.5e-3, 500.0) == pytest.approx([0.5, 0.5 / 0.65])
        assert way.takes(0.5e-3, 500.0) == pytest.approx([1.0 / 0.65])

    def test_it_goes_on_for_longer_than_there_was_room_for(self) -> None:
        on_way = OnTheWay(one(1e-3), np.zeros(1))
        out = fed(on_way, 1e-5, 0.4e-5, 3000)
        assert out[:100] == pytest.approx([0.0] * 100)
        assert out[101:] == pytest.approx([0.4e-5] * 2899)

    def test_a_stage_that_draws_from_no_pan_brings_gas_alone(self) -> None:
        """By hand: one draws and brings the fed 0.2 L/s of its 0.5, a turbo's own brings 0.5 L/s of
        gas: 0.4 of the first's line is oil, 0.2 of what they share.
        """
        way = WayBack(
            np.array([1e-3, 1e-3, 1e-3]), np.array([2, 2, -1]), np.ones(3), np.array([0, 1]),
            np.array([True, False]), np.array([1e-6, 1e-6]),
        )  # fmt: skip
        assert way.steady_shares(0.2e-3, 500.0) == pytest.approx([0.4, 0.0, 0.2])
        assert way.takes(0.2e-3, 500.0) == pytest.approx([3.0, 3.0])

    def test_many_steps_at_once_are_the_same_as_one_by_one(self) -> None:
        way = way_back_of(CURLEW)
        assert way is not None
        rows = np.random.default_rng(7).uniform(0.0, 4e-6, (2500, 3))
        oil = rows * np.linspace(0.0, 1.0, 2500)[:, None]
        one_by_one, at_once = (OnTheWay(way, np.full(len(way.volumes), 0.3)) for _ in range(2))
        for volume, brought in zip(rows, oil, strict=True):
            one_by_one.brings(volume, brought)
        at_once.brings_all(rows[:7], oil[:7])
        at_once.brings_all(rows[7:], oil[7:])
        assert at_once.held == one_by_one.held
        for a, b in zip(at_once.seen(), one_by_one.seen(), strict=True):
            assert np.array_equal(a, b)

    @given(
        st.lists(st.tuples(*[st.floats(0, 1)] * 6), min_size=1, max_size=60),
        st.lists(st.floats(0, 3), min_size=4, max_size=4),
        st.lists(st.floats(0, 1), min_size=4, max_size=4),
    )
    def test_no_oil_is_made_or_lost_and_none_is_below_nil(
        self, rows: list[tuple[float, ...]], volumes: list[float], shares: list[float]
    ) -> None:
        """Three stages, two joined, the three joined behind a separator."""
        way = WayBack(
            np.array([*volumes]), np.array([2, 2, 3, -1]), np.array([1.0, 1.0, 0.3, 1.0]),
            np.array([0, 1, 2]), np.ones(3, dtype=bool), np.ones(3),
        )  # fmt: skip
        on_way = OnTheWay(way, np.array(shares))
        before, sent, came = on_way.held, 0.0, 0.0
        for row in rows:
            volume, oil = np.array(row[:3]), np.array(row[:3]) * np.array(row[3:])
            into = on_way.brings(volume, oil)
            assert into >= -1e-12
            sent, came = sent + float(oil.sum()), came + into
            assert before + sent - came == pytest.approx(on_way.held, abs=1e-9)
            assert -1e-9 <= on_way.held <= way.volumes.sum() + 1e-9

    def test_running_steadily_it_stays_as_it_began(self) -> None:
        way = way_back_of(CURLEW)
        assert way is not None
        speed, taken = 420.0, 3e-4
        on_way = OnTheWay(way, way.steady_shares(taken, speed))
        before = on_way.held
        swept = way.per_radian * speed * 0.01
        share = taken / float((way.per_radian * speed).sum())
        for _ in range(300):
            assert on_way.brings(swept, swept * share) == pytest.approx(taken * 0.01)
        assert on_way.held == pytest.approx(before)


def circuit_of(change: Any) -> Build:
    document = CURLEW.model_dump(mode="json")
    change(document["circuit"])
    return build_from(document)


def part(circuit: Document, name: str) -> Document:
    return next(each for each in circuit["components"] if each["name"] == name)  # type: ignore[no-any-return]


class TestSections:
    def test_the_demos_lines_by_hand(self) -> None:
        """Three hoses of 0.7 m to the stages, four of 0.6 m as far as the tees, three wide ones."""
        way = way_back_of(CURLEW)
        assert way is not None and way.rough == 0
        narrow, wide = (np.pi / 4.0 * bore**2 for bore in (DASH_12, DASH_16))
        hoses = narrow * (3 * 0.7 + 4 * 0.6) + wide * 3 * 0.6
        cooler = 0.45e-3  # the guess
        assert float(way.volumes.sum()) == pytest.approx(hoses + cooler, rel=0.002)
        assert way.entries.tolist() == [0, 1, 2] and way.kept.tolist().count(1 - TAKEN_OUT) == 1
        assert np.all((way.onward > np.arange(len(way.onward))) | (way.onward == -1))

    def test_what_a_cooler_or_separator_is_told_to_hold_counts(self) -> None:
        def told(circuit: Document) -> None:
            part(circuit, "scavenge cooler")["holds_l"] = 0.8
            part(circuit, "separator")["holds_l"] = 0.5

        way, before = way_back_of(circuit_of(told)), way_back_of(CURLEW)
        assert way is not None and before is not None
        more = float(way.volumes.sum() - before.volumes.sum())
        assert more == pytest.approx(0.8e-3 - 0.45e-3 + 0.5e-3)

    def test_lines_without_a_length_are_counted_as_rough(self) -> None:
        def rough(circuit: Document) -> None:
            for run in circuit["runs"]:
                if run["name"] in ("back to the tank", "front scavenge"):
                    run["line"]["length_mm"] = None

        build = circuit_of(rough)
        way = way_back_of(build)
        assert way is not None and way.rough == 2
        log = steady_log(0.0, 0.5, 4.0)
        lap = dry_lap(build, assemble_pan(build), log)
        row = next(each for each in sizing(build, log, lap) if each.key == "coming_back")
        assert row.state == "caution" and row.why.startswith("2 of its lines have no length")

    def test_lines_that_go_round_end_all_the_same(self) -> None:
        """Drawn wrongly, back into a tee: no way is endless, and no oil is lost by it."""

        def ring(circuit: Document) -> None:
            tee = part(circuit, "scavenge tee")["id"]
            stage = part(circuit, "rear right stage")["id"]
            runs = [each for each in circuit["runs"] if each["start"]["component"] != stage]
            last = next(each for each in runs if each["name"] == "back to the tank")
            last["end"] |= {"component": tee, "port": "b"}
            circuit["runs"] = runs

        way = way_back_of(circuit_of(ring))
        assert way is not None
        assert np.all((way.onward > np.arange(len(way.onward))) | (way.onward == -1))

    def test_a_stage_that_leads_nowhere_is_its_own_way(self) -> None:
        def cut(circuit: Document) -> None:
            front = part(circuit, "front stage")["id"]
            circuit["runs"] = [r for r in circuit["runs"] if r["start"]["component"] != front]

        way = way_back_of(circuit_of(cut))
        assert way is not None and way.onward[way.entries[0]] == -1


class TestBuild:
    def test_a_wet_sump_has_none(self) -> None:
        wet = read_build((DEMO / "dunlin.json").read_text())
        assert way_back_of(wet) is None and held_running(wet).coming_back == 0.0
        assert "coming back" not in held_words(held_running(wet))

    def test_what_comes_back_is_not_in_the_tank(self) -> None:
        """With lines twice as long the tank has less by what they hold more."""

        def longer(circuit: Document) -> None:
            for run in circuit["runs"]:
                if run["service"] in ("scavenge", "return") and run["line"].get("length_mm"):
                    run["line"]["length_mm"] *= 2

        build = circuit_of(longer)
        more = held_running(build).coming_back - held_running(CURLEW).coming_back
        assert more > 0.5e-3
        assert oil_in_tank(CURLEW) - oil_in_tank(build) == pytest.approx(more, abs=1e-6)
        assert f"{held_running(build).coming_back * 1e3:.1f} coming back" in held_words(
            held_running(build)
        )

    def test_the_tank_falls_later_than_the_stage_loses_its_oil(self) -> None:
        """The front mouth runs dry at once in a long left; the tank hears of it by the lines."""
        way = way_back_of(CURLEW)
        assert way is not None
        log = steady_log(0.0, 1.1, 8.0)
        lap = dry_lap(CURLEW, assemble_pan(CURLEW), log)
        whole = lap.in_pan + lap.in_tank + lap.coming_back
        assert float(np.ptp(whole)) < 1e-9
        network = network_of(CURLEW)
        taken = float(steady(network).drawn_at(np.array(network.running)))
        assert 0.5 < float(way.takes(taken, network.running).max()) < 4.0
        assert replace(way, volumes=way.volumes * 2).takes(taken, 400.0) == pytest.approx(
            2 * way.takes(taken, 400.0)
        )

    def test_other_stages_go_the_way_of_those_whose_mouths_they_have(self) -> None:
        def unlike(circuit: Document) -> None:
            front = next(run for run in circuit["runs"] if run["name"] == "front scavenge")
            front["line"]["length_mm"] = 4000

        build = circuit_of(unlike)
        pan, log = assemble_pan(build), steady_log(0.5, 0.8, 6.0)
        own = dry_lap(build, pan, log)
        turned = dry_lap(build, pan, log, stages=tuple(reversed(own.stages)))
        assert turned.in_tank == pytest.approx(own.in_tank, abs=1e-9)

    def test_going_dry_pours_for_what_the_lines_hold(self) -> None:
        act = GoDry(kind="go_dry", depth_mm=58, pickups=3, ratio=2.4, tank_l=8.0)
        assert act.poured_l(CURLEW) == pytest.approx(CURLEW.oil.volume_l, abs=0.01)


class TestAlong:
    """What the drawing shows of the way back at a moment."""

    TIME = np.arange(0.0, 12.0, 0.01)

    def carried_by(self, share: float, build: Build = CURLEW, until: float = 12.0) -> Along:
        """All three stages at 24 L/min, with a share of oil that ends at a time."""
        swept = np.full((len(self.TIME), 3), 0.4e-3)
        oil = swept * share * (until > self.TIME)[:, None]
        return along(build, self.TIME, swept, oil, 10)

    def test_in_the_end_it_is_what_a_steady_way_has(self) -> None:
        """As `carried` tells it: all the way through a separator, then a cooler, into the tank."""
        seen = self.carried_by(0.4)
        steady_there = carried(CURLEW.circuit, 0.6)
        assert steady_there is not None and seen.in_cooler is not None
        assert seen.joined[-1] == pytest.approx(0.6)
        assert seen.in_cooler[-1] == pytest.approx(steady_there.in_cooler)
        assert seen.into_tank[-1] == pytest.approx(steady_there.into_tank)
        way = way_back_of(CURLEW)
        assert way is not None
        shares = way.steady_shares(0.4 * 3 * 0.4e-3, float(0.4e-3 / way.per_radian[0]))
        assert seen.held[-1] == pytest.approx(way.holds(shares))

    def test_air_comes_to_the_cooler_later_than_to_the_stages(self) -> None:
        """From four seconds on the stages draw air: by then the tank has none yet."""
        seen = self.carried_by(0.4, until=4.0)
        assert seen.in_cooler is not None
        joined, cooler, tank = (
            float(np.argmax(each > 0.99)) * 0.1
            for each in (seen.joined, seen.in_cooler, seen.into_tank)
        )
        assert 4.0 < joined < cooler <= tank
        assert seen.held[-1] == pytest.approx(0.0, abs=1e-9)

    def test_without_a_cooler_there_is_none_in_it(self) -> None:
        def bare(circuit: Document) -> None:
            cooler, tank = part(circuit, "scavenge cooler")["id"], part(circuit, "oil tank")["id"]
            circuit["components"] = [c for c in circuit["components"] if c["id"] != cooler]
            last = next(run for run in circuit["runs"] if run["start"]["component"] == cooler)
            circuit["runs"] = [run for run in circuit["runs"] if run is not last]
            into = next(run for run in circuit["runs"] if run["end"]["component"] == cooler)
            into["end"] |= {"component": tank, "port": "returns"}

        seen = self.carried_by(0.4, circuit_of(bare))
        assert seen.in_cooler is None and seen.joined[-1] == pytest.approx(0.6)

    def test_stages_that_stand_show_gas(self) -> None:
        still = np.zeros((len(self.TIME), 3))
        seen = along(CURLEW, self.TIME, still, still, 7)
        assert np.all(seen.into_tank == 1.0) and len(seen.into_tank) == len(self.TIME[::7])
        assert np.ptp(seen.held) == 0.0 and seen.held[0] > 0.5e-3


class TestTankStartAndVent:
    def test_after_a_start_the_tank_lacks_what_is_on_its_way_at_idle(self) -> None:
        """By hand: what heads, crank and lines hold at 900 rpm; first oil by the shortest way."""
        idle = float(speed_of_rpm(900.0))
        held, way = held_running(CURLEW, idle), way_back_of(CURLEW)
        assert way is not None
        lacks, first = after_a_start(CURLEW)
        assert lacks == pytest.approx(held.up_top + held.thrown + held.coming_back)
        assert held.coming_back > 0.5e-3
        shortest = float(way.takes(1e-4, idle).min())
        assert first == pytest.approx(shortest, rel=0.25)  # less gas, less behind the separator

    def test_a_wet_sump_lacks_what_is_up_top(self) -> None:
        wet = read_build((DEMO / "dunlin.json").read_text())
        lacks, first = after_a_start(wet)
        assert first == 0.0
        assert lacks == pytest.approx(held_running(wet, float(speed_of_rpm(900.0))).aloft)

    def test_a_tanks_vent_is_hose_and_breather(self) -> None:
        """By hand: both in line, each with the whole flow."""
        flow = 1.5e-3
        ways = {way.name: way for way in gas_ways(CURLEW, DrainGuesses()).ways}
        hose = ways["breathing of the tank"].by.drop(flow)
        breather = next(way.by.drop(flow) for way in ways.values() if way.end == AIR)
        assert tank_over(CURLEW, flow) == pytest.approx(hose + breather)
        assert tank_over(CURLEW, 0.0) == 0.0

        def shut(circuit: Document) -> None:
            circuit["runs"] = [r for r in circuit["runs"] if r["name"] != "breathing of the tank"]

        assert tank_over(circuit_of(shut), flow) is None

    @pytest.mark.parametrize(("opening", "state"), [(16, "good"), (5, "caution")])
    def test_a_narrow_breather_is_told_among_the_sizes(self, opening: float, state: str) -> None:
        def narrow(circuit: Document) -> None:
            for each in circuit["components"]:
                if each["kind"] == "breather":
                    each["opening_mm"] = opening

        row = next(
            each for each in sizing(circuit_of(narrow), None, None) if each.key == "tank_vent"
        )
        assert row.state == state and "L/min of gas" in row.at


class TestStopped:
    def test_a_dry_cars_levels_are_its_tanks(self) -> None:
        """By hand: a round tank of 164 mm, 100 mm of it; more than it holds is full."""
        area = np.pi / 4.0 * 0.164**2
        assert in_book(CURLEW, 0.1) == pytest.approx(0.1 * area, rel=1e-3)
        assert in_book(CURLEW, 0.9) == pytest.approx(8e-3, rel=0.01)
        session = Session(
            kind="session", id="s", on="2026-06-07", circuit="Ring", hours=1.0,
            level_before_mm=200.0, level_after_mm=190.0,
        )  # fmt: skip
        assert used_in(session, CURLEW).oil == pytest.approx(0.010 * area, rel=1e-3)
        assert short_of_mark(session, CURLEW) is None

    def test_a_dry_pan_has_what_came_down_and_no_more(self) -> None:
        held = held_running(CURLEW)
        stands = standing(CURLEW)
        assert stands.volume == pytest.approx(LYING + held.aloft + held.coming_back)
        assert stands.over_mark is None and stands.level is not None and stands.level < 0.05
        assert standing(CURLEW, 0.3e-3).volume - stands.volume == pytest.approx(0.3e-3)
