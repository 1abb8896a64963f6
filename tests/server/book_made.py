"""What tests of a track book share: a car with a short lap, and laps as it logged them."""

from __future__ import annotations

from functools import cache
from pathlib import Path
from typing import Any

import numpy as np
from accounts.models import User
from bilge_core.agreement.response import drawn_at
from bilge_core.agreement.sensor_shown import Shown
from bilge_core.agreement.stand_in import Truth, stand_in_laps
from bilge_core.document.build import Build as BuildDocument
from bilge_core.forecast.on_record import Record
from bilge_core.loads.log import Log, prepare
from bilge_core.loads.recording import read_log
from bilge_core.loads.sniff import open_log
from builds.models import Build
from builds.states import add_build, checked_document
from loads.models import Lap
from loads.services import store_lap
from runs.models import Run
from runs.selectors import figures_kept

from tests.conftest import DEMO
from tests.server.conftest import Api

ROWS = 710
"""Of the demo's lap: to just after its first dip of the gallery."""
TRUE = 0.25e-3
"""[m3] of oil up top that a car has more than thought."""


def driven_car(user: User, folder: Path) -> Build:
    """The demo car as raced over the first fourteen seconds of its lap."""
    path = folder / "driven.csv"
    path.write_text("\n".join((DEMO / "saltmarsh.csv").read_text().splitlines()[:ROWS]))
    lap = store_lap(user, "forecast on", path, "driven.csv")
    document = checked_document((DEMO / "dunlin.json").read_bytes())
    return add_build(user, document, "from a file", lap)


def log_file(folder: Path, bars: np.ndarray, name: str = "Lap 1") -> Path:
    """The build's lap again, with a pressure beside it, as its logger wrote it."""
    rows = (DEMO / "saltmarsh.csv").read_text().splitlines()[:ROWS]
    told = [rows[0] + ",oil pressure [bar]"]
    told += [f"{row},{bar:.3f}" for row, bar in zip(rows[1:], bars, strict=True)]
    path = folder / f"{name}.csv"
    path.write_text("\n".join(told))
    return path


def logged(user: User, folder: Path, bars: np.ndarray, name: str = "Lap 1") -> Lap:
    """The same, kept among the laps."""
    path = log_file(folder, bars, name)
    return store_lap(user, name, path, path.name)


def put(api: Api, build: Build, *laps: Lap, session: str = "s1", **more: Any) -> tuple[int, Any]:
    """Give a session its laps."""
    path = f"/stages/track-book/{build.pk}/sessions/{session}/judged"
    return api("PUT", path, {"lap_ids": [lap.pk for lap in laps], **more})


def forecast_bars(run: Run) -> np.ndarray:
    """What a run has in its gallery at the lap's samples [bar]."""
    samples = figures_kept(run).samples
    at = np.arange(ROWS - 1) * 0.02
    return np.interp(at, samples.time_s, samples.pressure_bar)


@cache
def lap_driven() -> Log:
    file = open_log(DEMO / "saltmarsh.csv")
    log = prepare(read_log(file, file.proposal))
    return log.between(float(log.time[0]), float(log.time[ROWS - 2]) + 1e-6)


@cache
def drawn(held: float, seed: int) -> np.ndarray:
    return drawn_at(car(), lap_driven(), held, seed)


@cache
def car() -> BuildDocument:
    return BuildDocument.model_validate_json((DEMO / "dunlin.json").read_text())


def bars_of_another(held: float = TRUE, seed: int = 5) -> np.ndarray:
    """What the sensor of a car shows that holds more oil up top than thought [bar]."""
    log = lap_driven()
    truth = Truth(Shown(0.08, 50.0))
    laps = stand_in_laps(car(), log, Record(log.time, drawn(held, seed)), truth, 1, 2, unlike=0.0)
    assert laps[0].oil_pressure is not None
    return np.interp(log.time - log.time[0], laps[0].time, laps[0].oil_pressure) / 1e5
