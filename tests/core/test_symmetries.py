"""Symmetries and scaling laws of what is measured: gaps, held loads, laps, sensor, draft."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from bilge_core.clearance.keep_outs import clearances
from bilge_core.document.build import Build
from bilge_core.document.read import build_from
from bilge_core.loads.corners import find_corners
from bilge_core.loads.envelope import held_loads
from bilge_core.loads.laps import find_laps
from bilge_core.loads.line import driven_line
from bilge_core.loads.log import Log, prepare
from bilge_core.loads.reading import Sensor
from bilge_core.loads.recording import read_log
from bilge_core.loads.sensor import in_car
from bilge_core.loads.sniff import open_log
from bilge_core.pan import assemble_pan
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import DEMO

Make = Callable[..., dict[str, Any]]
G = 9.80665


def post(x: float, y: float, z: float, **more: Any) -> dict[str, Any]:
    """A cube of 20 mm with its middle at a place."""
    return {
        "kind": "box", "name": "post", "frame": "engine", "wanted_mm": 5,
        "from_mm": [x - 10, y - 10, z - 10], "to_mm": [x + 10, y + 10, z + 10], **more,
    }  # fmt: skip


def gap_of(make: Make, *rows: dict[str, Any], **changes: Any) -> list[float]:
    build = build_from(make(car__keep_outs=list(rows), **changes))
    found = sorted(clearances(build, assemble_pan(build)), key=lambda each: each.index)
    return [each.gap for each in found]


@pytest.fixture(scope="module")
def session() -> Log:
    file = open_log(DEMO / "saltmarsh-session.csv")
    return prepare(read_log(file, file.proposal))


@settings(max_examples=40, deadline=None)
@given(st.floats(430, 800), st.floats(-300, 300), st.floats(-300, -20))
def test_gaps_are_mirrored_by_a_mirrored_place(x: float, y: float, z: float) -> None:
    """The box pan is the same left and right, and front and rear about its middle at 200 mm."""
    make = _make()
    one, left, rear = gap_of(make, post(x, y, z), post(x, -y, z), post(400 - x, y, z))
    assert left == pytest.approx(one, abs=2e-5)
    assert rear == pytest.approx(one, abs=2e-5)


@settings(max_examples=40, deadline=None)
@given(st.floats(431, 700), st.floats(-110, 110), st.floats(-130, -10), st.floats(1, 200))
def test_a_gap_grows_by_what_a_thing_is_moved_away(
    x: float, y: float, z: float, away: float
) -> None:
    """Straight out from a wall that it stands in front of."""
    near, far = gap_of(_make(), post(x, y, z), post(x + away, y, z))
    assert far - near == pytest.approx(away * 1e-3, abs=2e-5)


@pytest.mark.parametrize("nose", ["front", "rear", "left", "right"])
def test_what_is_measured_along_the_engine_does_not_turn_with_it(
    box_document: Make, nose: str
) -> None:
    row = post(460, 30, -60)
    still = gap_of(box_document, row)[0]
    assert gap_of(box_document, row, car__nose_points=nose)[0] == pytest.approx(still, abs=1e-5)


def test_what_is_measured_along_the_car_does(box_document: Make) -> None:
    """Nose to the car's left: what is ahead of the engine is left of the car."""
    ahead = gap_of(box_document, post(460, 0, -60))[0]
    row = post(0, 460, -60, frame="car")
    assert gap_of(box_document, row, car__nose_points="left")[0] == pytest.approx(ahead, abs=1e-5)


def test_a_thick_wall_takes_its_thickness(box_document: Make) -> None:
    thin = gap_of(box_document, post(460, 0, -60), pan__sheet_mm=1)[0]
    thick = gap_of(box_document, post(460, 0, -60), pan__sheet_mm=5)[0]
    assert thin - thick == pytest.approx(4e-3)


def test_held_loads_of_a_mirrored_lap_are_mirrored(saltmarsh: Log) -> None:
    one = held_loads(saltmarsh)
    other = held_loads(replace(saltmarsh, leftward=-saltmarsh.leftward))
    flipped = np.concatenate([other.load[:, :1], other.load[:, :0:-1]], axis=1)
    assert one.load == pytest.approx(flipped)


def test_held_loads_grow_with_the_loads_and_not_with_the_laps(saltmarsh: Log) -> None:
    one = held_loads(saltmarsh).load
    stronger = replace(
        saltmarsh, forward=1.5 * saltmarsh.forward, leftward=1.5 * saltmarsh.leftward
    )
    assert held_loads(stronger).load == pytest.approx(1.5 * one)
    end = float(saltmarsh.time[-1])
    twice = Log(
        np.concatenate([saltmarsh.time, saltmarsh.time + end + 0.02]),
        *(
            np.tile(channel, 2)
            for channel in (
                saltmarsh.speed, saltmarsh.forward, saltmarsh.leftward, saltmarsh.engine_speed,
            )
        ),
    )  # fmt: skip
    assert np.all(held_loads(twice).load >= one - 1e-12)
    assert held_loads(twice).load == pytest.approx(one, abs=0.15)


def test_laps_of_a_mirrored_track_are_the_same(session: Log) -> None:
    blind = replace(session, place=None)
    mirrored = replace(blind, leftward=-blind.leftward)
    assert [lap.start for lap in find_laps(mirrored)] == pytest.approx(
        [lap.start for lap in find_laps(blind)]
    )


@pytest.mark.parametrize("seed", range(4))
def test_laps_are_found_through_noise(session: Log, seed: int) -> None:
    """0.1 g of noise on side g and 5 m on GPS move no lap by a second."""
    noise = np.random.default_rng(seed)
    assert session.place is not None
    shaken = replace(
        session,
        leftward=session.leftward + noise.normal(0, 0.1 * G, len(session.time)),
        place=session.place + noise.normal(0, 5.0, session.place.shape),
    )
    for log in (shaken, replace(shaken, place=None)):
        found = find_laps(log)
        assert len(found) == 4
        clean = find_laps(session)
        for one, other in zip(found[1:], clean[1:], strict=True):
            assert one.duration == pytest.approx(other.duration, abs=2.0)


def test_corners_of_a_lap_driven_the_other_way_round(saltmarsh: Log) -> None:
    back = replace(
        saltmarsh,
        speed=saltmarsh.speed[::-1],
        forward=-saltmarsh.forward[::-1],
        leftward=-saltmarsh.leftward[::-1],
        engine_speed=saltmarsh.engine_speed[::-1],
    )
    there, again = find_corners(saltmarsh), find_corners(back)
    assert len(there) == len(again)
    turned = {"left": "right", "right": "left"}
    assert [c.hand for c in again] == [turned[c.hand] for c in reversed(there)]


def test_a_faster_sampled_log_draws_the_same_line(saltmarsh: Log) -> None:
    half = Log(*(channel[::2] for channel in (
        saltmarsh.time, saltmarsh.speed, saltmarsh.forward, saltmarsh.leftward,
        saltmarsh.engine_speed,
    )))  # fmt: skip
    fine, coarse = driven_line(saltmarsh)[::2], driven_line(half)
    assert np.hypot(*(fine[: len(coarse)] - coarse).T).max() < 3.0


@given(st.floats(-180, 180), st.floats(-180, 180))
def test_turning_a_sensor_twice_is_turning_it_once(first: float, second: float) -> None:
    time = np.arange(0.0, 2.0, 0.1)
    log = Log(time, 30 + 0 * time, 3.0 + 0 * time, -1.0 + 0 * time, time)
    twice, _ = in_car(in_car(log, Sensor(turned_left_deg=first), None)[0],
                      Sensor(turned_left_deg=second), None)  # fmt: skip
    total = (first + second + 180.0) % 360.0 - 180.0
    once, _ = in_car(log, Sensor(turned_left_deg=total), None)
    assert twice.forward == pytest.approx(once.forward, abs=1e-9)
    assert math.hypot(twice.forward[0], twice.leftward[0]) == pytest.approx(math.sqrt(10.0))


@settings(max_examples=30, deadline=None)
@given(st.floats(0.2, 20.0), st.floats(0.2, 20.0))
def test_more_draft_never_holds_more(one: float, other: float) -> None:
    make = _make()

    def holds(degrees: float) -> float:
        build: Build = build_from(make(pan__zones__0__draft_deg=degrees))
        return assemble_pan(build).capacity_to_rail

    low, high = sorted((one, other))
    assert holds(high) <= holds(low) + 1e-12
    assert holds(low) < 0.4 * 0.24 * 0.14


def _make() -> Make:
    """The box document outside a fixture: hypothesis asks for many in one test."""
    from tests import conftest

    return conftest.box_document.__wrapped__()  # type: ignore[attr-defined,no-any-return]
