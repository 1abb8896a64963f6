"""What goes for every test of the core: it is refused, and answered, what it always was."""

from __future__ import annotations

from collections.abc import Iterator
from functools import cache
from typing import Any

import pytest

from tests.core import answered, kept_anew, refused

_refused = cache(refused.kept)
_answered = cache(answered.kept)


@pytest.fixture(autouse=True)
def as_it_always_was(
    request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch
) -> Iterator[None]:
    """Compares the whole of each refusal and answer; of what is tried on made-up cases, nothing."""
    if request.function is None:  # an example in a docstring
        yield
        return
    said: list[str] = []
    raises = pytest.raises

    def noted(*expected: Any, **more: Any) -> Any:
        return refused.Whole(raises(*expected, **more), said)

    monkeypatch.setattr(pytest, "raises", noted)
    test, file = request.node, request.module.__name__.rpartition(".")[2]
    answers = answered.Answers(request.function)
    answered.hear(request.module)
    answered.listen(answers)
    yield
    answered.listen(None)
    if hasattr(request.function, "hypothesis") or test.get_closest_marker("long"):
        return
    path, _, name = test.nodeid.partition("::")
    given = {} if file in answered.LEFT else answers.shortly()
    anew: kept_anew.Anew | None = request.config.pluginmanager.get_plugin(kept_anew.PLUGIN)
    if anew is not None:
        anew.refused[test.nodeid] = said
        anew.answered[file][name] = given
        return
    words = f"where that is meant: python -m tests.core.kept_anew {path}"
    assert said == _refused().get(test.nodeid, []), f"refused in other words; {words}"
    others = answered.differs(_answered(file).get(name, {}), given)
    assert not others, f"{', '.join(others)} answered otherwise than before; {words}"
