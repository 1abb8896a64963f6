"""Whether a socket reaches the flange's bolts, beside a box's wall of 2 mm: its face at 122 mm."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from bilge_core.document.build import Build
from bilge_core.making.cautions import bolts_not_reached
from bilge_core.pan import assemble_pan
from bilge_core.tell.making import making_out

Asked = Callable[..., tuple[list[str], list[str]]]


@pytest.fixture
def said(box_document: Any) -> Asked:
    def asked(*y_mm: float, hole_mm: float = 6.6) -> tuple[list[str], list[str]]:
        raw = box_document()
        raw["pan"]["sheet_mm"] = 2.0
        raw["pan"]["flange"] = {
            "outline_mm": [[-30, -160], [430, -160], [430, 160], [-30, 160]],
            "thickness_mm": 5,
            "bolts": [{"x_mm": 200, "y_mm": y, "diameter_mm": hole_mm} for y in y_mm],
        }
        build = Build.model_validate(raw)
        pan = assemble_pan(build)
        return list(bolts_not_reached(build, pan)), making_out(build, pan).cautions

    return asked


def test_both_sides_of_its_edge(said: Asked) -> None:
    """M6 through 6.6 mm: 7.2 mm from the wall's outer face, on either side of the pan."""
    assert said(129.3, -129.3)[0] == []
    alone, page = said(129.1, -129.3)
    assert alone == [
        "flange: one bolt has no room for a socket, 7.1 mm from the middle to the wall below where "
        "7.2 mm is wanted"
    ]
    assert alone[0] in page


def test_a_thicker_bolt_wants_more(said: Asked) -> None:
    """M8 through 8.8 mm: 9.6 mm; of several, the nearest is told."""
    assert said(131.7, hole_mm=8.8)[0] == []
    (words,) = said(131.5, -130.01, hole_mm=8.8)[0]
    assert words.startswith("flange: 2 bolts have no room for a socket, 8.0 mm")


def test_a_pan_without_a_flange_has_no_bolts(box_document: Any) -> None:
    build = Build.model_validate(box_document())
    assert build.pan.flange is None and list(bolts_not_reached(build, assemble_pan(build))) == []
