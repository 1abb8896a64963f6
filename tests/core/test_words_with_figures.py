"""Figures in the words of a refusal: each by hand, in the unit that stands behind it."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace
from typing import Any

import pytest
from bilge_core.document.read import build_from, read_build
from bilge_core.errors import InvalidInput
from bilge_core.moving.lap import _in_pan
from bilge_core.pan import assemble_pan
from bilge_core.pan.filling import running_oil

from tests.conftest import DEMO

DUNLIN = read_build((DEMO / "dunlin.json").read_text())


def test_a_mouth_beside_the_pan_is_refused_with_where_it_is(
    box_document: Callable[..., dict[str, Any]],
) -> None:
    build = build_from(box_document(pickup__x_mm=540, pickup__y_mm=-310))
    with pytest.raises(InvalidInput, match="540 mm ahead of the rear face and -310 mm left"):
        assemble_pan(build)


def test_oil_that_the_engine_holds_all_of_is_told_in_litres() -> None:
    pan, there = assemble_pan(DUNLIN), running_oil(DUNLIN)
    held = there + 0.0014
    words = f"the engine holds {held * 1e3:.1f} L as the lap begins, of {there * 1e3:.1f} L (hot)"
    assert 4.0 < there * 1e3 < 12.0  # litres of a car's engine
    with pytest.raises(InvalidInput, match=re.escape(words)):
        _in_pan(DUNLIN, pan, held)
    room = pan.solid.volume
    tight = replace(pan, solid=replace(pan.solid, volumes=pan.solid.volumes * 0.1))
    with pytest.raises(InvalidInput, match=f"puts {there * 1e3:.1f} L in the pan"):
        _in_pan(DUNLIN, tight, 0.0)
    assert tight.solid.volume == pytest.approx(0.1 * room)
