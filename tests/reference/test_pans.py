"""Whole pans against trimesh, an independent mesh library: volumes, levels, sections, plates."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
import shapely
import trimesh
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.pan import Pan, assemble_pan
from bilge_core.pan.sections import cut_pan
from bilge_core.physics.axes import apparent_gravity
from bilge_core.settled import settle
from builds.templates import template_document

from tests.conftest import DEMO, TEMPLATE_KEYS

G = 9.80665


def builds() -> dict[str, Build]:
    found = {key: template_document(key) for key in TEMPLATE_KEYS}
    for name in ("dunlin", "dunlin-deeper", "dunlin-gated"):
        found[name] = read_build((DEMO / f"{name}.json").read_text())
    return found


BUILDS = builds()


def prism_mesh(outline: shapely.Polygon, floor: tuple[float, ...], top: float) -> trimesh.Trimesh:
    """A zone as trimesh makes it: extruded, its lower face bent to the floor's plane."""
    mesh = trimesh.creation.extrude_polygon(outline, 1.0, engine="manifold")
    x, y, z = mesh.vertices.T
    low = floor[0] + floor[1] * x + floor[2] * y
    mesh.vertices = np.column_stack([x, y, np.where(z > 0.5, top, low)])
    return mesh


def meshes(pan: Pan) -> list[trimesh.Trimesh]:
    parts = [prism_mesh(z.prism.outline, z.prism.floor, z.prism.top[0]) for z in pan.zones]
    if pan.skirt_height > 0:
        parts.append(prism_mesh(pan.rail, (0.0, 0.0, 0.0), pan.skirt_height))
    return parts


@pytest.mark.parametrize("key", list(BUILDS))
def test_volume_of_the_whole_pan(key: str) -> None:
    """Wanted within 0.5 %."""
    pan = assemble_pan(BUILDS[key])
    total = sum(part.volume for part in meshes(pan))
    assert pan.solid.volume == pytest.approx(total, rel=1e-6)
    below = sum(part.volume for part in meshes(pan)[: len(pan.zones)])
    assert pan.capacity_to_rail == pytest.approx(below, rel=1e-6)


@pytest.mark.parametrize(("side", "fore"), [(0.0, 0.0), (1.3, 0.4), (-0.9, -1.1), (0.2, 1.0)])
@pytest.mark.parametrize("key", list(BUILDS))
def test_oil_below_the_surface_is_what_was_poured(key: str, side: float, fore: float) -> None:
    """Each zone's mesh sliced at our surface; together the oil in the pan."""
    build = BUILDS[key]
    pan = assemble_pan(build)
    surface = settle(pan, apparent_gravity(build.car, G * fore, G * side))
    wet = 0.0
    for part in meshes(pan):
        heights = part.vertices @ surface.normal
        if heights.max() <= surface.level:
            wet += part.volume
        elif heights.min() < surface.level:
            cut = part.slice_plane(surface.normal * surface.level, -surface.normal, cap=True)
            wet += cut.volume
    assert wet == pytest.approx(pan.oil_volume, rel=1e-6)


@pytest.mark.parametrize("across", ["x", "y"])
@pytest.mark.parametrize("key", list(BUILDS))
def test_sections_have_the_area_that_trimesh_cuts(key: str, across: str) -> None:
    """Drawings right to 0.1 mm: the area of the cut, of tens of thousands of mm²."""
    pan = assemble_pan(BUILDS[key])
    axis = 0 if across == "x" else 1
    at = float(pan.mouth.centre[axis])
    section = cut_pan(pan, across, at)  # type: ignore[arg-type]
    normal = np.eye(3)[axis]
    area = 0.0
    for part in meshes(pan):
        path = part.section(plane_origin=normal * (at + 1e-9), plane_normal=normal)
        if path is not None:
            area += path.to_2D()[0].area
    drawn = sum(shapely.Polygon(ring).area for ring in (*section.inside, *section.skirt))
    assert drawn == pytest.approx(area, rel=1e-4)


def test_plates_stand_inside_what_trimesh_calls_inside() -> None:
    """Random points of every plate of the demo lie in one of the zones' meshes."""
    pan = assemble_pan(BUILDS["dunlin-gated"])
    parts = meshes(pan)
    noise = np.random.default_rng(5)
    for plate in pan.plates:
        left, low, right, high = plate.sheet.bounds
        flat = noise.uniform((left, low), (right, high), (400, 2))
        inside = [shapely.contains_xy(plate.sheet.buffer(-1e-4), *point) for point in flat]
        points = plate.axes.in_space(flat[np.array(inside)])
        assert len(points) > 50
        held = np.zeros(len(points), dtype=bool)
        for part in parts:
            held |= part.contains(points)
        assert held.all(), plate.name


@pytest.mark.parametrize("key", TEMPLATE_KEYS)
def test_a_pan_turned_about_holds_what_it_held(key: str) -> None:
    """Symmetry: nose to the rear with both loads reversed is the same oil."""
    build = template_document(key)
    turned = {"front": "rear", "rear": "front", "left": "right", "right": "left"}
    other = build.model_copy(
        update={"car": build.car.model_copy(update={"nose_points": turned[build.car.nose_points]})}
    )
    pan = assemble_pan(build)
    for side, fore in ((1.1, 0.0), (0.0, -1.0), (0.7, 0.6)):
        one = settle(pan, apparent_gravity(build.car, G * fore, G * side))
        two = settle(pan, apparent_gravity(other.car, -G * fore, -G * side))
        assert one.level == pytest.approx(two.level, abs=1e-12)
        assert one.cover == pytest.approx(two.cover, abs=1e-12)


@pytest.mark.parametrize("scale", [0.5, 2.0])
def test_a_pan_of_twice_the_size_settles_alike(scale: float) -> None:
    """Scaling law: lengths by k, oil by k³, cover by k, whatever the load."""
    build = BUILDS["dunlin"]
    document = build.model_dump(mode="json")
    pan_part, pickup = document["pan"], document["pickup"]
    for zone in pan_part["zones"]:
        zone["outline_mm"] = [[scale * x, scale * y] for x, y in zone["outline_mm"]]
        for key in ("depth_mm", "from_depth_mm", "to_depth_mm"):
            if key in zone["floor"]:
                zone["floor"][key] *= scale
        if zone["ceiling_depth_mm"] is not None:
            zone["ceiling_depth_mm"] *= scale
    pan_part["skirt_height_mm"] *= scale
    for key in ("x_mm", "y_mm", "gap_mm"):
        pickup[key] *= scale
    pickup["mouth"]["diameter_mm"] *= scale
    document["oil"]["volume_l"] = 2.6  # what the engine holds does not scale: see below
    small_pan, big_pan = assemble_pan(build), assemble_pan(Build.model_validate(document))
    big_pan = replace(big_pan, oil_volume=scale**3 * small_pan.oil_volume)
    for side, fore in ((0.0, 0.0), (1.2, 0.3), (-0.6, -0.9)):
        gravity = apparent_gravity(build.car, G * fore, G * side)
        assert settle(big_pan, gravity).cover == pytest.approx(
            scale * settle(small_pan, gravity).cover, abs=1e-7
        )


def test_standard_gravity_alone_sets_the_load_in_g() -> None:
    """Loads are in g: all gravity doubled, the surface is the same."""
    build = BUILDS["dunlin"]
    pan = assemble_pan(build)
    gravity = apparent_gravity(build.car, 4.0, -7.0)
    assert settle(pan, 2.0 * gravity).level == pytest.approx(settle(pan, gravity).level, abs=1e-12)
    assert math.isclose(float(np.linalg.norm(gravity)), math.sqrt(16 + 49 + G**2))
