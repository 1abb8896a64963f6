"""Members of a workshop: invited once, removed, handed over; passwords; sign-ins seen and ended."""

from __future__ import annotations

import json
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest
from accounts import sign_ins
from accounts.models import Invitation, SignIn, User, Workshop
from accounts.services import open_account
from config.certificates import renew
from django.contrib.sessions.models import Session
from django.core.management import CommandError, call_command
from django.test import Client
from django.utils import timezone

from tests.server.conftest import Api, UserFactory

PASSWORD = "bearing-shell-9"


@pytest.fixture
def owner(user: User) -> User:
    Workshop.objects.filter(pk=user.workshop_id).update(owner=user)
    return user


@pytest.fixture
def mate(owner: User) -> User:
    return UserFactory(workshop=owner.workshop)  # type: ignore[no-any-return]


def secret_of(api: Api) -> str:
    status, told = api("POST", "/people/invitations")
    assert status == 201
    return str(told["secret"])


def joined(secret: str, username: str = "grace", password: str = PASSWORD) -> tuple[int, Any]:
    body = {"secret": secret, "username": username, "password": password}
    return page_of(Client())("POST", "/session/join", body)


def page_of(client: Client) -> Api:
    """A browser that has loaded the page, so that it has the page's token."""
    api = Api(None)
    client.get("/")
    client.defaults["HTTP_X_CSRFTOKEN"] = client.cookies["csrftoken"].value
    api.client = client
    return api


def test_a_link_lets_one_person_in_once(owner: User) -> None:
    secret = secret_of(Api(owner))
    assert secret not in json.dumps(list(Invitation.objects.values()), default=str)
    look = page_of(Client())("POST", "/session/invitation", {"secret": secret})
    assert (look[0], look[1]["workshop"]) == (200, owner.workshop.name)
    status, told = joined(secret)
    assert (status, told["workshop"]) == (201, owner.workshop.name)
    assert User.objects.get(username="grace").workshop_id == owner.workshop_id
    status, told = joined(secret, "ida")
    assert (status, "was used" in told["title"]) == (404, True)
    assert not User.objects.filter(username="ida").exists()


def test_a_link_is_good_for_a_week_and_can_be_taken_back(owner: User) -> None:
    api = Api(owner)
    for _ in range(2):
        secret = secret_of(api)
        made = Invitation.objects.latest("pk")
        made.expires_at = timezone.now() - timedelta(seconds=1)
        made.save()
        assert joined(secret)[0] == 404
        made.expires_at = timezone.now() + timedelta(minutes=1)
        made.save()
        assert api("DELETE", f"/people/invitations/{made.pk}") == (204, None)
        assert joined(secret)[0] == 404
    assert api("DELETE", f"/people/invitations/{made.pk}")[0] == 404


def test_who_joins_needs_a_name_that_is_free_and_a_password_that_is_none_of_the_usual(
    owner: User,
) -> None:
    secret = secret_of(Api(owner))
    for name, password, field in (
        (owner.username, PASSWORD, "username"),
        (owner.username.upper(), PASSWORD, "username"),
        ("has space", PASSWORD, "username"),
        ("grace", "password", "password"),
        ("grace", "short", "password"),
    ):
        status, told = joined(secret, name, password)
        assert (status, [p["field"] for p in told["problems"]]) == (422, [field]), name
    assert joined(secret)[0] == 201  # nothing of it used the link up


def test_only_the_owner_invites_removes_and_hands_over(owner: User, mate: User) -> None:
    api = Api(mate)
    assert api("POST", "/people/invitations")[0] == 403
    assert api("DELETE", f"/people/{owner.pk}")[0] == 403
    assert api("POST", f"/people/{mate.pk}/owner")[0] == 403
    told = api("GET", "/people")[1]
    assert (told["you_own_it"], told["invitations"], len(told["members"])) == (False, [], 2)


def test_a_removed_member_is_out_at_once_and_stays_in_the_history(owner: User, mate: User) -> None:
    browser = page_of(Client())
    body = {"username": mate.username, "password": PASSWORD}
    assert browser("POST", "/session", body)[0] == 200
    api = Api(owner)
    assert api("DELETE", f"/people/{owner.pk}")[0] == 409  # not oneself
    assert api("DELETE", f"/people/{mate.pk}") == (204, None)
    assert browser("GET", "/builds/templates")[0] == 401
    assert browser("POST", "/session", body)[0] == 401
    assert User.objects.filter(pk=mate.pk).exists()
    assert [m["username"] for m in api("GET", "/people")[1]["members"]] == [owner.username]
    assert api("DELETE", f"/people/{mate.pk}")[0] == 404


def test_a_workshop_is_handed_over(owner: User, mate: User) -> None:
    status, told = Api(owner)("POST", f"/people/{mate.pk}/owner")
    assert (status, told["you_own_it"]) == (200, False)
    assert Api(mate)("GET", "/people")[1]["you_own_it"]
    assert Api(mate)("DELETE", f"/people/{owner.pk}")[0] == 204


def test_one_changes_ones_own_password_and_other_browsers_are_out(user: User) -> None:
    body = {"username": user.username, "password": PASSWORD}
    here, there = page_of(Client()), page_of(Client())
    assert here("POST", "/session", body)[0] == there("POST", "/session", body)[0] == 200
    here = page_of(here.client)
    for wrong, field in (
        ({"current": "no", "new": "oil-gallery-7"}, "current"),
        ({"current": PASSWORD, "new": "password"}, "new"),
    ):
        status, told = here("PUT", "/session/password", wrong)
        assert (status, told["problems"][0]["field"]) == (422, field)
    change = {"current": PASSWORD, "new": "oil-gallery-7"}
    assert here("PUT", "/session/password", change)[0] == 204
    assert here("GET", "/people")[0] == 200 and there("GET", "/people")[0] == 401
    assert [row["is_this"] for row in here("GET", "/session/sign-ins")[1]] == [True]
    assert page_of(Client())("POST", "/session", body)[0] == 401


def test_sign_ins_are_listed_and_ended(user: User, other_api: Api) -> None:
    body = {"username": user.username, "password": PASSWORD}
    here, phone = page_of(Client()), page_of(Client())
    here("POST", "/session", body)
    phone.client.defaults["HTTP_USER_AGENT"] = "Mozilla/5.0 (Linux; Android 14) Mobile"
    phone("POST", "/session", body)
    rows = here("GET", "/session/sign-ins")[1]
    assert {row["browser"] for row in rows} == {"unknown", "phone, Android"}
    other = next(row for row in rows if not row["is_this"])
    assert other_api("DELETE", f"/session/sign-ins/{other['id']}")[0] == 404
    here = page_of(here.client)
    assert here("DELETE", f"/session/sign-ins/{other['id']}")[0] == 204
    assert phone("GET", "/people")[0] == 401
    assert page_of(here.client)("DELETE", "/session")[0] == 204
    assert not SignIn.objects.exists()


def test_an_address_that_guesses_is_stopped_before_any_password_is_checked(
    user: User, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(sign_ins, "MOST_FAILURES_OF_AN_ADDRESS", 4)
    for number in range(4):  # each name once: no single name is locked
        body = {"username": f"nobody{number}", "password": "x"}
        assert page_of(Client())("POST", "/session", body)[0] == 401
    checked: list[Any] = []
    monkeypatch.setattr(sign_ins, "authenticate", lambda *a, **k: checked.append(a))
    body = {"username": user.username, "password": PASSWORD}
    assert page_of(Client())("POST", "/session", body)[0] == 429
    assert checked == []
    elsewhere = page_of(Client(REMOTE_ADDR="192.168.7.30"))
    elsewhere("POST", "/session", body)
    assert len(checked) == 1


def test_strangers_keep_one_thread_busy_and_not_all(
    user: User, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(sign_ins, "_PATIENCE", 0.01)
    body = {"username": user.username, "password": PASSWORD}
    with sign_ins._one_at_a_time:
        assert page_of(Client())("POST", "/session", body)[0] == 429
    assert page_of(Client())("POST", "/session", body)[0] == 200


@pytest.mark.django_db
def test_an_account_joins_the_workshop_of_that_name() -> None:
    ada = open_account("ada", PASSWORD, "Reed Lane Garage")
    grace = open_account("grace", PASSWORD, "Reed Lane Garage")
    assert ada.workshop == grace.workshop and Workshop.objects.count() == 1
    assert Workshop.objects.get().owner == ada
    other = open_account("ida", PASSWORD, "Mill Yard")
    assert Workshop.objects.get(name="Mill Yard").owner == other
    with pytest.raises(CommandError, match="already"):
        call_command("open_account", "ada", "Mill Yard")


def test_the_address_as_a_code_and_the_authority_to_take(
    api: Api, settings: Any, tmp_path: Path
) -> None:
    settings.ADDRESS, settings.AUTHORITY = "", ""
    assert api("GET", "/session/access")[1] == {
        "address": "", "code_rows": [], "has_authority": False
    }  # fmt: skip
    assert api("GET", "/session/authority")[0] == 404
    renew(tmp_path, ["192.168.7.4"])
    settings.ADDRESS = "https://192.168.7.4:8750"
    settings.AUTHORITY = str(tmp_path / "authority.pem")
    told = api("GET", "/session/access")[1]
    assert told["has_authority"] and len(told["code_rows"]) == len(told["code_rows"][0]) >= 21
    answer = api.client.get("/api/session/authority")
    assert answer.headers["Content-Type"] == "application/x-x509-ca-cert"
    assert answer.content.startswith(b"-----BEGIN CERTIFICATE-----")


def test_sign_ins_that_have_run_out_are_not_listed(user: User) -> None:
    body = {"username": user.username, "password": PASSWORD}
    here, there = page_of(Client()), page_of(Client())
    here("POST", "/session", body)
    there("POST", "/session", body)
    other = there.client.session.session_key
    Session.objects.filter(pk=other).update(expire_date=timezone.now() - timedelta(seconds=1))
    assert SignIn.objects.filter(user=user).count() == 2
    assert [row["is_this"] for row in here("GET", "/session/sign-ins")[1]] == [True]
