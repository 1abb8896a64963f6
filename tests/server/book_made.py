"""What tests of a track book share: a car with a short lap, and laps as it logged them."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
from accounts.models import User
from builds.models import Build
from builds.states import add_build, checked_document
from loads.models import Lap
from loads.services import store_lap

from tests.conftest import DEMO
from tests.server.conftest import Api

ROWS = 710
"""Of the demo's lap: to just after its first dip of the gallery."""


def driven_car(user: User, folder: Path) -> Build:
    """The demo car as raced over the first fourteen seconds of its lap."""
    path = folder / "driven.csv"
    path.write_text("\n".join((DEMO / "saltmarsh.csv").read_text().splitlines()[:ROWS]))
    lap = store_lap(user, "forecast on", path, "driven.csv")
    document = checked_document((DEMO / "dunlin.json").read_bytes())
    return add_build(user, document, "from a file", lap)


def logged(user: User, folder: Path, bars: np.ndarray, name: str = "Lap 1") -> Lap:
    """The build's lap again, with a pressure beside it."""
    rows = (DEMO / "saltmarsh.csv").read_text().splitlines()[:ROWS]
    told = [rows[0] + ",oil pressure [bar]"]
    told += [f"{row},{bar:.3f}" for row, bar in zip(rows[1:], bars, strict=True)]
    path = folder / f"{name}.csv"
    path.write_text("\n".join(told))
    return store_lap(user, name, path, path.name)


def put(api: Api, build: Build, *laps: Lap, session: str = "s1", **more: Any) -> tuple[int, Any]:
    """Give a session its laps."""
    path = f"/stages/track-book/{build.pk}/sessions/{session}/judged"
    return api("PUT", path, {"lap_ids": [lap.pk for lap in laps], **more})
