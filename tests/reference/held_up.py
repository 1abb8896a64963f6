"""Writes ``held_up.npz``: what the demo's mouth draws over two laps, with more and less oil up top.

``python -m tests.reference.held_up``: fourteen coupled runs in coarse cells, five minutes on two
cores. Levels are what a fit asks for; truths start otherwise and lie between them.
"""

from __future__ import annotations

from concurrent.futures import ProcessPoolExecutor
from itertools import product
from pathlib import Path

import numpy as np
from bilge_core.agreement.response import LEVELS, drawn_at
from bilge_core.document.read import read_build
from bilge_core.loads.log import Log, prepare
from bilge_core.loads.manoeuvres import with_grip
from bilge_core.loads.recording import read_log
from bilge_core.loads.sniff import open_log

HERE = Path(__file__).parent
DEMO = HERE.parents[1] / "demo"
TRUTHS = (0.1e-3, 0.2e-3, 0.35e-3)
"""Oil up top more than thought [m3]."""
GRIPS = (1.0, 0.95)
"""Of the two laps, beside the demo's."""


def laps() -> tuple[Log, ...]:
    """The two laps."""
    file = open_log(DEMO / "saltmarsh.csv")
    log = prepare(read_log(file, file.proposal))
    return tuple(log if grip == 1.0 else prepare(with_grip(log, grip)) for grip in GRIPS)


def _run(asked: tuple[int, float, int]) -> np.ndarray:
    lap, held, seed = asked
    build = read_build((DEMO / "dunlin.json").read_text())
    return np.round(drawn_at(build, laps()[lap], held, seed) * 255).astype("u1")


def main() -> None:
    """Run all, and write them."""
    asked = [(lap, held, 0) for lap, held in product(range(len(GRIPS)), LEVELS)]
    asked += [(lap, held, 5 + lap) for lap, held in product(range(len(GRIPS)), TRUTHS)]
    with ProcessPoolExecutor(2) as pool:
        gas = list(pool.map(_run, asked))
    named = {
        f"gas_{lap}_{held * 1e6:.0f}": each for (lap, held, _), each in zip(asked, gas, strict=True)
    }
    np.savez_compressed(HERE / "held_up.npz", **named)


if __name__ == "__main__":
    main()
