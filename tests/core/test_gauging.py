"""What a gauge tells: readings made by a network with known bearings give those back."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
import pytest
from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.document.circuit.calibration import Bearings
from bilge_core.document.circuit.engine_side import Jets
from bilge_core.document.pump import GaugeReading
from bilge_core.document.reach import felt_by
from bilge_core.errors import InvalidInput
from bilge_core.network import network_of
from bilge_core.network.gauging import told_by_gauge
from bilge_core.network.running import steady_at
from bilge_core.physics.turns import speed_of_rpm

from tests.networks import MOVED, Raw, after, changed, dunlin, part


def of_engine(flow_l_min: float, opens: float = 5.4, build: Build | None = None) -> Build:
    """The demo car with bearings that let so much through at 3 bar and 105 °C."""

    def tell(document: Raw) -> None:
        bearings = Bearings(
            flow_l_min=flow_l_min, at_bar=3.0, oil_temperature_c=105.0, uncertainty_pct=16.0,
            source="known",
        )  # fmt: skip
        part(document, "gallery")["bearings"] = bearings.model_dump(mode="json")
        part(document, "relief")["opens_bar"] = opens
        document["oil"]["temperature_c"] = 105.0

    return changed(build or dunlin(), tell)


def read_off(build: Build, rpms: Sequence[float], warm: float = 105.0) -> list[GaugeReading]:
    """What its gauge shows at some speeds, with oil so warm."""
    there = build.model_copy(update={"oil": build.oil.model_copy(update={"temperature_c": warm})})
    network = network_of(there)
    shown = [steady_at(network, speed_of_rpm(rpm), network.gallery) for rpm in rpms]
    return [
        GaugeReading(engine_rpm=rpm, pressure_bar=round(p / 1e5, 2), oil_temperature_c=warm)
        for rpm, p in zip(rpms, shown, strict=True)
    ]


def flow_at_3_bar(build: Build, bearings: Bearings) -> float:
    """In proportion to pressure, at the temperature told: what both are compared by."""
    return bearings.flow_l_min * 3.0 / bearings.at_bar


@pytest.mark.parametrize("flow", [10.0, 16.0, 22.0])
@pytest.mark.parametrize("acts", [[], [MOVED]])
def test_known_bearings_come_back(flow: float, acts: list[Raw]) -> None:
    """A trial got them back to 16 %; without noise and of the same model it is 4 %."""
    engine = of_engine(flow, build=after(*acts))
    rows = read_off(engine, [1000.0, 1500.0, 2000.0])
    asked = changed(engine, lambda d: part(d, "gallery").update(bearings=None))
    told = told_by_gauge(asked, rows)
    assert told.bearings is not None
    assert flow_at_3_bar(asked, told.bearings) == pytest.approx(flow, rel=0.04)
    assert told.bearings.uncertainty_pct == 16.0 and not told.on_relief


def test_colder_oil_is_allowed_for() -> None:
    """8 K colder: the gauge stands higher, the bearings are the same."""
    engine = of_engine(16.0)
    warm, colder = read_off(engine, [2200.0])[0], read_off(engine, [2200.0], 97.0)[0]
    assert colder.pressure_bar > warm.pressure_bar + 0.1
    found = [told_by_gauge(engine, [row]).bearings for row in (warm, colder)]
    shown = []
    for bearings in found:
        assert bearings is not None
        plain = bearings.model_dump()
        network = network_of(
            changed(engine, lambda d, plain=plain: part(d, "gallery").update(bearings=plain))
        )
        shown.append(steady_at(network, speed_of_rpm(2200.0), network.gallery))
    assert shown[0] == pytest.approx(shown[1], rel=0.01)


def test_a_reading_on_a_weaker_relief_is_seen_by_what_the_others_predict() -> None:
    """Its spring holds 4.5 bar, the build says 5.4: 0.85 of that would not see it."""
    rows = read_off(of_engine(14.0, opens=4.55), [1500.0, 2200.0, 6000.0])
    top = rows[-1].pressure_bar
    assert 0.8 * 5.4 < top < 0.85 * 5.4
    told = told_by_gauge(of_engine(14.0), rows)
    assert [row.engine_rpm for row in told.on_relief] == [6000.0]
    assert told.bearings is not None
    assert flow_at_3_bar(of_engine(14.0), told.bearings) == pytest.approx(14.0, rel=0.05)


def test_a_high_reading_that_the_engine_explains_is_kept() -> None:
    rows = read_off(of_engine(18.0), [1500.0, 2200.0, 3100.0])
    assert rows[-1].pressure_bar < 0.85 * 5.4
    assert not told_by_gauge(of_engine(18.0), rows).on_relief


def test_cold_oil_and_no_pressure_tell_nothing() -> None:
    engine = of_engine(16.0)
    cold = GaugeReading(engine_rpm=1500, pressure_bar=3.0, oil_temperature_c=84.9)
    none = GaugeReading(engine_rpm=1500, pressure_bar=0.0, oil_temperature_c=105.0)
    edge = GaugeReading(engine_rpm=1500, pressure_bar=2.0, oil_temperature_c=85.1)
    told = told_by_gauge(engine, [cold, none, edge])
    assert told.other == (cold, none) and told.telling == (edge,)


def test_readings_that_part_are_told_less_surely() -> None:
    rows = [
        GaugeReading(engine_rpm=1500, pressure_bar=1.0, oil_temperature_c=105),
        GaugeReading(engine_rpm=2500, pressure_bar=3.8, oil_temperature_c=105),
    ]
    told = told_by_gauge(of_engine(16.0), rows)
    assert told.bearings is not None and told.bearings.uncertainty_pct > 30.0


def test_the_act_says_what_was_told_and_what_was_not() -> None:
    engine = of_engine(16.0)
    rows = [
        *read_off(engine, [1500.0, 2200.0, 6500.0]),
        GaugeReading(engine_rpm=900, pressure_bar=4.0, oil_temperature_c=40),
    ]
    raw = {"kind": "calibrate", "readings": [row.model_dump() for row in rows]}
    words = read_act(raw).done(engine).words
    assert words.startswith("bearings by 2 gauge readings, the highest ")
    assert "to 16 %; told nothing: 1 on the relief, 1 with oil too cold or too hot" in words
    assert words.endswith("not told: the pump's slip")


def test_readings_that_are_all_on_the_relief_are_refused_in_words() -> None:
    engine = of_engine(16.0)
    rows = read_off(engine, [5500.0, 6500.0])
    raw = {"kind": "calibrate", "readings": [row.model_dump() for row in rows]}
    with pytest.raises(InvalidInput, match="each is on the relief"):
        read_act(raw).done(engine)


JETS: Raw = {"kind": "fit_jets", "count": 4, "bore_mm": 1.3, "opens_bar": 1.6}


def sprayed(share: float) -> Build:
    """The demo car with four jets that spray a share of what such holes do."""

    def tell(document: Raw) -> None:
        part(document, "gallery")["jets"] = {
            "share": share, "uncertainty_pct": 0.0, "source": "known"
        }  # fmt: skip

    return changed(of_engine(18.0, build=after(JETS)), tell)


def asked(build: Build) -> Build:
    return changed(build, lambda d: part(d, "gallery").update(bearings=None, jets=None))


SPEEDS = (900.0, 1200.0, 1600.0, 2200.0, 2800.0)
"""The jets shut at the first, open from the third."""


@pytest.mark.parametrize("share", [0.6, 1.0, 1.5])
def test_known_jets_come_back_with_the_bearings(share: float) -> None:
    engine = sprayed(share)
    rows = read_off(engine, SPEEDS)
    assert rows[0].pressure_bar < 1.6 < rows[2].pressure_bar and rows[-1].pressure_bar < 4.59
    told = told_by_gauge(asked(engine), rows)
    assert told.jets is not None and told.bearings is not None and not told.on_relief
    assert told.jets.share == pytest.approx(share, rel=0.1)
    assert told.jets.share == pytest.approx(share, rel=2 * told.jets.uncertainty_pct / 100)


def test_how_sure_it_is_of_jets_is_what_readings_leave_open() -> None:
    """Read 3 % wrong by chance, as a needle is: the truth within two deviations in nearly all."""
    engine = sprayed(1.0)
    rows = read_off(engine, SPEEDS)
    inside = []
    for seed in range(20):
        off = np.random.default_rng(seed).normal(1.0, 0.03, len(rows))
        read = [
            row.model_copy(update={"pressure_bar": row.pressure_bar * float(by)})
            for row, by in zip(rows, off, strict=True)
        ]
        told = told_by_gauge(asked(engine), read).jets
        assert told is not None
        inside.append(abs(math.log(told.share)) < 2.0 * told.uncertainty_pct / 100.0)
    assert sum(inside) >= 18


@pytest.mark.parametrize(
    "speeds", [(900.0, 1200.0), (1600.0, 2200.0, 2800.0)], ids=["two", "all over their opening"]
)
def test_readings_that_tell_no_jets_apart(speeds: Sequence[float]) -> None:
    engine = sprayed(0.6)
    told = told_by_gauge(asked(engine), read_off(engine, speeds))
    assert told.bearings is not None and told.jets is None


def test_the_act_keeps_what_it_knew_of_jets_where_readings_do_not_tell() -> None:
    engine = sprayed(0.6)

    def calibrated(build: Build, speeds: Sequence[float]) -> tuple[str, Build]:
        rows = [row.model_dump() for row in read_off(engine, speeds)]
        done = read_act({"kind": "calibrate", "readings": rows}).done(build)
        return done.words, done.build

    words, build = calibrated(asked(engine), SPEEDS)
    assert "; jets spray 0.61 of what such holes do, to 24 %; " in words
    assert words.endswith("not told: the pump's slip, where jets open")
    told = build.circuit.jets_told
    assert told is not None and told.share == pytest.approx(0.61, abs=0.01)
    words, again = calibrated(build, SPEEDS[:2])
    assert words.endswith("not told: the pump's slip, what jets take")
    assert again.circuit.jets_told == told
    gone = read_act({"kind": "take_out", "component": of_jets(build)}).done(build).build
    assert read_act(JETS).done(gone).build.circuit.jets_told is None


def of_jets(build: Build) -> str:
    return build.circuit.of_kind(Jets)[0].id


def test_moving_oil_feels_what_jets_spray_and_not_that_nobody_told() -> None:
    raw = asked(sprayed(1.0)).model_dump(mode="json")
    gallery = part(raw, "gallery")
    known = [felt_by(answer, raw) for answer in ("moving", "drains")]
    del gallery["jets"]  # as documents were kept before
    assert [felt_by(answer, raw) for answer in ("moving", "drains")] == known
    gallery["jets"] = {"share": 0.6, "uncertainty_pct": 24.0, "source": "known"}
    less = felt_by("moving", raw)
    assert less != known[0]
    gallery["jets"]["uncertainty_pct"] = 30.0
    assert felt_by("moving", raw) == less
