"""Runs in moving oil that many tests ask for are had once: the same asked gives the same."""

from __future__ import annotations

import hashlib
from collections.abc import Callable
from dataclasses import dataclass, fields
from typing import Any

import numpy as np
import pytest
from bilge_core.document.build import Build
from bilge_core.forecast import moving
from bilge_core.forecast.moving import MovingForecast
from bilge_core.loads.log import Log

_REALLY = moving.forecast_moving
_ASKED_BY = ("runs.tasks.forecast_moving", "bilge_core.options.trial.forecast_moving")


@dataclass(frozen=True)
class _Had:
    forecast: MovingForecast
    looks: list[Any]
    records: list[bytes]


_HAD: dict[str, _Had] = {}


def _key(build: Build, log: Log, *rest: object) -> str:
    digest = hashlib.sha256(build.model_dump_json().encode())
    for field in fields(Log):
        value = getattr(log, field.name)
        digest.update(b"none" if value is None else np.ascontiguousarray(value).tobytes())
    digest.update(repr(rest).encode())
    return digest.hexdigest()


def _remembered(
    build: Build,
    log: Log,
    fineness: Any = "quick",
    corners: Any = None,
    seed: int = 0,
    watch: Callable[[Any], None] | None = None,
    record: Callable[[bytes], None] | None = None,
) -> MovingForecast:
    """As `forecast_moving`; what was had before is shown to `watch` and `record` as it was then."""
    key = _key(build, log, fineness, corners, seed, record is None)
    had = _HAD.get(key)
    if had is None:
        looks: list[Any] = []
        records: list[bytes] = []

        def look(at: Any) -> None:
            looks.append(at)
            if watch is not None:
                watch(at)

        found = _REALLY(
            build, log, fineness, corners, seed, look, None if record is None else records.append
        )
        had = _HAD[key] = _Had(found, looks, records)
    elif watch is not None:
        for each in had.looks:
            watch(each)
    for part in had.records:
        assert record is not None
        record(part)
    return had.forecast


def remember_runs(monkeypatch: pytest.MonkeyPatch) -> None:
    """For tests of what is done with runs; never where a run is itself what is tested."""
    for place in _ASKED_BY:
        monkeypatch.setattr(place, _remembered)
