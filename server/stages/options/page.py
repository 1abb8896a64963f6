"""A study on one printed page: what was tried, what holds, and how sure that is."""

from __future__ import annotations

from bilge_core.tell.options import OptionRowOut, OptionsOut
from config.pages import HAIR, INK, PLAIN, SMALL, TEXT, TITLE, page_of, words
from reportlab.lib import colors
from reportlab.lib.units import mm
from reportlab.platypus import Paragraph, Spacer, Table
from studies.schemas import StudyOut

_GOOD = colors.HexColor("#DBE9DD")
_SAYS = {
    "holds": "holds",
    "may_hold": "may hold",
    "does_not": "does not",
    "first_look": "first look",
    "failed": "not run",
    "waiting": "not run",
}
_MOST_ROWS = 34
"""That fit on the page with their heading and the proof."""
_CAUTION = (
    "Figures are estimates to plan by, not a guarantee; costs and hours are invented or guessed "
    "until the workshop typed its own. A pressure gauge and a warning lamp are still needed. Class "
    "rules, scrutineering and local codes decide, not this page."
)


def _row(row: OptionRowOut) -> list[Paragraph | str]:
    told, needs = row.standing, row.needs
    dry = "" if told.dry_s is None else f"{'~' if told.is_estimate else ''}{told.dry_s:.1f}"
    return [
        row.letter,
        words(row.title, SMALL),
        _SAYS[told.state] if row.told else "not told",
        dry,
        "" if told.lowest_bar is None else f"{told.lowest_bar:.1f}",
        "" if needs is None else f"{needs.cost:.0f}",
        "" if needs is None else f"{needs.hours:.1f}",
        "" if needs is None else f"{needs.lead_days}",
        "" if row.ground_mm is None else f"{row.ground_mm:.0f}",
    ]


def _table(options: OptionsOut) -> Table:
    rows = [row for row in options.rows if row.applies][:_MOST_ROWS]
    base = options.base
    heading = ["", "Remedy", "", "dry, s", "bar", "$", "h", "days", "ground, mm"]
    first: list[Paragraph | str] = [
        "", words("As it is", SMALL), _SAYS[base.state],
        "" if base.dry_s is None else f"{base.dry_s:.1f}",
        "" if base.lowest_bar is None else f"{base.lowest_bar:.1f}", "", "", "",
        "" if options.base_ground_mm is None else f"{options.base_ground_mm:.0f}",
    ]  # fmt: skip
    looks: list[tuple[object, ...]] = [
        ("FONT", (0, 0), (-1, -1), PLAIN, SMALL.fontSize),
        ("ALIGN", (3, 0), (-1, -1), "RIGHT"),
        ("VALIGN", (0, 0), (-1, -1), "MIDDLE"),
        ("LINEBELOW", (0, 0), (-1, 0), 0.8, INK),
        ("LINEBELOW", (0, 1), (-1, -1), 0.3, HAIR),
        ("TOPPADDING", (0, 0), (-1, -1), 1.2),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 1.8),
    ]
    looks += [
        ("BACKGROUND", (0, at + 2), (-1, at + 2), _GOOD)
        for at, row in enumerate(rows)
        if row.key == options.choice.key
    ]
    widths = [8, 70, 20, 15, 12, 14, 12, 12, 20]
    made = Table(
        [heading, first, *map(_row, rows)], colWidths=[each * mm for each in widths], repeatRows=1
    )
    made.setStyle(looks)
    return made


def study_page(name: str, study: StudyOut, options: OptionsOut) -> bytes:
    """A study as a PDF of one page.

    Parameters
    ----------
    name : str
        Of the build.
    study : StudyOut
    options : OptionsOut
        Its table.
    """
    proofs = "; ".join(
        f"{each.words}: {'holds' if each.keeps else 'does not hold'}"
        + ("" if each.share is None else f" ({each.share:.0%} of usual pressure)")
        for each in options.choice.proofs
    )
    parts = [
        words(f"{name}: the smallest remedy that holds", TITLE),
        Spacer(1, 2 * mm),
        words(
            f"State {study.state}, over {', '.join(study.laps)}. {options.tried} of "
            f"{options.to_try} remedies decided, in moving oil with pump, gallery and heads.",
            SMALL,
        ),
        Spacer(1, 2 * mm),
        words(options.choice.words, TEXT),
        *([Spacer(1, 1 * mm), words(f"Proof: {proofs}.", SMALL)] if proofs else []),
        Spacer(1, 3 * mm),
        _table(options),
        Spacer(1, 3 * mm),
        words(_CAUTION, SMALL),
    ]
    return page_of(parts, f"{name}: remedies")
