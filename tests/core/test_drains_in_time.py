"""A drain over time and over loads: cells that fill and empty, and the rose's edge."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
from bilge_core.drains.drain_rose import drain_rose
from bilge_core.drains.line import Piece, line_along
from bilge_core.drains.over_lap import DrainOverLap, Met, drain_over
from bilge_core.drains.standing import Load, stands
from bilge_core.errors import InvalidQuantity
from bilge_core.pan import level_of_volume
from bilge_core.physics.axes import apparent_gravity, up_from

from tests.falling import BUILD, FROTH, OIL, PAN, G, straight


def met_over(
    time: np.ndarray[Any, np.dtype[np.float64]], swing: float, flow: float, level: float,
    pressure: float = 200.0,
) -> Met:  # fmt: skip
    side = swing * np.sin(time * 0.9)
    ups = np.column_stack([np.zeros_like(time), side, np.ones_like(time)])
    length = np.linalg.norm(ups, axis=1)
    count = len(time)
    return Met(
        time, ups / length[:, None], length * G, level / length, np.full(count, flow),
        np.full(count, pressure),
    )  # fmt: skip


class TestOverTime:
    TIME = np.arange(0.0, 40.0, 0.04)

    def over(self, step: float = 0.02, **changes: float) -> DrainOverLap:
        figures = {"swing": 0.9, "flow": 1.8 / 60e3, "level": 0.03, **changes}
        return drain_over(straight(0.12), 12e-4, FROTH, met_over(self.TIME, **figures), step)

    def test_left_alone_it_comes_to_what_it_stands_at(self) -> None:
        for flow in (0.5, 1.2, 1.6):
            found = self.over(swing=0.0, flow=flow / 60e3)
            assert found.margin[-1] > 0.0
            assert found.room[-1] == pytest.approx(found.margin[-1], abs=3e-3)
            assert found.spilled[-1] == 0.0

    def test_half_a_step_moves_the_flooded_time_by_less_than_a_twentieth(self) -> None:
        flooded = [float((self.over(step).room < 0.0).sum()) for step in (0.02, 0.01, 0.005)]
        assert flooded[0] > 50
        assert flooded == pytest.approx([flooded[-1]] * 3, rel=0.05)

    def test_it_floods_later_and_shorter_than_each_moments_load_would_have_it(self) -> None:
        met = met_over(self.TIME, 0.0, 1.0 / 60e3, 0.05, 0.0)
        met.surface[300:350] = 0.143  # two seconds of oil nearly up to the seals
        found = drain_over(straight(0.12), 12e-4, FROTH, met)
        assert 0 < (found.room < 0.0).sum() < (found.margin < 0.0).sum() == 50
        assert int(np.argmax(found.room < 0.0)) > 302

    def test_a_line_once_full_stays_full_longer_where_gas_pushes(self) -> None:
        """Oil that is faster in it than a bubble rises lets no gas by: the load alone would not
        have filled it."""
        found = self.over()
        assert found.margin.min() > 0.0 > found.room.min()

    def test_what_came_in_is_in_the_housing_or_went(self) -> None:
        """Shut off by the pan's oil, nothing leaves by the line: all of it stays, or is spilled."""
        time = np.arange(0.0, 6.0, 0.04)
        met = met_over(time, 0.0, 0.05 / 60e3, 0.5)
        line = straight(0.12)
        found = drain_over(line, 12e-4, OIL, met)
        assert np.all(found.room < 0.0)  # the pan stands over the seals
        assert found.spilled[-1] > 0.0

    def test_as_much_comes_out_as_is_fed(self) -> None:
        found = self.over(swing=0.0, flow=3.0 / 60e3, level=0.0)
        spilt = np.diff(found.spilled)[-100:].sum() / 4.0
        assert 0.0 < spilt < 3.0 / 60e3  # the rest goes down the line

    def test_what_cannot_be(self) -> None:
        met = met_over(self.TIME[:1], 0.0, 1e-5, 0.0)
        with pytest.raises(InvalidQuantity, match="two or more"):
            drain_over(straight(), 12e-4, OIL, met)
        bad = met_over(self.TIME, math.nan, 1e-5, 0.0)
        with pytest.raises(InvalidQuantity, match="finite"):
            drain_over(straight(), 12e-4, OIL, bad)


class TestTheRose:
    LINE = line_along(
        [(0.096, -0.196, 0.15), (0.072, -0.112, -0.01)], [0, 0], [Piece("hose", 0.0141)],
        seal=(0.096, -0.196, 0.176),
    )  # fmt: skip

    def test_its_edge_is_where_oil_comes_to_the_seal(self) -> None:
        """Tried at single loads on both sides of it."""
        flow = 1.8 / 60e3
        rose = drain_rose(self.LINE, PAN, BUILD.car, flow, FROTH, 200.0)
        found = np.flatnonzero(np.isfinite(rose.edge) & (rose.edge > 0.0))
        assert len(found) > 5
        for at in found[::3]:
            for far, sign in ((-0.05, 1.0), (0.05, -1.0)):
                load = (rose.edge[at] + far) * G
                angle = rose.directions[at]
                gravity = apparent_gravity(
                    BUILD.car, -load * math.cos(angle), -load * math.sin(angle)
                )
                up = up_from(gravity)
                level = level_of_volume(PAN.solid, up, PAN.oil_volume)
                there = Load(up, float(np.linalg.norm(gravity)), level, 200.0)
                assert sign * stands(self.LINE, flow, FROTH, there).margin > 0.0

    def test_more_flow_makes_it_smaller(self) -> None:
        edges = [
            drain_rose(self.LINE, PAN, BUILD.car, flow / 60e3, FROTH, 200.0).edge
            for flow in (1.0, 1.8)
        ]
        assert np.all(edges[1] <= edges[0] + 1e-9)
