"""Moving oil on whole builds: the demo's laps, any build, quick cells against fine ones."""

from __future__ import annotations

import dataclasses
import json
import math
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from bilge_core.cli.check import check
from bilge_core.document.build import Build
from bilge_core.document.read import build_from
from bilge_core.errors import InvalidInput, InvalidQuantity
from bilge_core.forecast.moving import forecast_moving, spread_of_starts
from bilge_core.loads.log import Log, at_times
from bilge_core.loads.manoeuvres import Manoeuvre, manoeuvre_log
from bilge_core.moving.basin import RESOLUTIONS
from bilge_core.moving.lap import MovingOil
from bilge_core.moving.record import read_frames
from bilge_core.pan import assemble_pan, level_of_volume
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.conftest import DEMO

RPM = math.pi / 30.0


def test_a_corner_in_moving_oil(dunlin: Build) -> None:
    log = manoeuvre_log(Manoeuvre("corner", "left", 1.2, 0.4, 2.0, 5000 * RPM))
    seen: list[float] = []
    records: list[bytes] = []
    forecast = forecast_moving(
        dunlin, log, watch=lambda look: seen.append(look.time), record=records.append
    )
    assert len(seen) == len(forecast.lap.time) == round(log.duration * 50) + 1
    assert forecast.verdict.state == "not_safe"
    assert forecast.dry_time.dry > 0.5
    total = forecast.lap.volume + forecast.lap.held
    assert total == pytest.approx(np.full(len(total), total[0]), rel=1e-6)
    frames = read_frames(records[0])
    assert len(frames.time) == len(seen) // 2 + 1


def test_a_run_can_be_ended(dunlin: Build) -> None:
    class EndedError(Exception):
        pass

    def stop(look: Any) -> None:
        if look.time >= 0.1:
            raise EndedError

    log = manoeuvre_log(Manoeuvre("corner", "left", 1.2, 0.4, 2.0, 500.0))
    with pytest.raises(EndedError):
        forecast_moving(dunlin, log, watch=stop)


def test_too_short_a_log_is_refused(dunlin: Build) -> None:
    with pytest.raises(InvalidQuantity, match="two samples"):
        forecast_moving(dunlin, Log(np.zeros(1), *np.zeros((4, 1))))


def test_channels_at_other_times_keep_what_was_logged() -> None:
    log = Log(np.arange(3.0), *np.ones((4, 3)), place=np.array([[0.0, 0], [1, 2], [2, 4]]))
    there = at_times(log, np.array([0.5]))
    assert there.place is not None and there.place.tolist() == [[0.5, 1.0]]
    assert there.upward is None


def test_spread_of_starts() -> None:
    spread = spread_of_starts([1.0, 1.2, 1.4], [0.0, 0.0, 0.1])
    assert (spread.mean, spread.deviation) == pytest.approx((1.2, 0.2))
    assert not spread.holds and spread_of_starts([1.0], [0.0]).holds
    with pytest.raises(InvalidQuantity):
        spread_of_starts([], [])
    with pytest.raises(InvalidQuantity):
        spread_of_starts([1.0, 1.2], [0.0])


def test_check_with_moving_oil(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    log = (DEMO / "saltmarsh.csv").read_text().splitlines()
    short = tmp_path / "short.csv"
    short.write_text("\n".join(log[:330]))
    words = [str(DEMO / "dunlin-gated.json"), str(short), "--slosh", "quick"]
    status = check([*words, "--starts", "2", "--json", "--frames", str(tmp_path / "oil.npz")])
    told = json.loads(capsys.readouterr().out)
    moving = told["moving"]
    assert status == (1 if moving["mouths"][0]["dips"] else 0)
    assert moving["cells"] == "quick"
    assert len(told["starts"]["dry_s"]) == 2
    assert len(told["centre_mm"]) == len(moving["samples"]["time_s"])
    assert "at the pickup" in moving["samples"]["litres"]
    assert set(moving["samples"]["gates_open"]) == {"P1, G3", "R1, G1", "L1, G2"}
    assert read_frames((tmp_path / "oil.npz").read_bytes()).gate_names[0] == "P1, G3"
    check(words)
    said = capsys.readouterr().out
    assert "Moving oil, coarse cells" in said and "Gate P1, G3: open" in said


@pytest.mark.parametrize(
    ("words", "message"),
    [
        (["--starts", "3"], "needs --slosh"),
        (["--frames", "oil.npz"], "needs --slosh"),
        (["--slosh", "quick", "--starts", "0"], "must be 1 to 50"),
    ],
)
def test_check_says_what_does_not_go(
    words: list[str], message: str, capsys: pytest.CaptureFixture[str]
) -> None:
    assert check([str(DEMO / "dunlin.json"), str(DEMO / "saltmarsh.csv"), *words]) == 2
    assert message in capsys.readouterr().err


@pytest.mark.long
def test_a_minute_of_the_demo_lap_keeps_its_oil(dunlin_gated: Build, saltmarsh: Log) -> None:
    """With gates: no oil lost and, brought to rest, it takes up the room of its volume."""
    log = saltmarsh.between(0.0, 60.0)
    pan = assemble_pan(dunlin_gated)
    moving = MovingOil(dunlin_gated, pan, log, RESOLUTIONS["quick"])
    oil, domain = moving.coupled.oil, moving.coupled.oil.domain
    totals = [oil.volume + moving.coupled.held for _ in moving.run()]
    assert np.ptp(totals) < 1e-6 * totals[0]
    rest = moving.load(0.0) * 0.0 + np.array([0.0, 0.0, -9.81])
    fillings = []
    level = level_of_volume(pan.solid, np.array([0.0, 0.0, 1.0]), oil.volume)
    nx, ny, nz = domain.shape
    height = domain.centres()[2][np.unravel_index(domain.fluid, (nx + 2, ny + 2, nz + 2))[2] - 1]
    deep = domain.fluid[height < level - 0.015]
    for _ in range(300):
        oil.advance(min(0.01, oil.settled_step(0.01)), rest)
        fillings.append(float(oil.filling_flat[deep] @ domain.room[deep] / domain.room[deep].sum()))
    assert np.mean(fillings[-100:]) == pytest.approx(1.0, abs=0.005)


NAMED = {
    "corner left": Manoeuvre("corner", "left", 1.2, 0.4, 3.0, 5000 * RPM),
    "corner right": Manoeuvre("corner", "right", 1.2, 0.4, 3.0, 5000 * RPM),
    "quick corner": Manoeuvre("corner", "left", 1.3, 0.2, 1.5, 5000 * RPM),
    "gentle corner": Manoeuvre("corner", "left", 0.8, 0.6, 3.0, 5000 * RPM),
    "braking": Manoeuvre("braking", "left", 1.3, 0.2, 2.0, 5000 * RPM),
    "launch": Manoeuvre("launch", "left", 0.9, 0.3, 2.0, 5000 * RPM),
    "chicane": Manoeuvre("chicane", "left", 1.1, 0.3, 0.8, 5000 * RPM),
    "slow chicane": Manoeuvre("chicane", "right", 0.9, 0.4, 1.2, 5000 * RPM),
    "drift": Manoeuvre("drift", "left", 1.0, 0.4, 1.2, 5000 * RPM),
    "skid-pad left": Manoeuvre("skid_pad", "left", 1.0, 1.0, 4.0, 5000 * RPM),
    "skid-pad right": Manoeuvre("skid_pad", "right", 1.0, 1.0, 4.0, 5000 * RPM),
    "hill": Manoeuvre("hill", "left", 0.4, 0.5, 3.0, 5000 * RPM),
}


@pytest.mark.long
def test_quick_cells_against_fine_ones(dunlin: Build) -> None:
    apart = {}
    for name, manoeuvre in NAMED.items():
        log = manoeuvre_log(manoeuvre)
        quick, fine = (
            forecast_moving(dunlin, log, size).dry_time.dry for size in ("quick", "fine")
        )
        apart[name] = abs(quick - fine)
    assert np.mean(list(apart.values())) < 0.06, apart


def any_zones(
    draw: Any, length: float, half: float, split: float, depth: float, shelf: float
) -> list[dict[str, Any]]:
    """A sump and a shelf or ramp behind it."""
    return [
        {
            "name": "sump",
            "outline_mm": [[split, -half], [length, -half], [length, half], [split, half]],
            "floor": {"kind": "flat", "depth_mm": depth},
            "draft_deg": draw(st.sampled_from([0.0, 0.0, 8.0])),
        },
        {
            "name": "shelf",
            "outline_mm": [[0, -half], [split, -half], [split, half], [0, half]],
            "floor": draw(
                st.sampled_from(
                    [
                        {"kind": "flat", "depth_mm": shelf},
                        {"kind": "ramp", "runs": "lengthways", "from_depth_mm": shelf,
                         "to_depth_mm": depth},
                    ]
                )
            ),
        },
    ]  # fmt: skip


@st.composite
def any_build(draw: Any) -> dict[str, Any]:
    """A pan of one to three zones with a plate or two, some oil and a mouth."""
    number = st.floats
    length, width = draw(number(200, 400)), draw(number(150, 260))
    depth, shelf = draw(number(90, 180)), draw(number(30, 80))
    split = draw(number(0.35, 0.65)) * length
    half = width / 2
    zones = any_zones(draw, length, half, split, depth, shelf)
    turn = draw(number(-0.8, 0.8))
    x = split + 0.25 * (length - split)
    reach = 0.8 * half
    plates = [
        {
            "kind": "vertical", "name": "P1",
            "from_mm": [x - 0.2 * turn * 40, -reach], "to_mm": [x + 0.2 * turn * 40, reach],
            "top_depth_mm": draw(number(-20, 60)),
            "openings": [
                {
                    "name": "G1", "from_start_mm": 0.6 * reach, "width_mm": draw(number(20, 60)),
                    "lower_depth_mm": depth - 4, "height_mm": draw(number(15, 26)),
                    "gate": draw(
                        st.sampled_from(
                            [None, {"swings": "right", "leaf": "rubber", "leak_pct": 4.0},
                             {"swings": "left", "leaf": "metal", "leak_pct": 0.0}]
                        )
                    ),
                }
            ],
        }
    ]  # fmt: skip
    return {
        "format": "bilge-build", "version": 2, "name": "any",
        "car": {"nose_points": draw(st.sampled_from(["front", "left", "rear"])),
                "lean_right_deg": draw(number(-30, 30)), "nose_up_deg": draw(number(-5, 5))},
        "oil": {"grade": "5W-40", "volume_l": draw(number(1.5, 5.0)), "away_l": 0.2,
                "temperature_c": draw(number(-10, 130))},
        "pan": {"zones": zones, "skirt_height_mm": draw(st.sampled_from([0.0, 60.0])),
                "plates": draw(st.sampled_from([[], plates, plates]))},
        "pickup": {"x_mm": (x + length) / 2 + 10, "y_mm": 0.0,
                   "mouth": {"kind": "round", "diameter_mm": 30}, "gap_mm": draw(number(4, 15))},
        "pump": {"displacement_cm3": draw(number(4, 30)), "drive_ratio": 0.6},
    }  # fmt: skip


@pytest.mark.long
@given(any_build(), st.integers(0, 2**32 - 1))
@settings(
    max_examples=20, deadline=None, derandomize=True,
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much],
)  # fmt: skip
def test_any_build_under_any_load_keeps_its_oil(document: dict[str, Any], seed: int) -> None:
    try:
        build = build_from(document)
        pan = assemble_pan(build)
    except InvalidInput:
        return
    random = np.random.default_rng(seed)
    time = np.arange(0.0, 6.0, 0.02)
    side, fore, up = (
        np.interp(time, np.arange(0.0, 6.5, 0.5), random.uniform(-1.8, 1.8, 13)) * 9.81
        for _ in range(3)
    )
    log = Log(
        time, np.full_like(time, 20.0), fore, side, random.uniform(100, 800) + 0.0 * time,
        upward=9.81 + 0.4 * up,
    )  # fmt: skip
    oil = MovingOil(build, pan, log, RESOLUTIONS["quick"])
    total = oil.coupled.oil.volume + oil.coupled.held
    for look in oil.run():
        assert math.isfinite(look.sight.cover) and np.all(np.isfinite(look.sight.centre))
        assert oil.coupled.oil.volume + oil.coupled.held == pytest.approx(total, rel=1e-6)
    rows = oil.coupled.oil.rows[: oil.coupled.oil.count]
    assert np.all(np.isfinite(rows))


def test_the_crank_is_in_oil_while_more_than_a_splash_is(dunlin_gated: Build) -> None:
    """Fifty looks a second: 50 of them above 20 ml are one second, those at 20 ml are none."""
    log = Log(np.arange(0.0, 0.1, 0.02), *np.zeros((4, 5)))
    oil = MovingOil(dunlin_gated, assemble_pan(dunlin_gated), log, RESOLUTIONS["quick"])
    lap = oil.lap(list(oil.run()))
    crank = np.concatenate([np.full(50, 21e-6), np.full(30, 20e-6), np.full(30, 0.0)])
    assert dataclasses.replace(lap, crank=crank).crank_time() == pytest.approx(1.0)


def test_the_load_of_a_step_is_that_of_its_middle(dunlin_gated: Build) -> None:
    """Half a step late, a lap would be of other loads: second order in time is lost."""
    time = np.arange(0.0, 0.5, 0.02)
    log = Log(time, 30 + 0 * time, 20.0 * time, 0 * time, 300 + 0 * time)
    oil = MovingOil(dunlin_gated, assemble_pan(dunlin_gated), log, RESOLUTIONS["quick"])
    steps: list[tuple[float, float, np.ndarray]] = []
    real = oil.coupled.advance

    def look(step: float, load: np.ndarray) -> None:
        steps.append((oil.coupled.oil.time, step, load))
        real(step, load)

    oil.coupled.advance = look  # type: ignore[method-assign]
    for _ in zip(oil.run(), range(5), strict=False):
        pass
    assert len(steps) >= 4
    for begun, step, load in steps:
        assert load == pytest.approx(oil.load(begun + 0.5 * step))
        assert abs(load[0] - oil.load(begun)[0]) > 1e-3


def test_every_channel_is_carried_to_other_times() -> None:
    """Drawn straight between samples; what was not logged stays so."""
    time = np.arange(4.0)
    two = np.column_stack([10 * time, -time])
    channels = [time * k for k in (1.0, 2.0, 3.0, 4.0)]
    log = Log(time, *channels, 9.8 + time, two, 1e5 * time, 300 + time)
    there = at_times(log, np.array([0.5, 2.25]))
    wanted = np.array([0.5, 2.25])
    found = (there.speed, there.forward, there.leftward, there.engine_speed)
    for k, channel in enumerate(found, start=1):
        assert channel == pytest.approx(k * wanted)
    assert there.upward == pytest.approx(9.8 + wanted)
    assert there.place == pytest.approx(np.column_stack([10 * wanted, -wanted]))
    assert there.oil_pressure == pytest.approx(1e5 * wanted)
    assert there.oil_temperature == pytest.approx(300 + wanted)
    bare = at_times(Log(time, *channels), wanted)
    assert (bare.upward, bare.place, bare.oil_pressure, bare.oil_temperature) == (None,) * 4
