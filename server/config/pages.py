"""Printed pages: type, ink and one way to put a page together."""

from __future__ import annotations

import io
from collections.abc import Sequence
from xml.sax.saxutils import escape

from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Paragraph, SimpleDocTemplate

INK, HAIR = colors.HexColor("#1C211F"), colors.HexColor("#CFC7B6")


def _style(size: float, bold: bool = False) -> ParagraphStyle:
    return ParagraphStyle(
        "p", fontName="Helvetica-Bold" if bold else "Helvetica", fontSize=size,
        leading=1.28 * size, textColor=INK,
    )  # fmt: skip


TITLE, TEXT, SMALL = _style(16, bold=True), _style(10), _style(7.5)


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
