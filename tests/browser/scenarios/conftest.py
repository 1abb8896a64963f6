"""Sixteen jobs of the trade, each from an empty account; cars and circumstances are invented."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import pytest
from accounts.services import open_account

from tests.browser.conftest import Page
from tests.browser.scenarios.builder import Builder
from tests.conftest import DEMO


@pytest.fixture
def builder(page: Page, worker: Any, request: pytest.FixtureRequest) -> Iterator[Builder]:
    """Signed in with nothing yet; runs in coarse cells are carried out beside it.

    The long form (``--long``) goes on from where the job ends: a whole lap in moving oil.
    """
    open_account("ada", "bearing-shell-9", "Reed Lane Garage")
    page.sign_in("ada", "bearing-shell-9")
    page.says("No builds yet")
    builder = Builder(page)
    yield builder
    if request.config.getoption("--long"):
        builder.over_the_whole_lap(DEMO / "saltmarsh.csv")
