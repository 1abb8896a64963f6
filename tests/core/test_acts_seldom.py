"""What acts refuse and why, and ways of theirs that are seldom gone."""

from __future__ import annotations

from typing import Any

import pytest
from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.errors import InvalidInput

from tests.conftest import DEMO
from tests.core.circuit_acts import BOTTLED, MOVED, Raw
from tests.core.test_circuit_acts import PLAIN, kinds, of

GATED = read_build((DEMO / "dunlin-gated.json").read_text())
DUNLIN = read_build((DEMO / "dunlin.json").read_text())
TURBO: Raw = {"kind": "feed_turbo"}
TUNE: Raw = {"kind": "tune_accumulator"}
CAN: Raw = {"kind": "fit_catch_can", "volume_l": 2}


def _named(build: Build, value: Any) -> Any:
    """`@turbo`: the turbo's id; `>head`: that of a run from the head, `<turbo` of one into it."""
    if not isinstance(value, str) or value[:1] not in ("@", "<", ">"):
        return value
    part = next(each.id for each in build.circuit.components if each.kind == value[1:])
    if value[0] == "@":
        return part
    ends = ((run.id, run.start if value[0] == ">" else run.end) for run in build.circuit.runs)
    return next(run for run, end in ends if end.component == part)


def acted(build: Build, *acts: Raw) -> tuple[Build, str]:
    words = ""
    for raw in acts:
        done = read_act({key: _named(build, value) for key, value in raw.items()}).done(build)
        build, words = done.build, done.words
    return build, words


def lay(run: str, **more: Any) -> Raw:
    return {"kind": "lay_line", "run": run, **more}


OPEN_VALVE = {**TUNE, "valve": "electric"}
FILTER_OUT: Raw = {"kind": "take_out", "component": "@remote_filter"}


@pytest.mark.parametrize(
    ("build", "acts", "words"),
    [
        (PLAIN, [{"kind": "fit_sandwich_plate"}] * 2, "is there already: one plate"),
        (PLAIN, [MOVED, MOVED], "needs a filter on the block; it was moved"),
        (PLAIN, [MOVED, {"kind": "fit_sandwich_plate"}, {"kind": "fit_sandwich_plate"}], "already"),
        (PLAIN, [CAN, CAN], "is there already: another breather"),
        (PLAIN, [{"kind": "tune_drain", "run": ">head", "seal_height_mm": 40}], "a head has walls"),
        (PLAIN, [TURBO, {"kind": "drain_turbo", "turbo": "@turbo", "how": "joined",
                         "other": "@turbo"}], "must be another turbo"),
        (PLAIN, [lay(">head", slack_mm=20)], "no hose and no hard line: say which"),
        (PLAIN, [MOVED, lay("<remote_filter", made_of="hard_line", slack_mm=20)], "is a hose's"),
        (PLAIN, [MOVED, lay("<remote_filter", made_of="hard_line", end_deg=45)], "a tube is bent"),
        (PLAIN, [MOVED, lay("<remote_filter", wall_mm=1)], "is a hard line's"),
        (GATED, [{"kind": "fit_level_plate"}], "without a level plate"),
        (DUNLIN, [{"kind": "fit_level_plate", "opening_mm": 214}], r"must be 10 to 214 mm"),
        (DUNLIN, [{"kind": "fit_level_plate", "depth_mm": 129}], "must be 5 to 128 mm"),
        (DUNLIN, [{"kind": "move_pickup"}], "must move the mouth somewhere"),
        (DUNLIN, [{"kind": "fit_gates", "gates": 4, "top_depth_mm": 118}], "above 0 and under 118"),
        (DUNLIN, [{"kind": "turn_gate", "gate": "z1"}], "gate"),
        (PLAIN, [MOVED, {"kind": "direct_feed"}, FILTER_OUT],
         "feeds the gallery directly"),
        (PLAIN, [MOVED, {"kind": "fit_cooler"}, FILTER_OUT],
         "has other things in its lines"),
        (PLAIN, [{"kind": "take_out", "component": "@filter"}], "belongs to the engine"),
    ],
)  # fmt: skip
def test_what_cannot_be_is_refused_in_words(build: Build, acts: list[Raw], words: str) -> None:
    *before, last = acts
    there, _ = acted(build, *before)
    with pytest.raises(InvalidInput, match=words):
        acted(there, last)


@pytest.mark.parametrize(
    ("acts", "words"),
    [
        ([MOVED, BOTTLED, OPEN_VALVE], "valve electric"),
        ([MOVED, BOTTLED, {**TUNE, "restrictor_mm": 2}, {**TUNE, "restrictor": False}],
         "no restrictor"),
        ([MOVED, BOTTLED, {**TUNE, "restrictor": False}], "no restrictor"),
        ([MOVED, BOTTLED, {**TUNE, "check_valve": False}, {**TUNE, "check_valve": True}],
         "check valve ahead of its tee"),
    ],
)  # fmt: skip
def test_a_bottles_line_is_set_otherwise(acts: list[Raw], words: str) -> None:
    build, said = acted(PLAIN, *acts)
    assert said == f"accumulator, {words}"
    assert "restrictor" not in kinds(build)
    assert kinds(build).count("check_valve") == 1
    if words == "valve electric":
        assert (of(build, "shut_off_valve").worked, of(build, "shut_off_valve").opens_bar) == (
            "electric", None,
        )  # fmt: skip
