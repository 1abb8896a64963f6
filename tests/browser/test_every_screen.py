"""Every screen of the demo by day and at night, on the bench and in the hand: axe, words, width."""

from __future__ import annotations

import pytest
from builds.models import Build
from django.core.management import call_command

from tests.browser.conftest import Page
from tests.browser.labels import faults
from tests.conftest import ROOT

pytestmark = pytest.mark.django_db(transaction=True)

STAGES = sorted(each.name for each in (ROOT / "web" / "src" / "stages").iterdir() if each.is_dir())
SHOWN_ON = {
    "drains": "Sandpiper",
    "dry-sump": "Curlew",
    "job-card": "Sandpiper",
    "lines": "Dunlin, bottle and lines",
}
"""Which build of the demo has most to show on a stage; any other: Dunlin."""

PASSWORD = "rail-gate-bell-1234"


@pytest.fixture
def demo(transactional_db: None, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("BILGE_DEMO_PASSWORD", PASSWORD)
    call_command("load_demo", "dunlin")


SIZES = ((1280, 800), (390, 844))


def _looked_at(page: Page, what: str) -> list[str]:
    """What is wrong with the screen as it stands, on the bench and in the hand, in both themes."""
    found = []
    for width, height in SIZES:
        page.size(width, height)
        if not page.fits(width):
            found.append(f"{what}, {width}: wider than that")
        for theme in ("paper", "night"):
            page.driver.execute_script(f"document.documentElement.dataset.theme = '{theme}'")
            found += [f"{what}, {width}, {theme}: {fault}" for fault in page.serious_faults()]
        found += [f"{what}, {width}: {fault}" for fault in faults(page)]
    page.size(*SIZES[0])
    return found


def test_every_screen_is_sound_in_both_themes(page: Page, demo: None) -> None:
    page.sign_in("dunlin", PASSWORD)
    # the builds are judged here for the first time, by loops that are read in first
    page.until(lambda: "Sandpiper, drain mended" in page.text())
    found = _looked_at(page, "shelf")
    ids = dict(Build.objects.values_list("name", "pk"))
    for stage in sorted(STAGES, key=lambda each: SHOWN_ON.get(each, "Dunlin")):
        path = f"/builds/{ids[SHOWN_ON.get(stage, 'Dunlin')]}/"
        if path in page.driver.current_url:
            page.go(f"{path}{stage}")
        else:
            page.goto(f"{path}{stage}")
        page.find("main h1, main h2")
        page.until(lambda: "Reading" not in page.find("main").text)
        page.driver.execute_async_script("document.fonts.ready.then(arguments[0])")
        found += _looked_at(page, stage)
    page.goto("/runs")
    page.find("main table, main h1")
    found += _looked_at(page, "runs")
    assert len(STAGES) == 12
    assert found == []
