"""All lines of a build with what is round them, and the order."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from pydantic import BaseModel

from bilge_core.document.build import Build
from bilge_core.document.circuit.run import HardLine
from bilge_core.document.keep_outs import PlaneKeepOut
from bilge_core.lines.bending import Bender
from bilge_core.lines.flows import COLD, COLD_RPM, flows_cold, flows_hot
from bilge_core.lines.laid import Line, lines_of
from bilge_core.lines.order import Need, OrderRow, order_of
from bilge_core.lines.stock import BAR, cut_from
from bilge_core.network.breathing import place_of_port
from bilge_core.options.candidate import Prices
from bilge_core.pan import Pan, assemble_pan
from bilge_core.physics.axes import engine_to_car
from bilge_core.rules.lines import is_hot
from bilge_core.shop.threads import NO_PORT, joints
from bilge_core.shop.tools import tools_for
from bilge_core.tell.lines import LineOut, line_out
from bilge_core.tell.numbers import SpacePoint, mm, space_point
from bilge_core.tell.outlines import corners_of, hull


class BesideLinesOut(BaseModel):
    """Something round the lines, the car's frame: seen from above and from the left."""

    name: str
    plan_mm: list[tuple[float, float]]
    side_mm: list[tuple[float, float]]
    is_hot: bool


class ComponentAtOut(BaseModel):
    """A component that has a place, the car's frame."""

    id: str
    name: str
    kind: str
    at_mm: SpacePoint


class OrderRowOut(BaseModel):
    """A part of the order."""

    part: str
    words: str
    per: str
    count: float
    price: float
    """Of all of them."""
    lead_days: int
    why: list[str]
    lines: list[int]
    spanner: str
    own_price: bool
    """The workshop's own; otherwise the generic set's, which is invented."""
    is_rough: bool
    """One of its lines has no length yet: a metre is counted for it."""


class BarOut(BaseModel):
    """A bar of tube and what comes out of it: numbers of lines."""

    dash: int
    lines: list[int]
    left_mm: float


class LinesOut(BaseModel):
    """All lines of a build."""

    lines: list[LineOut]
    around: list[BesideLinesOut]
    components: list[ComponentAtOut]
    pan_plan_mm: list[tuple[float, float]]
    pan_side_mm: list[tuple[float, float]]
    ground_mm: float | None
    """Height of the ground in the car's frame; null: not known."""
    order: list[OrderRowOut]
    total: float
    spanners: list[str]
    tools: list[str]
    """Besides spanners."""
    bars: list[BarOut]
    bar_mm: float
    hot_c: float
    hot_rpm: float
    cold_c: float
    cold_rpm: float
    threads: dict[str, str]
    """Thread ends that a port may show, with their words."""


def _around(build: Build) -> list[BesideLinesOut]:
    turn, found = engine_to_car(build.car), []
    for keep_out in build.car.keep_outs:
        if isinstance(keep_out, PlaneKeepOut):
            continue  # it has no outline
        places = corners_of(keep_out)
        if keep_out.frame == "engine":
            places = places @ turn.T
        found.append(
            BesideLinesOut(
                name=keep_out.name, plan_mm=hull(places, (0, 1)), side_mm=hull(places, (0, 2)),
                is_hot=is_hot(keep_out.name),
            )
        )  # fmt: skip
    return found


def _components(build: Build) -> list[ComponentAtOut]:
    turn, found = engine_to_car(build.car), []
    for part in build.circuit.components:
        keys = [each.key for each in part.PORTS]
        places = [
            place for key in keys if (place := place_of_port(build.car, part, key)) is not None
        ]
        if places:
            middle = np.mean(np.array(places), axis=0) @ turn.T
            found.append(
                ComponentAtOut(
                    id=part.id, name=part.name, kind=part.kind, at_mm=space_point(middle)
                )
            )
    return found


def order_out(rows: Sequence[OrderRow], prices: Prices) -> list[OrderRowOut]:
    """The order with a workshop's prices.

    Examples
    --------
    >>> from bilge_core.lines.order import Need, added_up
    >>> row = order_out(added_up([Need("hose_10", 0.7, "to the cooler", 1)]), Prices.generic())[0]
    >>> row.words, row.count, row.per
    ('hose, size 10', 0.7, 'metre')
    """
    found = []
    for row in rows:
        part = prices.part(row.part)
        found.append(
            OrderRowOut(
                part=row.part, words=part.words, per=part.per, count=row.count,
                price=round(part.cost * row.count, 2), lead_days=part.lead_days, why=list(row.why),
                lines=list(row.lines), spanner=row.spanner, own_price=row.part in prices.parts,
                is_rough=row.is_rough,
            )
        )  # fmt: skip
    return found


def _bars(lines: Sequence[Line], bender: Bender) -> list[BarOut]:
    """Bars of tube, size by size; a piece longer than a bar is left to the checks."""
    found = []
    tubes = [
        (line.dash, line.number, line.length + 2.0 * bender.flare + bender.spare)
        for line in lines
        if isinstance(line.run.line, HardLine) and line.length
    ]
    for dash in sorted({dash for dash, _, _ in tubes}):
        mine = [(number, long) for size, number, long in tubes if size == dash and long <= BAR]
        for bar in cut_from([long for _, long in mine]):
            numbers = sorted(mine[at][0] for at in bar.pieces)
            found.append(BarOut(dash=dash, lines=numbers, left_mm=mm(bar.left)))
    return found


def lines_out(
    build: Build, prices: Prices, bender: Bender, as_is: Build | None = None,
    pan: Pan | None = None, also: Sequence[Need] = (),
) -> LinesOut:  # fmt: skip
    """All lines of a build and the order for them.

    Parameters
    ----------
    build : Build
    prices : Prices
        A workshop's.
    bender : Bender
    as_is : Build or None
        As the car is: what it has is not bought.
    pan : Pan or None
        As assembled from the build; assembled here where it is not given.
    also : sequence of Need
        What is bought besides.

    Raises
    ------
    InvalidInput
        If its circuit cannot be run.
    """
    hot, cold = flows_hot(build), flows_cold(build)
    own = prices.fittings
    lines = lines_of(build, hot, cold, own)
    order = order_out(order_of(build, lines, bender, as_is, own, also), prices)
    pan = pan or assemble_pan(build)
    wall = pan.solid.vertices[pan.solid.vertices[:, 2] < 1e-6] @ engine_to_car(build.car).T
    rail = build.car.rail_height_mm
    return LinesOut(
        lines=[line_out(build, each, lines, bender) for each in lines],
        around=_around(build), components=_components(build), pan_plan_mm=hull(wall, (0, 1)),
        pan_side_mm=hull(wall, (0, 2)), ground_mm=None if rail is None else -rail,
        order=order, total=round(sum(row.price for row in order), 2),
        spanners=sorted({row.spanner for row in order if row.spanner not in ("", "bolts")}),
        tools=list(tools_for(row.part for row in order)),
        bars=_bars(lines, bender), bar_mm=mm(BAR), hot_c=hot.temperature_c, hot_rpm=hot.rpm,
        cold_c=COLD, cold_rpm=COLD_RPM,
        threads=joints(NO_PORT),
    )  # fmt: skip
