"""Twelve files as loggers write them: headings run together, short, foreign; units glued or gone.

The lap is the demo's own. Each is read on the program's own guesses: what it holds must come out
as it went in, so that one press is all it takes.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
from bilge_core.errors import InvalidInput
from bilge_core.loads.facts import log_facts
from bilge_core.loads.guesses import Guess, complete
from bilge_core.loads.headings import understand_heading
from bilge_core.loads.importing import Columns, read_columns
from bilge_core.loads.laps import find_laps
from bilge_core.loads.line import distance_driven, heading
from bilge_core.loads.log import Log, prepare
from bilge_core.loads.reading import Column, Reading
from bilge_core.loads.recording import read_recording, recording_from, wanted_headings
from bilge_core.loads.sniff import open_log
from bilge_core.loads.words import words_of
from bilge_core.physics.gravity import STANDARD_GRAVITY

EARTH = 6_371_008.8


def channels(log: Log) -> dict[str, np.ndarray]:
    """A lap by plain names, SI but g, signs of ISO 8855."""
    line = np.column_stack([
        np.cumsum(log.speed * np.cos(heading(log))) * (log.time[1] - log.time[0]),
        np.cumsum(log.speed * np.sin(heading(log))) * (log.time[1] - log.time[0]),
    ])  # fmt: skip
    latitude, longitude = 0.9, 0.1
    return {
        "t": log.time - log.time[0],
        "v": log.speed,
        "left": log.leftward / STANDARD_GRAVITY,
        "fore": log.forward / STANDARD_GRAVITY,
        "rpm": log.engine_speed * 30 / math.pi,
        "yaw": np.gradient(heading(log), log.time),
        "far": distance_driven(log),
        "lat": np.degrees(latitude + line[:, 1] / EARTH),
        "lon": np.degrees(longitude + line[:, 0] / EARTH / math.cos(latitude)),
        "water": np.full_like(log.time, 91.0),
    }


# heading, channel, factor; the separator and decimals; whether the hand can be told at all
FILES: dict[str, tuple[list[tuple[str, str, float]], dict[str, Any]]] = {
    "run together, no units": (
        [("time", "t", 1), ("gpsspeed", "v", 3.6), ("lataccel", "left", 1),
         ("longaccel", "fore", 1), ("enginerpm", "rpm", 1), ("watertemp", "water", 1)], {}),
    "camel case, glued units": (
        [("TimeMs", "t", 1e3), ("VehSpdKmh", "v", 3.6), ("LatAccG", "left", 1),
         ("LongAccG", "fore", 1), ("EngRPM", "rpm", 1)], {}),
    "underscores, m/s2, braking positive": (
        [("time_s", "t", 1), ("speed_mph", "v", 2.236936), ("acc_lat", "left", 9.80665),
         ("acc_long", "fore", -9.80665), ("engine_rpm", "rpm", 1)], {}),
    "axis letters with yaw, right positive": (
        [("t", "t", 1), ("v", "v", 1), ("accelY", "left", -1), ("accelX", "fore", 1),
         ("gyroZ [deg/s] (+left)", "yaw", 57.29578), ("rpm", "rpm", 1)], {"told": True}),
    "German": (
        [("Zeit [s]", "t", 1), ("Geschwindigkeit", "v", 3.6), ("Querbeschleunigung", "left", 1),
         ("Längsbeschleunigung", "fore", 1), ("Motordrehzahl", "rpm", 1)],
        {"separator": ";", "comma": True}),
    "French": (
        [("Temps", "t", 1), ("Vitesse_kmh", "v", 3.6), ("Accélération latérale (g)", "left", 1),
         ("Accélération longitudinale (g)", "fore", 1), ("Régime moteur", "rpm", 1)],
        {"separator": ";"}),
    "Spanish": (
        [("Tiempo", "t", 1), ("Velocidad", "v", 3.6), ("AceleracionLateral", "left", 9.80665),
         ("AceleracionLongitudinal", "fore", 9.80665), ("RPM motor", "rpm", 1)], {}),
    "Italian": (
        [("Tempo", "t", 1), ("Velocità", "v", 3.6), ("Acc_laterale", "left", 1),
         ("Acc_longitudinale", "fore", 1), ("Giri motore", "rpm", 1)], {"separator": "\t"}),
    "Dutch": (
        [("Tijd", "t", 1e3), ("Snelheid", "v", 3.6), ("Dwarsversnelling", "left", 1),
         ("Langsversnelling", "fore", 1), ("Toerental", "rpm", 1)], {"separator": ";"}),
    "Portuguese, GPS": (
        [("Tempo", "t", 1), ("Velocidade", "v", 3.6), ("Aceleração lateral", "left", -1),
         ("Aceleração longitudinal", "fore", 1), ("Rotação do motor", "rpm", 1),
         ("Latitude", "lat", 1), ("Longitude", "lon", 1)], {"told": True}),
    "by distance, sign glued": (
        [("LapDist_m", "far", 1), ("Speed", "v", 2.236936), ("G_Lat(+right)", "left", -1),
         ("G_Long", "fore", 1), ("nMot", "rpm", 1)], {"told": True}),
    "GPS position in short, no signs": (
        [("timestamp", "t", 1e3), ("GPS_Lat", "lat", 1), ("GPS_Long", "lon", 1),
         ("GPS_Speed", "v", 3.6), ("gLat", "left", -1), ("gLong", "fore", -1), ("Revs", "rpm", 1)],
        {"told": True}),
}  # fmt: skip


def written(log: Log, name: str) -> bytes:
    rows, how = FILES[name]
    known = channels(log)
    separator, comma = how.get("separator", ","), how.get("comma", False)
    table = np.column_stack([known[channel] * factor for _, channel, factor in rows])

    def cell(value: float) -> str:
        return f"{value:.7f}".replace(".", ",") if comma else f"{value:.7f}"

    lines = [separator.join(heading for heading, _, _ in rows)]
    lines += [separator.join(cell(value) for value in row) for row in table]
    return "\n".join(lines).encode()


def read(data: bytes) -> tuple[Log, tuple[Guess, ...]]:
    file = open_log(data)
    columns = read_columns(file, wanted_headings(file.proposal))
    reading, guesses = complete(columns, file.proposal)
    return prepare(recording_from(columns, reading).log), guesses


@pytest.mark.parametrize("name", FILES)
def test_a_file_as_loggers_write_it_needs_one_press(saltmarsh: Log, name: str) -> None:
    log, guesses = read(written(saltmarsh, name))
    assert log.duration == pytest.approx(saltmarsh.duration, rel=0.01)
    assert log.speed.max() == pytest.approx(saltmarsh.speed.max(), rel=0.01)
    assert log.engine_speed.max() == pytest.approx(saltmarsh.engine_speed.max(), rel=0.01)
    # smoothed once more on the way in
    assert log.forward.min() == pytest.approx(saltmarsh.forward.min(), rel=0.03)
    side = log.leftward.max() / saltmarsh.leftward.max()
    if not FILES[name][1].get("told"):  # nothing in the file tells the hand, and that is said
        assert any("nothing in the file tells" in guess.reason for guess in guesses)
    assert side == pytest.approx(1.0, rel=0.03)
    assert all(guess.reason for guess in guesses)
    assert not log_facts(log).doubts


def test_what_is_said_is_not_guessed(saltmarsh: Log) -> None:
    _, guesses = read(written(saltmarsh, "camel case, glued units"))
    assert {guess.field for guess in guesses} == {
        "channels.longitudinal.positive", "channels.lateral.positive",
    }  # fmt: skip


@pytest.mark.parametrize(
    ("heading", "channel"),
    [
        ("WheelSpeedFL", None), ("Water temp", None), ("BrakePressFront", None),
        ("Throttle_pct", None), ("SteeringAngle", None), ("Gear", None), ("Heading", None),
        ("GPS altitude", None), ("Lap time delta", None), ("OilPress_bar", "oil_pressure"),
        ("Öltemperatur", "oil_temperature"), ("gyro_z", "yaw_rate"), ("acc_z", "vertical"),
        ("Runde", "lap"), ("Strecke_m", "distance"),
    ],
)  # fmt: skip
def test_what_a_heading_means(heading: str, channel: str | None) -> None:
    assert understand_heading(heading).channel == channel


def test_an_odd_speed_for_the_grip_is_said(saltmarsh: Log) -> None:
    from dataclasses import replace

    slow = replace(saltmarsh, speed=saltmarsh.speed * 1.4, leftward=saltmarsh.leftward * 0.7)
    assert any("km/h with no more than" in doubt for doubt in log_facts(slow).doubts)
    fine = log_facts(saltmarsh).doubts
    assert not any("km/h with no more than" in doubt for doubt in fine)
    # side g and speed of different units: the lap does not come round
    open_ended = replace(saltmarsh, leftward=saltmarsh.leftward * 0.7)
    assert any("does not close" in doubt for doubt in log_facts(open_ended).doubts)
    assert not any("does not close" in doubt for doubt in fine)


def test_no_figure_is_minus_nil(saltmarsh: Log) -> None:
    from dataclasses import replace

    still = replace(saltmarsh, forward=0.0 * saltmarsh.forward, leftward=-0.0 * saltmarsh.leftward)
    assert "-0.00" not in " ".join(log_facts(still).sentences)


HEAD = "time [s],speed [m/s],lateral g [g + left],longitudinal g [g + forward],rpm"


def with_times(times: np.ndarray) -> bytes:
    return "\n".join([HEAD, *(f"{t:.2f},30,0.5,0,6000" for t in times)]).encode()


def test_a_clock_that_jumps_back_in_mid_lap_is_refused() -> None:
    lap = np.arange(0.0, 60.0, 0.1)
    file = open_log(with_times(np.concatenate([lap, lap])))
    assert read_recording(file, file.proposal).lap_starts == pytest.approx((60.0,))
    jumps = open_log(with_times(np.concatenate([lap[:400], lap[250:]])))
    with pytest.raises(InvalidInput, match=r"line 402: time jumps back from 39\.9 to 25 s in the"):
        read_recording(jumps, jumps.proposal)


def test_a_part_lap_is_no_whole_one(saltmarsh: Log) -> None:
    """The last of three ends 6 % early: quickest, but not whole."""
    from dataclasses import replace

    parts = [saltmarsh, saltmarsh, saltmarsh.between(0.0, 0.94 * saltmarsh.duration)]
    step = float(saltmarsh.time[1] - saltmarsh.time[0])
    joined = {
        name: np.concatenate([getattr(part, name) for part in parts])
        for name in ("speed", "forward", "leftward", "engine_speed")
    }
    time = np.arange(len(joined["speed"])) * step
    log = prepare(replace(saltmarsh, time=time, **joined))
    edges = (len(saltmarsh.time) * step, 2 * len(saltmarsh.time) * step)
    assert [lap.whole for lap in find_laps(log, edges)] == [True, True, False]


@pytest.mark.parametrize(("most", "unit"), [(3.9, "g"), (4.1, "m/s2")])
def test_up_to_four_is_g_and_beyond_it_no_cars(most: float, unit: str) -> None:
    """Ours: no car holds 4 g, and 4 m/s2 is a slow one."""
    time = np.arange(0.0, 60.0, 0.1)
    side = np.where(np.sin(time) > 0.0, most, -most)
    fixed = {"time": ("t", "s"), "speed": ("v", "km/h"), "longitudinal": ("x", "g")}
    columns = {name: Column(heading=h, unit=u) for name, (h, u) in fixed.items()}
    columns["lateral"] = Column(heading="y", unit="")
    values = {"t": time, "v": 90.0 + 0 * time, "x": 0.1 * np.sin(time), "y": side}
    told, _ = complete(
        Columns(values, np.arange(len(time))),
        Reading.model_validate({"columns": columns}),
    )
    assert told.columns["lateral"].unit == unit


@pytest.mark.parametrize(("begins", "is_lap"), [(0.9, True), (1.3, False)])
def test_a_clock_begins_again_within_a_second(begins: float, is_lap: bool) -> None:
    lap = np.arange(0.0, 60.0, 0.1)
    file = open_log(with_times(np.concatenate([lap, lap + begins])))
    if is_lap:
        assert len(read_recording(file, file.proposal).lap_starts) == 1
    else:
        with pytest.raises(InvalidInput, match="jumps back"):
            read_recording(file, file.proposal)


@pytest.mark.parametrize(("share", "whole"), [(0.98, True), (0.96, False)])
def test_a_lap_is_whole_within_three_in_a_hundred(share: float, whole: bool) -> None:
    """Ours; at an even speed distance is time."""
    ends = np.cumsum([60.0, 60.0, 60.0 * share])
    time = np.arange(0.0, ends[-1], 0.1)
    one = np.ones_like(time)
    log = Log(time, 30 * one, 0 * one, 0 * one, 600 * one)
    laps = find_laps(log, (float(ends[0]), float(ends[1])))
    assert [lap.whole for lap in laps] == [True, True, whole]


@pytest.mark.parametrize(
    ("top", "side_g", "odd"), [(76.0, 0.9, True), (74.0, 0.9, False), (76.0, 1.1, False)]
)
def test_what_speed_and_grip_do_not_go_together(top: float, side_g: float, odd: bool) -> None:
    """Ours: beyond 75 m/s with under 1 g."""
    time = np.arange(0.0, 30.0, 0.1)
    one = np.ones_like(time)
    side = side_g * STANDARD_GRAVITY * np.where((time > 10.0) & (time < 14.0), 1.0, 0.0)
    speed = top - 1e-3 * (time < 1.0)  # an even one would be nobody's
    doubts = log_facts(Log(time, speed, 0 * one, side, 600 * one)).doubts
    assert any("with no more than" in doubt for doubt in doubts) == odd


@pytest.mark.parametrize("unit", ["km/h", "m/s", "mph"])
def test_a_speed_without_a_unit_is_the_one_that_adds_up_to_the_distance(unit: str) -> None:
    """Four minutes at 30 m/s are 7.2 km, written in kilometres; nothing pulls or brakes."""
    time = np.arange(0.0, 240.0, 0.1)
    factor = {"km/h": 3.6, "m/s": 1.0, "mph": 3600.0 / 1609.344}[unit]
    values = {"t": time, "v": np.full(len(time), 30.0 * factor), "d": 30.0 * time / 1e3}
    columns = {
        "time": Column(heading="t", unit="s"), "speed": Column(heading="v", unit=""),
        "distance": Column(heading="d", unit="km"),
    }  # fmt: skip
    table = Columns(values, np.arange(len(time)))
    told, guesses = complete(table, Reading.model_validate({"columns": columns}))
    assert told.columns["speed"].unit == unit
    assert [each.reason for each in guesses] == ["so it adds up to the distance driven"]


@pytest.mark.parametrize(("top", "unit"), [(54.0, "m/s"), (56.0, "km/h")])
def test_a_speed_of_which_nothing_tells_is_guessed_by_how_far_it_reaches(
    top: float, unit: str
) -> None:
    time = np.arange(0.0, 60.0, 0.1)
    columns = {"time": Column(heading="t", unit="s"), "speed": Column(heading="v", unit="")}
    table = Columns({"t": time, "v": np.full(len(time), top)}, np.arange(len(time)))
    told, (guess,) = complete(table, Reading.model_validate({"columns": columns}))
    assert told.columns["speed"].unit == unit
    assert guess.words == f"speed is in {unit}: it reaches {top:.0f}; nothing else tells"


def test_a_yaw_rate_that_is_positive_to_the_right_tells_the_hand(saltmarsh: Log) -> None:
    """Signs of ISO 8855 are the other way round; rows come by their rate, without a clock."""
    known = channels(saltmarsh)
    names = {"speed": "v", "lateral": "left", "longitudinal": "fore", "yaw_rate": "yaw"}
    units = {"speed": "m/s", "lateral": "g", "longitudinal": "g", "yaw_rate": "rad/s"}
    columns = {name: Column(heading=names[name], unit=units[name]) for name in names}
    columns["yaw_rate"] = Column(heading="yaw", unit="rad/s", positive="right")
    values = {heading: known[heading] for heading in names.values()}
    values["yaw"] = -values["yaw"]
    rate = 1.0 / float(saltmarsh.time[1] - saltmarsh.time[0])
    reading = Reading.model_validate({"columns": columns, "sample_rate_hz": rate})
    told, _ = complete(Columns(values, np.arange(len(known["t"]))), reading)
    assert told.columns["lateral"].positive == "left"


def test_a_word_of_two_letters_may_stand_between_others_and_a_lone_letter_at_an_end() -> None:
    assert words_of("rpmnolap") == ("rpm", "no", "lap")
    assert words_of("speedms") == ("speed", "ms")
    assert words_of("accely") == ("accel", "y")
    assert words_of("accelyrpm") == ("accelyrpm",)
