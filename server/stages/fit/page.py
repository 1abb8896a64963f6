"""A round on paper: the envelope with its places numbered, and a row for each."""

from __future__ import annotations

import math

from bilge_core.tell.fit import EnvelopeOut, FitFrameOut, FitOut, FitPlaceOut
from config.pages import BOLD, HAIR, INK, PLAIN, SMALL, TEXT, TITLE, page_of, words
from reportlab.graphics.shapes import Circle, Drawing, Line, Polygon, Rect, String
from reportlab.lib.colors import white
from reportlab.lib.units import mm
from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.platypus import Flowable, Spacer, Table

from stages.fit.schemas import FitStageOut

Spot = tuple[float, float]

_WIDE, _HIGH = 88 * mm, 62 * mm
_BADGE = 2.2 * mm
_NAME = 6  # [pt]
_AXES = {"side": (0, 2), "front": (1, 2), "plan": (0, 1)}
_TITLES = {
    "side": "Side, from the left, nose left",
    "front": "From behind, looking forward",
    "plan": "From above, nose left",
}
_CAUTION = (
    "Two independent supports under the car, and it level. A gap is measured cold and still: the "
    "engine rocks, pipes grow. Oil on an exhaust burns. Cutting a chassis member: only a qualified "
    "fabricator, where the class's rules allow it."
)


def _place_of(view: EnvelopeOut) -> tuple[float, tuple[float, float, float, float]]:
    """Scale, and the box of what is drawn [mm]; the page's right is the car's rear or right."""
    points = [p for ring in view.pan_mm for p in ring] + [
        p for each in view.beside for p in each.outline_mm
    ]
    points += view.ground_mm
    # something far off must not make the pan small
    pan = [p for ring in view.pan_mm for p in ring]
    reach = 260.0
    low = [max(min(p[k] for p in points), min(p[k] for p in pan) - reach) for k in (0, 1)]
    high = [min(max(p[k] for p in points), max(p[k] for p in pan) + reach) for k in (0, 1)]
    scale = min(_WIDE / max(high[0] - low[0], 1.0), _HIGH / max(high[1] - low[1], 1.0))
    return scale, (low[0], low[1], high[0], high[1])


def spread(spots: list[Spot], least: float) -> list[Spot]:
    """Places as near to their spots as they can be, none nearer to another than a distance.

    Examples
    --------
    >>> spread([(0.0, 0.0), (0.0, 0.0), (9.0, 0.0)], 4.0)
    [(-2.0, 0.0), (2.0, 0.0), (9.0, 0.0)]
    """
    moved = [list(spot) for spot in spots]
    for _ in range(80):
        is_clear = True
        for k, one in enumerate(moved):
            for other in moved[:k]:
                across, up = one[0] - other[0], one[1] - other[1]
                apart = math.hypot(across, up)
                if apart >= least - 1e-6:
                    continue
                is_clear = False
                across, up = (across / apart, up / apart) if apart > 1e-6 else (1.0, 0.0)
                push = 0.5 * (least - apart)
                one[0], one[1] = one[0] + push * across, one[1] + push * up
                other[0], other[1] = other[0] - push * across, other[1] - push * up
        if is_clear:
            break
    return [(round(x, 3), round(y, 3)) for x, y in moved]


def _named_clear(
    named: list[tuple[str, list[Spot]]], badges: list[Spot], wide: float
) -> list[tuple[str, Spot]]:
    """Names in the middle of what they name, or above or below it where a number is in the way."""
    found: list[tuple[str, Spot]] = []
    for name, outline in named:
        half = 0.5 * stringWidth(name, PLAIN, _NAME)
        x = sum(u for u, _ in outline) / len(outline)
        y = sum(v for _, v in outline) / len(outline)
        x = min(max(x, half), wide - half)

        def is_free(at: float, x: float = x, half: float = half) -> bool:
            return all(
                abs(u - x) > half + _BADGE or abs(v - at - 0.3 * _NAME) > _BADGE + 0.5 * _NAME
                for u, v in badges
            ) and all(
                abs(u - x) > half + 0.5 * stringWidth(other, PLAIN, _NAME) + 3
                or abs(v - at) > _NAME
                for other, (u, v) in found
            )

        steps = (step * way * 0.5 * _NAME for step in range(24) for way in (1, -1))
        found.append((name, (x, next((y + each for each in steps if is_free(y + each)), y))))
    return found


def _drawn(frame: FitFrameOut, view: EnvelopeOut, places: list[FitPlaceOut]) -> Drawing:
    scale, (left, low, right, high) = _place_of(view)
    made = Drawing(_WIDE + 8 * mm, _HIGH + 12 * mm)

    def at(point: tuple[float, float]) -> tuple[float, float]:
        # ahead is to the left of the page, and so is the car's left
        x = min(max(point[0], left), right)
        y = min(max(point[1], low), high)
        upward = y - low if view.key != "plan" else high - y
        return (right - x) * scale + 4 * mm, upward * scale + 8 * mm

    def ring(points: list[tuple[float, float]], width: float, dashes: list[int] | None) -> None:
        flat = [part for point in points for part in at(point)]
        made.add(Polygon(flat, fillColor=None, strokeColor=INK, strokeWidth=width,
                         strokeDashArray=dashes))  # fmt: skip

    for each in view.beside:
        ring(each.outline_mm, 0.5, [6, 2, 1, 2])
    for outline in view.pan_mm:
        ring(outline, 1.2, None)
    if view.ground_mm:
        (x, y), (u, v) = (at(point) for point in view.ground_mm)
        made.add(Line(x, y, u, v, strokeColor=INK, strokeWidth=0.8))
    one, other = _AXES[view.key]
    marked = [
        (place.number, at((spot[one], spot[other])))
        for place in places
        if (spot := frame.places[place.id][0]) is not None
    ]
    badges = spread([spot for _, spot in marked], 2.3 * _BADGE)
    for (_, (u, v)), (x, y) in zip(marked, badges, strict=True):
        made.add(Line(u, v, x, y, strokeColor=INK, strokeWidth=0.5))
    named = [(each.name, [at(point) for point in each.outline_mm]) for each in view.beside]
    for name, (x, y) in _named_clear(named, badges, _WIDE + 8 * mm):
        half = 0.5 * stringWidth(name, PLAIN, _NAME) + 1.0
        # lines end before a name, as on any drawing
        made.add(Rect(x - half, y - 0.3 * _NAME, 2.0 * half, 1.2 * _NAME, fillColor=white,
                      strokeColor=None))  # fmt: skip
        made.add(String(x, y, name, fontName=PLAIN, fontSize=_NAME, textAnchor="middle"))
    for (number, _), (x, y) in zip(marked, badges, strict=True):
        made.add(Circle(x, y, _BADGE, fillColor=white, strokeColor=INK, strokeWidth=0.9))
        made.add(String(x, y - 2.4, str(number), fontName=BOLD, fontSize=7,
                        textAnchor="middle"))  # fmt: skip
    made.add(String(4 * mm, 2 * mm, _TITLES[view.key], fontName=PLAIN, fontSize=7))
    return made


def _found(place: FitPlaceOut) -> str:
    rows = [
        f"{each.round}: {'touches' if each.touches else _gap(each.gap_mm)}" for each in place.found
    ]
    return ", ".join(rows[-3:])


def _gap(gap: float | None) -> str:
    return "looked at" if gap is None else f"{gap:.0f}"


def _rows(fit: FitOut) -> list[list[object]]:
    rows: list[list[object]] = []
    for place in sorted(fit.places, key=lambda each: each.number):
        forecast = "" if place.forecast_mm is None else f"{place.forecast_mm:.0f}"
        rows.append([
            str(place.number), words(place.name, TEXT), f"{place.wanted_mm:.0f}", forecast,
            words(_found(place), SMALL), "", "",
        ])  # fmt: skip
    return rows


def as_page(name: str, told: FitStageOut) -> bytes:
    """The round as a PDF."""
    fit = told.fit
    last = fit.rounds[-1] if fit.rounds else None
    title = f"{name}: test fit, round {last.number if last else 1}"
    said = (
        f"Offered up with {last.means_words}, car on its {last.car_on}. {last.caution}"
        if last
        else "No round is begun yet."
    )
    car = next(frame for frame in fit.frames if frame.frame == "car")
    drawings = [_drawn(car, view, fit.places) for view in car.views]
    pairs = Table([[drawings[0], drawings[1]], [drawings[2], ""]])
    heads = ["", "place", "wanted", "forecast", "found so far", "found now", "what was done"]
    table = Table(
        [heads, *_rows(fit)],
        colWidths=[each * mm for each in (8, 48, 15, 15, 28, 24, 46)], repeatRows=1,
        rowHeights=[None, *([11 * mm] * len(fit.places))],
    )  # fmt: skip
    table.setStyle([
        ("FONT", (0, 0), (-1, 0), BOLD, SMALL.fontSize), ("VALIGN", (0, 0), (-1, -1), "MIDDLE"),
        ("FONTSIZE", (0, 1), (-1, -1), 9), ("LINEBELOW", (0, 0), (-1, -1), 0.4, HAIR),
        ("BOX", (5, 1), (5, -1), 0.5, INK),
    ])  # fmt: skip
    parts: list[Flowable] = [
        words(title, TITLE), Spacer(1, 1.5 * mm), words(said, TEXT), Spacer(1, 2 * mm), pairs,
        words("Gaps in mm, as the car stands.", SMALL), Spacer(1, 2 * mm), table,
        Spacer(1, 3 * mm), words(_CAUTION, SMALL),
    ]  # fmt: skip
    return page_of(parts, title)
