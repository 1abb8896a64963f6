"""What rules of drains offer to mend, as acts of the build."""

from __future__ import annotations

from typing import Any

import pytest
from bilge_core.acts.mend import mend_of
from bilge_core.acts.registry import read_act
from bilge_core.checks.drains import check_drains
from bilge_core.document.build import Build
from bilge_core.document.circuit.pumps import ScavengeStage
from bilge_core.drains.laid import drains_of
from bilge_core.errors import InvalidInput
from bilge_core.pan import assemble_pan
from bilge_core.rules import drains as rules

from tests.turbo import (
    RUN,
    SANDPIPER,
    act,
    changed,
    over,
    part,
    scavenged,
    states,
    tuned,
    turbo_of,
)


def line_of(raw: Any) -> Any:
    return next(r for r in raw["circuit"]["runs"] if r["id"] == RUN)["line"]


def end_of(raw: Any) -> Any:
    return next(r for r in raw["circuit"]["runs"] if r["id"] == RUN)["end"]


def without_restrictor(raw: Any) -> None:
    hole = part(raw, "restrictor")
    hole["kind"] = "sender_tee"
    del hole["bore_mm"]


def mends(build: Build) -> dict[str, Any]:
    found = check_drains(build, assemble_pan(build), over(build))
    return {each.rule.key: mend_of(build, each) for each in found if each.state != "good"}


class TestMends:
    """What a rule of drains offers is an act of this build, and mends what it is offered for."""

    @pytest.mark.parametrize(
        ("rule", "spoil"),
        [
            ("drain_flanges", lambda raw: None),  # as the demo is
            ("gravity_bore", lambda raw: line_of(raw).update(dash=8)),
            ("drain_reducer", lambda raw: end_of(raw).update(narrowest_mm=9)),
            ("feed_restricted", without_restrictor),
            ("crankcase", lambda raw: part(raw, "breather").update(opening_mm=6)),
        ],
    )
    def test_it_mends(self, rule: str, spoil: Any) -> None:
        build = changed(SANDPIPER, spoil)
        offered = mends(build)[rule]
        assert offered is not None
        mended = read_act(offered.model_dump(mode="json")).done(build).build
        assert states(mended).get(rule, "good") == "good"

    def test_a_feed_that_outruns_its_drain_is_restricted_step_by_step(self) -> None:
        build = changed(SANDPIPER, lambda raw: part(raw, "restrictor").update(bore_mm=6))
        bores = []
        while (offered := mends(build).get("feed_fits_drain")) is not None:
            bores.append(offered.restrictor_mm)
            build = read_act(offered.model_dump(mode="json")).done(build).build
        assert bores[0] == 2.0 and bores == sorted(bores, reverse=True)

    def test_a_stage_for_two_becomes_two_and_a_small_one_larger(self) -> None:
        build = act(scavenged(), kind="feed_turbo", restrictor_mm=1.5)
        second = turbo_of(build, 1)
        build = act(build, kind="drain_turbo", turbo=second, how="joined", other=turbo_of(build))
        other = next(r.id for r in build.circuit.runs if r.start.component == second)
        build = tuned(build, other, outlet_mm=[200, -190, 110], meets_mm=[136, -160, 140])
        offered = mends(build)
        larger = read_act(offered["stage_carries"].model_dump(mode="json")).done(build).build
        assert larger.circuit.of_kind(ScavengeStage)[0].displacement_cm3 == 6.0
        apart = read_act(offered["own_stage"].model_dump(mode="json")).done(build).build
        assert len(apart.circuit.of_kind(ScavengeStage)) == 2
        assert len(over(apart).pulled) == 2 and drains_of(apart).placed == ()

    def test_a_breather_that_nobody_measured_is_not_set(self) -> None:
        build = changed(SANDPIPER, lambda raw: part(raw, "breather").update(opening_mm=None))
        at = next(i for i, c in enumerate(build.circuit.components) if c.kind == "breather")
        check = rules.check_crankcase(5000.0, f"circuit.components.{at}")
        assert mend_of(build, check) is None

    def test_how_its_boss_is_made_is_told_here_too(self) -> None:
        build = changed(
            SANDPIPER,
            lambda raw: [boss.update(fixing="tapped") for boss in raw["pan"]["bosses"]],
        )
        assert states(build)["boss_fixing"] == "bad"
        assert states(SANDPIPER)["drain_under"] == "caution"


def test_a_drain_ends_at_no_level_sensors_boss() -> None:
    """Such a boss lies under the oil's level; what ends there is named, and what it could be."""

    def spoil(document: Any) -> None:
        for boss in document["pan"]["bosses"]:
            boss["kind"] = "level_sensor"

    with pytest.raises(InvalidInput, match=r"turbo's drain or a return .*lead drain of the turbo"):
        changed(SANDPIPER, spoil)
