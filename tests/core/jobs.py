"""The ten jobs as builds before and after, and what is said of each."""

from __future__ import annotations

import json
from collections.abc import Mapping
from datetime import UTC, datetime, timedelta
from fnmatch import fnmatch
from pathlib import Path
from typing import Any

from bilge_core.acts.registry import read_act
from bilge_core.document.build import Build
from bilge_core.document.read import read_build
from bilge_core.job.card import Card
from bilge_core.job.difference import suction_joint
from bilge_core.job.entries import read_entry
from bilge_core.job.settings import CardSettings
from bilge_core.job.standing import Kept, Standing, standing_of

from tests.core import job_lists

DEMO = Path(__file__).parents[2] / "demo"


def demo(name: str) -> Build:
    return read_build((DEMO / f"{name}.json").read_text())


def done(build: Build, **raw: Any) -> Build:
    return read_act(raw).done(build).build


def changed(build: Build, **pan: Any) -> Build:
    """A build whose pan has other figures, as typed by hand."""
    document = build.model_dump(mode="json")
    document["pan"].update(pan)
    return read_build(json.dumps(document))


DUNLIN, SANDPIPER = demo("dunlin"), demo("sandpiper")
UNBRACED = read_build(
    json.dumps({
        **(raw := DUNLIN.model_dump(mode="json")),
        "pickup": {**raw["pickup"], "braces": {"at_bell": True, "at_tube": False}},
    })
)  # fmt: skip
SUCTION = suction_joint(DUNLIN.model_dump(mode="json"))["id"]
BUMPER = {"id": "a1", "name": "bumper", "kind": "bumper", "hours_off": 0.4, "hours_back": 0.5}
MEMBER = {"id": "a2", "name": "crossmember", "kind": "crossmember", "how": "loosened",
          "hours_off": 1.5, "hours_back": 2.0}  # fmt: skip


def with_hole(build: Build, fixing: str) -> Build:
    """A turbo's drain into the side of the pan, over the oil."""
    boss = {"id": "b90", "kind": "turbo_drain", "name": "turbo drain", "x_mm": 250, "y_mm": 90,
            "depth_mm": 12, "bore_mm": 18, "fixing": fixing}  # fmt: skip
    bosses = [each.model_dump(mode="json") for each in build.pan.bosses]
    return changed(build, bosses=[*bosses, boss])


def front_sump() -> Build:
    after = done(DUNLIN, kind="sump_preset", place="front", depth_mm=138, shelf_mm=50)
    bosses = [each.model_dump(mode="json") for each in after.pan.bosses]
    blocked = [{**each, "blocked": each["kind"] == "dipstick"} for each in bosses]
    return changed(after, bosses=blocked)


def _bottle() -> tuple[Build, str]:
    after = done(DUNLIN, kind="fit_accumulator", at="gallery_tapping", volume_l=2.0)
    bottle = next(each for each in after.circuit.components if each.kind == "accumulator")
    return after, bottle.id


def _said(**raw: Any) -> CardSettings:
    return CardSettings.model_validate(raw)


def _turbo_in_place() -> Build:
    return with_hole(done(SANDPIPER, kind="drain_turbo", turbo=TURBO, how="gravity", dash=12),
                     "through_fitting")  # fmt: skip


TURBO = next(each.id for each in SANDPIPER.circuit.components if each.kind == "turbo")
_CAST = changed(DUNLIN, made="cast")
_WITH_BOTTLE, BOTTLE = _bottle()

JOBS: Mapping[str, tuple[Build, Build, CardSettings, tuple[job_lists.Group, ...]]] = {
    "pickup joint and brace": (
        UNBRACED, done(UNBRACED, kind="brace_pickup"),
        _said(extras=[{"do": "renew", "part": SUCTION}], access=[BUMPER]),
        job_lists.PICKUP_JOINT_AND_BRACE,
    ),
    "spacer": (
        (levelled := done(DUNLIN, kind="fit_level_plate")),
        done(levelled, kind="spacer", by_mm=6.35), _said(access=[BUMPER]),
        job_lists.SPACER,
    ),
    "gates into a cast pan": (
        _CAST, done(_CAST, kind="fit_gates"), _said(access=[BUMPER]),
        job_lists.GATES_INTO_A_CAST_PAN,
    ),
    "sump off, a chassis member lowered": (
        DUNLIN, DUNLIN,
        _said(extras=[{"do": "renew", "part": "pan"}], access=[BUMPER, MEMBER]),
        job_lists.CHASSIS_MEMBER_LOWERED,
    ),
    "turbo drain through a thin wall, in place": (
        SANDPIPER, _turbo_in_place(), _said(sump_in_place=True),
        job_lists.DRAIN_THROUGH_A_THIN_WALL_IN_PLACE,
    ),
    "through-fitting, sump off": (
        DUNLIN, with_hole(DUNLIN, "through_fitting"), _said(),
        job_lists.THROUGH_FITTING_WITH_THE_SUMP_OFF,
    ),
    "bottle in the cabin": (
        DUNLIN, _WITH_BOTTLE, _said(in_cabin=[BOTTLE]), job_lists.BOTTLE_IN_THE_CABIN,
    ),
    "remote filter and cooler": (
        (plain := done(SANDPIPER, kind="move_filter", filters=1)) and SANDPIPER,
        done(plain, kind="fit_cooler"), _said(access=[BUMPER]),
        job_lists.REMOTE_FILTER_AND_COOLER,
    ),
    "new pan, pickup moved": (
        DUNLIN, done(DUNLIN, kind="sump_preset", place="middle", depth_mm=130, shelf_mm=50),
        _said(access=[BUMPER]),
        job_lists.NEW_PAN_WITH_PICKUP_MOVED,
    ),
    "front sump for rear": (
        DUNLIN, front_sump(), _said(access=[BUMPER]), job_lists.FRONT_SUMP_FOR_REAR,
    ),
}  # fmt: skip

PLAIN = CardSettings()
NOON = datetime(2026, 7, 13, 12, 0, tzinfo=UTC)
GATED = done(DUNLIN, kind="fit_gates")


def hits(card: Card, pattern: str) -> list[int]:
    return [at for at, each in enumerate(card.steps) if fnmatch(each.id, pattern)]


def ticked(*steps: str, state: int = 1, at: datetime = NOON) -> Standing:
    return standing_of(
        Kept(read_entry({"kind": "ticked", "step": step}), number, "MK",
             at + timedelta(minutes=number), state)
        for number, step in enumerate(steps)
    )  # fmt: skip
