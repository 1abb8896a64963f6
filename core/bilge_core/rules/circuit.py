"""When an oil circuit checks out."""

from __future__ import annotations

from collections.abc import Sequence

from bilge_core.rules.rule import COMMON, Check, Rule

PORTS_SHUT = Rule("ports_shut", "Every port is joined or plugged", COMMON)
ONE_SOURCE = Rule(
    "one_source",
    "Every part under pressure is fed from one pressure stage",
    "ours: from none it runs dry, from two neither's relief rules it",
    low=1.0,
    high=1.0,
    unit="stages",
)
WAY_BACK = Rule("way_back", "Oil has a way back to a pan or a tank from everywhere", COMMON)
NO_CLOSED_LOOP = Rule(
    "no_closed_loop",
    "No loop of pumps and lines is without a pan or a tank",
    "ours: what leaks from it is never made good, and its gas never leaves",
)
RULES = (PORTS_SHUT, ONE_SOURCE, WAY_BACK, NO_CLOSED_LOOP)

_FIELD = "circuit"


def check_port(component: str, port: str, field: str) -> Check:
    """A port that is neither joined nor plugged."""
    words = f"{component}: the port {port!r} is open; join it or plug it"
    return Check("bad", words, field, PORTS_SHUT)


def check_boss(boss: str, blocked: bool, field: str) -> Check:
    """A boss of the pan that a line ends at although it is blocked, or that is open."""
    words = (
        f"A line ends at the pan's boss {boss!r}, which is blocked"
        if blocked
        else f"The pan's boss {boss!r} is open: no line ends at it; join it or block it"
    )
    return Check("bad", words, field, PORTS_SHUT)


def check_sources(component: str, stages: Sequence[str], field: str) -> Check | None:
    """The pressure stages that feed a part under pressure."""
    if ONE_SOURCE.holds(len(stages)):
        return None
    if not stages:
        words = f"{component} has a line under pressure that no pressure stage feeds"
    else:
        words = f"{component} is fed from {' and '.join(stages)}: one stage must feed it"
    return Check("bad", words, field, ONE_SOURCE)


def check_way_back(component: str, port: str, field: str) -> Check:
    """A place that oil goes into and does not come back from."""
    words = f"Oil that goes into {component} ({port}) has no way back to a pan or a tank"
    return Check("bad", words, field, WAY_BACK)


def check_loop(components: Sequence[str]) -> Check:
    """A loop that oil goes round in without a pan or a tank."""
    words = f"A loop without a pan or a tank: {', '.join(components)}"
    return Check("bad", words, _FIELD, NO_CLOSED_LOOP)


def whole(components: int, runs: int) -> Check:
    """Nothing is open, unfed or without a way back."""
    words = f"The circuit checks out: {components} components, {runs} runs, every port shut"
    return Check("good", words, _FIELD, PORTS_SHUT)
