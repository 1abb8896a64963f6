"""Sixteen jobs of the trade, each from an empty account; cars and circumstances are invented."""

from __future__ import annotations

from typing import Any

import pytest
from accounts.services import open_account

from tests.browser.conftest import Page
from tests.browser.scenarios.builder import Builder


@pytest.fixture
def builder(page: Page, worker: Any) -> Builder:
    """Signed in with nothing yet; runs in coarse cells are carried out beside it."""
    open_account("ada", "bearing-shell-9", "Reed Lane Garage")
    page.sign_in("ada", "bearing-shell-9")
    page.says("No builds yet")
    return Builder(page)
