"""Logs: reading them, refusing bad ones with the place named, corners and facts."""

from __future__ import annotations

import math

import numpy as np
import pytest
from bilge_core.document.car import Car
from bilge_core.errors import InvalidInput, InvalidQuantity
from bilge_core.loads.channels import ChannelName
from bilge_core.loads.corners import find_corners, place_on_lap
from bilge_core.loads.facts import log_facts
from bilge_core.loads.line import driven_line
from bilge_core.loads.log import Log, prepare
from bilge_core.loads.manoeuvres import Manoeuvre, manoeuvre_log
from bilge_core.loads.reading import Column, Reading
from bilge_core.loads.recording import read_log
from bilge_core.loads.sniff import LogFile, open_log
from bilge_core.physics.axes import apparent_gravity, engine_to_car
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import DEMO

HEAD = "time [s],speed [km/h],lateral g [g + left],longitudinal g [g + forward],rpm"


def csv(rows: list[str], head: str = HEAD) -> bytes:
    return "\n".join([head, *rows, ""]).encode()


def rows(count: int = 40) -> list[str]:
    return [f"{i / 10:.1f},100,0.5,-0.1,6000" for i in range(count)]


def with_column(file: LogFile, name: ChannelName, column: Column) -> Reading:
    return file.proposal.model_copy(update={"columns": {**file.proposal.columns, name: column}})


def places(data: bytes) -> list[tuple[str, str]]:
    with pytest.raises(InvalidInput) as refused:
        file = open_log(data)
        read_log(file, file.proposal)
    return [(problem.field, problem.message) for problem in refused.value.problems]


def test_reads_units_and_signs() -> None:
    head = "Time;Speed (mph);Lat Acc (m/s2 + right);Long Acc (m/s2 + braking);RPM"
    data = csv([f"{i};60;9,80665;4,903325;6000" for i in range(20)], head)
    file = open_log(data)
    log = read_log(file, with_column(file, "time", Column(heading="Time", unit="s")))
    assert log.speed[0] == pytest.approx(60 * 0.44704)  # mph exact by definition
    assert log.leftward[0] == pytest.approx(-9.80665)
    assert log.forward[0] == pytest.approx(-4.903325)
    assert log.engine_speed[0] == pytest.approx(6000 * 2 * math.pi / 60)


def test_finds_headings_below_a_preamble_and_skips_a_units_row() -> None:
    data = b"car,Dunlin\ndate,a Tuesday\n\n" + csv(["s,km/h,g,g,rpm", *rows()])
    file = open_log(data)
    assert file.header_line == 4
    assert len(read_log(file, file.proposal).time) == 40


@pytest.mark.parametrize(
    ("change", "field", "words"),
    [
        (lambda r: r.__setitem__(17, "1.7,fast,0.5,0,6000"), "line 19, column speed", "'fast'"),
        (lambda r: r.__setitem__(17, "1.7,100,0.5"), "line 19, column longitudinal", "no value"),
        (
            lambda r: r.__setitem__(17, "1.7,inf,0.5,0,6000"),
            "line 19, column speed",
            "not a number",
        ),
        (lambda r: r.__setitem__(17, "1.5,100,0.5,0,6000"), "line 19", "time goes back: 1.6 s"),
        (lambda r: r.__setitem__(17, "1.6,100,0.5,0,6000"), "line 19", "time stands still"),
        (lambda r: r.__setitem__(5, "0.5,100,12,0,6000"), "line 7, column lateral", "unit g?"),
        (lambda r: r.__delitem__(slice(5, None)), "file", "needs at least 20"),
    ],
)
def test_names_line_and_column(change, field: str, words: str) -> None:
    lines = rows()
    change(lines)
    found = places(csv(lines))
    assert found[0][0].startswith(field)
    assert words in found[0][1]


def test_names_a_missing_channel() -> None:
    data = csv([f"{i},100,0.5" for i in range(30)], "time [s],speed [km/h],lateral g [g + left]")
    assert dict(places(data)).keys() == {"channels.longitudinal", "channels.engine_speed"}


def test_asks_for_unit_and_sign_that_headings_do_not_say() -> None:
    found = dict(places(csv(rows(), "time,speed,lateral g,longitudinal g,rpm")))
    assert "unit is not said" in found["channels.speed.unit"]
    assert "left or right" in found["channels.lateral.positive"]
    assert "forward or braking" in found["channels.longitudinal.positive"]


def test_refuses_a_column_that_is_not_there() -> None:
    file = open_log(csv(rows()))
    mapping = with_column(file, "speed", Column(heading="velocity of oil", unit="km/h"))
    with pytest.raises(InvalidInput, match="there is no column 'velocity of oil'"):
        read_log(file, mapping)


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "is empty"),
        (b"\x00\x01\x02" * 100, "is not text"),
        (b"once upon a time\n" * 50, "no line of headings"),
        (HEAD.encode() + b'\n"' + b"x" * 200_000, "cannot be read as delimited"),
    ],
)
def test_refuses_what_is_no_log(data: bytes, words: str) -> None:
    assert words in places(data)[0][1]


def test_fifty_megabytes_of_junk_are_refused_at_once() -> None:
    junk = (b"0123456789abcdef" * 64 + b"\n") * (50 * 1024)
    assert "no line of headings" in places(junk)[0][1]


@settings(max_examples=150, deadline=None)
@given(st.binary(max_size=400))
def test_no_file_crashes_it(data: bytes) -> None:
    try:
        file = open_log(HEAD.encode() + b"\n" + data)
        read_log(file, file.proposal)
    except InvalidInput as refused:
        assert refused.problems


CELLS = st.one_of(
    st.floats(allow_nan=True, allow_infinity=True).map(str), st.text(max_size=6), st.just("")
)


@pytest.mark.long
@settings(max_examples=10_000, deadline=None)
@given(st.lists(st.lists(CELLS, max_size=7), max_size=30))
def test_no_table_crashes_it(table: list[list[str]]) -> None:
    text = "\n".join([HEAD, *(",".join(row) for row in table)])
    try:
        file: LogFile = open_log(text.encode("utf-8", "replace"))
        prepare(read_log(file, file.proposal))
    except InvalidInput as refused:
        assert refused.problems


def test_prepare_evens_steps_and_keeps_a_steady_load() -> None:
    time = np.cumsum(np.random.default_rng(1).uniform(0.008, 0.012, 500))
    one = np.ones(500)
    log = prepare(Log(time, 30 * one, 2 * one, -3 * one, 600 * one))
    assert np.ptp(np.diff(log.time)) < 1e-9
    assert np.allclose(log.leftward, -3.0)
    assert log.time[0] == 0.0


def test_prepare_thins_a_fast_log_and_takes_out_vibration() -> None:
    time = np.arange(0, 10, 0.001)
    shake = 9.8 * np.sin(2 * math.pi * 60 * time)
    log = prepare(Log(time, 30 + 0 * time, shake, shake, 600 + 0 * time))
    assert np.diff(log.time)[0] == pytest.approx(0.01)
    assert np.abs(log.leftward).max() < 0.15 * 9.8


def test_prepare_refuses_time_that_does_not_rise() -> None:
    with pytest.raises(InvalidQuantity, match="rising"):
        prepare(Log(np.array([0.0, 0.0]), *np.zeros((4, 2))))


@pytest.mark.parametrize(
    ("nose", "car_braking_throws"),
    [("front", (1, 0)), ("rear", (-1, 0)), ("left", (0, -1)), ("right", (0, 1))],
)
def test_layout_turns_the_load(nose: str, car_braking_throws: tuple[int, int]) -> None:
    """Braking throws oil to the car's front: with the crank's nose to the car's right, the
    car's front is on the engine's left."""
    car = Car(nose_points=nose, lean_right_deg=0, nose_up_deg=0)
    gravity = apparent_gravity(car, -9.80665, 0.0) / 9.80665
    assert gravity[:2] == pytest.approx(np.array(car_braking_throws), abs=1e-12)
    assert gravity[2] == pytest.approx(-1.0)


def test_lean_and_rake() -> None:
    leaned = Car(nose_points="front", lean_right_deg=12, nose_up_deg=0)
    down = apparent_gravity(leaned, 0.0, 0.0)
    assert down[1] < 0  # an engine leaned right has its oil on its right
    assert math.degrees(math.atan2(-down[1], -down[2])) == pytest.approx(12.0)
    raked = Car(nose_points="front", lean_right_deg=0, nose_up_deg=3)
    assert apparent_gravity(raked, 0.0, 0.0)[0] < 0  # nose up: oil to the rear
    both = engine_to_car(Car(nose_points="left", lean_right_deg=12, nose_up_deg=3))
    assert both @ both.T == pytest.approx(np.eye(3), abs=1e-12)
    assert np.linalg.det(both) == pytest.approx(1.0)


def test_apparent_gravity_refuses_what_is_no_number() -> None:
    with pytest.raises(InvalidQuantity, match="forward acceleration"):
        apparent_gravity(Car(nose_points="front", lean_right_deg=0, nose_up_deg=0), math.nan, 0.0)


def test_demo_lap_says_what_it_is(saltmarsh: Log) -> None:
    facts = log_facts(saltmarsh)
    assert facts.sentences[0].startswith("This lap turns mostly left: 360°")
    assert [corner.hand for corner in facts.corners].count("right") == 2
    assert len(facts.corners) == 9
    assert facts.doubts == ()


def test_wrong_signs_and_units_show_themselves(saltmarsh: Log) -> None:
    mirrored = Log(
        saltmarsh.time,
        saltmarsh.speed,
        -saltmarsh.forward,
        -saltmarsh.leftward,
        saltmarsh.engine_speed,
    )
    facts = log_facts(mirrored)
    assert "mostly right" in facts.sentences[0]
    assert any("longitudinal sign" in doubt for doubt in facts.doubts)
    small = Log(
        saltmarsh.time, saltmarsh.speed, saltmarsh.forward / 9.8, saltmarsh.leftward / 9.8,
        saltmarsh.engine_speed,
    )  # fmt: skip
    assert any("in g, not m/s2" in doubt for doubt in log_facts(small).doubts)
    slow = Log(
        saltmarsh.time, saltmarsh.speed / 3.6, saltmarsh.forward, saltmarsh.leftward,
        saltmarsh.engine_speed,
    )  # fmt: skip
    assert any("do not agree" in doubt for doubt in log_facts(slow).doubts)


def test_what_was_said_in_words_is_not_held_against_a_speed_that_nobody_logged() -> None:
    turn = Manoeuvre("corner", "left", 1.7, 0.5, 3.0, 860.0)
    facts = log_facts(manoeuvre_log(turn, Manoeuvre("braking", "left", 1.9, 0.5, 1.5, 860.0)))
    assert facts.doubts == ()
    assert facts.sentences[0] == "This lap has one left-hand corner."
    assert facts.sentences[-1] == "It lasts 10.0 s."
    assert "brakes at up to 1.90 g" in facts.sentences[1]


def test_line_of_a_whole_turn_is_a_circle_of_v_squared_over_a() -> None:
    """r = v²/a (uniform circular motion)."""
    speed, side = 20.0, 8.0
    time = np.linspace(0.0, 2 * math.pi * speed / side, 4001)
    one = np.ones_like(time)
    line = driven_line(Log(time, speed * one, 0 * one, side * one, one))
    radius = np.hypot(*(line - [0.0, speed**2 / side]).T)
    assert radius == pytest.approx(np.full(4001, speed**2 / side), rel=1e-4)


def test_corners_join_and_drop() -> None:
    time = np.arange(0, 30, 0.02)
    side = np.zeros_like(time)
    side[(time > 5) & (time < 7)] = 9
    side[(time > 7.4) & (time < 9)] = 9  # same hand, soon after: one corner
    side[(time > 15) & (time < 15.2)] = -9  # a twitch
    side[(time > 20) & (time < 23)] = -6
    log = Log(time, 30 + 0 * time, 0 * time, side, 600 + 0 * time)
    found = find_corners(log)
    assert [(c.number, c.hand) for c in found] == [(1, "left"), (2, "right")]
    assert found[0].start == pytest.approx(5.0, abs=0.3)
    assert found[0].end == pytest.approx(9.0, abs=0.3)
    assert place_on_lap(found, 6.0)[1] == "in corner 1"
    assert place_on_lap(found, 4.0)[1] == "into corner 1"
    assert place_on_lap(found, 10.0)[1] == "out of corner 1"
    assert place_on_lap(found, 14.0) == (None, "on a straight")
    with pytest.raises(InvalidQuantity, match="two samples"):
        find_corners(Log(*np.zeros((5, 1))))


def test_the_demo_log_is_what_its_generator_writes() -> None:
    from demo.generate import saltmarsh_csv

    kept = (DEMO / "saltmarsh.csv").read_text().splitlines()
    made = saltmarsh_csv().splitlines()
    assert kept[0] == made[0]
    numbers = [np.array([line.split(",") for line in text[1:]], float) for text in (kept, made)]
    assert np.abs(numbers[0] - numbers[1]).max() <= 1.0  # rounding of rpm at the most


@pytest.mark.parametrize("too_much", [-0.12, 0.0, 0.12])
def test_a_lap_whose_heading_drifts_comes_round(too_much: float) -> None:
    """A circle of 100 m driven at 30 m/s, the turning logged too small or too great."""
    time = np.linspace(0.0, 2.0 * math.pi * 100.0 / 30.0, 2001)
    sideways = np.full_like(time, 30.0**2 / 100.0 * (1.0 + too_much))
    log = Log(time, np.full_like(time, 30.0), 0.0 * time, sideways, 0.0 * time)
    line = driven_line(log)
    assert line[-1] == pytest.approx(line[0], abs=1e-6)
    away = np.linalg.norm(line - np.array([0.0, 100.0]), axis=1)
    assert away == pytest.approx(np.full_like(away, 100.0), abs=0.5)


@pytest.mark.parametrize(
    ("most", "doubted"), [(3.4, False), (3.6, True), (0.21, False), (0.19, True)]
)
def test_loads_that_no_car_reaches_are_doubted(most: float, doubted: bool) -> None:
    """More than 3.5 g or less than 0.2 g is likely another unit (ours)."""
    time = np.arange(0.0, 20.0, 0.05)
    side = most * 9.80665 * np.sin(0.4 * time)
    log = Log(time, np.full_like(time, 30.0), 0.0 * time, side, np.full_like(time, 500.0))
    assert any("are the columns in" in words for words in log_facts(log).doubts) == doubted
