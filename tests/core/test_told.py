"""Nothing that is told of a build changes unmeant: all of it for eight builds, beside this file.

Every figure kept there is this program's own, of invented builds: it says that nothing moved, not
that it is right. What is right is checked elsewhere, by hand and against other sources.
When one of these fails and the change is meant, ``python -m tests.core.test_told`` tells anew what
is kept in ``tests/core/told``; read in the difference of those files what else it moved.
"""

from __future__ import annotations

import json
import re
from functools import cache
from pathlib import Path
from typing import Any

import pytest

from tests.core import test_acts
from tests.core.circuit_acts import ONE_OF_EACH
from tests.core.told_all import SECTIONS, Stages, short_lap, told
from tests.core.told_others import BUILDS, OTHERS, done_in_turn, ring
from tests.core.told_shortly import differs
from tests.turbo import turbo_lap

KEPT = Path(__file__).parent / "told"
BETWEEN = {
    "dunlin-shop": "dunlin", "plumbed": "dunlin", "sandpiper-mended": "sandpiper",
    "curlew": "dunlin", "flat-six": "flat-six", "vee-rear-sump": "vee-rear-sump",
    "fitted": "inline-front-sump", "fitted-gated": "dunlin-gated",
}  # fmt: skip
"""What is told of, and what the car is that a job makes it of."""
SLOW = {"guesses": {"plumbed", "fitted", "curlew"}, "remedies": {"dunlin-shop", "flat-six"}}
"""What takes a second and more, and of which builds it is told alone."""


_ANEW = {"go_dry", "sump_preset"}
"""Acts that would take away what others fitted."""


@cache
def stages(name: str) -> Stages:
    as_is = BUILDS[BETWEEN[name]]
    on_circuit = [each for before, raw, _ in ONE_OF_EACH for each in (*before, raw)]
    on_pan = [raw for raw, _ in test_acts.ONE_OF_EACH if raw["kind"] not in _ANEW]
    acts = {"fitted": on_circuit, "fitted-gated": on_pan}.get(name)
    build = BUILDS[name] if acts is None else done_in_turn(as_is, acts)
    log = short_lap(turbo_lap()) if "sandpiper" in name else ring()
    return Stages(build, log, as_is)


def of_build(name: str) -> dict[str, Any]:
    return {
        section: told(stages(name), section)
        for section in SECTIONS
        if name in SLOW.get(section, {name})
    }


def tell(name: str) -> Any:
    return json.loads(json.dumps(OTHERS[name]() if name in OTHERS else of_build(name)))


@pytest.mark.parametrize("name", [*BETWEEN, *OTHERS])
def test_it_is_what_it_was(name: str) -> None:
    was = json.loads((KEPT / f"{name}.json").read_text())
    found = differs(was, tell(name))
    assert not found, "\n".join(found[:40])


def _in_a_row(found: re.Match[str]) -> str:
    inside = re.sub(r"\n *", " ", found[1])
    return f"[{inside}]"


def main() -> None:
    """Tell all of it anew."""
    KEPT.mkdir(exist_ok=True)
    for name in (*BETWEEN, *OTHERS):
        text = json.dumps(tell(name), indent=1, ensure_ascii=False)
        rows = re.sub(r"\[\s+([^\[\]{}]*?)\s+\]", _in_a_row, text)
        (KEPT / f"{name}.json").write_text(rows + "\n")


if __name__ == "__main__":
    main()
