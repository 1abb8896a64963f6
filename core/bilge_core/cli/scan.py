"""``bilge scan INSIDE.stl``: a closed mesh of a pan's inside as zones of a build document."""

from __future__ import annotations

import argparse
import json
import resource
import sys
from pathlib import Path

from bilge_core.errors import InvalidInput
from bilge_core.scan.mesh_file import METRES, THINNER, refused
from bilge_core.scan.placed import AXES
from bilge_core.tell.scanned import ScannedOut, scan_asked, scanned_out

_GRACE = 10  # [s] of a processor after which one that goes on all the same is killed (ours)


def _options() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="bilge scan",
        description="A closed mesh of a pan's inside (STL, 3MF, OBJ) as zones of a build document.",
    )
    parser.add_argument("file", type=Path, help="the mesh")
    parser.add_argument("--name", help="what the file is called, where its own name has no ending")
    parser.add_argument("--unit", choices=sorted(METRES), default="mm")
    parser.add_argument("--up", choices=AXES, default="guess", help="from the floor to the rail")
    parser.add_argument("--nose", choices=AXES, default="guess", help="where the crank's nose is")
    parser.add_argument(
        "--point", action="append", default=[], metavar="X,Y,Z",
        help="of the rail, three times: rear right, rear left, one ahead",
    )  # fmt: skip
    parser.add_argument("--memory", type=float, metavar="GB", help="take no more than this")
    parser.add_argument("--seconds", type=int, metavar="S", help="of a processor, and no more")
    parser.add_argument("--json", action="store_true", help="print the zones as JSON")
    return parser


def _words(told: ScannedOut) -> str:
    return (
        f"{told.triangles:,} triangles, {told.volume_l:.2f} L to the rail; as {len(told.zones)} "
        f"zones of {told.pieces} pieces {told.kept_l:.2f} L, floors within {told.off_mm:.1f} mm\n"
        f"{told.long_mm:.0f} x {told.wide_mm:.0f} x {told.deep_mm:.0f} mm"
    )


def _refused(error: InvalidInput, as_json: bool) -> int:
    if as_json:
        sys.stdout.write(json.dumps([[each.field, each.message] for each in error.problems]))
    else:
        sys.stderr.write(f"bilge scan: {error}\n")
    return 2


def scan(words: list[str]) -> int:
    """Run it; 0, or 2 for bad input."""
    options = _options().parse_args(words)
    if options.memory:
        most = int(options.memory * 1e9)
        resource.setrlimit(resource.RLIMIT_AS, (most, most))
    if options.seconds:
        resource.setrlimit(resource.RLIMIT_CPU, (options.seconds, options.seconds + _GRACE))
    try:
        asked = scan_asked(
            {"unit": options.unit, "up": options.up, "nose": options.nose, "points": options.point}
        )
        told = scanned_out(options.file.read_bytes(), options.name or options.file.name, asked)
    except InvalidInput as error:
        return _refused(error, options.json)
    except MemoryError:
        return _refused(
            refused("file", f"needs more memory than there is: {THINNER}"), options.json
        )
    except OSError as error:
        sys.stderr.write(f"bilge scan: {options.file}: {error.strerror}\n")
        return 2
    sys.stdout.write(told.model_dump_json() if options.json else f"{_words(told)}\n")
    return 0
