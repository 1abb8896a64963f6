"""What a version of the code gives: figures pinned, so that none changes under the same name.

When one of these fails and the change is meant: raise the version beside the code, and pin anew
(``python -m tests.core.test_versions`` prints what is to be pinned).
"""

from __future__ import annotations

import hashlib
from typing import Any

import numpy as np
import pytest
from bilge_core import checks, drains, forecast, loads, moving, network, pan, settled
from bilge_core.checks.pan import check_pan
from bilge_core.document.read import read_build
from bilge_core.drains.drain_rose import drain_rose
from bilge_core.forecast import forecast_settled
from bilge_core.forecast.back_ups import forecast_drains
from bilge_core.forecast.heads import heads_over
from bilge_core.loads.log import Log
from bilge_core.moving.basin import RESOLUTIONS
from bilge_core.moving.lap import MovingOil
from bilge_core.pan import assemble_pan
from bilge_core.settled import cover_rose

from tests.conftest import DEMO

SETTLED: dict[tuple[str, ...], list[float]] = {
    ("network-2", "pan-3", "settled-2"): [
        4.5892, 10.5396, 62.5519, -1.3915, -14.1109, 29.7863, 63.4788, 55.4132, 47.4896, 30.8812,
        8.4372, 12.9775, 25.5523, 45.5969, 9.0, 9.0, 9.0, 9.0, 1.2721, 0.7257, 0.5888, 0.6267,
        0.8675, 1.4375, 2.4422, 9.0,
    ]
}  # fmt: skip
SAID: dict[tuple[str, ...], str] = {
    ("loads-1", "network-2", "pan-3", "settled-2", "forecast-2"): (
        "The pickup runs dry for 1.5 s in corner 1, left, at 1.21 g. 1.520 3.638"
    )
}  # fmt: skip
CHECKED: dict[tuple[str, ...], str] = {
    ("network-2", "pan-3", "settled-2", "checks-2"): "40449fae9c284ba1"
}
MOVING: dict[tuple[str, ...], list[float]] = {
    ("network-2", "pan-3", "moving-7"): [3.2, 0.217, 1.285, 303.278, -53.562, -85.105, 4.702]
}  # fmt: skip

DRAINED: dict[tuple[str, ...], list[float]] = {
    ("network-2", "pan-3", "drains-4"): [
        8.3568, 8.5639, 0, 0.0, 2.048, 9.0, 9.0, 9.0, 9.0, 0.7393,
        0.5615, 0.5928, 0.9189, 1.3037, 9.0, 9.0, 9.0, 627.2236, 202.9217,
    ]
}  # fmt: skip


def pinned(known: dict[tuple[str, ...], Any], *versions: str) -> Any:
    assert versions in known, f"pin what {versions} gives"
    return known[versions]


BUILD = read_build((DEMO / "dunlin-gated.json").read_text())
TIME = np.arange(0.0, 12.0, 0.02)
LAP = Log(
    TIME, 20 + 0 * TIME, 5.0 * np.sin(TIME), 11.0 * np.sin(0.8 * TIME), 300 + 25 * TIME
)  # fmt: skip


def settled_figures() -> list[float]:
    """Oil and room in the pan, cover at twelve moments, edges of the rose in twelve directions."""
    result = forecast_settled(BUILD, LAP)
    rose = cover_rose(result.pan, BUILD.car, directions=12)
    return [
        result.pan.oil_volume * 1e3,
        result.pan.capacity_to_rail * 1e3,
        *(result.lap.cover[::50] * 1e3),
        *np.minimum(rose.edge, 9.0),
    ]


def said() -> str:
    """Dry time, dips and verdict in words."""
    result = forecast_settled(BUILD, LAP)
    figures = (result.dry_time.dry, result.dry_time.draws_air)
    return f"{result.verdict.sentence} {figures[0]:.3f} {figures[1]:.3f}"


def checked() -> str:
    """A fingerprint of every check's words."""
    made = assemble_pan(BUILD)
    found = check_pan(BUILD, made, 700.0, forecast_settled(BUILD, LAP).lap)
    words = "\n".join(
        f"{each.state} {each.words} {each.field} {each.rule.source}" for each in found
    )
    return hashlib.sha256(words.encode()).hexdigest()[:16]


def moving_figures() -> list[float]:
    """Half a second of the lap's fourth second: oil at the pickup, centre of mass."""
    oil = MovingOil(BUILD, assemble_pan(BUILD), LAP.between(3.0, 3.5), RESOLUTIONS["quick"])
    looks = list(oil.run())
    lap = oil.lap(looks)
    return [*(lap.regions[-1] * 1e3), *(lap.centre[-1] * 1e3), lap.volume[-1] * 1e3]


def test_regression_of_the_settled_oil() -> None:
    known = pinned(SETTLED, network.VERSION, pan.VERSION, settled.VERSION)
    assert settled_figures() == pytest.approx(known, abs=1e-3)


def test_regression_of_dips_and_verdict() -> None:
    assert said() == pinned(
        SAID, loads.VERSION, network.VERSION, pan.VERSION, settled.VERSION, forecast.VERSION
    )


def test_regression_of_the_checks() -> None:
    assert checked() == pinned(
        CHECKED, network.VERSION, pan.VERSION, settled.VERSION, checks.VERSION
    )


def drain_figures() -> list[float]:
    """The demo's turbo: least margins and room [mm], time flooded [s], spilled [ml], the
    crankcase [mbar], edges of the rose [g], oil in the head [ml], and beyond its pockets with freer
    drains [ml]."""
    build = read_build((DEMO / "sandpiper.json").read_text())
    told = forecast_drains(build, LAP, ())
    (drain,), over = told.forecasts, told.forecasts[0].over
    rose = drain_rose(
        drain.drain.line, assemble_pan(build), build.car, 1.8 / 60e3, drain.oil, 200.0, 12
    )
    (head,) = heads_over(build, LAP, ())
    return [
        float(over.margin.min() * 1e3), float(over.room.min() * 1e3), drain.flooded,
        float(over.spilled[-1] * 1e6), float(told.case.pressure.max() / 100.0),
        *np.minimum(rose.edge, 9.0).tolist(), float(head.held.max() * 1e6), head.freer * 1e6,
    ]  # fmt: skip


def test_regression_of_the_drains() -> None:
    wanted = pinned(DRAINED, network.VERSION, pan.VERSION, drains.VERSION)
    assert drain_figures() == pytest.approx(wanted, abs=2e-3, rel=1e-4)


def test_regression_of_the_moving_oil() -> None:
    """Not to the digit: another processor adds up in another order."""
    known = pinned(MOVING, network.VERSION, pan.VERSION, moving.VERSION)
    assert moving_figures() == pytest.approx(known, rel=0.02, abs=0.02)


if __name__ == "__main__":
    print([round(float(each), 4) for each in settled_figures()], said(), checked(), sep="\n")
    print([round(float(each), 3) for each in moving_figures()])
    print([round(float(each), 4) for each in drain_figures()])
