"""The demo loads once and leaves alone what was changed since."""

from __future__ import annotations

import pytest
from accounts.models import User
from builds.models import Build
from django.core.management import call_command
from loads.models import Lap

pytestmark = pytest.mark.django_db


def test_demo_loads_once(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("BILGE_DEMO_PASSWORD", "rail-gate-bell-1234")
    call_command("load_demo", "dunlin")
    names = {"Dunlin", "Dunlin, sump 46 mm deeper"}
    assert set(Build.objects.values_list("name", flat=True)) == names
    assert User.objects.get(username="dunlin").check_password("rail-gate-bell-1234")
    Build.objects.get(name="Dunlin").states.all()
    Build.objects.filter(name="Dunlin").update(name="renamed")
    call_command("load_demo", "dunlin")
    assert Lap.objects.count() == 1
    assert set(Build.objects.values_list("name", flat=True)) == names ^ {"Dunlin", "renamed"}
