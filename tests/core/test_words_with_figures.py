"""Figures in the words of a refusal: each by hand, in the unit that stands behind it."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, date, datetime
from typing import Any

import numpy as np
import pytest
import trimesh
from bilge_core.agreement.as_usual import as_usual
from bilge_core.agreement.sensor_shown import readings_a_second
from bilge_core.document.build import Build
from bilge_core.document.read import build_from, read_build
from bilge_core.drains.laid import Drain, drains_of
from bilge_core.errors import InvalidInput, InvalidQuantity
from bilge_core.job.settings import CardSettings
from bilge_core.lines.ports import _O_RING, _usual_thread
from bilge_core.loads.facts import _odd_together
from bilge_core.loads.log import Log
from bilge_core.loads.sniff import _are_units
from bilge_core.moving.lap import _in_pan
from bilge_core.options.choice import _lap_words
from bilge_core.pan import assemble_pan
from bilge_core.pan.filling import running_oil
from bilge_core.rules.dry import OUTLET_COVER
from bilge_core.rules.gallery import ENGINE_RUNS
from bilge_core.scan.mesh_file import _hold
from bilge_core.scan.traced import _ring
from bilge_core.scavenge.sizing import _moved_outlet
from bilge_core.scavenge.tank import tank_of, tank_space
from bilge_core.shop.threads import THREADS
from bilge_core.tell.drains import _size
from bilge_core.tell.job import _begin

from tests.conftest import DEMO, steady_log
from tests.turbo import RUN, SANDPIPER, changed

CURLEW = read_build((DEMO / "curlew.json").read_text())
DUNLIN = read_build((DEMO / "dunlin.json").read_text())


def test_a_mouth_beside_the_pan_is_refused_with_where_it_is(
    box_document: Callable[..., dict[str, Any]],
) -> None:
    build = build_from(box_document(pickup__x_mm=540, pickup__y_mm=-310))
    with pytest.raises(InvalidInput, match="540 mm ahead of the rear face and -310 mm left"):
        assemble_pan(build)


def test_a_mouth_that_reaches_out_is_refused_with_where_it_does(
    box_document: Callable[..., dict[str, Any]],
) -> None:
    """At x 385 and y 110 a mouth of 40 mm reaches over both walls, at x 400 and y 120."""
    build = build_from(box_document(pickup__x_mm=385, pickup__y_mm=110))
    with pytest.raises(InvalidInput) as caught:
        assemble_pan(build)
    found = re.search(r"edge, (\d+) mm ahead of the rear face and (\d+) mm left", str(caught.value))
    assert found
    ahead, left = float(found[1]), float(found[2])
    assert (ahead - 385.0) ** 2 + (left - 110.0) ** 2 == pytest.approx(20.0**2, abs=30.0)
    assert ahead > 400.0 or left > 120.0


def test_a_top_speed_that_goes_with_no_grip_is_told_in_kilometres_an_hour() -> None:
    log = steady_log(0.0, 0.5, 30.0)
    (odd,) = _odd_together(80.0, 0.62, 0.0, log)
    assert odd.startswith("288 km/h with no more than 0.62 g in corners")


def test_metric_threads_are_drilled_a_pitch_under_their_size() -> None:
    """Common practice, and the handbooks' figures: M10 x 1 takes 9 mm, M14 x 1.5 takes 12.5."""
    drills = {each.size: each.drill for each in THREADS.values() if each.family == "metric"}
    assert drills["M14x1.5"] == "12.5 mm"


def test_oil_that_the_engine_holds_all_of_is_told_in_litres() -> None:
    pan, there = assemble_pan(DUNLIN), running_oil(DUNLIN)
    held = there + 0.0014
    words = f"the engine holds {held * 1e3:.1f} L as the lap begins, of {there * 1e3:.1f} L (hot)"
    assert 4.0 < there * 1e3 < 12.0  # litres of a car's engine
    with pytest.raises(InvalidInput, match=re.escape(words)):
        _in_pan(DUNLIN, pan, held)
    room = pan.solid.volume
    tight = replace(pan, solid=replace(pan.solid, volumes=pan.solid.volumes * 0.1))
    with pytest.raises(InvalidInput, match=f"puts {there * 1e3:.1f} L in the pan"):
        _in_pan(DUNLIN, tight, 0.0)
    assert tight.solid.volume == pytest.approx(0.1 * room)


def test_an_outline_smaller_than_a_thumbnail_is_told_in_square_millimetres() -> None:
    small = np.array([[0.0, 0.0], [0.004, 0.0], [0.004, 0.005], [0.0, 0.005]])
    with pytest.raises(InvalidQuantity, match="outline is 20 mm2; it must be larger"):
        _ring("outline", small)


@pytest.mark.parametrize(("under", "begins"), [(0.0, "The gallery keeps"), (0.06, "Without")])
def test_a_dip_however_short_is_no_pressure_kept(under: float, begins: str) -> None:
    assert _lap_words(1.0, under, 2.1e5, 1).startswith(begins)


@pytest.mark.parametrize(("more", "said"), [(0.04e-3, ""), (0.06e-3, "0.1 L less would do")])
def test_an_outlet_in_the_middle_is_offered_from_a_decimal_of_a_litre_on(
    more: float, said: str
) -> None:
    upright = np.array([[0.0, 0.0, 1.0]])
    middle = tank_space(tank_of(CURLEW).model_copy(update={"outlet": "middle"}))
    needs = middle.to_cover(OUTLET_COVER.least, upright[0]) + more
    words = _moved_outlet(CURLEW, np.array([0.05, 0.0, 0.0]), needs, upright)
    assert said in words and bool(words) == bool(said)


@pytest.mark.parametrize(("row", "are"), [("s,km/h,one,two", False), ("s,km/h,g,two", True)])
def test_a_row_is_of_units_where_more_than_half_of_it_are(row: str, are: bool) -> None:
    assert _are_units(row.split(",")) is are


def test_a_pan_in_a_wrong_unit_is_told_as_long_as_it_would_be() -> None:
    for size, said in ((0.0004, "0.4 mm long"), (4000.0, "4,000,000 mm long")):
        with pytest.raises(InvalidInput, match=said):
            _hold(trimesh.creation.box((size, size, size)))


def test_a_drains_size_is_its_lines_dash_or_its_narrowest_bore() -> None:
    sized = {dash: changed(SANDPIPER, lambda raw, d=dash: _run(raw)["line"].update(
        {"kind": "hose", "dash": d, "bore_mm": None if d else 14.6}))
        for dash in (12, None)}  # fmt: skip
    told = {dash: _size(build, _drain(build)) for dash, build in sized.items()}
    assert told == {12: "size 12", None: "15 mm"}


def _run(raw: dict[str, Any]) -> dict[str, Any]:
    return next(each for each in raw["circuit"]["runs"] if each["id"] == RUN)


def _drain(build: Build) -> Drain:
    return next(each for each in drains_of(build).placed if each.run == RUN)


@pytest.mark.parametrize(
    ("wanted", "begins"),
    [
        (None, datetime(2026, 5, 4, 14, 30)),
        (date(2026, 5, 3), datetime(2026, 5, 4, 14, 30)),  # gone by
        (date(2026, 5, 4), datetime(2026, 5, 4, 14, 30)),  # today
        (date(2026, 5, 5), datetime(2026, 5, 5, 0, 0)),
    ],
)
def test_work_begins_now_or_as_its_day_does(wanted: date | None, begins: datetime) -> None:
    now = datetime(2026, 5, 4, 14, 30, tzinfo=UTC)
    assert _begin(CardSettings(begins_on=wanted), now) == begins


@pytest.mark.parametrize(("dash", "thread"), [(3, 4), (4, 4), (5, 5), (10, 10)])
def test_no_port_has_a_smaller_ring_than_size_four(dash: int, thread: int) -> None:
    assert {_usual_thread(kind, dash) for kind in _O_RING} == {f"o_ring {thread}"}


@pytest.mark.parametrize(("jumps", "every"), [(2, 1), (3, 40)])
def test_three_readings_tell_how_often_a_gauge_is_read_and_two_do_not(
    jumps: int, every: int
) -> None:
    """Held for 40 rows of 20 ms each; of two jumps there is one wait, which may be anything."""
    time = np.arange(0.0, 0.02 * 40 * (jumps + 1), 0.02)[: 40 * (jumps + 1)]
    values = np.repeat(np.arange(1.0, jumps + 2.0), 40)
    assert readings_a_second(time, values) == pytest.approx(50.0 / every)


def test_the_engine_runs_from_its_slowest_speed_on() -> None:
    """Readings taken just there count, and those a hair under it do not."""
    time = np.arange(0.0, 20.0, 0.05)
    rows = [
        Log(time, *np.zeros((3, time.size)), np.full(time.size, speed), oil_pressure=time + 2e5)
        for speed in (ENGINE_RUNS.least, 0.999 * ENGINE_RUNS.least)
    ]
    assert len(as_usual(rows[:1]).at(np.array([ENGINE_RUNS.least]))) == 1
    with pytest.raises(InvalidQuantity, match="oil pressure"):
        as_usual(rows[1:])
