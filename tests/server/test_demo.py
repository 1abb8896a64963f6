"""The commands that fill the database: the demo once, and accounts."""

from __future__ import annotations

import pytest
from accounts.models import User
from builds.models import Build
from django.core.management import CommandError, call_command
from loads.models import Lap
from runs.models import Run
from stages.job_card.answer import job

pytestmark = pytest.mark.django_db


def test_demo_loads_once(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("BILGE_DEMO_PASSWORD", "rail-gate-bell-1234")
    call_command("load_demo", "dunlin")
    names = {"Dunlin, plates and gates", "Dunlin, sump 46 mm deeper", "Dunlin, pan by the shop"}
    names |= {
        "Dunlin",
        "Sandpiper",
        "Curlew",
        "Dunlin, bottle and lines",
        "Sandpiper, drain mended",
    }
    assert set(Build.objects.values_list("name", flat=True)) == names
    assert User.objects.get(username="dunlin").check_password("rail-gate-bell-1234")
    build = Build.objects.get(name="Dunlin")
    assert build.lap is not None and build.lap.name == "Saltmarsh Ring, lap 7"
    assert build.revisions.get().name == "as raced"
    # their moving verdicts are being worked out from the first minute
    assert set(Run.objects.values_list("build__name", "status")) == {(n, "waiting") for n in names}
    # a test fit of three rounds, and a job done as far as the pan's bolts
    assert build.fit_entries.filter(data__kind="round_begun").count() == 3
    assert build.book_entries.filter(data__kind="session").count() == 7
    ordered = Build.objects.get(name="Dunlin, bottle and lines").order_ticks
    assert set(ordered.values_list("state", flat=True)) == {"have", "arrived", "ordered"}
    assert build.judged.get().session == "s3"
    sandpiper = Build.objects.get(name="Sandpiper")
    assert sandpiper.as_is == sandpiper.current
    told = job(sandpiper.workshop, sandpiper.pk)
    assert told.card and told.card.next == "torque_pan" and told.number == 1
    assert {step.state for step in told.card.steps[:5]} == {"done"}
    Build.objects.filter(name="Dunlin").update(name="renamed")
    call_command("load_demo", "dunlin")
    assert Lap.objects.count() == 6
    other = Build.objects.get(name="Sandpiper")
    assert other.lap is not None and other.lap.name == "Saltmarsh Ring, lap 3"
    assert set(Build.objects.values_list("name", flat=True)) == names ^ {"Dunlin", "renamed"}


def test_on_a_network_the_demo_lets_nobody_in(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("BILGE_DEMO_PASSWORD", "rail-gate-bell-1234")
    call_command("load_demo", "dunlin", "--closed")
    assert not User.objects.exists()  # nothing is made there
    call_command("load_demo", "dunlin")
    call_command("load_demo", "dunlin", "--closed")
    assert not User.objects.get(username="dunlin").is_active
    call_command("load_demo", "dunlin")
    assert User.objects.get(username="dunlin").is_active


def answer_with(monkeypatch: pytest.MonkeyPatch, *answers: str) -> None:
    given = iter(answers)
    module = "config.management.commands.open_account.getpass"
    monkeypatch.setattr(module, lambda _: next(given))


def test_open_account(monkeypatch: pytest.MonkeyPatch) -> None:
    answer_with(monkeypatch, "bearing-shell-9", "bearing-shell-9")
    call_command("open_account", "ada", "Reed Lane Garage")
    user = User.objects.get(username="ada")
    assert user.check_password("bearing-shell-9")
    assert user.workshop.name == "Reed Lane Garage"


@pytest.mark.parametrize(
    ("name", "answers", "words"),
    [
        ("ada", ("bearing-shell-9", "bearing-shell-8"), "differ"),
        ("ada", ("short", "short"), "too short"),
        ("a da", (), "valid username"),
    ],
)
def test_no_account_is_made(
    monkeypatch: pytest.MonkeyPatch, name: str, answers: tuple[str, ...], words: str
) -> None:
    answer_with(monkeypatch, *answers)
    with pytest.raises(CommandError, match=words):
        call_command("open_account", name, "Reed Lane Garage")
    assert not User.objects.exists()


def test_where_nobody_can_type_it_is_said(monkeypatch: pytest.MonkeyPatch) -> None:
    def nobody(_: str) -> str:
        raise EOFError

    monkeypatch.setattr("config.management.commands.open_account.getpass", nobody)
    with pytest.raises(CommandError, match="run this where it can ask for one"):
        call_command("open_account", "ada", "Reed Lane Garage")
    assert not User.objects.exists()


def test_an_account_is_never_taken_over(monkeypatch: pytest.MonkeyPatch) -> None:
    answer_with(monkeypatch, "bearing-shell-9", "bearing-shell-9")
    call_command("open_account", "ada", "Reed Lane Garage")
    with pytest.raises(CommandError, match="already"):
        call_command("open_account", "ada", "Other Garage")
