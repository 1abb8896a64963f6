"""Velocity carried on to faces that the pressure does not rule: means by hand, on 27 cells."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from bilge_core.moving.extend import fill_behind, pass_on

STRIDES = np.array([9, 3, 1])
MIDDLE = 13
Grid = dict[str, Any]


def grid() -> Grid:
    """The middle's face along the first axis is reached and not ruled; two beside it are."""
    given: Grid = {
        "velocity": np.zeros((3, 27), np.float32), "settled": np.zeros((3, 27), bool),
        "carried": np.zeros((3, 27), bool), "blocked": np.zeros(27, np.int64),
        "cells": np.full(27, 99.0, np.float32), "fluid": np.array([MIDDLE]), "strides": STRIDES,
        "mended": np.zeros((4, 2), np.int64),
    }  # fmt: skip
    given["carried"][0, MIDDLE] = True
    for place, speed in ((MIDDLE + 1, 2.0), (MIDDLE - 3, 4.0)):
        given["settled"][0, place] = True
        given["velocity"][0, place] = speed
    return given


def test_a_face_takes_the_mean_of_those_beside_it() -> None:
    given = grid()
    assert pass_on(**given) == 1
    assert given["velocity"][0, MIDDLE] == pytest.approx(3.0)
    assert given["mended"][0].tolist() == [0, MIDDLE]
    assert np.count_nonzero(given["velocity"]) == 3  # nothing else has moved


def test_what_a_wall_hides_is_not_asked() -> None:
    given = grid()
    given["blocked"][MIDDLE] = 1 << (2 * 2 + 1)  # towards the next along the last axis
    assert pass_on(**given) == 1
    assert given["velocity"][0, MIDDLE] == pytest.approx(4.0)


@pytest.mark.parametrize("what", ["ruled", "not reached", "alone", "no room"])
def test_a_face_is_left_as_it_is(what: str) -> None:
    given = grid()
    if what == "ruled":
        given["settled"][0, MIDDLE] = True
    if what == "not reached":
        given["carried"][0, MIDDLE] = False
    if what == "alone":
        given["settled"][:] = False
    if what == "no room":
        given["mended"] = np.zeros((0, 2), np.int64)
    assert pass_on(**given) == 0
    assert given["velocity"][0, MIDDLE] == 0.0


def test_one_behind_another_waits_for_the_next_time() -> None:
    """What a face takes is not taken on by the next in the same pass."""
    given = grid()
    given["fluid"] = np.array([MIDDLE, MIDDLE - 1])
    given["carried"][0, MIDDLE - 1] = True
    assert pass_on(**given) == 1
    assert given["velocity"][0, MIDDLE - 1] == 0.0


def test_behind_a_slanting_wall_oil_slides_or_stands() -> None:
    given = grid()
    given["velocity"][0, MIDDLE] = given["velocity"][1, MIDDLE] = 7.0
    behind = np.array([[0, MIDDLE], [1, MIDDLE]])
    fill_behind(given["velocity"], given["settled"], behind, STRIDES)
    assert given["velocity"][0, MIDDLE] == pytest.approx(3.0)
    assert given["velocity"][1, MIDDLE] == 0.0  # nothing ruled is round it
