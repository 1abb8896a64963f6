"""Whether a torch reaches what is welded: two sumps side by side, a slot between them."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import pytest
from bilge_core.document.build import Build
from bilge_core.making.panels import Panel, panels_of
from bilge_core.making.seams import seams_of
from bilge_core.making.torch import opening_of, welds_not_reached
from bilge_core.pan import assemble_pan
from bilge_core.tell.making import making_out


def zone(name: str, x0: float, x1: float, depth: float) -> dict[str, Any]:
    ring = [[x0, -100], [x1, -100], [x1, 100], [x0, 100]]
    return {"name": name, "outline_mm": ring, "floor": {"kind": "flat", "depth_mm": depth}}


def slotted(box_document: Any, slot_mm: float) -> Build:
    """A shelf 60 mm deep from 0 to 400 between two sumps of 160 mm."""
    low, high = 200 - slot_mm / 2, 200 + slot_mm / 2
    raw = box_document()
    raw["pan"]["zones"] = [
        zone("rear", 0, low, 160), zone("shelf", low, high, 60), zone("front", high, 400, 160),
    ]  # fmt: skip
    raw["pickup"] |= {"x_mm": 60, "y_mm": 0}
    return Build.model_validate(raw)


def panels(box_document: Any, slot_mm: float) -> tuple[Panel, ...]:
    return panels_of(assemble_pan(slotted(box_document, slot_mm)))


def test_a_slot_is_wide_enough_or_not(box_document: Any) -> None:
    """Out of the shelf's corner at 45°, the other sump's wall is the slot's width times √2 away."""
    assert list(welds_not_reached(panels(box_document, 60 / math.sqrt(2) + 0.1), ())) == []
    made = panels(box_document, 60 / math.sqrt(2) - 0.1)
    said = list(welds_not_reached(made, ()))
    shelf = next(p.number for p in made if p.kind == "floor" and abs(p.origin[2] + 0.06) < 1e-6)
    assert len(said) == 2 and all(f"edge of {shelf} and" in each for each in said)
    assert all("stands 60 mm before it, where a torch wants 60 mm" in each for each in said)


def test_the_page_says_it_and_a_bend_is_no_weld(box_document: Any) -> None:
    build = slotted(box_document, 30)
    made = panels(box_document, 30)
    said = list(welds_not_reached(made, ()))
    assert [" 42 mm before it" in each for each in said] == [True, True]
    assert set(said) <= set(making_out(build, assemble_pan(build)).cautions)
    tight = [each.pair for each in seams_of(made) if f"edge of {each.pair[0]} and {each.pair[1]}:"
             in " ".join(said)]  # fmt: skip
    assert len(tight) == 2
    assert len(list(welds_not_reached(made, tight[:1]))) == 1
    assert list(welds_not_reached(made, tight)) == []


@pytest.mark.parametrize(("turn", "said"), [(135.0, False), (135.1, True)])
def test_a_corner_that_is_too_sharp(box_document: Any, turn: float, said: bool) -> None:
    """Open by 180° less what its two faces part: 45° is wide enough."""
    made = panels(box_document, 200)
    by_number = {each.number: each for each in made}
    seam = next(each for each in seams_of(made)
                if opening_of(each, [by_number[n] for n in each.pair]) < 180)  # fmt: skip
    assert opening_of(seam, [by_number[n] for n in seam.pair]) == pytest.approx(90.0)
    one, other = seam.pair
    sharp = [
        replace(each, meetings=tuple(
            replace(m, turn=math.radians(turn)) if {each.number, m.other} == {one, other} else m
            for m in each.meetings
        ))
        for each in made
    ]  # fmt: skip
    found = [each for each in welds_not_reached(sharp, ()) if "too sharp" in each]
    assert len(found) == said
