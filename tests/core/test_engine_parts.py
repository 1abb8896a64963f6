"""Jets under the pistons and a cover with a tapping, as a builder says that an engine has them."""

from __future__ import annotations

import math

import numpy as np
import pytest
from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.errors import InvalidInput
from bilge_core.job.card import card_of
from bilge_core.job.settings import CardSettings
from bilge_core.network import network_of, steady
from bilge_core.network.records import at_rest
from bilge_core.network.running import LEVEL, on_steadily

from tests.conftest import DEMO

PLAIN = read_build((DEMO / "dunlin.json").read_text())
SPEEDS = np.array([90.0, 600.0])  # idle and full speed [rad/s]


def jetted(**figures: object) -> Build:
    raw = {"kind": "fit_jets", "count": 5, "bore_mm": 1.6, **figures}
    return read_act(raw).done(PLAIN).build


def sprayed(build: Build) -> list[float]:
    """Oil that the jets take at idle and at speed [m3/s]."""
    network = network_of(build)
    (jets,) = (at for at, (_, what) in enumerate(network.elements) if what == "jets")
    state, found = at_rest(network.still), []
    for speed in SPEEDS.tolist():
        on_steadily(state, speed, 8.0, LEVEL)
        found.append(float(state.elements["flow"][jets]))
    return found


def test_below_their_pressure_jets_take_no_oil_and_above_it_they_do() -> None:
    """Common practice, no published source: some open at 20 to 30 psi, some at about 48."""
    idle, fast = steady(network_of(jetted(opens_bar="26 psi")), SPEEDS).gallery
    assert idle < 1.79e5 < fast
    at_idle, at_speed = sprayed(jetted(opens_bar="26 psi"))
    assert at_idle < 0.02 * at_speed
    # through so many holes of that size, Cd 0.6 to 0.8 (from memory), at most the whole pressure
    hole = math.pi / 4.0 * 1.6e-3**2
    free = 5 * hole * math.sqrt(2.0 * fast / 850.0)
    assert 0.4 * free < at_speed < 0.8 * free
    assert sprayed(jetted(opens_bar="12 bar"))[1] < 0.02 * at_speed


def test_an_engine_has_its_jets_once_and_a_turbo_is_fed_from_a_cover_that_is_there() -> None:
    with pytest.raises(InvalidInput, match="has its jets already"):
        read_act({"kind": "fit_jets", "count": 4, "bore_mm": 2}).done(jetted())
    with pytest.raises(InvalidInput, match="fit one first"):
        read_act({"kind": "feed_turbo", "fed_from": "cover"}).done(PLAIN)


def test_a_cover_is_drilled_before_it_goes_on_and_the_line_comes_after() -> None:
    covered = read_act({"kind": "fit_cover"}).done(PLAIN).build
    fed = read_act({"kind": "feed_turbo", "fed_from": "cover"}).done(covered).build
    card = card_of(PLAIN, fed, CardSettings())
    keys = [each.step.key for each in card.steps]
    (cover,) = (each.id for each in fed.circuit.components if each.kind == "cover")
    ids = [each.id for each in card.steps]
    assert ids.index(f"drill_cover:{cover}") < ids.index(f"fit_part:{cover}")
    assert ids.index(f"fit_part:{cover}") < keys.index("lay_line")
