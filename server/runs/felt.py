"""What runs are known by: what the oil feels of a build and its lap, the cells, the start."""

from __future__ import annotations

import hashlib

from bilge_core.tell.known_by import key_of
from builds.models import Build, BuildState
from builds.selectors import laps_of, plain_document
from loads.models import Lap
from loads.selectors import known_by


def felt_in(state: BuildState, lap: Lap) -> str:
    """What the oil feels in a state over a lap: the same for every state that it cannot tell."""
    return key_of("moving", plain_document(state), known_by(lap))


def felt_over(build: Build) -> dict[str, Lap]:
    """What it feels in a build as it stands, over each lap that it is judged by."""
    state = build.current
    return {felt_in(state, lap): lap for lap in laps_of(build)} if state is not None else {}


def result_key(felt: str, cells: str, seed: int) -> str:
    """What a result is known by: equal for all that the oil feels, whoever asks."""
    return hashlib.sha256(f"{felt} {cells} {seed}".encode()).hexdigest()
