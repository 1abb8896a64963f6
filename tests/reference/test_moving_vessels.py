"""The detailed solver against closed forms: openings, gates, shut-in air, slanting walls."""

from __future__ import annotations

import itertools
import math
from typing import Any

import numpy as np
import pytest
import shapely
from bilge_core.document.plates import Gate, HorizontalPlate, Opening, VerticalPlate
from bilge_core.moving.domain import build_domain
from bilge_core.moving.grading import graded_faces
from bilge_core.moving.start import start_simulation
from bilge_core.pan import Prism, level_of_volume, solid_from_prisms
from bilge_core.pan.solid import ramp_plane

from tests.oil_boxes import (
    OIL,
    REST,
    UP,
    G,
    box_of_oil,
    keep,
    lines_with,
    litres,
    run,
    violent_load,
)


def upright(at_mm: float, width_mm: float, openings: list[Opening], top_mm: float) -> VerticalPlate:
    """A plate across the box at x, standing on its floor."""
    return VerticalPlate(
        kind="vertical", name="P", from_mm=(at_mm, 0), to_mm=(at_mm, width_mm),
        top_depth_mm=-top_mm, openings=openings,
    )  # fmt: skip


def hole(start: float, width: float, low: float, height: float, **more: Any) -> Opening:
    return Opening(
        name="hole", from_start_mm=start, width_mm=width, lower_depth_mm=-low, height_mm=height,
        **more,
    )  # fmt: skip


def test_torricelli_emptying() -> None:
    """t = A / (C a) √(2/g) (√H1 − √H2) through an orifice into air (textbook); C of a sharp
    slot is 0.61 (from memory), and more where a few cells are all it has."""
    size = (0.30, 0.12, 0.30)
    plate = upright(160, 120, [hole(40, 40, 112, 24)], 300)
    lines = lines_with(size, 0.008, ([0.16], [0.04, 0.08], [0.112, 0.136]))
    oil = box_of_oil(size, 0.008, 0.30 * 0.12 * 0.26, plates=[plate], lines=lines)
    keep(oil, oil.places()[:, 0] < 0.16)

    def head() -> tuple[float, float]:
        left = litres(oil, oil.places()[:, 0] < 0.16)
        return oil.time, left / (0.16 * 0.12) - 0.124

    seen = np.array(run(oil, 1.6, REST, head))
    time, above = seen[:, 0], seen[:, 1]
    use = (above < 0.11) & (above > 0.035)
    slope = np.polyfit(time[use], np.sqrt(above[use]), 1)[0]
    coefficient = -slope * (0.16 * 0.12) / (0.04 * 0.024) * math.sqrt(2.0 / G)
    assert 0.60 < coefficient < 0.80
    straight = np.poly1d(np.polyfit(time[use], np.sqrt(above[use]), 1))(time[use])
    assert np.abs(straight - np.sqrt(above[use])).max() < 0.012  # √H falls evenly


def test_two_compartments_equalise() -> None:
    """h of two equal tanks: √h falls at C a √(2g) / A (textbook), and ends level."""
    size = (0.32, 0.12, 0.24)
    plate = upright(160, 120, [hole(40, 40, 16, 24)], 240)
    lines = lines_with(size, 0.008, ([0.16], [0.04, 0.08], [0.016, 0.04]))
    oil = box_of_oil(size, 0.008, 0.32 * 0.12 * 0.2, plates=[plate], lines=lines)
    places = oil.places()
    keep(oil, (places[:, 0] < 0.16) | (places[:, 2] < 0.06))
    area = 0.16 * 0.12

    def difference() -> tuple[float, float]:
        right = oil.places()[:, 0] > 0.16
        return oil.time, (litres(oil, ~right) - litres(oil, right)) / area

    seen = np.array(run(oil, 3.0, REST, difference))
    time, apart = seen[:, 0], seen[:, 1]
    use = (apart < 0.12) & (apart > 0.03)
    slope = np.polyfit(time[use], np.sqrt(apart[use]), 1)[0]
    coefficient = -slope * area / (0.04 * 0.024) / math.sqrt(2.0 * G)
    assert 0.58 < coefficient < 0.75
    assert abs(apart[-25:].mean()) < 4e-3


def _gated_box(leak: float, turn_mm: float = 0.0) -> Any:
    gates = [
        hole(x, 60, 0, 32, gate=Gate(swings=side, leaf="rubber", leak_pct=leak))
        for side in ("left",)
        for x in (60, 280)
    ]
    back = [
        hole(x, 60, 0, 32, gate=Gate(swings="right", leaf="rubber", leak_pct=leak))
        for x in (60, 280)
    ]
    plates = [
        VerticalPlate(
            kind="vertical", name=name, from_mm=(0, y), to_mm=(400, y + turn_mm),
            top_depth_mm=-140, openings=openings,
        )
        for name, y, openings in (("A", 72, gates), ("B", 144, back))
    ]  # fmt: skip
    wanted = ([0.06, 0.12, 0.28, 0.34], [0.072, 0.144], [0.032])
    return box_of_oil(
        (0.4, 0.24, 0.14), 0.01, 0.005, plates=plates,
        lines=lines_with((0.4, 0.24, 0.14), 0.01, wanted),
    )  # fmt: skip


@pytest.mark.parametrize("turn_mm", [0.0, 24.0])
def test_a_gate_never_passes_oil_backwards(turn_mm: float) -> None:
    oil = _gated_box(0.0, turn_mm)
    flows = np.array(run(oil, 5.0, violent_load, lambda: oil.flow))
    steps = np.diff(flows, axis=0)
    assert steps.min() >= -1e-9
    assert flows[-1, :2].min() > 0.3e-3  # and oil comes through
    opening = oil.domain.openings[0]
    assert opening.on_grid == pytest.approx(opening.area, rel=0.01)


def test_gates_keep_oil_in_the_middle() -> None:
    """Gates against open holes of the same size after 3 s at 1.2 g to the side."""
    kept = []
    for gated in (True, False):
        oil = _gated_box(0.0)
        if not gated:
            oil = _open_box()
        run(oil, 3.0, violent_load)
        y = oil.places()[:, 1]
        kept.append(litres(oil, (y > 0.072) & (y < 0.144)))
    assert kept[0] > 1.25 * kept[1]


def _open_box() -> Any:
    plates = [
        VerticalPlate(
            kind="vertical", name=name, from_mm=(0, y), to_mm=(400, y), top_depth_mm=-140,
            openings=[hole(60, 60, 0, 32), hole(280, 60, 0, 32)],
        )
        for name, y in (("A", 72), ("B", 144))
    ]  # fmt: skip
    wanted = ([0.06, 0.12, 0.28, 0.34], [0.072, 0.144], [0.032])
    return box_of_oil(
        (0.4, 0.24, 0.14), 0.01, 0.005, plates=plates,
        lines=lines_with((0.4, 0.24, 0.14), 0.01, wanted),
    )  # fmt: skip


def test_a_leaking_gate_lets_some_back() -> None:
    tight, loose = _gated_box(0.0), _gated_box(10.0)
    for oil in (tight, loose):
        run(oil, 3.0, violent_load)
    y = [oil.places()[:, 1] for oil in (tight, loose)]
    middle = [
        litres(oil, (at > 0.072) & (at < 0.144)) for oil, at in zip((tight, loose), y, strict=True)
    ]
    assert middle[1] < middle[0]


def test_a_whole_plate_lets_nothing_through_even_slantwise() -> None:
    for ends in (((0, 100), (400, 100)), ((0, 60), (400, 180))):
        plate = VerticalPlate(
            kind="vertical", name="P", from_mm=ends[0], to_mm=ends[1], top_depth_mm=-140
        )
        lines = lines_with((0.4, 0.24, 0.14), 0.01, ([], [0.1], []))
        oil = box_of_oil((0.4, 0.24, 0.14), 0.01, 0.005, plates=[plate], lines=lines)
        region = oil.domain.region
        before = np.bincount(region[oil.cell[: oil.count]], weights=oil.rows[: oil.count, 15])
        run(oil, 3.6, violent_load)
        after = np.bincount(region[oil.cell[: oil.count]], weights=oil.rows[: oil.count, 15])
        assert oil.domain.region_count == 2
        assert after == pytest.approx(before, abs=1e-9)


def _u_tube(sealed: bool) -> Any:
    size = (0.304, 0.04, 0.2)
    plate = upright(152, 40, [hole(0, 40, 0, 32)], 200)
    lines = lines_with(size, 0.008, ([0.152], [], [0.032]))
    vent = np.zeros(tuple(len(line) - 1 for line in lines), dtype=bool)
    centres = 0.5 * (lines[0][1:] + lines[0][:-1])
    vent[(centres < 0.152) | (not sealed), :, -1] = True
    return box_of_oil(size, 0.008, 0.0012, plates=[plate], lines=lines, vent=vent)


def test_a_sealed_u_tube_holds_its_oil() -> None:
    """Air shut in above the far leg keeps the oil out of it; open, the legs stand at a/g."""
    load = np.array([0.3 * G, 0.0, -G])
    far = []
    for sealed in (True, False):
        oil = _u_tube(sealed)
        start = litres(oil, oil.places()[:, 0] > 0.152)
        run(oil, 3.0, load)
        far.append(litres(oil, oil.places()[:, 0] > 0.152) - start)
    by_slope = 0.3 * 0.152 / 2.0 * 0.152 * 0.04  # each leg's middle by slope times half a leg
    assert abs(far[0]) < 0.03e-3
    assert far[1] == pytest.approx(by_slope, rel=0.2)


def test_air_under_a_lid_keeps_oil_out() -> None:
    """A box under a plate whose only opening lies below the oil keeps its air."""
    size = (0.24, 0.08, 0.16)
    walls = [
        upright(80, 80, [hole(0, 80, 0, 24)], 100),
        upright(160, 80, [], 100),
        HorizontalPlate(
            kind="horizontal", name="lid",
            outline_mm=[(80, 0), (160, 0), (160, 80), (80, 80)], depth_mm=-100,
        ),
    ]  # fmt: skip
    lines = lines_with(size, 0.008, ([0.08, 0.16], [], [0.024, 0.1]))
    oil = box_of_oil(size, 0.008, 0.24 * 0.08 * 0.12, plates=walls, lines=lines)
    places = oil.places()
    bell = (places[:, 0] > 0.08) & (places[:, 0] < 0.16) & (places[:, 2] < 0.1)
    keep(oil, ~bell | (places[:, 2] < 0.024))
    run(oil, 2.0, REST)
    places = oil.places()
    bell = (places[:, 0] > 0.08) & (places[:, 0] < 0.16) & (places[:, 2] < 0.1)
    assert litres(oil, bell) == pytest.approx(0.08 * 0.08 * 0.024, rel=0.12)


def shelf_ramp_sump() -> list[Prism]:
    ramp = shelf = shapely.box(0.15, 0, 0.22, 0.2)
    shelf, sump = shapely.box(0, 0, 0.15, 0.2), shapely.box(0.22, 0, 0.40, 0.2)
    fall = ramp_plane(ramp, lambda points: points[:, 0], -0.05, -0.14)
    return [
        Prism(shelf, (-0.05, 0, 0), (0, 0, 0)),
        Prism(ramp, fall, (0, 0, 0)),
        Prism(sump, (-0.14, 0, 0), (0, 0, 0)),
        Prism(shapely.box(0, 0, 0.4, 0.2), (0, 0, 0), (0.06, 0, 0)),
    ]


@pytest.fixture(scope="module")
def stepped() -> Any:
    prisms = shelf_ramp_sump()
    x = graded_faces(0.0, 0.4, 0.008, [[0.15, 0.22]])
    y = graded_faces(0.0, 0.2, 0.008, [])
    z = graded_faces(-0.14, 0.06, 0.008, [[-0.05, 0.0]])
    return build_domain(prisms, [], (x, y, z)), solid_from_prisms(prisms)


def surface_points(oil: Any) -> np.ndarray:
    """Where the surface crosses the upright between an oil cell and the open air above it."""
    domain, filling, kind = oil.domain, oil.filling, oil.domain.unpadded(oil.kind_flat)
    x, y, z = domain.centres()
    points = []
    for i, j in itertools.product(range(filling.shape[0]), range(filling.shape[1])):
        column = np.flatnonzero((kind[i, j, :-1] == 1) & (kind[i, j, 1:] == 3))
        if len(column):
            k = int(column[-1])
            inside = 1.0 - math.sqrt(max(0.0, 2.0 - 2.0 * min(1.0, float(filling[i, j, k]))))
            air = max(0.0, float(filling[i, j, k + 1]))
            outside = math.sqrt(2.0 * air) - 1.0 if air < 0.5 else 1.0 - math.sqrt(2.0 - 2.0 * air)
            share = inside / (inside - outside)
            points.append((x[i], y[j], z[k] + share * (z[k + 1] - z[k])))
    return np.array(points)


@pytest.mark.parametrize("fill", [0.003, 0.0045, 0.006])
@pytest.mark.parametrize("tilt", [(0.0, 0.0), (0.3, 0.1), (-0.4, 0.2)])
def test_settled_level_in_a_stepped_pan(
    stepped: Any, fill: float, tilt: tuple[float, float]
) -> None:
    """Against the exact clipped volume of `bilge_core.pan`, itself checked against trimesh."""
    domain, solid = stepped
    load = np.array([tilt[0] * G, tilt[1] * G, -G])
    up = -load / np.linalg.norm(load)
    oil = start_simulation(domain, fill, up, OIL, 0.01)
    start = oil.centre_of_mass()
    run(oil, 1.0, load)
    level = level_of_volume(solid, up, fill)
    assert abs((surface_points(oil) @ up - level).mean()) < 0.3e-3
    # tilted oil at rest stays at rest
    assert np.linalg.norm(oil.centre_of_mass() - start) < 1.0e-3
    assert math.sqrt(2.0 * oil.kinetic_energy() / oil.volume) < 0.02


def test_the_stepped_pan_holds_what_it_should(stepped: Any) -> None:
    domain, solid = stepped
    assert domain.volume == pytest.approx(solid.volume, rel=1e-6)


@pytest.mark.parametrize("tilt", [0.1, 0.2, 0.4])
def test_static_slope(tilt: float) -> None:
    """The surface's slope is a/g (textbook), so the centre of mass moves by slope L²/(12 h)."""
    load = np.array([0.0, tilt * G, -G])
    oil = box_of_oil((0.4, 0.24, 0.14), 0.01, 0.005, up=UP)

    def slowly(time: float) -> np.ndarray:
        return np.array([0.0, tilt * G * min(1.0, time / 2.0), -G])

    run(oil, 3.0, slowly)
    centre = np.mean(run(oil, 1.0, load, lambda: oil.centre_of_mass()[1]))
    slope = (centre - 0.12) * 12.0 * (0.005 / 0.096) / 0.24**2
    assert slope == pytest.approx(tilt, rel=0.02)
