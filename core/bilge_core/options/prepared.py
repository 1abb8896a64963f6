"""The remedies for a build made ready to be tried: what each takes, and what it leaves."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from bilge_core.document.build import Build
from bilge_core.errors import BilgeError
from bilge_core.forecast.bottle_map import bottle_map
from bilge_core.job.difference import Work, work_between
from bilge_core.options.candidate import (
    Candidate,
    Needs,
    Prices,
    Room,
    candidate,
    priced,
    room_of,
)
from bilge_core.options.ladder import Entry
from bilge_core.options.on_circuit import BOTTLE, CHARGES, bottle_acts
from bilge_core.options.remedies import remedies
from bilge_core.options.trial import BaseLap

HOUR_WORTH = 60.0
"""What an hour in the own workshop counts as beside money, in ranking efforts (ours: invented)."""


@dataclass(frozen=True)
class Prepared:
    """A remedy, what it takes and what it leaves.

    candidate : Candidate
    work : Work; None where it does not apply
    more_oil : in the engine [m3]
    room : Room; None where it does not apply
    worse : why it may not be the smallest that holds, in words; empty: it may
    same_pan : pan, pickup and oil in the pan are as they were
    has_plates : plates stand in its pan
    """

    candidate: Candidate
    work: Work | None
    more_oil: float
    room: Room | None
    worse: str
    same_pan: bool
    has_plates: bool

    def needs(self, prices: Prices) -> Needs | None:
        """What it takes at a workshop's prices."""
        return None if self.work is None else priced(self.work, self.more_oil * 1e3, prices)

    def entry(self, prices: Prices) -> Entry | None:
        """For the ladder; None where nothing is to be run."""
        needs = self.needs(prices)
        if needs is None or not self.candidate.told:
            return None
        effort = needs.cost + HOUR_WORTH * needs.hours
        return Entry(self.candidate.key, effort, self.same_pan, self.has_plates, not self.worse)


def prepared(base: Build, each: Candidate, room: Room) -> Prepared:
    """One remedy made ready; `room` is what the build as it is leaves."""
    build = each.build
    if build is None:
        return Prepared(each, None, 0.0, None, "", False, False)
    left = room_of(build)
    more = (build.oil.volume_l - base.oil.volume_l) * 1e-3
    return Prepared(
        each, work_between(base, build), more, left, left.is_worse_than(room),
        build.pan == base.pan and build.pickup == base.pickup and each.group in _CIRCUIT,
        bool(build.pan.plates),
    )  # fmt: skip


_CIRCUIT = ("circuit", "bottle", "returns", "joint", "own")


@dataclass(frozen=True)
class Own:
    """A remedy of the builder's own: its name and its acts."""

    title: str
    acts: Sequence[Mapping[str, Any]]


def prepare(
    base: Build, lap: BaseLap | None, off: Sequence[str] = (), own: Sequence[Own] = ()
) -> tuple[Prepared, ...]:
    """All remedies for a build.

    Parameters
    ----------
    base : Build
    lap : BaseLap or None
        Of it, for the best pre-charge of a bottle; None: not run yet, a usual charge is taken.
    off : sequence of str
        Keys that the builder switched off.
    own : sequence of Own
        The builder's own.

    Returns
    -------
    tuple of Prepared
    """
    charge = None if lap is None else best_charge_on(lap)
    room = room_of(base)
    found = list(remedies(base, charge))
    for number, each in enumerate(own, start=1):
        found.append(candidate(base, f"own_{number}", each.title, "own", each.acts))
    return tuple(prepared(base, each, room) for each in found if each.key not in off)


def best_charge_on(lap: BaseLap) -> float | None:
    """The pre-charge [bar] with which a bottle does best on a build's record.

    None where none can be fitted.
    """
    build = lap.build
    for raw in bottle_acts(build, None, check=True, valve="by_hand"):
        one = candidate(build, "", "", "bottle", [raw])
        if one.build is None:
            return None
        build = one.build
    try:
        found = bottle_map(
            build, lap.log, lap.record, lap.corners, [BOTTLE * 1e-3],
            [charge * 1e5 for charge in CHARGES],
        )  # fmt: skip
    except BilgeError:
        return None
    return CHARGES[found.best[1]]
