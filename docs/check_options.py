"""Measures what docs/options.md says of windows, scatter and the choice, and prints its tables.

PYTHONPATH=core:server:. .bilge/venv/bin/python -m docs.check_options

After it which: windows, sketch, scatter, choice; nothing: all of them.
"""

from __future__ import annotations

import sys
import time
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context

import numpy as np
from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.forecast.dips import stretches_above
from bilge_core.forecast.in_windows import InWindows
from bilge_core.forecast.windows import left_out
from bilge_core.loads.corners import find_corners
from bilge_core.loads.log import Log
from bilge_core.loads.log import prepare as evenly
from bilge_core.moving.basin import RESOLUTIONS, Resolution
from bilge_core.options.candidate import Prices
from bilge_core.options.choice import choose
from bilge_core.options.ladder import Failed, Trial, next_trials
from bilge_core.options.prepared import Prepared, prepare
from bilge_core.options.trial import (
    BaseLap,
    InTheWindows,
    Outcome,
    base_lap,
    lap_outcome,
    of_windows,
    record_outcome,
    settled_outcome,
)
from bilge_core.physics.gravity import STANDARD_GRAVITY
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.rules.air import RUNS_DRY
from scipy.stats import kendalltau

from tests.conftest import DEMO, open_log, read_log

_SKETCH = Resolution("quick", 0.027, 0.007, 0.02)
"""Half the cost of quick cells; never run by the ladder."""

_TRIED: dict[str, list[dict[str, object]]] = {
    "0.5 L more": [{"kind": "refill", "to_l": 6.7}],
    "1 L more": [{"kind": "refill", "to_l": 7.2}],
    "1.5 L more": [{"kind": "refill", "to_l": 7.7}],
    "three gates, lid": [{"kind": "fit_gates"}],
    "three gates, open": [{"kind": "fit_gates", "lid": False}],
    "two gates, lid": [{"kind": "fit_gates", "gates": 2}],
    "four gates, lid": [{"kind": "fit_gates", "gates": 4}],
    "three gates, lid, 1 L": [{"kind": "fit_gates"}, {"kind": "refill", "to_l": 7.2}],
    "level plate 86 mm": [{"kind": "fit_level_plate", "depth_mm": 86.0}],
    "side plates": [{"kind": "fit_side_plates"}],
    "tray": [{"kind": "fit_tray"}],
    "pickup 30 mm right": [{"kind": "move_pickup", "left_mm": -30.0}],
    "pickup 30 mm left": [{"kind": "move_pickup", "left_mm": 30.0}],
    "spacer, filled": [{"kind": "spacer", "by_mm": 19.0}, {"kind": "refill", "to_l": 8.0}],
}


def _build(name: str = "dunlin") -> Build:
    return read_build((DEMO / f"{name}.json").read_text())


def _with(build: Build, acts: list[dict[str, object]]) -> Build:
    for raw in acts:
        build = read_act(raw).done(build).build
    return build


def _lap(name: str) -> Log:
    file = open_log((DEMO / f"{name}.csv").read_bytes())
    return evenly(read_log(file, file.proposal))


def hill_climb(seconds: float = 60.0, seed: int = 4) -> Log:
    """A climb of unlike corners: loads 0.6 to 1.3 g for 0.8 to 3 s, braking before, power after."""
    chance = np.random.default_rng(seed)
    time_ = np.arange(0.0, seconds, 0.02)
    side, fore, rpm = (np.zeros(len(time_)) for _ in range(3))
    at, hand = 2.0, 1.0
    rpm[:] = 4500.0
    while at < seconds - 5.0:
        brakes, lasts = chance.uniform(0.4, 1.2), chance.uniform(0.8, 3.0)
        hand = -hand if chance.random() < 0.7 else hand
        load = chance.uniform(0.6, 1.3)
        fore[(time_ >= at) & (time_ < at + brakes)] = -chance.uniform(0.6, 1.1)
        turn = (time_ >= at + brakes) & (time_ < at + brakes + lasts)
        side[turn] = hand * load
        out = (time_ >= at + brakes + lasts) & (time_ < at + brakes + lasts + 1.2)
        fore[out], rpm[out] = 0.45, 6200.0
        at += brakes + lasts + chance.uniform(1.0, 2.5)
    rows = np.ones(9) / 9.0  # a car takes 0.2 s to build up a load
    side, fore, rpm = (np.convolve(each, rows, "same") for each in (side, fore, rpm))
    gravity = STANDARD_GRAVITY
    speed = np.asarray(speed_of_rpm(np.maximum(rpm, 3000.0)))
    return evenly(Log(time_, np.full(len(time_), 25.0), gravity * fore, gravity * side, speed))


LAPS: dict[str, Callable[[], Log]] = {
    "dry lap": lambda: _lap("saltmarsh"),
    "rain lap": lambda: _lap("saltmarsh-rain"),
    "hill climb": hill_climb,
}


def _both(given: tuple[Build, BaseLap]) -> tuple[Outcome, Outcome, float, float, float]:
    """Windows and whole lap of one remedy; what lies outside; seconds of each."""
    build, base = given
    begun = time.process_time()
    runs = InTheWindows(build, base)
    found = {number: runs.run(number) for number in range(len(runs.windows))}
    in_windows = of_windows(found, len(runs.windows))
    between = time.process_time()
    whole = base_lap(build, base.log, base.corners)
    ended = time.process_time()
    dips = stretches_above(whole.time - whole.time[0], whole.gas_share, RUNS_DRY.most)
    over = Outcome(whole.dry, whole.under, whole.share, None, 0, 0, None, 0.0, base.dry)
    missed = left_out(runs.windows, dips)
    return in_windows, over, missed, between - begun, ended - between


def windows() -> None:
    """Windows against whole laps, on three laps."""
    for name, make in LAPS.items():
        log = make()
        base = base_lap(_build(), log, find_corners(log))
        lasts = sum(each.lasts for each in base.windows(_build()))
        print(f"\n{name}: {log.duration:.0f} s, as it is dry {base.dry:.1f} s; "
              f"windows {lasts / log.duration:.0%} of it, leads counted")  # fmt: skip
        print("| remedy | dry, windows | dry, whole | without pressure | | outside | CPU s | |")
        print("|---|---|---|---|---|---|---|---|")
        with ProcessPoolExecutor(2, mp_context=get_context("fork")) as pool:
            builds = [_with(_build(), acts) for acts in _TRIED.values()]
            found = list(pool.map(_both, [(build, base) for build in builds]))
        for title, (part, whole, missed, one, other) in zip(_TRIED, found, strict=True):
            print(f"| {title} | {part.dry:.2f} | {whole.dry:.2f} | {part.under:.2f} | "
                  f"{whole.under:.2f} | {missed:.3f} | {one:.1f} | {other:.1f} |")  # fmt: skip
        dry = np.array([[part.dry, whole.dry] for part, whole, *_ in found])
        apart = dry[:, 0] - dry[:, 1]
        print(f"outside windows {np.mean([row[2] for row in found]):.3f} s on average; "
              f"dry time apart {apart.mean():+.2f} s, deviation {apart.std(ddof=1):.2f} s; "
              f"Kendall {kendalltau(*dry.T).statistic:.2f}")  # fmt: skip


def _sketched(given: tuple[Build, BaseLap]) -> tuple[float, float, float, float]:
    """Dry time over all windows in sketch cells and in quick ones; seconds of each."""
    build, base = given
    told = []
    for cells in (_SKETCH, RESOLUTIONS["quick"]):
        begun = time.process_time()
        where = base.windows(build)
        runs = InWindows(build, base.log, base.record, where, cells, base.corners)
        dry = sum(runs.run(number).dry_time.dry for number in range(len(where)))
        told.append((dry, time.process_time() - begun))
    (coarse, one), (quick, other) = told
    return coarse, quick, one, other


def sketch() -> None:
    """Sketch cells against quick ones over the windows: whether they rank remedies alike."""
    log = _lap("saltmarsh")
    base = base_lap(_build(), log, find_corners(log))
    builds = [_with(_build(), acts) for acts in _TRIED.values()]
    with ProcessPoolExecutor(2, mp_context=get_context("fork")) as pool:
        found = list(pool.map(_sketched, [(build, base) for build in builds]))
    print("| remedy | dry, sketch cells | dry, quick cells | CPU s | |")
    print("|---|---|---|---|---|")
    for title, (coarse, quick, one, other) in zip(_TRIED, found, strict=True):
        print(f"| {title} | {coarse:.2f} | {quick:.2f} | {one:.1f} | {other:.1f} |")
    dry = np.array([[coarse, quick] for coarse, quick, *_ in found])
    best = [list(np.argsort(column)[:3]) for column in dry.T]
    print(f"Kendall {kendalltau(*dry.T).statistic:.2f}; top three "
          f"{'kept' if set(best[0]) == set(best[1]) else 'not kept'}; "
          f"{dry[:, 0].mean() - dry[:, 1].mean():+.2f} s on average")  # fmt: skip


def _started(given: tuple[Build, BaseLap, int]) -> Outcome:
    return lap_outcome(given[0], given[1], seed=given[2])


def scatter() -> None:
    """What starts differ by, over whole laps."""
    log = _lap("saltmarsh")
    base = base_lap(_build(), log, find_corners(log))
    for title in ("1 L more", "three gates, lid", "two gates, lid", "pickup 30 mm right"):
        build = _with(_build(), _TRIED[title])
        with ProcessPoolExecutor(2, mp_context=get_context("fork")) as pool:
            found = list(pool.map(_started, [(build, base, seed) for seed in range(6)]))
        dry, share = (np.array([getattr(f, k) for f in found]) for k in ("dry", "share"))
        print(f"{title}: dry {dry.mean():.2f} ± {dry.std(ddof=1):.2f} s, least share "
              f"{share.mean():.3f} ± {share.std(ddof=1):.3f}")  # fmt: skip


def _tried(given: tuple[Trial, Build, BaseLap, int]) -> Outcome | Failed:
    trial, build, base, first = given
    if trial.rung == "settled":
        return settled_outcome(build, base)
    if trial.rung == "record":
        return record_outcome(build, base) or Failed("the pan would feel it")
    if trial.rung in ("worst", "windows"):
        runs = InTheWindows(build, base, trial.seed + first)
        numbers = runs.worst if trial.rung == "worst" else range(len(runs.windows))
        return of_windows({number: runs.run(number) for number in numbers}, len(runs.windows))
    return lap_outcome(build, base, trial.rung, trial.seed + first)


def _climbed(offered: tuple[Prepared, ...], base: BaseLap, first: int) -> str:
    builds = {one.candidate.key: one.candidate.build for one in offered} | {"base": base.build}
    entries = [entry for one in offered if (entry := one.entry(Prices.generic()))]
    results: dict[Trial, Outcome | Failed] = {}
    with ProcessPoolExecutor(2, mp_context=get_context("fork")) as pool:
        while wanted := next_trials(entries, results):
            given = [(t, builds[t.candidate], base, first) for t in wanted]
            results |= zip(wanted, pool.map(_tried, given), strict=True)
    titles = {one.candidate.key: one.candidate.title for one in offered}
    return choose(entries, titles, results, is_over=True).words


def choice() -> None:
    """The demo's winner from three sets of starts."""
    log = _lap("saltmarsh")
    for first in (0, 10, 20):
        base = base_lap(_build(), log, find_corners(log), first)
        begun = time.monotonic()
        words = _climbed(prepare(_build(), base), base, first)
        print(f"starts from {first}: {words} ({time.monotonic() - begun:.0f} s)")


if __name__ == "__main__":
    for each in sys.argv[1:] or ("windows", "sketch", "scatter", "choice"):
        {"windows": windows, "sketch": sketch, "scatter": scatter, "choice": choice}[each]()
