"""Single parts put into a line, and one more line between two ports."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest
from bilge_core.acts.registry import read_act
from bilge_core.checks.circuit import check_circuit
from bilge_core.document.build import Build
from bilge_core.document.circuit.run import length_of
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import InvalidInput
from bilge_core.job.difference import pieces_between
from bilge_core.lines.ports import port_end
from bilge_core.physics.axes import engine_to_car

COOLER = "cooler and lines"
PLUMBED = read_build(Path("demo/plumbed.json").read_text())
DUNLIN = read_build(Path("demo/dunlin.json").read_text())


def run_named(build: Build, name: str) -> Any:
    return next(each for each in build.circuit.runs if each.name == name)


def put(build: Build, part: str, name: str = "to the cooler", **more: Any) -> Any:
    raw = {"kind": "put_in_line", "run": run_named(build, name).id, "part": part, **more}
    return read_act(raw).done(build)


def refused(act: Any) -> list[str]:
    with pytest.raises(InvalidInput) as error:
        act()
    return [f"{each.field}: {each.message}" for each in error.value.problems]


@pytest.mark.parametrize(
    ("part", "more", "words"),
    [
        ("bulkhead", {}, "bulkhead fitting in to the cooler"),
        ("check_valve", {"opens_bar": "5 psi", "bore_mm": 12}, "check valve, 12 mm in"),
        ("shut_off_valve", {"worked": "electric", "opens_bar": 2}, "valve in to the cooler"),
        ("restrictor", {"bore_mm": "1/8 in"}, "restrictor, 1/8 in in to the cooler"),
        ("sender_tee", {}, "sender tee in to the cooler"),
        ("tee", {}, "tee in to the cooler"),
    ],
)
def test_each_part_sits_in_the_line(part: str, more: dict[str, Any], words: str) -> None:
    """The circuit checks out, the line goes on as it was made, and taken out it is one again."""
    done = put(DUNLIN, part, **more)
    assert done.words.startswith(words)
    assert [each.state for each in check_circuit(done.build)] == ["good"]
    made = next(each for each in done.build.circuit.components if each.kind == part)
    first = run_named(done.build, "to the cooler")
    rest = run_named(done.build, f"{made.name} to {COOLER}")
    assert first.end.component == made.id == rest.start.component
    whole = run_named(DUNLIN, "to the cooler")
    assert first.line.dash == rest.line.dash == whole.line.dash
    assert rest.end == whole.end and first.start == whole.start
    assert len({*(r.id for r in DUNLIN.circuit.runs)} & {rest.id, made.id}) == 0
    again = read_act({"kind": "take_out", "component": made.id}).done(done.build).build
    assert len(again.circuit.runs) == len(DUNLIN.circuit.runs)
    assert run_named(again, "to the cooler").end == whole.end


def test_at_a_bend_both_pieces_keep_their_way() -> None:
    """A bulkhead stands in the car, at the bend: the ports are where the pieces end."""
    line = run_named(PLUMBED, "to the cooler")
    assert len(line.route) == 4
    done = put(PLUMBED, "bulkhead", at_bend=2)
    first = run_named(done.build, "to the cooler")
    made = next(each for each in done.build.circuit.components if each.kind == "bulkhead")
    rest = run_named(done.build, f"{made.name} to {COOLER}")
    points = np.array([each.at_mm for each in line.route])
    legs = np.linalg.norm(np.diff(points, axis=0), axis=1)
    assert [each.at_mm for each in rest.route] == [each.at_mm for each in line.route[2:]]
    # the last leg has no bend left in it: it is as long as the points are apart
    slack = line.line.slack_mm or 0.0
    assert length_of(rest) == pytest.approx(legs[2] + slack)
    assert first.route[-1].radius_mm is None and first.route[1] == line.route[1]
    assert made.place is not None and made.place.fixed_to == "car"
    port = port_end(done.build, first, first.end)
    there = engine_to_car(done.build.car) @ np.array(first.route[-1].at_mm)
    assert port is not None and port.place == pytest.approx(there * 1e-3, abs=1e-5)
    assert "fit_in_line" in {each.operation for each in pieces_between(PLUMBED, done.build)}


def test_what_is_no_place_for_it_is_named() -> None:
    assert refused(lambda: put(DUNLIN, "tee", at_bend=1)) == [
        "at_bend: must be a bend of its way, left out: its way has none"
    ]
    for at in (1, 2):
        assert put(PLUMBED, "tee", at_bend=at).build
    assert refused(lambda: put(PLUMBED, "tee", at_bend=3)) == [
        "at_bend: must be a bend of its way, 1 to 2"
    ]
    (tube,) = refused(lambda: put(DUNLIN, "bulkhead", "pickup tube"))
    assert tube == "run: is pickup tube, no hose and no hard line that could be cut"
    assert (
        "run: is filter to gallery" in refused(lambda: put(DUNLIN, "tee", "filter to gallery"))[0]
    )
    assert refused(lambda: put(DUNLIN, "check_valve", "breathing"))[0].startswith(
        "part: is for oil"
    )
    assert put(DUNLIN, "bulkhead", "breathing").build
    gone = {"kind": "put_in_line", "run": "r999", "part": "tee"}
    assert refused(lambda: read_act(gone).done(DUNLIN))[0].startswith("run: must be a line")


@pytest.mark.parametrize(
    ("part", "figures", "field"),
    [
        ("restrictor", {}, "bore_mm"), ("restrictor", {"bore_mm": 30.1}, "bore_mm"),
        ("tee", {"bore_mm": 4}, "bore_mm"), ("bulkhead", {"opens_bar": 1}, "opens_bar"),
        ("check_valve", {"opens_bar": 10.1}, "opens_bar"),
        ("shut_off_valve", {"opens_bar": 2}, "opens_bar"),
    ],
)  # fmt: skip
def test_figures_that_a_part_has_not_are_refused(
    part: str, figures: dict[str, float], field: str
) -> None:
    assert [each.split(":")[0] for each in refused(lambda: put(DUNLIN, part, **figures))] == [field]


def test_figures_at_their_most() -> None:
    assert put(DUNLIN, "restrictor", bore_mm=30).build
    assert put(DUNLIN, "check_valve", opens_bar=10).build


def kind_of(build: Build, kind: str) -> str:
    return next(each.id for each in build.circuit.components if each.kind == kind)


def joined(build: Build, **more: Any) -> Any:
    raw = {"kind": "join_ports", "service": "pressure", **more}
    return read_act(raw).done(build)


def test_a_tee_feeds_something_else() -> None:
    """From its branch, which was plugged, to the gallery's second feed."""
    teed = put(DUNLIN, "tee", "from the cooler").build
    ends = {"start": kind_of(teed, "tee"), "start_port": "c", "end": kind_of(teed, "gallery")}
    done = joined(teed, **ends, end_port="second_feed", dash=8)
    assert done.words == "line from tee to main gallery, size 8"
    line = done.build.circuit.runs[-1]
    assert line.line.kind == "hose" and line.line.dash == 8 and line.service == "pressure"
    tee = done.build.circuit.component(kind_of(teed, "tee"))
    assert tee is not None and tee.plugged == []


def test_ports_that_do_not_go_together_are_named() -> None:
    teed = put(DUNLIN, "tee", "from the cooler").build
    tee, gallery = kind_of(teed, "tee"), kind_of(teed, "gallery")
    branch = {"start": tee, "start_port": "c"}
    into = {"end": gallery, "end_port": "second_feed"}

    def said(**more: Any) -> str:
        (only,) = refused(lambda: joined(teed, **{**branch, **into, **more}))
        return only

    assert said(end=tee, end_port="a").startswith("end: must be another component")
    assert "end_port: of main gallery is taken by filter to gallery" in said(end_port="feed")
    assert "start_port: of tee is taken by" in said(start_port="a")
    assert said(end_port="spout").startswith(
        "end_port: must be a port of main gallery: feed, second"
    )
    assert said(service="vent").startswith("end_port: of main gallery takes pressure, not vent")
    assert "flows the other way" in said(end_port="tappings")
    assert said(start="c999").startswith("start: is no component")


def test_gas_from_one_more_place() -> None:
    """A port that takes any number of lines is never taken."""
    ends = {"start": kind_of(DUNLIN, "crankcase"), "end": kind_of(DUNLIN, "breather")}
    done = joined(DUNLIN, **ends, start_port="gas", end_port="inlet", service="vent", dash=12)
    assert [each.state for each in check_circuit(done.build)] == ["good"]
    assert done.build.circuit.runs[-1].name == "crankcase, oil on its way down to breather"


def test_two_lines_between_parts_with_long_names() -> None:
    """What they are called is cut short, and told apart by a number."""
    raw = DUNLIN.model_dump(mode="json")
    for each in raw["circuit"]["components"]:
        if each["kind"] in ("crankcase", "breather"):
            each["name"] = each["kind"][0] * 80
    build = build_from(raw)
    ends = {"start": kind_of(build, "crankcase"), "end": kind_of(build, "breather")}
    more = {**ends, "start_port": "gas", "end_port": "inlet", "service": "vent"}
    twice = joined(joined(build, **more).build, **more).build
    names = [each.name for each in twice.circuit.runs[-2:]]
    assert len(set(names)) == 2 and max(len(each) for each in names) <= 80
