"""The accelerometer's frame, laps by several words, and what a lap holds in each direction."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from bilge_core.document.car import Car
from bilge_core.errors import InvalidQuantity
from bilge_core.loads.corners import find_corners, named_corners, place_on_lap
from bilge_core.loads.envelope import held_loads
from bilge_core.loads.laps import find_laps
from bilge_core.loads.log import Log, prepare
from bilge_core.loads.reading import Sensor
from bilge_core.loads.sensor import in_car, standing_stretch
from bilge_core.physics.axes import apparent_gravity
from bilge_core.physics.gravity import STANDARD_GRAVITY
from hypothesis import given
from hypothesis import strategies as st

G = 9.80665


def stand_then_turn(pitch: float, roll: float, with_vertical: bool) -> Log:
    """A sensor pitched down and rolled right by angles [rad]: standing, then a 0.8 g turn."""
    time = np.arange(0.0, 20.0, 0.02)
    moving = time >= 8.0
    car = np.column_stack([0 * time, np.where(moving, 0.8 * G, 0.0), G + 0 * time])
    about_y = np.array(
        [[math.cos(pitch), 0, math.sin(pitch)], [0, 1, 0], [-math.sin(pitch), 0, math.cos(pitch)]]
    )
    about_x = np.array(
        [[1, 0, 0], [0, math.cos(roll), -math.sin(roll)], [0, math.sin(roll), math.cos(roll)]]
    )
    felt = car @ (about_x @ about_y)
    up = felt[:, 2] if with_vertical else None
    return Log(time, 20.0 * moving, felt[:, 0], felt[:, 1], 600 + 0 * time, up)


@given(st.floats(-0.4, 0.4), st.floats(-0.4, 0.4))
def test_levelling_undoes_any_tilt(pitch: float, roll: float) -> None:
    """A rotation and its inverse; a tilt has no yaw but what pitch and roll together make."""
    levelled, said = in_car(stand_then_turn(pitch, roll, True), Sensor(level_standing=True), None)
    assert levelled.upward is not None
    assert levelled.upward[-1] == pytest.approx(G, rel=1e-6)
    assert math.hypot(levelled.forward[-1], levelled.leftward[-1]) == pytest.approx(0.8 * G)
    assert levelled.forward[0] == pytest.approx(0.0, abs=1e-9)
    tilt = math.degrees(math.acos(math.cos(pitch) * math.cos(roll)))
    assert f"tilt of {tilt:.1f}°" in said[0]


def test_levelling_without_vertical_takes_it_as_one_g() -> None:
    levelled, _ = in_car(stand_then_turn(0.05, 0.0, False), Sensor(level_standing=True), None)
    assert levelled.upward is None
    assert levelled.forward[-1] == pytest.approx(0.0, abs=0.02)
    assert levelled.leftward[-1] == pytest.approx(0.8 * G, rel=1e-3)


def test_levelling_needs_a_car_that_stands() -> None:
    time = np.arange(0.0, 10.0, 0.1)
    moving = Log(time, 5 + 0 * time, *np.zeros((3, 100)))  # neither stands nor drives
    assert standing_stretch(moving) is None
    with pytest.raises(InvalidQuantity, match="2 s or more in which the car stands"):
        in_car(moving, Sensor(level_standing=True), None)


def test_a_sensor_on_its_side_is_not_levelled() -> None:
    felt = stand_then_turn(0.0, 1.3, True)
    with pytest.raises(InvalidQuantity, match="less than 60"):
        in_car(felt, Sensor(level_standing=True), None)


@pytest.mark.parametrize("turned", [-90.0, 30.0, 180.0])
def test_turned_axes(turned: float) -> None:
    """The car pulls 1 g to the left; a sensor turned to the left sees it turned back."""
    time = np.arange(0.0, 2.0, 0.1)
    angle = math.radians(90.0 - turned)
    felt = Log(
        time, 30 + 0 * time, G * math.cos(angle) + 0 * time, G * math.sin(angle) + 0 * time, time
    )
    turned_log, _ = in_car(felt, Sensor(turned_left_deg=turned), None)
    assert turned_log.leftward[0] == pytest.approx(G)
    assert turned_log.forward[0] == pytest.approx(0.0, abs=1e-9)


def test_moved_with_the_yaw_rate_is_circular_motion() -> None:
    """On a circle the acceleration grows with the radius: a = yaw² r (textbook)."""
    yaw, radius = 0.6, 40.0
    time = np.arange(0.0, 10.0, 0.02)
    one = np.ones_like(time)
    log = Log(time, 24 * one, 0 * one, yaw**2 * radius * one, one)
    moved, said = in_car(log, Sensor(ahead_mm=1500, left_mm=500), yaw * one)
    # the sensor is 0.5 m nearer to the centre on the left than the engine
    assert moved.leftward[250] == pytest.approx(yaw**2 * (radius + 0.5))
    assert moved.forward[250] == pytest.approx(yaw**2 * 1.5)
    assert "by up to 0.06 g" in said[0]


def test_a_quickening_turn_pushes_the_nose() -> None:
    """Tangential acceleration = yaw' x r: a sensor 2 m behind the engine feels less of it."""
    time = np.arange(0.0, 4.0, 0.02)
    one = np.ones_like(time)
    yaw = 0.5 * time
    moved, _ = in_car(Log(time, 20 * one, 0 * one, 0 * one, one), Sensor(ahead_mm=-2000), yaw)
    assert moved.leftward[100] == pytest.approx(2.0 * 0.5, rel=1e-6)


def test_a_quickening_turn_holds_a_sensor_on_the_left_back() -> None:
    """yaw' x r: turning left, what sits 2 m left of the engine gets backward acceleration."""
    time = np.arange(0.0, 4.0, 0.02)
    one = np.ones_like(time)
    yaw = 0.5 * time
    moved, _ = in_car(Log(time, 20 * one, 0 * one, 0 * one, one), Sensor(left_mm=2000), yaw)
    assert moved.forward[100] == pytest.approx(2.0 * 0.5, rel=1e-6)


def test_moving_needs_the_yaw_rate() -> None:
    time = np.arange(0.0, 2.0, 0.1)
    with pytest.raises(InvalidQuantity, match="yaw rate"):
        in_car(Log(time, *np.zeros((4, 20))), Sensor(ahead_mm=100), None)


def test_vertical_g_is_felt_and_held_off_nil() -> None:
    car = Car(nose_points="front", lean_right_deg=0, nose_up_deg=0)
    felt = apparent_gravity(car, 0.0, np.full(3, G), np.array([1.4 * G, G, -0.3 * G])) / G
    assert felt[:, 2] == pytest.approx([-1.4, -1.0, -0.1])
    # in a compression of 1.4 g, 1 g of side load tilts the oil by atan(1/1.4)
    assert math.degrees(math.atan2(-felt[0, 1], -felt[0, 2])) == pytest.approx(35.54, abs=0.01)


def test_a_skid_pad_has_no_laps_of_bends() -> None:
    time = np.arange(0.0, 120.0, 0.05)
    one = np.ones_like(time)
    assert len(find_laps(Log(time, 20 * one, 0 * one, 9 * one, one))) == 1


def test_an_oval_is_split_by_whole_turns_not_halves() -> None:
    """Two like halves: what repeats after half a lap has turned half a turn only."""
    time = np.arange(0.0, 120.0, 0.05)
    speed = 30.0
    phase = (time * speed) % 500.0
    bend = np.where(phase < 250.0, 0.0, math.pi / 250.0)
    log = Log(time, speed + 0 * time, 0 * time, speed**2 * bend, 600 + 0 * time)
    laps = find_laps(log)
    assert [lap.duration for lap in laps if lap.whole] == pytest.approx(
        [1000.0 / speed] * 2, abs=0.2
    )


def test_what_is_held_in_each_direction() -> None:
    time = np.arange(0.0, 30.0, 0.02)
    side = np.zeros_like(time)
    side[(time >= 5) & (time <= 8)] = -1.2 * G  # a right turn throws oil to the left: 90°
    side[(time >= 12) & (time <= 12.3)] = -1.6 * G
    held = held_loads(Log(time, 30 + 0 * time, 0 * time, side, time), (0.1, 1.0, 2.0, 4.0), 8)
    left = held.load[:, 2]
    assert np.degrees(held.thrown[2]) == pytest.approx(90.0)
    assert left == pytest.approx([1.6, 1.2, 1.2, 0.0])
    assert held.load[1, 1] == pytest.approx(1.2 * math.cos(math.pi / 4))
    assert np.all(np.diff(held.load, axis=0) <= 1e-12)  # longer is never more


def test_what_is_held_is_no_more_than_the_cloud(saltmarsh: Log) -> None:
    held = held_loads(saltmarsh)
    most = np.hypot(saltmarsh.forward, saltmarsh.leftward).max() / G
    assert held.load.max() <= most
    for fault in ({"directions": 3}, {"holds": (0.0,)}, {"holds": (math.nan,)}):
        with pytest.raises(InvalidQuantity):
            held_loads(saltmarsh, **fault)  # type: ignore[arg-type]


def test_named_corners_are_said_by_name(saltmarsh: Log) -> None:
    found = find_corners(saltmarsh)
    spans = [(f"bend {c.number}" if c.number == 2 else None, c.start, c.end) for c in found]
    named = named_corners(saltmarsh, spans)
    assert [c.hand for c in named] == [c.hand for c in found]
    inside = (named[1].start + named[1].end) / 2
    assert place_on_lap(named, inside)[1] == "in bend 2"
    assert place_on_lap(named, named[0].start + 0.1)[1] == "in corner 1"


@pytest.mark.parametrize(
    ("spans", "words"),
    [
        ([(None, 5.0, 8.0), (None, 7.0, 9.0)], "after the one before"),
        ([(None, 500.0, 510.0)], "inside the lap"),
        ([(None, 5.0, 5.001)], "inside the lap"),
        ([(None, math.nan, 6.0)], "inside the lap"),
    ],
)
def test_corners_that_cannot_be(saltmarsh: Log, spans: list, words: str) -> None:
    with pytest.raises(InvalidQuantity, match=words):
        named_corners(saltmarsh, spans)


def test_prepare_carries_all_channels(saltmarsh: Log) -> None:
    one = np.ones_like(saltmarsh.time)
    full = Log(
        saltmarsh.time, saltmarsh.speed, saltmarsh.forward, saltmarsh.leftward,
        saltmarsh.engine_speed, G * one, np.column_stack([one, 2 * one]), 4e5 * one, 380 * one,
    )  # fmt: skip
    again = prepare(full.between(10.0, 30.0))
    assert again.duration == pytest.approx(20.0, abs=0.03)
    assert again.upward == pytest.approx(np.full(len(again.time), G))
    assert again.place is not None
    assert again.place.shape == (len(again.time), 2)
    assert again.oil_pressure == pytest.approx(np.full(len(again.time), 4e5))


def tilted_lap(saltmarsh: Log, nose_up_deg: float, right_deg: float) -> tuple[Log, np.ndarray]:
    """A lap without a stop as a tilted sensor feels it, and its yaw rate."""
    from bilge_core.loads.line import heading

    up, right = np.radians([nose_up_deg, right_deg])
    felt = replace(
        saltmarsh,
        forward=saltmarsh.forward * np.cos(up) + STANDARD_GRAVITY * np.sin(up),
        leftward=saltmarsh.leftward * np.cos(right) + STANDARD_GRAVITY * np.sin(right),
    )
    return felt, np.gradient(heading(saltmarsh), saltmarsh.time)


def test_levelled_by_the_cars_motion_where_nothing_stands(saltmarsh: Log) -> None:
    felt, yaw = tilted_lap(saltmarsh, 4.0, -3.0)
    levelled, said = in_car(felt, Sensor(level_standing=True), yaw)
    assert "the change of speed and the turning over the whole log" in said[0]
    assert np.median(levelled.forward - saltmarsh.forward) == pytest.approx(0.0, abs=0.15)
    assert np.median(levelled.leftward - saltmarsh.leftward) == pytest.approx(0.0, abs=0.15)
    half, said = in_car(felt, Sensor(level_standing=True), None)  # nothing tells the side
    assert "fore and aft alone" in said[0]
    assert np.median(half.forward - saltmarsh.forward) == pytest.approx(0.0, abs=0.15)
    with pytest.raises(InvalidQuantity, match="stands or drives"):
        in_car(replace(felt, speed=5.0 + 0.0 * felt.speed), Sensor(level_standing=True), None)


def test_a_tilt_that_the_numbers_show_is_offered(saltmarsh: Log) -> None:
    felt, yaw = tilted_lap(saltmarsh, 4.0, 0.0)
    _, said = in_car(felt, Sensor(), None)
    assert said == (
        "Longitudinal g reads 0.07 g more than its change of speed tells: the sensor seems to tilt "
        "by 4°. Levelling takes it out.",
    )
    leaned, yaw = tilted_lap(saltmarsh, 0.0, -6.0)
    assert in_car(leaned, Sensor(), yaw)[1][0].startswith("Side g reads 0.11 g less")
    assert in_car(saltmarsh, Sensor(), yaw)[1] == ()
    slight, yaw = tilted_lap(saltmarsh, 2.5, 0.0)  # on the near side of the edge, 2.9 degrees
    assert in_car(slight, Sensor(), yaw)[1] == ()
    more, yaw = tilted_lap(saltmarsh, 3.4, 0.0)
    assert len(in_car(more, Sensor(), yaw)[1]) == 1


@pytest.mark.parametrize(
    "stands", [((0, 4), (20, 30)), ((0, 10), (20, 24)), ((0, 9), (20, 26), (40, 48))]
)
def test_of_several_stands_the_longest_is_taken(stands: tuple[tuple[int, int], ...]) -> None:
    time = np.arange(0.0, 60.0, 0.1)
    speed = np.full_like(time, 20.0)
    for start, end in stands:
        speed[(time >= start - 1e-9) & (time < end - 1e-9)] = 0.0
    longest = max(stands, key=lambda each: each[1] - each[0])
    found = standing_stretch(Log(time, speed, *np.zeros((3, len(time)))))
    assert found == (longest[0] * 10, longest[1] * 10)
