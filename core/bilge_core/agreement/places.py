"""Places where something may touch: by the figures of the build, and moved by what was found."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from bilge_core.clearance.ground import ground_clearance
from bilge_core.clearance.keep_outs import clearances
from bilge_core.clearance.parts import PartGap, part_gaps
from bilge_core.document.build import Build
from bilge_core.document.keep_outs import KeepOut, PlaneKeepOut
from bilge_core.document.remembered import all_but_its_name, remembered
from bilge_core.errors import InvalidInput
from bilge_core.lines.flows import flows_cold, flows_hot
from bilge_core.lines.laid import lines_of
from bilge_core.pan import Pan, assemble_pan
from bilge_core.physics.axes import engine_to_car, standing_up
from bilge_core.rules.around import COMES_BY_ITSELF, WORTH_MOVING


@dataclass(frozen=True)
class Place:
    """A place where something may touch.

    id : ``<keep-out>:<pan or run>``, ``ground:pan``, or as said by hand
    name : what to what
    wanted : gap [m]
    forecast : gap by the figures of the build [m]; None: it knows none
    at, to : on the part and on what is beside it, car's frame [m]; None where nobody knows
    keep_out : id of what is beside it; empty: none that can be moved
    rocks : the engine's rocking is in the forecast
    """

    id: str
    name: str
    wanted: float
    forecast: float | None = None
    at: tuple[float, float, float] | None = None
    to: tuple[float, float, float] | None = None
    keep_out: str = ""
    rocks: bool = False


def spot(place: np.ndarray) -> tuple[float, float, float]:
    """A place as plain numbers.

    Examples
    --------
    >>> spot(np.array([1, 2, 3]))
    (1.0, 2.0, 3.0)
    """
    x, y, z = (float(each) for each in place)
    return x, y, z


def _of_pan(build: Build, pan: Pan) -> Iterable[Place]:
    turn = engine_to_car(build.car)
    for each in clearances(build, pan):
        beside = build.car.keep_outs[each.index]
        yield Place(
            f"{beside.id}:pan", f"pan to {each.name}", each.wanted, each.gap,
            spot(turn @ np.array(each.at)), spot(turn @ np.array(each.to)), beside.id,
        )  # fmt: skip
    ground = ground_clearance(build, pan)
    if ground is not None:
        at = turn @ np.array(ground.at)
        up = turn @ standing_up(build.car)
        yield Place(
            "ground:pan", "pan to ground", (build.car.least_ground_mm or 0.0) * 1e-3, ground.gap,
            spot(at), spot(at - ground.gap * up),
        )  # fmt: skip


def _of_lines(build: Build) -> Iterable[Place]:
    """Where a line that is laid comes near something."""
    try:
        lines = lines_of(build, flows_hot(build), flows_cold(build))
    except InvalidInput:
        return
    for line in lines:
        for gap in line.gaps:
            if not COMES_BY_ITSELF.holds(gap.gap - gap.wanted):
                continue
            beside = build.car.keep_outs[gap.keep_out]
            yield Place(
                f"{beside.id}:{line.run.id}", f"{line.run.name} to {gap.name}", gap.wanted,
                gap.gap, spot(gap.at), None, beside.id, gap.rocks,
            )  # fmt: skip


def part_places(build: Build, gaps: Iterable[PartGap]) -> Iterable[Place]:
    """Places of tanks and a pump beside what is round them, as near as come up by themselves.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> list(part_places(read_build(Path("demo/dunlin.json").read_text()), []))
    []
    """
    for gap in gaps:
        if not COMES_BY_ITSELF.holds(gap.gap - gap.wanted):
            continue
        beside = build.car.keep_outs[gap.keep_out]
        yield Place(
            f"{beside.id}:{gap.part}", f"{gap.name} to {beside.name}", gap.wanted, gap.gap,
            spot(gap.at), spot(gap.to), beside.id,
        )  # fmt: skip


@remembered(all_but_its_name, most=16)
def places_of(build: Build) -> tuple[Place, ...]:
    """Places that come by themselves: pan, tank, pump, lines to what is round them, to the ground.

    Parameters
    ----------
    build : Build

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> [each.name for each in places_of(build)][-1]
    'pan to ground'
    """
    return (
        *_of_pan(build, assemble_pan(build)),
        *part_places(build, part_gaps(build)),
        *_of_lines(build),
    )


@dataclass(frozen=True)
class Correction:
    """A keep-out that is nearer or farther than it was measured.

    by : how much nearer [m]; below nil it is farther off
    fields : of the document, with the figures that put it right [mm]
    """

    keep_out: str
    name: str
    by: float
    fields: tuple[tuple[str, float], ...]


def _moved(beside: KeepOut, offset: np.ndarray, path: str) -> tuple[tuple[str, float], ...]:
    """Fields of a keep-out moved by an offset in its own frame [m]."""
    if isinstance(beside, PlaneKeepOut):
        return ((f"{path}.at_mm", round(beside.at_mm + float(offset[beside.axis]) * 1e3, 1)),)
    rows = []
    for end in ("from_mm", "to_mm"):
        for axis, value in enumerate(getattr(beside, end)):
            if abs(offset[axis]) >= 0.05e-3:
                rows.append((f"{path}.{end}.{axis}", round(value + float(offset[axis]) * 1e3, 1)))
    return tuple(rows)


def correction_of(build: Build, place: Place, found: float | None) -> Correction | None:
    """What would make the forecast of a place what was found; None where it is already so.

    Parameters
    ----------
    build : Build
        As it was found on: its forecast of the place is the place's.
    place : Place
        With a forecast, and both of its ends known.
    found : float or None
        The gap that was found [m]; nil where it touches; None: it was not measured.

    Notes
    -----
    The thing beside the part is moved along the line between the two, as a whole.
    """
    index = next(
        (at for at, each in enumerate(build.car.keep_outs) if each.id == place.keep_out), None
    )
    if index is None or place.forecast is None or found is None:
        return None
    if place.at is None or place.to is None:
        return None
    by = place.forecast - found
    apart = np.array(place.to) - np.array(place.at)
    length = float(np.linalg.norm(apart))
    if not WORTH_MOVING.holds(abs(by)) or length < 1e-6:
        return None
    beside = build.car.keep_outs[index]
    offset = -by * apart / length * (1.0 if place.forecast >= 0.0 else -1.0)
    if beside.frame == "engine":
        offset = engine_to_car(build.car).T @ offset
    fields = _moved(beside, offset, f"car.keep_outs.{beside.id}")
    return Correction(beside.id, beside.name, by, fields) if fields else None
