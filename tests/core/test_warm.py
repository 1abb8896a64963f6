"""What is compiled at installation, so that nobody waits for it later."""

from __future__ import annotations

import os
import subprocess
import sys

from tests.conftest import ROOT

_TELL = """
from bilge_core.warm import warm_up
warm_up()
from bilge_core.drains import drain_rose, filling, over_lap, profile
loops = (drain_rose._edges, filling.fill_over, over_lap._steadily, profile.march_up)
print([each.py_func.__name__ for each in loops if not each.signatures])
"""


def test_the_loops_of_drains_are_among_what_is_compiled() -> None:
    path = os.pathsep.join(str(ROOT / each) for each in ("core", "server", "."))
    done = subprocess.run(
        [sys.executable, "-c", _TELL], env={**os.environ, "PYTHONPATH": path},
        capture_output=True, text=True, check=True,
    )  # fmt: skip
    assert done.stdout.strip() == "[]"
