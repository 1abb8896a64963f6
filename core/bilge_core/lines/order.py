"""What is bought for the lines and the parts between them: one list for the whole circuit."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from bilge_core.clearance.keep_outs import distance_to
from bilge_core.document.build import Build
from bilge_core.document.circuit.kinds import AnyComponent
from bilge_core.document.circuit.pumps import PickupTube
from bilge_core.document.circuit.run import HardLine, Run
from bilge_core.lines.bending import Bender
from bilge_core.lines.chain import Own
from bilge_core.lines.laid import Line
from bilge_core.lines.ports import BARE, ON_ENGINE, is_through_a_wall, thread_of
from bilge_core.physics.axes import engine_to_car
from bilge_core.rules.lines import CLIPS, HEAT, is_hot
from bilge_core.shop import OF_THE_CAR, PARTS, bought_as
from bilge_core.shop.fittings import FITTINGS, hose_end_key, hose_key, spanner_of, tube_key
from bilge_core.shop.threads import joint_of

_TENTH = 0.1  # [m] that hose and tube are bought by (ours)
_ROUGH = 1.0  # [m] counted for a line that nobody measured (ours)
_BESIDE = 0.1  # [m] of heat sleeve over each end of what is hot (ours)
_STEP = 10e-3
_BARE_HOSE = {"vent": "breather_hose", "water": "water_hose"}
"""Hose by the metre of services whose hoses have no ends."""
_ALSO_BOUGHT = frozenset(
    {"scavenge_stage", "filter", "regulator", "sandwich_plate", "take_off_plate"}
)
"""Carried by the engine, yet bought."""


@dataclass(frozen=True)
class Need:
    """So many of a part, and for which line.

    part : its key in the shop
    count : pieces, or metres
    why : what for
    line : the line's number; 0: a part of the circuit itself
    is_rough : its line has no length: so much is counted until it has
    """

    part: str
    count: float
    why: str
    line: int = 0
    is_rough: bool = False


@dataclass(frozen=True)
class OrderRow:
    """A part of the order.

    part : its key
    count : in all
    why : what for, each once
    lines : numbers of the lines that it is for
    spanner : across its flats; empty: none
    is_rough : a line of them has no length yet
    """

    part: str
    count: float
    why: tuple[str, ...]
    lines: tuple[int, ...]
    spanner: str
    is_rough: bool = False


def _tenths(metres: float) -> float:
    """In tenths of a metre, no less.

    >>> _tenths(0.641), _tenths(1.0)
    (0.7, 1.0)
    """
    return round(math.ceil(metres / _TENTH - 1e-6) * _TENTH, 1)


def _sleeved(build: Build, line: Line) -> float:
    """Length of heat sleeve [m]: where something hot is near, or the whole line where none is."""
    if line.route is None or line.outside is None:
        return line.length or _ROUGH
    places, turn = line.route.sampled(_STEP), engine_to_car(build.car)
    near = np.zeros(len(places), dtype=bool)
    for keep_out in (each for _, each in build.car.measured_keep_outs if is_hot(each.name)):
        there = places if keep_out.frame == "car" else places @ turn
        near |= distance_to(there, keep_out)[0] < HEAT.least + 0.5 * line.outside
    if not near.any():
        return line.route.length
    return float(near.sum()) * _STEP + 2.0 * _BESIDE


def clips_of(line: Line) -> int:
    """How many clips a line has: one every so often, none at its ends.

    As told, else as the rule wants.
    """
    if line.length is None or line.length <= CLIPS.most:
        return 0
    told = getattr(line.run.line, "clips_mm", None)
    spacing = CLIPS.most if told is None else told * 1e-3
    return max(0, math.ceil(line.length / spacing) - 1)


def needs_of(build: Build, line: Line, bender: Bender) -> tuple[Need, ...]:
    """What one line takes.

    Parameters
    ----------
    build : Build
    line : Line
    bender : Bender
        For a hard line: what its flares and its spare take.
    """
    dash, number, name = max(line.dash, 3), line.number, line.run.name
    found: list[tuple[str, float, str]] = []
    if line.run.service in BARE and line.hose is not None:
        found += [(_BARE_HOSE[line.run.service], _tenths(line.length or _ROUGH), name)]
        found += [("spiral_clip", 2, name)]
    elif isinstance(line.run.line, HardLine):
        length = (line.length or _ROUGH) + 2.0 * bender.flare + bender.spare
        found += [(tube_key(dash), _tenths(length), name), (f"tube_nut_{dash}", 2, name)]
    else:
        cut = line.cut if line.cut is not None else _ROUGH
        found += [(hose_key(dash), _tenths(max(cut, _TENTH)), name)]
        found += [(hose_end_key(dash, end.angle), 1, name) for end in line.ends]
    for end in line.ends:
        if end.chain is not None:
            found += [(part.key, 1, f"at the {end.port.name}") for part in end.chain.fittings]
    count = clips_of(line)
    if count:
        found.append((f"clip_{dash}", count, name))
    if getattr(line.run.line, "sleeve", False):
        found.append(("heat_sleeve", _tenths(_sleeved(build, line)), name))
    by_length = {hose_key(dash), tube_key(dash), *_BARE_HOSE.values()}
    return tuple(
        Need(part, count, why, number, line.length is None and part in by_length)
        for part, count, why in found
    )


def _is_bought(component: AnyComponent) -> bool:
    if isinstance(component, PickupTube):  # the first is the pan's own
        return component.mouth_at is not None
    return component.kind not in ON_ENGINE | OF_THE_CAR or component.kind in _ALSO_BOUGHT


def needs_of_part(component: AnyComponent) -> tuple[Need, ...]:
    """What a component of the circuit is bought as; nothing for what the engine has."""
    if not _is_bought(component):
        return ()
    key = bought_as(component.kind, getattr(component, "worked", None))
    found = [Need(key, 1, component.name)]
    if component.kind == "bulkhead":
        found.append(Need("grommet", 1, component.name))
    if component.kind == "remote_filter":
        found.append(Need("oil_filter", component.filters, component.name))
    for thread, count in Counter(thread_of(component, key) for key in component.plugged).items():
        words = f"{component.name}, unused ports"
        joint = joint_of(thread) if thread else None
        if joint is not None:
            words += f" ({joint.words})"
        found.append(Need("port_plug", count, words))
    return tuple(found)


def _turning(build: Build, as_is: Build | None) -> Iterator[Need]:
    """What turns a dry sump's pump, and what a sump takes that goes dry besides parts and lines.

    Common practice, no published source: an outside pump on a belt; the old passage plugged.
    """
    drive = build.drive
    words = "the pump's drive" if drive is None else f"the pump's drive: {drive.words}"
    if as_is is None or not as_is.circuit.is_dry:
        yield Need("pump_drive", 1, words)
        yield Need("port_plug", 1, "the wet pump's passage")
    elif drive and as_is.drive and not drive.is_bought_like(as_is.drive):
        yield Need("pump_drive", 1, words)


def _enters_the_pan(build: Build, line: Line) -> bool:
    """Whether a line comes in through the pan's wall: by a bung or a through-fitting."""
    into = build.circuit.component(line.run.end.component)
    return into is not None and is_through_a_wall(into.kind, line.run.service)


def _same_line(run: Run, other: Run) -> bool:
    """Whether a run is made up of the same: its line, its ends, its way."""
    return (run.line, run.route, run.start, run.end) == (
        other.line, other.route, other.start, other.end
    )  # fmt: skip


def added_up(needs: Sequence[Need], own: Own = ()) -> tuple[OrderRow, ...]:
    """Needs added up by part, in the shop's order, a workshop's own parts last.

    Examples
    --------
    >>> rows = added_up([Need("hose_10", 0.7, "a", 1), Need("union_10", 1, "b", 1),
    ...                  Need("hose_10", 0.4, "c", 2)])
    >>> [(row.part, row.count, row.lines, row.spanner) for row in rows]
    [('hose_10', 1.1, (1, 2), ''), ('union_10', 1, (1,), '1 in')]
    """
    order = {key: at for at, key in enumerate(PARTS)}
    rows = []
    for part in sorted({each.part for each in needs}, key=lambda key: (order.get(key, 1e9), key)):
        mine = [each for each in needs if each.part == part]
        total = round(sum(each.count for each in mine), 1)
        by_length = part in PARTS and PARTS[part].per == "metre"
        rows.append(
            OrderRow(
                part, total if by_length or total != int(total) else int(total),
                tuple(dict.fromkeys(each.why for each in mine)),
                tuple(sorted({each.line for each in mine if each.line})), _spanner(part, own),
                any(each.is_rough for each in mine),
            )
        )  # fmt: skip
    return tuple(rows)


def _spanner(part: str, own: Own) -> str:
    fitting = FITTINGS.get(part) or next((each for each in own if each.key == part), None)
    if fitting is not None:
        return fitting.spanner
    for begins in ("hose_end_", "tube_nut_"):
        if part.startswith(begins):
            return spanner_of(int(part.removeprefix(begins).split("_")[0]))
    return ""


def order_of(
    build: Build, lines: Sequence[Line], bender: Bender, as_is: Build | None = None,
    own: Own = (), also: Sequence[Need] = (),
) -> tuple[OrderRow, ...]:  # fmt: skip
    """The whole order.

    Parameters
    ----------
    build : Build
        As planned.
    lines : sequence of Line
        Of that build.
    bender : Bender
    as_is : Build or None
        As the car is: what it has is not bought; None: nobody said, all is listed.
    own : tuple of Fitting
        What the workshop keeps besides the starting set.
    also : sequence of Need
        What it buys besides.

    Returns
    -------
    tuple of OrderRow
    """
    has_runs = {run.id: run for run in as_is.circuit.runs} if as_is else {}
    has_parts = {part.id: part for part in as_is.circuit.components} if as_is else {}
    needs: list[Need] = []
    for component in build.circuit.components:
        old = has_parts.get(component.id)
        if old is None or old.kind != component.kind:
            needs += needs_of_part(component)
    if build.circuit.is_dry:
        needs += _turning(build, as_is)
    had = {boss.id for boss in as_is.pan.bosses} if as_is else set()
    needs += [
        Need("bung", 1, f"entry of the {line.run.name}", line.number)
        for line in lines
        if line.run.end.port not in had and _enters_the_pan(build, line)
    ]
    for line in lines:
        old_run = has_runs.get(line.run.id)
        if old_run is None or not _same_line(line.run, old_run):
            needs += needs_of(build, line, bender)
    return added_up([*needs, *also], own)
