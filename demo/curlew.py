"""The Curlew: a dry-sumped in-line four along a low single-seater. Invented, like all of the demo.

Its front pickup stands where braking throws the oil, and sucks air in every long corner.
"""

from __future__ import annotations

from typing import Any

from bilge_core.acts.go_dry import GoDry
from bilge_core.document.build import Build

Document = dict[str, Any]


def _box(x0: float, x1: float, y0: float, y1: float) -> list[tuple[float, float]]:
    return [(x0, y0), (x1, y0), (x1, y1), (x0, y1)]


_WET: Document = {
    "format": "bilge-build",
    "version": 2,
    "name": "Curlew",
    "notes": "Invented. In-line four along a low single-seater, dry-sumped: a shallow pan, three "
    "scavenge stages, the tank behind the seat.",
    "car": {
        "nose_points": "front",
        "lean_right_deg": 0,
        "nose_up_deg": 0,
        "place": "rear",
        "cylinders": "in_line",
        "engine_power_kw": 165,
        "power_rpm": 8200,
        "top_rpm": 8600,
        "wear": "used",
        "rail_height_mm": 118,
        "least_ground_mm": 35,
        "crank": {"height_mm": 58, "swept_radius_mm": 62, "from_x_mm": 30, "to_x_mm": 380},
        "keep_outs": [
            {
                "kind": "cylinder",
                "name": "lower chassis tube",
                "frame": "car",
                "from_mm": [-200, -232, -30],
                "to_mm": [520, -232, -30],
                "diameter_mm": 32,
                "wanted_mm": 12,
            }
        ],
    },
    "oil": {
        "grade": "5W-40",
        "volume_l": 5.0,
        "away_l": 1.4,
        "temperature_c": 105,
        "mark_l": 5.0,
        "held": [
            {"name": "head", "volume_l": 0.35},
            {"name": "filter", "volume_l": 0.35},
            {"name": "galleries", "volume_l": 0.3},
            {"name": "oil on its way down", "volume_l": 0.4},
        ],
    },
    "pan": {
        "zones": [
            {
                "name": "sump",
                "outline_mm": _box(0, 410, -98, 98),
                "floor": {"kind": "flat", "depth_mm": 120},
            }
        ],
        "skirt_height_mm": 60,
        "sheet_mm": 4,
    },
    "pickup": {
        "x_mm": 200,
        "y_mm": 0,
        "mouth": {"kind": "round", "diameter_mm": 40},
        "gap_mm": 8,
        "screen": {"kind": "wire", "open_pct": 60},
        "joint": {"seal": "o_ring", "age": "new"},
        "braces": {"at_bell": True, "at_tube": True},
    },
    "pump": {"displacement_cm3": 13.0, "drive_ratio": 0.55, "relief_bar": 5.5},
}


def curlew() -> Build:
    """The Curlew as built: 58 mm of pan, a stage for each of three mouths, eight litres of tank."""
    act = GoDry(kind="go_dry", depth_mm=58, pickups=3, ratio=2.4, tank_l=8.0)
    document = act.done(Build.model_validate(_WET)).build.model_dump(mode="json")
    lines = {"scavenge": 700.0, "return": 600.0, "suction": 650.0, "vent": 500.0}
    for part in document["circuit"]["components"]:
        part["assumed"] = False
        if part["kind"] == "tank":
            part |= {"place": {"fixed_to": "car", "at_mm": (-420, 160, 20)}, "height_mm": 380,
                     "diameter_mm": 164}  # fmt: skip
        elif part["kind"] == "breather":
            part["opening_mm"] = 16
    document["drive"] |= {"assumed": False, "offset_mm": 0.4}
    for run in document["circuit"]["runs"]:
        if run["line"]["kind"] == "hose" and run["service"] in lines:
            run["line"]["length_mm"] = lines[run["service"]]
        run["assumed"] = False
    poured = act.poured_l(Build.model_validate(document))  # its lines hold some, now they are known
    document["oil"] |= {"volume_l": poured, "mark_l": poured}
    return Build.model_validate(document)
