"""A test fit as everybody reads it, in millimetres of the car's frame and of the engine's."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from datetime import datetime
from typing import get_args

import numpy as np
from pydantic import BaseModel
from shapely import Polygon, union_all

from bilge_core.agreement.fit_entries import MEANS, Means, Subject
from bilge_core.agreement.offered import (
    Finding,
    Offered,
    PlaceState,
    all_places,
    open_places,
    state_of,
    worst_first,
)
from bilge_core.agreement.places import Correction, Place, correction_of, places_of
from bilge_core.document.build import Build
from bilge_core.document.keep_outs import Frame, PlaneKeepOut
from bilge_core.document.remembered import all_but_its_name, remembered
from bilge_core.pan import Face, Pan, assemble_pan, inside_faces
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import engine_to_car
from bilge_core.rules.lines import ROCKS
from bilge_core.tell.numbers import SpacePoint, mm, space_point
from bilge_core.tell.outlines import corners_of, hull

Flat = tuple[float, float]
_VIEWS: dict[str, tuple[int, int]] = {"side": (0, 2), "front": (1, 2), "plan": (0, 1)}


class FindingOut(BaseModel):
    """What was found at a place in a round."""

    round: int
    touches: bool
    gap_mm: float | None
    done: str
    photos: list[str]
    by: str
    at: datetime


class CorrectionOut(BaseModel):
    """A keep-out that was found nearer or farther than measured, and what puts it right."""

    keep_out: str
    name: str
    nearer_mm: float
    figures: list[tuple[str, float]]


class FitPlaceOut(BaseModel):
    """A place where something may touch."""

    id: str
    number: int
    name: str
    wanted_mm: float
    forecast_mm: float | None
    is_said: bool
    """By hand: the forecast does not know it."""
    rocks: bool
    """The engine's rocking is taken off the forecast gap."""
    at_mm: SpacePoint | None
    to_mm: SpacePoint | None
    state: PlaceState
    accepted: str
    found: list[FindingOut]
    correction: CorrectionOut | None


class RoundOut(BaseModel):
    """A round."""

    number: int
    means: Means
    means_words: str
    caution: str
    car_on: str
    words: str
    by: str
    at: datetime
    closed: datetime | None


class BesideOut(BaseModel):
    """Something beside the pan, seen along an axis."""

    id: str
    name: str
    outline_mm: list[Flat]


class EnvelopeOut(BaseModel):
    """The envelope seen along an axis."""

    key: str
    """``side``, ``front`` or ``plan``."""
    pan_mm: list[list[Flat]]
    crank_mm: list[Flat]
    beside: list[BesideOut]
    ground_mm: list[Flat]
    """The ground's line; empty from above, or where nobody measured it."""


class FitFrameOut(BaseModel):
    """The three views in one frame, and the places in it."""

    frame: str
    """``car`` or ``engine``."""
    views: list[EnvelopeOut]
    places: dict[str, tuple[SpacePoint | None, SpacePoint | None]]


class FitOut(BaseModel):
    """A test fit: its rounds, its places, the worst first, and the envelope."""

    rounds: list[RoundOut]
    places: list[FitPlaceOut]
    open: list[str]
    """Ids of the places that keep the round from being closed."""
    frames: list[FitFrameOut]
    rocks_mm: float
    """By which the engine rocks on its mounts."""
    means: dict[Means, tuple[str, str]]
    subjects: list[Subject]


def _turned(place: tuple[float, float, float] | None, turn: Array) -> SpacePoint | None:
    return None if place is None else space_point(turn @ np.array(place))


def _silhouette(faces: Sequence[Face], turn: Array, axes: tuple[int, int]) -> list[list[Flat]]:
    """The pan as it is seen along an axis, holes left out [mm]."""
    pieces = []
    for face in faces:
        seen = Polygon((face.corners @ turn.T)[:, list(axes)])
        if seen.area > 1e-9:
            pieces.append(seen.buffer(0.0))
    whole = union_all(pieces).buffer(1e-4).buffer(-1e-4)
    parts = list(whole.geoms) if whole.geom_type == "MultiPolygon" else [whole]
    return [[(mm(x), mm(y)) for x, y in each.exterior.coords[:-1]] for each in parts]


def _crank(build: Build, turn: Array, axes: tuple[int, int]) -> list[Flat]:
    """The circle that rods and weights sweep, seen along an axis [mm]; empty: not measured."""
    crank = build.car.crank
    if crank is None:
        return []
    angles = np.linspace(0.0, 2.0 * np.pi, 32, endpoint=False)
    ring = np.stack([np.zeros(32), np.cos(angles), np.sin(angles)], axis=1)
    ring *= crank.swept_radius_mm * 1e-3
    ring[:, 2] += crank.height_mm * 1e-3
    ends = [ring + np.array([x * 1e-3, 0.0, 0.0]) for x in (crank.from_x_mm, crank.to_x_mm)]
    return hull(np.vstack(ends) @ turn.T, axes)


def _beside(build: Build, turn: Array, axes: tuple[int, int]) -> list[BesideOut]:
    """`turn`: from the engine's frame to the one that is drawn."""
    to_car = engine_to_car(build.car)
    found = []
    for each in build.car.keep_outs:
        if isinstance(each, PlaneKeepOut):
            continue  # it has no outline
        own = turn if each.frame == "engine" else turn @ to_car.T
        found.append(
            BesideOut(id=each.id, name=each.name, outline_mm=hull(corners_of(each) @ own.T, axes))
        )
    return found


_REACH = 0.35
"""[m] of ground that is drawn to each side of the pan (ours)."""


def _ground(build: Build, pan: Pan, turn: Array, axes: tuple[int, int]) -> list[Flat]:
    """The ground's line in a view from the side or from the front."""
    height = build.car.rail_height_mm
    if height is None or axes == (0, 1):
        return []
    to_car = engine_to_car(build.car)
    wall = pan.solid.vertices @ to_car.T
    middle = wall.mean(axis=0)
    ends = []
    for sign in (-1.0, 1.0):
        place = middle.copy()
        place[axes[0]] += sign * _REACH
        place[2] = -height * 1e-3
        x, y = (turn @ to_car.T @ place)[list(axes)]
        ends.append((mm(float(x)), mm(float(y))))
    return ends


@remembered(all_but_its_name, most=16)
def _views(build: Build, frame: Frame) -> tuple[EnvelopeOut, ...]:
    """The envelope in a frame."""
    pan = assemble_pan(build)
    below = [face for face in inside_faces(pan) if face.kind != "skirt"]
    turn = _turn_to(build, frame)
    return tuple(
        EnvelopeOut(
            key=key, pan_mm=_silhouette(below, turn, axes), crank_mm=_crank(build, turn, axes),
            beside=_beside(build, turn, axes), ground_mm=_ground(build, pan, turn, axes),
        )
        for key, axes in _VIEWS.items()
    )  # fmt: skip


def _turn_to(build: Build, frame: Frame) -> Array:
    """From the engine's frame to the one that is drawn."""
    return engine_to_car(build.car) if frame == "car" else np.eye(3)


def frames_out(build: Build, places: Sequence[Place]) -> list[FitFrameOut]:
    """The envelope in the car's frame, as it stands, and in the engine's."""
    to_car = engine_to_car(build.car)
    frames = []
    for name in get_args(Frame):
        own = _turn_to(build, name) @ to_car.T
        at = {each.id: (_turned(each.at, own), _turned(each.to, own)) for each in places}
        frames.append(FitFrameOut(frame=name, views=list(_views(build, name)), places=at))
    return frames


def _finding_out(found: Finding) -> FindingOut:
    return FindingOut(
        round=found.round, touches=found.touches,
        gap_mm=None if found.gap is None else mm(found.gap), done=found.done,
        photos=list(found.photos), by=found.by, at=found.at,
    )  # fmt: skip


def _correction_out(found: Correction | None) -> CorrectionOut | None:
    if found is None:
        return None
    return CorrectionOut(
        keep_out=found.keep_out, name=found.name, nearer_mm=mm(found.by),
        figures=list(found.fields),
    )  # fmt: skip


def _place_out(
    number: int, place: Place, build: Build, offered: Offered, states: Collection[int]
) -> FitPlaceOut:
    found = offered.found.get(place.id, ())
    last = found[-1] if found and found[-1].state in states else None
    return FitPlaceOut(
        id=place.id, number=number, name=place.name,
        wanted_mm=mm(offered.wanted.get(place.id, place.wanted)),
        forecast_mm=None if place.forecast is None else mm(place.forecast),
        is_said=place.id in offered.said, rocks=place.rocks,
        at_mm=_turned(place.at, np.eye(3)), to_mm=_turned(place.to, np.eye(3)),
        state=state_of(place, offered), accepted=offered.accepted.get(place.id, ""),
        found=[_finding_out(each) for each in found],
        correction=_correction_out(correction_of(build, place, last.gap) if last else None),
    )  # fmt: skip


def fit_out(build: Build, offered: Offered, states: Collection[int]) -> FitOut:
    """A test fit of a build.

    Parameters
    ----------
    build : Build
    offered : Offered
    states : collection of int
        Numbers of the states with the same gaps as this one: what was found on another corrects
        nothing in it.

    Raises
    ------
    InvalidInput
        If the pan cannot be assembled.
    """
    places = all_places(places_of(build), offered)
    numbers = {place.id: at for at, place in enumerate(places, start=1)}
    return FitOut(
        rounds=[
            RoundOut(
                number=each.number, means=each.means, means_words=MEANS[each.means][0],
                caution=MEANS[each.means][1], car_on=each.car_on, words=each.words, by=each.by,
                at=each.at, closed=each.closed,
            )
            for each in offered.rounds
        ],
        places=[
            _place_out(numbers[each.id], each, build, offered, states)
            for each in worst_first(places, offered)
        ],
        open=[each.id for each in open_places(places, offered)],
        frames=frames_out(build, places),
        rocks_mm=mm(ROCKS),
        means=dict(MEANS),
        subjects=["pan", "line", "tank", "pump", "filter", "bottle", "cooler", "bonnet",
                  "exhaust", "steering", "other"],
    )  # fmt: skip
