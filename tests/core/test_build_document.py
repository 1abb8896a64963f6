"""The build document: what it refuses, and that it says where."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

import pytest
from bilge_core.document.build import Build
from bilge_core.document.parts import seen
from bilge_core.document.read import read_build, write_build
from bilge_core.errors import InvalidInput
from bilge_core.pan import assemble_pan
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import ROOT

Make = Callable[..., dict[str, Any]]


def faults(document: dict[str, Any]) -> dict[str, str]:
    """Field and message of everything wrong with a document and its pan."""
    with pytest.raises(InvalidInput) as refused:
        assemble_pan(read_build(json.dumps(document)))
    return {problem.field: problem.message for problem in refused.value.problems}


def zone(name: str, corners: list[list[float]], depth: float = 100.0) -> dict[str, Any]:
    return {"name": name, "outline_mm": corners, "floor": {"kind": "flat", "depth_mm": depth}}


def test_an_engine_that_holds_all_its_oil_is_refused(box_document: Make) -> None:
    document = box_document()
    document["oil"]["volume_l"] = 0.6
    with pytest.raises(InvalidInput, match=r"oil\.volume_l: .* leaves nothing of 0\.6 L"):
        assemble_pan(read_build(json.dumps(document)))


@pytest.mark.parametrize(
    ("changes", "field", "words"),
    [
        ({"oil__volume_l": "lots"}, "oil.volume_l", "number"),
        ({"oil__volume_l": -1}, "oil.volume_l", "greater than 0"),
        ({"oil__volume_l": 40}, "oil.volume_l", "hold 13.4 L"),
        ({"oil__grade": "17W-3"}, "oil.grade", "choose one of"),
        ({"oil__colour": "gold"}, "oil.colour", "is not a field"),
        ({"version": 7}, "version", "1 to 3"),
        ({"pickup__gap_mm": -3}, "pickup.gap_mm", "3.0 mm below the floor"),
        ({"pickup__x_mm": 900}, "pickup.x_mm", "outside the pan"),
        ({"pickup__x_mm": 395}, "pickup.x_mm", "mouth's edge"),
        ({"pickup__mouth": {"kind": "oval"}}, "pickup.mouth", "round"),
        ({"car__nose_points": "up"}, "car.nose_points", "front"),
        (
            {"pan__zones__0__outline_mm": [[0, 0], [400, 200], [400, 0], [0, 200]]},
            "pan.zones.0.outline_mm",
            "crosses or touches itself near 200 mm ahead of the rear face, 100 mm left",
        ),
        (
            {"pan__zones__0__outline_mm": [[0, 0], [1, 0], [1, 1]]},
            "pan.zones.0.outline_mm",
            "1 cm²",
        ),
        ({"pan__zones__0__outline_mm": [[0, 0], [1, 0]]}, "pan.zones.0.outline_mm", "at least 3"),
        (
            {"pan__zones__0__floor__depth_mm": 0},
            "pan.zones.0.floor.depth_mm",
            "greater than or equal to 1",
        ),
        (
            {"pan__zones__0__ceiling_depth_mm": 150},
            "pan.zones.0.ceiling_depth_mm",
            "above its floor",
        ),
    ],
)
def test_names_the_field(
    box_document: Make, changes: dict[str, Any], field: str, words: str
) -> None:
    found = faults(box_document(**changes))
    assert field in found, found
    assert words in found[field]


def test_lists_every_fault_at_once(box_document: Make) -> None:
    found = faults(box_document(oil__volume_l=None, pickup__gap_mm="deep"))
    assert {"oil.volume_l", "pickup.gap_mm"} <= set(found)


@pytest.mark.parametrize("number", ["NaN", "Infinity", "-Infinity", "1e999"])
def test_refuses_numbers_that_are_none(box_document: Make, number: str) -> None:
    text = json.dumps(box_document()).replace('"gap_mm": 8', f'"gap_mm": {number}')
    with pytest.raises(InvalidInput):
        read_build(text)


def test_zones_may_not_overlap_nor_stand_apart(box_document: Make) -> None:
    document = box_document()
    zones = document["pan"]["zones"]
    zones.append(zone("lap", [[380, -120], [500, -120], [500, 120], [380, 120]]))
    assert "lies over box by 48.0 cm²" in faults(document)["pan.zones.1.outline_mm"]
    zones[1] = zone("far", [[420, -120], [500, -120], [500, 120], [420, 120]])
    assert "not open to" in faults(document)["pan.zones.1.outline_mm"]
    zones[1] = zone("corner", [[400, 120], [500, 120], [500, 220], [400, 220]])
    assert "not open to" in faults(document)["pan.zones.1.outline_mm"]
    zones[1] = zone("beside", [[400, -120], [500, -120], [500, 120], [400, 120]])
    assert assemble_pan(read_build(json.dumps(document))).capacity_to_rail == pytest.approx(
        0.4 * 0.24 * 0.14 + 0.1 * 0.24 * 0.1
    )


def test_a_side_box_must_have_an_opening(box_document: Make) -> None:
    document = box_document()
    shelf = zone("shelf", [[400, -120], [500, -120], [500, 120], [400, 120]], depth=40)
    side = zone("side box", [[500, -120], [560, -120], [560, 120], [500, 120]], depth=120)
    document["pan"]["zones"] += [shelf, {**side, "ceiling_depth_mm": 60}]
    assert "not open to" in faults(document)["pan.zones.2.outline_mm"]
    document["pan"]["zones"][2]["ceiling_depth_mm"] = 20
    assert assemble_pan(read_build(json.dumps(document))).zones[2].is_open is False


def test_mouth_over_a_ramp_must_clear_it_all_round(box_document: Make) -> None:
    ramp = {"kind": "ramp", "runs": "lengthways", "from_depth_mm": 140, "to_depth_mm": 40}
    found = faults(box_document(pan__zones__0__floor=ramp, pickup__gap_mm=4, oil__volume_l=2))
    assert "below the floor at 220 mm ahead" in found["pickup.gap_mm"]  # 20 mm on, 5 mm up
    assemble_pan(
        Build.model_validate(
            box_document(pan__zones__0__floor=ramp, pickup__gap_mm=6, oil__volume_l=2)
        )
    )


def test_written_and_read_back(dunlin: Build) -> None:
    assert read_build(write_build(dunlin)) == dunlin


def test_published_schema_is_up_to_date() -> None:
    """docs/build.schema.json is what the document's code says; write it anew with
    `python -m tests.core.test_build_document`."""
    kept = json.loads((ROOT / "docs" / "build.schema.json").read_text())
    assert kept == Build.model_json_schema()


JSON_VALUES = st.recursive(
    st.none() | st.booleans() | st.floats() | st.text(max_size=20),
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(st.text(max_size=8), inner),
    max_leaves=20,
)


@settings(max_examples=150, deadline=None)
@given(JSON_VALUES)
def test_no_json_crashes_it(value: Any) -> None:
    with pytest.raises(InvalidInput):
        read_build(json.dumps(value))


@settings(max_examples=100, deadline=None)
@given(st.binary(max_size=200))
def test_no_bytes_crash_it(data: bytes) -> None:
    with pytest.raises(InvalidInput):
        read_build(data)


PATHS = [
    "oil__volume_l",
    "oil__away_l",
    "oil__temperature_c",
    "pickup__x_mm",
    "pickup__y_mm",
    "pickup__gap_mm",
    "pan__skirt_height_mm",
    "car__lean_right_deg",
    "pan__zones__0__floor__depth_mm",
    "pan__zones__0__outline_mm__1__0",
    "pan__zones__0__outline_mm__2__1",
]


@settings(max_examples=200, deadline=None)
@given(st.dictionaries(st.sampled_from(PATHS), st.floats(-1e4, 1e4) | st.none() | st.text()))
def test_any_figure_is_taken_or_refused(changes: dict[str, Any]) -> None:
    document = make_box()
    for path, value in changes.items():
        holder: Any = document
        *keys, last = [int(key) if key.isdigit() else key for key in path.split("__")]
        for key in keys:
            holder = holder[key]
        holder[last] = value
    try:
        pan = assemble_pan(read_build(json.dumps(document)))
    except InvalidInput as refused:
        assert all(problem.field and problem.message for problem in refused.problems)
    else:
        assert 0.0 < pan.oil_volume <= pan.solid.volume


def make_box() -> dict[str, Any]:
    return json.loads((ROOT / "demo" / "dunlin.json").read_text())  # type: ignore[no-any-return]


if __name__ == "__main__":
    schema = json.dumps(Build.model_json_schema(), indent=1)
    (ROOT / "docs" / "build.schema.json").write_text(schema + "\n")


@pytest.mark.parametrize("between", ["\t", "\n", "\r", "\r\n", "  ", " \u200b "])
def test_breaks_in_a_name_are_spaces(between: str) -> None:
    assert seen(f"pan{between}by the shop") == "pan by the shop"
