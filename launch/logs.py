"""Log files that do not grow for ever."""

from __future__ import annotations

import shutil
from pathlib import Path

from launch.paths import HOME

MOST_BYTES = 5_000_000
KEPT = 3
"""Older ones beside the one that is written."""

SERVER, WORKER = HOME / "server.log", HOME / "worker.log"


def rotate(log: Path) -> None:
    """Put a log that has grown too large aside and begin it anew.

    It is copied and emptied in place: whoever writes to it holds it open and adds at its end.
    """
    if not log.exists() or log.stat().st_size <= MOST_BYTES:
        return
    for number in range(KEPT, 1, -1):
        older = log.with_name(f"{log.name}.{number - 1}")
        if older.exists():
            older.replace(log.with_name(f"{log.name}.{number}"))
    shutil.copyfile(log, log.with_name(f"{log.name}.1"))
    with log.open("r+b") as emptied:
        emptied.truncate(0)
