"""Class rules speak of kinds of act that there are, and of every one that fits something."""

from __future__ import annotations

from typing import get_args

import pytest
from bilge_core.acts.registry import AnyAct
from bilge_core.document.class_rules import RuledKind
from bilge_core.document.read import read_build
from bilge_core.errors import InvalidInput
from bilge_core.quantities import convert, parse_figure
from bilge_core.tell.pan import pan_out

from tests.conftest import DEMO

NO_HARDWARE = {"figures", "turn_gate", "carry_to_wall", "flange", "take_out", "plug_port",
               "calibrate", "tune_accumulator", "tune_drain", "refill", "lay_line",
               "set_port", "learn", "fit_drive",
               "make_of_sheet", "pan_from_scan", "flange_drawn",
               "put_in_line", "join_ports"}  # fmt: skip
"""Acts that build no remedy: a single part or hose is no kind that a rule book names."""


def test_every_act_that_changes_the_hardware_can_be_ruled_on() -> None:
    kinds = {kind for act in AnyAct.__origin__.__args__  # type: ignore[attr-defined]
             for kind in act.model_fields["kind"].annotation.__args__}  # fmt: skip
    assert set(get_args(RuledKind)) == kinds - NO_HARDWARE


def test_a_ruling_on_nothing_that_is_done_is_refused() -> None:
    text = (DEMO / "dunlin.json").read_text()
    good = text.replace('"class_rules": {}', '"class_rules": {"fit_cooler": "not_allowed"}')
    assert read_build(good).car.class_rules == {"fit_cooler": "not_allowed"}
    for wrong in ('{"fit_wings": "allowed"}', '{"fit_cooler": "perhaps"}'):
        with pytest.raises(InvalidInput, match="class_rules"):
            read_build(text.replace('"class_rules": {}', f'"class_rules": {wrong}'))


def test_horsepower_of_both_kinds() -> None:
    """1 hp = 745.6999 W (550 ft lbf/s, NIST SP 811), 1 PS = 735.49875 W (75 kgf m/s)."""
    assert convert(1.0, "power", "hp", "W") == pytest.approx(745.6999, abs=1e-3)
    assert parse_figure("100 PS", "power", "kW", "kW") == pytest.approx(73.549875)


def test_without_a_lap_checks_go_by_the_engine_s_top_speed() -> None:
    build = read_build((DEMO / "dunlin.json").read_text())
    fast = build.model_copy(update={"car": build.car.model_copy(update={"top_rpm": 9000.0})})
    said = [
        next(c.words for c in pan_out(each, None).checks if "mm tube" in c.words)
        for each in (build, fast)
    ]
    assert said[0].endswith("6500 rpm") and "9000 rpm" in said[1]
