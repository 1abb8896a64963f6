"""A server that does not answer for a while: connections end without a word."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import pytest
from django.core.servers.basehttp import ServerHandler

from tests.browser.conftest import Page


@contextmanager
def nothing_answers(page: Page) -> Iterator[None]:
    """No request is answered, on new connections and on those that are open."""

    def hang_up(handler: Any, app: Any) -> None:
        handler.request_handler.close_connection = True

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(ServerHandler, "run", hang_up)
        yield
    page.meant = ("ERR_EMPTY_RESPONSE",)  # what was under way just now is said later
    page.driver.get_log("browser")  # what did not come is said there, and is meant
