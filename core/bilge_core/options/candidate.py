"""A remedy as a list of acts, with what it needs and what it takes away."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np

from bilge_core.acts.registry import read_act
from bilge_core.clearance.crank import crank_gap
from bilge_core.clearance.ground import ground_clearance
from bilge_core.clearance.keep_outs import Clearance, clearances
from bilge_core.document.build import Build
from bilge_core.document.ids import ids_of, with_ids_of_a_trial
from bilge_core.document.reach import felt_by
from bilge_core.document.read import build_from
from bilge_core.document.remembered import remembered
from bilge_core.errors import BilgeError, InvalidInput
from bilge_core.job.difference import Work, work_between
from bilge_core.job.operations import OPERATIONS
from bilge_core.pan import assemble_pan, level_of_volume
from bilge_core.physics.axes import standing_up
from bilge_core.shop import PARTS, ShopPart
from bilge_core.shop.fittings import Fitting

Group = Literal[
    "joint", "oil", "gates", "plates", "crank", "sump", "pickup", "pan", "returns", "bottle",
    "circuit", "dry", "own", "together",
]  # fmt: skip
"""What a remedy is of; two of one group are not tried together."""

Act = Mapping[str, Any]


@dataclass(frozen=True)
class Candidate:
    """A remedy.

    key : what it is known by
    title : as a row is headed
    group : Group
    acts : as plain data, in order
    note : what it asks later on, or what the model cannot tell of it
    build : the build with it; None where it does not apply
    reason : why it does not apply
    told : whether the model feels it; otherwise nothing is run
    parts : keys of the single remedies that it is made of
    """

    key: str
    title: str
    group: Group
    acts: tuple[Act, ...]
    note: str = ""
    build: Build | None = None
    words: str = ""
    reason: str = ""
    told: bool = True
    parts: tuple[str, ...] = ()

    @property
    def applies(self) -> bool:
        """There is a build with it."""
        return self.build is not None


def candidate(
    base: Build,
    key: str,
    title: str,
    group: Group,
    acts: Sequence[Act],
    note: str = "",
    told: bool = True,
    parts: tuple[str, ...] = (),
) -> Candidate:
    """A remedy worked out on a build: the build with it, or why it does not apply.

    Parameters
    ----------
    base : Build
    key, title : str
    group : Group
    acts : sequence of dict
        Done one after the other.
    note : str
    told : bool
    parts : tuple of str

    Returns
    -------
    Candidate

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> one = candidate(build, "more", "1 L more", "oil", [{"kind": "refill", "to_l": 7.2}])
    >>> one.build.oil.volume_l, one.words
    (7.2, 'filled to 7.2 L')
    >>> candidate(build, "x", "No", "bottle", [{"kind": "tune_accumulator"}]).reason
    'needs a accumulator in the circuit; there is none'
    """
    build, words = base, []
    rulings = {str(kind): ruling for kind, ruling in base.car.class_rules.items()}
    try:
        for raw in acts:
            act = read_act(dict(raw))
            if rulings.get(act.kind) == "not_allowed":
                raise _NotAllowedError("the class does not allow it")
            done = act.done(build)
            build = done.build
            words.append(done.words)
    except _NotAllowedError as error:
        return Candidate(key, title, group, tuple(acts), note, reason=str(error), parts=parts)
    except InvalidInput as error:
        reason = "; ".join(problem.message for problem in error.problems)
        return Candidate(key, title, group, tuple(acts), note, reason=reason, parts=parts)
    except BilgeError as error:
        return Candidate(key, title, group, tuple(acts), note, reason=str(error), parts=parts)
    build = _on_trial(base, build, acts)
    touches = _touches(base, build)
    if touches:
        return Candidate(key, title, group, tuple(acts), note, reason=touches, parts=parts)
    return Candidate(key, title, group, tuple(acts), note, build, ", ".join(words), "", told, parts)


def _on_trial(base: Build, build: Build, acts: Sequence[Act]) -> Build:
    """The build with new parts known by what was done, so that no real part is taken for one."""
    known = ids_of(base.model_dump(mode="json"))
    plain = build.model_dump(mode="json")
    if ids_of(plain).keys() <= known.keys():
        return build
    return build_from(with_ids_of_a_trial(plain, known, [dict(each) for each in acts]))


class _NotAllowedError(Exception):
    """The class that the car runs in forbids one of the acts."""


def _touches(base: Build, build: Build) -> str:
    """What a changed pan would stand in, that the pan as it is does not."""
    if build.pan == base.pan:
        return ""
    before = {each.index: each.gap for each in _gaps(base)}
    for each in _gaps(build):
        if each.gap < 0.0 <= before.get(each.index, 0.0):
            return f"no room: the pan would stand {-each.gap * 1e3:.0f} mm in the {each.name}"
    ground = ground_clearance(build, assemble_pan(build))
    if ground is not None and ground.gap < 0.0:
        return f"no room: the pan would stand {-ground.gap * 1e3:.0f} mm in the ground"
    return ""


def _felt_by_gaps(build: Build) -> str:
    return json.dumps(felt_by("clearance", build.model_dump(mode="json")), sort_keys=True)


@remembered(_felt_by_gaps, most=64)
def _gaps(build: Build) -> tuple[Clearance, ...]:
    """Of the pan to what is round it; most remedies leave its outside as it is."""
    return clearances(build, assemble_pan(build))


@dataclass(frozen=True)
class Prices:
    """What a workshop pays and how long it works, by the keys of parts and operations.

    parts : what is typed over the generic parts, and what it added to them
    hours : what is typed over the generic hours [h]
    fittings : those of its own that lines are screwed together with
    """

    parts: Mapping[str, ShopPart]
    hours: Mapping[str, float]
    fittings: tuple[Fitting, ...] = ()

    @classmethod
    def generic(cls) -> Prices:
        """Nothing typed over."""
        return cls({}, {})

    def part(self, key: str) -> ShopPart:
        """A part as it is paid here."""
        return self.parts.get(key) or PARTS[key]

    def knows(self, key: str) -> bool:
        """Whether there is such a part here."""
        return key in self.parts or key in PARTS

    def hours_of(self, key: str) -> float:
        """Hours of an operation once [h]."""
        return self.hours.get(key, OPERATIONS[key].hours)


@dataclass(frozen=True)
class Needs:
    """What a change takes, each the plain sum of its rows.

    work : Work
    cost : of its parts
    hours : of its operations [h]
    lead_days : of the part that takes longest [d]
    weight : of its parts, oil among them only where there is more of it [kg]
    """

    work: Work
    cost: float
    hours: float
    lead_days: int
    weight: float


def needs_of(before: Build, after: Build, prices: Prices | None = None) -> Needs:
    """Parts, hours, lead time and weight of a change.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> needs = needs_of(build, read_act({"kind": "refill", "to_l": 7.2}).done(build).build)
    >>> needs.cost, needs.hours, needs.lead_days
    (16.0, 0.3, 0)
    """
    more = after.oil.volume_l - before.oil.volume_l
    return priced(work_between(before, after), more, prices or Prices.generic())


def priced(work: Work, more_oil_l: float, paid: Prices) -> Needs:
    """Work at a workshop's prices and hours; `more_oil_l` [L] weighs what it weighs."""
    cost = sum(paid.part(key).cost * count for key, count in work.parts)
    hours = sum(paid.hours_of(key) * times for key, times in work.operations)
    lead = max((paid.part(key).lead_days for key, _ in work.parts), default=0)
    weight = paid.part("oil").weight * more_oil_l + sum(
        paid.part(key).weight * count for key, count in work.parts if key not in _NO_WEIGHT
    )
    return Needs(work, round(cost, 2), round(hours, 2), lead, round(weight, 2))


_NO_WEIGHT = frozenset({"oil", "pan_gasket", "oil_filter"})
"""What takes the place of the same."""


@dataclass(frozen=True)
class Room:
    """What a build leaves: gaps that a remedy may take away.

    ground : under the pan's lowest corner [m]; None: not known
    ground_spare : of it beyond what is wanted [m]; None: not known
    crank : standing oil below the crank's swept circle [m]; None: not known
    tight : names of what is round the pan and nearer than wanted
    """

    ground: float | None
    ground_spare: float | None
    crank: float | None
    tight: tuple[str, ...]

    def is_worse_than(self, other: Room) -> str:
        """What a build may not be the smallest that holds for, in words; empty: nothing.

        Examples
        --------
        >>> Room(0.039, -0.006, 0.02, ()).is_worse_than(Room(0.058, 0.013, 0.03, ()))
        'ground clearance 39 mm, 6 mm less than wanted'
        """
        short = self.ground_spare is not None and self.ground_spare < 0.0
        if short and self.ground_spare != other.ground_spare:
            assert self.ground is not None and self.ground_spare is not None
            less = -self.ground_spare * 1e3
            return f"ground clearance {self.ground * 1e3:.0f} mm, {less:.0f} mm less than wanted"
        if (
            self.crank is not None
            and self.crank <= 0.0
            and (other.crank is None or other.crank > 0.0)
        ):
            return f"standing oil reaches {-self.crank * 1e3:.0f} mm into the crank's sweep"
        fresh = [name for name in self.tight if name not in other.tight]
        return f"nearer to the {fresh[0]} than wanted" if fresh else ""


def room_of(build: Build) -> Room:
    """The gaps that a build leaves, car standing level, oil as it runs.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> room = room_of(read_build(Path("demo/dunlin.json").read_text()))
    >>> round(room.ground * 1e3), room.tight
    (58, ('exhaust',))
    """
    pan = assemble_pan(build)
    ground = ground_clearance(build, pan)
    up = standing_up(build.car)
    crank = None
    if build.car.crank is not None:
        level = level_of_volume(pan.solid, up, pan.oil_volume)
        crank = float(crank_gap(build.car.crank, up[None, :], np.array([level]))[0])
    tight = tuple(each.name for each in _gaps(build) if each.gap < each.wanted)
    return Room(
        None if ground is None else ground.gap,
        None if ground is None else ground.margin,
        crank,
        tight,
    )
