"""``./bilge start`` and ``./bilge stop``."""

from __future__ import annotations

import contextlib
import os
import shutil
import signal
import socket
import ssl
import subprocess
import time
import urllib.error
import urllib.request
from types import FrameType

from launch.address import Address, Asked, listen, settle, show
from launch.backup import keep_newest, reached_database, write_backup
from launch.database import PrivateMariaDB
from launch.given import GivenDatabase, chosen_database
from launch.keys import own_secrets
from launch.logs import SERVER, WORKER, rotate
from launch.paths import (
    HOME,
    PYTHON,
    ROOT,
    STATE,
    WARM_UP,
    Missing,
    clear_compiled_code,
    compiled_code,
    digest,
    environment,
    is_done,
    mark_done,
)
from launch.processes import (
    RUN_FILE,
    Kept,
    end,
    end_leftovers,
    finish,
    is_ours,
    only_one,
    read_note,
    write_note,
)
from launch.system import install_packages
from launch.tools import build_web, compile_python, install_python_packages, run

DEMO_USER = "dunlin"
_MANAGE = ROOT / "server" / "manage.py"
_LITTLE_ROOM_BYTES = 500e6
_BACKUPS_BEFORE_MIGRATING = 5


class _Stop(Exception):
    """The user asked to end."""


def _asked_to_stop(signum: int, frame: FrameType | None) -> None:
    raise _Stop


def backup_before_migrating(env: dict[str, str]) -> None:
    """Keep the data as they are when the tables are about to change."""
    waits = subprocess.run(
        [str(PYTHON), str(_MANAGE), "migrate", "--check", "--skip-checks"],
        env=env,
        capture_output=True,
        text=True,
    )
    if waits.returncode == 0:
        return
    folder = HOME / "backups"
    file = folder / time.strftime("bilge-%Y-%m-%d-%H%M%S.zip")
    print(f"bilge: the tables change; keeping the data as they are in {file}", flush=True)
    write_backup(file, env, with_secrets=True)
    keep_newest(folder, _BACKUPS_BEFORE_MIGRATING)


def _migrate(
    env: dict[str, str], database: PrivateMariaDB | GivenDatabase, was_new: bool, with_demo: bool
) -> None:
    made = (
        database.mark
        if isinstance(database, GivenDatabase)
        else f"{database.folder} {database.ready_mark.stat().st_mtime_ns}"
    )
    inputs = f"{digest(ROOT / 'server', ROOT / 'demo', ROOT / 'core')} {made} {with_demo}"
    if is_done("migrated", inputs):
        return
    if not was_new:
        backup_before_migrating(env)
    print("bilge: preparing the database", flush=True)
    run("migrating the database", [PYTHON, _MANAGE, "migrate", "-v0", "--skip-checks"], env=env)
    words = [] if with_demo else ["--closed"]
    run("loading the demo", [PYTHON, _MANAGE, "load_demo", DEMO_USER, *words], env=env)
    mark_done("migrated", inputs)


def begin_to_compile() -> subprocess.Popen[str] | None:
    """Compile the solver for this state of the core, beside what else is to be prepared."""
    if is_done("compiled", str(compiled_code())):
        return None
    return subprocess.Popen(
        [str(PYTHON), "-c", WARM_UP],
        env=environment(), stdin=subprocess.DEVNULL, stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT, text=True,
    )  # fmt: skip


def await_compiler(compiler: subprocess.Popen[str] | None) -> None:
    """Nobody is to wait for it later, in the middle of the work."""
    if compiler is None:
        return
    if compiler.poll() is None:
        print("bilge: compiling the solver, once for each state of it", flush=True)
    said, _ = compiler.communicate()
    if compiler.returncode:
        raise Missing(f"the solver could not be compiled:\n{said[-3000:]}")
    mark_done("compiled", str(compiled_code()))


def _web_server(
    held: socket.socket, address: Address, env: dict[str, str]
) -> subprocess.Popen[bytes]:
    tls = ["--certfile", str(address.certificate), "--keyfile", str(address.key)]
    with SERVER.open("ab") as log:
        return subprocess.Popen(
            [str(PYTHON), "-m", "hypercorn", "config.asgi:application",
             "--config", "python:config.serving", "--bind", f"fd://{held.fileno()}",
             *(tls if address.certificate else [])],
            env=env, cwd=ROOT / "server", stdin=subprocess.DEVNULL, stdout=log, stderr=log,
            start_new_session=True, pass_fds=[held.fileno()],
        )  # fmt: skip


def _cores() -> int:
    """How many workers there are: one a core that this process may use."""
    return max(1, len(os.sched_getaffinity(0)))


def _worker(env: dict[str, str]) -> subprocess.Popen[bytes]:
    with WORKER.open("ab") as log:
        return subprocess.Popen(
            [str(PYTHON), str(_MANAGE), "work"],
            env=env, stdin=subprocess.DEVNULL, stdout=log, stderr=log, start_new_session=True,
        )  # fmt: skip


def _await_answer(address: Address, server: subprocess.Popen[bytes]) -> None:
    """Only whether it answers is asked, so whose certificate it is does not matter."""
    trusting = ssl.create_default_context()
    trusting.check_hostname = False
    trusting.verify_mode = ssl.CERT_NONE
    for _ in range(600):
        if server.poll() is not None:
            break
        with contextlib.suppress(urllib.error.URLError, OSError):
            urllib.request.urlopen(f"{address.url}/api/health", timeout=5, context=trusting).read()
            return
        time.sleep(0.1)
    tail = SERVER.read_text(errors="replace")[-1500:]
    raise Missing(f"the web server did not come up:\n{tail}")


def _get_ready() -> None:
    """Tidy up after the last start and install what is missing.

    Raises
    ------
    Missing
        If something cannot be installed.
    """
    end_leftovers()
    install_packages(for_tests=False)
    install_python_packages()
    compile_python()
    clear_compiled_code()
    free = shutil.disk_usage(HOME).free
    if free < _LITTLE_ROOM_BYTES:
        print(f"bilge: little room on the disk: {free / 1e6:.0f} MB free at {HOME}", flush=True)


def _greet(address: Address, env: dict[str, str]) -> None:
    show(address, env)
    if address.asked.with_demo:
        print(f"Demo sign-in: {DEMO_USER} / {env['BILGE_DEMO_PASSWORD']}", flush=True)
    else:
        print("A sign-in of your own: ./bilge account NAME 'WORKSHOP', in a second terminal")
    if HOME != STATE:
        print(f"The data are in {HOME}", flush=True)
    print("Ctrl-C or ./bilge stop ends it.", flush=True)


class _Started:
    """All that a start brings up, ended together."""

    def __init__(self) -> None:
        self.database = chosen_database()
        self.compiler: subprocess.Popen[str] | None = None
        self.server: Kept | None = None
        self.workers: list[Kept] = []
        self.held: socket.socket | None = None
        self.note: dict[str, object] = {}
        self.kept: list[Kept] = []

    def bring_up(self, asked: Asked) -> None:
        """Prepare and start everything."""
        _get_ready()
        self.held = listen(asked)
        address = settle(asked)
        self.compiler = begin_to_compile()
        build_web()
        was_new = isinstance(self.database, PrivateMariaDB) and self.database.is_new
        self.database.start()
        env = environment(**self.database.environment(), **own_secrets(), **address.environment())
        self.note = {"supervisor": os.getpid(), "address": address.url}
        if isinstance(self.database, PrivateMariaDB):
            log = self.database.folder / "error.log"
            self.kept = [Kept("database", self.database.again, log)]
            self.note["database_port"] = self.database.port
        write_note(self.note, self.kept)
        _migrate(env, self.database, was_new, asked.with_demo)
        await_compiler(self.compiler)
        held = self.held
        held.listen(1024)
        self.server = Kept("web server", lambda: _web_server(held, address, env), SERVER)
        self.workers = [Kept("worker", lambda: _worker(env), WORKER) for _ in range(_cores())]
        self.kept += [self.server, *self.workers]
        write_note(self.note, self.kept)
        _await_answer(address, self.server.process)
        _greet(address, env)

    def look_after(self) -> None:
        """Start again what ended by itself, and keep the logs short."""
        started_again = [each for each in self.kept if each.look_after()]
        if started_again:
            write_note(self.note, self.kept)
        for log in (SERVER, WORKER):
            rotate(log)

    def end(self) -> None:
        """End everything, the database last."""
        if self.compiler is not None:
            finish(self.compiler, signal.SIGKILL)
        for worker in self.workers:  # a run that it holds is put back when its lease is over
            finish(worker.process, signal.SIGKILL)
        if self.held is not None:
            self.held.close()
        if self.server is not None:
            finish(self.server.process, signal.SIGTERM)
        self.database.stop()


def start(asked: Asked) -> int:
    """Install what is missing, start everything, serve until told to stop."""
    for signum in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(signum, _asked_to_stop)
    with only_one():
        started = _Started()
        try:
            started.bring_up(asked)
            while True:
                time.sleep(0.5)
                started.look_after()
        except _Stop:
            print("\nbilge: stopping", flush=True)
            return 0
        finally:
            for signum in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
                signal.signal(signum, signal.SIG_IGN)
            started.end()
            RUN_FILE.unlink(missing_ok=True)


def stop() -> int:
    """End a running start, and whatever a killed one left behind."""
    note = read_note()
    supervisor = note.get("supervisor")
    if isinstance(supervisor, int) and is_ours(supervisor):
        if not end(supervisor, 60):
            raise Missing(f"process {supervisor} does not end; look at {SERVER}")
        print("bilge: stopped")
        return 0
    end_leftovers()
    print("bilge: was not running" if not note else "bilge: ended what was left over")
    return 0


def open_account(username: str, workshop: str) -> int:
    """Make a sign-in, in a running Bilge or one at rest; asks for the password."""
    install_python_packages()
    with reached_database() as reach:
        env = environment(**reach, **own_secrets())
        command = [str(PYTHON), str(_MANAGE), "open_account", username, workshop]
        return subprocess.run(command, env=env).returncode


def work() -> int:
    """Carry out runs for a Bilge elsewhere, on the database that BILGE_DB_* names.

    Raises
    ------
    Missing
        If no database or key is named: a worker has none of its own.
    """
    if not isinstance(database := chosen_database(), GivenDatabase):
        raise Missing("name the database of the Bilge to work for: BILGE_DB_HOST and its kin")
    if not os.environ.get("BILGE_SECRET_KEY"):
        raise Missing("BILGE_SECRET_KEY must be that of the Bilge to work for")
    install_packages(for_tests=False)
    install_python_packages()
    await_compiler(begin_to_compile())
    database.start()
    env = environment(**database.environment())
    command = [str(PYTHON), str(_MANAGE), "work"]
    print(f"bilge: working for {database.mark}; Ctrl-C ends it", flush=True)
    os.execve(command[0], command, env)
