"""What lines and components of the circuit hold."""

from __future__ import annotations

import math
from typing import Any

import pytest
from bilge_core.checks.circuit import check_circuit
from bilge_core.checks.fitted import check_fitted
from bilge_core.document.circuit.run import (
    Hose,
    Open,
    Passage,
    Run,
    bore_of,
    contents_of,
    length_of,
)
from bilge_core.document.pump import GaugeReading
from bilge_core.document.read import build_from
from bilge_core.document.records import Records
from bilge_core.pan import assemble_pan

from tests.core.test_circuit import Document, box, part, run
from tests.networks import MOVED, after, changed

__all__ = ["box"]


@pytest.mark.parametrize(
    ("dash", "bore"), [(4, 4.57), (6, 7.75), (8, 10.92), (10, 14.10), (12, 17.27), (16, 23.62)]
)
def test_bores_of_dash_sizes(dash: int, bore: float) -> None:
    """A tube of dash/16 in outside with a wall of 0.035 in (from memory)."""
    assert bore_of(Hose(kind="hose", dash=dash)) == pytest.approx(bore, abs=0.005)  # type: ignore[arg-type]


def test_contents_of_a_line() -> None:
    """A cylinder's volume; several passages alike; unknown without a length."""

    def between(line: Any, *points: Any) -> Run:
        ends = {"component": "c1", "port": "a"}
        route = [{"at_mm": point} for point in points]
        return Run(name="a line", service="pressure", start=ends, end=ends, line=line, route=route)

    line = Passage(kind="passage", bore_mm=12.0, length_mm=300.0, count=4)
    assert contents_of(between(line)) == pytest.approx(4 * math.pi * 0.006**2 * 0.3)
    hose = Hose(kind="hose", dash=10)
    assert contents_of(between(hose)) is None
    routed = between(hose, (0, 0, 0), (0, 300, 0), (400, 300, 0))
    assert length_of(routed) == 700.0
    assert contents_of(routed) == pytest.approx(math.pi / 4 * 0.0141**2 * 0.7, rel=0.001)
    assert length_of(between(Open(kind="open"), (0, 0, 0), (1, 0, 0))) is None


class TestWhatIsAway:
    """The oil away from the pan follows from what components hold, once one of them says it."""

    def test_a_total_stands_while_nothing_is_told_apart(self, box: Document) -> None:
        box["oil"]["away_l"] = 0.8
        assert build_from(box).oil.away_l == 0.8
        part(box, "filter")["holds_l"] = 0.3
        assert build_from(box).oil.away_l == 0.3

    def test_lines_under_pressure_with_a_length_count(self, box: Document) -> None:
        part(box, "filter")["holds_l"] = 0.3
        hose = {"kind": "hose", "bore_mm": 14.0, "length_mm": 2000.0}
        run(box, "to the filter")["line"] = hose
        full = math.pi * 0.007**2 * 2.0 * 1e3
        assert build_from(box).oil.away_l == pytest.approx(0.3 + full, abs=1e-6)
        run(box, "relief's return")["line"] = hose  # what comes back under pressure is full too
        assert build_from(box).oil.away_l == pytest.approx(0.3 + 2 * full, abs=1e-6)
        run(box, "relief's return")["line"] = {"kind": "passage"}
        # the pickup's tube stands in the pan's own oil, and passages are counted with the gallery
        run(box, "pickup tube")["line"] |= {"bore_mm": 20.0, "length_mm": 300.0}
        run(box, "feed of the head")["line"] |= {"bore_mm": 8.0, "length_mm": 300.0}
        assert build_from(box).oil.away_l == pytest.approx(0.3 + full, abs=1e-6)


@pytest.mark.parametrize(
    ("field", "value", "words"),
    [
        ("precharge_bar", 5.0, "warm, its gas has 5.8 bar, and the relief opens at 5.4 bar"),
        ("volume_l", 9.0, "holds up to 9.0 L of the"),
        ("volume_l", 6.3, "holds up to 6.3 L of the 6.2 L there are"),
        ("volume_l", 6.0, None),  # a caution
        ("volume_l", 3.0, None),
    ],
)
def test_a_bottle_that_takes_nothing_or_all_is_told(
    field: str, value: float, words: str | None
) -> None:
    bottle = {
        "kind": "fit_accumulator", "volume_l": 2, "precharge_bar": 2.4, "fill_up": False,
    }  # fmt: skip

    def put(document: Document) -> None:
        part(document, "accumulator")[field] = value

    build = changed(after(MOVED, bottle), put)
    said = [check.words for check in check_circuit(build) if check.state == "bad"]
    assert (said == []) if words is None else (len(said) == 1 and words in said[0])


def test_a_gauge_over_the_relief_is_told(box: Document) -> None:
    """Warm oil alone: cold oil goes far over it."""
    part(box, "relief")["opens_bar"] = 3.0
    build = build_from(box)

    def told(pressure: float, warm: float) -> list[str]:
        row = GaugeReading(engine_rpm=1000, pressure_bar=pressure, oil_temperature_c=warm)
        found = check_fitted(
            build, assemble_pan(build), 700.0, None, Records(gauge_readings=(row,))
        )
        return [each.words for each in found if "one of the two is wrong" in each.words]

    assert told(4.0, 60.1) and not told(3.2, 90.0) and not told(4.0, 59.9)
