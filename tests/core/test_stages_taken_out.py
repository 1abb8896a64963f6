"""A dry sump's stages taken out one after the other: what stays brings its oil as before."""

from __future__ import annotations

import pytest
from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.document.circuit.joining import Tee
from bilge_core.document.circuit.pumps import ScavengeStage
from bilge_core.document.read import read_build
from bilge_core.errors import InvalidInput
from bilge_core.pan import assemble_pan

from tests.conftest import DEMO

CURLEW = read_build((DEMO / "curlew.json").read_text())


def without(build: Build, component: str) -> Build:
    return read_act({"kind": "take_out", "component": component}).done(build).build


def counted(build: Build, kind: str) -> int:
    return sum(each.kind == kind for each in build.circuit.components)


def test_a_stage_goes_with_its_pickup_and_the_last_stays() -> None:
    build, left = CURLEW, []
    for stage in CURLEW.circuit.of_kind(ScavengeStage)[:2]:
        build = without(build, stage.id)
        left.append([counted(build, kind) for kind in ("scavenge_stage", "pickup", "tee")])
        assert assemble_pan(build).oil_volume > 0.0
    assert left == [[2, 2, 1], [1, 1, 0]]
    (last,) = build.circuit.of_kind(ScavengeStage)
    separator = next(each.id for each in build.circuit.components if each.kind == "separator")
    into = {(run.start.component, run.end.component) for run in build.circuit.runs}
    assert (last.id, separator) in into
    with pytest.raises(InvalidInput, match="only stage that clears the pan"):
        without(build, last.id)


def test_a_tee_that_brings_two_lines_together_stays() -> None:
    tees = CURLEW.circuit.of_kind(Tee)
    assert len(tees) == 2
    for tee in tees:
        with pytest.raises(InvalidInput, match="take out what one comes from"):
            without(CURLEW, tee.id)
