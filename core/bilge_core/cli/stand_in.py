"""``bilge stand-in BUILD.json LAP.csv``: a session of a car that is not there, its truth known."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path

import numpy as np

from bilge_core.agreement.sensor_shown import Shown
from bilge_core.agreement.stand_in import Truth, as_csv, stand_in_laps, with_less_oil
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.errors import BilgeError, InvalidInput, Problem
from bilge_core.forecast.moving import forecast_moving
from bilge_core.forecast.on_record import Record
from bilge_core.loads.log import Log, at_times, prepare
from bilge_core.loads.recording import read_log
from bilge_core.loads.sniff import open_log

_RANGES = {"laps": (1, 60), "rate": (1.0, 100.0), "lag": (0.0, 2.0), "leak_mm": (0.0, 10.0)}


def _options() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="bilge stand-in",
        description="Write a session of a car that is not there, as its logger would: CSV.",
    )
    parser.add_argument("build", type=Path, help="build document as the forecast knows it")
    parser.add_argument("lap", type=Path, help="log of one lap that all laps are like")
    parser.add_argument("--laps", type=int, default=3)
    parser.add_argument("--rate", type=float, default=50.0, help="readings a second")
    parser.add_argument("--lag", type=float, default=0.09, help="of the pressure sensor, s")
    parser.add_argument("--leak-mm", type=float, default=0.0, help="hole at the pickup's joint")
    parser.add_argument(
        "--oil-less-l", type=float, default=0.0, help="oil that is held up more than thought"
    )
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--out", type=Path, help="where to write; else it is printed")
    return parser


def _checked(options: argparse.Namespace) -> None:
    for name, (least, most) in _RANGES.items():
        value = getattr(options, name)
        if not least <= value <= most:
            flag = "--" + name.replace("_", "-")
            raise InvalidInput([Problem(flag, f"must be {least:g} to {most:g}")])


def session_of(
    build: Build, log: Log, truth: Truth, laps: int, oil_less: float, seed: int
) -> tuple[Log, ...]:
    """Laps of a session, its oil in motion; `oil_less` is in litres."""
    true = with_less_oil(build, oil_less)
    found = forecast_moving(true, log)
    record = Record.of_looks(found.lap.time, found.lap.mouth.swallowed)
    step = 1.0 / truth.shown.rate
    seen = at_times(log, np.arange(log.time[0], log.time[-1] + 1e-6, step))
    return stand_in_laps(true, seen, record, truth, laps, seed)


def stand_in(words: list[str]) -> int:
    """Run the command.

    Returns
    -------
    int
        0 when the session was written, 2 when something given was wrong.
    """
    options = _options().parse_args(words)
    try:
        _checked(options)
        build = read_build(options.build.read_text(encoding="utf-8"))
        file = open_log(options.lap)
        log = prepare(read_log(file, file.proposal))
        truth = Truth(Shown(options.lag, options.rate), options.leak_mm * 1e-3)
        text = as_csv(session_of(build, log, truth, options.laps, options.oil_less_l, options.seed))
        if options.out is None:
            sys.stdout.write(text)
        else:
            options.out.write_text(text, encoding="utf-8")
    except OSError as error:
        print(f"bilge stand-in: {error.filename}: {error.strerror}", file=sys.stderr)
        return 2
    except BilgeError as error:
        print(f"bilge stand-in: {error}", file=sys.stderr)
        return 2
    return 0
