"""Processes of one running Bilge: kept alive, found again, ended in order."""

from __future__ import annotations

import contextlib
import fcntl
import json
import os
import signal
import subprocess
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

from launch.paths import HOME, ROOT, STATE, Missing

RUN_FILE = HOME / "run.json"


@contextlib.contextmanager
def _alone(lock: Path, why_not: Callable[[], str]) -> Iterator[None]:
    lock.parent.mkdir(parents=True, exist_ok=True)
    with lock.open("w") as held:
        try:
            fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise Missing(why_not()) from None
        yield


def _runs_already() -> str:
    where = read_note().get("address", "an address that it is about to print")
    return f"Bilge runs already with the data in {HOME}, at {where}; ./bilge stop ends it"


def only_one() -> contextlib.AbstractContextManager[None]:
    """Hold the data's lock; refused while another start or restore holds it.

    Raises
    ------
    Missing
    """
    return _alone(HOME / "lock", _runs_already)


def only_one_test() -> contextlib.AbstractContextManager[None]:
    """Hold this checkout's lock for tests: two would share one database.

    Raises
    ------
    Missing
    """
    return _alone(STATE / "test-lock", lambda: f"a test of {ROOT} runs already; wait for its end")


def read_note() -> dict[str, Any]:
    """What a start left written about itself; empty when there is nothing to read."""
    try:
        note = json.loads(RUN_FILE.read_text())
    except (OSError, ValueError):
        return {}
    return note if isinstance(note, dict) else {}


def is_ours(pid: int) -> bool:
    """Whether a process id still belongs to what a start with these data left running."""
    try:
        words = Path(f"/proc/{pid}/cmdline").read_bytes().split(b"\0")
        surroundings = Path(f"/proc/{pid}/environ").read_bytes().split(b"\0")
    except OSError:
        return False
    if b"launch" in words and b"start" in words:
        return f"PYTHONPATH={ROOT}".encode() in surroundings
    if words[-2:-1] == [b"work"] or words[-1:] == [b"work"]:
        return str(ROOT / "server" / "manage.py").encode() in words
    if b"hypercorn" in words:
        return f"BILGE_HOME={HOME}".encode() in surroundings
    return f"--defaults-file={HOME / 'database' / 'my.cnf'}".encode() in words


def running_database_port() -> int | None:
    """The port of the private database of a Bilge that runs; None when none does."""
    note = read_note()
    supervisor, port = note.get("supervisor"), note.get("database_port")
    runs = isinstance(supervisor, int) and is_ours(supervisor) and isinstance(port, int)
    return port if runs else None


def end(pid: int, seconds: float) -> bool:
    """Ask a process to end and wait; whether it did."""
    if not is_ours(pid):
        return True
    os.kill(pid, signal.SIGTERM)
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        if not is_ours(pid):
            return True
        time.sleep(0.1)
    return False


def end_leftovers() -> None:
    """End what a start that was killed left behind."""
    children = read_note().get("children", [])
    for pid in children if isinstance(children, list) else []:
        if not end(int(pid), 20):
            os.kill(int(pid), signal.SIGKILL)
    RUN_FILE.unlink(missing_ok=True)


def finish(process: subprocess.Popen[Any], how: signal.Signals) -> None:
    """End a child in this way and wait for it."""
    if process.poll() is None:
        process.send_signal(how)
        process.wait()


class Kept:
    """A process that is started again when it ends by itself, unless it does nothing else."""

    PAUSE = 3.0  # [s] between starts
    MOST, WITHIN = 5, 60.0  # starts, [s]

    def __init__(self, name: str, begin: Callable[[], subprocess.Popen[bytes]], log: Path) -> None:
        self._name, self._begin, self._log = name, begin, log
        self._starts = [time.monotonic()]
        self.process = begin()

    def look_after(self) -> bool:
        """Start it again when it has ended; whether that was so.

        Raises
        ------
        Missing
            If it ends again and again.
        """
        now = time.monotonic()
        if self.process.poll() is None or now - self._starts[-1] < self.PAUSE:
            return False
        self._starts = [then for then in self._starts if now - then < self.WITHIN]
        if len(self._starts) >= self.MOST:
            raise Missing(f"the {self._name} ends again and again; see {self._log}")
        print(f"bilge: the {self._name} ended by itself; starting it again", flush=True)
        self._starts.append(now)
        self.process = self._begin()
        return True


def write_note(note: dict[str, object], kept: list[Kept]) -> None:
    """For the next start, should this one be killed."""
    note["children"] = [each.process.pid for each in reversed(kept)]
    RUN_FILE.write_text(json.dumps(note))
