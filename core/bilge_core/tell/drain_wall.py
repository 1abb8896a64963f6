"""The pan's wall unrolled, as everybody reads it."""

from __future__ import annotations

from typing import Literal

import numpy as np
from pydantic import BaseModel

from bilge_core.document.build import Build
from bilge_core.drains.wall import Wall, place_on_wall, unrolled
from bilge_core.forecast.back_ups import DrainsForecast
from bilge_core.pan import Pan
from bilge_core.rules.drains import SPARE
from bilge_core.tell.numbers import mm


class WallMarkOut(BaseModel):
    """Something on the unrolled wall: how far round, and its height over the rail [mm]; an entry's
    runs are the first ones of the drains that come in there."""

    kind: Literal["entry", "boss", "bolt"]
    name: str
    runs: list[str]
    along_mm: float
    height_mm: float
    across_mm: float


class WallOut(BaseModel):
    """The pan's wall unrolled: least height over the oil at each place, the lap's worst; null: no
    wall there."""

    around_mm: float
    along_mm: list[float]
    sides: list[Literal["front", "left", "rear", "right"]]
    heights_mm: list[float]
    clear_mm: list[list[float | None]]
    in_the_way: list[list[int]]
    places_mm: list[tuple[float, float]]
    marks: list[WallMarkOut]
    wanted_mm: float


def _marks(build: Build, wall: Wall, forecast: DrainsForecast) -> list[WallMarkOut]:
    found = []
    by_boss: dict[str, list[str]] = {}
    for each in forecast.forecasts:
        if each.drain.boss:
            by_boss.setdefault(each.drain.boss, []).append(each.drain.run)
    for boss in build.pan.bosses:
        place = np.array([boss.x_mm, boss.y_mm, -boss.depth_mm]) * 1e-3
        runs = by_boss.get(boss.id, [])
        found.append(
            WallMarkOut(
                kind="entry" if runs else "boss", name=boss.name, runs=runs,
                along_mm=mm(place_on_wall(wall, place), 0), height_mm=-boss.depth_mm,
                across_mm=boss.bore_mm,
            )
        )  # fmt: skip
    for each in forecast.forecasts:
        if not (each.drain.boss or each.drain.junction):
            entry = each.drain.line.entry
            found.append(
                WallMarkOut(
                    kind="entry", name=each.drain.name, runs=[each.drain.run],
                    along_mm=mm(place_on_wall(wall, entry), 0), height_mm=mm(entry[2], 0),
                    across_mm=mm(each.drain.line.falls.bores[-1], 1),
                )
            )  # fmt: skip
    for bolt in build.pan.flange.bolts if build.pan.flange else []:
        place = np.array([bolt.x_mm, bolt.y_mm, 0.0]) * 1e-3
        found.append(
            WallMarkOut(
                kind="bolt", name="", runs=[], along_mm=mm(place_on_wall(wall, place), 0),
                height_mm=0.0, across_mm=bolt.diameter_mm,
            )
        )  # fmt: skip
    return found


def wall_out(build: Build, pan: Pan, forecast: DrainsForecast) -> WallOut:
    """A build's wall over a lap of settled oil."""
    wall = unrolled(build, pan, forecast.ups, forecast.levels)
    clear = (wall.clear * 1e3).round(0)
    return WallOut(
        around_mm=mm(wall.around, 0),
        along_mm=(wall.along * 1e3).round(0).tolist(),
        sides=list(wall.sides),
        heights_mm=(wall.heights * 1e3).round(0).tolist(),
        clear_mm=[[None if np.isnan(v) else float(v) for v in row] for row in clear],
        in_the_way=wall.in_the_way.astype(int).tolist(),
        places_mm=[(mm(x, 0), mm(y, 0)) for x, y in wall.places],
        marks=_marks(build, wall, forecast),
        wanted_mm=mm(SPARE.least, 0),
    )
