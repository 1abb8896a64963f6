"""Plates and gates placed in the pan, and how they are cut and drawn."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
import shapely
from bilge_core.document.build import Build
from bilge_core.document.plates import Opening, VerticalPlate
from bilge_core.document.read import read_build
from bilge_core.errors import InvalidInput
from bilge_core.moving.openings import inside_shares
from bilge_core.moving.sheets import lay_plates
from bilge_core.pan import Pan, assemble_pan
from bilge_core.pan.plates import place_plates
from bilge_core.pan.sections import cut_pan
from bilge_core.pan.solid import Prism
from shapely import Polygon

Make = Callable[..., dict[str, Any]]


def upright(**changes: Any) -> dict[str, Any]:
    """Across the box at x = 200, standing on the floor, up to 40 mm below the rail."""
    plate = {
        "kind": "vertical",
        "name": "P1",
        "from_mm": [200, -120],
        "to_mm": [200, 120],
        "top_depth_mm": 40,
    }
    return {**plate, **changes}


def opening(**changes: Any) -> dict[str, Any]:
    """60 wide and 30 high, its lower edge 5 mm above the floor."""
    place = {"name": "O1", "from_start_mm": 90, "width_mm": 60, "lower_depth_mm": 135}
    return {**place, "height_mm": 30, **changes}


GATE = {"swings": "left", "leaf": "rubber", "leak_pct": 4}


def pan_with(box_document: Make, *plates: dict[str, Any], **changes: Any) -> Pan:
    document = box_document(**changes)
    document["pan"]["plates"] = list(plates)
    return assemble_pan(Build.model_validate(document))


def area(pan: Pan) -> float:
    return float(sum(plate.sheet.area for plate in pan.plates))


def test_a_plate_is_cut_to_the_inside(box_document: Make) -> None:
    wide = upright(from_mm=[200, -500], to_mm=[200, 500])
    assert area(pan_with(box_document, upright())) == pytest.approx(0.24 * 0.10)
    assert area(pan_with(box_document, wide)) == pytest.approx(0.24 * 0.10)
    hung = upright(bottom_depth_mm=100)
    assert area(pan_with(box_document, hung)) == pytest.approx(0.24 * 0.06)
    holed = upright(openings=[opening()])
    assert area(pan_with(box_document, holed)) == pytest.approx(0.24 * 0.10 - 0.06 * 0.03)


def test_an_oblique_plate_on_a_ramp_follows_the_floor(box_document: Make) -> None:
    ramp = {"kind": "ramp", "runs": "lengthways", "from_depth_mm": 140, "to_depth_mm": 60}
    oblique = upright(from_mm=[0, -120], to_mm=[400, 120], top_depth_mm=20)
    pan = pan_with(box_document, oblique, pan__zones__0__floor=ramp)
    length = np.hypot(0.4, 0.24)
    assert area(pan) == pytest.approx(length * (0.12 + 0.04) / 2)  # a trapezium
    ring = pan.plates[0].pieces()[0][0]
    assert np.ptp(ring @ [0.24, -0.4, 0.0]) < 1e-9  # flat and upright
    assert ring[:, 2].min() == pytest.approx(-0.14)


def test_a_plate_reaches_over_the_rail_into_the_skirt(box_document: Make) -> None:
    pan = pan_with(box_document, upright(top_depth_mm=-50), pan__skirt_height_mm=80)
    assert area(pan) == pytest.approx(0.24 * 0.19)


def test_a_horizontal_plate_ends_where_the_floor_rises(box_document: Make) -> None:
    """At half the height of a ramp from 140 to 60 mm the plate reaches half of its length."""
    ramp = {"kind": "ramp", "runs": "lengthways", "from_depth_mm": 140, "to_depth_mm": 60}
    lid = {
        "kind": "horizontal",
        "name": "lid",
        "outline_mm": [[-50, -200], [500, -200], [500, 200], [-50, 200]],
        "depth_mm": 100,
        "openings": [{"name": "H", "x_mm": 80, "y_mm": 0, "length_mm": 60, "width_mm": 50}],
    }
    pan = pan_with(box_document, lid, pan__zones__0__floor=ramp)
    assert area(pan) == pytest.approx(0.2 * 0.24 - 0.06 * 0.05)
    ((outer, hole),) = pan.plates[0].pieces()
    assert set(outer[:, 2]) == {-0.1}
    assert Polygon(hole[:, :2]).area == pytest.approx(0.003)


def test_a_gate_opens_to_the_side_it_is_said_to(box_document: Make) -> None:
    """The plate runs to the engine's left: its own left is rearward."""
    for swings, way in (("left", -1.0), ("right", 1.0)):
        plate = upright(openings=[opening(gate={**GATE, "swings": swings})])
        gate = pan_with(box_document, plate).plates[0].gates[0]
        assert gate.opens == pytest.approx([way, 0.0, 0.0])
        assert gate.corners[0, 2] == pytest.approx(-0.105)  # hung by its upper edge
        assert gate.corners[2, 2] == pytest.approx(-0.135)


def test_sections_show_plates_openings_and_gates(box_document: Make) -> None:
    plate = upright(openings=[opening(gate=GATE)])
    pan = pan_with(box_document, plate)
    through = cut_pan(pan, "y", 0.0)
    heights = sorted(tuple(sorted(line[:, 1].round(4).tolist())) for line in through.plates)
    assert heights == [(-0.14, -0.135), (-0.105, -0.04)]  # above and below the opening
    (gate,) = through.gates
    assert gate.hinge == pytest.approx([0.2, -0.105])
    assert gate.edge == pytest.approx([0.2, -0.135])
    assert gate.opens == -1
    beside = cut_pan(pan, "y", 0.1)
    assert len(beside.plates) == 1
    assert beside.gates == ()
    assert cut_pan(pan, "x", 0.1).plates == ()


@pytest.mark.parametrize(
    ("plate", "field", "words"),
    [
        (upright(to_mm=[200, -120]), "0.to_mm", "ends where it starts"),
        (upright(bottom_depth_mm=30), "0.top_depth_mm", "below its lower edge"),
        (upright(from_mm=[900, 0], to_mm=[900, 50]), "0.from_mm", "inside the pan"),
        (upright(openings=[opening(from_start_mm=200)]), "0.openings.0.from_start_mm", "beyond"),
        (upright(openings=[opening(lower_depth_mm=160)]), "0.openings.0.from_start_mm", "beyond"),
        (upright(openings=[opening(gate={**GATE, "swings": "up"})]), "gate.swings", "left"),
        (upright(kind="slanted"), "pan.plates.0", "vertical"),
        (
            {
                "kind": "horizontal",
                "name": "lid",
                "outline_mm": [[0, 0], [100, 100], [100, 0], [0, 100]],
                "depth_mm": 100,
            },
            "0.outline_mm",
            "crosses itself",
        ),
        (
            {
                "kind": "horizontal",
                "name": "lid",
                "outline_mm": [[0, 0], [100, 0], [100, 100]],
                "depth_mm": 300,
            },
            "0.depth_mm",
            "300 mm below the rail",
        ),
    ],
)
def test_faulty_plates_name_their_field(
    box_document: Make, plate: dict[str, Any], field: str, words: str
) -> None:
    document = box_document()
    document["pan"]["plates"] = [plate]
    with pytest.raises(InvalidInput) as refused:
        assemble_pan(read_build(json.dumps(document)))
    assert any(
        field in problem.field and words in problem.message for problem in refused.value.problems
    ), refused.value.problems


def test_settled_oil_passes_plates(box_document: Make) -> None:
    bare, plated = pan_with(box_document), pan_with(box_document, upright(openings=[opening()]))
    assert plated.solid.volume == bare.solid.volume


@pytest.mark.parametrize("leak_pct", [0.0, 4.0, 100.0])
def test_a_shut_gate_leaves_its_share_of_the_opening(box_document: Make, leak_pct: float) -> None:
    plate = upright(openings=[opening(gate={**GATE, "leak_pct": leak_pct})])
    assert pan_with(box_document, plate).plates[0].gates[0].leak == pytest.approx(leak_pct / 100.0)


@pytest.mark.parametrize("turn", [20.0, 45.0, 115.0, -65.0])
def test_an_opening_of_an_oblique_plate_lies_where_it_is(turn: float) -> None:
    """On the faces of the stair: its middle, its width, and its area, each within a cell."""
    box = Prism(shapely.box(-0.3, -0.3, 0.3, 0.3), (-0.1, 0, 0), (0, 0, 0))
    along = np.array([np.cos(np.radians(turn)), np.sin(np.radians(turn))])
    ends = [tuple(float(each) for each in along * mm) for mm in (-150.0, 150.0)]
    opening = Opening(
        name="O", from_start_mm=180, width_mm=60, lower_depth_mm=80, height_mm=50, gate=None
    )
    plate = VerticalPlate(
        kind="vertical", name="P", from_mm=ends[0], to_mm=ends[1], top_depth_mm=10,
        openings=[opening],
    )  # fmt: skip
    cell = 0.005
    lines = (
        np.arange(-0.3, 0.3 + cell / 2, cell), np.arange(-0.3, 0.3 + cell / 2, cell),
        np.arange(-0.1, cell / 2, cell),
    )  # fmt: skip
    area = inside_shares([box], *lines).area
    sheets = lay_plates(place_plates([plate], [box]), [box], lines, area)
    centres = [0.5 * (line[1:] + line[:-1]) for line in lines]
    places = []
    for axis in (0, 1):
        i, j, k = np.nonzero(sheets.holes[axis] == 0)
        x = lines[0][i] if axis == 0 else centres[0][i]
        y = lines[1][j] if axis == 1 else centres[1][j]
        places.append(np.column_stack([x * along[0] + y * along[1], centres[2][k]]))
        across = -x * along[1] + y * along[0]
        assert np.abs(across).max() < cell
    there = np.concatenate(places)
    assert there[:, 0].min() == pytest.approx(0.030, abs=cell)
    assert there[:, 0].max() == pytest.approx(0.090, abs=cell)
    assert there.mean(axis=0) == pytest.approx([0.060, -0.055], abs=0.4 * cell)
    assert sheets.openings[0].on_grid == pytest.approx(0.06 * 0.05, rel=0.03)
