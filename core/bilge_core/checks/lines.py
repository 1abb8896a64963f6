"""Lines held against their rules: bends, speeds, losses, gaps, clips, slack, threads."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

import numpy as np

from bilge_core.document.build import Build
from bilge_core.document.circuit.route import Route
from bilge_core.document.circuit.run import Hose
from bilge_core.lines.laid import Gap, Line
from bilge_core.lines.parallel import beside
from bilge_core.lines.ports import BARE
from bilge_core.rules import Check, drains, lines

_STEP = 10e-3  # [m] by which a route's fall is looked at (ours)
_PULLED = frozenset({"pressure", "return", "water"})
"""Services whose hoses shorten under pressure."""


def least_fall(route: Route) -> float:
    """The flattest stretch of a route in the car's frame, standing [degrees]; negative: it rises.

    Examples
    --------
    >>> from bilge_core.document.circuit.route import laid
    >>> round(least_fall(laid([(0, 0, 0), (0.1, 0, -0.1), (0.3, 0, -0.15)], [0.02])))
    14
    """
    steps = np.diff(route.sampled(_STEP), axis=0)
    long = np.linalg.norm(steps, axis=1)
    apart = long > 1e-6  # where a bend begins two places are one
    down = -steps[apart, 2] / long[apart]
    return float(np.degrees(np.arcsin(np.clip(down.min(), -1.0, 1.0))))


def _of_gaps(build: Build, gaps: tuple[Gap, ...], sleeved: bool, field: str) -> Iterator[Check]:
    for gap in gaps:
        yield lines.check_gap(gap.name, gap.gap, gap.wanted, gap.rocks, field)
        if lines.is_hot(gap.name):
            heat = lines.check_heat(gap.name, gap.gap, sleeved, f"{field}.line.sleeve")
            if heat is not None:
                yield heat


def _of_ends(line: Line, field: str) -> Iterator[Check]:
    for which, end in zip(("start", "end"), line.ends, strict=True):
        port, called = end.port, f"{end.port.name}, {end.port.words}"
        if port.written:
            words = f"{called}: {port.written!r} is no thread that is known here; choose one"
            yield Check("bad", words, f"{field}.{which}.port", lines.CHAIN)
        elif line.run.service not in BARE or not port.is_usual:
            yield lines.check_chain(
                called, end.chain is not None, port.joint.words, line.dash, f"{field}.{which}"
            )
        if end.off is not None and line.hose is not None:
            yield lines.check_hose_end(
                f"The hose end at the {port.name}", math.degrees(end.off),
                f"{field}.{which}.hose_end_deg",
            )  # fmt: skip
        if end.meets is not None:
            yield lines.check_meets(f"Its {which} is", end.meets, f"{field}.route")


def check_line(build: Build, line: Line, others: Sequence[Line] = ()) -> tuple[Check, ...]:
    """All that can be said of a line, what is wrong first.

    Parameters
    ----------
    build : Build
    line : Line
        Of that build.
    others : sequence of Line
        All of its lines, itself among them or not: tubes beside it.

    Returns
    -------
    tuple of Check
    """
    at = next(n for n, run in enumerate(build.circuit.runs) if run.id == line.run.id)
    field, found = f"circuit.runs.{at}", list[Check]()
    run_line = line.run.line
    kind, sleeved = run_line.kind, bool(getattr(run_line, "sleeve", False))
    if line.fault:
        found.append(Check("bad", f"Its route: {line.fault}", f"{field}.route", lines.STRAIGHT))
    if line.length is None:
        found.append(lines.no_length(f"{field}.line.length_mm"))
    route = line.route
    if route is not None:
        found.append(lines.check_legs(min(route.straights), f"{field}.route"))
        tight = route.tightest
        if tight is not None:
            found.append(lines.check_bend(kind, tight.radius, line.least, f"{field}.route"))
        if len(route.arcs) > sum(arc.radius > 0.0 for arc in route.arcs):
            words = "Turns on the spot where no radius is given: give every bend its radius"
            found.append(Check("caution", words, f"{field}.route", lines.HOSE_BEND))
    if line.speed is not None and line.run.service != "vent":
        speed = lines.check_speed(line.run.service, line.speed, f"{field}.line.dash")
        found += [speed] if speed is not None else []
    if route is not None and line.run.service == "drain":
        fall = drains.check_fall("It", least_fall(route), f"{field}.route")
        found += [fall] if fall is not None else []
    if line.loss is not None and line.run.service == "pressure":
        found.append(lines.check_loss(line.loss, f"{field}.line.dash"))
    found += _of_gaps(build, line.gaps, sleeved, field)
    if line.lowest is not None and build.car.rail_height_mm is not None:
        height = line.lowest + build.car.rail_height_mm * 1e-3
        wanted = (build.car.least_ground_mm or 0.0) * 1e-3
        found.append(lines.check_ground(height, wanted, f"{field}.route"))
    if line.length is not None:
        clips = getattr(run_line, "clips_mm", None)
        found.append(
            lines.check_clips(
                None if clips is None else clips * 1e-3, line.length, f"{field}.line.clips_mm"
            )
        )
    if isinstance(run_line, Hose) and line.cut is not None and line.run.service not in BARE:
        found.append(lines.check_cut(line.cut, f"{field}.route"))
    if isinstance(run_line, Hose) and route is not None and line.run.service in _PULLED:
        slack = (run_line.slack_mm or 0.0) * 1e-3
        found.append(lines.check_slack(slack, route.length, f"{field}.line.slack_mm"))
    found += [
        lines.check_parallel(
            each.name, each.apart, each.between, each.gap, each.keeps, f"{field}.route"
        )
        for each in beside(line, others)
    ]
    found += _of_ends(line, field)
    order = {"bad": 0, "caution": 1, "good": 2}
    return tuple(sorted(found, key=lambda check: order[check.state]))
