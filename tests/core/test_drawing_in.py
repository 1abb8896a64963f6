"""A flange drawn elsewhere: read from DXF, laid over the pan; what is not closed or has no unit."""

from __future__ import annotations

import io
import math
from typing import Any

import ezdxf
import numpy as np
import pytest
from bilge_core.acts.registry import read_act
from bilge_core.document.fitted import MOST_BOLTS
from bilge_core.document.read import read_build
from bilge_core.errors import InvalidInput
from bilge_core.making.dxf import as_dxf
from bilge_core.making.parts import flange_part
from bilge_core.pan import assemble_pan
from bilge_core.scan.drawing_file import MOST_BYTES, read_drawing, turned
from bilge_core.tell.flat_drawing import FlatDrawingOut, flat_drawing_out

from tests.conftest import DEMO

DUNLIN = read_build((DEMO / "dunlin.json").read_text())
FLANGE = {"kind": "flange", "width_mm": 18, "spacing_mm": 70, "hole_mm": 7, "thickness_mm": 5}
CORNERS = [(0, 0), (300, 0), (300, 200), (0, 200)]


def drawn(units: int = 4, **parts: Any) -> bytes:
    """A drawing of lines, arcs, circles, polylines and splines, as its words say."""
    document = ezdxf.new()
    document.units = units
    space = document.modelspace()
    for start, end in parts.get("lines", []):
        space.add_line(start, end)
    for ring in parts.get("rings", []):
        space.add_lwpolyline(ring, close=True)
    for x, y, radius in parts.get("circles", []):
        space.add_circle((x, y), radius)
    for centre, radius, start, end in parts.get("arcs", []):
        space.add_arc(centre, radius, start, end)
    for points in parts.get("splines", []):
        space.add_spline(points)
    for words in parts.get("texts", []):
        space.add_text(words)
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode()


SIDES = list(zip(CORNERS, [*CORNERS[1:], CORNERS[0]], strict=True))


class TestRead:
    @pytest.mark.parametrize(
        ("units", "metres"), [(4, 1e-3), (5, 1e-2), (1, 0.0254)],
    )  # fmt: skip
    def test_its_own_unit_counts(self, units: int, metres: float) -> None:
        size = 0.3 / metres
        ring = [(0, 0), (size, 0), (size, size), (0, size)]
        found = read_drawing(drawn(units, rings=[ring]), "m")
        assert found.rings[0].area == pytest.approx(0.09)

    def test_lines_whose_ends_meet_are_an_outline(self) -> None:
        assert read_drawing(drawn(lines=SIDES)).rings[0].area == pytest.approx(0.06)

    def test_round_corners_are_followed(self) -> None:
        """Closed form: a slot of two half circles and two straights."""
        straights = [((0, 0), (200, 0)), ((200, 100), (0, 100))]
        arcs = [((200, 50), 50, 270, 90), ((0, 50), 50, 90, 270)]
        found = read_drawing(drawn(lines=straights, arcs=arcs))
        assert found.rings[0].area == pytest.approx(200e-3 * 0.1 + math.pi * 0.05**2, rel=1e-3)

    def test_a_spline_is_followed_and_words_are_passed_over(self) -> None:
        """Through twelve points of a circle and back: within a hundredth of its area."""
        points = [(100 * math.cos(a), 100 * math.sin(a)) for a in np.linspace(0, 2 * np.pi, 13)]
        found = read_drawing(drawn(splines=[points], texts=["flange"]))
        assert found.rings[0].area == pytest.approx(math.pi * 0.01, rel=0.02)

    def test_holes_are_parted_from_outlines(self) -> None:
        inner = [(20, 20), (280, 20), (280, 180), (20, 180)]
        found = read_drawing(
            drawn(rings=[CORNERS, inner], circles=[(10, 10, 3.5), (290, 190, 4.25)])
        )
        assert [round(ring.area, 4) for ring in found.rings] == [0.06, 0.0416]
        assert sorted(round(d * 1e3, 2) for _, _, d in found.holes) == [7.0, 8.5]

    @pytest.mark.parametrize(
        ("data", "unit", "field", "words"),
        [(b"not a drawing", None, "file", "cannot be read"), (b"", None, "file", "cannot be read"),
         (drawn(0, rings=[CORNERS]), None, "unit", "not told"),
         (drawn(6, rings=[CORNERS]), None, "unit", "long"),
         (drawn(lines=SIDES[:3]), None, "file", "no closed outline"),
         (drawn(texts=["flange"]), None, "file", "no closed outline"),
         (b"x" * (MOST_BYTES + 1), None, "file", "at most 5")],
    )  # fmt: skip
    def test_what_cannot_be_is_said(self, data: bytes, unit: Any, field: str, words: str) -> None:
        with pytest.raises(InvalidInput, match=words) as refused:
            read_drawing(data, unit)
        assert refused.value.problems[0].field == field

    def test_a_file_without_a_unit_takes_the_one_that_is_said(self) -> None:
        assert read_drawing(drawn(0, rings=[CORNERS]), "mm").rings[0].area == pytest.approx(0.06)


class TestLaid:
    @pytest.mark.parametrize(
        ("ahead", "mirrored", "wanted"),
        [("up", False, (0.1, 0.15)), ("up", True, (0.1, -0.15)), ("right", False, (-0.15, 0.1)),
         ("left", False, (0.15, -0.1)), ("down", False, (-0.1, -0.15))],
    )  # fmt: skip
    def test_the_nose_is_where_it_is_said_to_be(
        self, ahead: Any, mirrored: bool, wanted: tuple[float, float]
    ) -> None:
        """The upper left corner of a 300 x 200 sheet, from its middle."""
        found = turned(read_drawing(drawn(rings=[CORNERS])), ahead, mirrored, np.zeros(2))
        corners = np.asarray(found.rings[0].exterior.coords)[:, :2]
        apart = np.hypot(*(corners - wanted).T)
        assert apart.min() < 1e-9
        holed = read_drawing(drawn(rings=[CORNERS], circles=[(0, 200, 3)]))
        there = turned(holed, ahead, mirrored, np.zeros(2))
        assert there.holes[0][:2] == pytest.approx(wanted, abs=1e-4)

    def test_our_own_flange_comes_back(self) -> None:
        build = read_act(FLANGE).done(DUNLIN).build
        pan = assemble_pan(build)
        part = flange_part(build, pan)
        assert part is not None and build.pan.flange is not None
        told = flat_drawing_out(as_dxf([part]).encode(), pan, None, "up", False)
        laid = read_act(
            {"kind": "flange_drawn", "outline_mm": told.rings_mm[0], "thickness_mm": 5,
             "bolts": [hole.model_dump() for hole in told.holes]}
        ).done(build).build  # fmt: skip
        again = flange_part(laid, assemble_pan(laid))
        assert again is not None and again.area == pytest.approx(part.area, rel=1e-3)
        mine, theirs = (
            sorted((round(b.x_mm), round(b.y_mm)) for b in each.pan.flange.bolts)  # type: ignore[union-attr]
            for each in (build, laid)
        )
        assert np.abs(np.subtract(mine, theirs)).max() <= 1

    @pytest.mark.parametrize(
        ("measured", "wrong"),
        [
            ("300 mm", None), ("301.4 mm", None), ("298.6 mm", None), (None, None),
            ("11 13/16 in", None),
            ("302 mm", "is 0.7 % more than the drawing has: measure again"),
            ("270 mm", "is 10.0 % less than the drawing has"),
            ("3000 mm", "is 10 times what the drawing has: say that it is drawn in another unit"),
            ("30 mm", "is one 10th of what the drawing has"),
        ],
    )  # fmt: skip
    def test_its_scale_is_held_to_what_is_measured(
        self, measured: str | None, wrong: str | None
    ) -> None:
        """A row of three: its ends are 300 mm apart."""
        bolts = [{"x_mm": x, "y_mm": 0.0, "diameter_mm": 6.6} for x in (0.0, 300.0, 90.0)]
        act = {"kind": "flange_drawn", "outline_mm": [[-20, -140], [480, -140], [480, 140]],
               "bolts": bolts, "measured_mm": measured}  # fmt: skip
        if wrong is None:
            done = read_act(act).done(DUNLIN)
            assert done.build.pan.flange is not None and len(done.build.pan.flange.bolts) == 3
            return
        with pytest.raises(InvalidInput, match=wrong) as refused:
            read_act(act).done(DUNLIN)
        assert refused.value.problems[0].field.endswith("measured_mm")
        with pytest.raises(InvalidInput, match="is of two bolts"):
            read_act({**act, "bolts": bolts[:1]}).done(DUNLIN)

    def test_what_is_to_be_measured_is_told_for_as_many_holes_as_a_flange_has(self) -> None:
        def told(count: int) -> FlatDrawingOut:
            drawing = ezdxf.new(units=ezdxf.units.MM)
            sheet = drawing.modelspace()
            sheet.add_lwpolyline([(0, 0), (700, 0), (700, 300), (0, 300)], close=True)
            for at in range(count):
                sheet.add_circle((20 + 5 * at, 150), 1.5)
            written = io.StringIO()
            drawing.write(written)
            data = written.getvalue().encode()
            return flat_drawing_out(data, assemble_pan(DUNLIN), None, "up", False)

        assert told(1).farthest is None and told(MOST_BOLTS + 1).farthest is None
        most = told(MOST_BOLTS).farthest
        assert most is not None and most.apart_mm == pytest.approx(5 * (MOST_BOLTS - 1), abs=0.2)

    def test_a_pan_is_begun_inside_it(self) -> None:
        act = {"kind": "flange_drawn", "outline_mm": [[-20, -140], [480, -140], [480, 140],
               [-20, 140]], "rail_mm": [[0, -120], [460, -120], [460, 120], [0, 120]],
               "depth_mm": "5 in"}  # fmt: skip
        done = read_act(act).done(DUNLIN)
        assert assemble_pan(done.build).capacity_to_rail == pytest.approx(
            0.46 * 0.24 * 0.127, rel=1e-6
        )
        assert "5 in deep" in done.words and done.build.pan.plates == []
        with pytest.raises(InvalidInput, match="must be said of a pan"):
            read_act({**act, "depth_mm": None}).done(DUNLIN)
