"""Writes the demo: ``python -m demo.generate``. Car, track and every figure are invented."""

from __future__ import annotations

import json
from pathlib import Path

from bilge_core.agreement.sensor_shown import Shown
from bilge_core.agreement.stand_in import Truth, as_csv
from bilge_core.cli.stand_in import session_of
from bilge_core.document.build import Build
from bilge_core.document.read import write_build
from bilge_core.loads.log import prepare
from bilge_core.loads.recording import read_log
from bilge_core.loads.sniff import open_log

from demo.curlew import curlew
from demo.plumbed import plumbed
from demo.sandpiper import mended, sandpiper
from demo.session import session_csv
from demo.track import (
    DUNLIN,
    DUNLIN_IN_THE_RAIN,
    SALTMARSH,
    SANDPIPER,
    PointMassCar,
    drive,
    log_rows,
    path,
)

HERE = Path(__file__).parent

HEADINGS = (
    "time [s],speed [km/h],lateral g [g + left],longitudinal g [g + forward],"
    "engine speed [rpm],water temperature [°C]"
)


def saltmarsh_csv(car: PointMassCar = DUNLIN, seed: int = 20) -> str:
    """One lap of the Saltmarsh Ring, logged at 50 Hz."""
    rows = log_rows(drive(car, *path(SALTMARSH)), rate=50.0, seed=seed)
    lines = [
        f"{t:.2f},{v:.1f},{side:.3f},{fore:.3f},{rpm:.0f},{water:.1f}"
        for t, v, side, fore, rpm, water in rows
    ]
    return "\n".join([HEADINGS, *lines, ""])


def june_csv() -> str:
    """Three laps of a car that is not there: a quarter of a litre less in its pan than thought."""
    lap = open_log(HERE / "saltmarsh.csv")
    log = prepare(read_log(lap, lap.proposal))
    truth = Truth(Shown(lag=0.09, rate=20.0))
    return as_csv(session_of(dunlin(), log, truth, laps=3, oil_less=0.25, seed=7))


def _box(x0: float, x1: float, y0: float, y1: float) -> list[tuple[float, float]]:
    return [(x0, y0), (x1, y0), (x1, y1), (x0, y1)]


KEEP_OUTS = [
    {
        "kind": "box",
        "name": "subframe",
        "frame": "car",
        "from_mm": (40, -260, -130),
        "to_mm": (110, 260, -85),
        "wanted_mm": 10,
    },
    {
        "kind": "cylinder",
        "name": "steering rack",
        "frame": "car",
        "from_mm": (520, -300, -60),
        "to_mm": (520, 300, -60),
        "diameter_mm": 44,
        "wanted_mm": 8,
    },
    {
        "kind": "cylinder",
        "name": "exhaust",
        "frame": "car",
        "from_mm": (-40, 175, -120),
        "to_mm": (360, 190, -100),
        "diameter_mm": 60,
        "wanted_mm": 25,
    },
]


CAR = {
    "nose_points": "front",
    "lean_right_deg": 12,
    "nose_up_deg": 2,
    "place": "front",
    "cylinders": "in_line",
    "rail_height_mm": 217,
    "least_ground_mm": 45,
    "crank": {
        "height_mm": 62,
        "swept_radius_mm": 84,
        "from_x_mm": 40,
        "to_x_mm": 415,
    },
    "keep_outs": KEEP_OUTS,
}

HELD = [
    {"name": "head and cam boxes", "volume_l": 0.5},
    {"name": "galleries", "volume_l": 0.3},
    {"name": "filter", "volume_l": 0.35},
    {"name": "cooler and lines", "volume_l": 0.5},
    {"name": "oil on its way down", "volume_l": 0.45},
]

PICKUP = {
    "x_mm": 322,
    "y_mm": -12,
    "mouth": {"kind": "round", "diameter_mm": 46},
    "gap_mm": 8,
    "tube": {
        "bore_mm": 19,
        "length_mm": 210,
        "bends": [{"angle_deg": 70, "radius_mm": 45}],
    },
    "screen": {"kind": "wire", "open_pct": 60},
    "joint": {"seal": "o_ring", "age": "new"},
    "braces": {"at_bell": True, "at_tube": True},
}

GAUGE_READINGS = [
    {"engine_rpm": 950, "pressure_bar": 1.4, "oil_temperature_c": 108},
    {"engine_rpm": 3200, "pressure_bar": 3.9, "oil_temperature_c": 110},
    {"engine_rpm": 6500, "pressure_bar": 5.4, "oil_temperature_c": 112},
]


def _zones(sump_depth: float) -> list[dict[str, object]]:
    return [
        {
            "name": "deep sump",
            "outline_mm": _box(212, 452, -107, 107),
            "floor": {"kind": "flat", "depth_mm": sump_depth},
        },
        {
            "name": "ramp",
            "outline_mm": _box(150, 212, -107, 107),
            "floor": {
                "kind": "ramp",
                "runs": "lengthways",
                "from_depth_mm": 52,
                "to_depth_mm": sump_depth,
            },
        },
        {
            "name": "shelf",
            "outline_mm": _box(0, 150, -107, 107),
            "floor": {"kind": "flat", "depth_mm": 52},
        },
        {
            "name": "kick-out",
            "outline_mm": _box(232, 392, -155, -107),
            "floor": {"kind": "flat", "depth_mm": sump_depth},
            "ceiling_depth_mm": 70,
        },
    ]


def _bosses(sump_depth: float) -> list[dict[str, object]]:
    return [
        {
            "kind": "drain_plug",
            "name": "drain plug",
            "x_mm": 250,
            "y_mm": -142,
            "depth_mm": sump_depth,
            "bore_mm": 14,
            "fixing": "welded_boss",
        },
        {
            "kind": "dipstick",
            "name": "dipstick",
            "x_mm": 425,
            "y_mm": 50,
            "depth_mm": 0,
            "bore_mm": 10,
        },
    ]


def dunlin(sump_depth: float = 138.0, oil: float = 6.2) -> Build:
    """The Dunlin: in-line five, leaned 12° to the right, front sump with a kick-out."""
    return Build.model_validate(
        {
            "format": "bilge-build",
            "version": 2,
            "name": "Dunlin",
            "car": CAR,
            "oil": {
                "grade": "10W-60",
                "volume_l": oil,
                "away_l": 2.1,
                "temperature_c": 112,
                "mark_l": 6.2,
                "held": HELD,
            },
            "pan": {
                "zones": _zones(sump_depth),
                "skirt_height_mm": 90,
                "sheet_mm": 2,
                "made": "sheet",
                "dip_marks": [
                    {"name": "full", "level_mm": 96},
                    {"name": "low", "level_mm": 78},
                ],
                "bosses": _bosses(sump_depth),
            },
            "pickup": PICKUP,
            "pump": {"displacement_cm3": 12.0, "drive_ratio": 0.55, "relief_bar": 5.4},
            "gauge_readings": GAUGE_READINGS,
            "notes": "Invented car for the demo. As raced, oil at the mark.",
        }
    )


def dunlin_deeper() -> Build:
    """The Dunlin with a deeper sump, pickup lowered with it, and more oil."""
    build = dunlin(sump_depth=184.0, oil=9.7)
    return build.model_copy(
        update={
            "name": "Dunlin, sump 46 mm deeper",
            "notes": "Invented. Sump and pickup 46 mm lower, 3.5 L more oil.",
        }
    )


def _gated_wall(
    name: str, gate: str, start: tuple[float, float], end: tuple[float, float], hole_from: float
) -> dict[str, object]:
    """A plate with a gate, walked with the pickup on the right hand: there it opens."""
    return {
        "kind": "vertical",
        "name": name,
        "from_mm": start,
        "to_mm": end,
        "top_depth_mm": 66,
        "openings": [
            {
                "name": gate,
                "from_start_mm": hole_from,
                "width_mm": 60,
                "lower_depth_mm": 136,
                "height_mm": 36,
                "gate": {"swings": "right", "leaf": "rubber", "leak_pct": 4},
            }
        ],
    }


def dunlin_gated() -> Build:
    """The Dunlin with a box of plates round the pickup, three gates that swing in, and a lid."""
    build = dunlin()
    box = [
        _gated_wall("P1", "G3", (236, -70), (236, 70), 40),
        _gated_wall("R1", "G1", (408, -70), (236, -70), 56),
        _gated_wall("L1", "G2", (236, 70), (408, 70), 56),
    ]
    end = {
        "kind": "vertical",
        "name": "P2",
        "from_mm": (408, -70),
        "to_mm": (408, 70),
        "top_depth_mm": 66,
    }
    lid = {
        "kind": "horizontal",
        "name": "lid",
        "outline_mm": _box(236, 408, -70, 70),
        "depth_mm": 66,
        "openings": [{"name": "pickup", "x_mm": 322, "y_mm": -12, "length_mm": 64, "width_mm": 64}],
    }
    document = build.model_dump(mode="json")
    document["name"] = "Dunlin, plates and gates"
    document["notes"] = "Invented. A box of plates round the pickup with three gates and a lid."
    document["pan"]["plates"] = [*box, end, lid]
    return Build.model_validate(document)


def _wall(
    name: str, start: tuple[float, float], end: tuple[float, float], holes: tuple[float, ...]
) -> dict[str, object]:
    """A wall of the shop's box, with gates 80 wide and 40 high along the floor."""
    return {
        "kind": "vertical",
        "name": name,
        "from_mm": start,
        "to_mm": end,
        "top_depth_mm": 95,
        "openings": [
            {
                "name": f"{name}{number}",
                "from_start_mm": at,
                "width_mm": 80,
                "lower_depth_mm": 148,
                "height_mm": 40,
                "gate": {"swings": "right", "leaf": "rubber", "leak_pct": 1},
            }
            for number, at in enumerate(holes, start=1)
        ],
    }


def dunlin_shop() -> Build:
    """The Dunlin with a pan by the shop: deep for most of its length, boxes on both sides.

    The bell is wide, moved to the right, where the oil goes in left turns, and boxed in by gates.
    """
    document = dunlin(sump_depth=150.0, oil=10.8).model_dump(mode="json")
    document["name"] = "Dunlin, pan by the shop"
    document["notes"] = "Invented. Long deep sump, side boxes, gates, pickup moved, 4.6 L more oil."
    pan, pickup = document["pan"], document["pickup"]
    deep, ramp, shelf, right = pan["zones"]
    deep["outline_mm"] = _box(130, 452, -107, 107)
    ramp["outline_mm"] = _box(90, 130, -107, 107)
    shelf["outline_mm"] = _box(0, 90, -107, 107)
    right["outline_mm"] = _box(160, 440, -165, -107)
    left = {**right, "name": "kick-out left", "outline_mm": _box(160, 440, 107, 117)}
    pan["zones"] = [deep, ramp, shelf, right, left]
    pickup |= {"x_mm": 300, "y_mm": -50, "mouth": {"kind": "round", "diameter_mm": 70}}
    lid = {
        "kind": "horizontal",
        "name": "lid",
        "outline_mm": _box(190, 440, -90, 90),
        "depth_mm": 95,
        "openings": [{"name": "pickup", "x_mm": 300, "y_mm": -50, "length_mm": 54, "width_mm": 54}],
    }
    pan["plates"] = [
        _wall("F", (190, -90), (190, 90), (50,)),
        _wall("R", (440, -90), (190, -90), (25, 145)),
        _wall("L", (190, 90), (440, 90), (25, 145)),
        _wall("B", (440, 90), (440, -90), (50,)),
        lid,
    ]
    return Build.model_validate(document)


def main() -> None:
    """Write the files beside this one."""
    (HERE / "saltmarsh.csv").write_text(saltmarsh_csv(), encoding="utf-8")
    rain = saltmarsh_csv(DUNLIN_IN_THE_RAIN, seed=21)
    (HERE / "saltmarsh-rain.csv").write_text(rain, encoding="utf-8")
    (HERE / "saltmarsh-session.csv").write_text(session_csv(), encoding="utf-8")
    turbo = saltmarsh_csv(SANDPIPER, seed=23)
    (HERE / "saltmarsh-turbo.csv").write_text(turbo, encoding="utf-8")
    (HERE / "readings.json").write_text(json.dumps(GAUGE_READINGS, indent=1) + "\n", "utf-8")
    (HERE / "saltmarsh-june.csv").write_text(june_csv(), encoding="utf-8")
    (HERE / "dunlin.json").write_text(write_build(dunlin()), encoding="utf-8")
    (HERE / "dunlin-gated.json").write_text(write_build(dunlin_gated()), encoding="utf-8")
    (HERE / "dunlin-shop.json").write_text(write_build(dunlin_shop()), encoding="utf-8")
    (HERE / "dunlin-deeper.json").write_text(write_build(dunlin_deeper()), encoding="utf-8")
    (HERE / "sandpiper.json").write_text(write_build(sandpiper()), encoding="utf-8")
    (HERE / "sandpiper-mended.json").write_text(write_build(mended()), encoding="utf-8")
    (HERE / "plumbed.json").write_text(write_build(plumbed(dunlin())), encoding="utf-8")
    (HERE / "curlew.json").write_text(write_build(curlew()), encoding="utf-8")


if __name__ == "__main__":
    main()
