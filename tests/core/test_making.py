"""Flat patterns: against closed forms, the solid they come from, and their own DXF read back."""

from __future__ import annotations

import io
import math
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
import shapely
from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import InvalidInput, InvalidQuantity
from bilge_core.making.bends import Sheet
from bilge_core.making.dxf import LAYERS, as_dxf
from bilge_core.making.panels import Panel, panels_of
from bilge_core.making.parts import (
    HINGE,
    LAPS,
    TRIMMED,
    flange_part,
    flat_parts,
    plate_parts,
    sheet_of,
)
from bilge_core.making.unfolded import BendLine, _reliefs, unfolded
from bilge_core.pan import assemble_pan
from bilge_core.pan.faces import inside_faces
from ezdxf.filemanagement import read

from tests.conftest import DEMO

Make = Callable[..., dict[str, Any]]

DEMOS = {path.stem: read_build(path.read_text()) for path in sorted(DEMO.glob("*.json"))
         if path.stem != "readings"}  # fmt: skip
CURLEW = DEMOS["curlew"]
GATED = DEMOS["dunlin-gated"]


def panels(build: Build) -> tuple[Panel, ...]:
    return panels_of(assemble_pan(build))


def drafted(build: Build, degrees: float) -> Build:
    raw = build.model_dump(mode="json")
    for zone in raw["pan"]["zones"]:
        zone["draft_deg"] = degrees
    for part in raw["circuit"]["components"]:
        part.pop("mouth_at", None)  # the walls lean in over where some stand
    raw["pickup"] |= {"x_mm": 200, "y_mm": 0}
    return build_from(raw)


class TestBends:
    @pytest.mark.parametrize(
        ("turn", "thickness", "radius", "k", "wanted"),
        [(90.0, 2.0, 3.0, 0.44, 6.095), (90.0, 1.5, 1.5, 0.33, 3.134),
         (45.0, 3.0, 4.0, 0.5, 4.320)],
    )  # fmt: skip
    def test_the_allowance_is_the_handbooks(
        self, turn: float, thickness: float, radius: float, k: float, wanted: float
    ) -> None:
        """A (r + K t), machinery handbooks; figures worked by hand."""
        sheet = Sheet(thickness * 1e-3, radius * 1e-3, k)
        assert sheet.allowance(math.radians(turn)) * 1e3 == pytest.approx(wanted, abs=1e-3)

    def test_no_bend_takes_nothing_and_a_neutral_line_inside_takes_the_arc(self) -> None:
        sheet = Sheet(2e-3, 3e-3)
        assert sheet.allowance(0.0) == sheet.growth(0.0, True) == 0.0
        assert Sheet(2e-3, 3e-3, 0.0).allowance(1.0) == pytest.approx(3e-3)

    def test_measured_outside_a_pattern_is_shorter(self) -> None:
        """Bend deduction of a right angle: 2 (r + t) - A (r + K t)."""
        sheet = Sheet(2e-3, 3e-3)
        wanted = 2 * (3e-3 + 2e-3) - math.pi / 2 * (3e-3 + 0.44 * 2e-3)
        assert -sheet.growth(math.pi / 2, False) == pytest.approx(wanted)

    @pytest.mark.parametrize("wrong", [(0.0, 1e-3, 0.4), (1e-3, -1e-3, 0.4), (1e-3, 1e-3, 1.1)])
    def test_what_is_no_sheet_is_refused(self, wrong: Any) -> None:
        with pytest.raises(InvalidQuantity):
            Sheet(*wrong)


class TestPanels:
    @pytest.mark.parametrize("name", DEMOS)
    def test_they_have_the_area_of_the_inside(self, name: str) -> None:
        pan = assemble_pan(DEMOS[name])
        wanted = 0.0
        for face in inside_faces(pan):
            if face.kind != "skirt":
                rolled = np.roll(face.corners, -1, axis=0)
                wanted += 0.5 * float(np.linalg.norm(np.cross(face.corners, rolled).sum(axis=0)))
        assert sum(each.outline.area for each in panels_of(pan)) == pytest.approx(wanted, rel=1e-4)

    def test_a_leaning_wall_is_as_long_as_it_leans(self) -> None:
        """Closed form: 58 mm deep at 20° of draft is 58 / cos 20° of sheet."""
        walls = [p for p in panels(drafted(CURLEW, 20.0)) if p.kind == "wall"]
        for wall in walls:
            _, low, _, high = wall.outline.bounds
            assert high - low == pytest.approx(0.058 / math.cos(math.radians(20.0)), abs=1e-6)
        # and a trapezium: 58 tan 20° shorter below on either side
        long = max(walls, key=lambda each: each.outline.area)
        shorter = 2 * 0.058 * math.tan(math.radians(20.0))
        xs = np.sort(long.ring[:, 0])
        assert (xs[-1] - xs[0]) - (xs[-2] - xs[1]) == pytest.approx(shorter, abs=1e-6)

    @pytest.mark.parametrize("name", DEMOS)
    def test_who_meets_whom_is_mutual(self, name: str) -> None:
        found = {p.number: p for p in panels(DEMOS[name])}
        for panel in found.values():
            for each in panel.meetings:
                if each.other:
                    back = [m for m in found[each.other].meetings if m.other == panel.number]
                    assert any(m.length == pytest.approx(each.length, abs=1e-4) for m in back)
                    assert all(m.turn == pytest.approx(each.turn) for m in back)

    def test_every_edge_of_a_box_meets_another_or_the_rail(self) -> None:
        floor, *walls = panels(CURLEW)
        assert {each.other for each in floor.meetings} == {2, 3, 4, 5}
        assert all(each.turn == pytest.approx(math.pi / 2) for each in floor.meetings)
        for wall in walls:
            met = [each.other for each in wall.meetings]
            assert met.count(0) == 1 and 1 in met and len(met) == 4
        # the seam goes the whole way round
        rail = sum(m.length for p in walls for m in p.meetings if m.other == 0)
        assert rail == pytest.approx(2 * (0.410 + 0.196), abs=1e-6)


class TestUnfolded:
    SHEET = Sheet(2e-3, 3e-3)

    def test_a_box_bent_of_one_piece_has_the_handbooks_size(self) -> None:
        """410 x 196 x 58 inside: each side longer by 2 x (58 + what a bend adds)."""
        (box,) = unfolded(panels(CURLEW), [(1, n) for n in range(2, 6)], self.SHEET)
        left, low, right, high = box.outline.bounds
        adds = math.pi / 2 * (3e-3 + 0.44 * 2e-3) - 2 * 3e-3
        assert sorted((right - left, high - low)) == pytest.approx(
            [0.196 + 2 * (0.058 + adds), 0.410 + 2 * (0.058 + adds)], abs=2e-6
        )
        assert all(bend.up for bend in box.bends)
        whole = sum(p.outline.area for p in panels(CURLEW))
        growth = adds * 2 * (0.410 + 0.196)
        assert box.outline.area == pytest.approx(whole + growth, rel=2e-4)

    def test_a_relief_is_cut_between_the_ends_of_two_bends_that_meet(self) -> None:
        def bend(*ends: tuple[float, float]) -> BendLine:
            return BendLine((1, 2), np.array(ends[0]), np.array(ends[1]), 1.5, True)

        one, far = bend((0.0, 0.1), (0.0, 0.004)), bend((0.3, 0.3), (0.4, 0.3))
        (disc,) = _reliefs([one, bend((0.006, 0.0), (0.2, 0.0)), far], 5e-3)
        assert (disc.centroid.x, disc.centroid.y) == pytest.approx((3e-3, 2e-3))
        assert disc.bounds[2] - disc.bounds[0] == pytest.approx(10e-3)

    def test_neighbours_that_a_wide_bend_draws_over_each_other_are_no_fault(self) -> None:
        wide = Sheet(2e-3, 10e-3)  # it cuts the corner: less sheet than its two faces have
        assert wide.growth(math.pi / 2, True) == pytest.approx(math.pi / 2 * 10.88e-3 - 20e-3)
        bent, *_ = unfolded(panels(CURLEW), [(1, 2)], wide)
        assert [bend.between for bend in bent.bends] == [(1, 2)]

    def test_welded_it_is_as_many_pieces_as_panels(self) -> None:
        pieces = unfolded(panels(CURLEW), [], self.SHEET)
        assert [piece.numbers for piece in pieces] == [(n,) for n in range(1, 6)]
        assert all(not piece.bends for piece in pieces)

    def test_a_step_over_a_shelf_is_bent_the_other_way(self) -> None:
        """From the Dunlin's shelf down its ramp: the inner faces are the bend's outer ones."""
        found = panels(DEMOS["dunlin"])
        ways = {
            (p.number, m.other): m.inside
            for p in found for m in p.meetings
            if p.kind == "floor" and m.other and found[m.other - 1].kind == "floor"
        }  # fmt: skip
        assert set(ways.values()) == {True, False}

    def test_a_ring_and_strangers_are_refused(self) -> None:
        found = panels(CURLEW)
        walls = {m.other for m in found[1].meetings if m.other > 1}
        other = min(walls)
        with pytest.raises(InvalidInput, match="in a ring"):
            unfolded(found, [(1, 2), (1, other), (2, other)], self.SHEET)
        apart = next(n for n in range(3, 6) if n not in walls)
        for pair in ((2, apart), (1, 99)):
            with pytest.raises(InvalidInput, match="no edge in common"):
                unfolded(found, [pair], self.SHEET)

    def test_walls_of_an_inner_corner_would_lie_over_each_other(self, box_document: Make) -> None:
        """An L from above: flat, both walls of its inner corner want the same square."""
        ring = [[0, -120], [400, -120], [400, 0], [200, 0], [200, 120], [0, 120]]
        build = build_from(box_document(pan__zones__0__outline_mm=ring, pickup__x_mm=100))
        found = panels(build)
        walls = [panel for panel in found if panel.kind == "wall"]
        floor = next(panel for panel in found if panel.kind == "floor")

        def is_at_the_corner(panel: Panel) -> bool:
            corners = panel.in_space(panel.ring)
            near = np.hypot(corners[:, 0] - 0.2, corners[:, 1])
            return bool((near < 1e-6).any())

        one, other = sorted(each.number for each in walls if is_at_the_corner(each))
        every = [(floor.number, each.number) for each in walls]
        with pytest.raises(InvalidInput, match=f"panels {one} and {other} would lie over"):
            unfolded(found, every, self.SHEET)
        without = [pair for pair in every if other not in pair]
        assert len(unfolded(found, without, self.SHEET)) == 2


class TestParts:
    def test_a_plate_has_its_openings_and_each_gate_a_leaf(self) -> None:
        parts = plate_parts(GATED, assemble_pan(GATED))
        gates = [each for each in parts if each.kind == "gate"]
        assert len(gates) == sum(
            getattr(opening, "gate", None) is not None
            for plate in GATED.pan.plates for opening in plate.openings
        )  # fmt: skip
        opening = next(o for p in GATED.pan.plates for o in p.openings if getattr(o, "gate", None))
        assert gates[0].size == pytest.approx(
            (opening.width_mm * 1e-3 + 2 * LAPS, opening.height_mm * 1e-3 + LAPS + HINGE)  # type: ignore[union-attr]
        )
        assert any(len(each.outline.interiors) for each in parts if each.kind == "plate")

    def test_the_flange_has_its_bolts_and_its_opening(self) -> None:
        assert flange_part(CURLEW, assemble_pan(CURLEW)) is None
        act = {
            "kind": "flange",
            "width_mm": 18,
            "thickness_mm": 8,
            "hole_mm": 6.6,
            "spacing_mm": 70,
        }
        build = read_act(act).done(CURLEW).build
        part = flange_part(build, assemble_pan(build))
        assert part is not None and build.pan.flange is not None
        assert len(part.circles) == len(build.pan.flange.bolts) > 8
        assert len(part.outline.interiors) == 1
        hole = shapely.Polygon(part.outline.interiors[0]).area
        assert hole == pytest.approx(0.410 * 0.196, rel=1e-3)
        assert all(part.outline.contains(shapely.Point(x, y)) for x, y, _ in part.circles)

    def test_webs_in_the_way_of_plates_are_marked_on_the_flange_and_no_wider(self) -> None:
        """By hand: a plate of 1.5 mm from wall to wall up to the rail: a strip of 4.5 by 140 mm."""
        act = {"kind": "flange", "width_mm": 18, "thickness_mm": 8, "hole_mm": 6.6,
               "spacing_mm": 70}  # fmt: skip
        document = read_act(act).done(GATED).build.model_dump(mode="json")
        before = build_from(document)
        bare = flange_part(before, assemble_pan(before))
        assert bare is not None and bare.marked == () and "trimmed" not in bare.about
        document["pan"]["plates"][0]["top_depth_mm"] = 2.0  # P1, across; the others stay low
        build = build_from(document)
        part = flange_part(build, assemble_pan(build))
        assert part is not None and len(part.marked) == 4
        strip = shapely.Polygon([start for start, _ in part.marked])
        assert strip.area == pytest.approx(0.140 * (1.5e-3 + 2 * TRIMMED), rel=1e-3)
        # 236 mm behind the origin: down the page by as much
        assert strip.centroid.y == pytest.approx(document["pan"]["plates"][0]["from_mm"][0] * 1e-3)
        assert [note.words for note in part.notes] == ["P1"] and "1.5 mm to each side" in part.about
        assert part.outline.equals(bare.outline)  # marked, not cut
        document["pan"]["plates"][0]["top_depth_mm"] = 4.0
        lower = build_from(document)
        assert flange_part(lower, assemble_pan(lower)).marked == ()  # type: ignore[union-attr]
        drawn = read(io.StringIO(as_dxf([part])))
        assert sum(each.dxf.layer == "MARK" for each in drawn.modelspace().query("LINE")) >= 4

    def test_a_plate_that_stands_askew_takes_a_strip_as_askew(self) -> None:
        act = {"kind": "flange", "width_mm": 18, "thickness_mm": 8, "hole_mm": 6.6,
               "spacing_mm": 70}  # fmt: skip
        document = read_act(act).done(GATED).build.model_dump(mode="json")
        plate = document["pan"]["plates"][0]
        plate["top_depth_mm"] = 2.0
        plate["from_mm"][0] -= 30.0
        plate["to_mm"][0] += 25.0
        build = build_from(document)
        part = flange_part(build, assemble_pan(build))
        assert part is not None and len(part.marked) == 4
        sides = [np.subtract(end, start) for start, end in part.marked]
        assert abs(sides[0][0]) > 0.02 and abs(sides[0][1]) > 0.02  # it is askew
        for one, other in zip(sides, [*sides[1:], sides[0]], strict=True):
            assert float(one @ other) == pytest.approx(0.0, abs=1e-9)
        assert np.linalg.norm(sides[1]) == pytest.approx(1.5e-3 + 2 * TRIMMED)

    def test_an_arrow_of_20_mm_points_to_the_nose_beside_a_parts_middle(self) -> None:
        part = next(each for each in flat_parts(GATED, assemble_pan(GATED))
                    if np.linalg.norm(each.nose) > 0.5 and not each.marked)  # fmt: skip
        lines = [
            (np.array(each.dxf.start)[:2], np.array(each.dxf.end)[:2])
            for each in read(io.StringIO(as_dxf([part]))).modelspace().query("LINE")
            if each.dxf.layer == "MARK"
        ]
        (tail, tip), *barbs = lines
        way = part.nose / np.linalg.norm(part.nose)
        assert tip - tail == pytest.approx(20.0 * way)
        assert [start.tolist() for start, _ in barbs] == [tip.tolist()] * 2
        ends = [end - tip for _, end in barbs]
        assert [float(each @ way) for each in ends] == pytest.approx([-5.0, -5.0])
        assert float(np.linalg.norm(ends[0] - ends[1])) == pytest.approx(6.0)

    def test_thickness_is_the_builds_or_guessed(self) -> None:
        assert sheet_of(CURLEW).thickness == pytest.approx(4e-3)
        bare = build_from({**CURLEW.model_dump(), "pan": {**CURLEW.pan.model_dump(),
                                                         "sheet_mm": None}})  # fmt: skip
        assert all(each.is_guessed for each in flat_parts(bare, assemble_pan(bare)))

    @pytest.mark.parametrize("name", DEMOS)
    def test_keys_are_different_and_safe_in_an_address(self, name: str) -> None:
        parts = flat_parts(DEMOS[name], assemble_pan(DEMOS[name]))
        keys = [each.key for each in parts]
        assert len(set(keys)) == len(keys)
        assert all(key.replace("-", "").isalnum() for key in keys)


class TestDxf:
    def test_read_back_it_has_every_part_in_millimetres(self) -> None:
        parts = flat_parts(GATED, assemble_pan(GATED))
        document = read(io.StringIO(as_dxf(parts)))
        assert document.header["$INSUNITS"] == 4  # millimetres
        assert set(LAYERS) <= {layer.dxf.name for layer in document.layers}
        rings = [e for e in document.modelspace().query("LWPOLYLINE") if e.dxf.layer == "CUT"]
        assert len(rings) == sum(1 + len(part.outline.interiors) for part in parts)
        outer = sum(
            shapely.Polygon([(x, y) for x, y, *_ in ring.get_points()]).area for ring in rings
        )
        holes = sum(shapely.Polygon(h).area for part in parts for h in part.outline.interiors)
        wanted = sum(part.outline.area for part in parts) + 2 * holes
        assert outer * 1e-6 == pytest.approx(wanted, rel=1e-6)
        words = {e.dxf.text for e in document.modelspace().query("TEXT")}
        assert {"1", "rail", "to 1"} <= words

    def test_parts_lie_in_a_row_from_nil_on_and_apart(self) -> None:
        parts = flat_parts(GATED, assemble_pan(GATED))
        space = read(io.StringIO(as_dxf(parts))).modelspace()
        rings = [np.array(each.get_points())[:, :2] for each in space.query("LWPOLYLINE")
                 if each.dxf.layer == "CUT"]  # fmt: skip
        spans = sorted((ring[:, 0].min(), ring[:, 0].max()) for ring in rings)
        assert spans[0][0] == pytest.approx(0.0, abs=1e-9)
        assert min(ring[:, 1].min() for ring in rings) == pytest.approx(0.0, abs=1e-9)
        wide = sum(part.outline.bounds[2] - part.outline.bounds[0] for part in parts) * 1e3
        between = (max(end for _, end in spans) - wide) / (len(parts) - 1)
        assert between > 10.0

    def test_bends_and_folds_have_layers_of_their_own(self) -> None:
        pan = assemble_pan(CURLEW)
        parts = flat_parts(CURLEW, pan, [(1, 2)], Sheet(2e-3, 3e-3))
        space = read(io.StringIO(as_dxf(parts))).modelspace()
        assert len(space.query('LINE[layer=="BEND"]')) == 1
        assert any(e.dxf.text == "90.0 up" for e in space.query("TEXT"))
        gated = as_dxf(plate_parts(GATED, assemble_pan(GATED)))
        assert len(read(io.StringIO(gated)).modelspace().query('LINE[layer=="FOLD"]')) >= 3

    def test_parts_lie_beside_each_other(self) -> None:
        parts = flat_parts(CURLEW, assemble_pan(CURLEW))
        space = read(io.StringIO(as_dxf(parts))).modelspace()
        boxes = [
            shapely.Polygon([(x, y) for x, y, *_ in ring.get_points()])
            for ring in space.query('LWPOLYLINE[layer=="CUT"]')
        ]
        for at, one in enumerate(boxes):
            assert all(one.distance(other) > 15.0 for other in boxes[:at])
