"""Acts on a circuit, one of each kind, with what each says that it did."""

from __future__ import annotations

from typing import Any

Raw = dict[str, Any]

RELIEF: Raw = {"kind": "figures", "figures": [
    {"field": "circuit.components.c4.opens_bar", "value": "5 bar"}]}  # fmt: skip
READING = {"engine_rpm": 3000, "pressure_bar": 3.0, "oil_temperature_c": 95}
MOVED: Raw = {"kind": "move_filter"}
BOTTLED: Raw = {"kind": "fit_accumulator", "volume_l": 2, "precharge_bar": 2.4}

ONE_OF_EACH: list[tuple[list[Raw], Raw, str]] = [
    ([MOVED], {"kind": "fit_accumulator", "volume_l": "2 qt", "precharge_bar": 2.4},
     "accumulator 2 qt at the gallery feed, check valve ahead of its tee"),
    ([MOVED, BOTTLED], {"kind": "tune_accumulator", "volume_l": "3 qt", "restrictor_mm": 2,
                       "valve": "electric", "switch_bar": "35 psi", "length_mm": "40 in"},
     "accumulator, 3 qt, valve electric, open under 35 psi, restrictor 2 mm, its line size 10,"),
    ([], {"kind": "fit_cooler", "holds_l": 0.6, "thermostat_c": "180 F"},
     "oil cooler, with a thermostat, holds 0.6 L"),
    ([], {"kind": "fit_sandwich_plate"}, "sandwich plate under the filter"),
    ([], {"kind": "move_filter", "filters": 2, "dash": 10}, "two filters on a remote base"),
    ([MOVED], {"kind": "second_filter", "holds_l": 0.4}, "second filter on the remote base"),
    ([MOVED], {"kind": "fit_regulator", "opens_bar": "70 psi"},
     "regulator at 70 psi, bypass to the pan, the engine's own relief blocked"),
    ([MOVED], {"kind": "direct_feed"}, "direct feed of the gallery, the old passage blocked"),
    ([], {"kind": "feed_turbo", "bearing": "ball"}, "turbo fed from the gallery, drained into"),
    ([{"kind": "feed_turbo"}], {"kind": "drain_turbo", "turbo": "turbo", "how": "scavenged"},
     "turbo drained by a scavenge stage"),
    ([{"kind": "feed_turbo"}], {"kind": "tune_drain", "run": "", "entry_mm": [300, "-4 in", 5]},
     "drain of the turbo, enters 300 ahead, -101.6 left, 5 under the rail"),
    ([], {"kind": "fit_jets", "count": 5, "bore_mm": "1.6 mm", "opens_bar": "26 psi"},
     "5 piston jets of 1.6 mm, open at 26 psi"),
    ([], {"kind": "fit_jets", "count": 4, "bore_mm": 2},
     "4 piston jets of 2 mm, opening not known"),
    ([], {"kind": "fit_cover"}, "gallery cover, drilled and tapped before it goes on"),
    ([{"kind": "fit_cover"}], {"kind": "feed_turbo", "fed_from": "cover"},
     "turbo fed from gallery cover, drained into"),
    ([], {"kind": "outside_return", "head": "head"}, "outside return of the head, size 12"),
    ([], {"kind": "fit_catch_can", "volume_l": 2}, "catch can 2 L, emptied by hand"),
    ([], {"kind": "fit_breather", "at": "head"}, "breathing of the head, led to the breather"),
    ([{"kind": "fit_sandwich_plate"}], {"kind": "take_out", "component": "sandwich_plate"},
     "sandwich plate taken out"),
    ([{"kind": "fit_catch_can", "volume_l": 2}],
     {"kind": "plug_port", "component": "catch_can", "port": "drain", "plugged": False},
     "catch can: drain opened"),
    ([MOVED], {"kind": "put_in_line", "run": "to the remote filter", "part": "bulkhead"},
     "bulkhead fitting in to the remote filter"),
    ([], {"kind": "join_ports", "start": "crankcase", "start_port": "gas", "end": "breather",
          "end_port": "inlet", "service": "vent", "dash": 12}, "line from crankcase"),
    ([RELIEF], {"kind": "calibrate", "readings": [READING]},
     "bearings by 1 gauge reading, the highest 3 bar at 3000 rpm: 18 L/min at 3 bar"),
]  # fmt: skip
