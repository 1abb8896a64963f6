"""Which state a car is likely in before its first card: the last before anything was planned."""

from __future__ import annotations

from accounts.models import User
from builds.schemas import NewBuildIn
from builds.services import new_from_template
from stages.job_card.choices import states_to_choose

from tests.server.test_stage_job_card import acted

SUMP = {"kind": "sump_preset", "place": "rear", "depth_mm": 105, "shelf_mm": 45}
PLACE = {"kind": "figures", "figures": [{"field": "pickup.x_mm", "value": 100}]}
SKIRT = {"kind": "figures", "figures": [{"field": "pan.skirt_height_mm", "value": 70}]}


def likely(user: User, *acts: dict[str, object]) -> tuple[int, str]:
    build = new_from_template(user, NewBuildIn(name="Redpoll", template="inline-rear-sump"))
    for each in acts:
        build = acted(user, build, **each)
    first = states_to_choose(build)[0]
    return first.state, first.before


def test_a_templates_sump_put_elsewhere_tells_the_pan(user: User) -> None:
    state, before = likely(user, SUMP, SKIRT, {"kind": "go_dry", "depth_mm": 60})
    assert state == 3 and before.startswith("dry sump")
    state, before = likely(user, PLACE, SUMP, SKIRT, {"kind": "refill", "to_l": 6.5})
    assert state == 4 and before.startswith("filled to")


def test_a_pan_that_was_told_is_planned_anew(user: User) -> None:
    state, before = likely(user, SKIRT, SUMP)
    assert state == 2 and before.startswith("pan begun anew")
    state, before = likely(user, SUMP, SKIRT, SUMP | {"place": "front"})
    assert state == 3 and before.startswith("pan begun anew")


def test_where_nothing_is_planned_none_is_likelier(user: User) -> None:
    assert likely(user, SUMP, SKIRT) == (1, "")
