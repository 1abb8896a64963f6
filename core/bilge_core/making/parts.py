"""Everything that is cut flat: flange, panels, plates, gate leaves, scrapers, saddles."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import replace

import numpy as np
import shapely
from shapely import Polygon

from bilge_core.document.build import Build
from bilge_core.document.making import Making
from bilge_core.document.plates import HorizontalPlate
from bilge_core.making.bends import K_FACTOR, Sheet
from bilge_core.making.flat import THICK, FlatPart, Note
from bilge_core.making.panels import Panel, panels_of
from bilge_core.making.saddles import saddle_parts
from bilge_core.making.scrapers import scraper_parts
from bilge_core.making.seams import bent_of
from bilge_core.making.unfolded import Blank, Pair, unfolded
from bilge_core.pan.assembly import Pan
from bilge_core.pan.plates import PlacedGate, PlacedPlate
from bilge_core.physics.arrays import Array

LAPS = 6e-3
"""[m] that a gate's leaf lies over its opening on the sides and below (ours)."""
HINGE = 14e-3
"""[m] of leaf above its opening, for its hinge (ours)."""
_RADIUS = 1.5  # thicknesses, of a bend's inside, where nobody says (ours)


def sheet_of(build: Build) -> Sheet:
    """The pan's sheet as it is bent; 1.5 mm and a radius of 1.5 thicknesses where nobody says.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> sheet_of(read_build(Path("demo/curlew.json").read_text())).thickness
    0.004
    """
    thickness = (build.pan.sheet_mm or THICK["steel"] * 1e3) * 1e-3
    making = build.pan.making or Making()
    radius, k_factor = making.radius_mm, making.k_factor
    return Sheet(
        thickness, _RADIUS * thickness if radius is None else radius * 1e-3,
        K_FACTOR if k_factor is None else k_factor, making.gap_mm * 1e-3, making.relief,
    )  # fmt: skip


TRIMMED = 1.5e-3
"""[m] to each side of a plate by which what is in its way is trimmed (ours: a cast wall's step)."""
_AT_RAIL = 3e-3  # [m] under the rail from which a plate is in the way of a gasket's webs (ours)


def _up_to_rail(pan: Pan) -> list[tuple[str, Array, Array]]:
    """Upper edges of upright plates that come up to the rail: x ahead, y to the left [m]."""
    found = []
    for plate in pan.plates:
        if plate.kind != "vertical":
            continue
        for ring in (ring for piece in plate.pieces() for ring in piece):
            for a, b in zip(ring, np.roll(ring, -1, axis=0), strict=True):
                level = min(float(a[2]), float(b[2])) > -_AT_RAIL
                if level and np.linalg.norm(b[:2] - a[:2]) > 2.0 * TRIMMED:
                    found.append((plate.name, a[:2], b[:2]))
    return found


def _on_page(place: Array) -> Array:
    """Nose up the page: x ahead is v, y to the left is minus u."""
    return np.array([-place[1], place[0]])


def _in_the_way(pan: Pan) -> tuple[tuple[tuple[Array, Array], ...], tuple[Note, ...]]:
    """Strips across a flange where plates come up to it, and the plates' names in them."""
    marked: list[tuple[Array, Array]] = []
    notes: list[Note] = []
    for name, start, end in _up_to_rail(pan):
        a, b = _on_page(start), _on_page(end)
        way = (b - a) / np.linalg.norm(b - a)
        aside = (0.5 * THICK["steel"] + TRIMMED) * np.array([-way[1], way[0]])
        corners = [a + aside, b + aside, b - aside, a - aside]
        marked += [(corners[at], corners[(at + 1) % 4]) for at in range(4)]
        middle = 0.5 * (a + b)
        notes.append(Note(name, (float(middle[0]), float(middle[1]))))
    return tuple(marked), tuple(notes)


def _ring(places: Array) -> Polygon:
    return Polygon(places)


def flange_part(build: Build, pan: Pan) -> FlatPart | None:
    """The flange with its bolt holes and its opening; None where none is laid out."""
    flange = build.pan.flange
    if flange is None:
        return None
    whole = _ring(np.array(flange.outline_mm) * 1e-3)
    hole = pan.rail.intersection(whole)
    outline = whole.difference(hole) if hole.area < 0.999 * whole.area else whole
    turned = shapely.transform(outline, lambda p: np.column_stack([-p[:, 1], p[:, 0]]))
    outline = max(shapely.get_parts(turned), key=lambda each: each.area)
    holes = tuple((-b.y_mm * 1e-3, b.x_mm * 1e-3, b.diameter_mm * 1e-3) for b in flange.bolts)
    marked, notes = _in_the_way(pan)
    trim = (
        f" Marked: {len(notes)} plate{'' if len(notes) == 1 else 's'} up to the rail, and "
        f"{TRIMMED * 1e3:g} mm to each side: webs of gasket or casting are trimmed there, no more."
        if notes
        else ""
    )
    return FlatPart(
        "flange", "flange", "flange", outline, holes, (), (), notes, np.array([0.0, 1.0]),
        flange.thickness_mm * 1e-3, False,
        f"{len(holes)} bolt holes. Seen from above, from the engine: drilled before it is welded."
        f"{trim}", marked=marked,
    )  # fmt: skip


def spacer_part(build: Build, pan: Pan) -> FlatPart | None:
    """The spacer between block and pan, cut like the flange; None where there is none."""
    flange = flange_part(build, pan)
    if flange is None or build.pan.spacer_mm <= 0.0:
        return None
    return replace(
        flange, key="spacer", kind="spacer", name="spacer", thickness=build.pan.spacer_mm * 1e-3,
        about="As the flange, and as thick as the pickup's own spacer; bolts and studs are longer "
        "by it.", marked=(), notes=(),
    )  # fmt: skip


def _panel_name(blank: Blank, panels: dict[int, Panel]) -> str:
    if len(blank.numbers) == 1:
        only = panels[blank.numbers[0]]
        return f"{only.kind} {only.number}"
    return "panels " + ", ".join(str(each) for each in blank.numbers)


def _panel_notes(blank: Blank, panels: dict[int, Panel]) -> tuple[Note, ...]:
    """Its numbers; of a piece of one panel, what each edge is welded to as well."""
    found = [
        Note(str(number), (float(x), float(y)))
        for number, (x, y) in zip(blank.laid, blank.middles, strict=True)
    ]
    if len(blank.numbers) == 1:
        only = panels[blank.numbers[0]]
        centre = np.asarray(only.outline.centroid.coords[0])
        for each in only.meetings:
            middle = 0.5 * (each.start + each.end)
            inward = middle + 0.08 * (centre - middle)
            words = "rail" if each.other == 0 else f"to {each.other}"
            found.append(Note(words, (float(inward[0]), float(inward[1]))))
    return tuple(found)


def panel_parts(
    build: Build, pan: Pan, bent: Collection[Pair], sheet: Sheet
) -> tuple[FlatPart, ...]:
    """The pan's panels, bent of one piece where that is wanted.

    Raises
    ------
    InvalidInput
        If what is to be bent cannot be laid flat.
    """
    panels = panels_of(pan)
    by_number = {each.number: each for each in panels}
    found = []
    for blank in unfolded(panels, bent, sheet):
        about = "Inside dimensions: welded at its inner edges."
        if blank.bends:
            about = (
                f"Bend allowance with a radius of {sheet.radius * 1e3:g} mm inside and K of "
                f"{sheet.k_factor:g}: bend a trial strip first."
                + ("" if sheet.relief else " Relieve the corners.")
            )
        found.append(
            FlatPart(
                "panel-" + "-".join(str(each) for each in blank.numbers), "panel",
                _panel_name(blank, by_number), blank.outline, (),
                tuple((b.start, b.end, b.turn, b.up) for b in blank.bends), (),
                _panel_notes(blank, by_number), blank.nose, sheet.thickness,
                build.pan.sheet_mm is None, about,
            )
        )  # fmt: skip
    return tuple(found)


def _gate_part(key: str, plate: PlacedPlate, gate: PlacedGate) -> FlatPart:
    width = float(np.linalg.norm(gate.corners[1] - gate.corners[0]))
    height = float(np.linalg.norm(gate.corners[3] - gate.corners[0]))
    outline = shapely.box(-LAPS, -LAPS, width + LAPS, height + HINGE)
    hinge = np.array([[-LAPS, height + 2e-3], [width + LAPS, height + 2e-3]])
    rubber = gate.leaf == "rubber"
    return FlatPart(
        key, "gate", f"leaf of {gate.name}, {plate.name}", outline,
        (), (), ((hinge[0], hinge[1]),), (Note(gate.name, (0.5 * width, 0.4 * height)),),
        np.zeros(2), THICK["rubber" if rubber else "steel"], True,
        f"{gate.leaf}, {LAPS * 1e3:g} mm over its opening on three sides, hinged at its upper "
        "edge; it must fall shut by itself.",
    )  # fmt: skip


def plate_parts(build: Build, pan: Pan) -> tuple[FlatPart, ...]:
    """Plates and trays with their openings, cut to the pan's inside, and the leaves of their gates.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.pan import assemble_pan
    >>> build = read_build(Path("demo/dunlin-gated.json").read_text())
    >>> parts = plate_parts(build, assemble_pan(build))
    >>> sorted({each.kind for each in parts})
    ['gate', 'plate']
    """
    found: list[FlatPart] = []
    for number, (placed, plate) in enumerate(
        zip(pan.plates, build.pan.plates, strict=True), start=1
    ):
        tray = isinstance(plate, HorizontalPlate) and plate.role == "windage_tray"
        first, second = placed.axes.first, placed.axes.second
        for at, piece in enumerate(shapely.get_parts(placed.sheet), start=1):
            many = len(shapely.get_parts(placed.sheet)) > 1
            open_share = placed.open_share
            louvred = f" {open_share:.0%} of it louvred or drilled." if open_share else ""
            middle = piece.representative_point()
            found.append(
                FlatPart(
                    f"plate-{number}{f'-{at}' if many else ''}", "tray" if tray else "plate",
                    f"{plate.name}{f', piece {at}' if many else ''}", piece, (), (), (),
                    (Note(plate.name, (float(middle.x), float(middle.y))),),
                    np.array([first[0], second[0]]), THICK["steel"], True,
                    f"Cut to the pan's inside: fit by hand, cast walls are rough.{louvred}",
                )
            )  # fmt: skip
        found += [
            _gate_part(f"gate-{number}-{at}", placed, gate)
            for at, gate in enumerate(placed.gates, start=1)
        ]
    return tuple(found)


def flat_parts(
    build: Build, pan: Pan, bent: Collection[Pair] | None = None, sheet: Sheet | None = None
) -> tuple[FlatPart, ...]:
    """Everything of a pan that is cut flat.

    Parameters
    ----------
    build : Build
    pan : Pan
        As assembled from it.
    bent : collection of pairs of panels' numbers, optional
        Whose common edge is bent; all others are welded. None: as the build says.
    sheet : Sheet, optional
        The pan's; None: as the build says.

    Raises
    ------
    InvalidInput
        If what is to be bent cannot be laid flat.
    """
    flange, spacer = flange_part(build, pan), spacer_part(build, pan)
    if bent is None:
        bent = bent_of(build, panels_of(pan))
    return (
        *(each for each in (flange, spacer) if each),
        *panel_parts(build, pan, bent, sheet or sheet_of(build)),
        *plate_parts(build, pan),
        *scraper_parts(build, pan),
        *saddle_parts(build),
    )
