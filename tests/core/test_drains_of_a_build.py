"""From a build to its drains, its breathing, where they back up, and what mends them."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from bilge_core.acts.registry import read_act
from bilge_core.checks.circuit import check_circuit
from bilge_core.checks.drains import check_drains, least_fall
from bilge_core.document.build import Build
from bilge_core.document.circuit.joining import Restrictor
from bilge_core.document.read import build_from, read_build
from bilge_core.drains.feeds import feeds_of
from bilge_core.drains.laid import drains_of
from bilge_core.drains.line import Piece, line_along
from bilge_core.drains.wall import unrolled
from bilge_core.errors import InvalidInput
from bilge_core.forecast.back_ups import Tried, forecast_drains
from bilge_core.loads.log import Log
from bilge_core.network.drain_guesses import DRAIN_GUESSES
from bilge_core.network.pipes import hole_resistance
from bilge_core.pan import assemble_pan
from bilge_core.physics.axes import standing_up
from bilge_core.tell.drains import drains_out
from bilge_core.tell.drains_verdict import drains_verdict
from bilge_core.tell.verdict import DrainsVerdict, VerdictOut, with_drains

from tests.conftest import DEMO
from tests.turbo import RUN, SANDPIPER, changed, over, part

Raw = dict[str, Any]


def tuned(build: Build, **figures: Any) -> Build:
    done = read_act({"kind": "tune_drain", "run": RUN, **figures}).done(build)
    assert [each.words for each in check_circuit(done.build) if each.state != "good"] == []
    return done.build


class TestTheDemosTurbo:
    def test_sound_at_rest_it_backs_up_in_the_right_handers_alone(self) -> None:
        still = Log(np.array([0.0, 2.0]), *np.zeros((3, 2)), np.full(2, 670.0))
        assert forecast_drains(SANDPIPER, still, ()).forecasts[0].back_ups == ()
        worst = over(SANDPIPER).worst
        assert worst is not None
        assert {each.hand for each in worst.back_ups} == {"right"}
        assert len(worst.back_ups) == 2
        assert -0.06 < worst.spare < -0.02

    def test_a_wider_breather_and_line_mend_it(self) -> None:
        """As the screen offers it: gas pushes less, then the line takes less."""
        breather = tuned(SANDPIPER, opening_mm=14)
        worst = over(breather).worst
        assert worst is not None and worst.back_ups == ()
        wider = over(tuned(breather, dash=12)).worst
        assert wider is not None and wider.spare > worst.spare
        assert drains_verdict(over(tuned(breather, dash=12))).state == "good"

    def test_more_foam_is_worse(self) -> None:
        spares = [over(SANDPIPER, Tried(foam=foam)).forecasts[0].spare for foam in (0.3, 0.5)]
        assert spares[1] < spares[0]

    def test_more_blow_by_is_worse(self) -> None:
        told = [over(SANDPIPER, Tried(blow_by=flow / 60e3)) for flow in (20.0, 48.0, 90.0)]
        spares = [each.forecasts[0].spare for each in told]
        assert spares == sorted(spares, reverse=True)
        assert told[1].case.pressure.max() == over(SANDPIPER).case.pressure.max()  # as measured

    def test_the_feed_is_what_the_restrictor_lets_through(self) -> None:
        small, large = (tuned(SANDPIPER, restrictor_mm=bore) for bore in (1.0, 2.0))
        flows = [feeds_of(each, drains_of(each))[RUN].flow.max() for each in (small, large)]
        assert flows[0] < 0.5 * flows[1]
        # 1.5 mm with the turbo behind it passes less than the hole alone at the pump's relief
        alone = math.sqrt(5e5 / hole_resistance(0.0015, 800.0, 0.009).square)
        mine = feeds_of(SANDPIPER, drains_of(SANDPIPER))[RUN]
        assert 0.5 * alone < mine.flow.max() < alone
        assert mine.at(np.array([0.0]))[0] == 0.0

    def test_its_checks(self) -> None:
        words = {
            each.rule.key: each.state
            for each in check_drains(SANDPIPER, assemble_pan(SANDPIPER), over(SANDPIPER))
        }
        assert words["drain_seal"] == "bad"
        assert words["drain_flanges"] == "caution"
        assert words["feed_fits_drain"] == words["crankcase"] == "good"
        assert "drain_falls" not in words  # it falls all the way, standing

    def test_cold_oil_comes_slowly_and_falls_slowly(self) -> None:
        told = drains_out(SANDPIPER, assemble_pan(SANDPIPER), over(SANDPIPER)).drains[0]
        assert told.cold.revved_l_min < 0.5 * max(told.feed_l_min)
        assert told.cold.carries_l_min > told.cold.revved_l_min >= told.cold.idle_l_min > 0.0

    def test_a_narrow_fitting_is_no_gasket(self) -> None:
        """A gasket is held against its outlet alone, whatever is screwed in behind it."""

        def fitted(document: Raw) -> None:
            part(document, "turbo").update(gasket_mm=None)
            run = next(r for r in document["circuit"]["runs"] if r["id"] == RUN)
            run["start"]["narrowest_mm"] = 9

        build = changed(SANDPIPER, fitted)
        found = check_drains(build, assemble_pan(build), over(build))
        assert all(each.rule.key != "drain_flanges" for each in found)

    def test_a_feed_ahead_of_the_filter_is_told(self) -> None:
        def teed(document: Raw) -> None:
            circuit = document["circuit"]
            into = next(r for r in circuit["runs"] if r["end"]["component"] == "c5")
            tee = {"id": "c900", "kind": "tee", "name": "tee ahead of the filter"}
            circuit["components"].append(tee)
            onward = {**into, "id": "r900", "name": "tee to filter",
                      "start": {"component": "c900", "port": "b"}}  # fmt: skip
            into["end"] = {"component": "c900", "port": "a"}
            circuit["runs"].append(onward)
            feed = next(r for r in circuit["runs"] if r["name"] == "feed of the turbo")
            feed["start"] = {"component": "c900", "port": "c"}

        build = changed(SANDPIPER, teed)
        checks = check_drains(build, assemble_pan(build), over(build))
        keys = {each.rule.key: each.words for each in checks}
        assert "ahead of the filter" in keys["feed_filtered"]
        assert "feed_restricted" not in keys
        bare = read_act(
            {"kind": "feed_turbo", "restrictor_mm": None}
        ).done(SANDPIPER).build  # fmt: skip
        told = check_drains(bare, assemble_pan(bare), over(bare))
        assert any(each.rule.key == "feed_restricted" for each in told)
        assert not any(each.rule.key == "feed_filtered" for each in told)

    def test_all_told(self) -> None:
        told = drains_out(SANDPIPER, assemble_pan(SANDPIPER), over(SANDPIPER))
        (drain,) = told.drains
        assert drain.state == "bad" and drain.size == "size 10" and drain.view == "front"
        assert drain.held_by == "drain of the turbo"
        assert drain.floods_in_s is not None and 0.1 < drain.floods_in_s < 3.0
        count = len(told.time_s)
        assert {len(each) for each in drain.samples.model_dump().values()} == {count}
        assert len(drain.fill) == len(told.breathing.case_mbar) == count
        assert told.verdict.sentence.startswith("The drain of the turbo backs up twice, worst in")
        entries = [mark for mark in told.wall.marks if mark.kind == "entry"]
        assert [mark.runs for mark in entries] == [[RUN]]
        at = int(np.argmin(np.abs(np.array(told.wall.along_mm) - entries[0].along_mm)))
        assert told.wall.sides[at] == "rear"  # the engine stands across: its right is the rear


class TestLaidOut:
    def test_what_wants_a_place_says_so(self) -> None:
        bare = read_act({"kind": "feed_turbo"}).done(SANDPIPER).build
        (unplaced,) = drains_of(bare).unplaced
        assert unplaced.wants == (
            "where oil leaves turbo 2", "where the line comes in",
        )  # fmt: skip
        placed = read_act(
            {"kind": "tune_drain", "run": unplaced.run, "outlet_mm": [200, -180, 120],
             "entry_mm": [200, -112, 5]}
        ).done(bare).build  # fmt: skip
        assert drains_of(placed).unplaced == ()
        assert len(drains_of(placed).placed) == 2

    def test_a_boss_is_where_it_enters_whatever_the_route_says(self) -> None:
        def away(document: Raw) -> None:
            boss = next(b for b in document["pan"]["bosses"] if b["kind"] == "turbo_drain")
            boss["x_mm"] = 120

        entry = drains_of(changed(SANDPIPER, away)).placed[0].line.entry
        assert entry.tolist() == pytest.approx([0.12, -0.112, -0.01])

    def test_without_a_boss_its_route_says_where_it_enters(self) -> None:
        def unbossed(document: Raw) -> None:
            run = next(r for r in document["circuit"]["runs"] if r["id"] == RUN)
            run["end"]["port"] = "returns"
            bosses = document["pan"]["bosses"]
            document["pan"]["bosses"] = [b for b in bosses if b["kind"] != "turbo_drain"]

        drain = drains_of(changed(SANDPIPER, unbossed)).placed[0]
        assert drain.boss == ""
        assert drain.line.entry.tolist() == pytest.approx([0.072, -0.112, -0.01])

    def test_the_narrowest_of_a_fitting_counts(self) -> None:
        def pinched(document: Raw) -> None:
            run = next(r for r in document["circuit"]["runs"] if r["id"] == RUN)
            run["start"]["narrowest_mm"] = 9

        assert drains_of(changed(SANDPIPER, pinched)).placed[0].line.falls.outlet == pytest.approx(
            9e-3
        )
        assert (
            over(changed(SANDPIPER, pinched)).forecasts[0].spare
            < over(SANDPIPER).forecasts[0].spare
        )

    def test_seal_height_and_its_guess(self) -> None:
        def unknown(document: Raw) -> None:
            part(document, "turbo")["seal_height_mm"] = None

        line = drains_of(SANDPIPER).placed[0].line
        up = standing_up(SANDPIPER.car)
        assert float((line.seal - line.outlet) @ up) == pytest.approx(0.026)
        drain = drains_of(changed(SANDPIPER, unknown)).placed[0]
        assert "seal_height" in drain.guessed
        assert float((drain.line.seal - drain.line.outlet) @ up) == pytest.approx(0.025)

    def test_outside_line_of_a_head(self) -> None:
        head = next(c.id for c in SANDPIPER.circuit.components if c.kind == "head")
        build = read_act({"kind": "outside_return", "head": head}).done(SANDPIPER).build
        (unplaced,) = drains_of(build).unplaced
        assert unplaced.kind == "head"
        build = tuned_by(build, unplaced.run, outlet_mm=[40, -60, 300], entry_mm=[60, -112, 0])
        drain = next(d for d in drains_of(build).placed if d.kind == "head")
        assert drain.foam == DRAIN_GUESSES["head_foam"].likely
        feeds = feeds_of(build, drains_of(build))
        assert 0.0 < feeds[drain.run].flow.max() < 4 / 60e3  # its share of what the head is fed
        assert least_fall(drain, standing_up(build.car)) > 60

    @pytest.mark.parametrize(("long", "falls"), [(0.0148, True), (0.0178, False)])
    def test_a_hole_through_a_wall_may_be_level_and_no_piece_of_line(
        self, long: float, falls: bool
    ) -> None:
        """A centimetre is left out (ours); the bend takes 6 mm of what is level."""
        drain = drains_of(SANDPIPER).placed[0]
        line = line_along(
            [(0, 0, 0.2), (0, 0.1, 0.1), (0, 0.1 + long, 0.1)], [0, 0, 0], [Piece("hose", 0.014)]
        )
        assert (line.falls.lengths[-1] < 0.01) == falls
        fall = least_fall(replace(drain, line=line), np.array([0.0, 0.0, 1.0]))
        assert fall == pytest.approx(45.0 if falls else 0.0, abs=1e-3)


def tuned_by(build: Build, run: str, **figures: Any) -> Build:
    return read_act({"kind": "tune_drain", "run": run, **figures}).done(build).build


def test_a_slanted_wall_is_of_the_side_that_it_faces_most(box_document: Any) -> None:
    """A corner cut at 50 and at 40 degrees from straight ahead: the left, then the front."""
    for (x, y), side in (((300, 36), "left"), ((316, 20), "front")):
        raw = box_document()
        raw["pan"]["zones"][0]["outline_mm"] = [
            [0, -120], [400, -120], [400, y], [x, 120], [0, 120]
        ]  # fmt: skip
        build = build_from(raw)
        wall = unrolled(build, assemble_pan(build), np.array([[0, 0, 1.0]]), np.array([-0.07]))
        slanted = np.abs(wall.outward).min(axis=1) > 0.3
        assert {each for each, is_so in zip(wall.sides, slanted, strict=True) if is_so} == {side}


class TestTheAct:
    def test_an_entry_that_moves_leaves_a_hole_to_be_blocked(self) -> None:
        after = tuned(SANDPIPER, entry_mm=[150, -112, -20])
        old, new = (b for b in after.pan.bosses if b.kind == "turbo_drain")
        assert old.blocked and not new.blocked
        assert (new.x_mm, new.depth_mm, new.fixing) == (150, -20, "through_fitting")
        assert drains_of(after).placed[0].line.entry[2] == pytest.approx(0.02)
        assert tuned(SANDPIPER, entry_mm=[72, -112, 10]).pan == SANDPIPER.pan

    def test_a_size_takes_its_hole_with_it(self) -> None:
        after = tuned(SANDPIPER, dash=12)
        boss = next(b for b in after.pan.bosses if b.kind == "turbo_drain")
        assert boss.bore_mm == pytest.approx(19.05)
        assert drains_of(after).placed[0].line.falls.bores.min() == pytest.approx(0.01727, abs=1e-5)

    def test_it_says_what_it_did(self) -> None:
        raw = {"kind": "tune_drain", "run": RUN, "opening_mm": "9/16 in", "dash": 12,
               "restrictor_mm": 1.2, "seal_height_mm": 30}  # fmt: skip
        words = read_act(raw).done(SANDPIPER).words
        assert words == (
            "drain of the turbo, seals 30 mm over its flange, size 12, restrictor 1.2 mm, "
            "breather 9/16 in"
        )

    @pytest.mark.parametrize(
        ("figures", "field"),
        [
            ({"run": "r1"}, "run"), ({"run": "r99999"}, "run"), ({"run": "r7", "dash": 12}, "run"),
            ({"opening_mm": 0}, "opening_mm"), ({"dash": 11}, "dash"),
        ],
    )  # fmt: skip
    def test_what_cannot_be(self, figures: Raw, field: str) -> None:
        with pytest.raises(InvalidInput) as error:
            read_act({"kind": "tune_drain", "run": RUN, **figures}).done(SANDPIPER)
        assert error.value.problems[0].field.startswith(field)

    def test_a_feed_without_a_restrictor_gets_one(self) -> None:
        def bare(document: Raw) -> None:
            hole = part(document, "restrictor")
            hole["kind"] = "sender_tee"
            del hole["bore_mm"]

        fitted = tuned(changed(SANDPIPER, bare), restrictor_mm=2)
        assert [each.bore_mm for each in fitted.circuit.of_kind(Restrictor)] == [2]
        feeds = [feeds_of(each, drains_of(each))[RUN].most for each in (SANDPIPER, fitted)]
        assert feeds[0] < feeds[1]  # 1.5 mm before


class TestTheVerdict:
    OIL = VerdictOut(
        state="sound", headline="Sound", sentence="It stays covered.", dry_s=0.0, dip_count=0
    )

    def drains(self, state: str) -> DrainsVerdict:
        return DrainsVerdict(state=state, spare_mm=5, name="d", sentence="The d backs up.",
                             unplaced=0)  # type: ignore[arg-type]  # fmt: skip

    @pytest.mark.parametrize(
        ("oil", "drains", "whole"),
        [
            ("sound", "none", "sound"), ("sound", "good", "sound"), ("sound", "caution", "caution"),
            ("sound", "bad", "not_safe"), ("caution", "bad", "not_safe"),
            ("caution", "caution", "caution"), ("not_safe", "good", "not_safe"),
            ("not_safe", "bad", "not_safe"), ("no_lap", "bad", "no_lap"),
        ],
    )  # fmt: skip
    def test_the_worse_of_the_two_speaks(self, oil: str, drains: str, whole: str) -> None:
        before = self.OIL.model_copy(update={"state": oil})
        after = with_drains(before, self.drains(drains))
        assert after.state == whole
        if oil == "not_safe" and drains == "bad":
            assert after.sentence == "It stays covered. The d backs up."

    def test_a_build_without_drains_has_none(self) -> None:
        dunlin = read_build((DEMO / "dunlin.json").read_text())
        still = Log(np.array([0.0, 2.0]), *np.zeros((3, 2)), np.full(2, 670.0))
        assert drains_verdict(forecast_drains(dunlin, still, ())).state == "none"
