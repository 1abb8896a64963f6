"""A drain as it is marched: its route cut into cells, its bores, the housing above it."""

from __future__ import annotations

import itertools
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from bilge_core.errors import InvalidQuantity
from bilge_core.network.pipes import bend_loss
from bilge_core.physics.arrays import Array

_CELL = 0.04
"""[m] at most of a cell: halved, it moves a margin by less than half a millimetre (ours)."""
_TIGHT = 1.0  # of the bore: radius of a bend that nobody gave (ours: an elbow)
_ARC = math.radians(20.0)  # of a bend in one cell (ours)
_WIDER = 1.1  # a piece is tried so much wider, to see what holds a drain back
_HOLE = 8e-3  # [m] of line that a hole with its fitting takes (ours)
_INTO_PAN = 1.0  # loss coefficient of an exit (from memory)


class Falls(NamedTuple):
    """A line as compiled loops take it, of n cells from the housing down.

    points : shape (n + 1, 3) [m]
    tangents : shape (n, 3), of length one
    lengths, bores : shape (n,) [m]
    losses : where it is full, of its speed's head, shape (n,)
    carries : how many times what leaves the housing, as other drains come in, shape (n,)
    outlet : bore of the hole that oil leaves the housing by [m]
    """

    points: Array
    tangents: Array
    lengths: Array
    bores: Array
    losses: Array
    carries: Array
    outlet: float


@dataclass(frozen=True)
class FallingOil:
    """What falls: oil with its foam.

    density : [kg/m3]
    viscosity : kinematic [m2/s]
    swells : volume for each of oil [-]
    """

    density: float
    viscosity: float
    swells: float


def foamed(density: float, viscosity: float, foam: float) -> FallingOil:
    """Oil with a share of gas in it.

    Parameters
    ----------
    density : float
        Of the oil alone [kg/m3].
    viscosity : float
        Of it, kinematic [m2/s].
    foam : float
        Share of the volume that is gas, from 0 to below 0.9.

    Returns
    -------
    FallingOil

    Raises
    ------
    InvalidQuantity
        If a figure is out of its range.

    Notes
    -----
    Density by what is oil, viscosity after Einstein's ``1 + 2.5 α`` (1906), which holds for little
    gas: at a half it is a guess.

    Examples
    --------
    >>> foam = foamed(820.0, 12e-6, 0.4)
    >>> round(foam.density), round(foam.viscosity * 1e6), round(foam.swells, 2)
    (492, 40, 1.67)
    """
    for name, value in (("density", density), ("viscosity", viscosity)):
        if not (math.isfinite(value) and value > 0.0):
            raise InvalidQuantity(name, value, "above 0")
    if not 0.0 <= foam < 0.9:
        raise InvalidQuantity("foam", foam, "0 to 0.9")
    solid = 1.0 - foam
    return FallingOil(density * solid, viscosity * (1.0 + 2.5 * foam) / solid, 1.0 / solid)


@dataclass(frozen=True)
class Piece:
    """A piece of a drain: its name, bore [m], its own length [m], nil of a hole, its run's id."""

    name: str
    bore: float
    length: float = 0.0
    run: str = ""


@dataclass(frozen=True)
class DrainLine:
    """A drain's way, in the engine's frame.

    falls : Falls
    piece : of each cell, its number in `pieces`, shape (n,)
    outlets : numbers in `pieces` of the holes that the oil goes through at the housing
    pieces : tuple of Piece, from the housing down
    seal : up to which oil may stand in the housing, shape (3,) [m]
    """

    falls: Falls
    piece: NDArray[np.int64]
    outlets: tuple[int, ...]
    pieces: tuple[Piece, ...]
    seal: Array

    @property
    def outlet(self) -> Array:
        """Where oil leaves the housing, shape (3,) [m]."""
        return np.asarray(self.falls.points[0])

    @property
    def entry(self) -> Array:
        """Where it comes into the pan, shape (3,) [m]."""
        return np.asarray(self.falls.points[-1])

    @property
    def length(self) -> float:
        """Along its middle [m]."""
        return float(self.falls.lengths.sum())

    def widened(self, number: int, by: float = _WIDER) -> DrainLine:
        """With one of its pieces so many times as wide; holes upon it that are as wide, along.

        Examples
        --------
        >>> line = line_along([(0, 0, 0.2), (0, 0, 0)], [0.0, 0.0], [Piece("hose", 0.014)])
        >>> round(float(line.widened(0).falls.bores[0]), 4)
        0.0154
        """
        was = self.pieces[number].bore
        upon = self.outlets if number in self.outlets else ()
        pieces = tuple(
            replace(each, bore=max(each.bore, was * by))
            if at == number or (at in upon and each.bore >= was)
            else each
            for at, each in enumerate(self.pieces)
        )
        bores = np.array([each.bore for each in pieces])
        outlet = min(bores[at] for at in self.outlets)
        falls = self.falls._replace(bores=bores[self.piece], outlet=float(outlet))
        return replace(self, falls=falls, pieces=pieces)

    def carrying(self, times: Mapping[str, float]) -> DrainLine:
        """With others' oil in some of its runs: by a run's id, how many times its own housing's.

        Notes
        -----
        What others bring is taken to rise and fall with its own, and to stand as high: a line that
        is shared is judged as a share of it for each (ours).

        Examples
        --------
        >>> pieces = [Piece("own", 0.014, 0.2, "r1"), Piece("both", 0.014, 0.2, "r2")]
        >>> line = line_along([(0, 0, 0.2), (0, 0, 0)], [0.0, 0.0], pieces).carrying({"r2": 2.0})
        >>> float(line.falls.carries[0]), float(line.falls.carries[-1])
        (1.0, 2.0)
        """
        of_piece = np.array([times.get(each.run, 1.0) for each in self.pieces])
        return replace(self, falls=self.falls._replace(carries=of_piece[self.piece]))


def _with_arcs(
    points: Array, radii: Sequence[float], bore: float
) -> tuple[list[Array], list[float]]:
    """A route with its corners rounded: points close enough, and the loss that begins at each."""
    out: list[Array] = [points[0]]
    losses: list[float] = [0.0]
    for before, here, after, radius in zip(
        points[:-2], points[1:-1], points[2:], radii[1:-1], strict=True
    ):
        one, two = here - before, after - here
        long_one, long_two = float(np.linalg.norm(one)), float(np.linalg.norm(two))
        one, two = one / long_one, two / long_two
        angle = math.acos(float(np.clip(one @ two, -1.0, 1.0)))
        if angle < math.radians(3.0):
            out.append(here)
            losses.append(0.0)
            continue
        bends = radius or _TIGHT * bore
        # no more of a straight than there is: half of each, so that two bends never overlap
        cut = min(bends * math.tan(0.5 * angle), 0.5 * long_one, 0.5 * long_two)
        bends = cut / math.tan(0.5 * angle)
        across = np.cross(np.cross(one, two), one)
        across /= np.linalg.norm(across)
        start = here - cut * one
        parts = max(1, math.ceil(angle / _ARC))
        for part in range(parts + 1):
            turned = angle * part / parts
            away = bends * (math.sin(turned) * one + (1.0 - math.cos(turned)) * across)
            out.append(start + away)
            loss = bend_loss(angle, bends, bore) / parts if part < parts else 0.0
            losses.append(loss)
    out.append(points[-1])
    return out, losses


def line_along(
    route: Sequence[Sequence[float]] | Array,
    radii: Sequence[float],
    pieces: Sequence[Piece],
    outlets: Sequence[Piece] = (),
    seal: Sequence[float] | Array | None = None,
    cell: float = _CELL,
) -> DrainLine:
    """A drain along a route.

    Parameters
    ----------
    route : array_like, shape (k, 3)
        From the outlet to the entry [m].
    radii : sequence of float
        Of the bend at each of the route's points [m]; nil: an elbow.
    pieces : sequence of Piece
        From the housing down. A hole without a length stands where it is; the lengths of the others
        part the route in proportion.
    outlets : sequence of Piece
        Holes at the housing, one upon the other: its own, its gasket's.
    seal : array_like, shape (3,), optional
        Up to which oil may stand [m]; the outlet when not given.
    cell : float
        Longest of a cell [m].

    Returns
    -------
    DrainLine

    Raises
    ------
    InvalidQuantity
        If the route has no length, a piece no bore, or none of the pieces a length to share.

    Examples
    --------
    >>> line = line_along([(0, 0, 0.2), (0, 0, 0.1), (0.1, 0, 0.05)], [0, 0.03, 0],
    ...                   [Piece("hose", 0.014)], [Piece("outlet", 0.012)])
    >>> 0.2 < line.length < 0.212, line.falls.outlet
    (True, 0.012)
    """
    points = np.asarray(route, dtype=np.float64)
    for each in (*outlets, *pieces):
        if not (math.isfinite(each.bore) and each.bore > 0.0):
            raise InvalidQuantity(each.name, each.bore, "a bore above 0")
    steps = np.linalg.norm(np.diff(points, axis=0), axis=1)
    if len(points) < 2 or not np.all(steps > 1e-4):
        raise InvalidQuantity("route", "no length", "two places or more, each away from the next")
    corners, losses = _with_arcs(points, radii, max(each.bore for each in pieces))
    grid, lengths, minor, piece = _cells(np.array(corners), losses, pieces, cell)
    ready = (*outlets, *pieces)
    piece = piece + len(outlets)
    minor[-1] += _INTO_PAN
    bores = np.array([each.bore for each in ready])
    at_housing = (*range(len(outlets)), int(piece[0]))
    tangents = np.ascontiguousarray(np.diff(grid, axis=0) / lengths[:, None])
    outlet = float(min(bores[at] for at in at_housing))
    falls = Falls(grid, tangents, lengths, bores[piece], minor, np.ones(len(lengths)), outlet)
    top = points[0] if seal is None else np.asarray(seal, dtype=np.float64)
    return DrainLine(falls, piece, at_housing, ready, top)


def _cells(
    corners: Array, losses: Sequence[float], pieces: Sequence[Piece], longest: float
) -> tuple[Array, Array, Array, NDArray[np.int64]]:
    """Points, lengths, losses and pieces of the cells of a way whose corners are rounded already.

    A hole among the pieces takes a few millimetres; no cell is of two pieces.
    """
    spans = np.linalg.norm(np.diff(corners, axis=0), axis=1)
    along = np.concatenate([[0.0], np.cumsum(spans)])
    whole = float(along[-1])
    holes = sum(each.length == 0.0 for each in pieces) if any(p.length for p in pieces) else 0
    hole = min(_HOLE, 0.1 * whole / max(holes, 1))
    told = sum(each.length for each in pieces)
    rest = whole - holes * hole
    shares = [
        hole if holes and each.length == 0.0
        else rest * each.length / told if told else whole / len(pieces)
        for each in pieces
    ]  # fmt: skip
    ends = np.cumsum(shares)
    stops = np.unique(np.concatenate([along, ends[:-1]]).round(7))
    stops = stops[np.concatenate([np.diff(stops) > 1e-5, [True]])]
    stops[0], stops[-1] = 0.0, whole
    fine = [0.0]
    for a, b in itertools.pairwise(stops.tolist()):
        parts = max(1, math.ceil((b - a) / longest))
        fine += [a + (b - a) * (part + 1) / parts for part in range(parts)]
    at = np.array(fine)
    grid = np.column_stack([np.interp(at, along, corners[:, k]) for k in range(3)])
    lengths = np.linalg.norm(np.diff(grid, axis=0), axis=1)
    middles = 0.5 * (at[:-1] + at[1:])
    piece = np.searchsorted(ends, middles, side="right").clip(0, len(pieces) - 1)
    span = np.searchsorted(along, middles, side="right").clip(1, len(spans)) - 1
    minor = np.array(losses)[span] * lengths / spans[span]
    return np.ascontiguousarray(grid), lengths, minor, piece.astype(np.int64)
