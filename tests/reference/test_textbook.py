"""Accelerated containers, selective withdrawal, oil standards, units, trade facts."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.oil import GRADES, Grade, hot_volume_ratio, kinematic_viscosity, sae_range_at_100_c
from bilge_core.pan import assemble_pan
from bilge_core.physics.axes import apparent_gravity
from bilge_core.pickup.draw_down import critical_depth
from bilge_core.quantities import convert, parse_figure
from bilge_core.settled import cover_rose, settle
from builds.templates import template_document
from chemicals.viscosity import viscosity_index
from scipy.optimize import brentq

from tests.conftest import TEMPLATE_KEYS

Make = Callable[..., dict[str, Any]]


@pytest.mark.parametrize("g", [0.1, 0.5, 1.0, 1.3, 3.0])
def test_surface_slope_is_a_over_g(box_document: Make, g: float) -> None:
    """Liquid in an accelerated container: tan(slope) = a/g (any fluid mechanics textbook)."""
    build = Build.model_validate(box_document(oil__volume_l=3))
    surface = settle(assemble_pan(build), apparent_gravity(build.car, 0.0, g * 9.80665))
    assert surface.normal[1] / surface.normal[2] == pytest.approx(g, rel=1e-12)


def test_braking_sends_oil_forward_and_right_turn_left(box_document: Make) -> None:
    build = Build.model_validate(box_document())
    braking = apparent_gravity(build.car, -9.80665, 0.0)
    right_turn = apparent_gravity(build.car, 0.0, -9.80665)
    assert braking[0] > 0  # apparent gravity pulls forward
    assert right_turn[1] > 0  # and to the left


def test_spill_or_not(box_document: Make) -> None:
    """An open box of length L, depth d, filled to h spills from a/g = 2 (d - h) / L
    (textbook: the surface turns about its middle until it meets the rim)."""
    level = 10e-3 / (0.4 * 0.24)  # high enough that the floor stays covered
    spills_from = 2 * (0.140 - level) / 0.4
    build = Build.model_validate(box_document(oil__volume_l=10))
    pan = assemble_pan(build)
    for g, spills in ((spills_from * 0.999, False), (spills_from * 1.001, True)):
        surface = settle(pan, apparent_gravity(build.car, -g * 9.80665, 0.0))
        rim = float(surface.normal @ np.array([0.4, 0.0, 0.0]))  # front edge of the rail
        assert (surface.level > rim) == spills


def test_rose_of_a_box_turns_dry_where_the_wedge_leaves_the_mouth(box_document: Make) -> None:
    """Steady side load s (in g) heaps the oil as a wedge on one wall: its foot is
    sqrt(2 W h / s) from the wall; at the mouth's height z it is z/s less (elementary)."""
    document = box_document(oil__volume_l=3, pan__skirt_height_mm=400)
    build = Build.model_validate(document)
    pan = assemble_pan(build)
    rose = cover_rose(pan, build.car, directions=4)
    width, height, mouth = 0.24, 3e-3 / (0.4 * 0.24), 0.008

    def short(s: float) -> float:
        return math.sqrt(2 * width * height / s) - mouth / s - width / 2

    exact = brentq(short, 0.3, 10.0)
    assert exact < rose.limit
    assert rose.edge[1] == pytest.approx(exact, abs=2e-5)
    assert rose.edge[3] == pytest.approx(exact, abs=2e-5)  # a mirror image


def test_craya_depth() -> None:
    """About 21 mm at 30 L/min and 1 g, with Craya's constant 0.69 (from memory)."""
    assert float(critical_depth(30 / 60000, 9.81)) == pytest.approx(0.0209, abs=2e-4)


@pytest.mark.parametrize("name", list(GRADES))
def test_grades_lie_in_their_sae_j300_range(name: str) -> None:
    """SAE J300 high-temperature ranges at 100 °C, mm2/s (from memory)."""
    ranges = {"20": (6.9, 9.3), "30": (9.3, 12.5), "40": (12.5, 16.3), "50": (16.3, 21.9)}
    ranges["60"] = (21.9, 26.1)
    low, high = ranges[name.replace("-", " ").split()[-1]]
    assert low <= GRADES[name].viscosity_at_100_c * 1e6 < high
    assert sae_range_at_100_c(name) == pytest.approx((low * 1e-6, high * 1e-6))


@pytest.mark.parametrize("name", list(GRADES))
def test_grades_have_a_plausible_viscosity_index(name: str) -> None:
    """ASTM D2270 as in the `chemicals` library: straight grades 95 to 110, multigrades above."""
    grade = GRADES[name]
    index = viscosity_index(grade.viscosity_at_40_c, grade.viscosity_at_100_c)
    low, high = (90, 115) if name.startswith("SAE") else (125, 205)
    assert low < index < high


def test_astm_d341_line() -> None:
    """ASTM D341: log10 log10(v + 0.7) is a straight line over log10 T; a mid point by hand.

    For 46 and 6.8 mm2/s at 40 and 100 °C (an ISO VG 46 oil), at 70 °C:
    W(40) = log10 log10 46.7 = 0.22246, W(100) = log10 log10 7.5 = -0.05794; share of the way
    (log10 343.15 - log10 313.15) / (log10 373.15 - log10 313.15) = 0.52201;
    W(70) = 0.07609, v = 10^10^0.07609 - 0.7 = 14.8 mm2/s (worked by hand).
    """
    oil = Grade("VG 46", 46e-6, 6.8e-6, 870.0)
    assert kinematic_viscosity(oil, 343.15) * 1e6 == pytest.approx(14.8, abs=0.1)
    assert kinematic_viscosity(oil, 313.15) * 1e6 == pytest.approx(46.0, rel=1e-9)
    assert kinematic_viscosity(oil, 373.15) * 1e6 == pytest.approx(6.8, rel=1e-9)


def test_oil_swells_as_mineral_oils_do() -> None:
    """About 0.0007 per kelvin (handbook value of lubricating oils, from memory)."""
    grade = GRADES["10W-60"]
    assert hot_volume_ratio(grade, 293.15) == 1.0
    rise = (hot_volume_ratio(grade, 373.15) - 1.0) / 80.0
    assert rise == pytest.approx(0.00075, abs=0.0001)


@pytest.mark.parametrize(
    ("typed", "kind", "unit", "wanted"),
    [
        ("1 in", "length", "mm", 25.4),  # exact by definition
        ("3/8 in", "length", "mm", 9.525),
        ('1 1/2"', "length", "mm", 38.1),
        ("1 ft", "length", "mm", 304.8),
        ("1 qt", "volume", "L", 0.946352946),  # US liquid quart, NIST SP 811 appendix B
        ("1 gal", "volume", "L", 3.785411784),
        ("1 imp qt", "volume", "L", 1.1365225),  # imperial quart, NIST SP 811 appendix B
        ("212 F", "temperature", "°C", 100.0),
        ("-40 °F", "temperature", "°C", -40.0),
        ("60 mph", "speed", "km/h", 96.56064),
        ("1 g", "acceleration", "m/s2", 9.80665),
        ("1 cu in", "displacement", "cm3", 16.387064),
        ("2,5", "length", "mm", 2.5),
        ("−3", "length", "mm", -3.0),
    ],
)
def test_units(typed: str, kind: str, unit: str, wanted: float) -> None:
    assert parse_figure(typed, kind, unit, unit) == pytest.approx(wanted, rel=1e-12)


@pytest.mark.parametrize(("typed", "wanted"), [("1 inH2O", 2.490889), ("1 inHg", 33.86389)])
def test_columns_of_water_and_mercury(typed: str, wanted: float) -> None:
    """The conventional ones, to the seven figures of NIST SP 811 appendix B."""
    assert parse_figure(typed, "gas pressure", "mbar", "mbar") == pytest.approx(wanted, rel=5e-7)


def test_converting_there_and_back_is_exact() -> None:
    assert convert(convert(6.2, "volume", "L", "qt"), "volume", "qt", "L") == pytest.approx(
        6.2, rel=1e-15
    )


def test_spacer_of_a_quarter_inch_adds_half_a_quart() -> None:
    """A 1/4 in spacer over a whole flat-six sized sump adds about 1/2 US qt
    (common practice, no published source)."""
    build = template_document("flat-six")
    document = build.model_dump(mode="json")
    for zone in document["pan"]["zones"]:
        for key in ("depth_mm", "from_depth_mm", "to_depth_mm"):
            if key in zone["floor"]:
                zone["floor"][key] += 6.35
    spaced = Build.model_validate(document)
    gained = assemble_pan(spaced).capacity_to_rail - assemble_pan(build).capacity_to_rail
    assert convert(gained * 1e3, "volume", "L", "qt") == pytest.approx(0.5, abs=0.05)


def test_three_quarters_deeper_locally_adds_six_tenths_of_a_quart() -> None:
    """3/4 in deeper over part of a sump adds about 0.6 US qt (common practice, no published
    source): the outline that says is smaller than the spacer's whole sump."""
    outline = 0.6 * 0.946352946e-3 / 0.01905
    sump = assemble_pan(template_document("flat-six")).rail.area
    assert 0.2 * sump < outline < 0.6 * sump


def test_read_build_accepts_what_templates_ship() -> None:
    for key in TEMPLATE_KEYS:
        document = template_document(key)
        assert read_build(document.model_dump_json()) == document
        assert "nvented" in document.notes
