"""What must be on the order after four acts, each line with the sentence of the trade behind it.

Common practice, no published source. Written from the trade's own rules, not from the program.
"""

from __future__ import annotations

from typing import Any

ACCUMULATOR: dict[str, Any] = {
    "kind": "fit_accumulator", "volume_l": 2.0, "at": "cooler_return", "check_valve": True,
    "valve": "by_hand", "dash": 10,
}  # fmt: skip
COOLER: dict[str, Any] = {"kind": "fit_cooler", "dash": 12}
DRY: dict[str, Any] = {"kind": "go_dry", "pickups": 3}
TURBO: dict[str, Any] = {"kind": "feed_turbo", "feed_dash": 4, "drain_dash": 10}

ON_THE_ORDER: dict[str, dict[str, tuple[float, str]]] = {
    "fit an accumulator": {
        "accumulator": (1, "about 2 L; 1/2 in pipe-thread port, 10-size line"),
        "tee": (1, "teed into the cooler return or the main gallery feed"),
        "check_valve": (1, "check valve at the accumulator tee: fitted, so that the charge goes to "
                           "the engine and not back through filter and cooler"),
        "valve_by_hand": (1, "manual ball valve in reach: simplest, cheapest"),
        "hose_10": (0.1, "10-size line"),
        "hose_end_10_0": (2, "every run from port to port: thread at each end"),
        "taper_1-2_10": (1, "1/2 in pipe-thread port, 10-size line"),
    },
    "fit a cooler": {
        "cooler": (1, "remote filter and cooler lines | size 10 or 12"),
        "hose_12": (0.2, "remote filter and cooler lines | size 10 or 12"),
        "hose_end_12_0": (4, "every run from port to port: thread at each end"),
    },
    "go dry": {
        "scavenge_stage": (3, "two to four pickups, a stage for each"),
        "pump_drive": (1, "pump on a bracket, driven by a toothed belt off the crank"),
        "port_plug": (1, "direct gallery feed: the old pump passage is blocked"),
        "oil_tank": (1, "upright tank, its outlet under oil in every corner"),
        "separator": (1, "air separator in the scavenge return"),
        "drain_cock": (1, "tank drained from the outside"),
    },
    "drain a turbo": {
        "hose_4": (0.1, "turbo oil feed | size 4, with a restrictor of about 2 mm"),
        "restrictor": (1, "turbo oil feed | size 4, with a restrictor of about 2 mm"),
        "hose_end_4_0": (2, "every run from port to port: thread at each end"),
        "hose_10": (0.1, "turbo drain | size 10 for one turbo by gravity"),
        "hose_end_10_0": (2, "every run from port to port: thread at each end"),
        "drain_flange_10": (1, "check that a drain flange and its gasket match the turbo's hole"),
        "bung": (1, "use a through-fitting with a nut inside and sealing washers, or weld a boss"),
    },
}  # fmt: skip
"""Part, least count, and why."""
