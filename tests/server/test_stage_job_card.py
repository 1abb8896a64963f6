"""The stage Job card: begun, ticked, refused, offline and twice, closed; parts and paper."""

from __future__ import annotations

import uuid
from datetime import timedelta
from typing import Any, NamedTuple

import pytest
from accounts.models import User
from bilge_core.agreement.book_entries import read_booked
from bilge_core.agreement.fit_entries import read_offered
from builds.models import Build
from builds.schemas import ActIn, AsIsIn
from builds.services import act, say_as_is
from config.errors import NotFound
from django.utils import timezone
from records import books, cards, fits
from records.clocks import believed
from records.models import BookEntry, CardEntry, FitEntry, JobCard
from stages.job_card.answer import job

from tests.server.conftest import Api, fields


def acted(user: User, build: Build, **raw: Any) -> Build:
    build.refresh_from_db()
    assert build.current is not None
    wanted = {"base_state": build.current.number, "system": "metric", "act": raw}
    return act(user, build.pk, ActIn.model_validate(wanted))


@pytest.fixture
def gated(user: User, build: Build) -> Build:
    """A car as it was entered, and a plan with gates."""
    say_as_is(user, build.pk, AsIsIn(base_state=1, state=1))
    return acted(user, build, kind="fit_gates")


class Sent(NamedTuple):
    """What came back."""

    status: int
    told: Any


def sent(api: Api, method: str, path: str, body: Any = None) -> Sent:
    return Sent(*api(method, path, body))


def address(build: Build, end: str = "") -> str:
    return f"/stages/job-card/{build.pk}{end}"


def begun(api: Api, build: Build, **said: Any) -> dict[str, Any]:
    answer = sent(api, "POST", address(build, "/begin"), {"said": said})
    assert answer.status == 200, answer.told
    return answer.told


def entry(at: Any = None, client_id: str = "", **raw: Any) -> dict[str, Any]:
    when = (at or timezone.now()).isoformat()
    return {"client_id": client_id or str(uuid.uuid4()), "at": when, "entry": raw}


def entered(api: Api, build: Build, *rows: dict[str, Any]) -> dict[str, Any]:
    answer = sent(api, "POST", address(build, "/entries"), {"entries": list(rows)})
    assert answer.status == 200, answer.told
    return answer.told


def tick(step: str, **more: Any) -> dict[str, Any]:
    return entry(kind="ticked", step=step, **more)


def step(told: dict[str, Any], name: str) -> dict[str, Any]:
    return next(each for each in told["card"]["steps"] if each["id"] == name)


def test_before_anybody_says_which_state_the_car_is_in_it_asks(api: Api, build: Build) -> None:
    told = sent(api, "GET", address(build)).told
    assert told["card"] is None and told["choose"][0]["state"] == 1
    answer = sent(api, "POST", address(build, "/begin"), {"said": {}})
    assert answer.status == 422 and "which state is the car in" in str(answer.told)


def test_a_card_is_shown_before_it_is_begun_and_nothing_is_ticked_on_it(
    api: Api, gated: Build
) -> None:
    told = sent(api, "GET", address(gated)).told
    assert told["number"] is None and len(told["card"]["steps"]) > 30
    answer = sent(api, "POST", address(gated, "/entries"), {"entries": [tick("stands")]})
    assert answer.status == 409 and "begin one" in answer.told["title"]


def test_begun_once_by_one_hand(api: Api, gated: Build) -> None:
    told = begun(api, gated, sealing="liquid")
    assert told["number"] == 1 and told["said"]["sealing"] == "liquid"
    again = sent(api, "POST", address(gated, "/begin"), {"said": {}})
    assert again.status == 409 and JobCard.objects.count() == 1


def test_what_is_ticked_is_kept_with_hand_and_time_and_undone_by_another_entry(
    api: Api, user: User, gated: Build
) -> None:
    begun(api, gated)
    told = entered(api, gated, tick("stands"), tick("drain"))
    drain = step(told, "drain")
    assert (drain["state"], drain["by"]) == ("done", user.username)
    assert drain["wait_over"] is not None and told["card"]["done"] == 2
    back = entered(api, gated, entry(kind="unticked", step="drain"))
    assert step(back, "drain")["state"] == "ready"
    assert CardEntry.objects.count() == 3


def test_what_is_sent_twice_is_kept_once(api: Api, gated: Build) -> None:
    begun(api, gated)
    one = tick("stands")
    entered(api, gated, one)
    told = entered(api, gated, one, tick("drain"), one)
    assert told["card"]["done"] == 2 and CardEntry.objects.count() == 2


def test_a_gate_is_refused_alone_and_what_came_with_it_is_kept(api: Api, gated: Build) -> None:
    begun(api, gated)
    bad = tick("drain")
    told = entered(api, gated, bad, tick("stands"))
    assert told["refused"] == [
        {"client_id": bad["client_id"],
         "why": "waits for a step that must not be passed: Car on its stands: two independent "
         "supports, level"},
    ]  # fmt: skip
    assert step(told, "stands")["state"] == "done"
    passed = entered(
        api,
        gated,
        tick("drain"),
        entry(kind="unticked", step="stands"),
        entry(kind="overridden", step="stands", why="on the rated lift today"),
    )
    assert step(passed, "stands")["reason"] == "on the rated lift today"
    no = entered(api, gated, entry(kind="overridden", step="pan_off", why="never mind that"))
    assert "no step that must not be passed" in no["refused"][0]["why"]


def test_a_wait_runs_from_when_it_was_ticked_and_no_clock_is_ahead_of_ours(
    api: Api, gated: Build
) -> None:
    begun(api, gated)
    JobCard.objects.update(begun_at=timezone.now() - timedelta(hours=3))
    hour_ago = timezone.now() - timedelta(hours=1)
    told = entered(
        api, gated, tick("stands", at=hour_ago), tick("drain", at=hour_ago), tick("take_off:all")
    )
    assert step(told, "pan_off")["state"] == "ready"
    entered(api, gated, entry(kind="unticked", step="drain"))
    ahead = entered(api, gated, tick("drain", at=timezone.now() + timedelta(days=2)))
    assert step(ahead, "pan_off")["state"] == "shut"
    refused = entered(api, gated, tick("pan_off"))
    assert "shut until" in refused["refused"][0]["why"]
    over = entered(api, gated, entry(kind="wait_over", step="drain", why="drained overnight"))
    assert step(over, "pan_off")["state"] == "ready"
    none = entered(api, gated, entry(kind="wait_over", step="stands", why="it is level"))
    assert none["refused"][0]["why"] == "has no wait"


def test_the_plan_moves_under_a_card(api: Api, user: User, gated: Build) -> None:
    told = begun(api, gated)
    gate = next(each["part"] for each in told["card"]["steps"] if each["id"].startswith("hang_"))
    entered(api, gated, tick("stands"))
    JobCard.objects.update(begun_at=timezone.now() - timedelta(hours=3))
    early = timezone.now() - timedelta(hours=2)
    ids = [each["id"] for each in told["card"]["steps"]]
    until = ids[: ids.index(f"hang_gate:{gate}") + 1]
    entered(api, gated, *(tick(each, at=early) for each in until))
    acted(user, gated, kind="fit_tray")
    more = sent(api, "GET", address(gated)).told
    tray = next(each for each in more["card"]["steps"] if each["id"].startswith("fit_tray"))
    assert tray["is_new"] and not step(more, "drain")["is_new"]
    assert step(more, f"hang_gate:{gate}")["state"] == "done"
    gated.refresh_from_db()
    sent(api, "POST", f"/builds/{gated.pk}/show", {"base_state": gated.current.number, "state": 1})
    less = sent(api, "GET", address(gated)).told
    undo = step(less, f"undo.hang_gate:{gate}")
    assert undo["words"].startswith("Take back: Hang right gate of")


def test_a_part_found_bad_is_sent_back_and_the_plan_waits(api: Api, gated: Build) -> None:
    told = begun(api, gated)
    ends = told["card"]["plan"]["ends"]
    plate = next(each["part"] for each in told["card"]["steps"] if each["id"].startswith("fit_pl"))
    bad = entered(api, gated, entry(kind="found_bad", part=plate, words="cracked at the bend"))
    assert step(bad, f"send_back:{plate}")["wait_days"] == 7
    assert step(bad, f"fit_plate:{plate}")["state"] == "stopped"
    assert bad["card"]["plan"]["ends"] > ends and bad["card"]["bad"][0]["part"] == plate
    # other plates want sheet as well: that one of them is there does not bring theirs
    there = {each["part"]: each["there"] for each in bad["wanted"]}
    assert there["plate_sheet"] is not None
    right = entered(api, gated, entry(kind="put_right", part=plate))
    assert right["card"]["bad"] == []


def test_what_was_found_bad_has_come(api: Api, user: User, build: Build) -> None:
    """A new pan that is cracked was in somebody's hands, whatever the order says of it."""
    say_as_is(user, build.pk, AsIsIn(base_state=1, state=1))
    acted(user, build, kind="sump_preset", place="front", depth_mm=140, shelf_mm=50)
    told = begun(api, build)
    there = {each["part"]: each["there"] for each in told["wanted"]}
    assert there["pan_made"] is not None
    bad = entered(api, build, entry(kind="found_bad", part="pan", words="cracked at a bolt"))
    there = {each["part"]: each["there"] for each in bad["wanted"]}
    assert there["pan_made"] is None
    assert step(bad, "send_back:pan")["wait_days"] == 7


def test_closed_only_when_all_is_done_and_the_car_is_then_as_planned(
    api: Api, user: User, gated: Build
) -> None:
    told = begun(api, gated)
    early = sent(api, "POST", address(gated, "/close"), {})
    assert early.status == 422 and "Car on its stands" in str(early.told)
    JobCard.objects.update(begun_at=timezone.now() - timedelta(days=9))
    at = timezone.now() - timedelta(days=8)
    rows = []
    for number, each in enumerate(told["card"]["steps"]):
        rows.append(tick(each["id"], at=at + timedelta(hours=3 * number)))
    done = entered(api, gated, *rows)
    assert done["refused"] == [] and done["card"]["next"] is None
    closed = sent(api, "POST", address(gated, "/close"), {}).told
    gated.refresh_from_db()
    assert gated.as_is == gated.current
    assert closed["number"] is None and closed["card"]["steps"] == []
    assert closed["over"][0]["closed_by"] == user.username


def test_what_is_in_the_way_is_kept_from_job_to_job_and_the_jobs_own_is_not(
    api: Api, gated: Build
) -> None:
    bumper = {"id": "a1", "name": "bumper", "kind": "bumper", "hours_off": 0.4, "hours_back": 0.5}
    begun(api, gated, access=[bumper], extras=[{"do": "look_at", "part": "pan"}])
    JobCard.objects.update(closed_at=timezone.now())
    told = sent(api, "GET", address(gated)).told
    assert told["said"]["access"][0]["name"] == "bumper" and told["said"]["extras"] == []
    tried = sent(api, "POST", address(gated, "/try"), {"said": {"sealing": "liquid"}}).told
    assert tried["said"]["access"] == [] and JobCard.objects.count() == 1


def test_a_fault_in_what_is_said_is_told_by_its_field(api: Api, gated: Build) -> None:
    answer = sent(api, "POST", address(gated, "/begin"), {"said": {"hours_a_day": 40}})
    assert answer.status == 422
    assert any("hours_a_day" in each for each in fields(answer.told))
    begun(api, gated)
    bad = sent(
        api, "POST", address(gated, "/entries"), {"entries": [entry(kind="ticked", step="../x")]}
    )
    assert bad.status == 422


def test_parts_are_ticked_and_what_comes_late_slips_the_plan(api: Api, gated: Build) -> None:
    told = begun(api, gated)
    rubber = next(row for row in told["wanted"] if row["part"] == "gate_rubber")
    assert rubber["there"] and rubber["lead_days"] > 0 and not rubber["own_price"]
    late = {row["part"]: row["slips_days"] for row in told["card"]["plan"]["late"]}
    for part in late:
        sent(api, "PUT", address(gated, f"/parts/{part}"), {"how_far": "arrived"})
    for row in told["wanted"]:
        sent(api, "PUT", address(gated, f"/parts/{row['part']}"), {"how_far": "have"})
    there = sent(api, "GET", address(gated)).told
    assert there["card"]["plan"]["late"] == []
    assert there["card"]["plan"]["ends"] < told["card"]["plan"]["ends"]
    wrong = sent(api, "PUT", address(gated, "/parts/accumulator"), {"how_far": "have"})
    assert wrong.status == 422
    lines = sent(api, "GET", f"/stages/lines/{gated.pk}").told
    assert "gate_rubber" not in [row["part"] for row in lines["ticks"]]


def test_what_was_ordered_and_is_not_wanted_any_more_is_surplus(
    api: Api, user: User, gated: Build
) -> None:
    begun(api, gated)
    sent(api, "PUT", address(gated, "/parts/gate_rubber"), {"how_far": "ordered"})
    sent(api, "POST", f"/builds/{gated.pk}/show", {"base_state": 2, "state": 1})
    told = sent(api, "GET", address(gated)).told
    assert [row["part"] for row in told["surplus"]] == ["gate_rubber"]


def test_a_line_takes_what_its_order_has_piece_by_piece(api: Api, user: User, build: Build) -> None:
    say_as_is(user, build.pk, AsIsIn(base_state=1, state=1))
    acted(user, build, kind="move_filter", filters=1)
    told = sent(api, "GET", address(build)).told
    parts = {each["part"] for row in told["card"]["steps"] for each in row["bought"]}
    assert "hose" not in parts
    assert any(part.startswith("hose_") for part in parts)


def test_the_card_prints_with_a_code_to_each_step(api: Api, gated: Build) -> None:
    begun(api, gated)
    answer = api.client.get(f"/api{address(gated, '/page')}")
    assert answer["Content-Type"] == "application/pdf" and answer.content.startswith(b"%PDF")
    assert len(answer.content) > 20_000


def test_a_flange_has_its_pattern_and_each_bolt_is_kept(api: Api, user: User, build: Build) -> None:
    say_as_is(user, build.pk, AsIsIn(base_state=1, state=1))
    acted(user, build, kind="flange", spacing_mm=60, width_mm=20, hole_mm=6.6, thickness_mm=8)
    acted(user, build, kind="fit_gates")
    told = begun(api, build)
    flange = told["card"]["flange"]
    count = len(flange["bolts_mm"])
    assert count >= 6 and sorted(flange["pattern"]) == list(range(count))
    first = flange["pattern"][0]
    early = entered(api, build, entry(kind="bolt_tight", step="torque_pan", bolt=first))
    assert "must not be passed" in early["refused"][0]["why"]
    JobCard.objects.update(begun_at=timezone.now() - timedelta(days=9))
    ids = [each["id"] for each in told["card"]["steps"]]
    at = timezone.now() - timedelta(days=8)
    entered(
        api,
        build,
        *(
            tick(each, at=at + timedelta(hours=3 * number))
            for number, each in enumerate(ids[: ids.index("torque_pan")])
        ),
    )
    tight = entered(api, build, entry(kind="bolt_tight", step="torque_pan", bolt=first))
    assert step(tight, "torque_pan")["tight"] == [[1, first]]
    loose = entered(api, build, entry(kind="bolt_loose", step="torque_pan", bolt=first))
    assert step(loose, "torque_pan")["tight"] == []


def test_a_stranger_finds_no_card(stranger: User, gated: Build) -> None:
    with pytest.raises(NotFound):
        job(stranger.workshop, gated.pk)


def test_days_are_told_by_the_clock_on_the_wall_of_whoever_looks(api: Api, gated: Build) -> None:
    begun(api, gated)

    def begins(zone: str) -> str:
        api.client.cookies["zone"] = zone
        told = sent(
            api, "POST", address(gated, "/try"), {"said": {"hours_a_day": 16, "weekends": True}}
        ).told
        return str(told["card"]["plan"]["begins"])

    assert begins("Nowhere/At_All")[:13] == begins("UTC")[:13]
    assert begins("Pacific%2FKiritimati") != begins("Pacific%2FPago_Pago")


def test_ticked_for_fewer_than_are_wanted_is_not_there(api: Api, user: User, gated: Build) -> None:
    begun(api, gated)
    sent(api, "PUT", address(gated, "/parts/gate_rubber"), {"how_far": "have"})

    def there() -> Any:
        rows = sent(api, "GET", address(gated)).told["wanted"]
        return next(row["there"] for row in rows if row["part"] == "gate_rubber")

    assert there() is None
    gated.order_ticks.filter(part="gate_rubber").update(count=2)  # three are wanted
    assert there() is not None


def test_a_clock_is_believed_from_the_beginning_to_now() -> None:
    now = timezone.now()
    begin, hair = now - timedelta(hours=1), timedelta(seconds=1)
    assert believed(begin, begin) == begin and believed(now - hair, begin) == now - hair
    assert believed(begin - hair, begin) >= now  # before anything can have happened
    assert now <= believed(now + timedelta(days=1), begin) <= timezone.now()


def test_a_card_has_an_end_to_its_entries(
    api: Api, gated: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    begun(api, gated)
    monkeypatch.setattr(cards, "MOST_ENTRIES", 1)
    entered(api, gated, tick("stands"))
    full = sent(api, "POST", address(gated, "/entries"), {"entries": [tick("drain")]})
    assert full.status == 422 and "1 are the most of one card" in str(full.told)


def test_a_build_goes_with_its_cards_its_fits_and_its_book(
    api: Api, user: User, gated: Build
) -> None:
    begun(api, gated)
    entered(api, gated, tick("stands"))
    at, name = timezone.now(), "00000000-0000-4000-8000-000000000001"
    fits.keep(user, gated, read_offered({"kind": "round_begun", "means": "tape"}), name, at)
    done = {"kind": "item_done", "item": "oil", "on": "2026-06-07"}
    books.keep(user, gated, read_booked(done), name, at)
    assert api("DELETE", f"/builds/{gated.pk}")[0] == 204
    assert not (CardEntry.objects.exists() or FitEntry.objects.exists())
    assert not (JobCard.objects.exists() or BookEntry.objects.exists())
