"""Printed pages carry their own faces, so that no viewer makes a line longer than it was laid."""

from __future__ import annotations

import re
from pathlib import Path

from config.pages import BOLD, PLAIN, SMALL, TEXT, TITLE, page_of, words
from reportlab.lib.units import mm
from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.platypus import Paragraph

SERVER = Path(__file__).parents[2] / "server"
LONG = "Offered up with a printed part, car on its wheels. It shrinks as it cools. " * 4


def test_a_page_has_its_faces_in_it() -> None:
    made = page_of([words(LONG, TITLE), words(LONG, TEXT), words(LONG, SMALL)], "a page")
    assert made.count(b"/FontFile2") == 2  # one plain, one bold


def test_no_sheet_is_set_in_a_face_that_is_not() -> None:
    for path in SERVER.rglob("*.py"):
        assert not re.search(r"Helvetica|Times-|Courier", path.read_text()), path


def test_no_line_is_wider_than_its_column() -> None:
    for style, face in ((TITLE, BOLD), (TEXT, PLAIN), (SMALL, PLAIN)):
        paragraph = words(LONG, style)
        assert isinstance(paragraph, Paragraph) and style.fontName == face
        paragraph.wrap(184 * mm, 1000 * mm)
        for left, row in paragraph.blPara.lines:
            assert left >= 0.0
            assert stringWidth(" ".join(row), face, style.fontSize) <= 184 * mm
