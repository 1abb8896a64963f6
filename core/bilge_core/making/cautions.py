"""What a maker looks at before anything is cut."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import shapely

from bilge_core.making.flat import FlatPart
from bilge_core.rules.making import HOLE, WEB


def cautions_of(parts: Sequence[FlatPart]) -> Iterator[str]:
    """Holes too small for their sheet and webs too narrow, part by part, in words.

    Examples
    --------
    >>> list(cautions_of(()))
    []
    """
    for part in parts:
        small = [d for _, _, d in part.circles if not HOLE.holds(d / part.thickness)]
        if small:
            yield (
                f"{part.name}: a hole of {min(small) * 1e3:.1f} mm in {part.thickness * 1e3:g} mm "
                "is drilled, not punched or cut"
            )
        web = narrowest_web(part)
        if web is not None and not WEB.holds(web / part.thickness):
            yield (
                f"{part.name}: {web * 1e3:.1f} mm of web is left beside a hole or an opening: it "
                "burns away or tears"
            )


def narrowest_web(part: FlatPart) -> float | None:
    """The narrowest metal between two openings, or one and the edge [m]; None without any."""
    holes = [shapely.Polygon(ring) for ring in part.outline.interiors]
    holes += [shapely.Point(x, y).buffer(0.5 * d) for x, y, d in part.circles]
    if not holes:
        return None
    edge = part.outline.exterior
    gaps = [each.distance(edge) for each in holes]
    gaps += [one.distance(other) for n, one in enumerate(holes) for other in holes[n + 1 :]]
    return float(min(gaps))
