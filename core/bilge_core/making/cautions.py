"""What a maker looks at before anything is cut."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import shapely

from bilge_core.document.build import Build
from bilge_core.making.flat import FlatPart
from bilge_core.making.parts import sheet_of
from bilge_core.pan import Pan
from bilge_core.rules.bolts import CLEARANCE_HOLE
from bilge_core.rules.making import HOLE, SOCKET, WEB


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


def bolts_not_reached(build: Build, pan: Pan) -> Iterator[str]:
    """Bolts of the flange whose socket would stand on the pan's wall or on what is below it.

    Parameters
    ----------
    build : Build
        The wall's outer face is a sheet's thickness outside the oil's space.
    pan : Pan

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> list(bolts_not_reached(build, assemble_pan(build)))
    []
    """
    flange = build.pan.flange
    if flange is None:
        return
    inside = shapely.union_all([pan.rail, *(zone.outline for zone in pan.zones)])
    metal = inside.buffer(sheet_of(build).thickness)
    tight = list[tuple[float, float]]()
    for bolt in flange.bolts:
        away = shapely.Point(bolt.x_mm * 1e-3, bolt.y_mm * 1e-3).distance(metal)
        thread = bolt.diameter_mm * 1e-3 / CLEARANCE_HOLE
        if not SOCKET.holds(away / thread):
            tight.append((away, SOCKET.least * thread))
    if tight:
        nearest, wanted = min(tight)
        many = f"{len(tight)} bolts have" if len(tight) > 1 else "one bolt has"
        yield (
            f"flange: {many} no room for a socket, {nearest * 1e3:.1f} mm from the middle to "
            f"the wall below where {wanted * 1e3:.1f} mm is wanted"
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
