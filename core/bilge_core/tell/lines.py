"""Lines as everybody reads them: each with its ends, its way, its figures and checks; the order."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

from pydantic import BaseModel

from bilge_core.checks.lines import check_line
from bilge_core.document.build import Build
from bilge_core.document.circuit.component import Service
from bilge_core.document.circuit.run import HardLine
from bilge_core.errors import InvalidQuantity
from bilge_core.lines.bending import Bender, bending_sheet, clocking
from bilge_core.lines.chain import Chain
from bilge_core.lines.laid import Line, LineEnd
from bilge_core.lines.order import clips_of
from bilge_core.lines.ports import BARE, faces_word
from bilge_core.physics.arrays import Array
from bilge_core.rules import State
from bilge_core.rules import lines as rules
from bilge_core.shop.fittings import spanner_of
from bilge_core.shop.threads import THREADS
from bilge_core.tell.checks import CheckOut, check_out
from bilge_core.tell.numbers import SpacePoint, mm, space_point, space_points

_DRAWN = 0.02  # [m] between places that are drawn (ours)
_NM = 1.355818  # N m of a lbf ft


class FittingOut(BaseModel):
    """A fitting of a chain, from the port out."""

    key: str
    words: str
    entry: str
    """What it screws onto the port or the part before with, in words."""
    entry_family: str
    shows: str
    shows_family: str
    angle_deg: int
    height_mm: float
    spanner: str
    seals: str
    """What makes its joint to the part before tight."""


class ChainOut(BaseModel):
    """Fittings from a port to a line's end."""

    fittings: list[FittingOut]
    cost: float
    height_mm: float


class LineEndOut(BaseModel):
    """One end of a line."""

    component: str
    port: str
    name: str
    port_words: str
    thread: str
    thread_key: str
    """As `set_port` takes it: a thread and male or female."""
    family: str
    is_usual: bool
    """Nobody said which thread: such a part usually has it."""
    seals: str
    place_mm: SpacePoint | None
    faces: str | None
    chain: ChainOut | None
    """Null: none is known, a part must be made."""
    others: list[ChainOut]
    is_chosen: bool
    hose_end_deg: int
    spanner: str
    torque: str
    """Of the flare nut on a steel end, from memory; empty: by the maker."""


class PullOut(BaseModel):
    """A bend of a bending sheet."""

    straight_mm: float
    mark_mm: float
    roll_deg: float
    bend_deg: float
    pulled_deg: float
    radius_mm: float


class SheetOut(BaseModel):
    """A hard line's bending sheet."""

    pulls: list[PullOut]
    last_mm: float
    developed_mm: float
    cut_mm: float
    stock_mm: float


class GapOut(BaseModel):
    """The gap between a line and what is round it."""

    name: str
    gap_mm: float
    wanted_mm: float
    rocks: bool
    at_mm: SpacePoint


class PointOut(BaseModel):
    """A point of a way, the car's frame."""

    at_mm: SpacePoint
    radius_mm: float | None


class LineOut(BaseModel):
    """A hose or a hard line."""

    id: str
    number: int
    name: str
    service: Service
    kind: Literal["hose", "hard_line"]
    state: State
    dash: int | None
    bore_mm: float | None
    outside_mm: float | None
    length_mm: float | None
    cut_mm: float | None
    slack_mm: float | None
    clips_mm: float | None
    clips: int
    sleeve: bool
    wall_mm: float | None
    points: list[PointOut]
    """Its way, the car's frame; empty: not laid."""
    drawn_mm: list[SpacePoint]
    """Its middle with its bends, for drawing."""
    tightest_mm: float | None
    least_mm: float
    flow_l_min: float | None
    cold_flow_l_min: float | None
    speed_m_s: float | None
    speed_most_m_s: float | None
    loss_bar: float | None
    cold_loss_bar: float | None
    gaps: list[GapOut]
    ends: tuple[LineEndOut, LineEndOut]
    clocking_deg: float | None
    """Between its two angled hose ends; null: not both are, or a port's way is not known."""
    sheet: SheetOut | None
    no_sheet: str
    """Why a hard line has no bending sheet; empty."""
    checks: list[CheckOut]


def chain_out(chain: Chain, port_thread: str, end: LineEnd) -> ChainOut:
    """A chain as it screws together from a port."""
    here = end.port.joint
    fittings = []
    for part in chain.fittings:
        first, second = part.ends
        entry, shown = (first, second) if first == here.mate else (second, first)
        fittings.append(
            FittingOut(
                key=part.key, words=part.words, entry=entry.words,
                entry_family=THREADS[entry.thread].family, shows=shown.words,
                shows_family=THREADS[shown.thread].family, angle_deg=part.angle,
                height_mm=mm(part.height), spanner=part.spanner, seals=THREADS[entry.thread].seals,
            )
        )  # fmt: skip
        here = shown
    return ChainOut(fittings=fittings, cost=chain.cost, height_mm=mm(chain.height))


def _end_out(line: Line, end: LineEnd, spanner: str) -> LineEndOut:
    port = end.port
    thread = THREADS[port.joint.thread]
    return LineEndOut(
        component=port.component, port=port.port, name=port.name, port_words=port.words,
        thread=port.joint.words, thread_key=f"{port.joint.thread} {port.joint.sex}",
        family=thread.family, is_usual=port.is_usual, seals=thread.seals,
        place_mm=None if port.place is None else space_point(port.place),
        faces=None if port.faces is None else faces_word(port.faces),
        chain=None if end.chain is None else chain_out(end.chain, port.joint.thread, end),
        others=[chain_out(each, port.joint.thread, end) for each in end.others],
        is_chosen=end.is_chosen, hose_end_deg=end.angle, spanner=spanner,
        torque=_torque(line),
    )  # fmt: skip


def _torque(line: Line) -> str:
    """What a flare nut of the line's size is tightened to."""
    nut = THREADS.get(f"flare {line.dash}")
    if nut is None or nut.torque is None or line.run.service in BARE:
        return ""
    low, high = nut.torque
    return f"{low:g} to {high:g} lbf ft ({low * _NM:.0f} to {high * _NM:.0f} N m)"


def _sheet(line: Line, bender: Bender) -> tuple[SheetOut | None, str]:
    if not isinstance(line.run.line, HardLine):
        return None, ""
    if line.route is None:
        return None, "It is not laid: a bending sheet wants its way."
    try:
        sheet = bending_sheet(line.route, bender)
    except InvalidQuantity as error:
        return None, f"No bending sheet: {error.name} {error.value} must be {error.requirement}."
    return SheetOut(
        pulls=[
            PullOut(
                straight_mm=mm(each.straight), mark_mm=mm(each.mark),
                roll_deg=round(math.degrees(each.roll), 1),
                bend_deg=round(math.degrees(each.turn), 1),
                pulled_deg=round(math.degrees(each.pulled), 1), radius_mm=mm(each.radius),
            )
            for each in sheet.pulls
        ],
        last_mm=mm(sheet.last), developed_mm=mm(sheet.developed), cut_mm=mm(sheet.cut),
        stock_mm=mm(sheet.stock),
    ), ""  # fmt: skip


def _clocking(line: Line) -> float | None:
    first, last = line.ends
    if line.route is None or not (first.angle and last.angle):
        return None
    if first.port.faces is None or last.port.faces is None:
        return None
    turned = clocking(line.route, first.port.faces, last.port.faces)
    return None if turned is None else round(math.degrees(turned))


def _in_bar(pressure: float | None) -> float | None:
    return None if pressure is None else round(pressure / 1e5, 3)


def _in_mm(metres: float | None) -> float | None:
    return None if metres is None else mm(metres)


def line_out(build: Build, line: Line, others: Sequence[Line], bender: Bender) -> LineOut:
    """One line, among all of the build."""
    found = [check_out(build, each) for each in check_line(build, line, others)]
    worst: State = found[0].state if found else "good"
    made = line.run.line
    assert made.kind in ("hose", "hard_line")
    sheet, no_sheet = _sheet(line, bender)
    rule = rules.SPEEDS.get(line.run.service)
    spanner = "" if line.run.service in BARE else spanner_of(max(line.dash, 3))
    tightest = line.route.tightest if line.route else None
    points: list[Array] = [] if line.route is None else list(line.route.points)
    drawn: list[Array] = [] if line.route is None else list(line.route.sampled(_DRAWN))
    told = [each.radius_mm for each in line.run.route] if len(points) else []
    return LineOut(
        id=line.run.id, number=line.number, name=line.run.name, service=line.run.service,
        kind=made.kind,
        state=worst, dash=getattr(made, "dash", None), bore_mm=_in_mm(line.bore),
        outside_mm=_in_mm(line.outside), length_mm=_in_mm(line.length), cut_mm=_in_mm(line.cut),
        slack_mm=getattr(made, "slack_mm", None), clips_mm=getattr(made, "clips_mm", None),
        clips=clips_of(line), sleeve=bool(getattr(made, "sleeve", False)),
        wall_mm=getattr(made, "wall_mm", None),
        points=[
            PointOut(at_mm=space_point(place), radius_mm=radius)
            for place, radius in zip(points, told, strict=True)
        ],
        drawn_mm=space_points(drawn),
        tightest_mm=None if tightest is None else mm(tightest.radius), least_mm=mm(line.least),
        flow_l_min=round(line.flow * 60e3, 1) if line.flow else None,
        cold_flow_l_min=round(line.cold_flow * 60e3, 1) if line.cold_flow else None,
        speed_m_s=None if line.speed is None else round(line.speed, 2),
        speed_most_m_s=None if rule is None else rule.most,
        loss_bar=_in_bar(line.loss), cold_loss_bar=_in_bar(line.cold_loss),
        gaps=[
            GapOut(
                name=each.name, gap_mm=mm(each.gap), wanted_mm=mm(each.wanted), rocks=each.rocks,
                at_mm=space_point(each.at),
            )
            for each in line.gaps
        ],
        ends=(_end_out(line, line.ends[0], spanner), _end_out(line, line.ends[1], spanner)),
        clocking_deg=_clocking(line), sheet=sheet, no_sheet=no_sheet, checks=found,
    )  # fmt: skip
