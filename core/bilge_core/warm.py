"""Compiles what is compiled before anyone waits for it; the result is cached on disk."""

from __future__ import annotations

import numpy as np

from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.forecast import forecast_settled
from bilge_core.forecast.back_ups import forecast_drains
from bilge_core.forecast.moving import forecast_moving
from bilge_core.loads.log import Log
from bilge_core.scan.heights import heights_of
from bilge_core.scavenge.rose import scavenge_rose
from bilge_core.scavenge.sizing import sizing
from bilge_core.settled import cover_rose, tilt_table
from bilge_core.tell.drains import drains_out

_DRY: dict[str, object] = {"kind": "go_dry", "depth_mm": 60, "pickups": 2, "tank_l": 4}

_SMALL = {
    "format": "bilge-build",
    "version": 2,
    "name": "warm-up",
    "car": {"nose_points": "front", "lean_right_deg": 0, "nose_up_deg": 0},
    "oil": {"grade": "5W-40", "volume_l": 2, "away_l": 0, "temperature_c": 90},
    "pan": {
        "zones": [
            {
                "name": "box",
                "outline_mm": [[0, 0], [200, 0], [200, 200], [0, 200]],
                "floor": {"kind": "flat", "depth_mm": 100},
            }
        ],
        "skirt_height_mm": 50,
        "plates": [
            {
                "kind": "vertical",
                "name": "P1",
                "from_mm": [60, 20],
                "to_mm": [60, 180],
                "top_depth_mm": 20,
                "openings": [
                    {
                        "name": "G1",
                        "from_start_mm": 40,
                        "width_mm": 60,
                        "lower_depth_mm": 98,
                        "height_mm": 30,
                        "gate": {"swings": "right", "leaf": "rubber", "leak_pct": 4},
                    }
                ],
            }
        ],
    },
    "pickup": {
        "x_mm": 100,
        "y_mm": 100,
        "mouth": {"kind": "round", "diameter_mm": 40},
        "gap_mm": 8,
    },
    "pump": {"displacement_cm3": 10, "drive_ratio": 1},
}


def _drained(build: Build) -> Build:
    """A build with a turbo whose drain has its places."""
    fed = read_act({"kind": "feed_turbo"}).done(build).build
    turbo = next(each.id for each in fed.circuit.components if each.kind == "turbo")
    drain = next(
        run.id for run in fed.circuit.runs
        if run.service == "drain" and run.start.component == turbo
    )  # fmt: skip
    placed = {"run": drain, "outlet_mm": [60, 260, 160], "entry_mm": [60, 199, 20]}
    return read_act({"kind": "tune_drain", **placed}).done(fed).build


def _standing(seconds: float) -> Log:
    """A car that turns left at the spot, with its engine running."""
    time = np.arange(0.0, seconds, 0.02)
    still = np.zeros_like(time)
    return Log(time, still, still, still + 6.0, still + 300.0)


def warm_up() -> None:
    """Run every compiled loop once but those of the moving oil.

    Examples
    --------
    >>> warm_up()
    """
    build = Build.model_validate(_SMALL)
    result = forecast_settled(build, Log(np.arange(3.0), *np.zeros((4, 3))))
    cover_rose(result.pan, build.car, directions=4)
    tilt_table(result.pan, build.car, points=3)
    dry = read_act(_DRY).done(build).build
    found = forecast_settled(dry, Log(np.arange(3.0), *np.zeros((4, 3))))
    scavenge_rose(dry, found.pan, 1e-4, 300.0, 1.0, directions=4)
    sizing(dry, found.log, found.lap.dry)
    drained = forecast_drains(_drained(build), _standing(0.2), ())
    drains_out(_drained(build), result.pan, drained)
    heights_of(np.eye(3)[None], np.zeros(2), 0.5, (2, 2))


def warm_up_moving() -> None:
    """Run every loop of the moving oil once; half a minute when nothing is compiled yet.

    Examples
    --------
    >>> warm_up_moving()
    """
    forecast_moving(Build.model_validate(_SMALL), _standing(0.3), record=lambda record: None)
