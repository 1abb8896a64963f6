"""Edges that two panels have in common: where each is, and which the builder bends."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bilge_core.document.build import Build
from bilge_core.document.making import is_same_edge
from bilge_core.making.panels import Panel
from bilge_core.making.unfolded import Pair
from bilge_core.physics.arrays import Array


@dataclass(frozen=True)
class Seam:
    """An edge that two panels have in common.

    pair : their numbers, the lower first
    middle : of its longest stretch, engine's frame [m]
    length : of all of it [m]
    turn : by which the two part from flat [rad]
    """

    pair: Pair
    middle: Array
    length: float
    turn: float


def seams_of(panels: Sequence[Panel]) -> tuple[Seam, ...]:
    """All edges that two panels have in common, by their numbers.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> from bilge_core.making.panels import panels_of
    >>> from bilge_core.pan import assemble_pan
    >>> panels = panels_of(assemble_pan(read_build(Path("demo/curlew.json").read_text())))
    >>> [seam.pair for seam in seams_of(panels)][:4]
    [(1, 2), (1, 3), (1, 4), (1, 5)]
    """
    found: dict[Pair, Seam] = {}
    longest: dict[Pair, float] = {}
    for panel in panels:
        for each in panel.meetings:
            if each.other <= panel.number:
                continue
            pair = (panel.number, each.other)
            middle = panel.in_space(0.5 * (each.start + each.end)[None])[0]
            if each.length <= longest.get(pair, 0.0):
                middle = found[pair].middle
            longest[pair] = max(longest.get(pair, 0.0), each.length)
            before = found[pair].length if pair in found else 0.0
            found[pair] = Seam(pair, middle, before + each.length, each.turn)
    return tuple(found[pair] for pair in sorted(found))


def bent_of(build: Build, panels: Sequence[Panel]) -> tuple[Pair, ...]:
    """Pairs of panels whose edge is bent, as the build says; one that is gone by now is welded.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/curlew.json").read_text())
    >>> bent_of(build, ())
    ()
    """
    making = build.pan.making
    if making is None:
        return ()
    found = []
    for seam in seams_of(panels):
        here = np.round(seam.middle * 1e3, 3).tolist()
        if any(is_same_edge(here, each) for each in making.bent):
            found.append(seam.pair)
    return tuple(found)
