"""Plates placed in the pan: cut to its inside, their openings taken out, their gates hung."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import shapely
from shapely import Polygon

from bilge_core.document.plates import HorizontalPlate, Opening, Plate, VerticalPlate
from bilge_core.errors import InvalidInput, Problem
from bilge_core.pan.cuts import level_cut, upright_cut
from bilge_core.pan.solid import Prism
from bilge_core.physics.arrays import Array

_SMALL = 1e-6  # [m2]


@dataclass(frozen=True)
class PlateAxes:
    """The flat coordinates of a plate: ``point = origin + u · first + v · second`` [m]."""

    origin: Array
    first: Array
    second: Array

    def in_space(self, flat: Array) -> Array:
        """Points of shape (n, 2) on the plate in the engine's frame, shape (n, 3)."""
        return np.asarray(
            self.origin + np.outer(flat[:, 0], self.first) + np.outer(flat[:, 1], self.second)
        )


@dataclass(frozen=True)
class PlacedGate:
    """A gate in its opening.

    corners : ndarray, shape (4, 3) [m]
        Hinge end and end of the upper edge, then round the lower one.
    opens : ndarray, shape (3,)
        Square to the plate, of length one, toward where it opens.
    leak : float
        Share of the opening's area that stays open when it is shut.
    """

    name: str
    leaf: Literal["rubber", "metal"]
    corners: Array
    opens: Array
    leak: float


@dataclass(frozen=True)
class PlacedOpening:
    """An opening in a plate, in the plate's own coordinates [m], with its gate if it has one."""

    name: str
    hole: Polygon
    gate: PlacedGate | None = None


@dataclass(frozen=True)
class PlacedPlate:
    """A plate as it stands in the pan.

    sheet : Polygon or MultiPolygon in the plate's own coordinates [m], openings taken out
    length : of an upright plate along its line [m], else nil
    open_share : share of the sheet's own area that louvres, holes or mesh leave open
    """

    name: str
    kind: Literal["vertical", "horizontal"]
    axes: PlateAxes
    sheet: shapely.Geometry
    openings: tuple[PlacedOpening, ...]
    length: float = 0.0
    open_share: float = 0.0

    @property
    def gates(self) -> tuple[PlacedGate, ...]:
        """The gates among its openings."""
        return tuple(opening.gate for opening in self.openings if opening.gate is not None)

    def pieces(self) -> list[list[Array]]:
        """Each piece as its rings in space, the outer one first, shape (k, 3) [m]."""
        return [
            [self._ring(ring) for ring in (part.exterior, *part.interiors)]
            for part in shapely.get_parts(self.sheet)
        ]

    def _ring(self, ring: shapely.LinearRing) -> Array:
        return self.axes.in_space(np.asarray(ring.coords)[:-1, :2])


def _upright_frame(plate: VerticalPlate) -> tuple[PlateAxes, float]:
    start, end = np.array(plate.from_mm) * 1e-3, np.array(plate.to_mm) * 1e-3
    length = float(np.hypot(*(end - start)))
    along = (end - start) / max(length, 1e-9)
    frame = PlateAxes(np.array([*start, 0.0]), np.array([*along, 0.0]), np.array([0.0, 0.0, 1.0]))
    return frame, length


def _gate_in(opening: Opening, frame: PlateAxes, hole: Polygon) -> PlacedGate | None:
    if opening.gate is None:
        return None
    left, low, right, high = hole.bounds
    flat = np.array([[left, high], [right, high], [right, low], [left, low]])
    to_left = np.array([-frame.first[1], frame.first[0], 0.0])
    side = 1.0 if opening.gate.swings == "left" else -1.0
    leak = opening.gate.leak_pct / 100.0
    return PlacedGate(opening.name, opening.gate.leaf, frame.in_space(flat), side * to_left, leak)


def _place_vertical(
    plate: VerticalPlate, path: str, prisms: Sequence[Prism], problems: list[Problem]
) -> PlacedPlate | None:
    frame, length = _upright_frame(plate)
    if length < 1e-3:
        problems.append(Problem(f"{path}.to_mm", f"{plate.name} ends where it starts"))
        return None
    top = -plate.top_depth_mm * 1e-3
    bottom = -10.0 if plate.bottom_depth_mm is None else -plate.bottom_depth_mm * 1e-3
    if top <= bottom:
        problems.append(
            Problem(f"{path}.top_depth_mm", f"the top of {plate.name} is below its lower edge")
        )
        return None
    inside = upright_cut(prisms, frame.origin[:2], frame.first[:2], 0.0, length)
    sheet = inside.intersection(shapely.box(0.0, bottom, length, top))
    if sheet.area < _SMALL:
        problems.append(Problem(f"{path}.from_mm", f"no part of {plate.name} is inside the pan"))
        return None
    openings, whole = [], sheet
    for at, opening in enumerate(plate.openings):
        low, left = -opening.lower_depth_mm * 1e-3, opening.from_start_mm * 1e-3
        hole = shapely.box(
            left, low, left + opening.width_mm * 1e-3, low + opening.height_mm * 1e-3
        )
        if hole.difference(whole.buffer(1e-4)).area > _SMALL:
            problems.append(
                Problem(
                    f"{path}.openings.{at}.from_start_mm",
                    f"{opening.name} reaches beyond {plate.name}, which is {length * 1e3:.0f} mm "
                    f"long and ends {plate.top_depth_mm:.0f} mm below the rail",
                )
            )
            continue
        sheet = sheet.difference(hole)
        openings.append(PlacedOpening(opening.name, hole, _gate_in(opening, frame, hole)))
    return PlacedPlate(plate.name, "vertical", frame, sheet, tuple(openings), length)


def _place_horizontal(
    plate: HorizontalPlate, path: str, prisms: Sequence[Prism], problems: list[Problem]
) -> PlacedPlate | None:
    outline = Polygon(np.array(plate.outline_mm) * 1e-3)
    if not outline.is_valid or outline.area < _SMALL:
        problems.append(
            Problem(
                f"{path}.outline_mm",
                f"the outline of {plate.name} crosses itself or encloses nothing; "
                "list the corners in order round the edge",
            )
        )
        return None
    height = -plate.depth_mm * 1e-3
    inside = level_cut(prisms, height)
    sheet = outline.intersection(inside)
    if sheet.area < _SMALL:
        problems.append(
            Problem(
                f"{path}.depth_mm",
                f"no part of {plate.name} is inside the pan {plate.depth_mm:.0f} mm below the rail",
            )
        )
        return None
    openings = []
    for hatch in plate.openings:
        half = np.array([hatch.length_mm, hatch.width_mm]) * 0.5e-3
        middle = np.array([hatch.x_mm, hatch.y_mm]) * 1e-3
        hole = shapely.box(*(middle - half), *(middle + half))
        openings.append(PlacedOpening(hatch.name, hole))
        sheet = sheet.difference(hole)
    frame = PlateAxes(
        np.array([0.0, 0.0, height]), np.array([1.0, 0.0, 0.0]), np.array([0.0, 1.0, 0.0])
    )
    open_share = plate.open_pct / 100.0
    return PlacedPlate(
        plate.name, "horizontal", frame, sheet, tuple(openings), open_share=open_share
    )


def place_plates(plates: Sequence[Plate], prisms: Sequence[Prism]) -> tuple[PlacedPlate, ...]:
    """Place the document's plates in the pan.

    Parameters
    ----------
    plates : sequence of VerticalPlate or HorizontalPlate
    prisms : sequence of Prism
        The pan's inside and the skirt above it [m].

    Returns
    -------
    tuple of PlacedPlate
        Cut to the inside: a plate drawn too long ends at the wall.

    Raises
    ------
    InvalidInput
        Naming the plate's field: no length, no part inside, an opening beyond its plate.

    Examples
    --------
    >>> box = Prism(shapely.box(0, 0, 0.4, 0.24), (-0.14, 0, 0), (0, 0, 0))
    >>> plate = VerticalPlate(kind="vertical", name="P1", from_mm=(200, 0), to_mm=(200, 240),
    ...                       top_depth_mm=40)
    >>> placed, = place_plates([plate], [box])
    >>> round(placed.sheet.area * 1e4)  # 240 x 100 mm, in cm2
    240
    """
    problems: list[Problem] = []
    placed = []
    for index, plate in enumerate(plates):
        path = f"pan.plates.{index}"
        put = (
            _place_vertical(plate, path, prisms, problems)
            if isinstance(plate, VerticalPlate)
            else _place_horizontal(plate, path, prisms, problems)
        )
        if put is not None:
            placed.append(put)
    if problems:
        raise InvalidInput(problems)
    return tuple(placed)
