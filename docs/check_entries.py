"""How high oil stands at seven places of a pan's wall, settled against moving, over a lap.

``python -m docs.check_entries`` runs the demo's two cars in moving oil (a minute or two each) and
prints a row for each place: rms of the difference as far as 50 mm over and under the place, and for
how much of the lap both say the same of under and over. docs/drains.md has what it printed.
"""

from __future__ import annotations

from pathlib import Path

import numpy as np
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.forecast.moving import forecast_moving
from bilge_core.loads.log import Log, prepare
from bilge_core.loads.recording import read_log
from bilge_core.loads.sniff import open_log
from bilge_core.moving.heights import heights_over
from bilge_core.moving.record import read_frames
from bilge_core.pan import assemble_pan
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import apparent_gravity, up_from
from bilge_core.settled.lap import settled_levels

DEMO = Path("demo")
AS_FAR = 0.05
"""[m] over and under a place as far as which a difference counts: farther nothing depends on it."""

CASES: tuple[tuple[str, str, tuple[tuple[float, float, float], ...]], ...] = (
    (
        "sandpiper", "saltmarsh-turbo.csv",
        ((72, -112, -10), (180, -112, -30), (300, -112, -30), (320, 0, -40), (300, 112, -30),
         (180, 112, -40), (40, 0, -40)),
    ),
    (
        "dunlin", "saltmarsh.csv",
        ((60, -107, -30), (180, -107, -40), (420, -107, -60), (452, 0, -60), (420, 107, -60),
         (180, 107, -40), (60, 107, -30)),
    ),
)  # fmt: skip
"""A demo build, its lap, and seven places on its wall [mm]."""


def compared(build: Build, log: Log, places: Array) -> list[tuple[float, float, float]]:
    """For each place: rms [m], mean difference [m], share of the lap that is said alike."""
    kept: list[bytes] = []
    forecast_moving(build, log, record=kept.append)
    frames = read_frames(kept[0])
    time = frames.time

    def there(channel: Array) -> Array:
        return np.interp(time, log.time, channel)

    upward = None if log.upward is None else there(log.upward)
    ups = up_from(apparent_gravity(build.car, there(log.forward), there(log.leftward), upward))
    pan = assemble_pan(build)
    levels = settled_levels(pan.solid, pan.oil_volume, ups)
    rows = []
    for place in places:
        settled = levels - ups @ place
        moving = heights_over(frames, place, ups)
        apart = np.clip(moving, -AS_FAR, AS_FAR) - np.clip(settled, -AS_FAR, AS_FAR)
        alike = float(np.mean((moving > 0.0) == (settled > 0.0)))
        rows.append((float(np.sqrt(np.mean(apart**2))), float(apart.mean()), alike))
    return rows


def main() -> None:
    """Print a table for each car."""
    for name, lap, places in CASES:
        build = read_build((DEMO / f"{name}.json").read_text())
        file = open_log((DEMO / lap).read_bytes())
        log = prepare(read_log(file, file.proposal))
        rows = compared(build, log, np.array(places) * 1e-3)
        print(f"{name}: mean rms {1e3 * np.mean([rms for rms, _, _ in rows]):.1f} mm")
        for (x, y, z), (rms, mean, alike) in zip(places, rows, strict=True):
            print(
                f"  {x:4.0f} ahead {y:5.0f} left {z:4.0f} up: rms {rms * 1e3:4.1f} mm, "
                f"moving higher by {mean * 1e3:5.1f}, alike {alike * 100:3.0f} %"
            )


if __name__ == "__main__":
    main()
