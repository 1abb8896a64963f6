"""Prints what docs/solver.md says of shorter steps and of the dam's late front: one command.

PYTHONPATH=core:server:. .bilge/venv/bin/python -m docs.check_steps
"""

from __future__ import annotations

import math
import time

import numpy as np

from tests.oil_boxes import G, ViolentRun, box_of_oil, keep, outside, run, violent_run
from tests.reference.test_moving_waves import FRICTIONLESS

SEEDS = (0, 1, 2, 3, 4, 5)
WINDOWS = ((0.0, 0.5), (0.5, 1.0), (1.0, 3.0), (3.0, 3.5), (3.5, 5.0))


def _off(ours: ViolentRun) -> tuple[list[float], float, float]:
    """Rms of the centre along each axis [mm], the probe's worst window, its first dry [s]."""
    known = outside("vof-c4")
    there = [np.interp(ours.time, known["time_s"], known[f"com_{axis}_m"]) for axis in "xyz"]
    errors = [
        1e3 * math.sqrt(np.mean((ours.centre[:, axis] - there[axis]) ** 2)) for axis in range(3)
    ]
    worst = 0.0
    for low, high in WINDOWS:
        mine = ours.probe[(ours.time > low) & (ours.time <= high)].mean()
        inside = (known["time_s"] > low) & (known["time_s"] <= high)
        worst = max(worst, abs(mine - known["probe_oil_fraction"][inside].mean()))
    return errors, float(worst), float(ours.time[np.argmax(ours.probe < 0.5)])


def steps() -> None:
    """The violent slosh at 8 mm with steps of 10 and 5 ms, from several starts."""
    violent_run(0.02)  # compiled
    for longest in (0.010, 0.005):
        rows, spent = [], []
        for seed in SEEDS:
            begun = time.process_time()
            errors, worst, first = _off(violent_run(0.008, seed, longest))
            spent.append(time.process_time() - begun)
            rows.append([*errors, worst, first])
        found = np.array(rows)
        mean, deviation = found.mean(axis=0), found.std(axis=0, ddof=1)
        told = ", ".join(f"{m:.3g} ± {d:.2g}" for m, d in zip(mean, deviation, strict=True))
        print(f"step to {longest * 1e3:.0f} ms: x, y, z [mm], worst window, first dry [s]: {told}")
        print(
            f"   worst of all starts {np.round(found.max(axis=0), 3)}; {np.median(spent):.2f} CPU s"
        )


def front(cell: float, longest: float) -> float:
    """Speed of a breaking dam's front between 2 and 4 widths a, over the root of 2 g a."""
    size, tall = 0.1, 0.16
    sideways = np.array([0.0, 1.0, 1e-4])
    column = box_of_oil(
        (5 * cell, 0.6, tall), cell, 5 * cell * size * tall, wetting=FRICTIONLESS,
        up=sideways / np.linalg.norm(sideways), longest=longest,
    )  # fmt: skip
    keep(column, column.places()[:, 2] < size)
    seen = np.array(
        run(column, 0.26, np.array([0.0, 0.0, -G]),
            lambda: (column.time, np.quantile(column.places()[:, 1], 0.999)), 0.01)
    )  # fmt: skip
    late = (seen[:, 1] > 2.0 * size) & (seen[:, 1] < 4.0 * size)
    return float(np.polyfit(seen[late, 0], seen[late, 1], 1)[0] / math.sqrt(2.0 * G * size))


def dam() -> None:
    """The late front by size of cell and step; Martin and Moyce (from memory) have about 1.36."""
    for cell in (0.010, 0.008, 0.005, 0.004):
        for longest in (0.010, 0.0025):
            speed = front(cell, longest)
            print(f"dam, {cell * 1e3:.0f} mm, step to {longest * 1e3:.1f} ms: {speed:.3f}")


def main() -> None:
    """Both."""
    steps()
    dam()


if __name__ == "__main__":
    main()
