"""What the load pad and the cut-away are drawn from."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from bilge_core.document.build import Build
from bilge_core.errors import InvalidQuantity
from bilge_core.loads.log import Log
from bilge_core.pan import Pan, assemble_pan, column_volumes, columns_of, inside_faces
from bilge_core.pan.sections import DRAWN_SHEET, cut_pan
from bilge_core.physics.axes import apparent_gravity
from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.settled import cover_rose, held_edges, settle, settle_lap, tilt_table
from builds.templates import template_document
from scipy.interpolate import RegularGridInterpolator
from shapely import Polygon

from tests.conftest import TEMPLATE_KEYS

Make = Callable[..., dict[str, Any]]


def enclosed_volume(pan: Pan) -> float:
    """Volume inside the faces by the divergence theorem, the open top closed with a lid."""
    total = pan.rail.area * pan.skirt_height / 3.0
    for face in inside_faces(pan):
        first, *rest = face.corners
        for one, two in itertools.pairwise(rest):
            total -= float(np.dot(first, np.cross(one, two))) / 6.0
    return total


@pytest.mark.parametrize("key", TEMPLATE_KEYS)
def test_faces_enclose_what_the_pan_holds(key: str) -> None:
    pan = assemble_pan(template_document(key))
    assert enclosed_volume(pan) == pytest.approx(pan.solid.volume, rel=1e-6)


def test_faces_of_a_side_box_with_a_raised_floor(dunlin: Build) -> None:
    """The opening stands in the middle of a wall: drawn in stretches, still closed."""
    document = dunlin.model_dump(mode="json")
    document["pan"]["zones"][3]["floor"]["depth_mm"] = 120
    pan = assemble_pan(Build.model_validate(document))
    assert enclosed_volume(pan) == pytest.approx(pan.solid.volume, rel=1e-6)


def test_columns_hold_together_what_lies_in_the_pan(dunlin: Build, saltmarsh: Log) -> None:
    pan = assemble_pan(dunlin)
    lap = settle_lap(pan, dunlin, saltmarsh)
    assert lap.zones.sum(axis=1) == pytest.approx(np.full(len(lap.time), pan.oil_volume), rel=1e-6)
    covered = lap.cover > 0
    assert np.array_equal(covered, lap.to_cover < pan.oil_volume)
    with pytest.raises(InvalidQuantity, match="levels"):
        column_volumes(columns_of(pan), lap.normals, lap.levels[:-1])


@pytest.mark.parametrize("limit", [1.6, 2.0])
@pytest.mark.parametrize("key", TEMPLATE_KEYS)
def test_pad_table_between_its_points(key: str, limit: float) -> None:
    """Against single solves, themselves checked against closed forms in tests/reference."""
    build = template_document(key)
    pan = assemble_pan(build)
    table = tilt_table(pan, build.car, limit)
    between = RegularGridInterpolator((table.loads, table.loads), table.heights)
    loads = np.random.default_rng(4).uniform(-limit, limit, (1000, 2))
    loads[::2] *= 0.15  # where a surface lies along a flat floor
    errors = []
    for forward, leftward in loads:
        gravity = apparent_gravity(
            build.car, STANDARD_GRAVITY * forward, STANDARD_GRAVITY * leftward
        )
        surface = settle(pan, gravity)
        up = table.up_at_rest + forward * table.up_per_forward_g
        up = up + leftward * table.up_per_leftward_g
        length = np.linalg.norm(up)
        assert up / length == pytest.approx(surface.normal, abs=1e-12)
        errors.append(abs(float(between((forward, leftward))) / length - surface.level))
    assert np.quantile(errors, 0.99) < 0.15e-3
    assert max(errors) < 0.6e-3


def test_pad_table_knows_what_it_takes_to_cover(dunlin: Build) -> None:
    pan = assemble_pan(dunlin)
    table = tilt_table(pan, dunlin.car, points=9)
    mouth = pan.mouth.centre
    up = table.up_at_rest + table.loads[:, None, None] * table.up_per_forward_g
    up = up + table.loads[None, :, None] * table.up_per_leftward_g
    cover = table.heights - up @ mouth
    assert np.array_equal(cover > 0, table.to_cover < pan.oil_volume)
    for wrong in ({"limit": 0.0}, {"limit": math.nan}, {"points": 4}, {"points": 1}):
        with pytest.raises(InvalidQuantity):
            tilt_table(pan, dunlin.car, **wrong)


def test_held_edge_of_a_pan_of_one_zone_is_the_rose_itself(box_document: Make) -> None:
    build = Build.model_validate(box_document(oil__volume_l=3, pan__skirt_height_mm=200))
    pan = assemble_pan(build)
    held = held_edges(pan, build.car, directions=12)
    rose = cover_rose(pan, build.car, directions=12)
    assert held.edges[-1] == pytest.approx(rose.edge, abs=1e-5)


def test_held_edges_widen_with_what_is_held(dunlin: Build) -> None:
    held = held_edges(assemble_pan(dunlin), dunlin.car, directions=24)
    assert np.all(np.diff(np.minimum(held.edges, 10.0), axis=0) >= -1e-5)
    with pytest.raises(InvalidQuantity, match="volumes"):
        held_edges(assemble_pan(dunlin), dunlin.car, volumes=1)


def test_metal_is_a_sheet_round_the_inside(dunlin: Build) -> None:
    """A long thin band: its area is close to its length times its thickness."""
    pan = assemble_pan(dunlin)
    section = cut_pan(pan, "y", 0.0)
    (outer, *holes), *others = section.metal
    assert (holes, others) == ([], [])
    inside = Polygon(section.inside[0])
    along_rail = 0.452
    wall = inside.length - along_rail
    assert Polygon(outer).area == pytest.approx(wall * DRAWN_SHEET, rel=0.03)
    assert Polygon(outer).intersection(inside).area < 1e-9
    assert outer[:, 1].max() == 0.0  # ends at the rail
