"""Previews against runs of their own, for docs/pressure.md: one command, no network, two minutes.

PYTHONPATH=core:server:. .bilge/venv/bin/python -m docs.check_previews
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.forecast.moving import MovingForecast, forecast_moving
from bilge_core.forecast.on_record import Record, apart, circuit_lap
from bilge_core.loads.corners import find_corners
from bilge_core.loads.log import prepare
from bilge_core.loads.recording import read_log
from bilge_core.loads.sniff import open_log

DEMO = Path(__file__).parent.parent / "demo"
Raw = dict[str, Any]
BOTTLE: Raw = {
    "kind": "fit_accumulator", "volume_l": 2, "precharge_bar": 2.4, "at": "gallery_tapping",
}  # fmt: skip
CHANGES: dict[str, Raw] = {
    "charged to 2.0 bar": {"kind": "tune_accumulator", "precharge_bar": 2.0},
    "3 L": {"kind": "tune_accumulator", "volume_l": 3},
    "restrictor 3 mm": {"kind": "tune_accumulator", "restrictor_mm": 3},
    "electric valve, 3.5 bar": {
        "kind": "tune_accumulator", "valve": "electric", "switch_bar": 3.5,
    },
}  # fmt: skip
BUILDS = ("dunlin-gated", "dunlin-deeper", "dunlin")


def done(build: Build, raw: Raw) -> Build:
    """A build after an act."""
    return read_act(raw).done(build).build


def main() -> None:
    """Print a row for each change on each build."""
    file = open_log((DEMO / "saltmarsh.csv").read_bytes())
    log = prepare(read_log(file, file.proposal))
    corners = find_corners(log)

    def gallery(build: Build, on: MovingForecast, own: MovingForecast) -> tuple[float, float]:
        record = Record.of_looks(on.lap.time, on.lap.mouth.swallowed)
        lap = circuit_lap(build, log, record, corners, band=False)
        looks = own.lap.time[1:] - own.lap.time[0]
        off = np.interp(looks, lap.trace.time, lap.gallery) - own.lap.pressure[1:]
        return float(np.sqrt(np.mean(off**2))) / 1e5, lap.pressure.lowest / 1e5

    print("build, change: oil apart [L], draw apart [L/min], rms [bar], lowest told and run [bar]")
    for name in BUILDS:
        base = done(read_build((DEMO / f"{name}.json").read_text()), BOTTLE)
        on = forecast_moving(base, log, corners=corners)
        rms, lowest = gallery(base, on, on)
        ran = on.pressure.lowest / 1e5
        print(f"{name}, on its own run: rms {rms:.3f}, lowest {lowest:.2f} {ran:.2f}", flush=True)
        record = Record.of_looks(on.lap.time, on.lap.mouth.swallowed)
        theirs = circuit_lap(base, log, record, corners, band=False)
        for words, raw in CHANGES.items():
            build = done(base, raw)
            far = apart(build, circuit_lap(build, log, record, corners, band=False), base, theirs)
            own = forecast_moving(build, log, corners=corners)
            rms, lowest = gallery(build, on, own)
            shown = "shown" if far.is_little else "not shown"
            print(
                f"{name}, {words}: oil {far.oil * 1e3:+.3f}, draw {far.draw * 60e3:.2f}, {shown}: "
                f"rms {rms:.3f}, lowest {lowest:.2f} {own.pressure.lowest / 1e5:.2f}",
                flush=True,
            )


if __name__ == "__main__":
    main()
