"""Solids to print, sheets to buy, what it weighs: against closed forms, read back by `trimesh`."""

from __future__ import annotations

import io
import math
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
import shapely
import trimesh
from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import InvalidInput, InvalidQuantity
from bilge_core.making.bends import Sheet
from bilge_core.making.cautions import cautions_of, narrowest_web
from bilge_core.making.nested import nested
from bilge_core.making.panels import panels_of
from bilge_core.making.parts import flange_part, flat_parts, spacer_part
from bilge_core.making.pickup_plate import PickupPlate, groove_for, plate_body, plate_part
from bilge_core.making.seams import bent_of, seams_of
from bilge_core.making.solids import Bed, body_round, in_pieces, pan_body, spacer_body, written
from bilge_core.making.unfolded import unfolded
from bilge_core.making.weight import DENSITY, pan_weight, with_oil
from bilge_core.pan import assemble_pan, level_of_volume
from bilge_core.tell.making import making_out
from bilge_core.tell.printed import PrintAsked, printed, printed_out

from tests.conftest import DEMO

DEMOS = {path.stem: read_build(path.read_text()) for path in sorted(DEMO.glob("*.json"))
         if path.stem != "readings"}  # fmt: skip
CURLEW, DUNLIN = DEMOS["curlew"], DEMOS["dunlin"]
WALL = 2.4e-3


def acted(build: Build, *acts: dict[str, Any]) -> Build:
    for act in acts:
        build = read_act(act).done(build).build
    return build


FLANGE = {"kind": "flange", "width_mm": 18, "spacing_mm": 70, "hole_mm": 7, "thickness_mm": 5}


class TestPan:
    @pytest.mark.parametrize("name", DEMOS)
    def test_its_inside_is_what_the_pan_holds(self, name: str) -> None:
        """Read back by another library: closed, one shell, its volume within half a percent."""
        pan = assemble_pan(DEMOS[name])
        back = trimesh.load(io.BytesIO(written([("inside", body_round(pan, 0.0))], "stl")),
                            file_type="stl")  # fmt: skip
        assert back.is_watertight and back.body_count == 1
        assert back.volume * 1e-9 == pytest.approx(pan.capacity_to_rail, rel=5e-3)

    @pytest.mark.parametrize("name", ["curlew", "dunlin", "dunlin-shop"])
    def test_its_shell_is_its_panels_times_the_wall(self, name: str) -> None:
        """Closed form but for the edges: each adds a strip of wall by wall."""
        build = DEMOS[name]
        pan = assemble_pan(build)
        if build.pan.flange is not None:
            build = build.model_copy(update={"pan": build.pan.model_copy(update={"flange": None})})
        shell, panels = pan_body(build, pan, WALL), panels_of(pan)
        area = sum(panel.outline.area for panel in panels)
        seams = sum(seam.length for seam in seams_of(panels))
        assert shell.is_watertight and shell.body_count == 1
        assert shell.volume == pytest.approx(area * WALL, rel=0.04)
        assert abs(shell.volume - area * WALL) < 1.2 * seams * WALL**2 + 0.004 * shell.volume

    def test_a_box_by_hand(self, box_document: Any) -> None:
        """400 x 240 x 140 inside, walls of 2.4: the outer box less the inner, open above."""
        build = Build.model_validate(box_document())
        shell = pan_body(build, assemble_pan(build), WALL)
        outer = (0.4 + 2 * WALL) * (0.24 + 2 * WALL) * (0.14 + WALL)
        assert shell.volume == pytest.approx(outer - 0.4 * 0.24 * 0.14, rel=0.06)
        assert shell.extents == pytest.approx([0.4048, 0.2448, 0.1424], abs=2e-4)

    def test_a_flange_goes_with_it_and_its_holes_go_through(self) -> None:
        build = acted(DUNLIN, FLANGE)
        pan = assemble_pan(build)
        bare, whole = pan_body(DUNLIN, assemble_pan(DUNLIN), WALL), pan_body(build, pan, WALL)
        flange = flange_part(build, pan)
        assert flange is not None and whole.is_watertight
        added = flange.area * 5e-3
        assert whole.volume - bare.volume == pytest.approx(added, rel=0.15)  # the wall is in it
        assert len(flange.circles) == (2 - whole.euler_number) // 2  # Euler: as many go through

    def test_a_wall_that_is_none_is_refused(self) -> None:
        with pytest.raises(InvalidQuantity, match="20 mm"):
            pan_body(CURLEW, assemble_pan(CURLEW), 1e-4)


class TestPieces:
    def test_they_fit_the_bed_close_and_are_the_whole(self) -> None:
        pan = assemble_pan(DUNLIN)
        bed = Bed(0.22, 0.20, 0.25)
        pieces = in_pieces(DUNLIN, pan, WALL, bed)
        assert len(pieces) == 6
        for piece in pieces:
            size = piece.body.extents
            assert piece.body.is_watertight
            assert size[0] <= bed.long + 1e-6 and size[1] <= bed.wide + 1e-6
        whole = pan_body(DUNLIN, pan, WALL).volume
        assert sum(piece.body.volume for piece in pieces) == pytest.approx(whole, rel=6e-3)

    def test_each_goes_into_the_next_and_none_into_another(self) -> None:
        pieces = in_pieces(CURLEW, assemble_pan(CURLEW), WALL, Bed(0.22, 0.25, 0.25))
        one, other = (piece.body for piece in pieces)
        lap = one.bounds[1][0] - other.bounds[0][0]
        assert lap == pytest.approx(6e-3, abs=1e-4)
        both = trimesh.boolean.intersection([one, other], engine="manifold")
        assert both.is_empty or both.volume < 1e-10

    def test_a_bed_that_takes_it_whole_makes_one_and_one_too_low_is_refused(self) -> None:
        pan = assemble_pan(CURLEW)
        assert len(in_pieces(CURLEW, pan, WALL, Bed(0.6, 0.6, 0.6))) == 1
        with pytest.raises(InvalidInput) as refused:
            in_pieces(CURLEW, pan, WALL, Bed(0.3, 0.3, 0.05))
        assert refused.value.problems[0].field == "bed_high_mm"
        with pytest.raises(InvalidInput) as refused:
            in_pieces(CURLEW, pan, WALL, Bed(0.06, 0.04, 0.3))
        assert refused.value.problems[0].field == "bed_long_mm"

    @pytest.mark.parametrize(("form", "scale"), [("stl", 1e3), ("3mf", 1e3), ("glb", 1.0)])
    def test_written_and_read_back_it_is_the_same(self, form: Any, scale: float) -> None:
        body = pan_body(CURLEW, assemble_pan(CURLEW), WALL)
        file = written([("pan", body)], form)
        back = trimesh.load(io.BytesIO(file), file_type=form, force="mesh")
        assert back.bounds == pytest.approx(body.bounds * scale, rel=1e-5, abs=1e-3)
        assert back.volume == pytest.approx(body.volume * scale**3, rel=1e-4)
        if form == "stl":
            with pytest.raises(InvalidQuantity, match="one alone"):
                written([("a", body), ("b", body)], "stl")


class TestSpacerAndPlate:
    def test_a_spacer_is_the_flange_as_thick_as_it(self) -> None:
        build = acted(DUNLIN, FLANGE, {"kind": "spacer", "by_mm": "1/4 in"})
        pan = assemble_pan(build)
        flat, body = spacer_part(build, pan), spacer_body(build, pan)
        assert flat is not None and flat.thickness == pytest.approx(6.35e-3)
        assert body.is_watertight
        assert body.volume == pytest.approx(flat.area * 6.35e-3, rel=5e-3)
        assert "spacer" in [part.key for part in flat_parts(build, pan)]
        assert spacer_part(DUNLIN, assemble_pan(DUNLIN)) is None
        for bare in (DUNLIN, acted(DUNLIN, {"kind": "spacer", "by_mm": 5})):
            with pytest.raises(InvalidInput):
                spacer_body(bare, assemble_pan(bare))

    def test_the_plate_by_hand(self) -> None:
        """Outline less port, groove and holes; with the tube square all are cylinders."""
        plate = PickupPlate(19e-3, 46e-3, 6.6e-3, 10e-3)
        groove = groove_for(19e-3)
        wanted = plate.outline.area * 10e-3 - math.pi / 4 * (
            (19e-3**2 + 2 * 6.6e-3**2) * 10e-3 + (groove.outer**2 - groove.inner**2) * groove.depth
        )
        body = plate_body(plate)
        assert body.is_watertight and body.volume == pytest.approx(wanted, rel=2e-3)
        assert plate_body(replace(plate, tube=30.0)).volume < body.volume

    @pytest.mark.parametrize(
        ("bore", "section"), [(19e-3, 1.78e-3), (20e-3, 1.78e-3), (20.1e-3, 2.62e-3),
                              (50e-3, 2.62e-3), (51e-3, 3.53e-3)],
    )  # fmt: skip
    def test_a_groove_squeezes_its_ring_by_a_quarter(self, bore: float, section: float) -> None:
        """Handbooks of O-rings (from memory): a face groove 20 to 30 % less deep than its ring."""
        groove = groove_for(bore)
        assert groove.section == section
        assert 0.20 <= 1.0 - groove.depth / section <= 0.30
        width = 0.5 * (groove.outer - groove.inner)
        assert math.pi / 4 * section**2 < 0.9 * width * groove.depth  # room to swell

    @pytest.mark.parametrize(
        ("figures", "field"),
        [({"between": 30e-3}, "between_mm"), ({"thickness": 3e-3}, "thickness_mm"),
         ({"tube": 70.0}, "tube_deg")],
    )  # fmt: skip
    def test_what_cannot_be_is_refused(self, figures: dict[str, float], field: str) -> None:
        whole = {"bore": 19e-3, "between": 46e-3, "hole": 6.6e-3, "thickness": 10e-3, **figures}
        with pytest.raises(InvalidInput) as refused:
            PickupPlate(**whole)
        assert refused.value.problems[0].field == field

    def test_its_flat_part_has_port_holes_and_both_edges_of_the_groove(self) -> None:
        part = plate_part(PickupPlate(19e-3, 46e-3, 6.6e-3, 10e-3, 20.0))
        assert (len(part.circles), len(part.scribed)) == (3, 2) and "20° from square" in part.about


class TestAsked:
    def test_what_is_printed_is_told(self) -> None:
        told = printed_out(DUNLIN, assemble_pan(DUNLIN), PrintAsked(bed_long_mm=220))
        assert told.is_closed and told.pieces == len(told.names) == 6
        assert told.size_mm[0] == pytest.approx(457, abs=3)
        inside = printed_out(DUNLIN, assemble_pan(DUNLIN), PrintAsked(what="inside"))
        assert inside.solid_cm3 == pytest.approx(
            assemble_pan(DUNLIN).capacity_to_rail * 1e6, rel=2e-3
        )

    def test_a_plate_takes_the_suction_lines_bore_or_says_that_it_is_not_known(self) -> None:
        pan = assemble_pan(DUNLIN)
        line = DUNLIN.circuit.suction
        assert line is not None
        ((_, body),) = printed(DUNLIN, pan, PrintAsked(what="pickup_plate"))
        assert body.is_watertight
        document = DUNLIN.model_dump(mode="json")
        run = next(each for each in document["circuit"]["runs"] if each["id"] == line.id)
        run["line"] = {"kind": "hose", "dash": None, "bore_mm": None}
        with pytest.raises(InvalidInput, match="bore"):
            printed(build_from(document), pan, PrintAsked(what="pickup_plate"))


class TestSheets:
    def test_parts_lie_apart_on_sheets_that_take_them(self) -> None:
        parts = flat_parts(DEMOS["dunlin-gated"], assemble_pan(DEMOS["dunlin-gated"]))
        for nest in nested(parts, 0.6, 0.4):
            boxes = []
            for laid in nest.laid:
                width, height = parts[laid.part].size
                if laid.turned:
                    width, height = height, width
                assert min(laid.x, laid.y) >= 8e-3 - 1e-9  # off the sheet's edge
                assert laid.x + width <= 0.6 - 8e-3 and laid.y + height <= 0.4 - 8e-3
                boxes.append((laid.sheet, shapely.box(laid.x, laid.y, laid.x + width,
                                                      laid.y + height)))  # fmt: skip
            for n, (sheet, box) in enumerate(boxes):
                assert all(s != sheet or box.distance(other) > 7e-3 for s, other in boxes[n + 1 :])
            assert {*(laid.part for laid in nest.laid), *nest.too_large} == {
                at for at, part in enumerate(parts) if part.thickness == nest.thickness
            }
            assert 0.0 <= nest.used < 1.0

    def test_a_part_larger_than_a_sheet_is_named(self) -> None:
        build = acted(CURLEW, {"kind": "make_of_sheet", "sheet_long_mm": "12 in"})
        told = making_out(build, assemble_pan(build))
        assert "floor 1" in told.nests[-1].too_large
        assert told.sheet_long_mm == pytest.approx(304.8)

    def test_of_sheets_that_take_nothing_nothing_is_used(self) -> None:
        parts = flat_parts(DEMOS["dunlin-gated"], assemble_pan(DEMOS["dunlin-gated"]))
        for nest in nested(parts, 0.02, 0.02):
            assert (nest.sheets, nest.used, nest.laid) == (0, 0.0, ())
            assert nest.too_large

    def test_small_holes_and_narrow_webs_are_cautioned(self) -> None:
        part = plate_part(PickupPlate(19e-3, 46e-3, 6.6e-3, 10e-3))
        edge = 0.5 * (46e-3 - 19e-3 - 6.6e-3)
        assert narrowest_web(part) == pytest.approx(min(edge, 5e-3), rel=0.02)
        thin = replace(part, circles=((0.0, 0.0, 4e-3),), thickness=5e-3)
        assert ["not punched" in each for each in cautions_of([thin])] == [True]
        assert narrowest_web(replace(part, circles=())) is None


class TestWeight:
    def test_a_box_by_hand(self, box_document: Any) -> None:
        """Five panels of 1 mm steel: its mass, and its centre below the middle."""
        build = Build.model_validate(box_document())
        pan = assemble_pan(build)
        empty = pan_weight(build, pan, "steel", 1e-3)
        floor, walls = 0.4 * 0.24, 2 * (0.4 + 0.24) * 0.14
        assert empty.mass == pytest.approx((floor + walls) * 1e-3 * DENSITY["steel"])
        assert empty.centre[2] == pytest.approx(-(floor * 0.14 + walls * 0.07) / (floor + walls))
        full = with_oil(build, pan, empty)
        oil = full.mass - empty.mass
        level = level_of_volume(pan.solid, np.array([0.0, 0.0, 1.0]), pan.oil_volume)
        assert 0.78 < oil / (pan.oil_volume * 1e3) < 0.9  # kg a litre, hot
        middle = 0.5 * (level - 0.14)
        assert full.centre[2] * full.mass == pytest.approx(
            empty.centre[2] * empty.mass + middle * oil, rel=2e-3
        )

    def test_a_flange_adds_its_own(self) -> None:
        build = acted(DUNLIN, FLANGE)
        more = pan_weight(build, assemble_pan(build), "aluminium", 3e-3)
        bare = pan_weight(DUNLIN, assemble_pan(DUNLIN), "aluminium", 3e-3)
        assert more.mass > bare.mass + 0.2 and more.centre[2] > bare.centre[2]


class TestMadeOfSheet:
    def test_an_edge_stays_bent_though_the_pan_is_edited(self) -> None:
        pan = assemble_pan(CURLEW)
        seam = seams_of(panels_of(pan))[0]
        at = [float(each) for each in seam.middle * 1e3]
        bent = acted(CURLEW, {"kind": "make_of_sheet", "edge_mm": at})
        assert bent_of(bent, panels_of(pan)) == (seam.pair,)
        zone = bent.pan.zones[0]
        deeper = acted(bent, {"kind": "figures", "figures": [
            {"field": f"pan.zones.{zone.id}.floor.depth_mm", "value": 64}]})  # fmt: skip
        assert len(bent_of(deeper, panels_of(assemble_pan(deeper)))) == 1
        welded = acted(bent, {"kind": "make_of_sheet", "edge_mm": at, "bent": False})
        assert bent_of(welded, panels_of(pan)) == ()
        again = acted(bent, {"kind": "make_of_sheet", "weld_all": True})
        assert again.pan.making is not None and again.pan.making.bent == []

    def test_what_cannot_lie_flat_is_shown_welded_and_says_why(self) -> None:
        """All four walls of a box bent to its floor and to each other: a ring."""
        told = making_out(CURLEW, assemble_pan(CURLEW))
        acts = [{"kind": "make_of_sheet", "edge_mm": seam.at_mm} for seam in told.seams]
        ring = acted(CURLEW, *acts)
        found = making_out(ring, assemble_pan(ring))
        assert found.fault is not None and "ring" in found.fault
        panels = [part for part in found.parts if part.kind == "panel"]
        assert not any(seam.bent for seam in found.seams) and len(panels) == 5

    def test_gaps_and_reliefs_take_metal_off(self) -> None:
        pan = assemble_pan(CURLEW)
        panels = panels_of(pan)
        bent = [(1, n) for n in range(2, 6)]
        (plain,) = unfolded(panels, bent, Sheet(2e-3, 3e-3))
        (relieved,) = unfolded(panels, bent, Sheet(2e-3, 3e-3, relief=True))
        disc = math.pi * 5e-3**2
        assert 0.0 < plain.outline.area - relieved.outline.area <= 4 * disc
        assert relieved.outline.is_valid
        alone = unfolded(panels, [], Sheet(2e-3, 3e-3))
        gapped = unfolded(panels, [], Sheet(2e-3, 3e-3, gap=1e-3))
        floor = alone[0].outline.area - gapped[0].outline.area
        assert floor == pytest.approx(0.5e-3 * 2 * (0.410 + 0.196), rel=0.01)

    def test_its_figures_are_kept_and_told(self) -> None:
        build = acted(
            CURLEW,
            {"kind": "make_of_sheet", "radius_mm": "1/8 in", "k_factor": "0.42", "gap_mm": 0.5,
             "relief": False, "metal": "steel"},
        )  # fmt: skip
        told = making_out(build, assemble_pan(build))
        assert (told.k_factor, told.gap_mm) == (0.42, 0.5)
        assert told.radius_mm == pytest.approx(3.175, abs=0.006)
        assert [weight.metal for weight in told.weights] == ["steel"]
        with pytest.raises(InvalidInput, match="changes nothing"):
            acted(CURLEW, {"kind": "make_of_sheet"})
        with pytest.raises(InvalidInput, match="k_factor"):
            acted(CURLEW, {"kind": "make_of_sheet", "k_factor": 2})
