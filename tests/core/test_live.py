"""A car followed row by row: its place, what is expected there, the next corner, dips counted."""

from __future__ import annotations

import socket
import sys
import threading
from dataclasses import replace

import numpy as np
import pytest
from bilge_core.agreement.as_usual import AsUsual
from bilge_core.agreement.judged import frozen_at
from bilge_core.agreement.live import Follower, Plan, Seen, plan_of
from bilge_core.agreement.sensor_shown import Shown, shown_by
from bilge_core.cli import play
from bilge_core.errors import InvalidInput
from bilge_core.loads.corners import Corner
from bilge_core.loads.log import Log
from bilge_core.loads.row_by_row import row_reader
from bilge_core.rules.air import JOINED
from bilge_core.tell.live import live_now, live_point

from tests.conftest import DEMO

TIME = np.arange(0.0, 20.0, 0.02)
FLAT = np.full(1000, 5e5)
CORNERS = (Corner(1, "left", 4.0, 7.0, 1.2), Corner(2, "right", 13.0, 16.0, 1.0, "Kennel"))
BARS = np.where((TIME > 5.0) & (TIME < 6.0), 2e5, FLAT)
"""A dip of a second in the first corner."""


def plan(lag: float = 0.0) -> Plan:
    log = Log(TIME, np.full(1000, 30.0), *np.zeros((2, 1000)), np.full(1000, 500.0))
    steady = AsUsual(np.array([100.0, 500.0]), np.array([4e5, 5e5]))
    return plan_of(frozen_at(log, CORNERS, TIME, BARS, FLAT, steady), lag)


def driven(
    follower: Follower, seconds: float, lap: int | None, bars: float = 5e5, start: float = 0.0,
    speed: float = 30.0,
) -> list[Seen]:  # fmt: skip
    """Rows ten times a second."""
    times = start + np.arange(0.0, seconds - 1e-9, 0.1)
    return [follower.feed(float(t), speed, 500.0, bars, lap) for t in times]


def test_its_place_is_known_from_the_line_on() -> None:
    follower = Follower(plan())
    out = driven(follower, 3.0, 0)
    assert {each.share for each in out} == {None}
    assert out[-1].expected is None and out[-1].ahead is None
    lap = driven(follower, 20.0, 1, start=3.0)
    assert lap[0].share == 0.0
    assert lap[100].share == pytest.approx(0.5, abs=0.01)  # of 600 m at 30 m/s
    assert lap[55].expected == pytest.approx(2e5, rel=0.02)
    assert lap[100].expected == pytest.approx(5e5)


def test_a_lap_that_is_driven_longer_is_measured_by_itself() -> None:
    """Its own speed tells 5 % more than the forecast's: the next lap is laid on right."""
    follower = Follower(plan())
    driven(follower, 1.0, 0)
    driven(follower, 20.0, 1, start=1.0, speed=31.5)
    lap = driven(follower, 20.0, 2, start=21.0, speed=31.5)
    assert lap[100].share == pytest.approx(0.5, abs=0.01)


def test_without_lap_numbers_it_goes_round_by_length() -> None:
    follower = Follower(plan())
    rows = driven(follower, 45.0, None)
    assert [rows[at].lap for at in (0, 100, 250, 449)] == [1, 1, 2, 3]
    assert rows[100].share == pytest.approx(0.5, abs=0.02)


def test_the_next_corner_and_how_long_until_it() -> None:
    follower = Follower(plan())
    driven(follower, 1.0, 0)
    lap = driven(follower, 20.0, 1, start=1.0)
    first, inside, second, last = (lap[at] for at in (10, 50, 90, 180))
    assert first.ahead is not None and first.ahead.corner.number == 1
    assert first.until == pytest.approx(3.0, abs=0.1)
    assert first.ahead.lowest == pytest.approx(2e5)
    assert first.ahead.dips_for == pytest.approx(1.0, abs=0.05)
    assert inside.until == 0.0
    assert second.ahead is not None and second.ahead.corner.called == "Kennel"
    assert second.ahead.dips_for == 0.0 and second.until == pytest.approx(4.0, abs=0.1)
    assert last.ahead is not None and last.ahead.corner.number == 1  # of the next lap
    assert last.until == pytest.approx(6.0, abs=0.1)


def test_a_dip_after_a_corner_is_of_it() -> None:
    """Two seconds after its end, out of it by the one definition of places."""
    log = Log(TIME, np.full(1000, 30.0), *np.zeros((2, 1000)), np.full(1000, 500.0))
    steady = AsUsual(np.array([100.0, 500.0]), np.array([4e5, 5e5]))
    late = np.where((TIME > 9.0) & (TIME < 9.5), 1.5e5, FLAT)
    told = plan_of(frozen_at(log, CORNERS, TIME, late, FLAT, steady), 0.0)
    assert told.corners[0].lowest == pytest.approx(1.5e5, rel=0.02)
    assert told.corners[0].dips_for > 0.4 and told.dips == 1


def test_what_is_expected_is_as_the_sensor_would_show_it() -> None:
    """Against the lag by itself: a second of 2 bar, 0.3 s late."""
    late = plan(0.3)
    shown = shown_by(Shown(0.3, 50.0), TIME, BARS)
    assert np.interp(5.98, late.time, late.expected) == pytest.approx(
        np.interp(5.98, TIME, shown), rel=0.02
    )
    assert late.corners[0].lowest > 2.05e5


def test_dips_are_counted_once_each_and_only_when_they_last() -> None:
    follower = Follower(plan())
    driven(follower, 1.0, 0)
    driven(follower, 5.0, 1, start=1.0)
    assert driven(follower, 0.1, 1, 2.9e5, start=6.0)[-1].is_short  # under 0.6 of 5 bar
    driven(follower, 1.0, 1, start=6.1)
    assert follower.dips[1] == 0  # one reading may be a spike
    driven(follower, 0.5, 1, 2.9e5, start=7.1)
    driven(follower, 1.0, 1, 3.1e5, start=7.6)
    assert follower.dips[1] == 1
    rows = driven(follower, 0.5, 2, 2.9e5, start=8.6)
    assert follower.dips == {0: 0, 1: 1, 2: 1}
    told = live_now(rows[-1], follower)
    assert (told.dips, told.dips_last, told.dips_expected) == (1, 1, 1)
    assert told.bar == 2.9 and told.dip_bar == 3.0 and told.stands == "dips"
    assert live_point(rows[-1]).bar == 2.9
    assert not follower.feed(20.0, 0.0, 0.0, 0.0, 2).is_short  # the engine stands


@pytest.mark.parametrize(("gap", "dips"), [(JOINED.least - 0.002, 1), (JOINED.least + 0.002, 2)])
def test_a_short_gap_does_not_part_a_dip(gap: float, dips: int) -> None:
    """As over a whole lap: the forecast's own rule."""
    follower = Follower(plan())
    driven(follower, 1.0, 0)
    rows = [(2.0, 2e5), (2.2, 2e5), (2.2 + gap, 5e5), (2.201 + gap, 2e5), (2.5, 2e5)]
    for at, bars in rows:
        follower.feed(at, 30.0, 500.0, bars, 1)
    assert follower.dips[1] == dips


def test_a_lap_that_was_not_followed_from_the_line_is_not_counted() -> None:
    follower = Follower(plan())
    driven(follower, 3.0, 4, 2.5e5)
    rows = driven(follower, 1.0, 5, start=3.0)
    assert live_now(rows[-1], follower).dips_last is None
    rows = driven(follower, 1.0, 6, start=4.0)
    assert live_now(rows[-1], follower).dips_last == 0


def test_a_clock_that_begins_anew_waits_for_the_line() -> None:
    follower = Follower(plan())
    driven(follower, 1.0, 0)
    driven(follower, 5.0, 1, start=1.0)
    assert follower.feed(0.0, 30.0, 500.0, 5e5, 1).share is None
    assert follower.feed(0.1, 30.0, 500.0, 5e5, 2).share == 0.0
    # a row that comes long after the last one too
    assert follower.feed(9.0, 30.0, 500.0, 5e5, 2).share is None


def test_no_distance_is_followed_by_the_clock() -> None:
    log = Log(TIME, *np.zeros((3, 1000)), np.full(1000, 500.0))
    steady = AsUsual(np.array([100.0, 500.0]), np.array([4e5, 5e5]))
    told = plan_of(frozen_at(log, (), TIME, BARS, FLAT, steady), 0.0)
    assert told.length == 1.0 and told.share[-1] == 1.0
    assert Follower(told).feed(0.0, 0.0, 500.0, 5e5).ahead is None
    assert replace(told, corners=()).corners == ()


HEAD = "time [s],speed [km/h],engine speed [rpm],oil pressure [bar],oil temp [°C],lap"
ROWS = [f"{t:.1f},108,5000,{4 + t:.1f},110,1" for t in range(5)]


def test_rows_are_read_as_the_whole_file_would_be() -> None:
    reader = row_reader("\n".join([HEAD, *ROWS]))
    row = reader.read(ROWS[2])
    assert row is not None
    assert row["speed"] == pytest.approx(30.0)
    assert row["engine_speed"] == pytest.approx(5000 * np.pi / 30.0)
    assert row["oil_pressure"] == pytest.approx(6e5)
    assert row["oil_temperature"] == pytest.approx(383.15)
    assert reader.read("2.0,108,5000,,110,1") == {
        key: value for key, value in row.items() if key != "oil_pressure"
    }


@pytest.mark.parametrize(
    "row", ["", "1,2", "2.0,fast,5000,5,110,1", ",108,5000,5,110,1", "2.0,9000,5000,5,110,1"]
)
def test_rows_that_cannot_be_are_left_out(row: str) -> None:
    assert row_reader("\n".join([HEAD, *ROWS])).read(row) is None


@pytest.mark.parametrize(
    ("head", "words"),
    [
        (HEAD.replace("oil pressure [bar]", "throttle [%]"), "have no oil pressure"),
        (HEAD.replace("[bar]", ""), "oil pressure with its unit"),
    ],
)
def test_what_is_missing_is_named(head: str, words: str) -> None:
    with pytest.raises(InvalidInput, match=words):
        row_reader("\n".join([head, *ROWS]))


def test_what_is_said_while_a_line_is_on_its_way_is_told(monkeypatch: pytest.MonkeyPatch) -> None:
    """As when its car is no longer followed: the link closes between the look and the line."""

    def refuse(listening: socket.socket) -> None:
        link, _ = listening.accept()
        link.recv(100)
        link.sendall(b"no car is followed\n")
        link.close()

    look = play._refused
    monkeypatch.setattr(play, "_refused", lambda link: look(link) if sys.exc_info()[0] else "")
    with socket.create_server(("127.0.0.1", 0)) as listening:
        threading.Thread(target=refuse, args=(listening,), daemon=True).start()
        head, *rows = (DEMO / "saltmarsh.csv").read_text().splitlines()
        text = "\n".join([f"{head},oil pressure [bar]", *(f"{row},4.0" for row in rows)])
        assert play.send(text, "key", listening.getsockname()[1], 1e6) == "no car is followed"
