"""``./bilge backup`` and ``./bilge restore``: all data of a Bilge in one file.

The file is a ZIP: ``database.sql`` as MariaDB writes it, ``uploads/``, ``secrets.json`` when asked
for, and ``manifest.json`` with format, version, time and a checksum of each.
"""

from __future__ import annotations

import contextlib
import hashlib
import json
import os
import shutil
import subprocess
import tempfile
import time
import zipfile
from collections.abc import Iterator
from pathlib import Path
from typing import IO, Any

from launch.database import PrivateMariaDB, program
from launch.given import GivenDatabase, chosen_database
from launch.keys import FILE_NAME as SECRETS
from launch.paths import HOME, Missing
from launch.processes import end_leftovers, only_one, running_database_port

FORMAT, VERSION = "bilge-backup", 1
_DATABASE, _MANIFEST, _UPLOADS = "database.sql", "manifest.json", "uploads/"
_PIECE = 1 << 20
_NAME = "bilge-%Y-%m-%d-%H%M%S.zip"


@contextlib.contextmanager
def _client_settings(env: dict[str, str]) -> Iterator[list[str]]:
    """How MariaDB's own programs reach the database, the password in a file of its own."""
    with tempfile.NamedTemporaryFile("w", suffix=".cnf") as file:  # readable by its owner alone
        file.write(
            "[client]\nprotocol=tcp\ndefault-character-set=utf8mb4\n"
            f"host={env['BILGE_DB_HOST']}\nport={env['BILGE_DB_PORT']}\n"
            f"user={env['BILGE_DB_USER']}\npassword={env['BILGE_DB_PASSWORD']}\n"
        )
        file.flush()
        yield [f"--defaults-file={file.name}", "--max-allowed-packet=256M"]


class _Writer:
    """A backup while it is written: each member with its checksum."""

    def __init__(self, archive: zipfile.ZipFile) -> None:
        self._archive = archive
        self.members: dict[str, dict[str, object]] = {}

    def add(self, name: str, source: IO[bytes]) -> None:
        """Copy a stream into the archive."""
        digest, size = hashlib.sha256(), 0
        with self._archive.open(name, "w", force_zip64=True) as member:
            while piece := source.read(_PIECE):
                digest.update(piece)
                size += len(piece)
                member.write(piece)
        self.members[name] = {"bytes": size, "sha256": digest.hexdigest()}


def _dump(writer: _Writer, env: dict[str, str]) -> None:
    with _client_settings(env) as reach, tempfile.TemporaryFile() as said:
        words = ["--single-transaction", "--quick", "--hex-blob", "--no-tablespaces"]
        dump = subprocess.Popen(
            [program("mariadb-dump"), *reach, *words, env["BILGE_DB_NAME"]],
            stdin=subprocess.DEVNULL, stdout=subprocess.PIPE, stderr=said,
        )  # fmt: skip
        assert dump.stdout is not None
        with dump, dump.stdout as rows:
            writer.add(_DATABASE, rows)
        if dump.returncode:
            said.seek(0)
            reason = said.read().decode(errors="replace")[-800:]
            raise Missing(f"the database could not be read: {reason}")


def _hold(uploads: Path, held: Path) -> None:
    """Link what is there now, so that it is still there when it is copied."""
    for file in uploads.rglob("*") if uploads.exists() else ():
        twin = held / file.relative_to(uploads)
        if file.is_file() and file.suffix != ".npz" and not twin.exists():  # those are made again
            twin.parent.mkdir(parents=True, exist_ok=True)
            with contextlib.suppress(FileNotFoundError):  # gone meanwhile
                twin.hardlink_to(file)


def write_backup(file: Path, env: dict[str, str], with_secrets: bool = False) -> None:
    """Write all data into one file; people may work meanwhile.

    The rows are those of one moment; uploads are taken before and after it.

    Raises
    ------
    Missing
        If the database cannot be read.
    """
    file.parent.mkdir(parents=True, exist_ok=True)
    draft = file.with_name(f".{file.name}.part")
    held = Path(tempfile.mkdtemp(prefix="holding-", dir=HOME))
    try:
        draft.touch(mode=0o600)
        with zipfile.ZipFile(draft, "w", zipfile.ZIP_DEFLATED, compresslevel=1) as archive:
            writer = _Writer(archive)
            _hold(HOME / "uploads", held)
            _dump(writer, env)
            _hold(HOME / "uploads", held)
            for upload in sorted(path for path in held.rglob("*") if path.is_file()):
                with upload.open("rb") as source:
                    writer.add(_UPLOADS + str(upload.relative_to(held)), source)
            if with_secrets:
                with (HOME / SECRETS).open("rb") as source:
                    writer.add(SECRETS, source)
            manifest = {
                "format": FORMAT,
                "version": VERSION,
                "made_at": time.strftime("%Y-%m-%dT%H:%M:%SZ", time.gmtime()),
                "members": writer.members,
            }
            archive.writestr(_MANIFEST, json.dumps(manifest, indent=1))
        draft.replace(file)
    finally:
        draft.unlink(missing_ok=True)
        shutil.rmtree(held, ignore_errors=True)


def _is_member(name: str) -> bool:
    path = Path(name)
    return name in {_DATABASE, SECRETS} or (
        name.startswith(_UPLOADS) and not path.is_absolute() and ".." not in path.parts
    )


def checked(file: Path) -> dict[str, Any]:
    """The manifest of a backup whose every member is as it was written.

    Raises
    ------
    Missing
        If it is no backup, of a newer Bilge, or damaged; the message says which.
    """
    try:
        with zipfile.ZipFile(file) as archive:
            manifest: dict[str, Any] = json.loads(archive.read(_MANIFEST))
            if manifest["format"] != FORMAT:
                raise Missing(f"{file} is no backup of Bilge")
            if manifest["version"] > VERSION:
                raise Missing(f"{file} was written by a newer Bilge; restore it with that one")
            if {*archive.namelist()} != {*manifest["members"], _MANIFEST}:
                raise Missing(f"{file} is damaged: it does not hold what its manifest names")
            for name, wanted in manifest["members"].items():
                if not _is_member(name):
                    raise Missing(f"{file} holds {name}, which is no part of a backup")
                digest = hashlib.sha256()
                with archive.open(name) as member:
                    while piece := member.read(_PIECE):
                        digest.update(piece)
                if digest.hexdigest() != wanted["sha256"]:
                    raise Missing(f"{file} is damaged: {name} is not as it was written")
            return manifest
    except FileNotFoundError:
        raise Missing(f"there is no file {file}") from None
    except (OSError, ValueError, KeyError, TypeError, zipfile.BadZipFile) as error:
        raise Missing(f"{file} is no whole backup of Bilge: {error}") from None


def _load(archive: zipfile.ZipFile, env: dict[str, str]) -> None:
    with _client_settings(env) as reach, tempfile.TemporaryFile() as said:
        client = subprocess.Popen(  # in its sandbox: a file's rows run no programs
            [program("mariadb"), *reach, "--sandbox", env["BILGE_DB_NAME"]],
            stdin=subprocess.PIPE, stdout=subprocess.DEVNULL, stderr=said,
        )  # fmt: skip
        assert client.stdin is not None
        with client, archive.open(_DATABASE) as rows, contextlib.suppress(BrokenPipeError):
            shutil.copyfileobj(rows, client.stdin, _PIECE)
            client.stdin.close()
        if client.returncode:
            said.seek(0)
            raise Missing(f"the rows could not be loaded: {said.read().decode()[-800:]}")


def _place_files(archive: zipfile.ZipFile, folder: Path) -> None:
    (folder / "uploads").mkdir(mode=0o700)
    for name in archive.namelist():
        if name.startswith(_UPLOADS) or name == SECRETS:
            place = folder / name
            place.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
            place.touch(mode=0o600)
            with archive.open(name) as member, place.open("wb") as kept:
                shutil.copyfileobj(member, kept, _PIECE)


def _tables(env: dict[str, str]) -> str:
    with _client_settings(env) as reach:
        return subprocess.run(
            [program("mariadb"), *reach, "-N", "-e", "SHOW TABLES", env["BILGE_DB_NAME"]],
            capture_output=True, text=True, check=True,
        ).stdout.strip()  # fmt: skip


def _load_given(file: Path, made: Path, database: GivenDatabase) -> None:
    database.start()
    if _tables(database.environment()):
        raise Missing(f"the database {database.mark} holds tables; restore into an empty one")
    with zipfile.ZipFile(file) as archive:
        _place_files(archive, made)
        _load(archive, database.environment())


def _load_private(file: Path, made: Path) -> None:
    database = PrivateMariaDB(made / "database")
    try:
        database.start()
        with zipfile.ZipFile(file) as archive:
            _place_files(archive, made)
            _load(archive, database.environment())
    finally:
        database.stop()


def _swap(made: Path) -> Path | None:
    """Put what was restored in the place of what was there; where that went."""
    aside = HOME / "aside" / time.strftime("%Y-%m-%d-%H%M%S")
    moved = False
    for part in sorted(made.iterdir()):
        present = HOME / part.name
        if present.exists() and (present.is_file() or any(present.iterdir())):
            aside.mkdir(parents=True, exist_ok=True, mode=0o700)
            present.rename(aside / part.name)
            moved = True
        elif present.exists():
            present.rmdir()
        part.rename(present)
    return aside if moved else None


def restore(file: Path) -> int:
    """Make the data those of a backup; what was there is moved aside and named.

    Raises
    ------
    Missing
        If the file is not whole, Bilge runs, or a given database is not empty; nothing is
        changed then.
    """
    file = file.absolute()
    manifest = checked(file)
    database = chosen_database()
    with only_one():
        end_leftovers()
        made = Path(tempfile.mkdtemp(prefix="restoring-", dir=HOME))
        try:
            if isinstance(database, GivenDatabase):
                _load_given(file, made, database)
            else:
                _load_private(file, made)
            aside = _swap(made)
        finally:
            shutil.rmtree(made, ignore_errors=True)
    print(f"bilge: restored what {file.name} kept at {manifest['made_at']}")
    if aside is not None:
        print(f"bilge: what was there before is in {aside}")
    print("bilge: ./bilge start brings it up to this Bilge's tables")
    return 0


@contextlib.contextmanager
def reached_database() -> Iterator[dict[str, str]]:
    """What reaches the database: the one of a Bilge that runs, else started for as long as needed.

    Raises
    ------
    Missing
    """
    database = chosen_database()
    port = running_database_port()
    if isinstance(database, GivenDatabase) or port is not None:
        if isinstance(database, PrivateMariaDB):
            assert port is not None
            database.port = port
        yield database.environment()
        return
    if database.is_new:
        raise Missing(f"there is nothing in {HOME} yet")
    with only_one():
        end_leftovers()
        try:
            database.start()
            yield database.environment()
        finally:
            database.stop()


def keep_newest(folder: Path, count: int) -> None:
    """Drop the oldest backups of a folder, by their names; anything else there is left alone."""
    ours = sorted(folder.glob("bilge-[0-9]*.zip"))
    for old in ours[: max(0, len(ours) - count)]:
        old.unlink()


def backup(target: Path, with_secrets: bool, keep: int | None) -> int:
    """Write a backup: into a file, or into a folder under a name by its time.

    Raises
    ------
    Missing
        If the file is there already, or there is nothing to keep.
    """
    into_folder = target.is_dir() or str(target).endswith(os.sep)
    if keep is not None and not into_folder:
        raise Missing(f"--keep goes with a folder, and {target} is none")
    file = target / time.strftime(_NAME) if into_folder else target
    if file.exists():
        raise Missing(f"{file} is there already; choose another name")
    with reached_database() as env:
        write_backup(file, env, with_secrets)
    print(f"bilge: {file}, {file.stat().st_size / 1e6:.1f} MB")
    if not with_secrets:
        print("bilge: without secrets; after a restore everybody signs in again")
    if keep is not None:
        keep_newest(target, max(1, keep))
    return 0
