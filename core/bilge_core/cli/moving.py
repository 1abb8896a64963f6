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
    forecast_moving,
    moving_note,
    spread_of_starts,
)
from bilge_core.loads.log import Log
from bilge_core.moving import Fineness
from bilge_core.moving.seen import LookAt
from bilge_core.rules.crank import SPLASH


@dataclass(frozen=True)
class Moving:
    """Runs in moving oil: the first start's, and what all starts have in common."""

    forecast: MovingForecast
    spread: Spread

    @property
    def note(self) -> str:
        """Which model it is."""
        return moving_note(self.forecast.fineness)

    @property
    def is_safe(self) -> bool:
        """Whether no start is judged not safe."""
        return self.forecast.verdict.state != "not_safe" and self.spread.holds

    def _pressure(self) -> list[str]:
        pressure = self.forecast.pressure
        low, high = pressure.band or (pressure.lowest, pressure.lowest)
        lines = [
            f"  Gallery: {pressure.lowest / 1e5:.1f} bar at {pressure.lowest_at:.1f} s, where "
            f"{pressure.usual / 1e5:.1f} is usual and under {pressure.wanted / 1e5:.1f} were a "
            f"dip; {min(low, high) / 1e5:.1f} to {max(low, high) / 1e5:.1f} by how far the pump "
            "slips on gas.",
            f"  Under 10 psi for every 1000 rpm for {pressure.under_line:.1f} s.",
        ]
        if len(self.spread.under) > 1:
            dips = sum(under > 0.0 for under in self.spread.under)
            lines.append(
                "  Holds: no start has a pressure dip."
                if self.spread.holds
                else f"  Does not hold: {dips} of {len(self.spread.under)} starts have a pressure "
                "dip."
            )
        return lines

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
        lines += self._pressure()
        if lap.crank_time() > 0.0:
            lines.append(
                f"  Oil reaches the crank's sweep for {lap.crank_time():.1f} s, "
                f"at most {lap.crank.max() * 1e3:.1f} L of it."
            )
        thrown = self.forecast.windage
        if thrown is not None and thrown.reached > SPLASH.most:
            lines.append(
                f"  The crank throws about {thrown.thrown.likely * 1e3:.1f} L/s and spends "
                f"{thrown.power.low / 1e3:.1f} to {thrown.power.high / 1e3:.1f} kW on it: our own "
                "estimate, good for comparing pans."
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
    under = [forecast.pressure.under for forecast in forecasts]
    return Moving(forecasts[0], spread_of_starts(dry, under))
