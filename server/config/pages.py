"""Printed pages: type, ink and one way to put a page together."""

from __future__ import annotations

import io
from collections.abc import Sequence
from xml.sax.saxutils import escape

from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase.pdfmetrics import registerFont
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.platypus import Flowable, Paragraph, SimpleDocTemplate

PLAIN, BOLD = "Vera", "VeraBd"
"""Faces that go into the file: with a viewer's own, lines would be longer than their paper."""
for _face in (PLAIN, BOLD):
    registerFont(TTFont(_face, f"{_face}.ttf"))  # comes with reportlab

INK, HAIR = colors.HexColor("#1C211F"), colors.HexColor("#CFC7B6")


def _style(size: float, bold: bool = False) -> ParagraphStyle:
    return ParagraphStyle(
        "p", fontName=BOLD if bold else PLAIN, fontSize=size,
        leading=1.28 * size, textColor=INK,
    )  # fmt: skip


TITLE, TEXT, SMALL = _style(15, bold=True), _style(9), _style(6.8)


def words(text: str, style: ParagraphStyle) -> Paragraph:
    """A paragraph of plain text: nothing in it is read as markup."""
    return Paragraph(escape(text), style)


def page_of(parts: Sequence[Flowable], title: str) -> bytes:
    """A PDF of A4 pages."""
    out = io.BytesIO()
    SimpleDocTemplate(
        out, pagesize=A4, leftMargin=13 * mm, rightMargin=13 * mm, topMargin=12 * mm,
        bottomMargin=10 * mm, title=title, author="Bilge",
    ).build(list(parts))  # fmt: skip
    return out.getvalue()
