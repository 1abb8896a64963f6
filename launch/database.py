"""A private MariaDB server on loopback, in a folder of its own."""

from __future__ import annotations

import contextlib
import getpass
import hashlib
import os
import secrets
import shutil
import socket
import subprocess
import tempfile
import time
from pathlib import Path

from launch.paths import Missing
from launch.tools import run

_SEARCH = f"{os.environ.get('PATH', '')}:/usr/sbin:/usr/bin"
_SETTINGS = """[mariadbd]
datadir={folder}/data
socket={socket}
pid-file={folder}/mariadbd.pid
log-error={folder}/error.log
tmpdir={folder}/tmp
bind-address=127.0.0.1
port={port}
skip-name-resolve
skip-log-bin
max_allowed_packet=256M
character-set-server=utf8mb4
collation-server=utf8mb4_unicode_ci
sql-mode=STRICT_ALL_TABLES,ERROR_FOR_DIVISION_BY_ZERO,NO_ENGINE_SUBSTITUTION
default-time-zone=+00:00
transaction-isolation=READ-COMMITTED
innodb-buffer-pool-size=128M
[client]
socket={socket}
default-character-set=utf8mb4
"""


def program(name: str) -> str:
    """Where one of MariaDB's programs is.

    Raises
    ------
    Missing
    """
    found = shutil.which(name, path=_SEARCH)
    if found is None:
        raise Missing(f"{name} was not found; as root: apt-get install mariadb-server")
    return found


def free_port(wanted: int | None = None) -> int:
    """`wanted` when nothing listens there, else any free port on loopback."""
    for port in ([wanted] if wanted else []) + [0]:
        with socket.socket() as probe, contextlib.suppress(OSError):
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            probe.bind(("127.0.0.1", port))
            return int(probe.getsockname()[1])
    raise Missing("no free port on 127.0.0.1")


class PrivateMariaDB:
    """One server with its data in `folder`; started and stopped by whoever made it."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.process: subprocess.Popen[bytes] | None = None
        self.port = 0
        self._password_file = folder / "password"
        place = folder / "server.sock"
        if len(str(place)) > 100:  # a socket's path has a limit of 107 bytes
            name = hashlib.sha256(str(folder).encode()).hexdigest()[:12]
            place = Path(tempfile.gettempdir()) / f"bilge-{os.getuid()}-{name}.sock"
        self.socket = place

    @property
    def settings_file(self) -> Path:
        """The server's own settings."""
        return self.folder / "my.cnf"

    @property
    def ready_mark(self) -> Path:
        """There when the database is whole and Bilge's user has its password."""
        return self.folder / "installed"

    @property
    def pid_file(self) -> Path:
        """Where the server writes its process id."""
        return self.folder / "mariadbd.pid"

    def _write_settings(self) -> None:
        for name in ("data", "tmp"):
            (self.folder / name).mkdir(parents=True, exist_ok=True)
        self.folder.chmod(0o700)
        # started again it stays where those who use it look for it
        self.port = free_port(self.port or None)
        self.settings_file.write_text(
            _SETTINGS.format(folder=self.folder, socket=self.socket, port=self.port)
        )

    def _as_root(self) -> list[str]:
        return ["--user=root"] if os.geteuid() == 0 else []

    @property
    def data(self) -> Path:
        """The folder of the server's own files."""
        return self.folder / "data"

    @property
    def is_new(self) -> bool:
        """Whether nothing was ever kept here."""
        return not (self.data.exists() and any(self.data.iterdir()))

    def _install(self) -> None:
        """Make an empty database, elsewhere first: `data` holds a whole one or none."""
        print("bilge: making a private MariaDB", flush=True)
        made = Path(tempfile.mkdtemp(prefix="making-", dir=self.folder))
        try:
            self._make_in(made)
            self.data.rmdir()  # it is empty
            made.rename(self.data)
        finally:
            shutil.rmtree(made, ignore_errors=True)

    def _make_in(self, made: Path) -> None:
        run(
            "mariadb-install-db",
            [
                program("mariadb-install-db"),
                f"--defaults-file={self.settings_file}",
                f"--datadir={made}",
                "--auth-root-authentication-method=socket",
                f"--auth-root-socket-user={getpass.getuser()}",
                "--skip-test-db",
                *self._as_root(),
            ],
        )

    def sql(self, statements: str) -> None:
        """Run statements as the server's own root."""
        done = subprocess.run(
            [program("mariadb"), f"--defaults-file={self.settings_file}", "-u", getpass.getuser()
             if os.geteuid() else "root", "mysql"],
            input=statements, capture_output=True, text=True,
        )  # fmt: skip
        if done.returncode:
            raise Missing(f"MariaDB refused: {done.stderr[-800:]}")

    def start(self) -> None:
        """Start it, installing it first where its folder is new.

        Whatever is in the folder stays there: data without its mark of being whole are adopted.

        Raises
        ------
        Missing
            If the server does not come up, or the folder holds something that is no database.
        """
        self._write_settings()
        ready = self.ready_mark
        if self.is_new:
            ready.unlink(missing_ok=True)  # its data were moved away
            self._install()
        elif not (self.data / "mysql").is_dir() or not (self.data / "ibdata1").is_file():
            raise Missing(
                f"{self.data} holds something, but no whole MariaDB database. Nothing was "
                f"changed. If it is not needed, move it away: mv {self.data} {self.data}.old"
            )
        elif not ready.exists():
            print(f"bilge: taking over the database found in {self.data}", flush=True)
        self.process = subprocess.Popen(
            [program("mariadbd"), f"--defaults-file={self.settings_file}", *self._as_root()],
            stdin=subprocess.DEVNULL, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
            start_new_session=True,
        )  # fmt: skip
        self._wait()
        if not ready.exists():
            self._first_time()
            ready.touch()

    def again(self) -> subprocess.Popen[bytes]:
        """Its process; started first where there is none that runs."""
        if self.process is None or self.process.poll() is not None:
            self.start()
        assert self.process is not None
        return self.process

    def _wait(self) -> None:
        assert self.process is not None
        for _ in range(600):
            with contextlib.suppress(OSError), socket.socket(socket.AF_UNIX) as probe:
                probe.connect(str(self.socket))
                return
            if self.process.poll() is not None:
                break
            time.sleep(0.1)
        log = self.folder / "error.log"
        tail = log.read_text(errors="replace")[-1500:] if log.exists() else ""
        raise Missing(f"MariaDB did not start:\n{tail}")

    def _first_time(self) -> None:
        zones = subprocess.run(
            [program("mariadb-tzinfo-to-sql"), "/usr/share/zoneinfo"],
            capture_output=True,
            text=True,
        ).stdout
        if zones:
            self.sql(zones)
        password = secrets.token_urlsafe(24)
        self._password_file.touch(mode=0o600)
        self._password_file.write_text(password)
        self.sql(
            "CREATE DATABASE IF NOT EXISTS bilge CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;"
            f"CREATE OR REPLACE USER bilge@'127.0.0.1' IDENTIFIED BY '{password}';"
            "GRANT ALL ON bilge.* TO bilge@'127.0.0.1';"
            r"GRANT ALL ON `test\_%`.* TO bilge@'127.0.0.1';"
        )

    def environment(self) -> dict[str, str]:
        """What Django needs to reach it."""
        return {
            "BILGE_DB_HOST": "127.0.0.1",
            "BILGE_DB_PORT": str(self.port),
            "BILGE_DB_NAME": "bilge",
            "BILGE_DB_USER": "bilge",
            "BILGE_DB_PASSWORD": self._password_file.read_text(),
        }

    def stop(self) -> None:
        """End it in order; by force only if it does not end in 30 s."""
        if self.process is None:
            return
        self.process.terminate()
        try:
            self.process.wait(30)
        except subprocess.TimeoutExpired:
            self.process.kill()
            self.process.wait()
        self.socket.unlink(missing_ok=True)
