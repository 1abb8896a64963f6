"""Which cells are oil, open air, or air that is shut in: a row of cells, open at its far end."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from bilge_core.moving.cells import sort_cells
from bilge_core.moving.transfer import OIL, OPEN_AIR, SHUT_AIR

from tests.oil_boxes import pumped_box

COUNT = 9


def kinds(filling: list[float]) -> list[int]:
    """Of a row of cells by how full they are; the last is open to the outside."""
    long = COUNT + 2
    strides = np.array([3 * long, long, 1])
    fluid = (strides[0] + strides[1] + np.arange(1, COUNT + 1)).astype(np.int32)
    full = np.zeros(9 * long, dtype=np.float32)
    full[fluid] = filling
    area = np.zeros((3, 9 * long), dtype=np.float32)
    area[2, fluid[1:]] = 1.0
    vent = np.zeros(9 * long, dtype=np.bool_)
    vent[fluid[-1]] = True
    kind = np.zeros(9 * long, dtype=np.uint8)
    stack = np.zeros(9 * long, dtype=np.int64)
    sort_cells(full, fluid, area, vent, strides, kind, stack)
    return [int(each) for each in kind[fluid]]


def row(plug: float, behind: float = 0.0) -> list[float]:
    """Four cells behind one that may be plugged, four before it."""
    return [*[behind] * 4, plug, *[0.0] * 4]


@pytest.mark.parametrize(
    ("plug", "there", "behind"),
    [
        (0.29, OPEN_AIR, OPEN_AIR),  # thin spray lets air through
        (0.31, OPEN_AIR, SHUT_AIR),  # denser spray seals
        (0.59, OPEN_AIR, SHUT_AIR),
        (0.61, OIL, SHUT_AIR),
    ],
)
def test_spray_that_lets_air_through_and_spray_that_seals(
    plug: float, there: int, behind: int
) -> None:
    """Ours: air passes up to three tenths full, and from six tenths on a cell is oil."""
    found = kinds(row(plug))
    assert found[4] == there
    assert found[:4] == [behind] * 4
    assert found[5:] == [OPEN_AIR] * 4


@pytest.mark.parametrize(("empty", "kept"), [(0.63, True), (0.62, False)])
def test_a_pocket_of_less_than_two_and_a_half_cells_is_a_hole_that_closes(
    empty: float, kept: bool
) -> None:
    found = kinds(row(0.9, behind=1.0 - empty))
    assert found[:4] == [SHUT_AIR if kept else OIL] * 4


@pytest.mark.parametrize(("kind", "share"), [(SHUT_AIR, 1.0), (OPEN_AIR, 0.0)])
def test_shut_in_air_goes_up_the_pickup_and_open_air_leaves_the_oil(
    kind: int, share: float, monkeypatch: pytest.MonkeyPatch
) -> None:
    """What the mouth takes out of its cells while there is no oil in them."""
    coupled = pumped_box(0.02, 0.5e-3, 1.0, 0.01)
    cells, part = coupled.inlets[0].cells, coupled.inlets[0].part
    taken: list[Any] = []
    nothing = np.zeros(len(cells), dtype=np.float32)
    monkeypatch.setattr(coupled.observer, "inlet_shares", lambda oil, mouth: nothing)
    monkeypatch.setattr(coupled.oil, "advance", lambda step, load, sink: taken.append(sink.copy()))
    coupled.oil.kind_flat[cells] = kind
    coupled.advance(0.01, np.array([0.0, 0.0, -9.80665]))
    assert taken[0][cells] == pytest.approx(0.5e-3 * part * share, rel=1e-5)
