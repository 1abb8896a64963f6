"""Nothing is lost: a start keeps what it finds, a backup comes back whole, older tables too."""

from __future__ import annotations

import hashlib
import io
import json
import os
import subprocess
import sys
import zipfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from launch import backup, given, keys, paths, processes, serve
from launch.database import PrivateMariaDB

OLDER = """
from django.core.management import call_command
for words in (["sessions"], ["accounts"], ["builds"], ["loads"], ["runs", "0001"]):
    call_command("migrate", *words, verbosity=0, skip_checks=True)
"""
"""What makes tables as they once were."""

MANAGE = [sys.executable, str(paths.ROOT / "server" / "manage.py")]


@pytest.fixture
def home(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A Bilge's data, apart from those of the test run."""
    for name in given.NAMES:
        monkeypatch.delenv(name, raising=False)
    for module in (backup, given, keys, processes, serve):
        if hasattr(module, "HOME"):
            monkeypatch.setattr(module, "HOME", tmp_path)
    monkeypatch.setattr(processes, "RUN_FILE", tmp_path / "run.json")
    return tmp_path


@pytest.fixture
def database(home: Path) -> Iterator[PrivateMariaDB]:
    server = PrivateMariaDB(home / "database")
    server.start()
    yield server
    server.stop()


def manage(env: dict[str, str], *words: str) -> str:
    done = subprocess.run(
        [*MANAGE, *words], env={**os.environ, **env}, capture_output=True, text=True, check=False
    )
    assert done.returncode == 0, done.stderr
    return done.stdout


def rows(server: PrivateMariaDB, question: str) -> str:
    return subprocess.run(
        ["mariadb", f"--defaults-file={server.settings_file}", "-N", "-e", question, "bilge"],
        capture_output=True, text=True, check=True,
    ).stdout.strip()  # fmt: skip


def test_a_start_keeps_data_whose_mark_is_gone(database: PrivateMariaDB) -> None:
    database.sql("CREATE TABLE bilge.kept (word VARCHAR(9)); INSERT INTO bilge.kept VALUES ('oil')")
    database.stop()
    database.ready_mark.unlink()
    database.start()
    assert rows(database, "SELECT word FROM kept") == "oil"
    with backup._client_settings(database.environment()):
        assert backup._tables(database.environment()) == "kept"  # its user has a password again


def test_what_is_no_database_is_refused_and_left_alone(home: Path) -> None:
    strange = home / "database" / "data" / "notes.txt"
    strange.parent.mkdir(parents=True)
    strange.write_text("the only copy")
    with pytest.raises(paths.Missing, match="holds something, but no whole MariaDB database"):
        PrivateMariaDB(home / "database").start()
    assert strange.read_text() == "the only copy"


def wiped_and_restored(home: Path, server: PrivateMariaDB, kept: Path) -> Path:
    """A backup is written, all that it keeps is lost, and it comes back; what it is now, aside."""
    upload = home / "uploads" / "token" / "log"
    file = kept / "bilge.zip"
    backup.write_backup(file, server.environment(), with_secrets=True)
    assert file.stat().st_mode & 0o077 == 0
    before = workshops(server)
    secret = (home / "secrets.json").read_text()

    server.sql("DELETE FROM bilge.accounts_workshop")
    server.stop()
    upload.unlink()
    (home / "secrets.json").unlink()
    assert backup.restore(file) == 0
    assert upload.read_bytes() == b"time,speed\n"
    assert (home / "secrets.json").read_text() == secret
    server.start()
    assert workshops(server) == before
    return max((home / "aside").iterdir())


def workshops(server: PrivateMariaDB) -> str:
    return rows(server, "SELECT * FROM accounts_workshop ORDER BY id")


def test_wiped_and_restored_from_an_older_schema_and_from_this_one(
    home: Path, database: PrivateMariaDB, tmp_path_factory: Any
) -> None:
    manage(database.environment(), "shell", "-v0", "-c", OLDER)
    database.sql(
        "INSERT INTO bilge.accounts_workshop (name) VALUES ('Reed Lane'), ('Ölhafen \U0001f6e2')"
    )
    upload = home / "uploads" / "token" / "log"
    upload.parent.mkdir(parents=True)
    upload.write_bytes(b"time,speed\n")
    (upload.parent / "columns.npz").write_bytes(b"made again when it is missing")
    keys.own_secrets()
    before = workshops(database)
    aside = wiped_and_restored(home, database, tmp_path_factory.mktemp("kept"))
    assert (aside / "database" / "data" / "ibdata1").exists()  # what was there is there still
    # the start brings it up to date, and keeps it as it was first
    serve.backup_before_migrating({**os.environ, **database.environment()})
    kept = list((home / "backups").iterdir())
    assert len(kept) == 1 and backup.checked(kept[0])["version"] == backup.VERSION
    manage(database.environment(), "migrate", "-v0", "--skip-checks")
    assert workshops(database) == before
    # and once more, of today's schema: nothing is left to bring up to date
    wiped_and_restored(home, database, tmp_path_factory.mktemp("kept"))
    manage(database.environment(), "migrate", "--check", "--skip-checks")
    assert workshops(database) == before
    assert "restoring-" not in " ".join(path.name for path in home.iterdir())


def test_a_backup_of_a_bilge_at_rest_goes_into_a_folder(
    home: Path, database: PrivateMariaDB, capsys: pytest.CaptureFixture[str]
) -> None:
    database.stop()
    folder = home / "shelf"
    folder.mkdir()
    for old in ("bilge-2001-01-01-000000.zip", "bilge-2001-01-02-000000.zip", "else.zip"):
        (folder / old).touch()
    assert backup.backup(folder, with_secrets=False, keep=2) == 0
    names = sorted(path.name for path in folder.iterdir())
    assert len(names) == 3 and names[0] == "bilge-2001-01-02-000000.zip" and "else.zip" in names
    assert "without secrets" in capsys.readouterr().out
    file = next(path for path in folder.iterdir() if path.stat().st_size)
    assert list(backup.checked(file)["members"]) == ["database.sql"]
    with pytest.raises(paths.Missing, match="there already"):
        backup.backup(file, with_secrets=False, keep=None)
    with pytest.raises(paths.Missing, match="goes with a folder"):
        backup.backup(home / "one.zip", with_secrets=False, keep=3)


def test_with_nothing_there_is_nothing_to_keep(home: Path) -> None:
    with pytest.raises(paths.Missing, match="nothing in"):
        backup.backup(home / "one.zip", with_secrets=False, keep=None)
    assert not (home / "one.zip").exists()


def archive(**members: bytes) -> bytes:
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w") as file:
        for name, data in members.items():
            file.writestr(name.replace("__", "."), data)
    return made.getvalue()


def manifest(**more: Any) -> bytes:
    told = {"format": "bilge-backup", "version": 1, "made_at": "2026-11-27T00:00:00Z"}
    return json.dumps({**told, "members": {}, **more}).encode()


WRONG_SUM = {"database.sql": {"bytes": 1, "sha256": "0" * 64}}
CLIMBS = {"uploads/../../x": {"bytes": 1, "sha256": "0" * 64}}


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"no archive", "no whole backup"),
        (archive(manifest__json=b"{"), "no whole backup"),
        (archive(manifest__json=manifest(format="other")), "no backup of Bilge"),
        (archive(manifest__json=manifest(version=2)), "newer Bilge"),
        (archive(manifest__json=manifest(), database__sql=b"x"), "damaged"),
        (archive(manifest__json=manifest(members=WRONG_SUM), database__sql=b"x"), "damaged"),
        (archive(manifest__json=manifest(members=CLIMBS), **{"uploads/../../x": b"x"}), "no part"),
        (archive(manifest__json=manifest())[:-30], "no whole backup"),
    ],
)  # fmt: skip
def test_a_backup_that_is_not_whole_changes_nothing(
    home: Path, tmp_path_factory: Any, data: bytes, words: str
) -> None:
    file = tmp_path_factory.mktemp("kept") / "bilge.zip"
    file.write_bytes(data)
    with pytest.raises(paths.Missing, match=words):
        backup.restore(file)
    assert list(home.iterdir()) == []


def test_rows_of_a_backup_run_no_programs(home: Path, tmp_path_factory: Any) -> None:
    kept = tmp_path_factory.mktemp("kept")
    wrong = f"system touch {kept}/ran\n".encode()
    members = {"database.sql": {"bytes": 1, "sha256": hashlib.sha256(wrong).hexdigest()}}
    file = kept / "bilge.zip"
    file.write_bytes(archive(manifest__json=manifest(members=members), database__sql=wrong))
    with pytest.raises(paths.Missing, match="could not be loaded"):
        backup.restore(file)
    assert not (kept / "ran").exists()


def test_no_file_at_all(home: Path) -> None:
    with pytest.raises(paths.Missing, match="there is no file"):
        backup.restore(home / "none.zip")


def test_rows_that_cannot_be_loaded_leave_all_as_it_was(
    home: Path, database: PrivateMariaDB, tmp_path_factory: Any
) -> None:
    database.sql("CREATE TABLE bilge.kept (word VARCHAR(9)); INSERT INTO bilge.kept VALUES ('oil')")
    database.stop()
    wrong = b"INSERT INTO nowhere VALUES (1);"
    members = {"database.sql": {"bytes": 1, "sha256": hashlib.sha256(wrong).hexdigest()}}
    file = tmp_path_factory.mktemp("kept") / "bilge.zip"
    file.write_bytes(archive(manifest__json=manifest(members=members), database__sql=wrong))
    with pytest.raises(paths.Missing, match="could not be loaded"):
        backup.restore(file)
    database.start()
    assert rows(database, "SELECT word FROM kept") == "oil"
