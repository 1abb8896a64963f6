"""Tables between two tests of the server or the browser."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from django.core.management.commands import flush


@pytest.fixture(scope="session", autouse=True)
def no_permissions_anew() -> Iterator[None]:
    """Tables that a test used are emptied, and no more: permissions, which nobody asks for, would
    be written anew each time, which takes ten times as long."""
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(flush, "emit_post_migrate_signal", lambda *_, **__: None)
        yield
