"""``bilge check BUILD.json LAP.csv``: the main job with no server and no database."""

from __future__ import annotations

import argparse
import io
import sys
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from bilge_core.cli.arguments import arguments
from bilge_core.cli.drained import drained
from bilge_core.cli.report import report
from bilge_core.document.build import Build
from bilge_core.document.export import unpacked
from bilge_core.document.read import read_build
from bilge_core.errors import BilgeError, InvalidInput, Problem
from bilge_core.forecast import forecast_settled
from bilge_core.loads.channels import CHANNELS, ChannelName
from bilge_core.loads.facts import log_facts
from bilge_core.loads.guesses import complete
from bilge_core.loads.importing import read_columns
from bilge_core.loads.laps import SHORTEST_LAP, LapSpan, find_laps
from bilge_core.loads.log import Log, prepare
from bilge_core.loads.mdf import is_mdf, write_as_text
from bilge_core.loads.reading import Column, Reading
from bilge_core.loads.recording import recording_from, wanted_headings
from bilge_core.loads.sniff import LogFile, open_log

if TYPE_CHECKING:  # compiled loops that settled oil needs none of
    from bilge_core.cli.moving import Moving

EXIT_SAFE, EXIT_NOT_SAFE, EXIT_BAD_INPUT = 0, 1, 2
LARGEST_FILE = 200 * 1024 * 1024
_MOST_STARTS = 50


def _read(path: Path) -> bytes:
    try:
        if path.stat().st_size > LARGEST_FILE:
            raise InvalidInput([Problem(str(path), "is larger than 200 MB; export one lap")])
        return path.read_bytes()
    except OSError as error:
        reason = error.strerror or "cannot be read"
        raise InvalidInput([Problem(str(path), f"cannot be read: {reason.lower()}")]) from None


def _as_text(data: bytes) -> bytes:
    """A measurement file as the table of text that is read; any other as it is."""
    if not is_mdf(data):
        return data
    text = io.BytesIO()
    write_as_text(data, text)
    return text.getvalue()


def _pairs(words: list[str], option: str) -> dict[str, str]:
    pairs = dict(word.partition("=")[::2] for word in words)
    for name in pairs:
        if name not in CHANNELS:
            raise InvalidInput(
                [Problem(option, f"{name!r} is no channel; use one of {', '.join(CHANNELS)}")]
            )
    return pairs


def _reading(file: LogFile, options: argparse.Namespace) -> Reading:
    headings, units = _pairs(options.column, "--column"), _pairs(options.unit, "--unit")
    columns: dict[ChannelName, Column] = {}
    for name in CHANNELS:
        proposed = file.proposal.columns.get(name)
        heading = headings.get(name) or (proposed.heading if proposed else None)
        if heading is None:
            continue
        unit = units.get(name) or (proposed.unit if proposed else "")
        positive = getattr(options, f"positive_{name}", None) or (
            proposed.positive if proposed else None
        )
        columns[name] = Column.model_validate(
            {"heading": heading, "unit": unit, "positive": positive}
        )
    if options.rate is not None and not 0.5 <= options.rate <= 100_000:
        raise InvalidInput([Problem("--rate", f"{options.rate:g} is no rate; give 0.5 to 100000")])
    rate = options.rate or file.proposal.sample_rate_hz
    return Reading(columns=columns, sample_rate_hz=rate)


def _moving(options: argparse.Namespace, build: Build, log: Log) -> Moving | None:
    if options.slosh is None:
        for given, name in ((options.starts != 1, "--starts"), (options.frames, "--frames")):
            if given:
                raise InvalidInput([Problem(name, "needs --slosh quick, bench or fine beside it")])
        return None
    if not 1 <= options.starts <= _MOST_STARTS:
        raise InvalidInput([Problem("--starts", f"must be 1 to {_MOST_STARTS}")])
    from bilge_core.cli.moving import run_moving  # noqa: PLC0415 - seconds of imports

    try:
        return run_moving(build, log, options.slosh, options.starts, options.frames)
    except OSError as error:
        reason = (error.strerror or "cannot be written").lower()
        raise InvalidInput([Problem(str(options.frames), f"cannot be written: {reason}")]) from None


@dataclass(frozen=True)
class _Judged:
    """The lap that is judged, and what is to be said of how it was read."""

    log: Log
    said: tuple[str, ...]


def _chosen(laps: tuple[LapSpan, ...], number: int | None) -> tuple[LapSpan, str]:
    """The lap asked for, else the quickest whole one; and which in words."""
    if number is not None:
        found = next((lap for lap in laps if lap.number == number), None)
        if found is None:
            raise InvalidInput([Problem("--lap-number", f"the file has laps 1 to {len(laps)}")])
        how = ""
    else:
        whole = [lap for lap in laps if lap.whole]
        found = min(whole, key=lambda lap: lap.duration) if whole else max(
            laps, key=lambda lap: lap.duration
        )  # fmt: skip
        how = "the quickest whole one" if whole else "the longest; none is whole"
        how = f", {how}; --lap-number N takes another"
    return found, f"Lap {found.number} of {len(laps)} in the file, {found.duration:.2f} s{how}."


def _judged(file: LogFile, options: argparse.Namespace) -> _Judged:
    reading = _reading(file, options)
    columns = read_columns(file, wanted_headings(reading))
    reading, guesses = complete(columns, reading)
    found = recording_from(columns, reading)
    if found.bad_rows and not options.leave_out_bad_rows:
        raise InvalidInput(list(found.faults))
    log = prepare(found.log)
    laps = find_laps(log, found.lap_starts)
    said = [f"Guessed: {guess.words}." for guess in guesses] + list(found.remarks)
    if options.lap_number is not None or len(laps) > 1:
        chosen, words = _chosen(laps, options.lap_number)
        start = float(found.log.time[0])
        log = prepare(found.log.between(start + chosen.start, start + chosen.end))
        said.insert(0, words)
    if log.duration < SHORTEST_LAP:
        fault = f"lasts {log.duration:.1f} s; a lap needs at least {SHORTEST_LAP:.0f} s"
        raise InvalidInput([Problem(str(options.lap), fault)])
    return _Judged(log, tuple(said))


def check(words: list[str]) -> int:
    """Run ``bilge check`` with its words; returns the exit status."""
    options = arguments(words)
    try:
        build = read_build(unpacked(_read(options.build)).document)
        file = open_log(_as_text(_read(options.lap)))
        judged = _judged(file, options)
        log = judged.log
        settled = forecast_settled(build, log)
        moving = _moving(options, build, log)
        facts = log_facts(log)
        drains = drained(build, log)
    except InvalidInput as error:
        for problem in error.problems:
            print(f"bilge check: {problem}", file=sys.stderr)
        return EXIT_BAD_INPUT
    except BilgeError as error:
        print(f"bilge check: {error}", file=sys.stderr)
        return EXIT_BAD_INPUT
    alone = None
    if options.circuit:
        from bilge_core.cli.circuit import circuit_lines  # noqa: PLC0415 - seconds of work

        alone = circuit_lines(build, moving.forecast if moving else settled)
    if options.json:
        from bilge_core.tell.check import checked_out  # noqa: PLC0415 - seconds of imports

        told = checked_out(
            build, settled, moving.told if moving else None, facts, judged.said, drains
        )
        print(told.model_dump_json(indent=1))
    else:
        print(report(build, settled, moving, facts, judged.said, drains))
        print("\n".join(alone or []))
    is_safe = moving.is_safe if moving else settled.verdict.state != "not_safe"
    drains_well = drains is None or drains.state != "bad"
    return EXIT_SAFE if is_safe and drains_well else EXIT_NOT_SAFE
