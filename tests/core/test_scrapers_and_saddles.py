"""Scrapers as blanks against the triangle they close, and saddles against the tank they hold."""

from __future__ import annotations

import math
from typing import Any

import pytest
import shapely
from bilge_core.acts.fitted import FitScraper
from bilge_core.document.build import Build
from bilge_core.document.fitted import Flange
from bilge_core.document.read import read_build
from bilge_core.making.flat import FlatPart
from bilge_core.making.saddles import saddle_parts
from bilge_core.making.scrapers import edge_beside, scraper_parts, scrapers_not_cut
from bilge_core.pan import assemble_pan
from bilge_core.tell.making import making_out

from tests.conftest import DEMO


@pytest.fixture(scope="module")
def curlew() -> Build:
    return read_build((DEMO / "curlew.json").read_text())


def with_scraper(build: Build, side: Any, **crank: float) -> Build:
    assert build.car.crank is not None
    moved = build.car.crank.model_copy(update=crank)
    build = build.model_copy(update={"car": build.car.model_copy(update={"crank": moved})})
    return FitScraper(kind="fit_scraper", side=side).done(build).build


def blank(build: Build) -> FlatPart:
    [found] = scraper_parts(build, assemble_pan(build))
    return found


@pytest.mark.parametrize("side", ["left", "right"])
def test_a_blade_bent_up_ends_off_the_sweep(dunlin: Build, side: str) -> None:
    """Bent back, its tip lies on the line to the crank's middle, its gap off the swept circle."""
    build = with_scraper(dunlin, side)
    crank, part = build.car.crank, blank(build)
    assert crank is not None
    edge = edge_beside(assemble_pan(build).rail, 0.040, 0.415, side == "left")
    assert edge is not None
    [(start, end, turn, up)] = part.bends
    assert up and turn == pytest.approx(math.atan2(0.062, edge))
    assert (start[1], end[1]) == pytest.approx((0.040, 0.415))
    tip = min(part.outline.bounds[0::2], key=abs)
    thickness, radius = 1.5e-3, 2.25e-3
    # a handbook's flat length: both faces to where they would meet, less twice the setback,
    # and the neutral line's arc
    arc = turn * (radius + 0.44 * thickness)
    blade = edge - abs(tip) - (arc - 2.0 * radius * math.tan(turn / 2.0))
    y, z = edge - blade * math.cos(turn), blade * math.sin(turn)
    assert math.hypot(y, 0.062 - z) == pytest.approx(0.084 + 1.5e-3, abs=1e-6)
    assert part.outline.bounds[1::2] == pytest.approx((0.040, 0.415))


def test_the_tab_is_the_flanges_own_with_its_bolts(dunlin: Build) -> None:
    """14 mm of flange round the rail, bolts in it: those of the blade's side and stretch."""
    rail = assemble_pan(dunlin).rail
    low_x, low_y, high_x, high_y = (each * 1e3 for each in rail.bounds)
    outline = shapely.box(low_x - 14, low_y - 14, high_x + 14, high_y + 14).exterior.coords[:-1]
    places = [(x, y) for x in (20.0, 100.0, 300.0, 430.0) for y in (low_y - 7, high_y + 7)]
    bolts = [{"x_mm": x, "y_mm": y, "diameter_mm": 6.6} for x, y in places]
    flange = Flange.model_validate({"outline_mm": outline, "bolts": bolts, "thickness_mm": 6.0})
    pan = dunlin.pan.model_copy(update={"flange": flange})
    part = blank(with_scraper(dunlin.model_copy(update={"pan": pan}), "left"))
    assert [(round(x * 1e3, 3), round(y * 1e3, 3)) for x, y, _ in part.circles] == [
        (round(-high_y - 7, 3), 100.0), (round(-high_y - 7, 3), 300.0),
    ]  # fmt: skip
    assert part.outline.bounds[0] == pytest.approx(-(high_y + 14) * 1e-3)


def test_a_crank_over_the_rails_edge_leaves_no_blade_and_says_so(dunlin: Build) -> None:
    edge = edge_beside(assemble_pan(dunlin).rail, 0.040, 0.415, True)
    assert edge is not None
    there = math.hypot(edge, 0.062) * 1e3 - 1.5  # the sweep that leaves nothing
    assert blank(with_scraper(dunlin, "left", swept_radius_mm=there - 2.01)).kind == "scraper"
    build = with_scraper(dunlin, "left", swept_radius_mm=there - 1.99)
    assert list(scraper_parts(build, assemble_pan(build))) == []
    [words] = scrapers_not_cut(build, assemble_pan(build))
    assert words.startswith("left scraper: no blank")
    assert words in making_out(build, assemble_pan(build)).cautions


def test_a_crank_below_the_rail_is_bent_down_to(dunlin: Build) -> None:
    edge = edge_beside(assemble_pan(dunlin).rail, 0.040, 0.415, True)
    assert edge is not None
    [(_, _, turn, up)] = blank(with_scraper(dunlin, "left", height_mm=-20.0)).bends
    assert not up and turn == pytest.approx(math.atan2(0.020, edge))


def test_the_edge_is_the_nearest_along_the_stretch() -> None:
    stepped = shapely.Polygon(
        [(0, -0.1), (0.4, -0.1), (0.4, 0.06), (0.2, 0.06), (0.2, 0.1), (0, 0.1)]
    )
    assert edge_beside(stepped, 0.0, 0.19, True) == pytest.approx(0.1)
    assert edge_beside(stepped, 0.0, 0.21, True) == pytest.approx(0.06)
    assert edge_beside(stepped, 0.0, 0.5, True) is None  # beyond the rail
    assert edge_beside(stepped, 0.1, 0.3, False) == pytest.approx(0.1)


def test_saddles_hold_the_tank_and_a_box_has_none(curlew: Build, dunlin: Build) -> None:
    upper, lower = saddle_parts(curlew)
    assert {upper.key, lower.key} == {"saddle-1-1", "saddle-1-2"}
    [tank] = [each for each in curlew.circuit.components if each.kind == "tank"]
    round_tank = shapely.Point(0.0, 0.0).buffer(0.5e-3 * tank.diameter_mm)
    assert upper.outline.distance(round_tank) == pytest.approx(3e-3, abs=1e-4)  # its rubber
    for x, y, bore in upper.circles:
        assert upper.outline.contains(shapely.Point(x, y).buffer(0.75 * bore))
    assert list(saddle_parts(dunlin)) == []
    for shape, count in (({"diameter_mm": None}, 0), ({"length_mm": 200.0, "width_mm": 150.0}, 0),
                         ({"length_mm": 200.0}, 2)):  # fmt: skip
        components = [
            each.model_copy(update=shape) if each.kind == "tank" else each
            for each in curlew.circuit.components
        ]
        circuit = curlew.circuit.model_copy(update={"components": components})
        boxed = curlew.model_copy(update={"circuit": circuit})
        assert len(list(saddle_parts(boxed))) == count
