"""Printed pages carry their own faces, so that no viewer makes a line longer than it was laid."""

from __future__ import annotations

import re
from pathlib import Path

from config.pages import SMALL, TEXT, TITLE, page_of, words

SERVER = Path(__file__).parents[2] / "server"
LONG = "Offered up with a printed part, car on its wheels. It shrinks as it cools. " * 4


def test_a_page_has_its_faces_in_it() -> None:
    made = page_of([words(LONG, TITLE), words(LONG, TEXT), words(LONG, SMALL)], "a page")
    assert made.count(b"/FontFile2") == 2  # one plain, one bold


def test_no_sheet_is_set_in_a_face_that_is_not() -> None:
    for path in SERVER.rglob("*.py"):
        assert not re.search(r"Helvetica|Times-|Courier", path.read_text()), path
