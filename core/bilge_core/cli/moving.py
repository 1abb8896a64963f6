"""``bilge check --slosh``: the runs in moving oil and what is said of them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from tqdm import tqdm

from bilge_core.document.build import Build
from bilge_core.forecast import SettledForecast
from bilge_core.forecast.moving import (
    MovingForecast,
    Spread,
    dry_time_spread,
    forecast_moving,
    moving_note,
)
from bilge_core.loads.log import Log
from bilge_core.moving import Fineness
from bilge_core.moving.lap import LookAt


@dataclass(frozen=True)
class Moving:
    """Runs in moving oil: the first start's, and the spread of dry time over all starts."""

    forecast: MovingForecast
    spread: Spread

    @property
    def note(self) -> str:
        """Which model it is."""
        return moving_note(self.forecast.fineness)

    @property
    def told(self) -> tuple[MovingForecast, Spread]:
        """What is told of it as data."""
        return self.forecast, self.spread

    def lines(self, settled: SettledForecast) -> list[str]:
        """The same in lines."""
        lap, spread = self.forecast.lap, self.spread
        lines = [f"  Settled oil would be dry for {settled.dry_time.dry:.1f} s."]
        if len(spread.dry) > 1:
            lines.append(
                f"  Over {len(spread.dry)} starts: dry for {spread.mean:.2f} s, "
                f"give or take {spread.deviation:.2f} s."
            )
        if lap.crank_time() > 0.0:
            lines.append(
                f"  Oil reaches the crank's sweep for {lap.crank_time():.1f} s, "
                f"at most {lap.crank.max() * 1e3:.1f} L of it."
            )
        if len(lap.region_names) > 1:
            means = lap.regions.mean(axis=0) * 1e3
            parts = [
                f"{mean:.1f} L {name}" for mean, name in zip(means, lap.region_names, strict=True)
            ]
            lines.append(f"  On average {', '.join(parts)}.")
        for column, name in enumerate(lap.gate_names):
            through = float(lap.passed[-1, lap.opening_names.index(name)]) * 1e3
            lines.append(
                f"  Gate {name}: open {lap.gates_open[:, column].mean():.0%} of the time, "
                f"{through:.1f} L through it."
            )
        return lines


def _teller(duration: float, start: int, starts: int) -> tuple[Any, Callable[[LookAt], None]]:
    """A line on the error stream that says how far a run is; none where that is no terminal."""
    which = f"start {start} of {starts}" if starts > 1 else "moving oil"
    bar = tqdm(total=round(duration, 1), desc=which, unit="s", disable=None, leave=False)

    def tell(look: LookAt) -> None:
        bar.update(round(look.time, 1) - bar.n)

    return bar, tell


def _writer(path: Path) -> Callable[[bytes], None]:
    def write(record: bytes) -> None:
        path.write_bytes(record)

    return write


def run_moving(
    build: Build, log: Log, fineness: Fineness, starts: int, frames: Path | None
) -> Moving:
    """Run a build over a log from so many starts, telling how far it is."""
    forecasts = []
    for seed in range(starts):
        bar, tell = _teller(log.duration, seed + 1, starts)
        record = _writer(frames) if frames is not None and seed == 0 else None
        with bar:
            forecasts.append(
                forecast_moving(build, log, fineness, seed=seed, watch=tell, record=record)
            )
    dry = [forecast.dry_time.dry for forecast in forecasts]
    return Moving(forecasts[0], dry_time_spread(dry))
