"""When an oil circuit checks out."""

from __future__ import annotations

from collections.abc import Sequence

from bilge_core.rules.rule import COMMON, Check, Rule, State

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
BOTTLE_CHARGE = Rule(
    "bottle_charge",
    "A bottle's pre-charge, warm, is below where the relief opens",
    "ours: above it no oil ever goes in; warm it is a tenth to a third over what it was cold",
    high=1.0,
    unit="1",
)
BOTTLE_SIZE = Rule(
    "bottle_size",
    "A bottle holds less than half of the engine's oil",
    "ours: what it takes is missing in the pan until it gives it back",
    high=0.5,
    unit="1",
)
RULES = (PORTS_SHUT, ONE_SOURCE, WAY_BACK, NO_CLOSED_LOOP, BOTTLE_CHARGE, BOTTLE_SIZE)

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


def check_charge(bottle: str, warm_bar: float, opens_bar: float, field: str) -> Check | None:
    """A bottle's pre-charge [bar] at the warmth it comes to, beside the relief's opening."""
    if BOTTLE_CHARGE.holds(warm_bar / opens_bar):
        return None
    words = (
        f"{bottle}: warm, its gas has {warm_bar:.1f} bar, and the relief opens at "
        f"{opens_bar:.1f} bar: no oil goes in; charge it to less"
    )
    return Check("bad", words, field, BOTTLE_CHARGE)


def check_size(bottle: str, litres: float, oil: float, field: str) -> Check | None:
    """A bottle's volume [L] beside all oil that was poured."""
    if BOTTLE_SIZE.holds(litres / oil):
        return None
    state: State = "bad" if litres >= oil else "caution"
    words = (
        f"{bottle} holds up to {litres:.1f} L of the {oil:.1f} L there are: pour more, or fit less"
    )
    return Check(state, words, field, BOTTLE_SIZE)


def whole(components: int, runs: int) -> Check:
    """Nothing is open, unfed or without a way back."""
    words = f"The circuit checks out: {components} components, {runs} runs, every port shut"
    return Check("good", words, _FIELD, PORTS_SHUT)
