"""The Sandpiper: a turbocharged in-line four across the car. Invented, like all of the demo."""

from __future__ import annotations

from typing import Any

from bilge_core.acts.turbo import DrainTurbo, FeedTurbo
from bilge_core.document.build import Build

Document = dict[str, Any]

_OUTLET = (96.0, -196.0, 154.0)
"""Where oil leaves the turbo [mm]: behind the engine, which stands across the car."""
_ENTRY = (72.0, -112.0, 10.0)
"""Where its drain comes into the pan: ahead of the rail's rear face, to the left, depth [mm]."""


def _box(x0: float, x1: float, y0: float, y1: float) -> list[tuple[float, float]]:
    return [(x0, y0), (x1, y0), (x1, y1), (x0, y1)]


_CAR: Document = {
    "format": "bilge-build",
    "version": 2,
    "name": "Sandpiper",
    "notes": "Invented. In-line four across the car, turbo behind it, drained into the pan "
    "by its rear wall.",
    "car": {
        "nose_points": "right",
        "lean_right_deg": 6,
        "nose_up_deg": 0,
        "place": "front",
        "cylinders": "in_line",
        "engine_power_kw": 210,
        "power_rpm": 6400,
        "top_rpm": 7200,
        "wear": "used",
        "rail_height_mm": 232,
        "least_ground_mm": 50,
        "crank": {
            "height_mm": 60,
            "swept_radius_mm": 70,
            "from_x_mm": 30,
            "to_x_mm": 350,
        },
    },
    "oil": {
        "grade": "5W-40",
        "volume_l": 5.0,
        "away_l": 1.6,
        "temperature_c": 110,
        "mark_l": 5.0,
        "held": [
            {"name": "head", "volume_l": 0.4},
            {"name": "filter", "volume_l": 0.35},
            {"name": "galleries", "volume_l": 0.3},
            {"name": "oil on its way down", "volume_l": 0.55},
        ],
    },
    "pan": {
        "zones": [
            {
                "name": "sump",
                "outline_mm": _box(40, 320, -112, 112),
                "floor": {"kind": "flat", "depth_mm": 128},
            },
        ],
        "skirt_height_mm": 80,
        "sheet_mm": 3,
        "made": "cast",
        "flange": {
            "outline_mm": _box(4, 396, -128, 128),
            "thickness_mm": 10,
            "bolts": [
                {"x_mm": x, "y_mm": y, "diameter_mm": 8.5}
                for y in (-120, 120)
                for x in (12, 74, 137, 200, 263, 326, 388)
            ],
        },
        "bosses": [
            {
                "kind": "drain_plug",
                "name": "drain plug",
                "x_mm": 160,
                "y_mm": 112,
                "depth_mm": 121,
                "bore_mm": 14,
                "fixing": "as_made",
            },
            {
                "kind": "level_sensor",
                "name": "level sensor",
                "x_mm": 236,
                "y_mm": -112,
                "depth_mm": 92,
                "bore_mm": 26,
                "fixing": "as_made",
            },
        ],
    },
    "pickup": {
        "x_mm": 180,
        "y_mm": 0,
        "mouth": {"kind": "round", "diameter_mm": 52},
        "gap_mm": 9,
        "tube": {
            "bore_mm": 20,
            "length_mm": 200,
            "bends": [{"angle_deg": 80, "radius_mm": 45}],
        },
        "screen": {"kind": "wire", "open_pct": 60},
        "joint": {"seal": "o_ring", "age": "new"},
        "braces": {"at_bell": True, "at_tube": True},
    },
    "pump": {"displacement_cm3": 11.0, "drive_ratio": 0.6, "relief_bar": 5.0},
}


def sandpiper() -> Build:
    """The Sandpiper as built: its drain enters high enough at rest, not in a long right-hander."""
    build = (
        FeedTurbo(kind="feed_turbo", bearing="journal", restrictor_mm=1.5)
        .done(Build.model_validate(_CAR))
        .build
    )
    turbo = next(each for each in build.circuit.components if each.kind == "turbo")
    x, y, depth = _ENTRY
    act = DrainTurbo(
        kind="drain_turbo", turbo=turbo.id, how="gravity", dash=10, boss_mm=(x, y, depth)
    )
    document = act.done(build).build.model_dump(mode="json")
    _placed(document)
    return Build.model_validate(document)


def _placed(document: Document) -> None:
    """Figures of turbo, drain and breathing that its builder measured."""
    parts, runs = document["circuit"]["components"], document["circuit"]["runs"]
    for part in parts:
        if part["kind"] == "turbo":
            part |= {
                "place": {"fixed_to": "engine", "at_mm": _OUTLET},
                "drain_bore_mm": 16,
                "gasket_mm": 15,
                "seal_height_mm": 26,
            }
        elif part["kind"] == "crankcase":
            part["blow_by_l_min"] = 48
            part["ports"] = [{"port": "gas", "at_mm": (330, 60, 120)}]
        elif part["kind"] == "breather":
            part["opening_mm"] = 9
    x, y, depth = _ENTRY
    for run in runs:
        if run["name"].startswith("drain of the turbo"):
            run["route"] = [
                {"at_mm": _OUTLET},
                {"at_mm": (96, -196, 109), "radius_mm": 40},
                {"at_mm": (x, y, -depth)},
            ]
            run["assumed"] = False
        elif run["service"] == "vent":
            run["line"] |= {"bore_mm": 14, "length_mm": 700}


def mended() -> Build:
    """The Sandpiper with a wider breather and a drain a size larger: it holds."""
    document = sandpiper().model_dump(mode="json")
    document["name"] = "Sandpiper, drain mended"
    for part in document["circuit"]["components"]:
        if part["kind"] == "breather":
            part["opening_mm"] = 14
        elif part["kind"] == "turbo":
            part |= {"drain_bore_mm": 19, "gasket_mm": 19}
    for run in document["circuit"]["runs"]:
        if run["name"].startswith("drain of the turbo"):
            run["line"]["dash"] = 12
    for boss in document["pan"]["bosses"]:
        if boss["kind"] == "turbo_drain":
            boss["bore_mm"] = 19.05
    return Build.model_validate(document)
