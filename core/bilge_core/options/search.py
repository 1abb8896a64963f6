"""Where a plate or a pickup does best: a small grid within the room there is, from two starts.

No simplex: neighbours cannot be told apart, and a valley's floor is flat. What is found is quoted
to what starts allow.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from bilge_core.acts.gates_fitted import OFF_WALL
from bilge_core.acts.round_mouth import opening_for, room_at_mouth
from bilge_core.document.build import Build
from bilge_core.errors import InvalidQuantity
from bilge_core.options.candidate import Act, Candidate, Group, candidate
from bilge_core.options.ladder import Failed, Results, Trial
from bilge_core.options.trial import Outcome

What = Literal["level_plate", "pickup", "gates", "side_plates"]

SEEDS = (0, 1)
"""Starts of each place."""
TOLD_APART = 0.21
"""Dry time [s] that two places must differ by. Ours: 0.3 s from one start each, over the root of
the two starts.
"""
_HEIGHTS = (0.42, 0.52, 0.62, 0.72, 0.82)  # of the sump's depth (ours)
_OPENINGS = (0.8, 1.0, 1.25, 1.6)  # of what the pump asks (ours)
_REACH = 60.0  # [mm] that a pickup is moved at the most (ours)
_OFF_WALL = 12.0  # [mm] that its mouth keeps from the sump's walls (ours)
_ALONG, _ACROSS = 5, 4  # places of a pickup's grid (ours)
_TOPS = (0.16, 0.28, 0.4, 0.52, 0.64)  # of the sump's depth, where upright plates end (ours)
_WIDTHS = 4  # of a box, or distances of side plates (ours)
_OFF_MOUTH = 12.0  # [mm] that an upright plate keeps from the mouth's edge at the least (ours)
_FARTHEST = 120.0  # [mm] that it stands off the mouth's middle at the most (ours)


@dataclass(frozen=True)
class Place:
    """One place of a grid: what is tried there, and where that is [mm].

    across : opening's side, how far ahead, or how far plates stand off the mouth's middle
    up : depth under the rail, or how far to the left
    """

    candidate: Candidate
    across: float
    up: float


Places = tuple[Place, ...]

LABELS: dict[What, tuple[str, str]] = {
    "level_plate": ("opening over the mouth", "depth under the rail"),
    "pickup": ("ahead by", "to the left by"),
    "gates": ("walls off the mouth's middle", "upper edge under the rail"),
    "side_plates": ("plates off the mouth's middle", "upper edge under the rail"),
}
"""What a grid's two ways are called."""


def grid_of(base: Build, what: What) -> tuple[Place, ...]:
    """The places of a search, within the room there is.

    Parameters
    ----------
    base : Build
    what : What

    Returns
    -------
    tuple of Place
        Twenty at the most; those that do not apply say why in their candidate.

    Raises
    ------
    InvalidInput
        If the mouth stands over no zone of the pan.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> len(grid_of(build, "level_plate")), len(grid_of(build, "pickup"))
    (20, 20)
    """
    return _GRIDS[what](base)


def _upright(base: Build, kind: str, words: str, group: Group, most: float) -> Places:
    """Upright plates off the mouth's middle by up to so many mm, so far up."""
    room = room_at_mouth(base)
    least = max(base.pickup.mouth.half_mm) + _OFF_MOUTH
    off = sorted({*_steps(least, max(least, min(most, _FARTHEST)), _WIDTHS)})
    places = []
    for share in _TOPS:
        top = float(round(share * room.depth))
        for beside in off:
            act: Act = {"kind": kind, "beside_mm": beside, "top_depth_mm": top}
            title = f"{words} {beside:.0f} mm off the mouth, up to {top:.0f} mm under the rail"
            one = candidate(base, f"{kind}_{top:.0f}_{beside:.0f}", title, group, [act])
            places.append(Place(one, beside, top))
    return tuple(places)


def _gates(base: Build) -> Places:
    most = max(_to_walls(base)) - OFF_WALL  # farther, no wall of the box moves any more
    return _upright(base, "fit_gates", "Gates and a lid", "gates", most)


def _sides(base: Build) -> Places:
    most = min(_to_walls(base)[2:]) - _OFF_WALL
    return _upright(base, "fit_side_plates", "Upright plates with gates", "plates", most)


def _to_walls(base: Build) -> tuple[float, float, float, float]:
    """From the mouth's middle to the sump's walls [mm]: rear, front, right, left."""
    room, x, y = room_at_mouth(base), base.pickup.x_mm, base.pickup.y_mm
    return x - room.rear, room.front - x, y - room.right, room.left - y


def _plates(base: Build) -> Places:
    room = room_at_mouth(base)
    most = min(room.front - room.rear, room.left - room.right) - 1.0
    sides = sorted({min(float(round(share * opening_for(base))), most) for share in _OPENINGS})
    places = []
    for share in _HEIGHTS:
        depth = float(round(share * room.depth))
        for side in sides:
            act: Act = {"kind": "fit_level_plate", "depth_mm": depth, "opening_mm": side}
            title = f"Level plate {depth:.0f} mm under the rail, open {side:.0f} mm"
            one = candidate(base, f"plate_{depth:.0f}_{side:.0f}", title, "plates", [act])
            places.append(Place(one, side, depth))
    return tuple(places)


def _steps(least: float, most: float, count: int) -> list[float]:
    """Even steps of whole millimetres from one end to the other.

    >>> _steps(-60.0, 60.0, 5)
    [-60.0, -30.0, 0.0, 30.0, 60.0]
    """
    gap = (most - least) / (count - 1)
    return [float(round(least + gap * number)) for number in range(count)]


def _pickups(base: Build) -> Places:
    room = room_at_mouth(base)
    pickup = base.pickup
    half = pickup.mouth.half_mm
    off = (half[0] + _OFF_WALL, half[1] + _OFF_WALL)
    ahead = _steps(
        max(-_REACH, room.rear + off[0] - pickup.x_mm),
        min(_REACH, room.front - off[0] - pickup.x_mm),
        _ALONG,
    )
    left = _steps(
        max(-_REACH, room.right + off[1] - pickup.y_mm),
        min(_REACH, room.left - off[1] - pickup.y_mm),
        _ACROSS,
    )
    places = []
    for up in left:
        for across in ahead:
            act: Act = {"kind": "move_pickup", "ahead_mm": across, "left_mm": up}
            title = f"Pickup {across:+.0f} mm ahead, {up:+.0f} mm to the left"
            one = candidate(base, f"pickup_{across:.0f}_{up:.0f}", title, "pickup", [act])
            places.append(Place(one, across, up))
    return tuple(places)


_GRIDS: dict[What, Callable[[Build], Places]] = {
    "level_plate": _plates, "pickup": _pickups, "gates": _gates, "side_plates": _sides,
}  # fmt: skip


def search_trials(keys: Sequence[str], results: Results) -> tuple[Trial, ...]:
    """What is left to run of a search: each place on the worst windows, from two starts.

    Examples
    --------
    >>> [each.seed for each in search_trials(["a"], {})]
    [0, 1]
    """
    wanted = (Trial(key, "worst", 0, seed) for seed in SEEDS for key in keys)
    return tuple(trial for trial in wanted if trial not in results)


@dataclass(frozen=True)
class Found:
    """What a place gave over the worst windows, mean of its starts.

    dry : at the mouth [s]
    ramp : gas share from 0.3 to 0.7 as nil to one, over time [s]: breaks ties
    under : in pressure dips [s]
    starts : how many were run
    """

    dry: float
    ramp: float
    under: float
    starts: int


def found_at(key: str, results: Results) -> Found | None:
    """What a place gave so far; None where nothing was run, or it could not be."""
    told: list[Outcome] = []
    for seed in SEEDS:
        one = results.get(Trial(key, "worst", 0, seed))
        if isinstance(one, Failed):
            return None
        if one is not None:
            told.append(one)
    if not told:
        return None
    count = len(told)
    return Found(
        sum(each.dry for each in told) / count,
        sum(each.ramp for each in told) / count,
        sum(each.under or 0.0 for each in told) / count,
        count,
    )


@dataclass(frozen=True)
class Best:
    """The best place of a grid, and those that cannot be told from it.

    key : str
    alike : keys, the best among them
    """

    key: str
    alike: tuple[str, ...]


def best_of(found: Mapping[str, Found]) -> Best:
    """The driest place; of those that starts do not tell apart, the one with the least ramp.

    Raises
    ------
    InvalidQuantity
        If there is none.

    Examples
    --------
    >>> best_of({"a": Found(1.0, 0.5, 0.0, 2), "b": Found(1.1, 0.3, 0.0, 2),
    ...          "c": Found(1.5, 0.1, 0.0, 2)})
    Best(key='b', alike=('a', 'b'))
    """
    if not found:
        raise InvalidQuantity("places", 0, "one or more")
    least = min(each.dry for each in found.values())
    alike = [key for key, each in found.items() if each.dry <= least + TOLD_APART]
    return Best(min(alike, key=lambda key: found[key].ramp), tuple(alike))
