"""A spacer, or a deeper sump, as one act: pan, pickup, baffles and bolts together."""

from __future__ import annotations

import math
from collections.abc import Collection
from dataclasses import dataclass
from typing import Literal

import shapely
from pydantic import Field
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Length, build_with, figures_named, place_of
from bilge_core.document.build import Build
from bilge_core.document.fitted import Boss, DipMark
from bilge_core.document.floors import lowered
from bilge_core.document.pan import Zone
from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.pan import assemble_pan

_NIL = 1e-6  # [m]


@dataclass(frozen=True)
class Deepened:
    """The changed build and what it took.

    build : Build
    capacity_gained : float
        To the rail [m3].
    lower : float
        How much lower the pan's lowest point lies, along the engine's own down [m].
    """

    build: Build
    capacity_gained: float
    lower: float


def _lowered(zone: Zone, by_mm: float, with_ceiling: bool) -> Zone:
    told = lowered(zone.floor.model_dump(), by_mm)
    if "places_mm" in told:
        told["places_mm"] = [tuple(each) for each in told["places_mm"]]
    floor = type(zone.floor).model_construct(**told)  # held against its limits with the whole
    ceiling = zone.ceiling_depth_mm
    if ceiling is not None and with_ceiling:
        ceiling += by_mm
    return zone.model_copy(update={"floor": floor, "ceiling_depth_mm": ceiling})


def _boss_lowered(
    build: Build, boss: Boss, by_mm: float, zones: Collection[int] | None, chosen: set[int]
) -> Boss:
    """A boss goes down with a spacer, a drain plug also with the floor that it sits in."""
    with_spacer = zones is None and boss.depth_mm >= 0.0
    over = shapely.Point(boss.x_mm, boss.y_mm)
    with_floor = boss.kind == "drain_plug" and any(
        build.pan.zones[index].polygon.buffer(1.0).covers(over) for index in chosen
    )
    if not (with_spacer or with_floor):
        return boss
    return boss.model_copy(update={"depth_mm": boss.depth_mm + by_mm})


def _marks_kept(build: Build, lower: float) -> list[DipMark]:
    """The stick stays with the block: its marks stand higher over a lower floor."""
    return [
        mark.model_copy(update={"level_mm": max(0.0, round(mark.level_mm + lower * 1e3, 3))})
        for mark in build.pan.dip_marks
    ]


def deepen(build: Build, by: float, zones: Collection[int] | None = None) -> Deepened:
    """Lower the pan by a spacer between it and the block, or some of its zones alone.

    The pickup keeps its gap, so it goes down by as much as the floor under it: it needs a spacer
    of the same thickness. Plates keep their height under the rail: in a pan that was lowered they
    come up from its floor by as much, and those that stand on the floor grow. Bolts and studs
    through a spacer are longer by its thickness. A drain plug goes with its floor, every boss with
    a spacer; the dipstick's marks stay where the block holds the stick.

    Parameters
    ----------
    build : Build
    by : float
        Thickness or added depth [m]; negative to take away.
    zones : collection of int or None
        Which zones of the pan go down; None for all of them, by a spacer under the rail.

    Returns
    -------
    Deepened

    Raises
    ------
    InvalidQuantity
        If the amount is not finite or nil, or a zone is not there.
    InvalidInput
        If what results does not hold together, with the field named.

    References
    ----------
    Common practice, no published source.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> done = deepen(build, 6.35e-3)  # a quarter of an inch
    >>> round(done.capacity_gained * 1e3, 2), done.build.pickup.gap_mm
    (0.61, 8.0)
    """
    if not math.isfinite(by) or abs(by) < _NIL:
        raise InvalidQuantity("amount", by, "finite and not nil")
    count = len(build.pan.zones)
    chosen = set(range(count)) if zones is None else set(zones)
    if not chosen or not chosen <= set(range(count)):
        raise InvalidQuantity("zones", sorted(chosen), f"some of 0 to {count - 1}")
    lowered = [
        _lowered(zone, by * 1e3, zones is None) if index in chosen else zone
        for index, zone in enumerate(build.pan.zones)
    ]
    changes: dict[str, object] = {
        "zones": lowered,
        "bosses": [
            _boss_lowered(build, boss, by * 1e3, zones, chosen) for boss in build.pan.bosses
        ],
    }
    if zones is None:
        changes["spacer_mm"] = build.pan.spacer_mm + by * 1e3
    raw = build.model_copy(update={"pan": build.pan.model_copy(update=changes)})
    changed = build_with(build, raw.model_dump(mode="json"))
    before, after = assemble_pan(build), assemble_pan(changed)
    lower = float(before.solid.vertices[:, 2].min() - after.solid.vertices[:, 2].min())
    marks = _marks_kept(build, lower)
    changed = changed.model_copy(
        update={"pan": changed.pan.model_copy(update={"dip_marks": marks})}
    )
    return Deepened(changed, after.capacity_to_rail - before.capacity_to_rail, lower)


def zones_at(build: Build, ids: Collection[str]) -> list[int]:
    """Places of zones in the document, by their ids.

    Raises
    ------
    InvalidInput
        Naming `zones`, if one is no zone of the pan.
    """
    places = [place_of(build, zone, "zones") for zone in ids]
    if any(path[:2] != ["pan", "zones"] for path in places):
        raise InvalidInput([Problem("zones", "must be zones of the pan, by their ids")])
    return [int(path[2]) for path in places]


def _words(what: str, deepened: Deepened) -> str:
    return f"{what}: {deepened.capacity_gained * 1e3:+.2f} L to the rail"


class Spacer(Act):
    """A spacer between block and pan; a negative one is taken away."""

    kind: Literal["spacer"]
    by_mm: Length

    @override
    def done(self, build: Build) -> Done:
        with figures_named(amount="by_mm"):
            deepened = deepen(build, self.by_mm * 1e-3)
        return Done(deepened.build, _words(f"spacer under the pan, {self.said('by_mm')}", deepened))


class Deepen(Act):
    """Some zones of the pan go down, or come up."""

    kind: Literal["deepen"]
    by_mm: Length
    zones: list[str] = Field(min_length=1, max_length=40, description="by their ids")

    @override
    def done(self, build: Build) -> Done:
        with figures_named(amount="by_mm"):
            deepened = deepen(build, self.by_mm * 1e-3, zones_at(build, self.zones))
        return Done(deepened.build, _words(f"sump deeper, {self.said('by_mm')}", deepened))
