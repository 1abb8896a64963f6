"""Several mouths in one pan: each with its own demand, gas share and account."""

from __future__ import annotations

from collections.abc import Sequence
from copy import deepcopy
from typing import Any

import numpy as np
import pytest
import shapely
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.forecast.moving import forecast_moving
from bilge_core.loads.log import Log
from bilge_core.moving.basin import RESOLUTIONS, domain_of_pan
from bilge_core.moving.coupled import Coupled
from bilge_core.moving.domain import build_domain
from bilge_core.moving.inlet import inlet_of
from bilge_core.moving.observe import Observer
from bilge_core.moving.record import FrameWriter, MouthPlace, read_frames
from bilge_core.moving.returns import returns_at
from bilge_core.pan import assemble_pan
from bilge_core.pan.solid import Prism
from bilge_core.pickup.mouth import Mouth
from bilge_core.tell.moving import KeptFigures, figures_of

from tests.conftest import DEMO
from tests.oil_boxes import REST, UP, DelayLine, G, box_of_oil, run_coupled, violent_load

SIZE, CELL, OIL = (0.4, 0.24, 0.14), 0.01, 0.005
FAR = [0.1, 0.3]  # [m] of two mouths along the box, as far from its middle each


def drawn_box(
    places: Sequence[float], flows: Sequence[float], delay: float = 0.5, filled: bool = True
) -> Coupled:
    """The reference box with a mouth at each place along it and drain-backs all over."""
    oil = box_of_oil(SIZE, CELL, OIL)
    inlets = tuple(
        inlet_of(Mouth(np.array([x, 0.12, 0.008]), 0.02, 0.02, False), 0.0, oil.domain)
        for x in places
    )
    portion = float(np.median(oil.rows[: oil.count, 15]))
    backs = np.array([[x, y, 0.12] for x in (0.05, 0.15, 0.25, 0.35) for y in (0.02, 0.22)])
    returns = (returns_at(oil.domain, backs, portion, -UP),)
    engine = DelayLine(flows, delay, filled)
    return Coupled(oil, inlets, engine, returns, Observer(oil.domain, inlets, None))


def rows_of(coupled: Coupled) -> bytes:
    oil = coupled.oil
    return oil.rows[: oil.count].tobytes() + oil.cell[: oil.count].tobytes()


def test_a_mouth_that_draws_nothing_changes_nothing() -> None:
    alone, beside = drawn_box([0.1], [4e-4]), drawn_box([0.1, 0.3], [4e-4, 0.0])
    for coupled in (alone, beside):
        run_coupled(coupled, 0.6, violent_load)
    assert rows_of(alone) == rows_of(beside)
    assert beside._owed[1] == 0.0 and beside.flows[1] == 0.0


def test_which_comes_first_changes_no_account() -> None:
    """Told in another order the run is another one of the same kind, not the same to the bit."""
    found = []
    for order in ([0, 1], [1, 0]):
        coupled = drawn_box([FAR[n] for n in order], [[4e-4, 1e-4][n] for n in order])
        drawn = sum_of(coupled, 1.0)
        found.append([drawn[order.index(0)], drawn[order.index(1)]])
    np.testing.assert_allclose(found[0], found[1], rtol=0.02)


def sum_of(coupled: Coupled, span: float, load: Any = REST) -> np.ndarray:
    """Oil that each mouth is said to have drawn [m3]."""
    drawn = np.zeros(len(coupled.inlets))
    engine: Any = coupled.engine
    before = engine.draw

    def counted(*given: Any) -> Any:
        nonlocal drawn
        found = before(*given)
        drawn = drawn + found.oil
        return found

    engine.draw = counted
    run_coupled(coupled, span, load)
    return drawn


def test_oil_is_kept_whatever_each_draws() -> None:
    coupled = drawn_box(FAR, [5e-4, 2e-4])
    whole = coupled.oil.volume + coupled.held
    run_coupled(coupled, 1.5, violent_load)
    assert coupled.oil.volume + coupled.held == pytest.approx(whole, rel=1e-6)
    assert (coupled._owed < 9.0 * coupled.returns[0].portion).all()


class TestTwoHalves:
    """Two mouths that mirror each other draw as two boxes of half the length would."""

    def test_at_rest_and_along_a_load_square_to_their_line_they_are_alike(self) -> None:
        coupled = drawn_box(FAR, [4e-4, 4e-4])
        across = np.array([0.0, 0.6 * G, -G])
        seen = run_coupled(
            coupled, 2.0, across,
            lambda: coupled.observer.look(coupled.oil, -across / np.linalg.norm(across)),
        )  # fmt: skip
        shares = np.array([sight.oil_share for sight in seen])
        covers = np.array([sight.cover for sight in seen])
        assert abs(shares[:, 0].mean() - shares[:, 1].mean()) < 0.02
        assert abs(covers[:, 0].mean() - covers[:, 1].mean()) < 2e-3

    def test_each_finds_what_one_in_a_box_of_half_the_length_finds(self) -> None:
        """A wall in the plane of symmetry takes nothing from a flow that mirrors itself."""
        across = np.array([0.0, 0.9 * G, -G])
        up = -across / np.linalg.norm(across)
        both = drawn_box(FAR, [4e-4, 4e-4])
        half = half_box()

        def look(coupled: Coupled) -> np.ndarray:
            seen = run_coupled(coupled, 2.0, across, lambda: coupled.observer.look(coupled.oil, up))
            shares = np.array([sight.oil_share for sight in seen])
            return shares[25:].mean(axis=0)

        two, one = look(both), look(half)
        assert two == pytest.approx([one[0], one[0]], abs=0.04)
        assert both.oil.volume == pytest.approx(2 * half.oil.volume, rel=0.01)


def half_box() -> Coupled:
    oil = box_of_oil((0.2, *SIZE[1:]), CELL, 0.5 * OIL)
    inlet = inlet_of(Mouth(np.array([0.1, 0.12, 0.008]), 0.02, 0.02, False), 0.0, oil.domain)
    portion = float(np.median(oil.rows[: oil.count, 15]))
    backs = np.array([[x, y, 0.12] for x in (0.05, 0.15) for y in (0.02, 0.22)])
    returns = (returns_at(oil.domain, backs, portion, -UP),)
    engine = DelayLine(4e-4, 0.5)
    return Coupled(oil, (inlet,), engine, returns, Observer(oil.domain, (inlet,), None))


def test_what_one_takes_is_gone_for_its_neighbour() -> None:
    """At rest, nothing coming back: both stand lower by what was taken over the box's floor."""
    found = []
    for flow in (0.0, 6e-4):
        coupled = drawn_box(FAR, [0.0, flow], filled=False, delay=1e3)
        run_coupled(coupled, 2.0, REST)
        found.append(coupled.observer.look(coupled.oil, UP).cover)
    fallen = 6e-4 * 2.0 / (SIZE[0] * SIZE[1])
    assert found[0] - found[1] == pytest.approx([fallen, fallen], abs=2e-3)


def test_the_record_says_where_each_draws() -> None:
    coupled = drawn_box(FAR, [1e-4, 1e-4])
    places = [MouthPlace.of(name, i) for name, i in zip("ab", coupled.inlets, strict=True)]
    writer = FrameWriter(coupled.oil.domain, places)
    writer.add(0.0, coupled.oil.filling_flat, coupled.oil.gates_open)
    frames = read_frames(writer.finish())
    assert frames.mouths == tuple(places)
    assert frames.mouths[1].centre == pytest.approx((0.3, 0.12, 0.008))
    box = Prism(shapely.box(0, 0, 0.4, 0.24), (0, 0, 0), (0.14, 0, 0))
    lines = tuple(np.linspace(0, each, n) for each, n in zip(SIZE, (11, 7, 15), strict=True))
    bare = FrameWriter(build_domain([box], [], lines))
    bare.add(0.0, np.zeros(bare._domain.cells, np.float32), np.zeros(0, bool))
    assert read_frames(bare.finish()).mouths == ()


def test_the_record_says_how_far_a_gate_is_open_to_the_nearest_of_255_parts(
    dunlin_gated: Build,
) -> None:
    domain = domain_of_pan(assemble_pan(dunlin_gated), RESOLUTIONS["quick"])
    opening, area = domain.gates.opening, domain.gates.area
    assert opening.size > 4
    nothing = np.zeros(domain.cells, np.float32)
    for share in (0.0, 0.5, 1.0):
        open_ = np.zeros(opening.size, bool)
        for gate in set(opening.tolist()):
            own = np.flatnonzero(opening == gate)
            open_[own[: round(share * own.size)]] = True
        writer = FrameWriter(domain)
        writer.add(0.0, nothing, open_)
        told = read_frames(writer.finish()).gates[0]
        for gate, found in zip(sorted(set(opening.tolist())), told, strict=True):
            own = opening == gate
            exact = float(area[own & open_].sum() / area[own].sum())
            assert abs(found - exact) <= 0.5 / 255.0 + 1e-6


def test_a_record_of_one_mouth_is_read_as_a_list_of_one() -> None:
    """As runs were kept before: the mouth's figures beside all others."""
    build = read_build((DEMO / "dunlin-deeper.json").read_text())
    standing = Log(np.arange(0.0, 0.5, 0.02), *np.zeros((4, 25)))
    kept = figures_of(forecast_moving(build, standing)).model_dump(mode="json")
    before = deepcopy(kept)
    (mouth,) = before.pop("mouths")
    del before["record"]
    samples = mouth.pop("samples")
    before |= {key: value for key, value in mouth.items() if key != "name"}
    before["samples"] = before["samples"] | samples
    assert KeptFigures.model_validate(before).model_dump(mode="json") == kept
    assert kept["record"] == 2 and len(samples["swallowed"]) == len(kept["samples"]["time_s"])
