"""Whether a torch reaches the edges that are welded, from outside the pan."""

from __future__ import annotations

import math
from collections.abc import Collection, Iterator, Sequence

import numpy as np
import shapely

from bilge_core.making.panels import Panel
from bilge_core.making.seams import Seam, seams_of
from bilge_core.making.unfolded import Pair
from bilge_core.physics.arrays import Array
from bilge_core.rules.making import TORCH, TORCH_ANGLE

_NEAR = 1e-3  # [m] along the way out within which a panel is the edge's own
_FLAT = 1e-3  # of two normals' sum, below which there is no way out between them


def welds_not_reached(panels: Sequence[Panel], bent: Collection[Pair]) -> Iterator[str]:
    """Edges that are welded and that a torch does not get to, in words.

    Parameters
    ----------
    panels : sequence of Panel
    bent : pairs of panels whose edge is bent

    Notes
    -----
    The way out halves the corner as it is seen from outside; what stands in it is looked for from
    the middle of the edge's longest stretch.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.making.panels import panels_of
    >>> from bilge_core.pan import assemble_pan
    >>> panels = panels_of(assemble_pan(read_build(Path("demo/curlew.json").read_text())))
    >>> list(welds_not_reached(panels, ()))
    []
    """
    by_number = {each.number: each for each in panels}
    for seam in seams_of(panels):
        if seam.pair in bent:
            continue
        ends = [by_number[number] for number in seam.pair]
        open_by = opening_of(seam, ends)
        name = f"edge of {seam.pair[0]} and {seam.pair[1]}"
        if not TORCH_ANGLE.holds(round(open_by, 6)):
            yield (
                f"{name}: open by {open_by:.0f}° outside, too sharp for a torch: bend it, or weld "
                "it from inside"
            )
            continue
        free = _free(seam, ends, panels)
        if free is not None and not TORCH.holds(round(free[0], 9)):
            yield (
                f"{name}: panel {free[1]} stands {free[0] * 1e3:.0f} mm before it, where a torch "
                f"wants {TORCH.least * 1e3:.0f} mm: weld it before that one is on, or from inside"
            )


def opening_of(seam: Seam, ends: Sequence[Panel]) -> float:
    """How far a corner is open, seen from outside [deg]: 180 where the two are one plane.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.making.panels import panels_of
    >>> from bilge_core.pan import assemble_pan
    >>> panels = panels_of(assemble_pan(read_build(Path("demo/curlew.json").read_text())))
    >>> seam = seams_of(panels)[0]
    >>> round(opening_of(seam, [panels[0], panels[1]]))  # the floor and a wall
    270
    """
    one = ends[0]
    meetings = [each for each in one.meetings if each.other == ends[1].number]
    longest = max(meetings, key=lambda each: each.length)
    turn = math.degrees(seam.turn)
    return 180.0 + turn if longest.inside else 180.0 - turn


def _free(
    seam: Seam, ends: Sequence[Panel], panels: Sequence[Panel]
) -> tuple[float, int] | None:  # fmt: skip
    """What stands nearest in the way out from an edge: how far [m], and its number."""
    out = -(ends[0].normal + ends[1].normal)
    size = float(np.linalg.norm(out))
    if size < _FLAT:
        return None
    way: Array = out / size
    found: list[tuple[float, int]] = []
    for panel in panels:
        toward = float(way @ panel.normal)
        if panel.number in seam.pair or abs(toward) < _FLAT:
            continue
        far = float((panel.origin - seam.middle) @ panel.normal) / toward
        spot = seam.middle + far * way - panel.origin
        flat = shapely.Point(float(spot @ panel.first), float(spot @ panel.second))
        if far > _NEAR and panel.outline.intersects(flat):
            found.append((far, panel.number))
    return min(found, default=None)
