"""The words of ``bilge check``."""

from __future__ import annotations

import argparse
from pathlib import Path

from bilge_core.loads.channels import CHANNELS, POSITIVE_WORDS
from bilge_core.moving import FINENESSES


def arguments(words: list[str]) -> argparse.Namespace:
    """The options that the words ask for; ends the program where they cannot be read."""
    parser = argparse.ArgumentParser(
        prog="bilge check",
        description="When, where and for how long the pickup runs dry on a logged lap.",
        epilog="Exit status: 0 sound or with caution, 1 not safe, 2 bad input.",
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
        "--circuit",
        action="store_true",
        help="run the circuit alone over the lap, and say what each guess in it moves",
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
