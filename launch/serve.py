"""``./bilge start`` and ``./bilge stop``."""

from __future__ import annotations

import contextlib
import fcntl
import json
import os
import secrets
import signal
import subprocess
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from pathlib import Path
from types import FrameType
from typing import Any

from launch.database import PrivateMariaDB, free_port
from launch.paths import (
    PYTHON,
    ROOT,
    STATE,
    Missing,
    clear_compiled_code,
    compiled_code,
    digest,
    environment,
    is_done,
    mark_done,
)
from launch.system import install_packages
from launch.tools import build_web, install_python_packages, run

DEFAULT_PORT = 8750
DEMO_USER = "dunlin"
_RUN_FILE = STATE / "run.json"


class _Stop(Exception):
    """The user asked to end."""


def _asked_to_stop(signum: int, frame: FrameType | None) -> None:
    raise _Stop


@contextlib.contextmanager
def _only_one() -> Iterator[None]:
    STATE.mkdir(exist_ok=True)
    with (STATE / "lock").open("w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            note = _read_run_file()
            where = note.get("address", "an address that it is about to print")
            raise Missing(
                f"Bilge runs already from this folder, at {where}; ./bilge stop ends it"
            ) from None
        yield


def _read_run_file() -> dict[str, object]:
    try:
        note = json.loads(_RUN_FILE.read_text())
    except (OSError, ValueError):
        return {}
    return note if isinstance(note, dict) else {}


def _secrets() -> dict[str, str]:
    file = STATE / "secrets.json"
    if not file.exists():
        file.touch(mode=0o600)
        words = ("rail", "gate", "bell", "plate", "drain", "skirt", "gallery", "spanner")
        password = (
            "-".join(secrets.choice(words) for _ in range(3)) + f"-{secrets.randbelow(9000) + 1000}"
        )
        file.write_text(
            json.dumps({"secret_key": secrets.token_urlsafe(48), "demo_password": password})
        )
    kept = json.loads(file.read_text())
    return {"BILGE_SECRET_KEY": kept["secret_key"], "BILGE_DEMO_PASSWORD": kept["demo_password"]}


def _is_ours(pid: int) -> bool:
    """Whether a process id still belongs to what a start of this folder left running."""
    try:
        words = Path(f"/proc/{pid}/cmdline").read_bytes().split(b"\0")
        surroundings = Path(f"/proc/{pid}/environ").read_bytes().split(b"\0")
    except OSError:
        return False
    if b"launch" in words and b"start" in words:
        return f"PYTHONPATH={ROOT}".encode() in surroundings
    if words[-2:-1] == [b"work"] or words[-1:] == [b"work"]:
        return str(ROOT / "server" / "manage.py").encode() in words
    if b"gunicorn" in words:
        return str(STATE).encode() in words  # the folder of its workers' heartbeats
    return f"--defaults-file={STATE / 'database' / 'my.cnf'}".encode() in words


def _end(pid: int, seconds: float) -> bool:
    """Ask a process to end and wait; whether it did."""
    if not _is_ours(pid):
        return True
    os.kill(pid, signal.SIGTERM)
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        if not _is_ours(pid):
            return True
        time.sleep(0.1)
    return False


def _end_leftovers() -> None:
    """End what a start that was killed left behind."""
    children = _read_run_file().get("children", [])
    for pid in children if isinstance(children, list) else []:
        if not _end(int(pid), 20):
            os.kill(int(pid), signal.SIGKILL)
    _RUN_FILE.unlink(missing_ok=True)


def _migrate(env: dict[str, str]) -> None:
    made = (STATE / "database" / "installed").stat().st_mtime_ns  # a new database is empty
    inputs = f"{digest(ROOT / 'server', ROOT / 'demo', ROOT / 'core')} {made}"
    if is_done("migrated", inputs):
        return
    print("bilge: preparing the database and the demo", flush=True)
    run(
        "migrating the database", [PYTHON, ROOT / "server" / "manage.py", "migrate", "-v0"], env=env
    )
    run(
        "loading the demo", [PYTHON, ROOT / "server" / "manage.py", "load_demo", DEMO_USER], env=env
    )
    mark_done("migrated", inputs)


_WARM_UP = "from bilge_core.warm import warm_up, warm_up_moving; warm_up(); warm_up_moving()"


def _begin_to_compile() -> subprocess.Popen[str] | None:
    """Compile the solver for this state of the core, beside what else is to be prepared."""
    if is_done("compiled", str(compiled_code())):
        return None
    return subprocess.Popen(
        [str(PYTHON), "-c", _WARM_UP],
        env=environment(), stdin=subprocess.DEVNULL, stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT, text=True,
    )  # fmt: skip


def _await_compiler(compiler: subprocess.Popen[str] | None) -> None:
    """Nobody is to wait for it later, in the middle of the work."""
    if compiler is None:
        return
    if compiler.poll() is None:
        print("bilge: compiling the solver, once for each state of it", flush=True)
    said, _ = compiler.communicate()
    if compiler.returncode:
        raise Missing(f"the solver could not be compiled:\n{said[-3000:]}")
    mark_done("compiled", str(compiled_code()))


def _gunicorn(port: int, env: dict[str, str]) -> subprocess.Popen[bytes]:
    log = (STATE / "server.log").open("ab")
    return subprocess.Popen(
        [str(PYTHON), "-m", "gunicorn", "config.wsgi:application", "--bind", f"127.0.0.1:{port}",
         "--workers", "2", "--threads", "4", "--timeout", "120", "--preload",
         "--worker-tmp-dir", str(STATE), "--chdir", str(ROOT / "server"), "--no-control-socket"],
        env=env, stdin=subprocess.DEVNULL, stdout=log, stderr=log, start_new_session=True,
    )  # fmt: skip


def _worker(env: dict[str, str]) -> subprocess.Popen[bytes]:
    log = (STATE / "worker.log").open("ab")
    return subprocess.Popen(
        [str(PYTHON), str(ROOT / "server" / "manage.py"), "work"],
        env=env, stdin=subprocess.DEVNULL, stdout=log, stderr=log, start_new_session=True,
    )  # fmt: skip


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


def _write_down(note: dict[str, object], kept: list[Kept]) -> None:
    """For the next start, should this one be killed."""
    note["children"] = [each.process.pid for each in reversed(kept)]
    _RUN_FILE.write_text(json.dumps(note))


def _await_answer(address: str, server: subprocess.Popen[bytes]) -> None:
    for _ in range(600):
        if server.poll() is not None:
            break
        with contextlib.suppress(urllib.error.URLError, OSError):
            urllib.request.urlopen(f"{address}/api/health", timeout=5).read()
            return
        time.sleep(0.1)
    tail = (STATE / "server.log").read_text(errors="replace")[-1500:]
    raise Missing(f"the web server did not come up:\n{tail}")


def _finish(process: subprocess.Popen[Any], how: signal.Signals) -> None:
    if process.poll() is None:
        process.send_signal(how)
        process.wait()


def _ready_for(port: int) -> int:
    """Tidy up after the last start and install what is missing; the port, which is free.

    Raises
    ------
    Missing
        If something cannot be installed, or the port is taken.
    """
    _end_leftovers()
    install_packages(for_tests=False)
    install_python_packages()
    clear_compiled_code()
    if free_port(port) != port:
        raise Missing(f"port {port} is taken; choose another: ./bilge start --port 8751")
    return port


def start(port: int | None) -> int:
    """Install what is missing, start everything, serve until told to stop."""
    for asked in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(asked, _asked_to_stop)
    database = PrivateMariaDB(STATE / "database")
    compiler: subprocess.Popen[str] | None = None
    server: Kept | None = None
    worker: Kept | None = None
    with _only_one():
        try:
            wanted = _ready_for(port or DEFAULT_PORT)
            compiler = _begin_to_compile()
            build_web()
            database.start()
            assert database.process is not None
            env = environment(**database.environment(), **_secrets())
            address = f"http://127.0.0.1:{wanted}"
            note = {
                "supervisor": os.getpid(),
                "address": address,
                "database_port": database.port,
                "children": [database.process.pid],
            }
            _RUN_FILE.write_text(json.dumps(note))
            _migrate(env)
            _await_compiler(compiler)
            server = Kept("web server", lambda: _gunicorn(wanted, env), STATE / "server.log")
            worker = Kept("worker", lambda: _worker(env), STATE / "worker.log")
            kept = [Kept("database", database.again, database.folder / "error.log"), server, worker]
            _write_down(note, kept)
            _await_answer(address, server.process)
            print(f"\nBilge is at {address}", flush=True)
            print(f"Demo sign-in: {DEMO_USER} / {env['BILGE_DEMO_PASSWORD']}", flush=True)
            print("Ctrl-C or ./bilge stop ends it.", flush=True)
            while True:
                time.sleep(0.5)
                started_again = [each for each in kept if each.look_after()]
                if started_again:
                    _write_down(note, kept)
        except _Stop:
            print("\nbilge: stopping", flush=True)
            return 0
        finally:
            for asked in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
                signal.signal(asked, signal.SIG_IGN)
            if compiler is not None:
                _finish(compiler, signal.SIGKILL)
            if worker is not None:  # a run that it holds is put back when its lease is over
                _finish(worker.process, signal.SIGKILL)
            if server is not None:
                _finish(server.process, signal.SIGTERM)
            database.stop()
            _RUN_FILE.unlink(missing_ok=True)


def stop() -> int:
    """End a running start, and whatever a killed one left behind."""
    note = _read_run_file()
    supervisor = note.get("supervisor")
    if isinstance(supervisor, int) and _is_ours(supervisor):
        if not _end(supervisor, 60):
            raise Missing(f"process {supervisor} does not end; look at {STATE / 'server.log'}")
        print("bilge: stopped")
        return 0
    _end_leftovers()
    print("bilge: was not running" if not note else "bilge: ended what was left over")
    return 0


def open_account(username: str, workshop: str) -> int:
    """Make a sign-in in a running Bilge; asks for the password."""
    note = _read_run_file()
    supervisor, port = note.get("supervisor"), note.get("database_port")
    if not (isinstance(supervisor, int) and _is_ours(supervisor) and isinstance(port, int)):
        raise Missing("Bilge is not running; ./bilge start first, then this in a second terminal")
    database = PrivateMariaDB(STATE / "database")
    database.port = port
    env = environment(**database.environment(), **_secrets())
    command = [PYTHON, ROOT / "server" / "manage.py", "open_account", username, workshop]
    return subprocess.run([str(word) for word in command], env=env).returncode
