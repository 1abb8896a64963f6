"""The launcher's own decisions."""

from __future__ import annotations

import json
import os
import socket
import sys
from pathlib import Path
from typing import Any

import pytest

from launch import database, paths, serve, system
from launch.__main__ import main
from launch.tools import changed_packages


def lock(**packages: dict[str, Any]) -> bytes:
    return json.dumps({"packages": packages}).encode()


def test_a_lock_is_compared_package_by_package() -> None:
    one = {"version": "1.0", "integrity": "sha512-a"}
    assert changed_packages(lock(a=one), lock(a=one)) == []
    assert changed_packages(lock(a=one), lock(a={**one, "integrity": "sha512-b"})) == ["a"]
    assert changed_packages(lock(a=one), lock(a=one, b=one)) == ["b"]
    assert changed_packages(lock(a=one, b=one), lock(a=one)) == ["b"]
    builds_for_other_systems = {**one, "optional": True}
    assert changed_packages(lock(a=one), lock(a=one, b=builds_for_other_systems)) == []


def test_an_ordinary_user_is_told_what_is_missing(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(system.os, "geteuid", lambda: 1000)
    monkeypatch.setitem(system._NEEDED, "mariadb-server", lambda: False)
    monkeypatch.setitem(system._FOR_TESTS, "chromium", lambda: False)
    with pytest.raises(paths.Missing, match=r"install mariadb-server$"):
        system.install_packages(for_tests=False)
    with pytest.raises(paths.Missing, match=r"install mariadb-server chromium$"):
        system.install_packages(for_tests=True)


def test_a_fingerprint_sees_names_and_contents(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(paths, "ROOT", tmp_path)
    (tmp_path / "a").write_text("1")
    first = paths.digest(tmp_path)
    (tmp_path / "a").write_text("2")
    second = paths.digest(tmp_path)
    (tmp_path / "a").rename(tmp_path / "b")
    assert len({first, second, paths.digest(tmp_path)}) == 3


def test_the_database_is_private_and_on_loopback(tmp_path: Path) -> None:
    server = database.PrivateMariaDB(tmp_path / "db")
    server._write_settings()
    written = server.settings_file.read_text()
    assert "bind-address=127.0.0.1" in written
    assert "port=3306" not in written
    assert f"datadir={tmp_path / 'db'}/data" in written
    assert (tmp_path / "db").stat().st_mode & 0o077 == 0
    assert len(str(server.socket)) < 107  # the limit of a socket's path


def test_a_deep_folder_gets_its_socket_elsewhere(tmp_path: Path) -> None:
    deep = tmp_path / ("d" * 60) / ("e" * 60)
    one, other = database.PrivateMariaDB(deep), database.PrivateMariaDB(deep / "f")
    assert len(str(one.socket)) < 107
    assert one.socket != other.socket


def test_a_port_in_use_is_not_taken() -> None:
    with socket.socket() as held:
        held.bind(("127.0.0.1", 0))
        held.listen()
        port = held.getsockname()[1]
        assert database.free_port(port) != port
    assert database.free_port() > 1023


def test_a_missing_server_is_said_with_the_package(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(database, "_SEARCH", "/nowhere")
    with pytest.raises(paths.Missing, match="apt-get install mariadb-server"):
        database._program("mariadbd")


def test_the_run_note_is_read_with_care(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    note = tmp_path / "run.json"
    monkeypatch.setattr(serve, "_RUN_FILE", note)
    for text in (None, "", "[1]", "{", "null"):
        if text is not None:
            note.write_text(text)
        assert serve._read_run_file() == {}
    note.write_text('{"address": "http://127.0.0.1:8750"}')
    assert serve._read_run_file()["address"].endswith(":8750")  # type: ignore[attr-defined]


def test_only_processes_of_ours_are_ever_ended(monkeypatch: pytest.MonkeyPatch) -> None:
    assert not serve._is_ours(1)
    assert not serve._is_ours(os.getpid())  # pytest is no part of a running Bilge
    ended: list[int] = []
    monkeypatch.setattr(serve.os, "kill", lambda pid, _: ended.append(pid))
    assert serve._end(os.getpid(), 0.1)
    assert ended == []


def test_an_account_needs_a_running_bilge(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(serve, "_RUN_FILE", tmp_path / "run.json")
    with pytest.raises(paths.Missing, match="start first"):
        serve.open_account("ada", "Reed Lane Garage")


def test_secrets_are_made_once_and_kept_from_others(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(serve, "STATE", tmp_path)
    made = serve._secrets()
    assert made == serve._secrets()
    assert len(made["BILGE_SECRET_KEY"]) > 40
    assert (tmp_path / "secrets.json").stat().st_mode & 0o077 == 0


@pytest.mark.parametrize(
    ("words", "said"), [(["warp"], "invalid choice"), ([], "required"), (["account"], "required")]
)
def test_commands_that_are_none(
    words: list[str], said: str, capsys: pytest.CaptureFixture[str]
) -> None:
    with pytest.raises(SystemExit) as left:
        main(words)
    assert left.value.code == 2
    assert said in capsys.readouterr().err


class FakeProcess:
    """Ends when it is told to."""

    def __init__(self) -> None:
        self.ended: int | None = None
        self.pid = 1

    def poll(self) -> int | None:
        return self.ended


def test_what_ends_by_itself_is_started_again(monkeypatch: pytest.MonkeyPatch) -> None:
    now = [100.0]
    monkeypatch.setattr(serve.time, "monotonic", lambda: now[0])
    made: list[FakeProcess] = []

    def begin() -> Any:
        made.append(FakeProcess())
        return made[-1]

    kept = serve.Kept("worker", begin, Path("worker.log"))
    now[0] += 10.0
    assert not kept.look_after()
    made[0].ended = -9
    assert kept.look_after() and len(made) == 2
    made[1].ended = -9
    now[0] += 1.0
    assert not kept.look_after()  # not at once
    for _ in range(serve.Kept.MOST - 2):
        now[0] += serve.Kept.PAUSE + 0.1
        assert kept.look_after()
        made[-1].ended = 1
    now[0] += serve.Kept.PAUSE + 0.1
    with pytest.raises(paths.Missing, match=r"the worker ends again and again; see worker\.log"):
        kept.look_after()
    now[0] += serve.Kept.WITHIN  # but a few times a day are borne
    assert kept.look_after()


def test_a_database_that_is_started_again_keeps_its_port(tmp_path: Path) -> None:
    server = database.PrivateMariaDB(tmp_path / "db")
    server._write_settings()
    first = server.port
    server._write_settings()
    assert server.port == first
    assert "max_allowed_packet=256M" in server.settings_file.read_text()
    assert server.settings_file.read_text().count("packet") == 1


def test_loops_compiled_for_a_core_that_is_gone_are_cleared(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setattr(paths, "STATE", tmp_path)
    paths.clear_compiled_code()  # nothing there yet
    now = paths.compiled_code()
    for folder in (now, now.parent / "0123456789abcdef"):
        folder.mkdir(parents=True)
    paths.clear_compiled_code()
    assert list(now.parent.iterdir()) == [now]


def test_the_solver_is_compiled_once_for_each_state_of_it(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setattr(paths, "STATE", tmp_path)
    monkeypatch.setattr(serve, "PYTHON", Path(sys.executable))
    monkeypatch.setattr(serve, "_WARM_UP", "import sys; print('no such thing'); sys.exit(3)")
    with pytest.raises(paths.Missing, match="could not be compiled:\nno such thing"):
        serve._await_compiler(serve._begin_to_compile())
    monkeypatch.setattr(serve, "_WARM_UP", "pass")
    first = serve._begin_to_compile()
    assert first is not None
    serve._await_compiler(first)
    assert serve._begin_to_compile() is None
    serve._await_compiler(None)
