"""The order as files: CSV, a spreadsheet, and printed pages with every line's cut list."""

from __future__ import annotations

import io

from bilge_core.tell.lines import LineOut
from bilge_core.tell.lines_all import OrderRowOut
from config.pages import BOLD, HAIR, INK, SMALL, TEXT, TITLE, page_of, words
from config.spreadsheets import Cell, csv_of, harmless
from openpyxl import Workbook
from openpyxl.styles import Font
from openpyxl.utils import get_column_letter
from openpyxl.worksheet.worksheet import Worksheet
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Paragraph, Spacer, Table

from stages.lines.schemas import LinesStageOut

_HEADINGS = (
    "part", "count", "per", "each", "in all", "days", "state", "lines", "spanner", "what for",
    "length",
)  # fmt: skip
_LINES = ("line", "name", "carries", "made of", "size", "length, mm", "cut, mm", "first end",
          "last end", "spanners")  # fmt: skip
_CAUTION = (
    "Prices and lead times are invented until the workshop typed its own; threads marked * are "
    "what such a part usually has: look at the part. No tape on a flare; on taper pipe 1 1/2 to 2 "
    "turns, beginning one thread back. Structural welds and pressure parts: licensed people. Class "
    "rules and local codes decide, not this page."
)


def _state_of(told: LinesStageOut, row: OrderRowOut) -> str:
    tick = next((each for each in told.ticks if each.part == row.part), None)
    if tick is None:
        return "to order"
    more = row.count - tick.count
    return tick.state if more <= 1e-6 else f"{tick.state} {tick.count:g}, {more:g} more"


def _row(told: LinesStageOut, row: OrderRowOut) -> list[Cell]:
    each = round(row.price / row.count, 4) if row.count else 0.0
    return [
        row.words, row.count, row.per, each, row.price, row.lead_days, _state_of(told, row),
        " ".join(str(number) for number in row.lines), row.spanner, "; ".join(row.why),
        "guessed: a line has none yet" if row.is_rough else "",
    ]  # fmt: skip


def as_csv(told: LinesStageOut) -> bytes:
    """The order as CSV."""
    return csv_of(_HEADINGS, [_row(told, row) for row in told.lines.order]).encode()


def _chain_words(line: LineOut, at: int) -> str:
    end = line.ends[at]
    parts = ", ".join(part.words for part in end.chain.fittings) if end.chain else "a made part"
    turns = f" {end.hose_end_deg}°" if line.kind == "hose" and end.hose_end_deg else ""
    star = "*" if end.is_usual else ""
    return f"{end.name} ({end.thread}{star}): {parts or 'straight on'}{turns}"


def _spanners(line: LineOut) -> str:
    found = {line.ends[0].spanner}
    for end in line.ends:
        found |= {part.spanner for part in (end.chain.fittings if end.chain else [])}
    return ", ".join(sorted(found - {"", "bolts"}))


def _line_row(line: LineOut) -> list[Cell]:
    size = f"size {line.dash}" if line.dash else f"bore {line.bore_mm or 0:g} mm"
    return [
        line.number, line.name, line.service, line.kind.replace("_", " "), size,
        "" if line.length_mm is None else round(line.length_mm),
        "" if line.cut_mm is None else round(line.cut_mm),
        _chain_words(line, 0), _chain_words(line, 1), _spanners(line),
    ]  # fmt: skip


def _fill(sheet: Worksheet, headings: tuple[str, ...], rows: list[list[Cell]]) -> None:
    sheet.append(list(headings))
    for row in rows:
        sheet.append([harmless(cell) for cell in row])
    for at, heading in enumerate(headings, start=1):
        sheet.cell(1, at).font = Font(bold=True)
        longest = max([len(heading), *(len(str(row[at - 1])) for row in rows)], default=8)
        sheet.column_dimensions[get_column_letter(at)].width = min(60, longest + 2)
    sheet.freeze_panes = "A2"


def as_spreadsheet(told: LinesStageOut) -> bytes:
    """The order as a spreadsheet: prices are counts times what each costs, and they are summed."""
    book = Workbook()
    order = book.active
    assert isinstance(order, Worksheet)
    order.title = "order"
    rows = [_row(told, row) for row in told.lines.order]
    _fill(order, _HEADINGS, rows)
    last = len(rows) + 1
    for at in range(2, last + 1):
        order.cell(at, 5).value = f"=B{at}*D{at}"
    order.cell(last + 1, 1).value = "total"
    order.cell(last + 1, 5).value = f"=SUM(E2:E{last})" if rows else 0
    order.cell(last + 1, 6).value = f"=MAX(F2:F{last})" if rows else 0
    for at in (1, 5, 6):
        order.cell(last + 1, at).font = Font(bold=True)
    _fill(book.create_sheet("lines"), _LINES, [_line_row(line) for line in told.lines.lines])
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _printed(headings: list[str], rows: list[list[Cell]], widths: list[float]) -> Table:
    cells: list[list[Paragraph | str]] = [[words(str(cell), SMALL) for cell in row] for row in rows]
    made = Table([headings, *cells], colWidths=[each * mm for each in widths], repeatRows=1)
    made.setStyle([
        ("FONT", (0, 0), (-1, 0), BOLD, SMALL.fontSize),
        ("VALIGN", (0, 0), (-1, -1), "TOP"),
        ("LINEBELOW", (0, 0), (-1, 0), 0.8, INK),
        ("LINEBELOW", (0, 1), (-1, -1), 0.3, HAIR),
    ])  # fmt: skip
    return made


def _sheets(told: LinesStageOut) -> list[Flowable]:
    """Every hard line's bending sheet."""
    found: list[Flowable] = []
    for line in told.lines.lines:
        if line.sheet is None:
            continue
        rows: list[list[Cell]] = [
            [at, f"{each.straight_mm:.1f}", f"{each.mark_mm:.1f}", f"{each.roll_deg:.0f}",
             f"{each.bend_deg:.1f}", f"{each.pulled_deg:.1f}", f"{each.radius_mm:.0f}"]
            for at, each in enumerate(line.sheet.pulls, start=1)
        ]  # fmt: skip
        said = (
            f"Line {line.number}, {line.name}: cut {line.sheet.cut_mm:.0f} mm, last straight "
            f"{line.sheet.last_mm:.1f} mm. Nut, then sleeve, then flare; 37°, not 45°."
        )
        head = ["bend", "straight", "mark", "roll °", "bend °", "pull to °", "radius"]
        found += [
            Spacer(1, 4 * mm), words(said, TEXT),
            _printed(head, rows, [12, 22, 22, 18, 18, 20, 18]),
        ]  # fmt: skip
    return found


def as_page(name: str, told: LinesStageOut) -> bytes:
    """Order, cut list and bending sheets as a PDF."""
    lines = told.lines
    order: list[list[Cell]] = [
        [row.words, f"{row.count:g} {row.per}", f"{row.price:.0f}", row.lead_days,
         _state_of(told, row), " ".join(map(str, row.lines)), row.spanner, "; ".join(row.why)]
        for row in lines.order
    ]  # fmt: skip
    parts = [
        words(f"{name}: the order", TITLE),
        Spacer(1, 2 * mm),
        words(
            f"State {told.state}. {len(lines.order)} parts, ${lines.total:.0f} in all; the last is "
            f"there {told.begin_on:%d %b %Y} if all is ordered today. Spanners: "
            f"{', '.join(lines.spanners) or 'none'}. Tools: {'; '.join(lines.tools) or 'none'}.",
            TEXT,
        ),
        Spacer(1, 3 * mm),
        _printed(
            ["part", "count", "price, $", "days", "state", "lines", "spanner", "what for"], order,
            [46, 20, 13, 10, 20, 14, 16, 45],
        ),
        Spacer(1, 5 * mm),
        words("Lines, end by end", TITLE),
        _printed(
            ["", "line", "made of", "cut, mm", "first end", "last end"],
            [[row[0], row[1], f"{row[3]}, {row[4]}", row[6] or "no length", row[7], row[8]]
             for row in map(_line_row, lines.lines)],
            [7, 32, 26, 18, 51, 50],
        ),
        *_sheets(told),
        Spacer(1, 3 * mm),
        words(_CAUTION, SMALL),
    ]  # fmt: skip
    return page_of(parts, f"{name}: the order")
