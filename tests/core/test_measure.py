"""The pan checked against itself: dips, deepening, gates, openings, gaps."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

import pytest
from bilge_core.acts.deepen import deepen
from bilge_core.acts.mend import CarryToWall, mend_of
from bilge_core.agreement.poured import compare_poured, explain_poured
from bilge_core.checks.pan import check_pan
from bilge_core.clearance.ground import ground_clearance
from bilge_core.document.build import Build
from bilge_core.document.dipped import Dipped
from bilge_core.document.read import build_from, read_build
from bilge_core.document.records import Records
from bilge_core.errors import InvalidInput, InvalidQuantity
from bilge_core.pan import assemble_pan
from bilge_core.quantities import convert
from bilge_core.tell.pan import pan_out
from builds.templates import template_document

from tests.conftest import DEMO

Make = Callable[..., dict[str, Any]]


@pytest.fixture(scope="module")
def gated() -> Build:
    return read_build((DEMO / "dunlin-gated.json").read_text())


def dips(*points: tuple[float, float], engine: str = "level") -> dict[str, Any]:
    rows = [{"poured_l": litres, "level_mm": level} for litres, level in points]
    return {"engine": engine, "points": rows}


def test_a_box_dips_as_litres_over_area(box_document: Make) -> None:
    """Level = V / A (elementary): 400 x 240 mm is 0.96 L a centimetre."""
    build = Build.model_validate(box_document())
    measured = Dipped.model_validate(dips((0.96, 10.0), (4.8, 51.0), (99.0 / 2, 140.0)))
    found = compare_poured(assemble_pan(build), build.car, measured)
    assert found.computed == pytest.approx([0.010, 0.050])  # what it cannot hold is left out
    assert found.rms == pytest.approx(1e-3 / math.sqrt(2))


def test_dips_of_a_leaned_engine_are_taken_straight_up(box_document: Make) -> None:
    """A box leaned 45° fills as a trough: V = L h² (elementary)."""
    build = Build.model_validate(box_document(car__lean_right_deg=45))
    measured = Dipped.model_validate(dips((1.0, 50.0), engine="in_car"))
    found = compare_poured(assemble_pan(build), build.car, measured)
    assert found.computed[0] == pytest.approx(math.sqrt(1e-3 / 0.4))


@pytest.mark.parametrize(
    ("spoil", "wanted", "change_mm"),
    [
        (lambda d: d["pan"]["zones"][0]["floor"].update(depth_mm=148), "depth of deep sump", 10),
        (lambda d: None, "zero of the dipstick", -6),
    ],
)
def test_the_dimension_that_was_wrong_is_named(
    dunlin: Build, spoil: Callable[[dict[str, Any]], None], wanted: str, change_mm: float
) -> None:
    """Dips are made from the pan as it is; the document drawn is another by one dimension."""
    true = dunlin.model_dump(mode="json")
    spoil(true)
    pan = assemble_pan(Build.model_validate(true))
    volumes = [0.5, 1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 7.0]
    zero = change_mm if "zero" in wanted else 0.0
    seen = compare_poured(
        pan, dunlin.car, Dipped.model_validate(dips(*((v, 1.0) for v in volumes)))
    )
    points = zip(volumes, (seen.computed * 1e3 + zero).tolist(), strict=True)
    drawn = dunlin.model_dump(mode="json")
    dipped = Dipped.model_validate(dips(*((v, max(0.0, level)) for v, level in points)))
    best = explain_poured(Build.model_validate(drawn), dipped)[0]
    assert best.what == wanted
    assert best.change * 1e3 == pytest.approx(change_mm, abs=1.0)
    assert best.rms < 1e-3


def test_dips_that_agree_need_no_explanation(dunlin: Build) -> None:
    dipped = Dipped.model_validate(dips((4.0, 62.6), (2.0, 32.5)))
    assert compare_poured(assemble_pan(dunlin), dunlin.car, dipped).rms < 1.0e-3
    assert explain_poured(dunlin, dipped) == ()
    assert explain_poured(dunlin, None) == ()


def test_each_dip_is_told_beside_what_the_drawing_has(dunlin: Build) -> None:
    dipped = Dipped.model_validate(dips((4.0, 60.0), (2.0, 32.5)))
    told = pan_out(dunlin, None, Records(dipped=dipped)).dips
    assert [(row.poured_l, row.dipped_mm) for row in told] == [(4.0, 60.0), (2.0, 32.5)]
    assert [row.computed_mm for row in told] == pytest.approx([62.6, 32.5], abs=0.5)


@pytest.mark.parametrize(("halved", "names"), [(0.45, 1), (0.55, 0)])
def test_what_does_not_halve_the_mismatch_explains_nothing(
    box_document: Make, halved: float, names: int
) -> None:
    """A stick read from another zero by d, and e up and down by turns: it takes rms d² + e² to e².

    In a box a depth moves every level alike, as the zero does: only the width is another way.
    """
    volumes = [1.92, 3.84, 5.76, 7.68]  # 20, 40, 60, 80 mm in a box of 400 x 240
    shift, scatter = 4.0, 4.0 * halved / math.sqrt(1.0 - halved**2)
    levels = [20.0 * (n + 1) + shift + scatter * (-1.0) ** n for n in range(4)]
    dipped = Dipped.model_validate(dips(*zip(volumes, levels, strict=True)))
    found = [each.what for each in explain_poured(build_from(box_document()), dipped)]
    assert ("zero of the dipstick" in found) == bool(names)


def test_a_spacer_takes_everything_along() -> None:
    """1/4 in on a flat-six sized sump: about 1/2 US qt, the pickup's spacer, the bolts and the
    baffle's height follow (common practice, no published source)."""
    build = template_document("flat-six")
    done = deepen(build, 6.35e-3)
    gained = convert(done.capacity_gained * 1e3, "volume", "L", "qt")
    assert gained == pytest.approx(0.5, abs=0.05)
    assert done.lower == pytest.approx(6.35e-3)
    assert done.build.pickup.gap_mm == build.pickup.gap_mm
    before, after = (assemble_pan(b).mouth.centre for b in (build, done.build))
    assert before[2] - after[2] == pytest.approx(6.35e-3)  # the pickup goes down with the floor
    assert done.build.pan.spacer_mm == pytest.approx(6.35)
    back = deepen(done.build, -6.35e-3)
    assert back.build.pan.spacer_mm == pytest.approx(0.0)
    assert back.capacity_gained == pytest.approx(-done.capacity_gained)


def test_a_deeper_sump_leaves_the_rest_and_the_plates(gated: Build) -> None:
    """3/4 in deeper under the deep sump, 240 x 214 mm, is its area times the depth."""
    done = deepen(gated, 19.05e-3, [0])
    assert done.capacity_gained == pytest.approx(0.240 * 0.214 * 19.05e-3, rel=1e-9)
    assert done.build.pan.spacer_mm == 0.0
    assert [p.name for p in done.build.pan.plates] == [p.name for p in gated.pan.plates]
    lid, deeper_lid = (b.pan.plates[-1] for b in (gated, done.build))
    assert lid == deeper_lid  # its height under the rail is kept
    areas = [assemble_pan(b).plates[3].sheet.area for b in (gated, done.build)]
    assert areas[1] - areas[0] == pytest.approx(0.140 * 19.05e-3)  # P2 stands on the floor: it grew


def test_deepening_refuses_what_makes_no_sense(dunlin: Build) -> None:
    for amount in (0.0, math.nan, math.inf):
        with pytest.raises(InvalidQuantity, match="amount"):
            deepen(dunlin, amount)
    for zones in ([], [9]):
        with pytest.raises(InvalidQuantity, match="zones"):
            deepen(dunlin, 0.01, zones)
    with pytest.raises(InvalidInput):
        deepen(dunlin, -0.2)


def words(build: Build, speed: float = 800.0) -> dict[str, str]:
    return {c.words: c.state for c in check_pan(build, assemble_pan(build), speed)}


def changed(build: Build, *path: Any, value: Any) -> Build:
    document = build.model_dump(mode="json")
    holder: Any = document
    for key in path[:-1]:
        holder = holder[key]
    holder[path[-1]] = value
    return Build.model_validate(document)


def test_a_gate_turned_round_is_found(gated: Build) -> None:
    gate = ("pan", "plates", 1, "openings", 0, "gate", "swings")
    found = check_pan(changed(gated, *gate, value="left"), assemble_pan(gated), 800.0)
    assert (found[0].state, found[0].fix) == ("bad", "turn_gate")
    assert found[0].field == "pan.plates.1.openings.0.gate.swings"
    assert "G1 in R1 swings away" in found[0].words
    wrong = changed(gated, *gate, value="left")
    mend = mend_of(wrong, found[0])
    assert mend is not None
    assert mend.done(wrong).build == gated
    assert mend.done(wrong).words == "gate G1 turned round"
    assert all(mend_of(gated, each) is None for each in check_pan(gated, assemble_pan(gated), 1.0)
               if each.state == "good")  # fmt: skip


def test_openings_too_small_for_the_pump(gated: Build) -> None:
    """Orifice: h = (Q / Cd A)² / 2g, with Cd 0.6 (handbook value, from memory)."""
    small = gated
    for plate in range(3):
        small = changed(small, "pan", "plates", plate, "openings", 0, "width_mm", value=4)
    bad = [text for text, state in words(small).items() if state == "bad"]
    assert len(bad) == 1
    assert "too small" in bad[0]
    flow, area = 12e-6 * 0.55 * 800 / (2 * math.pi), 3 * 4e-3 * 36e-3
    head = (flow / 0.6 / area) ** 2 / (2 * 9.80665)
    assert f"with {head * 1e3:.1f} mm of oil" in bad[0]
    with pytest.raises(InvalidQuantity):
        check_pan(gated, assemble_pan(gated), math.nan)


def test_a_plate_that_leaves_a_gap_is_carried_to_the_wall(gated: Build) -> None:
    short = changed(gated, "pan", "plates", 3, "to_mm", value=[408, 40])
    found = [c for c in check_pan(short, assemble_pan(short), 800.0) if c.fix == "carry_to_wall"]
    fields = {c.field for c in found}
    assert "pan.plates.3.to_mm" in fields
    assert any("P2 ends 30 mm short" in c.words for c in found)
    (mend,) = (mend_of(short, c) for c in found if c.field == "pan.plates.3.to_mm")
    assert isinstance(mend, CarryToWall)
    assert (mend.plate, mend.end) == (short.pan.plates[3].id, "end")
    mended = mend.done(short).build
    assert mended.pan.plates[3].to_mm == (408.0, 107.0)  # type: ignore[union-attr]
    again = check_pan(mended, assemble_pan(mended), 800.0)
    assert all(c.field != "pan.plates.3.to_mm" for c in again)


def test_the_mouths_gap_against_common_practice(dunlin: Build) -> None:
    """1/4 to 3/8 in (common practice, no published source)."""
    for gap, state in ((6.35, "good"), (9.525, "good"), (4.0, "caution"), (14.0, "caution")):
        found = check_pan(
            changed(dunlin, "pickup", "gap_mm", value=gap), assemble_pan(dunlin), 500.0
        )
        assert [c.state for c in found if c.field == "pickup.gap_mm"] == [state], gap


def test_ground_under_a_leaned_box(box_document: Make) -> None:
    """A rectangle leaned by 30°: depth times cos 30° + half the width times sin 30°."""
    car = {"car__lean_right_deg": 30, "car__rail_height_mm": 250, "car__least_ground_mm": 80}
    build = Build.model_validate(box_document(**car))
    found = ground_clearance(build, assemble_pan(build))
    assert found is not None
    down = 0.140 * math.cos(math.radians(30)) + 0.120 * math.sin(math.radians(30))
    assert found.gap == pytest.approx(0.250 - down)
    assert found.at[1] == pytest.approx(-0.120)  # leaned right, its right side is lowest
    assert found.margin == pytest.approx(found.gap - 0.080)
    unknown = Build.model_validate(box_document())
    assert ground_clearance(unknown, assemble_pan(unknown)) is None


def test_a_spacer_takes_from_the_ground_what_it_gives_in_depth(box_document: Make) -> None:
    build = Build.model_validate(box_document(car__rail_height_mm=250))
    gaps = [
        ground_clearance(each, assemble_pan(each)) for each in (build, deepen(build, 0.010).build)
    ]
    assert gaps[0] is not None and gaps[1] is not None
    assert gaps[0].gap - gaps[1].gap == pytest.approx(0.010)
    assert gaps[0].margin is None


def test_dips_above_the_rail_count_to_the_top_of_the_skirt(dunlin: Build) -> None:
    pan = assemble_pan(dunlin)
    between = 0.5 * (pan.capacity_to_rail + pan.solid.volume) * 1e3
    points = [
        {"poured_l": litres, "level_mm": 100.0}
        for litres in (2.0, between, pan.solid.volume * 1e3 + 0.1)
    ]
    dipped = Dipped.model_validate({"engine": "level", "points": points})
    found = compare_poured(pan, dunlin.car, dipped)
    assert found.poured * 1e3 == pytest.approx([2.0, between])
    # level on the bench, the second stands above the rail: the pan's depth and some more
    assert found.computed[1] > -pan.solid.vertices[:, 2].min()
