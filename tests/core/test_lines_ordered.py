"""The order for a build's lines: nothing forgotten, nothing bought twice, added up."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from bilge_core.document.build import Build
from bilge_core.document.circuit.feeding import RemoteFilter
from bilge_core.document.circuit.run import HardLine
from bilge_core.lines.bending import Bender
from bilge_core.lines.laid import Line
from bilge_core.lines.order import (
    Need,
    added_up,
    clips_of,
    needs_of,
    needs_of_part,
    order_of,
)
from bilge_core.options.candidate import Prices
from bilge_core.tell.lines_all import lines_out
from hypothesis import given
from hypothesis import strategies as st

from tests.core.line_orders import ACCUMULATOR, COOLER, DRY, ON_THE_ORDER, TURBO
from tests.laid_lines import DUNLIN, SANDPIPER, TO_COOLER, done, laid_out, line_of, with_way

some_parts = st.lists(
    st.tuples(st.sampled_from(["hose_10", "tee", "union_10", "bung"]), st.integers(1, 5)),
    max_size=6,
)


def sleeve_of(line: Line) -> float:
    """Heat sleeve that is bought for a line of the demo car [m]."""
    needs = needs_of(DUNLIN, line, Bender())
    return next(each.count for each in needs if each.part == "heat_sleeve")


class TestOrder:
    @pytest.mark.parametrize(
        ("what", "act", "build"),
        [
            ("fit an accumulator", ACCUMULATOR, DUNLIN),
            ("fit a cooler", COOLER, SANDPIPER),
            ("drain a turbo", TURBO, DUNLIN),
            ("go dry", DRY, DUNLIN),
        ],
        ids=lambda each: each if isinstance(each, str) else "",
    )
    def test_nothing_is_forgotten(self, what: str, act: dict[str, Any], build: Build) -> None:
        """Common practice, no published source: see `tests.core.line_orders`."""
        after = done(build, **act)
        rows = {row.part: row.count for row in order_of(after, laid_out(after), Bender(), build)}
        short = {
            part: why for part, (least, why) in ON_THE_ORDER[what].items()
            if rows.get(part, 0) < least
        }  # fmt: skip
        assert short == {}

    def test_what_the_car_has_is_not_bought_again(self) -> None:
        build = with_way(clips_mm=250)
        assert order_of(build, laid_out(build), Bender(), build) == ()
        rows = {row.part for row in order_of(build, laid_out(build), Bender(), DUNLIN)}
        assert "hose_10" in rows and "cooler" not in rows
        everything = {row.part for row in order_of(build, laid_out(build), Bender())}
        assert {"cooler", "sandwich_plate", "breather"} <= everything

    def test_a_drive_is_bought_once(self) -> None:
        dry = done(DUNLIN, **DRY)
        more = done(dry, kind="fit_catch_can", volume_l=1.0)
        parts = {row.part for row in order_of(more, laid_out(more), Bender(), dry)}
        assert "catch_can" in parts and not parts & {"pump_drive", "scavenge_stage"}

    def test_a_line_without_a_length_is_counted_rough(self) -> None:
        rows = {row.part: row for row in order_of(DUNLIN, laid_out(DUNLIN), Bender())}
        assert rows["hose_10"].is_rough and not rows["hose_end_10_0"].is_rough

    @pytest.mark.parametrize(("length", "tube"), [(0.653, 1.1), (None, 1.5)])
    def test_of_a_hard_line_its_flares_and_a_bend_gone_wrong_are_bought(
        self, length: float | None, tube: float
    ) -> None:
        """653 mm, two flares of 20 and 400 to spare; a metre where nobody knows how long."""
        laid = line_of(with_way())
        hard = laid.run.model_copy(update={"line": HardLine(kind="hard_line", dash=10)})
        needs = needs_of(
            DUNLIN, replace(laid, run=hard, length=length), Bender(flare=0.02, spare=0.4)
        )
        rows = {each.part: each.count for each in needs}
        assert (rows["tube_10"], rows["tube_nut_10"]) == (pytest.approx(tube), 2)

    def test_clips_are_counted_as_they_are_told(self) -> None:
        """653 mm with one every 100: six; as the rule wants, every 300: two."""
        told, untold = line_of(with_way(clips_mm=100)), line_of(with_way())
        assert told.length is not None
        assert clips_of(told) == math.ceil(told.length / 0.1) - 1 > clips_of(untold) >= 1

    def test_a_heat_sleeve_covers_what_passes_something_hot(self) -> None:
        """Across a round exhaust, 20 mm over its middle: the chord of a circle, 100 mm past it."""
        exhaust = next(each for each in DUNLIN.car.keep_outs if each.name == "exhaust")
        assert exhaust.kind == "cylinder"
        x = 160.0
        middle = np.interp(x, [-40.0, 360.0], [-120.0, -100.0])
        over = [{"at_mm": [x, y, middle + 20.0]} for y in (-300.0, 600.0)]
        line = line_of(with_way(points=over, sleeve=True))
        assert line.outside is not None and line.length == pytest.approx(0.9, rel=1e-4)
        reach = 30e-3 + 60e-3 + 0.5 * line.outside  # the exhaust's, the rule's, the line's own
        chord = 2.0 * math.sqrt(reach**2 - 20e-3**2)
        assert sleeve_of(line) == pytest.approx(chord + 0.2, abs=0.1)
        assert sleeve_of(line) < 0.5

    def test_where_nothing_hot_is_near_a_sleeve_covers_all(self) -> None:
        """A steering rack is near, which gets no line warm."""
        past_the_rack = [{"at_mm": [520, y, -30]} for y in (-200.0, 200.0)]
        assert sleeve_of(line_of(with_way(points=past_the_rack, sleeve=True))) == 0.4
        untold = line_of(done(DUNLIN, kind="lay_line", run=TO_COOLER, sleeve=True, length_mm=730))
        assert sleeve_of(untold) == 0.8
        assert "heat_sleeve" not in {
            each.part for each in needs_of(DUNLIN, line_of(DUNLIN), Bender())
        }

    def test_a_plugged_port_takes_a_plug(self) -> None:
        moved = done(DUNLIN, kind="move_filter")
        base = moved.circuit.of_kind(RemoteFilter)[0]
        needs = {need.part: need.count for need in needs_of_part(base)}
        assert len(base.plugged) > 0 and needs["port_plug"] == len(base.plugged)
        assert needs["oil_filter"] == base.filters

    def test_a_plug_has_the_thread_that_was_told_of_its_port(self) -> None:
        moved = done(DUNLIN, kind="move_filter")
        base = moved.circuit.of_kind(RemoteFilter)[0]
        first, *others = base.plugged
        told = done(
            moved, kind="set_port", component=base.id, port=first, thread="o_ring 12 female"
        )
        base = told.circuit.of_kind(RemoteFilter)[0]
        plugs = [(need.count, need.why) for need in needs_of_part(base) if need.part == "port_plug"]
        words = f"{base.name}, unused ports"
        assert plugs == [
            (1, f"{words} (straight with O-ring size 12, female)"), (len(others), words)
        ]  # fmt: skip

    def test_cut_length_is_without_what_the_ends_take(self) -> None:
        line = line_of(with_way(start_deg=90, slack_mm=20))
        assert line.length is not None and line.cut is not None
        assert line.length - line.cut == pytest.approx(0.038 + 0.0665)
        keys = {need.part for need in needs_of(DUNLIN, line, Bender())}
        assert {"hose_end_10_90", "hose_end_10_0", "hose_10"} <= keys

    @given(first=some_parts, second=some_parts)
    def test_the_list_of_a_union_is_the_sum(
        self, first: list[tuple[str, int]], second: list[tuple[str, int]]
    ) -> None:
        one, other = ([Need(part, n, "x", 1) for part, n in rows] for rows in (first, second))

        def counts(needs: list[Need]) -> dict[str, float]:
            return {row.part: row.count for row in added_up(needs)}

        both, a, b = counts([*one, *other]), counts(one), counts(other)
        assert both == {key: a.get(key, 0) + b.get(key, 0) for key in {*a, *b}}

    def test_prices_are_the_workshops(self) -> None:
        out = lines_out(with_way(), Prices.generic(), Bender())
        assert out.total == pytest.approx(sum(row.price for row in out.order))
        assert out.lines[0].ends[0].torque == "57 to 63 lbf ft (77 to 85 N m)"
        assert out.lines[2].ends[0].torque == ""  # a hose over a barb
        assert "1 in" in out.spanners and not any(row.own_price for row in out.order)
