"""Draws the figures of docs/solver.md and prints their numbers: one command, no network.

PYTHONPATH=core:server:. .bilge/venv/bin/python -m docs.check_solver
"""

from __future__ import annotations

import math
from pathlib import Path

import matplotlib as mpl
import numpy as np

from tests.oil_boxes import (
    G,
    box_of_oil,
    keep,
    outside,
    run,
    violent_run,
)
from tests.reference.test_moving_waves import FRICTIONLESS

mpl.use("svg")
mpl.rcParams["svg.hashsalt"] = "bilge"
from matplotlib import pyplot  # noqa: E402

FIGURES = Path(__file__).parent / "figures"
OURS, KNOWN = "#b3541e", "#3b4a54"


def save(name: str) -> None:
    """Write the picture and begin a new one."""
    pyplot.tight_layout()
    pyplot.savefig(FIGURES / f"{name}.svg", metadata={"Date": None})
    pyplot.close()


def violent() -> None:
    """c4: centre of mass and oil at the probe, ours in two sizes of cell and the outside result."""
    known = outside("vof-c4")
    runs = {"8 mm": violent_run(0.008), "quick": violent_run((0.02, 0.02, 0.007), longest=0.02)}
    _, axes = pyplot.subplots(4, 1, figsize=(8, 9), sharex=True)
    names = ("com_x_m", "com_y_m", "com_z_m")
    for axis, name in enumerate(names):
        axes[axis].plot(known["time_s"], known[name] * 1e3, color=KNOWN, label="volume of fluid")
        axes[axis].set_ylabel(f"{'xyz'[axis]} of centre [mm]")
    axes[3].plot(known["time_s"], known["probe_oil_fraction"], color=KNOWN)
    axes[3].set_ylabel("oil share at the probe")
    axes[3].set_xlabel("time [s]")
    for (label, ours), style in zip(runs.items(), ("-", ":"), strict=True):
        errors = []
        for axis, name in enumerate(names):
            axes[axis].plot(ours.time, ours.centre[:, axis] * 1e3, style, color=OURS, label=label)
            there = np.interp(ours.time, known["time_s"], known[name])
            errors.append(1e3 * math.sqrt(np.mean((ours.centre[:, axis] - there) ** 2)))
        axes[3].plot(ours.time, ours.probe, style, color=OURS)
        first = ours.time[np.argmax(ours.probe < 0.5)]
        print(f"c4, {label}: rms x y z {np.round(errors, 2)} mm, first dry {first:.2f} s")
        for a, b in ((0, 0.5), (0.5, 1), (1, 3), (3, 3.5), (3.5, 5)):
            mine = ours.probe[(ours.time > a) & (ours.time <= b)].mean()
            inside = (known["time_s"] > a) & (known["time_s"] <= b)
            there = known["probe_oil_fraction"][inside].mean()
            print(f"   {a} to {b} s: {mine:.3f}, outside {there:.3f}")
    axes[0].legend()
    save("violent")


def dam() -> None:
    """Front of a breaking dam."""
    size, tall = 0.1, 0.16
    sideways = np.array([0.0, 1.0, 1e-4])
    column = box_of_oil(
        (0.04, 0.6, tall), 0.008, 0.04 * size * tall, wetting=FRICTIONLESS,
        up=sideways / np.linalg.norm(sideways),
    )  # fmt: skip
    keep(column, column.places()[:, 2] < size)
    front = np.array(
        run(column, 0.26, np.array([0.0, 0.0, -G]),
            lambda: (column.time, column.places()[:, 1].max()), 0.01)
    )  # fmt: skip
    points = np.array([(1.98, 2.33), (2.51, 3.0), (2.98, 3.67), (3.33, 4.11)])
    pyplot.figure(figsize=(6, 4))
    pyplot.plot(
        front[:, 0] * math.sqrt(2 * G / size), front[:, 1] / size, color=OURS, label="ours, 8 mm"
    )
    pyplot.plot(points[:, 0], points[:, 1], "o", color=KNOWN, label="Martin and Moyce 1952")
    pyplot.xlabel("T = t √(2g/a)")
    pyplot.ylabel("Z = x/a")
    pyplot.legend()
    save("dam")


def waves() -> None:
    """A small wave against theory, and a settled tilt over three sizes of cell."""
    theory = math.sqrt(G * math.pi / 0.4 * math.tanh(math.pi / 0.4 * 0.06))
    pyplot.figure(figsize=(7, 3.4))
    steady = 0.02 * 0.4**2 / (12 * 0.06) * 1e3
    for cell, style in ((0.010, ":"), (0.008, "-")):
        oil = box_of_oil((5 * cell, 0.4, 0.12), cell, 5 * cell * 0.4 * 0.06, wetting=FRICTIONLESS)
        seen = np.array(
            run(oil, 4.0, np.array([0.0, 0.02 * G, -G]),
                lambda oil=oil: (oil.time, oil.centre_of_mass()[1] * 1e3 - 200), 0.01)
        )  # fmt: skip
        pyplot.plot(seen[:, 0], seen[:, 1], style, color=OURS, label=f"ours, {cell * 1e3:.0f} mm")
    time = np.linspace(0, 4, 400)
    pyplot.plot(time, steady * (1 - np.cos(theory * time)), color=KNOWN, lw=0.8, label="first mode")
    pyplot.xlabel("time [s]")
    pyplot.ylabel("centre of mass [mm]")
    pyplot.legend()
    save("waves")


def convergence() -> None:
    """Settled tilt over sizes of cell."""
    height = 0.005 / 0.096
    exact = np.array(
        [0.12 + 0.3 * 0.24**2 / (12 * height), height / 2 + 0.09 * 0.24**2 / (24 * height)]
    )
    load = np.array([0.0, 0.3 * G, -G])
    sizes, errors = (0.020, 0.0134, 0.010, 0.008), []
    for cell in sizes:
        oil = box_of_oil((0.4, 0.24, 0.14), cell, 0.005, up=-load / np.linalg.norm(load))
        centres = run(oil, 1.5, load, lambda oil=oil: oil.centre_of_mass()[1:])
        errors.append(1e3 * float(np.linalg.norm(np.mean(centres[25:], axis=0) - exact)))
    print("settled tilt of 0.3:", dict(zip(sizes, np.round(errors, 3).tolist(), strict=True)), "mm")
    pyplot.figure(figsize=(5, 3.4))
    pyplot.loglog(np.array(sizes) * 1e3, errors, "o-", color=OURS)
    pyplot.xlabel("cell [mm]")
    pyplot.ylabel("error of the centre of mass [mm]")
    save("convergence")


def main() -> None:
    """All of them."""
    FIGURES.mkdir(exist_ok=True)
    violent()
    dam()
    waves()
    convergence()


if __name__ == "__main__":
    main()
