"""Levels against closed forms and against trimesh, an independent mesh library."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest
import shapely
import trimesh
from bilge_core.errors import InvalidQuantity
from bilge_core.pan import Prism, level_of_volume, solid_from_prisms, volume_below
from bilge_core.pan.solid import Solid
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import quad
from scipy.optimize import brentq

FILLS = [0.05, 0.2, 0.35, 0.5, 0.65, 0.8, 0.95]
TILTS = [0.0, 5.0, 20.0, 45.0, 63.0, 79.0]
WANTED = 0.3e-3  # m of level


def box(length: float = 0.4, width: float = 0.24, height: float = 0.14) -> Solid:
    outline = shapely.box(0, 0, length, width)
    return solid_from_prisms([Prism(outline, (0, 0, 0), (height, 0, 0))])


def up(tilt_deg: float) -> np.ndarray:
    angle = math.radians(tilt_deg)
    return np.array([0.0, math.sin(angle), math.cos(angle)])


def tilted_rectangle_area(width: float, height: float, tilt: float, level: float) -> float:
    """Area of a rectangle from its corner below a tilted line: closed form by inclusion of
    right triangles (textbook)."""
    sin, cos = math.sin(tilt), math.cos(tilt)
    if sin < 1e-12:
        return width * min(max(level, 0.0), height)
    if cos < 1e-12:
        return height * min(max(level, 0.0), width)

    def triangle(reach: float) -> float:
        return max(reach, 0.0) ** 2 / (2.0 * sin * cos)

    return (
        triangle(level)
        - triangle(level - width * sin)
        - triangle(level - height * cos)
        + triangle(level - width * sin - height * cos)
    )


@pytest.mark.parametrize("fill", FILLS)
@pytest.mark.parametrize("tilt", TILTS)
def test_box_tilted(fill: float, tilt: float) -> None:
    solid, angle = box(), math.radians(tilt)
    wanted = fill * 0.24 * 0.14
    exact = brentq(
        lambda level: tilted_rectangle_area(0.24, 0.14, angle, level) - wanted, 0.0, 0.4, xtol=1e-12
    )
    level = level_of_volume(solid, up(tilt), fill * solid.volume)
    assert abs(level - exact) < 1e-8 < WANTED


@pytest.mark.parametrize("fill", FILLS)
def test_wedge_standing(fill: float) -> None:
    """A right-angled trough: V = L h² / (2 m) for a floor of slope m (elementary)."""
    slope, length, height = 0.5, 0.3, 0.1
    outline = shapely.box(0, 0, length, height / slope)
    wedge = solid_from_prisms([Prism(outline, (0.0, 0.0, slope), (height, 0, 0))])
    volume = fill * wedge.volume
    exact = math.sqrt(2.0 * slope * volume / length)
    assert abs(level_of_volume(wedge, up(0), volume) - exact) < 1e-8


@pytest.mark.parametrize("fill", FILLS)
@pytest.mark.parametrize("tilt", [10.0, 40.0, 70.0])
def test_wedge_tilted(fill: float, tilt: float) -> None:
    """The same trough tilted toward its deep side: still a similar triangle until it spills
    over the corner; compared by summing exact slices (scipy quad)."""
    slope, length, height = 0.5, 0.3, 0.1
    width = height / slope
    outline = shapely.box(0, 0, length, width)
    wedge = solid_from_prisms([Prism(outline, (0.0, 0.0, slope), (height, 0, 0))])
    normal = up(tilt)

    def area(level: float) -> float:
        def wet(y: float) -> float:
            surface = (level - y * normal[1]) / normal[2]
            return float(np.clip(surface, slope * y, height) - slope * y)

        corners = [level / normal[1], (level - height * normal[2]) / normal[1]]
        corners.append(level / (normal[1] + slope * normal[2]))
        inside = [y for y in corners if 0.0 < y < width]
        return quad(wet, 0.0, width, points=inside or None, limit=200)[0]

    wanted = fill * width * height / 2.0
    exact = brentq(lambda level: area(level) - wanted, 0.0, 0.5, xtol=1e-10)
    assert abs(level_of_volume(wedge, normal, wanted * length) - exact) < 1e-6 < WANTED


def lying_cylinder(radius: float, length: float, strips: int) -> Solid:
    """A cylinder on its side, its round wall as narrow ramps of equal turn."""
    turn = np.linspace(-math.pi / 2, math.pi / 2, strips + 1)
    prisms = []
    for one, two in itertools.pairwise(turn):
        y, half = radius * np.sin([one, two]), radius * np.cos([one, two])
        rise = (half[1] - half[0]) / (y[1] - y[0])
        height = half[0] - rise * y[0]
        outline = shapely.box(0, y[0], length, y[1])
        prisms.append(Prism(outline, (-height, 0, -rise), (height, 0, rise)))
    return solid_from_prisms(prisms)


@pytest.mark.parametrize("fill", FILLS)
@pytest.mark.parametrize("tilt", TILTS)
def test_cylinder_on_its_side(fill: float, tilt: float) -> None:
    """Circular segment: A = R² acos(-h/R) + h sqrt(R² - h²), whatever the turn about its axis."""
    radius, length = 0.06, 0.3
    solid = lying_cylinder(radius, length, 200)
    wanted = fill * math.pi * radius**2

    def segment(level: float) -> float:
        return radius**2 * math.acos(-level / radius) + level * math.sqrt(radius**2 - level**2)

    exact = brentq(lambda h: segment(h) - wanted, -radius, radius, xtol=1e-12)
    level = level_of_volume(solid, up(tilt), wanted * length)
    assert abs(level - exact) < 0.02e-3 < WANTED


@pytest.mark.parametrize("fill", FILLS)
@pytest.mark.parametrize("tilt", [20.0, 50.0, 79.0])
def test_cylinder_tilted_along_its_axis(fill: float, tilt: float) -> None:
    """Segments of the closed form above, summed along the axis by scipy."""
    radius, length = 0.06, 0.3
    solid = lying_cylinder(radius, length, 200)
    angle = math.radians(tilt)

    def segment(level: float) -> float:
        h = min(max(level, -radius), radius)
        return radius**2 * math.acos(-h / radius) + h * math.sqrt(radius**2 - h**2)

    def volume(level: float) -> float:
        def at(x: float) -> float:
            return segment((level - x * math.sin(angle)) / math.cos(angle))

        ends = [(level + side * radius * math.cos(angle)) / math.sin(angle) for side in (-1, 1)]
        inside = [x for x in ends if 0.0 < x < length]
        return quad(at, 0.0, length, points=inside or None, limit=200)[0]

    wanted = fill * math.pi * radius**2 * length
    exact = brentq(lambda level: volume(level) - wanted, -0.1, 0.5, xtol=1e-9)
    normal = np.array([math.sin(angle), 0.0, math.cos(angle)])
    assert abs(level_of_volume(solid, normal, wanted) - exact) < 0.02e-3 < WANTED


@settings(max_examples=40, deadline=None)
@given(
    st.integers(3, 9),
    st.integers(0, 10_000),
    st.floats(-1.4, 1.4),
    st.floats(-1.4, 1.4),
    st.floats(0.05, 0.95),
)
def test_random_prisms_against_trimesh(
    corners: int, seed: int, along: float, across: float, fill: float
) -> None:
    """Volume under our level, cut out and measured by trimesh."""
    noise = np.random.default_rng(seed)
    angle = np.sort(noise.uniform(0, 2 * math.pi, corners))
    if np.diff(np.append(angle, angle[0] + 2 * math.pi)).max() > 2.8:
        return  # slivers say nothing
    radius = noise.uniform(0.05, 0.2, corners)
    outline = shapely.Polygon(np.column_stack([radius * np.cos(angle), radius * np.sin(angle)]))
    floor = (-0.1, noise.uniform(-0.2, 0.2), noise.uniform(-0.2, 0.2))
    solid = solid_from_prisms([Prism(outline, floor, (0.05, 0.0, 0.0))])
    normal = np.array([math.tan(along), math.tan(across), 1.0])
    normal /= np.linalg.norm(normal)
    level = level_of_volume(solid, normal, fill * solid.volume)
    mesh = trimesh.creation.extrude_polygon(outline, 1.0, engine="manifold")
    x, y, z = mesh.vertices.T
    low = floor[0] + floor[1] * x + floor[2] * y
    mesh.vertices = np.column_stack([x, y, np.where(z > 0.5, 0.05, low)])
    below = mesh.slice_plane(normal * level, -normal, cap=True)
    assert mesh.volume == pytest.approx(solid.volume, rel=1e-9)
    assert below.volume == pytest.approx(fill * solid.volume, rel=1e-6)


@settings(max_examples=60, deadline=None)
@given(st.floats(0.0, 1.0), st.floats(-1.5, 1.5), st.floats(-1.5, 1.5))
def test_level_and_volume_undo_each_other(fill: float, along: float, across: float) -> None:
    solid = box()
    normal = np.array([math.sin(along), math.sin(across), 0.3])
    level = level_of_volume(solid, normal, fill * solid.volume)
    assert volume_below(solid, normal, level) == pytest.approx(fill * solid.volume, abs=1e-12)


@pytest.mark.parametrize("tilt", [1e-13, 1e-17, 1e-110, 1e-310, 5e-324])
@pytest.mark.parametrize("fill", [1e-300, 1e-20, 0.5, 1.0 - 1e-16])
def test_a_tilt_of_less_than_a_hair_is_no_tilt(tilt: float, fill: float) -> None:
    """Corners of one tetrahedron at all but one height; cubes of such differences are nil."""
    solid = box()
    wanted = level_of_volume(solid, up(0), fill * solid.volume)
    for along, across in ((tilt, 0.0), (-tilt, tilt), (tilt, tilt)):
        found = level_of_volume(solid, np.array([along, across, 0.3]), fill * solid.volume)
        assert found == pytest.approx(wanted, abs=1e-9)


@pytest.mark.parametrize(("tilt", "lower"), [(0.9e-12, 0.0), (1.1e-12, 0.4 * 1.1e-12)])
def test_the_least_tilt_that_counts(tilt: float, lower: float) -> None:
    """The empty level is the lowest corner, at the far end of 0.4 m: ours, `NO_TILT`."""
    level = level_of_volume(box(), np.array([-tilt, 0.0, 1.0]), 0.0)
    assert level == pytest.approx(box().vertices[:, 2].min() - lower, abs=1e-16)


@pytest.mark.parametrize("volume", [-1e-6, 1.0, math.nan, math.inf])
def test_refuses_volumes_it_cannot_hold(volume: float) -> None:
    with pytest.raises(InvalidQuantity, match="volume is"):
        level_of_volume(box(), up(0), volume)


def test_refuses_no_direction_and_no_solid() -> None:
    with pytest.raises(InvalidQuantity, match="normal"):
        level_of_volume(box(), np.zeros(3), 0.001)
    with pytest.raises(InvalidQuantity, match="level"):
        volume_below(box(), up(0), math.nan)
    with pytest.raises(InvalidQuantity, match="solid is empty"):
        solid_from_prisms([])
    with pytest.raises(InvalidQuantity, match="above its floor"):
        solid_from_prisms([Prism(shapely.box(0, 0, 1, 1), (0, 0, 0), (-0.1, 0, 0))])
