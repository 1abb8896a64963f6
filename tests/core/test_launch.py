"""The launcher's own decisions."""

from __future__ import annotations

import json
import os
import socket
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest

from launch import address, database, keys, logs, paths, processes, serve, system
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
        database.program("mariadbd")


def test_the_run_note_is_read_with_care(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    note = tmp_path / "run.json"
    monkeypatch.setattr(processes, "RUN_FILE", note)
    for text in (None, "", "[1]", "{", "null"):
        if text is not None:
            note.write_text(text)
        assert processes.read_note() == {}
    note.write_text('{"address": "http://127.0.0.1:8750"}')
    assert processes.read_note()["address"].endswith(":8750")


def test_two_tests_of_one_checkout_do_not_share_a_database(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(processes, "STATE", tmp_path)
    refused = pytest.raises(paths.Missing, match="runs already")
    with processes.only_one_test(), refused, processes.only_one_test():
        pass
    with processes.only_one_test():
        pass


def test_only_processes_of_ours_are_ever_ended(monkeypatch: pytest.MonkeyPatch) -> None:
    assert not processes.is_ours(1)
    assert not processes.is_ours(os.getpid())  # pytest is no part of a running Bilge
    ended: list[int] = []
    monkeypatch.setattr(processes.os, "kill", lambda pid, _: ended.append(pid))
    assert processes.end(os.getpid(), 0.1)
    assert ended == []


def test_a_worker_alone_needs_a_database_to_work_for(monkeypatch: pytest.MonkeyPatch) -> None:
    for name in [name for name in os.environ if name.startswith("BILGE_DB_")]:
        monkeypatch.delenv(name)
    with pytest.raises(paths.Missing, match="BILGE_DB_HOST"):
        serve.work()
    monkeypatch.setenv("BILGE_DB_HOST", "192.168.1.5")
    with pytest.raises(paths.Missing, match=r"BILGE_DB_PORT, .* must be set too"):
        serve.work()


def test_secrets_are_made_once_and_kept_from_others(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(keys, "HOME", tmp_path)
    monkeypatch.delenv("BILGE_SECRET_KEY", raising=False)
    made = keys.own_secrets()
    assert made == keys.own_secrets()
    assert len(made["BILGE_SECRET_KEY"]) > 40
    assert (tmp_path / "secrets.json").stat().st_mode & 0o077 == 0
    monkeypatch.setenv("BILGE_SECRET_KEY", "given")
    assert keys.own_secrets() == {**made, "BILGE_SECRET_KEY": "given"}


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
    monkeypatch.setattr(processes.time, "monotonic", lambda: now[0])
    made: list[FakeProcess] = []

    def begin() -> Any:
        made.append(FakeProcess())
        return made[-1]

    kept = processes.Kept("worker", begin, Path("worker.log"))
    now[0] += 10.0
    assert not kept.look_after()
    made[0].ended = -9
    assert kept.look_after() and len(made) == 2
    made[1].ended = -9
    now[0] += 1.0
    assert not kept.look_after()  # not at once
    for _ in range(processes.Kept.MOST - 2):
        now[0] += processes.Kept.PAUSE + 0.1
        assert kept.look_after()
        made[-1].ended = 1
    now[0] += processes.Kept.PAUSE + 0.1
    with pytest.raises(paths.Missing, match=r"the worker ends again and again; see worker\.log"):
        kept.look_after()
    now[0] += processes.Kept.WITHIN  # but a few times a day are borne
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
    monkeypatch.setattr(serve, "WARM_UP", "import sys; print('no such thing'); sys.exit(3)")
    with pytest.raises(paths.Missing, match="could not be compiled:\nno such thing"):
        serve.await_compiler(serve.begin_to_compile())
    monkeypatch.setattr(serve, "WARM_UP", "pass")
    first = serve.begin_to_compile()
    assert first is not None
    serve.await_compiler(first)
    assert serve.begin_to_compile() is None
    serve.await_compiler(None)


def test_by_itself_only_this_machine_reaches_it() -> None:
    here = address.settle(address.Asked())
    assert here.url == "http://127.0.0.1:8750"
    assert here.environment()["BILGE_NAMES"] == "127.0.0.1,localhost"
    assert here.asked.with_demo and here.asked.only_here


def test_on_a_network_it_is_asked_for_and_the_demo_too(monkeypatch: pytest.MonkeyPatch) -> None:
    made: list[tuple[str, ...]] = []

    def certificate(names: tuple[str, ...]) -> tuple[Path, Path]:
        made.append(names)
        return address.TLS / "server.pem", address.TLS / "server.key"

    monkeypatch.setattr(address, "_own_certificate", certificate)
    monkeypatch.setattr(address, "own_network_address", lambda: "192.168.7.4")
    asked = address.Asked(lan=True)
    shop = address.settle(asked)
    assert (asked.bound_to, asked.only_here, asked.with_demo) == ("0.0.0.0", False, False)
    assert address.Asked(lan=True, demo=True).with_demo
    assert shop.url == "https://192.168.7.4:8750"
    assert made == [shop.names] and "localhost" in shop.names
    assert shop.environment()["BILGE_SECURE"] == "1"
    assert shop.environment()["BILGE_AUTHORITY"].endswith("authority.pem")
    plain = address.settle(address.Asked(host="192.168.7.4"))
    assert plain.url == "http://192.168.7.4:8750" and not plain.environment()["BILGE_SECURE"]


def test_a_certificate_needs_its_key(tmp_path: Path) -> None:
    one = tmp_path / "one.pem"
    one.touch()
    with pytest.raises(paths.Missing, match="go together"):
        address.settle(address.Asked(certificate=one))
    with pytest.raises(paths.Missing, match="no file"):
        address.settle(address.Asked(certificate=one, key=tmp_path / "none"))
    own = address.settle(address.Asked(host="192.168.7.4", certificate=one, key=one))
    assert own.url.startswith("https://") and own.environment()["BILGE_AUTHORITY"] == ""


def test_an_address_that_is_taken_or_not_ours() -> None:
    with socket.socket() as held:
        held.bind(("127.0.0.1", 0))
        held.listen()
        with pytest.raises(paths.Missing, match="taken; choose another"):
            address.listen(address.Asked(port=held.getsockname()[1]))
    with pytest.raises(paths.Missing, match=r"cannot listen on 192\.0\.2\.1"):
        address.listen(address.Asked(host="192.0.2.1"))


def test_a_log_is_put_aside_when_it_has_grown(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(logs, "MOST_BYTES", 10)
    log = tmp_path / "server.log"
    logs.rotate(log)  # none there yet
    with log.open("ab", buffering=0) as writer:  # as a server holds it open
        writer.write(b"0123456789")
        logs.rotate(log)
        assert log.stat().st_size == 10
        for number in range(logs.KEPT + 2):
            writer.write(b"more than ten bytes, %d" % number)
            logs.rotate(log)
            assert log.stat().st_size == 0
    kept = sorted(path.name for path in tmp_path.iterdir())
    assert kept == ["server.log", "server.log.1", "server.log.2", "server.log.3"]
    assert (tmp_path / "server.log.1").read_bytes().endswith(b"4")
    assert (tmp_path / "server.log.3").read_bytes().endswith(b"2")


def test_a_full_disk_is_said_in_words(tmp_path: Path) -> None:
    said = subprocess.run(
        [sys.executable, "-c", FULL_DISK], cwd=paths.ROOT, capture_output=True, text=True,
        check=False, env={**os.environ, "PYTHONPATH": str(paths.ROOT), "BILGE_HOME": str(tmp_path)},
    )  # fmt: skip
    assert said.returncode == 2
    assert "no room left on the disk" in said.stderr and "MB free" in said.stderr
    assert "Traceback" not in said.stderr


FULL_DISK = """
import errno, runpy, sys
from launch import backup
def full(*given): raise OSError(errno.ENOSPC, "No space left on device")
backup.backup = full
sys.argv = ["bilge", "backup", "somewhere.zip"]
runpy.run_module("launch", run_name="__main__")
"""
