"""What an answer is known by: what it feels of the document and the lap, and all code that made it.

Two equal keys are two equal answers, whoever asks; anything that is felt, or a changed version,
makes another.
"""

from __future__ import annotations

import hashlib
import json
from typing import Any

from bilge_core import checks, drains, forecast, loads, moving, network, pan, scavenge, settled
from bilge_core.document.reach import Answer, felt_by

TELL = "tell-4"
"""Of the shape of the figures told and their rounding."""

VERSIONS: dict[Answer, tuple[str, ...]] = {
    "settled": (
        loads.VERSION,
        network.VERSION,
        pan.VERSION,
        settled.VERSION,
        scavenge.VERSION,
        forecast.VERSION,
        TELL,
    ),
    "moving": (
        loads.VERSION,
        network.VERSION,
        pan.VERSION,
        scavenge.VERSION,
        moving.VERSION,
        forecast.VERSION,
        TELL,
    ),
    "clearance": (pan.VERSION, checks.VERSION, TELL),
    "checks": (
        loads.VERSION,
        network.VERSION,
        pan.VERSION,
        scavenge.VERSION,
        settled.VERSION,
        checks.VERSION,
        TELL,
    ),
    "drains": (
        loads.VERSION,
        network.VERSION,
        pan.VERSION,
        settled.VERSION,
        scavenge.VERSION,
        moving.VERSION,
        drains.VERSION,
        forecast.VERSION,
        checks.VERSION,
        TELL,
    ),
    "drawing": (network.VERSION, pan.VERSION, scavenge.VERSION, settled.VERSION, TELL),
}
"""The versions of all code behind each answer. What has none of its own (oil, pickup, axes) changes
that of those that use it: tests/core/test_versions.py pins their figures.
"""


def key_of(answer: Answer, document: dict[str, Any], *more: bytes) -> str:
    """What an answer on a document is known by.

    Parameters
    ----------
    answer : settled, moving, clearance, checks or drawing
    document : dict
        As `Build.model_dump(mode="json")` gives it.
    *more : bytes
        What else it was made from: the lap, the size of the cells, the start.

    Returns
    -------
    str
        64 letters.

    Examples
    --------
    >>> one = key_of("settled", {"name": "Dunlin", "pan": {"skirt_height_mm": 90.0}})
    >>> one == key_of("settled", {"name": "Heron", "pan": {"skirt_height_mm": 90.0}})
    True
    >>> one == key_of("settled", {"name": "Dunlin", "pan": {"skirt_height_mm": 91.0}})
    False
    """
    total = hashlib.sha256()
    felt = json.dumps([answer, VERSIONS[answer], felt_by(answer, document)], sort_keys=True)
    for part in (felt.encode(), *more):
        total.update(hashlib.sha256(part).digest())
    return total.hexdigest()
