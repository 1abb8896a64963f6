"""Every refusal that a test of the core expects, kept whole in ``told/refused.json``.

A test says of a refusal what matters to it, often a few words; what else stands there, figures and
units among it, is compared with what it was. It says that nothing moved, not that it is right.
``python -m tests.core.kept_anew [PATHS]`` runs the tests and keeps anew what they were told.
"""

from __future__ import annotations

import json
from contextlib import AbstractContextManager
from pathlib import Path
from types import TracebackType
from typing import Any

from bilge_core.errors import BilgeError

KEPT = Path(__file__).parent / "told" / "refused.json"


class Whole:
    """What `pytest.raises` gives, which notes the whole of what was refused."""

    def __init__(self, expected: AbstractContextManager[Any], said: list[str]) -> None:
        self._expected, self._said = expected, said

    def __enter__(self) -> Any:
        return self._expected.__enter__()

    def __exit__(
        self,
        kind: type[BaseException] | None,
        error: BaseException | None,
        trace: TracebackType | None,
    ) -> bool | None:
        is_met = self._expected.__exit__(kind, error, trace)
        if is_met and isinstance(error, BilgeError):
            self._said.append(str(error))
        return is_met


def kept() -> dict[str, list[str]]:
    """What was refused in each test, in its order."""
    found: dict[str, list[str]] = json.loads(KEPT.read_text())
    return found
