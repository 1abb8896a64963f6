"""Dry sumps with a stage lost, and the gas on the way back to the tank."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.document.read import build_from, read_build
from bilge_core.document.records import read_record
from bilge_core.errors import InvalidInput, InvalidQuantity
from bilge_core.loads.log import Log
from bilge_core.pan import assemble_pan
from bilge_core.scavenge.lap import dry_lap
from bilge_core.scavenge.level import litres_at, tank_marks
from bilge_core.scavenge.lost import without_each_stage
from bilge_core.scavenge.tank import tank_of, tank_space
from bilge_core.scavenge.way_back import TAKEN_OUT, after_separator, carried, way_back

from tests.conftest import DEMO, steady_log

CURLEW = read_build((DEMO / "curlew.json").read_text())
DUNLIN = read_build((DEMO / "dunlin.json").read_text())


class TestLost:
    def test_a_blocked_stage_sweeps_nothing_and_oil_is_conserved(self, saltmarsh: Log) -> None:
        pan = assemble_pan(CURLEW)
        whole = dry_lap(CURLEW, pan, saltmarsh)
        stage = whole.stages[1]
        without = dry_lap(CURLEW, pan, saltmarsh, blocked=stage.component)
        assert np.all(without.swept[:, 1] == 0.0) and np.all(without.oil[:, 1] == 0.0)
        assert without.swept[:, 0] == pytest.approx(whole.swept[:, 0])
        total = without.in_pan + without.in_tank + without.coming_back
        assert np.ptp(total) < 1e-9

    def test_the_stage_that_has_oil_in_every_corner_is_missed_most(self) -> None:
        """Thrown to the right for good: without the right rear stage it stays there."""
        log = steady_log(0.0, 1.2, 6.0)
        found = {each.name: each for each in without_each_stage(CURLEW, assemble_pan(CURLEW), log)}
        assert len(found) == 3
        assert found["rear right stage"].left > 3.0 * found["rear left stage"].left
        assert found["rear right stage"].least_cover < found["rear left stage"].least_cover

    def test_when_the_outlet_is_bare_it_is_said_from_when(self, saltmarsh: Log) -> None:
        document = CURLEW.model_dump(mode="json")
        document["oil"] |= {"volume_l": 2.6, "mark_l": None}
        low = build_from(document)
        found = without_each_stage(low, assemble_pan(low), saltmarsh)
        bare = [each for each in found if each.bare_after is not None]
        assert bare and all(each.least_cover <= 0.0 for each in bare)
        assert all(0.0 <= each.bare_after <= 90.0 for each in bare if each.bare_after is not None)


def dry(**figures: Any) -> Build:
    return read_act({"kind": "go_dry", **figures}).done(DUNLIN).build


class TestWayBack:
    @pytest.mark.parametrize(
        ("separator", "order"), [("ahead", "ahead"), ("after", "after"), ("none", "none")]
    )
    def test_where_the_separator_is(self, separator: str, order: str) -> None:
        found = carried(dry(separator=separator).circuit, 0.5)
        assert found is not None and found.order == order
        behind = after_separator(0.5)
        assert found.in_cooler == pytest.approx(behind if order == "ahead" else 0.5)
        assert found.into_tank == pytest.approx(0.5 if order == "none" else behind)

    def test_without_a_cooler_it_stands_alone(self) -> None:
        found = carried(dry(separator="ahead", cooler=False).circuit, 0.5)
        assert found is not None and (found.order, found.in_cooler) == ("alone", None)

    def test_a_wet_sump_has_no_way_back(self) -> None:
        assert way_back(DUNLIN.circuit) == () and carried(DUNLIN.circuit, 0.5) is None

    @pytest.mark.parametrize("share", [0.02, 0.1, 0.6, 0.98])
    def test_however_little_gas_comes_as_much_of_it_stays(self, share: float) -> None:
        """Of 1 part with so much gas 0.3 of the gas is left, and all of the oil."""
        left, oil = 0.3 * share, 1.0 - share
        assert after_separator(share, 0.7) == pytest.approx(left / (left + oil))

    def test_oil_goes_through_a_separator_whole(self) -> None:
        """Of 1 L/min with 0.6 of gas: 0.4 of oil before and behind."""
        share = after_separator(0.6, TAKEN_OUT)
        gas = 0.6 * (1.0 - TAKEN_OUT)
        assert share * (gas + 0.4) == pytest.approx(gas)
        assert after_separator(1.0) == 1.0 and after_separator(0.0) == 0.0

    @pytest.mark.parametrize(("share", "taken"), [(-0.1, 0.5), (1.1, 0.5), (0.5, 1.2)])
    def test_what_is_no_share_is_refused(self, share: float, taken: float) -> None:
        with pytest.raises(InvalidQuantity, match="from 0 to 1"):
            after_separator(share, taken)


class TestLevel:
    SPACE = tank_space(tank_of(CURLEW))

    def test_a_level_holds_floor_times_height(self) -> None:
        """Closed form of a prism; full to the top it is the tank's volume."""
        assert litres_at(self.SPACE, self.SPACE.height) == pytest.approx(self.SPACE.volume)
        assert litres_at(self.SPACE, 0.0) == 0.0
        for level in (-1e-3, self.SPACE.height + 1e-3):
            with pytest.raises(InvalidQuantity, match="from the floor to the top"):
                litres_at(self.SPACE, level)

    def test_marks_and_litres_are_each_others_way_back(self) -> None:
        marks = tank_marks(self.SPACE, 5e-3, 2.2e-3)
        assert marks.low is not None and marks.low < marks.expected < marks.full
        assert litres_at(self.SPACE, marks.expected) == pytest.approx(5e-3)
        assert litres_at(self.SPACE, marks.low) == pytest.approx(2.2e-3)
        assert litres_at(self.SPACE, marks.full) == pytest.approx(0.8 * self.SPACE.volume)
        assert tank_marks(self.SPACE, 5e-3, None).low is None

    def test_what_was_found_is_a_record(self) -> None:
        found = read_record({"kind": "tank_level", "level_mm": 212, "engine": "running",
                             "can_l": 0.15, "after_min": 2})  # fmt: skip
        assert found.kind == "tank_level" and found.can_l == 0.15
        for wrong in ({"level_mm": -1}, {"engine": "asleep"}, {"can_l": 21}):
            with pytest.raises(InvalidInput, match=next(iter(wrong))):
                read_record({"kind": "tank_level", "level_mm": 1, "engine": "hot", **wrong})
