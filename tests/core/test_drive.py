"""A pump's belt: tangents and hulls, tightening, line, gaps; what it changes and what it takes."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
import shapely
from bilge_core.acts.registry import read_act
from bilge_core.checks.dry import check_drive
from bilge_core.clearance.parts import part_gaps, pump_skin
from bilge_core.document.build import Build
from bilge_core.document.circuit.pumps import PressureStage, ScavengeStage
from bilge_core.document.drive import BeltDrive, Idler
from bilge_core.document.engine import Crank
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import InvalidInput, InvalidQuantity
from bilge_core.job.difference import pieces_between
from bilge_core.lines.bending import Bender
from bilge_core.lines.order import order_of
from bilge_core.physics.pulleys import radius_of
from bilge_core.scavenge.belt import Wheel, belt_round
from bilge_core.scavenge.drive import drive_of, made_taut, nearest_belt
from bilge_core.tell.drive import drive_out
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import DEMO

DUNLIN = read_build((DEMO / "dunlin.json").read_text())
DRY = read_act({"kind": "go_dry"}).done(DUNLIN).build
BARE: dict[str, Any] = {
    "pitch_mm": 8, "width_mm": 25, "crank_teeth": 24, "pump_teeth": 48, "belt_teeth": 90,
    "across_mm": -200, "up_mm": 0,
}  # fmt: skip


def drive(**figures: Any) -> BeltDrive:
    return BeltDrive.model_validate({**BARE, **figures})


def fitted(build: Build = DRY, **figures: Any) -> Build:
    act = {
        "kind": "fit_drive",
        "crank_teeth": 24,
        "pump_teeth": 48,
        "across_mm": -200,
        "up_mm": -40,
    }
    return read_act({**act, **figures}).done(build).build


class TestRound:
    def test_over_wheels_that_are_all_inside_it_is_their_hull(self) -> None:
        """An outside check: a taut belt is the convex hull's outline (`shapely`)."""
        wheels = [Wheel(0.0, 0.0, 0.03), Wheel(0.2, -0.02, 0.06), Wheel(0.1, 0.15, 0.025)]
        discs = [shapely.Point(w.across, w.up).buffer(w.radius, quad_segs=4000) for w in wheels]
        hull = shapely.union_all(discs).convex_hull
        assert belt_round(wheels).length == pytest.approx(hull.length, rel=1e-6)

    @given(
        st.floats(0.15, 0.4),
        st.floats(0.02, 0.06),
        st.floats(0.02, 0.06),
        st.floats(0.3, 0.7),
        st.floats(0.0, 0.015),
    )
    def test_with_an_idler_on_its_back_it_lies_on_every_wheel(
        self, apart: float, one: float, other: float, along: float, pressed: float
    ) -> None:
        """Tangent at both ends of every straight, wraps that add up to one turn."""
        lowest = -min(one, other) - 0.02 + pressed
        wheels = [Wheel(0, 0, one), Wheel(along * apart, lowest, 0.02, False),
                  Wheel(apart, 0, other)]  # fmt: skip
        if min(math.dist((0, 0), (wheels[1].across, lowest)) - one,
               math.dist((apart, 0), (wheels[1].across, lowest)) - other) <= 0.021:  # fmt: skip
            return
        belt = belt_round(wheels)
        for at, (start, end) in enumerate(belt.straights):
            way = np.subtract(end, start)
            for place, wheel in ((start, wheels[at]), (end, wheels[(at + 1) % 3])):
                spoke = np.subtract(place, (wheel.across, wheel.up))
                assert math.hypot(*spoke) == pytest.approx(wheel.radius)
                assert float(spoke @ way) == pytest.approx(0.0, abs=1e-12)
        signs = [1.0 if each.is_inside else -1.0 for each in wheels]
        turned = sum(s * w for s, w in zip(signs, belt.wraps, strict=True))
        assert math.remainder(turned, 2.0 * math.pi) == pytest.approx(0.0, abs=1e-9)

    def test_wheels_that_touch_are_refused(self) -> None:
        with pytest.raises(InvalidQuantity, match=r"90 mm.*more than 110 mm, or the pulleys touch"):
            belt_round([Wheel(0, 0, 0.05), Wheel(0.09, 0, 0.06)])


class TestDrive:
    def test_the_pump_goes_where_the_belt_is_taut(self) -> None:
        found = drive_of(drive())
        assert found.move == pytest.approx(0.01381, abs=1e-5)
        tight = made_taut(drive())
        assert drive_of(tight).move == pytest.approx(0.0, abs=1e-5)
        assert drive_of(tight).belt.length == pytest.approx(90 * 8e-3, abs=1e-5)
        assert drive_of(drive(belt_teeth=300)).move is None
        assert made_taut(drive(belt_teeth=300)) == drive(belt_teeth=300)

    def test_an_idler_on_the_slack_side_takes_more_teeth_into_the_belt(self) -> None:
        without = drive_of(drive())
        idler = Idler(across_mm=-90, up_mm=55, diameter_mm=40)
        pressed = drive_of(drive(idler=idler.model_dump()))
        assert pressed.touches and pressed.meshing > without.meshing + 0.3
        wheel = pressed.wheels[pressed.names.index("idler")]
        assert (wheel.across, wheel.up, wheel.radius) == pytest.approx((-0.090, 0.055, 0.020))
        deep = {"across_mm": -100, "up_mm": 25, "diameter_mm": 40}
        assert nearest_belt(drive(idler=deep)) > nearest_belt(drive())
        missed = drive_of(drive(idler={"across_mm": -90, "up_mm": 300, "diameter_mm": 40}))
        assert not missed.touches and missed.belt == without.belt

    @pytest.mark.parametrize("side", [-60.0, 60.0])
    def test_an_idler_on_either_side_is_met_in_its_turn(self, side: float) -> None:
        """Mirrored, it is the same belt."""
        found = drive_of(drive(idler={"across_mm": -90, "up_mm": side, "diameter_mm": 40}))
        assert found.touches
        assert found.belt.length == pytest.approx(
            drive_of(drive(idler={"across_mm": -90, "up_mm": -side, "diameter_mm": 40})).belt.length
        )

    def test_out_of_line_is_offset_and_turn_together(self) -> None:
        """A millimetre over a straight of 186 mm is 0.31 degrees."""
        found = drive_of(drive(offset_mm=-1.0))
        straight = math.sqrt(0.2**2 - (radius_of(8e-3, 48) - radius_of(8e-3, 24)) ** 2)
        assert found.out_of_line == pytest.approx(math.atan(1e-3 / straight))
        turned = drive_of(drive(turned_deg=0.3, tilted_deg=-0.4))
        assert math.degrees(turned.out_of_line) == pytest.approx(0.5)

    @pytest.mark.parametrize(
        ("figures", "rule"),
        [({"offset_mm": 2.0}, "belt_line"), ({"crank_teeth": 10, "pump_teeth": 60}, "belt_mesh"),
         ({"belt_teeth": 300}, "belt_taut"), ({"belt_teeth": 92}, "belt_taut"),
         ({"crank_teeth": 30}, "drive_ratio"),
         ({"idler": {"across_mm": -90, "up_mm": 300, "diameter_mm": 40}}, "belt_idler"),
         ({"across_mm": -50.0}, "belt_taut")],
    )  # fmt: skip
    def test_what_is_wrong_is_told(self, figures: dict[str, Any], rule: str) -> None:
        document = DRY.model_dump(mode="json")
        good = made_taut(drive()).model_dump(mode="json")
        pump = next(p for p in document["circuit"]["components"] if p["kind"] == "pressure_stage")
        pump["drive_ratio"] = 0.5
        sound = build_from({**document, "drive": good})
        assert {each.state for each in check_drive(sound)} == {"good"}
        wrong = build_from({**document, "drive": {**good, **figures}})
        assert rule in {each.rule.key for each in check_drive(wrong) if each.state == "bad"}

    def test_the_brackets_travel_on_both_sides_of_its_edge(self) -> None:
        document = DRY.model_dump(mode="json")
        for travel, state in ((13.82, "good"), (13.81, "bad")):
            build = build_from({**document, "drive": drive(travel_mm=travel).model_dump()})
            taut = next(each for each in check_drive(build) if each.rule.key == "belt_taut")
            assert taut.state == state


class TestPump:
    CRANK = Crank(height_mm=60, swept_radius_mm=80, from_x_mm=50, to_x_mm=400)

    def test_a_wall_beside_it_is_as_far_as_the_drawing_says(self) -> None:
        """A plane 30 mm to the right of a body of 110 mm about a shaft 200 mm to the right."""
        document = DRY.model_dump(mode="json")
        own = drive(crank_x_mm=450, body={"length_mm": 150, "diameter_mm": 110}, pump_teeth=30)
        document |= {"drive": own.model_dump(mode="json")}
        document["car"]["crank"] = self.CRANK.model_dump(mode="json")
        document["car"]["keep_outs"] = [
            {"kind": "plane", "name": "rail", "frame": "engine", "at_mm": -285, "free": "left",
             "wanted_mm": 10}
        ]  # fmt: skip
        build = build_from(document)
        gap = next(each for each in part_gaps(build) if each.part == build.circuit.pump.id)
        assert gap.gap == pytest.approx(30e-3, abs=0.2e-3)
        told = drive_out(build)
        assert told is not None and told.gaps[0].state == "good"
        document["car"]["keep_outs"][0]["at_mm"] = -250
        near = drive_out(build_from(document))
        assert near is not None and near.gaps[0].state == "bad"
        assert near.gaps[0].gap_mm == pytest.approx(-5.0, abs=0.2)

    def test_a_turned_shaft_takes_the_body_with_it(self) -> None:
        body = {"length_mm": 200, "diameter_mm": 100}
        straight = pump_skin(drive(crank_x_mm=450, body=body), self.CRANK)
        turned = pump_skin(drive(crank_x_mm=450, body=body, turned_deg=5), self.CRANK)
        assert straight is not None and turned is not None
        rear = turned[turned[:, 0] < 0.26].mean(axis=0) - straight[straight[:, 0] < 0.26].mean(
            axis=0
        )
        assert rear[1] == pytest.approx(-math.tan(math.radians(5)) * 0.22, abs=5e-3)

    def test_without_its_place_there_is_none(self) -> None:
        assert pump_skin(drive(), self.CRANK) is None
        assert pump_skin(drive(crank_x_mm=400), None) is None


class TestFitDrive:
    def test_all_stages_turn_as_the_pulleys_say(self) -> None:
        build = fitted(crank_teeth=22, pump_teeth=40, up_mm="-2 in")
        stages = [*build.circuit.of_kind(PressureStage), *build.circuit.of_kind(ScavengeStage)]
        assert {each.drive_ratio for each in stages} == {0.55}
        assert build.drive is not None and build.drive.up_mm == -50.8
        taut = next(each for each in check_drive(build) if each.rule.key == "belt_taut")
        assert taut.state == "good"  # the nearest belt was taken

    @pytest.mark.parametrize(
        ("figures", "field"),
        [({"across_mm": 10, "up_mm": 0}, "across_mm"), ({"across_mm": 0, "up_mm": 0}, "across_mm"),
         ({"pitch_mm": 90}, "pitch_mm"), ({"idler": "back"}, "idler_across_mm"),
         ({"body_length_mm": 100}, "body_diameter_mm"),
         ({"body_diameter_mm": 100}, "body_length_mm"), ({"crank_teeth": 4}, "crank_teeth"),
         ({"belt_teeth": 100, "across_mm": 30, "up_mm": 0}, "across_mm"),
         ({"turned_deg": 60}, "turned_deg"),
         ({"idler": "teeth", "idler_across_mm": 9000, "idler_up_mm": 0, "idler_diameter_mm": 40},
          "idler_across_mm")],
    )  # fmt: skip
    def test_what_cannot_be_is_said_at_its_field(self, figures: dict[str, Any], field: str) -> None:
        with pytest.raises(InvalidInput) as refused:
            fitted(**figures)
        assert [each.field for each in refused.value.problems] == [field]

    def test_a_wet_sump_has_none(self) -> None:
        with pytest.raises(InvalidInput, match="go dry first"):
            fitted(DUNLIN)

    def test_going_dry_lays_one_out_that_runs(self) -> None:
        assert DRY.drive is not None and DRY.drive.assumed
        assert {each.state for each in check_drive(DRY)} == {"good"}
        document = DUNLIN.model_dump(mode="json")
        pump = next(p for p in document["circuit"]["components"] if p["kind"] == "pressure_stage")
        pump["drive_ratio"] = 0.2  # no pulleys of 18 to 72 teeth give it
        assert read_act({"kind": "go_dry"}).done(build_from(document)).build.drive is None

    def test_what_is_bought_and_done(self) -> None:
        """Other pulleys are bought and fitted; a shim is fitted alone; where it was, nothing."""
        one = fitted()
        assert one.drive is not None
        shimmed = build_from({**one.model_dump(mode="json"), "drive": {
            **one.drive.model_dump(mode="json"), "offset_mm": 1.0}})  # fmt: skip
        other = fitted(pump_teeth=50)
        pieces = {
            name: [(each.operation, each.bought) for each in pieces_between(one, build)]
            for name, build in (("same", one), ("shimmed", shimmed), ("other", other))
        }
        assert pieces["same"] == []
        assert pieces["shimmed"] == [("fit_drive", ())]
        assert pieces["other"] == [("fit_drive", (("pump_drive", 1),))]
        first = [each.operation for each in pieces_between(DUNLIN, one)]
        assert "fit_drive" in first and "wet_pump_out" in first

        def rows(build: Build, as_is: Build | None) -> list[str]:
            return [w for row in order_of(build, (), Bender(), as_is) if row.part == "pump_drive"
                    for w in row.why]  # fmt: skip

        assert rows(one, None) == [
            "the pump's drive: pulleys of 24 and 48 teeth, belt of 88, pitch 8 mm, 25 mm wide"
        ]
        assert rows(one, one) == rows(shimmed, one) == []
        assert len(rows(other, one)) == 1
