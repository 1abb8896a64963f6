"""Drains that share a length, drains that a stage pulls, and routes with bends."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from bilge_core.acts.registry import read_act
from bilge_core.checks.drains import check_drains
from bilge_core.document.build import Build
from bilge_core.document.car import Car
from bilge_core.document.circuit.joining import Tee
from bilge_core.document.circuit.pumps import ScavengeStage
from bilge_core.drains.drain_rose import drain_rose
from bilge_core.drains.feeds import feeds_of, with_others
from bilge_core.drains.laid import drains_of
from bilge_core.drains.line import DrainLine, Piece, foamed, line_along
from bilge_core.drains.over_lap import Met, drain_over
from bilge_core.drains.pulled import suction
from bilge_core.drains.standing import Load, capacity, stands
from bilge_core.errors import InvalidInput
from bilge_core.forecast.back_ups import DrainsForecast, drains_at
from bilge_core.network.breathing import place_of_port
from bilge_core.pan import assemble_pan
from bilge_core.tell.drains import drains_out
from bilge_core.tell.drains_verdict import drains_verdict
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.falling import BELOW, FROTH, PAN, UP, G
from tests.turbo import (
    RUN,
    SANDPIPER,
    act,
    changed,
    head_of,
    over,
    part,
    scavenged,
    states,
    tuned,
    turbo_of,
)

THICK, THICK_FROTH = foamed(880.0, 600e-6, 0.0), foamed(880.0, 600e-6, 0.4)
PIECES = [Piece("own", 0.0141, 0.1, "a"), Piece("both", 0.0141, 0.1, "b")]


def two_pieces(times: float = 1.0) -> DrainLine:
    line = line_along(
        [(0, 0, 0.2), (0, 0.1, 0)], [0, 0], PIECES, [Piece("outlet", 0.016)], seal=(0, 0, 0.7)
    )
    return line.carrying({"b": times})


def steadily(
    line: DrainLine, flow: float, surface: float, oil: Any = FROTH, seconds: float = 40.0
) -> Any:
    time = np.arange(0.0, seconds, 0.04)
    n = len(time)
    met = Met(
        time, np.tile(UP, (n, 1)), np.full(n, G), np.full(n, surface), np.full(n, flow), np.zeros(n)
    )
    return drain_over(line, 12e-4, oil, met)


def twins(**drained: Any) -> tuple[Build, str, str]:
    """The demo's car with a second turbo beside the first, drained into the first one's line."""
    build = act(SANDPIPER, kind="feed_turbo", restrictor_mm=1.5)
    second = turbo_of(build, 1)
    build = act(
        build, kind="drain_turbo", turbo=second, how="joined", other=turbo_of(build), **drained
    )
    other = next(r.id for r in build.circuit.runs if r.start.component == second)
    build = tuned(build, other, outlet_mm=[200, -190, 110], meets_mm=[72, -140, 30])
    return build, RUN, other


def by_run(forecast: DrainsForecast, run: str) -> Any:
    return next(each for each in forecast.forecasts if each.drain.run == run)


class TestASharedLength:
    def test_thick_oil_in_a_full_line_is_hagen_and_poiseuille_with_twice_the_flow(self) -> None:
        flow, level = 0.3 / 60e3, 0.3
        found = stands(two_pieces(2.0), flow, THICK, Load(UP, G, level))
        each = 128 * 600e-6 * 0.5 * two_pieces().length * flow / (math.pi * G * 0.0141**4)
        assert found.head - level == pytest.approx(3.0 * each, rel=0.01)

    def test_nothing_shared_is_as_before(self) -> None:
        alone = stands(two_pieces(), 2 / 60e3, FROTH, BELOW)
        assert stands(two_pieces(1.0), 2 / 60e3, FROTH, BELOW).head == alone.head

    def test_a_length_that_all_is_shared_runs_as_with_the_whole_flow(self) -> None:
        """Of a line shared from its outlet on only the housing's hole tells the two apart."""
        wide = [Piece("outlet", 0.1)]
        line = line_along(
            [(0, 0, 0.2), (0, 0.1, 0)], [0, 0], [Piece("hose", 0.0141, 0.2, "b")], wide
        )
        shared = stands(line.carrying({"b": 2.0}), 1 / 60e3, FROTH, BELOW)
        whole = stands(line, 2 / 60e3, FROTH, BELOW)
        np.testing.assert_allclose(shared.heads, whole.heads, atol=1e-9)

    @settings(max_examples=60, deadline=None)
    @given(st.floats(1.0, 4.0), st.floats(0.0, 3.0), st.floats(0.3, 3.0), st.floats(-0.3, 0.25))
    def test_others_never_help(self, times: float, more: float, flow: float, level: float) -> None:
        load = Load(UP, G, level)
        fewer = stands(two_pieces(times), flow / 60e3, FROTH, load)
        others = stands(two_pieces(times + more), flow / 60e3, FROTH, load)
        assert others.head >= fewer.head - 1e-5

    @pytest.mark.parametrize(("flow", "surface"), [(1.0, 0.05), (1.5, -0.2), (2.0, 0.15)])
    def test_in_time_it_comes_to_the_steady_march(self, flow: float, surface: float) -> None:
        line = two_pieces(2.0)
        found = steadily(line, flow / 60e3, surface)
        assert found.room[-1] == pytest.approx(found.margin[-1], abs=1e-3)
        assert found.margin[-1] < steadily(two_pieces(), flow / 60e3, surface).margin[-1] + 1e-9

    def test_in_time_thin_oil_takes_its_speed_in_each_half_of_the_junction(self) -> None:
        line = two_pieces(2.0)
        thin = foamed(820.0, 1e-6, 0.0)  # Reynolds' number 12,000 and 24,000
        found = steadily(line, 8 / 60e3, 0.3, thin)
        assert found.room[-1] == pytest.approx(found.margin[-1], abs=2e-4)

    def test_each_brings_its_own_foam(self) -> None:
        """A head's line into a turbo's: 0.15 and 0.4 of gas, by hand."""
        build = act(SANDPIPER, kind="outside_return", head=head_of(SANDPIPER))
        other = next(r.id for r in build.circuit.runs if r.name.startswith("outside"))
        build = tuned(build, other, outlet_mm=[40, -60, 300], entry_mm=[60, -112, 0])
        drains = drains_of(build)
        feeds = feeds_of(build, drains)
        turbo = next(d for d in drains.placed if d.run == RUN)
        shared = replace(turbo, shares={RUN: (other,)})
        joined = with_others(drains.with_placed((shared, *drains.placed[1:])), feeds)
        head = next(d for d in drains.placed if d.run == other)
        brings = {d.run: feeds[d.run].most / (1.0 - d.foam) for d in (turbo, head)}
        times = next(d for d in joined.placed if d.run == RUN).line.falls.carries.max()
        assert times == pytest.approx(1.0 + brings[other] / brings[RUN])
        assert turbo.foam != head.foam

    def test_what_a_shared_line_carries_is_less_for_each(self) -> None:
        load = Load(UP, G, 0.1)
        assert capacity(two_pieces(2.0), FROTH, load) < 0.8 * capacity(two_pieces(), FROTH, load)


class TestTwoTurbos:
    def test_each_is_told_with_what_the_other_brings(self) -> None:
        build, first, second = twins()
        forecast = over(build)
        one, two = by_run(forecast, first), by_run(forecast, second)
        assert one.drain.line.falls.carries[-1] == pytest.approx(2.0, abs=0.05)  # like feeds
        assert one.drain.line.falls.carries[0] == two.drain.line.falls.carries[0] == 1.0
        assert one.spare < by_run(over(SANDPIPER), RUN).spare
        told = drains_out(build, assemble_pan(build), forecast)
        names = {each.run: each.shared_with for each in told.drains}
        assert names == {first: [two.drain.name], second: [one.drain.name]}

    def test_where_they_meet_is_asked_for(self) -> None:
        build = act(SANDPIPER, kind="feed_turbo")
        second = turbo_of(build, 1)
        build = act(build, kind="drain_turbo", turbo=second, how="joined", other=turbo_of(build))
        wants = {each.run: each.wants for each in drains_of(build).unplaced}
        assert wants[RUN] == ("where it meets the other's line",)
        assert len(wants) == 2

    def test_redone_by_itself_the_other_keeps_its_line(self) -> None:
        build, first, _ = twins()
        apart = act(
            build, kind="drain_turbo", turbo=turbo_of(build, 1), how="gravity",
            boss_mm=[200, -112, 0],
        )  # fmt: skip
        assert apart.circuit.of_kind(Tee) == []
        kept = next(run for run in apart.circuit.runs if run.id == first)
        assert kept.end.port == next(r for r in SANDPIPER.circuit.runs if r.id == RUN).end.port
        assert by_run(over(apart), first).drain.shares == {}

    @pytest.mark.parametrize("other", [None, "c99999", "c1", "itself"])
    def test_into_what_is_no_other_turbo(self, other: str | None) -> None:
        build = act(SANDPIPER, kind="feed_turbo")
        mine = turbo_of(build, 1)
        raw = {"kind": "drain_turbo", "turbo": mine, "how": "joined",
               "other": mine if other == "itself" else other}  # fmt: skip
        with pytest.raises(InvalidInput) as error:
            read_act(raw).done(build)
        assert error.value.problems[0].field == "other"


class TestPulledByAStage:
    def test_with_a_stage_of_its_own_it_need_not_fall(self) -> None:
        """4 cm³ at half the crank's speed sweeps 2 L/min a thousand rpm, by hand."""
        forecast = over(scavenged())
        assert forecast.forecasts == () and forecast.drains.unplaced == ()
        (told,) = forecast.pulled
        rpm = told.feed.speed * 30 / math.pi
        np.testing.assert_allclose(told.sweeps * 60e3, 2e-3 * rpm)
        assert told.share.max() < 0.9
        verdict = drains_verdict(forecast)
        assert (verdict.state, verdict.spare_mm) == ("good", None)

    def test_gas_counts(self) -> None:
        """A stage for the oil alone is too small: with 0.4 foam it is brought 1.67 times it."""
        (full,) = over(scavenged()).pulled
        size = 4.0 * float((full.feed.flow / full.sweeps).max()) / 0.8
        build = scavenged(displacement_cm3=round(size, 3))
        (told,) = over(build).pulled
        assert float((told.feed.flow / told.sweeps).max()) < 0.81
        assert told.share.max() > 1.0
        verdict = drains_verdict(over(build))
        assert verdict.state == "bad" and "does not take all" in verdict.sentence
        states = {
            c.rule.key: c.state for c in check_drains(build, assemble_pan(build), over(build))
        }
        assert states["stage_carries"] == "bad"

    def test_what_a_line_takes_is_hagen_and_poiseuille_with_the_foam(self) -> None:
        """``Δp = 128 μ L q / (π d⁴)``, q foam and all."""
        flow = 0.5 / 60e3
        viscosity = THICK_FROTH.density * THICK_FROTH.viscosity
        wanted = 128 * viscosity * 0.8 * flow / 0.6 / (math.pi * 0.012**4)
        pieces = (Piece("hose", 0.012, 0.8), Piece("fitting", 0.009))
        assert suction(pieces, flow, THICK_FROTH) == pytest.approx(wanted, rel=1e-3)

    def test_one_that_falls_does_not_save_the_other(self) -> None:
        """The junction under the higher outlet, beside the lower one."""
        build = act(scavenged(dash=12, displacement_cm3=8.0), kind="feed_turbo", restrictor_mm=1.5)
        second = turbo_of(build, 1)
        build = act(
            build, kind="drain_turbo", turbo=second, how="joined", other=turbo_of(build), dash=12
        )
        other = next(r.id for r in build.circuit.runs if r.start.component == second)
        build = tuned(build, other, outlet_mm=[260, -190, 60], meets_mm=[100, -190, 50])
        build = changed(build, lambda raw: part(raw, "turbo").update(gasket_mm=None))
        spares = sorted(each.spare for each in over(build).forecasts)
        assert spares[0] < 0.0 and spares[1] > 0.01
        assert states(build)["own_stage"] == "bad"

    def test_two_on_one_stage_fall_to_the_junction_or_not_at_all(self) -> None:
        alone = scavenged(dash=12, displacement_cm3=8.0)
        build = act(alone, kind="feed_turbo", restrictor_mm=1.5)
        second = turbo_of(build, 1)
        build = act(
            build, kind="drain_turbo", turbo=second, how="joined", other=turbo_of(build), dash=12
        )
        other = next(r.id for r in build.circuit.runs if r.start.component == second)
        build = tuned(build, other, outlet_mm=[200, -190, 110])
        build = changed(build, lambda raw: part(raw, "turbo").update(gasket_mm=None))
        (stage,) = build.circuit.of_kind(ScavengeStage)

        def verdict_at(height: float) -> tuple[str, DrainsForecast]:
            placed = tuned(build, other, meets_mm=[136, -160, height])
            forecast = over(placed)
            found = check_drains(placed, assemble_pan(placed), forecast)
            return next(c.state for c in found if c.rule.key == "own_stage"), forecast

        low, forecast = verdict_at(-60)
        assert {each.drain.stage for each in forecast.forecasts} == {stage.id}
        assert {each.drain.how for each in forecast.forecasts} == {"scavenged"}
        assert low == "good" and all(each.spare > 0.01 for each in forecast.forecasts)
        high, forecast = verdict_at(140)  # over their outlets: oil would have to climb
        assert high == "bad" and forecast.worst is not None and forecast.worst.spare < 0.0
        assert drains_of(build).unplaced[0].wants == ("where it meets the other's line",)

    def test_no_oil_and_no_gas_stand_against_it_at_the_junction(self) -> None:
        build = scavenged()
        build = act(build, kind="feed_turbo", restrictor_mm=1.5)
        second = turbo_of(build, 1)
        build = act(build, kind="drain_turbo", turbo=second, how="joined", other=turbo_of(build))
        other = next(r.id for r in build.circuit.runs if r.start.component == second)
        build = tuned(build, other, outlet_mm=[200, -190, 110], meets_mm=[136, -160, -60])
        drain, steady = drains_at(build, 0.0, 0.0).stands[0]
        assert drain.under(Load(UP, G, 0.3, 2000.0)).pressure == 0.0
        assert steady.against_push == 0.0 and not steady.sealed
        in_pan, pulled = (
            drain_rose(drain.line, pan, build.car, 1 / 60e3, FROTH, 0.0) for pan in (PAN, None)
        )
        assert np.all(pulled.edge >= in_pan.edge) and np.isinf(pulled.edge).any()


class TestTheFeed:
    def test_from_the_line_behind_the_filter(self) -> None:
        build = act(SANDPIPER, kind="move_filter")
        teed = act(build, kind="feed_turbo", fed_from="line", restrictor_mm=1.5)
        second = turbo_of(teed, 1)
        found = check_drains(teed, assemble_pan(teed), over(teed))
        assert all(each.rule.key != "feed_filtered" for each in found)
        tee = next(c for c in teed.circuit.of_kind(Tee) if "feed" in c.name)
        assert any(r.start.component == tee.id and r.start.port == "c" for r in teed.circuit.runs)
        placed = tuned(
            teed, next(r.id for r in teed.circuit.runs if r.start.component == second),
            outlet_mm=[200, -190, 130], entry_mm=[200, -112, 0],
        )  # fmt: skip
        feeds = feeds_of(placed, drains_of(placed))
        one, two = sorted(feed.most for feed in feeds.values())
        assert one == pytest.approx(two, rel=0.1)  # hardly more pressure there than in the gallery

    def test_where_all_is_cast_there_is_no_line(self) -> None:
        with pytest.raises(InvalidInput, match="here all is cast"):
            read_act({"kind": "feed_turbo", "fed_from": "line"}).done(SANDPIPER)


class TestBends:
    WAYS: tuple[dict[str, Any], ...] = (
        {"at_mm": [72, "-6 in", 90], "radius_mm": 40}, {"at_mm": [72, -140, 20]},
    )  # fmt: skip

    def test_a_route_by_its_bends(self) -> None:
        bent = tuned(SANDPIPER, RUN, bends=list(self.WAYS))
        line = drains_of(bent).placed[0].line
        straight = drains_of(tuned(SANDPIPER, RUN, bends=[])).placed[0].line
        assert line.length > straight.length
        np.testing.assert_allclose(line.entry, straight.entry)
        assert line.falls.losses.sum() > straight.falls.losses.sum()
        (run,) = (r for r in bent.circuit.runs if r.id == RUN)
        assert len(run.route) == 4 and run.route[1].at_mm[1] == pytest.approx(-152.4)
        assert run.route[2].radius_mm is None

    def test_a_trap_in_it_is_told(self) -> None:
        bent = tuned(SANDPIPER, RUN, bends=[{"at_mm": [72, -150, -60]}])
        found = check_drains(bent, assemble_pan(bent), over(bent))
        assert any(c.rule.key == "drain_falls" and c.state == "bad" for c in found)

    def test_without_places_there_is_no_route(self) -> None:
        bare = act(SANDPIPER, kind="feed_turbo")
        (unplaced,) = drains_of(bare).unplaced
        with pytest.raises(InvalidInput, match="places of its line's two ends"):
            read_act({"kind": "tune_drain", "run": unplaced.run, "bends": []}).done(bare)

    def test_what_meets_nothing(self) -> None:
        with pytest.raises(InvalidInput, match="goes on alone"):
            read_act({"kind": "tune_drain", "run": RUN, "meets_mm": [0, 0, 0]}).done(SANDPIPER)


class TestIntoTheBlock:
    def test_it_is_asked_where_it_comes_in_and_then_told(self) -> None:
        build = act(SANDPIPER, kind="drain_turbo", turbo=turbo_of(SANDPIPER), how="block", dash=12)
        (unplaced,) = drains_of(build).unplaced
        assert unplaced.wants == ("where the line comes in",)
        build = tuned(build, unplaced.run, entry_mm=[72, -100, -30])
        (drain,) = drains_of(build).placed
        assert drain.boss == "" and drain.line.entry.tolist() == pytest.approx([0.072, -0.1, 0.03])
        higher = tuned(build, unplaced.run, entry_mm=[72, -100, -60])
        assert drains_of(higher).placed[0].line.entry[2] == pytest.approx(0.06)
        # over the rail no oil of the lap reaches it: what is left is what the line takes
        assert (
            over(higher).forecasts[0].over.under.max()
            < over(SANDPIPER).forecasts[0].over.under.max()
        )

    def test_a_bend_stays_when_its_entry_moves(self) -> None:
        build = act(SANDPIPER, kind="drain_turbo", turbo=turbo_of(SANDPIPER), how="block")
        (unplaced,) = drains_of(build).unplaced
        build = tuned(build, unplaced.run, entry_mm=[72, -100, -30])
        build = tuned(build, unplaced.run, bends=[{"at_mm": [90, -190, 90], "radius_mm": 40}])
        build = tuned(build, unplaced.run, entry_mm=[80, -100, -30])
        run = next(r for r in build.circuit.runs if r.id == unplaced.run)
        assert [p.at_mm[0] for p in run.route] == [96, 90, 80]

    def test_without_its_outlet_it_has_no_entry(self) -> None:
        build = act(SANDPIPER, kind="feed_turbo")
        second = turbo_of(build, 1)
        build = act(build, kind="drain_turbo", turbo=second, how="block")
        run = next(r.id for r in build.circuit.runs if r.start.component == second)
        with pytest.raises(InvalidInput, match="where oil leaves first"):
            tuned(build, run, entry_mm=[72, -100, -30])
        both = tuned(build, run, entry_mm=[72, -100, -30], outlet_mm=[200, -190, 130])
        assert len(drains_of(both).placed) == 2


def test_a_place_in_the_car_is_turned_into_the_engines_frame() -> None:
    """The crank's nose to the car's right: what is ahead in the car is on the engine's left."""
    car = Car(nose_points="right", lean_right_deg=0, nose_up_deg=0)
    place = {"fixed_to": "car", "at_mm": [500, 0, 100]}
    tee = Tee.model_validate({"kind": "tee", "name": "tee", "place": place})
    found = place_of_port(car, tee, "a")
    assert found is not None and found.tolist() == pytest.approx([0.0, 0.5, 0.1], abs=1e-9)
    tee = Tee.model_validate(
        {"kind": "tee", "name": "tee", "place": {**place, "fixed_to": "engine"}}
    )
    found = place_of_port(car, tee, "a")
    assert found is not None and found.tolist() == pytest.approx([0.5, 0.0, 0.1])
