"""Keeps anew what tests of the core are refused and answered; what others were, stays as it is.

``python -m tests.core.kept_anew [PATHS]``; the difference of ``tests/core/told`` shows what moved.
"""

from __future__ import annotations

import json
import sys
from collections import defaultdict
from pathlib import Path
from typing import Any

import pytest

from tests.core import answered, refused

PLUGIN = "kept anew"


class Anew:
    """Gathers what is refused and answered, in place of comparing it."""

    def __init__(self) -> None:
        self.refused: dict[str, list[str]] = {}
        self.answered: dict[str, dict[str, answered.Kept]] = defaultdict(dict)


def _write(path: Path, rows: dict[str, Any], was: dict[str, Any]) -> None:
    """A row for each test that has something to keep."""
    both = {name: kept for name, kept in sorted((was | rows).items()) if kept}
    lines = [f"{json.dumps(name)}: {json.dumps(kept)}" for name, kept in both.items()]
    path.parent.mkdir(exist_ok=True)
    path.write_text("{\n" + ",\n".join(lines) + "\n}\n")


def main(paths: list[str]) -> int:
    """Run tests and keep what they were told."""
    anew = Anew()

    class Plugin:
        def pytest_configure(self, config: pytest.Config) -> None:
            config.pluginmanager.register(anew, PLUGIN)

    code = int(pytest.main(["-p", "no:xdist", *(paths or ["tests/core"])], plugins=[Plugin()]))
    said = {name: words for name, words in sorted((refused.kept() | anew.refused).items()) if words}
    refused.KEPT.write_text(json.dumps(said, indent=1, ensure_ascii=False) + "\n")
    for file, rows in anew.answered.items():
        _write(answered.KEPT / f"{file}.json", rows, answered.kept(file))
    return code


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
