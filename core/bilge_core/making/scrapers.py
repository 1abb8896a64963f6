"""A crank scraper as a blank: a tab under the block's rail, a blade bent up to the throws."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np
import shapely
from shapely import Polygon

from bilge_core.document.build import Build
from bilge_core.document.fitted import Scraper
from bilge_core.making.bends import Sheet
from bilge_core.making.flat import THICK, FlatPart, Note
from bilge_core.pan.assembly import Pan

_TAB = 12e-3  # [m] wide, where no flange is laid out (ours)
_LEAST = 2e-3  # [m] of blade: less is none (ours)
_FAR = 1.0  # [m] beyond any pan


def edge_beside(rail: Polygon, start: float, end: float, left: bool) -> float | None:
    """How near the middle the rail's inner edge comes, on one side of a stretch [m].

    Parameters
    ----------
    rail : Polygon
        Ahead and left [m].
    start, end : float
        Of the stretch, ahead of the rail's rear face [m].
    left : bool

    Returns
    -------
    float or None
        None where the rail leaves no room on that side.

    Examples
    --------
    >>> edge_beside(shapely.box(0.0, -0.12, 0.4, 0.1), 0.1, 0.3, left=False)
    0.12
    """
    side = 1.0 if left else -1.0
    corners = [x for x, _ in rail.exterior.coords if start < x < end]
    inside = 1e-6 * (end - start)
    found: list[float] = []
    for x in (start + inside, *corners, end - inside):
        across = shapely.LineString([(x, 0.0), (x, side * _FAR)]).intersection(rail)
        if across.is_empty:
            return None
        low, high = across.bounds[1], across.bounds[3]
        found.append(float(high if left else -low))
    return min(found)


def _tab(build: Build, start: float, end: float, edge: float, left: bool) -> Polygon:
    """What lies between pan and block: the flange's own outline from its inner edge on."""

    def beside(wide: float) -> Polygon:
        low, high = (edge, edge + wide) if left else (-edge - wide, -edge)
        return shapely.box(start, low, end, high)

    if build.pan.flange is None:
        return beside(_TAB)
    whole = Polygon(np.array(build.pan.flange.outline_mm) * 1e-3)
    cut = shapely.get_parts(whole.intersection(beside(_FAR)))
    pieces = [each for each in cut if isinstance(each, Polygon)]
    return max(pieces, key=lambda each: each.area) if pieces else beside(_TAB)


def _one(build: Build, pan: Pan, strip: Scraper, number: int) -> FlatPart | None:
    crank = build.car.crank
    left = strip.side == "left"
    start, end = strip.from_x_mm * 1e-3, strip.to_x_mm * 1e-3
    edge = edge_beside(pan.rail, start, end, left) if end > start else None
    if crank is None or edge is None:
        return None
    height, gap = crank.height_mm * 1e-3, strip.gap_mm * 1e-3
    blade = math.hypot(edge, height) - crank.swept_radius_mm * 1e-3 - gap
    if blade < _LEAST:
        return None
    turn = math.atan2(height, edge)
    thickness = THICK["steel"]
    sheet = Sheet(thickness, 1.5 * thickness)
    flat = blade + sheet.growth(abs(turn), inside=True)
    bend = -sheet.setback(abs(turn), inside=True) + 0.5 * sheet.allowance(abs(turn))
    # from the rail's edge inward; ahead is up the page, the left is left
    inward = 1.0 if left else -1.0
    tab = shapely.transform(
        _tab(build, start, end, edge, left), lambda p: np.column_stack([-p[:, 1], p[:, 0]])
    )
    at = -edge * inward
    tip = at + inward * flat
    outline = shapely.union(
        tab, shapely.box(min(at, tip), start, max(at, tip), end), grid_size=1e-7
    )
    bolts = build.pan.flange.bolts if build.pan.flange else []
    holes = [(-each.y_mm * 1e-3, each.x_mm * 1e-3, each.diameter_mm * 1e-3) for each in bolts]
    drilled = tuple(hole for hole in holes if tab.contains(shapely.Point(hole[:2])))
    line = at + inward * bend
    middle = (0.5 * (at + tip), 0.5 * (start + end))
    return FlatPart(
        f"scraper-{number}", "scraper", strip.name, outline, drilled,
        ((np.array([line, start]), np.array([line, end]), abs(turn), turn >= 0.0),), (),
        (Note(strip.name, middle),), np.array([0.0, 1.0]), thickness, True,
        f"A blank, seen from above: bent up to the crank, offered up with it in, and notched round "
        f"each rod and weight until {strip.gap_mm:g} mm are clear all round; then the crank is "
        "turned twice by hand. It lies between pan and block: their gap and the pickup's go with "
        "its thickness.",
    )  # fmt: skip


def scraper_parts(build: Build, pan: Pan) -> Iterator[FlatPart]:
    """Scrapers as blanks; none where the crank passes over the rail's edge, or is not known.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.acts.fitted import FitScraper
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> build = FitScraper(kind="fit_scraper", side="left").done(build).build
    >>> [each.name for each in scraper_parts(build, assemble_pan(build))]
    ['left scraper']
    """
    for number, strip in enumerate(build.pan.scrapers, start=1):
        found = _one(build, pan, strip, number)
        if found is not None:
            yield found


def scrapers_not_cut(build: Build, pan: Pan) -> Iterator[str]:
    """Why a scraper has no blank, in words."""
    for number, strip in enumerate(build.pan.scrapers, start=1):
        if _one(build, pan, strip, number) is None:
            yield (
                f"{strip.name}: no blank is drawn, since between the rail's edge and the crank's "
                "sweep there is no room for a blade, or nobody said where the crank is"
            )
