"""Taking lines apart and joining them: what a piece of line is afterwards."""

from __future__ import annotations

from typing import Any

import pytest
from bilge_core.acts.plumbing import OPEN, Plumbing, hose
from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.document.read import build_from

from tests.core.test_circuit_acts import MOVED, PLAIN, after, of

Raw = dict[str, Any]


@pytest.fixture
def moved() -> Build:
    """A filter moved, its line back to the block measured and led."""
    build = after(MOVED)
    run = next(r for r in build.circuit.runs if r.end.port == "line_in")
    field = f"circuit.runs.{run.id}.line.length_mm"
    return after({"kind": "figures", "figures": [{"field": field, "value": 800}]}, build=build)


def test_a_line_that_is_cut_has_no_length_in_either_piece(moved: Build) -> None:
    fitted = after({"kind": "fit_accumulator", "volume_l": 2}, build=moved)
    pieces = [
        r.line for r in fitted.circuit.runs if r.service == "pressure" and r.line.kind == "hose"
    ]
    assert len(pieces) == 5
    assert {getattr(line, "length_mm", None) for line in pieces} == {None}
    assert [getattr(line, "dash", None) for line in pieces].count(12) == 4


def test_a_line_goes_on_as_what_lies_behind_where_there_was_nothing_before(moved: Build) -> None:
    """A valve bolted on a filter, a hose behind it: without the valve the hose is at the filter."""
    circuit = Plumbing(moved)
    base = circuit.only("remote_filter")
    run = circuit.run_from(base, "out_left")
    assert run is not None
    valve = circuit.add("check_valve", "valve")
    rest = circuit.insert(run, (valve, "inlet"), (valve, "outlet"), "behind", hose(12))
    run["line"] = dict(OPEN)
    circuit.splice(valve, "inlet", "outlet")
    assert (run["line"], run["name"], run["end"]) == (hose(12), "behind", rest["end"])


def test_what_a_valve_sensed_is_gone_it_senses_its_own_inlet(moved: Build) -> None:
    build = after({"kind": "fit_cooler"}, {"kind": "fit_regulator", "opens_bar": 5}, build=moved)
    cooler, regulator = of(build, "cooler").id, of(build, "regulator").id
    field = f"circuit.components.{regulator}.senses"
    act: Raw = {"kind": "figures", "figures": [{"field": field, "value": cooler}]}
    sensing = read_act(act).done(build).build
    assert of(sensing, "regulator").senses == cooler
    gone = after({"kind": "take_out", "component": cooler}, build=sensing)
    assert of(gone, "regulator").senses == ""


def test_a_gauge_whose_place_is_gone_sits_at_the_gallery(moved: Build) -> None:
    build = after({"kind": "fit_cooler"}, build=moved)
    cooler = of(build, "cooler").id
    figures = [{"field": "circuit.gauge", "value": cooler}]
    done = read_act({"kind": "figures", "figures": figures}).done(build)
    there = done.build
    assert done.words == "gauge to oil cooler"
    gone = after({"kind": "take_out", "component": cooler}, build=there)
    assert gone.circuit.gauge == of(gone, "gallery").id


def test_a_figure_that_was_edited_is_assumed_no_more() -> None:
    part = of(PLAIN, "filter")
    assert part.assumed
    field = f"circuit.components.{part.id}.bypass_bar"
    build = after({"kind": "figures", "figures": [{"field": field, "value": "15 psi"}]})
    assert of(build, "filter").bypass_bar == pytest.approx(1.034, abs=1e-3)
    assert not of(build, "filter").assumed and of(build, "gallery").assumed
    none = after({"kind": "figures", "figures": [{"field": field, "value": None}]}, build=build)
    assert of(none, "filter").bypass_bar is None
    line = next(run for run in PLAIN.circuit.runs if run.name == "pickup tube")
    field = f"circuit.runs.{line.id}.line.bore_mm"
    bore = {"kind": "figures", "figures": [{"field": field, "value": 20}]}
    tube = after(bore).circuit.suction
    assert tube is not None and not tube.assumed


def test_a_line_that_has_no_size_gets_the_usual_one(moved: Build) -> None:
    """A length given to what is no hose makes one of it: dash 10, and no other's bore."""
    bottled = after({"kind": "fit_accumulator", "volume_l": 2}, build=moved)
    raw = bottled.model_dump(mode="json")
    run = next(each for each in raw["circuit"]["runs"] if each["name"] == "to the bottle's valve")
    run["line"] = {"kind": "passage", "bore_mm": 9.0, "length_mm": 300.0}
    done = read_act({"kind": "tune_accumulator", "length_mm": 700}).done(build_from(raw))
    line = next(each.line for each in done.build.circuit.runs if each.id == run["id"])
    assert (line.kind, line.dash, line.length_mm) == ("hose", 10, 700.0)  # type: ignore[union-attr]
    assert line.bore_mm is None  # type: ignore[union-attr]
    assert "line size 10, 0.7 m" in done.words
