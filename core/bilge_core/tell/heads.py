"""Heads over a lap, as everybody reads them."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from bilge_core.acts.breathing import OutsideReturn
from bilge_core.document.build import Build
from bilge_core.errors import InvalidInput
from bilge_core.forecast.heads import HeadOverLap, heads_over, mean_held
from bilge_core.loads.corners import Corner
from bilge_core.loads.log import Log
from bilge_core.network import network_of
from bilge_core.tell.numbers import litres, mm


class HeadDrainOut(BaseModel):
    """A drain of a head: from the floor's middle along the engine and to the left, its bore, and
    how many alike stand there."""

    x_mm: float
    y_mm: float
    bore_mm: float
    many: float


class HeadCornerOut(BaseModel):
    """A head at a corner's middle: oil in it, and which drains have oil over them."""

    corner: int
    hand: Literal["left", "right"]
    held_l: float
    wet: list[bool]


class HeadOut(BaseModel):
    """A head over a lap."""

    component: str
    name: str
    measured: bool
    drains: list[HeadDrainOut]
    mean_l: float
    most_l: float
    most_at_s: float
    deepest_mm: float
    corners: list[HeadCornerOut]
    gas_up_l_min: float
    freer_mean_l: float
    """Mean with its passages a quarter wider."""
    outside_mean_l: float | None
    """Mean with a size 12 line outside besides; null where none can be led."""


def _outside(build: Build, log: Log, head: HeadOverLap) -> float | None:
    act = OutsideReturn(kind="outside_return", head=head.component)
    try:
        after = act.done(build).build
    except InvalidInput:
        return None
    return mean_held(network_of(after), after, log, head.component)


def _head_out(build: Build, log: Log, head: HeadOverLap) -> HeadOut:
    most = int(head.held.argmax())
    outside = _outside(build, log, head)
    return HeadOut(
        component=head.component, name=head.name, measured=head.measured,
        drains=[
            HeadDrainOut(x_mm=mm(x, 0), y_mm=mm(y, 0), bore_mm=mm(bore, 1), many=round(many, 1))
            for x, y, bore, many in head.drains.tolist()
        ],
        mean_l=litres(head.held.mean(), 2), most_l=litres(head.held[most], 2),
        most_at_s=round(float(head.time[most]), 2), deepest_mm=mm(head.depth.max(), 0),
        corners=[
            HeadCornerOut(
                corner=each.corner.number, hand=each.corner.hand, held_l=litres(each.held, 2),
                wet=list(each.wet),
            )
            for each in head.corners
        ],
        gas_up_l_min=round(head.gas_up * 60e3, 1), freer_mean_l=litres(head.pocket + head.freer, 2),
        outside_mean_l=None if outside is None else litres(head.pocket + outside, 2),
    )  # fmt: skip


def heads_out(build: Build, log: Log, corners: tuple[Corner, ...]) -> list[HeadOut]:
    """Every head of a build over a lap.

    Parameters
    ----------
    build : Build
    log : Log
        Prepared.
    corners : tuple of Corner
    """
    return [_head_out(build, log, head) for head in heads_over(build, log, corners)]
