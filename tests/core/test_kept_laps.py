"""Laps and forecast as they are kept with a session: read back, and what is no lap is refused."""

from __future__ import annotations

import io
from typing import Any

import numpy as np
import pytest
from bilge_core.agreement import judged
from bilge_core.agreement.dips_met import Frozen
from bilge_core.agreement.judged import Named, judge, kept_of, read_kept_laps
from bilge_core.errors import InvalidQuantity
from bilge_core.loads.corners import Corner
from bilge_core.loads.log import Log

TIME = np.arange(0.0, 20.0, 0.05)
CORNERS = (Corner(1, "left", 1.0, 3.0, 0.9), Corner(2, "right", 5.0, 6.0, 0.8, "Mill bend"))


def lap(**changed: Any) -> Log:
    side = 9.0 * np.sin(TIME)
    log = {
        "time": TIME, "speed": np.full(400, 30.0), "forward": 0.0 * TIME, "leftward": side,
        "engine_speed": np.full(400, 500.0), "oil_pressure": np.full(400, 5e5),
        "place": np.column_stack([TIME, TIME]),
    }  # fmt: skip
    return Log(**{**log, **changed})


def frozen() -> Frozen:
    flat = np.full(400, 5e5)
    return Frozen(lap(), CORNERS, TIME, flat, flat, np.array([100.0, 800.0]), np.array([5e5, 5e5]))


def with_arrays(**changed: Any) -> bytes:
    """What is kept of one lap and its forecast, some of its arrays otherwise."""
    with np.load(io.BytesIO(kept_of(frozen(), [Named("Lap 1", lap())]))) as stored:
        rows = {name: stored[name] for name in stored.files}
    out = io.BytesIO()
    np.savez_compressed(out, **{**rows, **changed})
    return out.getvalue()


def test_what_is_kept_is_read_back() -> None:
    found, laps = read_kept_laps(kept_of(frozen(), [Named("Lap 1", lap()), Named("=2", lap())]))
    assert found is not None and found.corners == CORNERS
    assert [each.name for each in laps] == ["Lap 1", "=2"]
    assert laps[0].log.leftward == pytest.approx(lap().leftward, abs=1e-5)
    assert judge(laps, found).laps[0].met == ()


def test_the_same_laps_are_the_same_bytes() -> None:
    once = kept_of(frozen(), [Named("Lap 1", lap())])
    found, laps = read_kept_laps(once)
    assert kept_of(found, laps) == once


@pytest.mark.parametrize(
    "changed",
    [
        {"lap0_time": TIME[:1]},
        {"lap0_time": TIME**2},
        {"lap0_time": -TIME},
        {"lap0_speed": TIME[:5]},
        {"lap0_oil_pressure": np.full(400, np.nan)},
        {"lap0_place": np.zeros((400, 3))},
        {"forecast_pressure": np.full(400, np.inf)},
        {"forecast_speed": np.array([800.0, 100.0])},
        {"forecast_steady": np.array([0.0, 5e5])},
        {"corners": np.zeros((2, 4))},
        {"names": np.array(["Lap 1", "Lap 2"])},
        {"lap0_leftward": np.array(["x"] * 400)},
    ],
    ids=lambda changed: next(iter(changed)),
)
def test_what_is_no_lap_is_refused(changed: Any) -> None:
    with pytest.raises(InvalidQuantity, match="kept laps"):
        read_kept_laps(with_arrays(**changed))


@pytest.mark.parametrize(("part", "is_even"), [(0.009, True), (0.011, False)])
def test_a_laps_time_is_even_to_a_hundredth_of_its_step(part: float, is_even: bool) -> None:
    time = TIME.copy()
    time[-1] += part * 0.05
    data = with_arrays(lap0_time=time)
    if is_even:
        assert read_kept_laps(data)[1][0].log.time[-1] == time[-1]
    else:
        with pytest.raises(InvalidQuantity, match="kept laps"):
            read_kept_laps(data)


def test_neither_is_what_is_no_archive_or_too_large(monkeypatch: pytest.MonkeyPatch) -> None:
    with pytest.raises(InvalidQuantity, match="kept laps"):
        read_kept_laps(b"PK\x03\x04 and nothing")
    data = with_arrays()
    monkeypatch.setattr(judged, "_LARGEST", 10_000)
    with pytest.raises(InvalidQuantity, match="kept laps"):
        read_kept_laps(data)


def test_laps_without_a_pressure_or_of_elsewhere_are_named() -> None:
    bare = Named("Out lap", lap(oil_pressure=None))
    other = Named("Elsewhere", lap(leftward=9.0 * np.sin(0.3 * TIME**2)))
    found = judge([Named("Lap 1", lap()), bare, other], frozen())
    assert [(each.name, each.why.split()[0]) for each in found.left_out] == [
        ("Out lap", "has"), ("Elsewhere", "is")
    ]  # fmt: skip
    with pytest.raises(InvalidQuantity, match="oil pressure"):
        judge([bare], frozen())
    with pytest.raises(InvalidQuantity, match="another circuit"):
        judge([other], frozen())
