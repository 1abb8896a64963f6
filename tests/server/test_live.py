"""A car that is followed: its logger heard over a local socket, its forecast beside it."""

from __future__ import annotations

import socket
import threading
from collections.abc import Iterator
from datetime import timedelta
from typing import Any

import numpy as np
import pytest
from accounts.models import User
from bilge_core.cli.play import play, rows_to_send, send
from builds.models import Build
from django.utils import timezone
from live import listening
from live.following import Following, NobodyFollowsError
from live.models import LiveFeed, LiveListener
from runs.services import ask_for_run

from tests.server.book_made import driven_car, forecast_bars, logged
from tests.server.conftest import Api
from tests.server.runs_made import NO_WORKER, wanted, work

pytestmark = pytest.mark.django_db(transaction=True)

HEAD = "time [s],speed [km/h],engine speed [rpm],oil pressure [bar],lap"


@pytest.fixture(autouse=True)
def no_worker(settings: Any) -> None:
    settings.TASKS = NO_WORKER
    settings.LIVE_PORT = 0


@pytest.fixture
def driven(user: User, tmp_path: Any) -> Build:
    return driven_car(user, tmp_path)


@pytest.fixture
def port() -> Iterator[int]:
    """A listener of this test's own."""
    until = threading.Event()
    thread = threading.Thread(target=listening.listen, args=(until,))
    thread.start()
    yield listening.wait_for_port(10.0)
    until.set()
    thread.join(10.0)
    assert LiveListener.objects.get().port == 0


def path(build: Build) -> str:
    return f"/stages/track-book/{build.pk}/live"


def opened(api: Api, user: User, build: Build) -> dict[str, Any]:
    work(ask_for_run(user, wanted(build)))
    status, told = api("POST", path(build))
    assert status == 200, told
    return told["live"]  # type: ignore[no-any-return]


def test_a_car_without_a_run_cannot_be_followed(api: Api, driven: Build) -> None:
    assert api("GET", path(driven)) == (200, {"live": None})
    status, told = api("POST", path(driven))
    assert status == 422 and "run it on Slosh" in told["problems"][0]["message"]


def test_a_log_is_played_and_followed(
    api: Api, user: User, driven: Build, tmp_path: Any, port: int
) -> None:
    live = opened(api, user, driven)
    assert (live["state"], live["port"], live["now"]) == ("waiting", port, None)
    assert live["host"] == socket.gethostname()
    assert api("POST", path(driven))[1]["live"]["key"] == live["key"]  # the same for the logger
    lap = logged(user, tmp_path, np.full(709, 4.0))
    log = tmp_path / f"{lap.name}.csv"
    said = send(log.read_text(), live["key"], port, times=100.0)
    assert said == ""
    told = api("GET", path(driven))[1]["live"]
    assert told["state"] == "live" and told["fault"] == ""
    assert told["now"]["bar"] == 4.0 and told["now"]["corner"]["number"] >= 1
    assert len(told["points"]) > 100
    last = told["points"][-1]["t"]
    assert (
        api("GET", f"{path(driven)}?after={last - 1.05}")[1]["live"]["points"][0]["t"] > last - 1.2
    )
    LiveFeed.objects.update(heard_at=timezone.now() - timedelta(seconds=30))
    assert api("GET", path(driven))[1]["live"]["state"] == "silent"
    assert api("DELETE", path(driven)) == (200, {"live": None})
    assert "no car is followed" in send(log.read_text(), live["key"], port, times=100.0)


def test_what_is_expected_is_the_cars_own_forecast(
    api: Api, user: User, driven: Build, tmp_path: Any
) -> None:
    live = opened(api, user, driven)
    bars = forecast_bars(work(ask_for_run(user, wanted(driven))))
    logged(user, tmp_path, bars)
    following = Following(live["key"])
    for line in (tmp_path / "Lap 1.csv").read_text().splitlines():
        following.hear(line)
    following.write()
    points = api("GET", path(driven))[1]["live"]["points"]
    off = [each["bar"] - each["expected"] for each in points if each["expected"] is not None]
    assert len(off) > 80 and np.median(np.abs(off)) < 0.1
    told = api("GET", path(driven))[1]["live"]["now"]
    assert told["dips"] >= 1 and told["dips_expected"] >= 1


def test_a_newer_connection_takes_the_place(api: Api, user: User, driven: Build) -> None:
    live = opened(api, user, driven)
    first = Following(live["key"])
    second = Following(live["key"])
    for following in (second, first):
        for line in [HEAD, *(f"{t}.0,100,5000,4.5,1" for t in range(8))]:
            following.hear(line)
    second.write()
    with pytest.raises(NobodyFollowsError):
        first.write()


def test_headings_that_lack_something_are_told(
    api: Api, user: User, driven: Build, port: int
) -> None:
    live = opened(api, user, driven)
    bare = "time [s],speed [km/h],engine speed [rpm]"
    rows = [f"{t}.0,100,5000" for t in range(8)]
    with socket.create_connection(("127.0.0.1", port), 5.0) as link:
        link.sendall("\n".join([f"key {live['key']}", bare, *rows, ""]).encode())
        assert b"have no oil pressure" in link.recv(1000)
    assert "oil pressure" in api("GET", path(driven))[1]["live"]["fault"]
    for rubbish in (b"\xff\xfe\n", b"x" * 5000, b"key nobody\n"):
        with socket.create_connection(("127.0.0.1", port), 5.0) as link:
            link.sendall(rubbish)
            link.shutdown(socket.SHUT_WR)
            link.settimeout(5.0)
            try:
                assert not link.recv(1000) or rubbish.startswith(b"key")
            except ConnectionError:
                continue
    assert listening.wait_for_port(1.0) == port  # it listens on


def test_one_listens_of_all(port: int) -> None:
    until = threading.Event()
    other = threading.Thread(target=listening.listen, args=(until,))
    other.start()
    until.wait(0.5)
    assert LiveListener.objects.get().port == port
    until.set()
    other.join(10.0)
    assert LiveListener.objects.get().port == port


def test_a_log_goes_out_as_of_a_car_that_comes_by() -> None:
    rows = [f"{t / 10:.1f},100,5000,4.5,3" for t in range(100)]
    sent = list(rows_to_send("\n".join([HEAD, *rows])))
    assert sent[0][1] == HEAD
    laps = [line.split(",")[-1] for _, line in sent[1:]]
    assert laps[0] == "2" and laps[31] == "3" and len(laps) == 131
    times = [at for at, _ in sent]
    assert times == sorted(times)
    without = "\n".join(line.rsplit(",", 1)[0] for line in [HEAD, *rows])
    assert len(list(rows_to_send(without))) == 101


def test_the_command_says_what_is_wrong(
    capsys: pytest.CaptureFixture[str], tmp_path: Any, port: int
) -> None:
    log = tmp_path / "log.csv"
    log.write_text("\n".join([HEAD, *(f"{t / 10:.1f},100,5000,4.5,3" for t in range(50))]))
    words = [str(log), "--key", "nobody", "--port", str(port), "--times", "100"]
    assert play(words) == 2
    assert "no car is followed by this key" in capsys.readouterr().err
    assert play([*words[:-1], "0"]) == 2
    assert "must be 0.1 to 100" in capsys.readouterr().err
    assert play([str(tmp_path / "none.csv"), "--key", "k"]) == 2
    assert "none.csv" in capsys.readouterr().err
    assert play([str(log), "--key", "k", "--port", "1"]) == 2
    assert "port 1 of this machine" in capsys.readouterr().err
