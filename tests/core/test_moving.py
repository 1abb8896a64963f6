"""The parts of the detailed solver: grid, domain, pickup, drain-backs, records."""

from __future__ import annotations

import io
import math
import zipfile
from types import SimpleNamespace
from typing import Any

import numpy as np
import pytest
import shapely
from bilge_core.document.build import Build
from bilge_core.document.plates import HorizontalPlate, VerticalPlate
from bilge_core.errors import InvalidInput, InvalidQuantity
from bilge_core.moving import simulation
from bilge_core.moving.basin import RESOLUTIONS, _of_surface, domain_of_pan, region_names
from bilge_core.moving.domain import JET_LOSS, _without_slivers, build_domain, pack_places
from bilge_core.moving.grading import graded_faces
from bilge_core.moving.inlet import inlet_of
from bilge_core.moving.observe import march_to_surface
from bilge_core.moving.openings import inside_shares
from bilge_core.moving.planes import volume_below
from bilge_core.moving.record import FrameWriter, read_frames
from bilge_core.moving.returns import returns_at
from bilge_core.moving.seed import seed_oil
from bilge_core.moving.start import start_simulation
from bilge_core.moving.viscosity import Wetting, drag_rates
from bilge_core.pan import Prism, assemble_pan
from bilge_core.pickup.mouth import Mouth
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import Polygon

from tests.oil_boxes import (
    OIL,
    REST,
    UP,
    DelayLine,
    G,
    box_of_oil,
    even_lines,
    lines_with,
    prism_box,
    pumped_box,
    run,
    run_coupled,
    violent_load,
)

SIZE = (0.4, 0.24, 0.14)


@given(
    st.lists(st.floats(0.01, 0.39), max_size=8),
    st.lists(st.floats(0.01, 0.39), max_size=8),
    st.floats(0.006, 0.05),
)
def test_faces_rise_gently_and_reach_the_ends(
    first: list[float], second: list[float], size: float
) -> None:
    faces = graded_faces(0.0, 0.4, size, [first, second])
    steps = np.diff(faces)
    assert faces[0] == 0.0 and faces[-1] == 0.4
    assert np.all(steps > 0.0)
    assert steps.max() < 1.6 * size + 1e-9
    ratio = steps[1:] / steps[:-1]
    assert ratio.max(initial=1.0) <= 2.0 + 1e-9 and ratio.min(initial=1.0) >= 0.5 - 1e-9


def test_the_more_important_place_gets_the_face() -> None:
    faces = graded_faces(0.0, 0.1, 0.02, [[0.05], [0.053]])
    assert np.isclose(faces, 0.05).any()
    assert not np.isclose(faces, 0.053).any()


@pytest.mark.parametrize(("start", "end", "size"), [(0, 0.1, 0), (0, 0.1, math.nan), (0.1, 0, 0.1)])
def test_faces_refuse(start: float, end: float, size: float) -> None:
    with pytest.raises(InvalidQuantity):
        graded_faces(start, end, size, [])


def test_cells_along_an_axis_are_limited() -> None:
    with pytest.raises(InvalidQuantity, match="cells along an axis"):
        pack_places((2000, 3, 3))


def test_volume_under_a_plane_against_random_points() -> None:
    random = np.random.default_rng(3)
    points = random.random((40_000, 3))
    normals = random.random((20, 3))
    offsets = random.random(20) * normals.sum(axis=1)
    counted = [(points @ n < d).mean() for n, d in zip(normals, offsets, strict=True)]
    assert volume_below(normals, offsets) == pytest.approx(counted, abs=0.01)


def test_domain_refuses() -> None:
    box = prism_box(*SIZE)
    with pytest.raises(InvalidQuantity, match="faces along x"):
        build_domain([box], [], (np.array([0.4, 0.0]), *even_lines(SIZE, 0.02)[1:]))
    away = tuple(line + 1.0 for line in even_lines(SIZE, 0.02))
    with pytest.raises(InvalidQuantity, match="inside"):
        build_domain([box], [], (away[0], away[1], away[2]))


@given(st.floats(0.0, 360.0), st.floats(0.08, 0.2), st.floats(0.05, 0.15), st.floats(0.02, 0.04))
@settings(max_examples=25, deadline=None)
def test_any_turned_box_keeps_its_volume(
    turn: float, length: float, width: float, size: float
) -> None:
    plan = shapely.affinity.rotate(shapely.box(0, 0, length, width), turn, origin=(0, 0))
    prism = Prism(plan, (-0.06, 0.0, 0.0), (0.04, 0.0, 0.0))
    x0, y0, x1, y1 = plan.bounds
    lines = (
        graded_faces(x0, x1, size, []), graded_faces(y0, y1, size, []),
        graded_faces(-0.06, 0.04, size, []),
    )  # fmt: skip
    domain = build_domain([prism], [], lines)
    assert domain.volume == pytest.approx(length * width * 0.1, rel=3e-3)
    assert domain.when_full.sum(dtype=float) == pytest.approx(domain.volume, rel=1e-3)
    cut = domain.walls[:, :3]
    assert np.linalg.norm(cut, axis=1) == pytest.approx(np.ones(len(cut)), abs=1e-5)


def test_oil_at_rest_in_a_slantwise_box_stays() -> None:
    plan = shapely.affinity.rotate(shapely.box(0, 0, 0.24, 0.16), 31.0, origin=(0, 0))
    prism = Prism(plan, (-0.08, 0.0, 0.0), (0.04, 0.0, 0.0))
    x0, y0, x1, y1 = plan.bounds
    lines = tuple(graded_faces(a, b, 0.01, []) for a, b in ((x0, x1), (y0, y1), (-0.08, 0.04)))
    domain = build_domain([prism], [], (lines[0], lines[1], lines[2]))
    oil = start_simulation(domain, 0.002, UP, OIL, 0.01)
    start = oil.centre_of_mass()
    run(oil, 1.0, REST)
    assert np.linalg.norm(oil.centre_of_mass() - start) < 0.6e-3
    assert math.sqrt(2.0 * oil.kinetic_energy() / oil.volume) < 0.02
    inside = shapely.buffer(plan, 2e-3)
    assert shapely.contains_xy(inside, *oil.places()[:, :2].T).all()


def test_a_plate_that_is_half_open_lets_half_through() -> None:
    plate = HorizontalPlate(
        kind="horizontal", name="tray", outline_mm=[(0, 0), (400, 0), (400, 240), (0, 240)],
        depth_mm=-70, role="windage_tray", open_pct=30,
    )  # fmt: skip
    oil = box_of_oil(
        SIZE, 0.02, 0.005, plates=[plate], lines=lines_with(SIZE, 0.02, ([], [], [0.07]))
    )
    domain = oil.domain
    level = np.isclose(domain.lines[2], 0.07).nonzero()[0][0]
    whole = domain.area[2].reshape([n + 2 for n in domain.shape])[1:-1, 1:-1, level + 1]
    assert whole == pytest.approx(np.full(whole.shape, 0.3 * 0.02 * 0.02), rel=1e-5)


def test_seed_refuses() -> None:
    domain = build_domain([prism_box(*SIZE)], [], even_lines(SIZE, 0.02))
    for volume in (0.0, -1.0, 1.0, math.nan):
        with pytest.raises(InvalidQuantity):
            seed_oil(domain, volume, UP, 0)


def test_the_same_seed_gives_the_same_run() -> None:
    ends = []
    for seed in (1, 1, 2):
        oil = box_of_oil(SIZE, 0.02, 0.005, seed=seed)
        run(oil, 1.0, violent_load)
        ends.append(oil.rows[: oil.count].copy())
    assert np.array_equal(ends[0], ends[1])
    assert not np.array_equal(ends[0], ends[2])


def test_a_step_that_is_no_number_is_refused() -> None:
    oil = box_of_oil(SIZE, 0.04, 0.005)
    for step, load in ((0.0, REST), (math.nan, REST), (0.01, REST * math.nan)):
        with pytest.raises(InvalidQuantity):
            oil.advance(step, load)


def _deep_filling(oil: Any) -> float:
    """Of the cells that lie well below the surface of the oil at rest."""
    level = oil.volume / (SIZE[0] * SIZE[1])
    deep = oil.domain.centres()[2] < level - 0.02
    return float(oil.filling[:, :, deep].mean())


def test_the_shift_keeps_the_density_even(monkeypatch: pytest.MonkeyPatch) -> None:
    """After violent seconds, at rest; with no shift the oil shrinks, the wrong way round more."""
    fillings = []
    for relax in (0.3, 0.0, -0.3):
        monkeypatch.setattr(simulation, "_RELAX", np.float32(relax))
        oil = box_of_oil(SIZE, (0.02, 0.02, 0.01), 0.005)
        run(oil, 3.0, violent_load)
        fillings.append(
            float(np.mean(run(oil, 3.0, REST, lambda oil=oil: _deep_filling(oil))[100:]))
        )
    assert fillings[0] == pytest.approx(1.0, abs=0.01)
    assert 1.2 < fillings[1] < fillings[2]


def test_cold_oil_sloshes_less() -> None:
    swings = []
    for viscosity in (1.2e-5, 3e-3):
        oil = box_of_oil(SIZE, 0.02, 0.005, wetting=Wetting(viscosity, 880.0))
        seen = run(oil, 1.2, np.array([0.0, 0.4 * G, -G]), lambda oil=oil: oil.centre_of_mass()[1])
        swings.append(np.ptp(seen[30:]))
    assert swings[1] < 0.5 * swings[0]


def test_wall_drag_is_of_an_oscillating_boundary_layer() -> None:
    """√(ν ω / 2), Stokes (from memory): 12 mm²/s at 1.5 Hz gives 7.52 mm/s."""
    laminar, half_friction, _ = drag_rates(Wetting(1.2e-5, 850.0))
    assert laminar == pytest.approx(math.sqrt(0.5 * 1.2e-5 * 2 * math.pi * 1.5))
    assert half_friction == pytest.approx(0.5 * 1.328 / math.sqrt(0.3 / 1.2e-5))
    with pytest.raises(InvalidQuantity):
        Wetting(0.0, 850.0)


def test_pan_and_held_oil_stay_what_they_are() -> None:
    coupled = pumped_box(0.02, 0.5e-3, 1.0, 0.01)
    total = coupled.oil.volume + coupled.held
    seen = np.array(
        run_coupled(coupled, 3.0, violent_load, lambda: (coupled.oil.volume, coupled.held))
    )
    assert seen.sum(axis=1) == pytest.approx(np.full(len(seen), total), abs=2e-9)
    assert seen[:, 1].min() >= 0.0


def test_a_covered_mouth_draws_oil_only() -> None:
    coupled = pumped_box((0.02, 0.02, 0.007), 0.5e-3, 1.0, 0.01)
    sights = run_coupled(coupled, 2.0, REST, lambda: coupled.observer.look(coupled.oil, UP))
    assert min(sight.oil_share for sight in sights) > 0.95
    level = 0.005 / (0.4 * 0.24)
    assert np.median([s.cover for s in sights]) == pytest.approx(level - 0.008, abs=3e-3)


def test_without_returns_the_pan_empties_at_the_pump_s_rate() -> None:
    coupled = pumped_box(0.02, 0.5e-3, 1e3, 0.01)
    coupled.engine = DelayLine(0.5e-3, 1e3, filled=False)
    start = coupled.oil.volume
    run_coupled(coupled, 2.0, REST)
    assert start - coupled.oil.volume == pytest.approx(1.0e-3, rel=0.01)
    run_coupled(coupled, 12.0, REST)  # until the mouth stands in air
    assert coupled.oil.volume > 0.3e-3
    look = coupled.observer.look(coupled.oil, UP)
    assert look.oil_share < 0.5


def test_inlet_and_drain_backs_outside_are_refused() -> None:
    domain = build_domain([prism_box(*SIZE)], [], even_lines(SIZE, 0.02))
    with pytest.raises(InvalidQuantity, match="mouth"):
        inlet_of(Mouth(np.array([0.2, 0.8, 0.01]), 0.02, 0.02, True), 0.0, domain)
    with pytest.raises(InvalidQuantity, match="drain-backs"):
        returns_at(domain, np.array([[9.0, 0.0, 0.0]]), 1e-7, -UP)


def test_inlet_of_a_round_mouth_has_its_volume() -> None:
    domain = build_domain([prism_box(*SIZE)], [], even_lines(SIZE, 0.01))
    inlet = inlet_of(Mouth(np.array([0.21, 0.12, 0.008]), 0.023, 0.023, True), 0.0, domain)
    assert inlet.volume == pytest.approx(math.pi * 0.023**2 * 0.016, rel=0.05)
    assert inlet.part.sum() == pytest.approx(1.0, rel=1e-5)


def test_records_read_back() -> None:
    domain = build_domain([prism_box(*SIZE)], [], even_lines(SIZE, 0.02))
    writer = FrameWriter(domain)
    random = np.random.default_rng(0)
    fields = random.random((60, domain.cells)).astype(np.float32)
    for number, field in enumerate(fields):
        writer.add(number / 25.0, field, np.zeros(0, dtype=bool))
    frames = read_frames(writer.finish())
    assert frames.filling.shape == (60, len(domain.fluid))
    assert np.abs(frames.filling - fields[:, domain.fluid]).max() <= 0.0026
    assert frames.time[-1] == pytest.approx(59 / 25)
    assert [len(line) for line in frames.faces] == [21, 13, 8]


def _other_archive() -> bytes:
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w") as file:
        file.writestr("hello.txt", "hello")
    return buffer.getvalue()


@pytest.mark.parametrize("record", [b"", b"PK\x03\x04 nonsense", b"\x93NUMPY", _other_archive()])
def test_what_is_no_record_is_refused(record: bytes) -> None:
    with pytest.raises(InvalidInput, match="is no record"):
        read_frames(record)


def test_cells_are_as_large_as_is_said() -> None:
    """Bilge's own choice, held fast: along and across, up, step. Another needs another version."""
    cells = {key: (each.plan, each.height) for key, each in RESOLUTIONS.items()}
    assert cells == {"quick": (0.022, 0.007), "bench": (0.010, 0.010), "fine": (0.008, 0.008)}
    assert {each.name: each.longest_step for each in RESOLUTIONS.values()} == {
        "quick": 0.02, "bench": 0.01, "fine": 0.01,
    }  # fmt: skip


def test_the_demo_pan_on_its_grid(dunlin_gated: Build) -> None:
    pan = assemble_pan(dunlin_gated)
    domain = domain_of_pan(pan, RESOLUTIONS["quick"])
    for plate in pan.plates:
        if plate.kind == "vertical":
            axis = 0 if abs(plate.axes.first[1]) > 0.5 else 1
            assert np.isclose(domain.lines[axis], plate.axes.origin[axis], atol=1e-6).any()
    for opening in domain.openings:
        assert opening.on_grid == pytest.approx(opening.area, rel=0.02), opening.name
    names = region_names(domain, pan.mouth.centre)
    assert "at the pickup" in names and len(set(names)) == domain.region_count


def test_a_plate_with_a_gap_at_its_end_is_no_wall() -> None:
    plate = VerticalPlate(
        kind="vertical", name="P", from_mm=(30, 40), to_mm=(330, 190), top_depth_mm=-140
    )
    oil: Any = box_of_oil(
        SIZE, 0.01, 0.004, plates=[plate], lines=lines_with(SIZE, 0.01, ([], [], []))
    )
    assert oil.domain.region_count == 1


@pytest.mark.parametrize(
    "slot",
    [
        (0.12, 0.09, 0.16, 0.09001), (0.04, 0.09, 0.08, 0.09001),
        (0.09, 0.12, 0.09001, 0.16), (0.09, 0.04, 0.09001, 0.08),
    ],
    ids=["ahead", "behind", "left", "right"],
)  # fmt: skip
def test_a_slot_too_thin_to_flow_through_is_wall(slot: tuple[float, float, float, float]) -> None:
    """Of 10 microns, out of a box of two cells by two by three: its two cells hold no oil."""
    plan = shapely.union(shapely.box(0.08, 0.08, 0.12, 0.12), shapely.box(*slot))
    grid = 0.02 * np.arange(11)
    lines = (grid, grid, 0.02 * np.arange(4))
    shares = inside_shares([Prism(plan, (0.0, 0, 0), (0.06, 0, 0))], *lines)
    assert (shares.room > 1e-10).sum() == 3 * (4 + 2)
    assert sum((faces > 1e-10).sum() for faces in shares.area[:2]) == 3 * (4 + 2)
    room, area = _without_slivers(shares, lines)
    assert (room > 0.0).sum() == 3 * 4
    # of the box's own cells the faces between them alone are open
    assert [(faces > 0.0).sum() for faces in area] == [6, 6, 8]


@pytest.mark.parametrize(
    ("fillings", "surface"),
    [
        ((1.0, 1.0, 0.5, 0.0, 0.0), 2.5), ((1.0, 1.0, 0.8, 0.2, 0.0), 3.0),
        ((1.0, 1.0, 0.9, 0.1, 0.0), 3.0), ((1.0, 0.75, 0.25, 0.0, 0.0), 2.0),
    ],
)  # fmt: skip
def test_the_surface_is_where_a_column_is_half_full(
    fillings: tuple[float, ...], surface: float
) -> None:
    """Between the middles of two cells, drawn straight: in closed form, in cells from below."""
    size = 0.01
    line = np.array([0.0, size])
    heights = np.arange(len(fillings) + 1) * size
    room = np.zeros((3, 3, len(fillings) + 2), dtype=np.float32)
    room[1, 1, 1:-1] = size**3
    filling = np.zeros_like(room)
    filling[1, 1, 1:-1] = fillings
    strides = np.array([3 * (len(fillings) + 2), len(fillings) + 2, 1])
    place = np.array([0.5 * size, 0.5 * size, 0.5 * size])
    way = march_to_surface(
        filling.ravel(), room.ravel(), line, line, heights, strides, place, np.array(UP),
        0.05 * size, 0.1, True, 3,
    )  # fmt: skip
    assert way == pytest.approx((surface - 0.5) * size, abs=1e-3 * size)


def test_what_an_opening_takes_is_over_the_way_across_both_its_cells(dunlin_gated: Build) -> None:
    """Cells beside a plate are of unequal size: half the loss of a jet over half of both."""
    domain = domain_of_pan(assemble_pan(dunlin_gated), RESOLUTIONS["quick"])
    assert len(domain.jet_faces) > 10
    unequal = 0
    for (axis, face), loss in zip(domain.jet_faces, domain.jet_loss, strict=True):
        at = (int(domain.where[face]) >> (20, 10, 0)[axis]) & 1023
        one, other = (float(domain.sizes[axis][n]) for n in (at - 1, at))
        assert float(loss) * 0.5 * (one + other) == pytest.approx(0.5 * JET_LOSS, rel=1e-5)
        unequal += abs(one - other) > 1e-3
    assert unequal > 5


@pytest.mark.parametrize(("leans_mm", "is_wall"), [(3.8, True), (4.2, False)])
def test_an_edge_of_a_scan_that_leans_little_is_a_wall_of_the_grid(
    leans_mm: float, is_wall: bool
) -> None:
    """200 mm long: 4 mm off its axis, a fiftieth, is the most."""
    outline = Polygon([(0.0, 0.0), (0.2, leans_mm * 1e-3), (0.2, 0.1), (0.0, 0.1)])
    zone: Any = SimpleNamespace(outline=outline, prisms=(), prism=SimpleNamespace(top=(-0.05,)))
    along, across, floors = _of_surface(zone)
    assert sorted(along) == [0.0, 0.2] and floors == [-0.05]
    lower = [0.5e-3 * leans_mm] if is_wall else []
    assert sorted(across) == pytest.approx([*lower, 0.1])
