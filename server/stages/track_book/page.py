"""The track book on paper: sessions, dips met, what is due."""

from __future__ import annotations

from bilge_core.tell.book import BookOut, DrivenOut, DueOut
from bilge_core.tell.judged import JudgedOut
from config.pages import HAIR, INK, PLAIN, SMALL, TEXT, TITLE, page_of, words
from reportlab.graphics.shapes import Circle, Drawing, PolyLine, String
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepTogether, Spacer, Table

_CAUTION = (
    "Figures are estimates to plan by, not a guarantee; a pressure gauge and a warning lamp are "
    "still needed. Intervals are guesses until the builder typed others. Hot oil burns. Local "
    "codes, class rules and the organiser decide."
)
_STYLE = [
    ("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 1),
    ("RIGHTPADDING", (0, 0), (-1, -1), 3), ("LINEBELOW", (0, 0), (-1, -1), 0.3, HAIR),
]  # fmt: skip
_MAP_WIDE, _MAP_HIGH = 90 * mm, 55 * mm


def _figure(value: float | None, unit: str, places: int = 0) -> str:
    return "" if value is None else f"{value:.{places}f} {unit}"


def _levels(driven: DrivenOut) -> str:
    before, after = driven.session.level_before_mm, driven.session.level_after_mm
    if before is None and after is None:
        return ""
    return f"{'?' if before is None else f'{before:g}'} to {'?' if after is None else f'{after:g}'}"


def _dips(driven: DrivenOut) -> str:
    count = driven.dips
    if count is None:
        return ""
    return f"{count.met} met" + (f", {count.foreseen} foreseen" if count.has_forecast else "")


def _sessions(rows: list[DrivenOut]) -> Table:
    head = ("day", "circuit", "laps", "ran", "oil", "level, mm", "catch can", "used", "dips")
    cells = [[words(each, SMALL) for each in head]]
    for row in rows:
        session = row.session
        track = "" if session.weather == "dry" else f", {session.weather}"
        cells.append([
            words(text, SMALL)
            for text in (
                f"{session.on:%d %b %Y}", f"{session.circuit}{track}", str(session.laps),
                f"{session.hours:g} h", _figure(row.hottest_c, "°C"), _levels(row),
                _figure(session.can_ml, "ml"), _figure(row.oil_used_l, "L", 1), _dips(row),
            )
        ])  # fmt: skip
    wide = [w * mm for w in (22, 42, 11, 13, 16, 22, 19, 14, 25)]
    return Table(cells, colWidths=wide, style=_STYLE, repeatRows=1)


def _map(judged: JudgedOut) -> Drawing:
    """The line driven: a ring where a dip was forecast, a dot where one was measured."""
    xs = [x for x, _ in judged.line_m]
    ys = [y for _, y in judged.line_m]
    scale = min(_MAP_WIDE / max(max(xs) - min(xs), 1.0), _MAP_HIGH / max(max(ys) - min(ys), 1.0))
    pad = 8 * mm
    made = Drawing(_MAP_WIDE + 2 * pad, (max(ys) - min(ys)) * scale + 2 * pad)

    def at(x: float, y: float) -> tuple[float, float]:
        return (x - min(xs)) * scale + pad, (y - min(ys)) * scale + pad

    points = [part for x, y in judged.line_m for part in at(x, y)]
    made.add(PolyLine(points, strokeColor=INK, strokeWidth=0.8))
    for place in judged.places:
        if place.at_m is None:
            continue
        x, y = at(*place.at_m)
        if place.word != "miss":
            made.add(Circle(x, y, 2.4 * mm, fillColor=None, strokeColor=INK, strokeWidth=1.2))
        if place.word in ("hit", "miss"):
            made.add(Circle(x, y, 1.2 * mm, fillColor=INK, strokeColor=None))
        made.add(String(x + 3 * mm, y + 2 * mm, str(place.number), fontName=PLAIN,
                        fontSize=8))  # fmt: skip
    return made


def _judged(driven: DrivenOut, judged: JudgedOut) -> KeepTogether:
    kept = judged.forecast
    by = f"Forecast: {kept.model}, over {kept.lap}, as it stood then. " if kept else ""
    looks = f" {judged.resembles.words}" if judged.resembles else ""
    about = f"{by}{judged.sensor.words}.{looks}"
    return KeepTogether([
        words(f"{driven.session.on:%d %B}: {judged.headline}", TEXT), _map(judged),
        words("Ring: forecast. Dot: measured.", SMALL), words(about, SMALL), Spacer(1, 3 * mm),
    ])  # fmt: skip


def _when(due: DueOut) -> str:
    hours, days = due.hours_left, due.days_left
    if due.state == "due":
        return "due now"
    if hours is not None and (days is None or hours < 0):
        return f"overdue {-hours:g} h" if hours < 0 else f"in {hours:g} h"
    if days is not None:
        return f"overdue {-days:.0f} days" if days < 0 else f"in {days:.0f} days"
    return "each session"


def _due(rows: list[DueOut]) -> Table:
    cells = []
    for row in rows:
        last = row.done[-1] if row.done else None
        said = "" if last is None else (
            f"{last.done.on:%d %b %Y}, {'renewed' if last.done.how == 'renewed' else 'looked at'}: "
            f"{last.done.found}{', ' + last.done.words if last.done.words else ''}"
        )  # fmt: skip
        guess = " (a guess)" if row.is_usual and row.every_hours is not None else ""
        every = "each session" if row.each_session else (
            f"every {row.every_hours:g} h{guess}" if row.every_hours is not None
            else f"every {row.every_days:g} days"
        )  # fmt: skip
        cells.append([words(text, SMALL) for text in (row.name, _when(row), every, said)])
    return Table(cells, colWidths=[w * mm for w in (52, 28, 36, 68)], style=_STYLE)


def as_page(name: str, book: BookOut, judged: dict[str, JudgedOut]) -> bytes:
    """The book as a PDF; `judged` by session."""
    title = f"{name}: track book"
    if not book.sessions:
        return page_of([words(title, TITLE), words("No session is written down yet.", TEXT)], title)
    ran = f"{len(book.sessions)} sessions, {book.hours:g} h run in this book."
    parts: list[Flowable] = [
        words(title, TITLE), Spacer(1, 1.5 * mm), words(ran, TEXT), Spacer(1, 2 * mm),
        _sessions(book.sessions), Spacer(1, 4 * mm),
    ]  # fmt: skip
    if book.next:
        parts += [
            words(f"Change one thing next: {book.next.title}.", TEXT),
            words(f"{book.next.why} What would tell: {book.next.measure}", SMALL),
            Spacer(1, 4 * mm),
        ]
    parts += [words("What is due", TITLE), _due(book.due), Spacer(1, 4 * mm)]
    said = [row for row in book.sessions if row.session.words or row.session.id in judged]
    if said:
        parts.append(words("Session by session", TITLE))
    for row in said:
        if row.session.words:
            parts.append(words(f"{row.session.on:%d %B}: {row.session.words}", TEXT))
        if row.session.id in judged:
            parts.append(_judged(row, judged[row.session.id]))
    return page_of([*parts, Spacer(1, 2 * mm), words(_CAUTION, SMALL)], title)
