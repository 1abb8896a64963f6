"""Documents with one of everything that a build can hold, for tests that change every field."""

from __future__ import annotations

from typing import Any

from bilge_core.document.circuit.kinds import CLASSES
from bilge_core.document.read import build_from

Document = dict[str, Any]

PLATES: list[Document] = [
    {
        "kind": "vertical", "name": "P1", "from_mm": [120, -119], "to_mm": [120, 119],
        "top_depth_mm": 20, "bottom_depth_mm": 138,
        "openings": [
            {
                "name": "G1", "from_start_mm": 90, "width_mm": 60, "lower_depth_mm": 137,
                "height_mm": 40,
                "gate": {"swings": "right", "leaf": "rubber", "leak_pct": 4},
            },
        ],
    },
    {
        "kind": "horizontal", "name": "tray", "depth_mm": 30, "role": "windage_tray",
        "outline_mm": [[30, -100], [380, -100], [380, 100], [30, 100]], "open_pct": 30,
        "openings": [
            {"name": "H1", "x_mm": 200, "y_mm": 10, "length_mm": 60, "width_mm": 40}
        ],
    },
]  # fmt: skip


ZONES: list[Document] = [
    {"name": "sump", "outline_mm": [[0, -120], [300, -120], [300, 120], [0, 120]],
     "floor": {"kind": "flat", "depth_mm": 140}, "draft_deg": 3},
    {"name": "ramp", "outline_mm": [[300, -120], [400, -120], [400, 120], [300, 120]],
     "floor": {"kind": "ramp", "runs": "lengthways", "from_depth_mm": 130,
               "to_depth_mm": 80}},
    {"name": "box", "outline_mm": [[40, 120], [200, 120], [200, 170], [40, 170]],
     "floor": {"kind": "flat", "depth_mm": 120}, "ceiling_depth_mm": 50},
]  # fmt: skip


def everything() -> Document:
    """A box pan with one of everything that a document of version 2 could hold."""
    frame = {"name": "it", "wanted_mm": 6}
    return {
        "format": "bilge-build", "version": 2, "name": "all of it", "notes": "n",
        "car": {
            "nose_points": "front", "lean_right_deg": 5, "nose_up_deg": 2, "place": "front",
            "cylinders": "in_line", "rail_height_mm": 210, "least_ground_mm": 45,
            "crank": {"height_mm": 70, "swept_radius_mm": 75, "from_x_mm": 20, "to_x_mm": 380},
            "keep_outs": [
                {**frame, "kind": "box", "frame": "car", "from_mm": [430, -200, -90],
                 "to_mm": [470, 200, -40]},
                {**frame, "kind": "cylinder", "frame": "engine", "from_mm": [-60, -200, -60],
                 "to_mm": [-60, 200, -60], "diameter_mm": 40},
                {**frame, "kind": "plane", "frame": "engine", "at_mm": -170, "free": "above"},
            ],
        },
        "oil": {
            "grade": "5W-40", "volume_l": 5.5, "away_l": 1.0, "temperature_c": 95, "mark_l": 5.2,
            "held": [{"name": "filter", "volume_l": 0.6}, {"name": "galleries", "volume_l": 0.4}],
        },
        "pan": {
            "zones": ZONES,
            "skirt_height_mm": 60, "plates": PLATES, "spacer_mm": 6, "bolt_length_mm": 20,
            "dipped": {"engine": "level", "points": [
                {"poured_l": 3.0, "level_mm": 60.0}, {"poured_l": 5.0, "level_mm": 70.0}]},
            "dip_marks": [{"name": "full", "level_mm": 66}],
            "sheet_mm": 1.5, "made": "sheet",
            "flange": {"outline_mm": [[-20, -140], [420, -140], [420, 140], [-20, 140]],
                       "thickness_mm": 6,
                       "bolts": [{"x_mm": 200, "y_mm": 135, "diameter_mm": 7}]},
            "bosses": [{"kind": "turbo_drain", "name": "drain", "x_mm": 205, "y_mm": 119,
                        "depth_mm": 40, "bore_mm": 16, "fixing": "welded_boss",
                        "blocked": False}],
            "scrapers": [{"name": "S", "side": "left", "from_x_mm": 30, "to_x_mm": 370,
                          "gap_mm": 2}],
            "inspection": [{"item": "Cracks", "found": "sound", "note": "none",
                            "off_flat_mm": 0.1, "photos": ["abcdefgh12"]}],
        },
        "pickup": {
            "x_mm": 200, "y_mm": 4, "mouth": {"kind": "rectangular", "length_mm": 60,
                                              "width_mm": 40},
            "gap_mm": 8,
            "tube": {"bore_mm": 19, "length_mm": 240,
                     "bends": [{"angle_deg": 80, "radius_mm": 40}]},
            "screen": {"kind": "wire", "open_pct": 45},
            "joint": {"seal": "o_ring", "age": "reused"},
            "braces": {"at_bell": True, "at_tube": False},
        },
        "pump": {
            "displacement_cm3": 16, "drive_ratio": 0.6, "relief_bar": 5.0,
            "low_stage": {"displacement_cm3": 9, "up_to_rpm": 3400, "relief_bar": 3.0,
                          "unplugged": False},
        },
        "gauge_readings": [
            {"engine_rpm": 3000, "pressure_bar": 2.8, "oil_temperature_c": 93},
        ],
    }  # fmt: skip


FIGURES: Document = {
    "displacement_cm3": 5.5, "drive_ratio": 0.6, "driven_by": "belt", "opens_bar": 4.0,
    "bore_mm": 8.5, "bypass_bar": 1.2, "drop": {"drop_bar": 0.4, "flow_l_min": 40.0},
    "filters": 2, "thermostat_c": 85.0, "opens_c": 82.0, "rating_kw": 17.6,
    "rated_over_kelvin": 55.0, "water_c": 88.0,
    "flow_l_min": 60.0, "volume_l": 2.0, "precharge_bar": 2.4, "rating_bar": 12.0,
    "worked": "electric", "count": 5, "floor_length_mm": 420.0, "floor_width_mm": 130.0,
    "wall_height_mm": 60.0, "bearing": "ball", "drain_bore_mm": 17.0, "diameter_mm": 180.0,
    "height_mm": 500.0,
}  # fmt: skip
LINE = {"dash": 10, "bore_mm": 14.0, "sleeve": True, "clips_mm": 250.0}


def whole_circuit(of_old: Document) -> Document:
    """A circuit upgraded from an older version, with one of every kind, line and end in it."""
    there = {each["kind"] for each in of_old["components"]}
    more: list[Document] = [
        {
            "id": f"c{300 + at}", "kind": kind, "name": f"a {kind}",
            **{key: value for key, value in FIGURES.items() if key in part.model_fields},
        }
        for at, (kind, part) in enumerate([*CLASSES.items(), ("tee", CLASSES["tee"])])
        if kind not in there
    ]  # fmt: skip
    components = [*of_old["components"], *more]
    of = {each["kind"]: each for each in components}
    of["filter"] |= {
        "place": {"fixed_to": "engine", "at_mm": [400, 120, 30]}, "holds_l": 0.4,
        "ports": [{"port": "inlet", "thread": "M22", "at_mm": [400, 120, 20]}],
        "bypass_bar": 1.0, "drop": FIGURES["drop"],
    }  # fmt: skip
    of["plate_cooler"]["plugged"] = ["water_in"]
    of["gallery"]["jets"] = {"share": 0.9, "uncertainty_pct": 20.0, "source": "5 readings"}
    of["relief"] |= {"senses": of["gallery"]["id"], "bore_mm": 12.0}
    of["pressure_stage"]["driven_by"] = "chain"
    tees = [each["id"] for each in components if each["kind"] == "tee"]

    def run(at: int, line: Document, **more: Any) -> Document:
        ends: list[Document] = [
            {"component": tees[0], "port": "a"}, {"component": tees[1], "port": "b"}
        ]  # fmt: skip
        if at:
            ends = [{"component": of["crankcase"]["id"], "port": "gas"},
                    {"component": of["breather"]["id"], "port": "inlet"}]  # fmt: skip
        service = "vent" if at else "pressure"
        joint = {"fittings": ["elbow"], "seal": "gasket", "age": "new", "leak_mm": 0.4}
        return {"id": f"r{300 + at}", "name": "a run", "service": service,
                "start": ends[0] | joint, "end": ends[1] | joint, "line": line, **more}  # fmt: skip

    route = [{"at_mm": [0, 0, 0], "radius_mm": 40}, {"at_mm": [0, 100, 0], "radius_mm": 20}]
    runs = [
        *of_old["runs"],
        run(1, {"kind": "hard_line", **LINE}, route=route),
        run(2, {"kind": "passage", "bore_mm": 12, "length_mm": 90, "count": 3}),
        run(0, {"kind": "hose", **LINE, "length_mm": 400}),
    ]
    return {**of_old, "components": components, "runs": runs}


def everything_of_today() -> Document:
    """One of everything, circuit and all."""
    document = build_from(everything()).model_dump(mode="json")
    document["car"] |= {
        "engine_power_kw": 220.0, "power_rpm": 6200.0, "top_rpm": 7000.0, "wear": "used",
        "class_rules": {"fit_accumulator": "not_allowed"},
    }  # fmt: skip
    found = {"value": 0.25, "give": 0.1, "source": "a session"}
    learned = {"up_top_more_l": found, "sealing_pct": found, "gauge_lag_s": found}
    drive = {
        "pitch_mm": 8, "width_mm": 25, "crank_teeth": 24, "pump_teeth": 48, "belt_teeth": 90,
        "across_mm": -210, "up_mm": -30, "offset_mm": 0.5, "turned_deg": 0.1, "tilted_deg": 0.1,
        "travel_mm": 8, "crank_x_mm": 450, "body": {"length_mm": 150, "diameter_mm": 110},
        "idler": {"across_mm": -100, "up_mm": 40, "diameter_mm": 50, "runs_on": "back"},
    }  # fmt: skip
    document["pan"]["making"] = {
        "bent": [[150, -120, -140]], "radius_mm": 3, "k_factor": 0.4, "gap_mm": 0.5,
        "relief": False, "metal": "steel", "sheet_long_mm": 1500, "sheet_wide_mm": 800,
    }  # fmt: skip
    return {
        **document, "circuit": whole_circuit(document["circuit"]), "learned": learned,
        "drive": drive,
    }  # fmt: skip


def by_flow() -> Document:
    """Another pump, whose displacement follows from what it delivers; oil away by its sum alone."""
    document = everything()
    document["pump"]["flow_point"] = {"flow_l_min": 40, "engine_rpm": 5000, "filling_pct": 85}
    del document["oil"]["held"]
    return document
