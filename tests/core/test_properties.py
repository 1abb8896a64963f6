"""Whatever a user can put together is judged or refused with the field named: no crash, no NaN.

The same with thousands of cases runs in ./bilge test --long.
"""

from __future__ import annotations

import copy
import json
import math
from typing import Any

import numpy as np
import pytest
from bilge_core.acts.deepen import deepen
from bilge_core.agreement.poured import explain_poured
from bilge_core.checks.pan import check_pan
from bilge_core.clearance.ground import ground_clearance
from bilge_core.document.build import Build
from bilge_core.document.dipped import Dipped
from bilge_core.document.read import build_from
from bilge_core.errors import BilgeError, InvalidInput
from bilge_core.forecast import forecast_settled
from bilge_core.loads.log import Log, prepare
from bilge_core.loads.manoeuvres import KINDS, Manoeuvre, manoeuvre_log
from bilge_core.loads.recording import read_log
from bilge_core.loads.sniff import open_log
from bilge_core.pan import assemble_pan, column_volumes, columns_of, inside_faces
from bilge_core.pan.sections import cut_pan
from bilge_core.physics.axes import apparent_gravity
from bilge_core.settled import cover_rose, settle, settle_lap
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.conftest import DEMO

GATED = json.loads((DEMO / "dunlin-gated.json").read_text())
QUICK = settings(max_examples=80, deadline=None, suppress_health_check=[HealthCheck.too_slow])
LONG = settings(max_examples=10_000, deadline=None, suppress_health_check=list(HealthCheck))


def leaves(part: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """Paths of all figures and words in a document."""
    if isinstance(part, dict):
        return [p for key, each in part.items() for p in leaves(each, (*path, key))]
    if isinstance(part, list):
        return [p for key, each in enumerate(part) for p in leaves(each, (*path, key))]
    return [path]


LEAVES = leaves(GATED)
VALUES = (
    st.floats(-3000, 3000)
    | st.floats(allow_nan=True, allow_infinity=True)
    | st.integers(-5, 400)
    | st.none()
    | st.text(max_size=8)
    | st.just([])
    | st.just({})
)


def spoiled(changes: dict[tuple[Any, ...], Any]) -> dict[str, Any]:
    document = copy.deepcopy(GATED)
    for path, value in changes.items():
        holder = document
        for key in path[:-1]:
            holder = holder[key]
        holder[path[-1]] = value
    return document


def judge(document: dict[str, Any]) -> None:
    """Everything the screens ask of a build; a refusal must name a field."""
    try:
        build = build_from(document)
        pan = assemble_pan(build)
    except InvalidInput as refused:
        assert refused.problems
        assert all(problem.field and problem.message for problem in refused.problems)
        return
    assert 0.0 < pan.oil_volume <= pan.solid.volume
    log = manoeuvre_log(Manoeuvre("chicane", "left", 1.2, 0.4, 0.6, 600.0))
    lap = settle_lap(pan, build, log)
    assert np.all(np.isfinite(lap.cover))
    assert np.all((lap.gas_share >= 0.0) & (lap.gas_share <= 1.0))
    assert lap.zones.sum(axis=1) == pytest.approx(
        np.full(len(log.time), pan.oil_volume), rel=2e-3, abs=1e-6
    )
    assert not np.any(np.isnan(cover_rose(pan, build.car, directions=8).edge))
    for face in inside_faces(pan):
        assert np.all(np.isfinite(face.corners))
    for across, at in (("x", pan.mouth.centre[0]), ("y", pan.mouth.centre[1])):
        section = cut_pan(pan, across, float(at))  # type: ignore[arg-type]
        assert section.inside
    assert check_pan(build, pan, 700.0)
    gap = ground_clearance(build, pan)
    assert gap is None or math.isfinite(gap.gap)
    explain_poured(build, Dipped.model_validate({"engine": "in_car", "points": POINTS}))


POINTS = [{"poured_l": 2.0, "level_mm": 40.0}, {"poured_l": 3.0, "level_mm": 51.0}]


@QUICK
@given(st.dictionaries(st.sampled_from(LEAVES), VALUES, min_size=1, max_size=4))
def test_any_document_is_judged_or_refused(changes: dict[tuple[Any, ...], Any]) -> None:
    judge(spoiled(changes))


@pytest.mark.long
@LONG
@given(st.dictionaries(st.sampled_from(LEAVES), VALUES, min_size=1, max_size=6))
def test_ten_thousand_documents(changes: dict[tuple[Any, ...], Any]) -> None:
    judge(spoiled(changes))


@QUICK
@given(
    st.floats(-0.05, 0.08),
    st.none() | st.lists(st.integers(0, 4), max_size=4),
)
def test_deepening_by_anything(by: float, zones: list[int] | None) -> None:
    build = Build.model_validate(GATED)
    try:
        done = deepen(build, by, zones)
    except BilgeError:
        return
    assert math.copysign(1.0, done.capacity_gained) == math.copysign(1.0, by)
    assert done.build.pickup.gap_mm == build.pickup.gap_mm
    try:
        back = deepen(done.build, -by, zones)
    except BilgeError:  # taken away again it may be refused only where it was at an edge
        return
    assert back.capacity_gained == pytest.approx(-done.capacity_gained, abs=1e-12)


@QUICK
@given(
    st.sampled_from(KINDS),
    st.sampled_from(("left", "right")),
    st.floats(0.01, 4.0),
    st.floats(0.01, 5.0),
    st.floats(0.05, 30.0),
)
def test_any_manoeuvre_can_be_judged(
    kind: Any, hand: Any, level: float, ramp: float, hold: float
) -> None:
    log = prepare(manoeuvre_log(Manoeuvre(kind, hand, level, ramp, hold, 650.0)))
    result = forecast_settled(Build.model_validate(GATED), log)
    assert np.all(np.isfinite(result.lap.cover))
    assert result.dry_time.dry <= log.duration
    assert abs(log.leftward).max() <= level * 9.80665 * 1.001


LINES = (DEMO / "saltmarsh.csv").read_bytes().splitlines(keepends=True)[:60]
JUNK = st.binary(max_size=30) | st.sampled_from(
    [
        b"",
        b"\n",
        b",,,,,\n",
        b"nan,nan,nan,nan,nan,nan\n",
        b"1e999,1,1,1,1,1\n",
        b'"',
        b"\x00",
        b";;",
    ]
)


def read_any(data: bytes) -> None:
    try:
        file = open_log(data)
        log: Log = prepare(read_log(file, file.proposal))
    except BilgeError as refused:
        assert str(refused)
        return
    assert np.all(np.isfinite(log.leftward))
    assert np.all(np.diff(log.time) > 0)


def torn(cuts: list[tuple[int, bytes]]) -> bytes:
    """The demo's log with lines replaced, and the last one cut anywhere."""
    lines = list(LINES)
    for at, junk in cuts:
        lines[at % len(lines)] = junk
    return b"".join(lines)


CUTS = st.lists(st.tuples(st.integers(0, 200), JUNK), max_size=5)


@QUICK
@given(CUTS)
def test_any_log_is_read_or_refused(cuts: list[tuple[int, bytes]]) -> None:
    read_any(torn(cuts))


@pytest.mark.long
@LONG
@given(CUTS, st.binary(max_size=200))
def test_ten_thousand_logs(cuts: list[tuple[int, bytes]], tail: bytes) -> None:
    read_any(torn(cuts) + tail)
    read_any(tail)


@QUICK
@given(st.floats(-2.5, 2.5), st.floats(-2.5, 2.5))
def test_litres_by_zone_are_all_there_under_any_load(side: float, fore: float) -> None:
    build = Build.model_validate(GATED)
    pan = assemble_pan(build)
    surface = settle(pan, apparent_gravity(build.car, 9.8 * fore, 9.8 * side))
    shares = column_volumes(columns_of(pan), surface.normal[None, :], np.array([surface.level]))
    assert shares.sum() == pytest.approx(pan.oil_volume, rel=1e-6)
    assert shares.min() >= -1e-15
