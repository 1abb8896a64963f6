"""What goes for every test of the core: whatever it sees refused is refused in the same words."""

from __future__ import annotations

from collections.abc import Iterator
from functools import cache
from typing import Any

import pytest

from tests.core import refused

_kept = cache(refused.kept)


@pytest.fixture(autouse=True)
def refused_in_the_same_words(
    request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch
) -> Iterator[None]:
    """Compares the whole of each refusal; of what is tried on made-up cases, nothing."""
    said: list[str] = []
    raises = pytest.raises

    def noted(*expected: Any, **more: Any) -> Any:
        return refused.Whole(raises(*expected, **more), said)

    monkeypatch.setattr(pytest, "raises", noted)
    yield
    test = request.node
    if hasattr(request.function, "hypothesis") or test.get_closest_marker("long"):
        return
    anew: refused.Anew | None = request.config.pluginmanager.get_plugin(refused.ANEW)
    if anew is not None:
        anew.said[test.nodeid] = said
        return
    was = _kept().get(test.nodeid, [])
    words = f"python -m tests.core.refused {test.nodeid.split('::', maxsplit=1)[0]}"
    assert said == was, f"refused in other words; where that is meant: {words}"
