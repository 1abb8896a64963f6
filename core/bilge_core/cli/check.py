"""``bilge check BUILD.json LAP.csv``: the main job with no server and no database."""

from __future__ import annotations

import argparse
import io
import json
import math
import sys
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, Any

from bilge_core import MODEL_VERSION
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.errors import BilgeError, InvalidInput, Problem
from bilge_core.forecast import Dip, SettledForecast, forecast_settled
from bilge_core.forecast.settled import model_note
from bilge_core.forecast.verdict import dip_words
from bilge_core.loads.channels import CHANNELS, POSITIVE_WORDS, ChannelName
from bilge_core.loads.facts import LogFacts, log_facts
from bilge_core.loads.guesses import complete
from bilge_core.loads.importing import read_columns
from bilge_core.loads.laps import SHORTEST_LAP, LapSpan, find_laps
from bilge_core.loads.log import Log, prepare
from bilge_core.loads.mdf import is_mdf, write_as_text
from bilge_core.loads.reading import Column, Reading
from bilge_core.loads.recording import recording_from, wanted_headings
from bilge_core.loads.sniff import LogFile, open_log
from bilge_core.moving import FINENESSES
from bilge_core.settled import CoverRose, cover_rose

if TYPE_CHECKING:  # compiled loops that settled oil needs none of
    from bilge_core.cli.moving import Moving

EXIT_SOUND, EXIT_RUNS_DRY, EXIT_BAD_INPUT = 0, 1, 2
LARGEST_FILE = 200 * 1024 * 1024
_MOST_STARTS = 50


def _arguments(words: list[str]) -> argparse.Namespace:
    parser = argparse.ArgumentParser(
        prog="bilge check",
        description="When, where and for how long the pickup runs dry on a logged lap.",
        epilog="Exit status: 0 does not run dry, 1 runs dry, 2 bad input.",
    )
    parser.add_argument("build", type=Path, metavar="BUILD.json", help="a build document")
    parser.add_argument(
        "lap", type=Path, metavar="LAP.csv", help="a logged lap, or a recording of several"
    )
    parser.add_argument("--json", action="store_true", help="print all figures as JSON")
    parser.add_argument(
        "--column",
        action="append",
        default=[],
        metavar="CHANNEL=HEADING",
        help=f"which column is what; channels: {', '.join(CHANNELS)}",
    )
    parser.add_argument(
        "--unit", action="append", default=[], metavar="CHANNEL=UNIT", help="such as speed=km/h"
    )
    for name, choices in POSITIVE_WORDS.items():
        parser.add_argument(
            f"--positive-{name.replace('_', '-')}",
            choices=choices,
            help=f"what a positive {CHANNELS[name].label} means, when its heading does not say",
        )
    parser.add_argument(
        "--rate", type=float, metavar="HZ", help="rows a second, where no column tells the time"
    )
    parser.add_argument(
        "--lap-number", type=int, metavar="N", help="which lap of a recording of several"
    )
    parser.add_argument(
        "--leave-out-bad-rows",
        action="store_true",
        help="go on without rows that cannot be read, instead of refusing the file",
    )
    parser.add_argument(
        "--slosh",
        choices=FINENESSES,
        help="let the oil move, in cells of about 22 x 22 x 7 mm (quick), 10 mm or 8 mm",
    )
    parser.add_argument(
        "--starts",
        type=int,
        default=1,
        metavar="N",
        help="with --slosh: run N slightly different starts, for dry time with its spread",
    )
    parser.add_argument(
        "--frames", type=Path, metavar="FILE", help="with --slosh: put the moving oil on record"
    )
    return parser.parse_args(words)


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


def _dip_figures(dip: Dip) -> dict[str, Any]:
    return {
        "start_s": round(dip.start, 3),
        "end_s": round(dip.end, 3),
        "dry_s": round(dip.dry, 3),
        "worst_s": round(dip.worst, 3),
        "least_cover_mm": round(dip.cover * 1e3, 1),
        "load_g": round(dip.load, 3),
        "side_g": round(dip.side_g, 3),
        "fore_g": round(dip.fore_g, 3),
        "corner": dip.corner,
        "turning": dip.hand,
        "place": dip.place,
    }


def _figures(
    settled: SettledForecast,
    moving: Moving | None,
    facts: LogFacts,
    rose: CoverRose,
    said: tuple[str, ...],
) -> dict[str, Any]:
    result = moving.forecast if moving else settled
    pan = result.pan
    figures = {
        "model": MODEL_VERSION,
        "model_note": moving.note if moving else model_note(pan),
        "verdict": {
            "state": result.verdict.state,
            "headline": result.verdict.headline,
            "sentence": result.verdict.sentence,
        },
        "dry_s": round(result.dry_time.dry, 3),
        "draws_air_s": round(result.dry_time.draws_air, 3),
        "dips": [_dip_figures(dip) for dip in result.dry_time.dips],
        "oil_in_pan_l": round(pan.oil_volume * 1e3, 3),
        "capacity_to_rail_l": round(pan.capacity_to_rail * 1e3, 3),
        "standing_cover_mm": round(settled.standing.cover * 1e3, 1),
        "least_cover_mm": round(result.least_cover * 1e3, 1),
        "least_cover_at_s": round(result.least_cover_at, 3),
        "rose": [
            {
                "oil_thrown_deg": round(math.degrees(angle), 1),
                "dry_from_g": round(edge, 3) if edge <= rose.limit else None,
            }
            for angle, edge in zip(rose.directions.tolist(), rose.edge.tolist(), strict=True)
        ],
        "lap": {"read": said, "sentences": facts.sentences, "doubts": facts.doubts},
        "samples": {
            "time_s": result.log.time.round(3).tolist(),
            "cover_mm": (result.lap.cover * 1e3).round(2).tolist(),
            "gas_share": result.lap.gas_share.round(4).tolist(),
        },
    }
    return figures | ({"moving": moving.figures()} if moving else {})


def _least_words(cover: float, moves: bool) -> str:
    """Moving oil that has left the mouth may be anywhere: how far is only said of settled oil."""
    if moves and cover < 0.0:
        return "bare on the lap"
    return f"least on the lap {cover * 1e3:.0f} mm"


def _report(
    name: str,
    settled: SettledForecast,
    moving: Moving | None,
    facts: LogFacts,
    said: tuple[str, ...],
) -> str:
    result = moving.forecast if moving else settled
    lines = [f"{name}: {result.verdict.headline}. {result.verdict.sentence}", ""]
    lines += [f"  {sentence}" for sentence in (*said, *facts.sentences)]
    lines += [f"  CHECK: {doubt}" for doubt in facts.doubts]
    pan = result.pan
    lines += [
        "",
        f"  Oil in the pan, hot: {pan.oil_volume * 1e3:.1f} L of "
        f"{pan.capacity_to_rail * 1e3:.1f} L to the rail.",
        f"  Mouth covered by {settled.standing.cover * 1e3:.0f} mm standing; "
        f"{_least_words(result.least_cover, moves=moving is not None)}, "
        f"at {result.least_cover_at:.1f} s.",
        f"  Dry for {result.dry_time.dry:.1f} s, "
        f"draws air for {result.dry_time.draws_air:.1f} s of {result.log.duration:.1f} s.",
    ]
    if moving:
        lines += moving.lines(settled)
    if result.dry_time.dips:
        lines += ["", "  Dips, worst first:"]
        lines += [
            f"  {rank:3d}. at {dip.start:5.1f} s: {dip_words(dip)}"
            for rank, dip in enumerate(result.dry_time.dips, start=1)
        ]
    lines += [
        "",
        f"  {moving.note if moving else model_note(result.pan)}",
        "  Estimates to plan by, not a guarantee: keep a pressure gauge.",
    ]
    return "\n".join(lines)


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
    options = _arguments(words)
    try:
        build = read_build(_read(options.build))
        file = open_log(_as_text(_read(options.lap)))
        judged = _judged(file, options)
        log = judged.log
        settled = forecast_settled(build, log)
        moving = _moving(options, build, log)
        facts = log_facts(log)
        rose = cover_rose(settled.pan, build.car)
    except InvalidInput as error:
        for problem in error.problems:
            print(f"bilge check: {problem}", file=sys.stderr)
        return EXIT_BAD_INPUT
    except BilgeError as error:
        print(f"bilge check: {error}", file=sys.stderr)
        return EXIT_BAD_INPUT
    if options.json:
        print(json.dumps(_figures(settled, moving, facts, rose, judged.said), indent=1))
    else:
        print(_report(build.name, settled, moving, facts, judged.said))
    result = moving.forecast if moving else settled
    return EXIT_RUNS_DRY if result.dry_time.dips else EXIT_SOUND
