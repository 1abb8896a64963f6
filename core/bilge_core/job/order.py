"""In which order, and when: what must come first, waits overlapped, days of a workshop."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta

import networkx as nx

from bilge_core.errors import InvalidQuantity
from bilge_core.job.step import PHASES, CardStep

_PHASE = {phase: at for at, phase in enumerate(PHASES)}
_MORNING = 9.0  # [h] at which a day begins, earlier where it is longer (ours)
_WEEKEND = 5  # Monday is nil


def graph_of(steps: Sequence[CardStep]) -> nx.DiGraph:
    """What must come before what.

    Parameters
    ----------
    steps : sequence of CardStep

    Returns
    -------
    networkx.DiGraph
        Of ids; an edge goes from what is needed to what needs it.

    Raises
    ------
    InvalidQuantity
        If steps wait for each other in a ring.
    """
    graph = nx.DiGraph()
    graph.add_nodes_from(each.id for each in steps)
    graph.add_edges_from((need, each.id) for each in steps for need in each.needs)
    if not nx.is_directed_acyclic_graph(graph):
        ring = " -> ".join(edge[0] for edge in nx.find_cycle(graph))
        raise InvalidQuantity("needs", ring, "steps that do not wait for each other in a ring")
    return graph


def _tails(graph: nx.DiGraph, steps: Mapping[str, CardStep]) -> dict[str, float]:
    """From the beginning of each step to the end of all that hangs on it [h]."""
    tails: dict[str, float] = {}
    for name in reversed(list(nx.topological_sort(graph))):
        own = steps[name]
        behind = max((tails[each] for each in graph.successors(name)), default=0.0)
        tails[name] = own.hours + own.wait + 24.0 * own.wait_days + behind
    return tails


def critical_path(steps: Sequence[CardStep]) -> tuple[str, ...]:
    """Ids of the chain that decides how long it takes, however many hands there are.

    Examples
    --------
    >>> critical_path([])
    ()
    """
    if not steps:
        return ()
    graph, by_id = graph_of(steps), {each.id: each for each in steps}
    tails = _tails(graph, by_id)
    at = max(graph.nodes, key=lambda name: tails[name])
    chain = [at]
    while following := list(graph.successors(at)):
        at = max(following, key=lambda name: tails[name])
        chain.append(at)
    return tuple(chain)


@dataclass(frozen=True)
class Days:
    """When a workshop works.

    hours : of a day [h]
    weekends : whether they are worked
    """

    hours: float = 24.0
    weekends: bool = True

    def _opens(self, day: date) -> datetime:
        return datetime.combine(day, time(0, 0)) + timedelta(hours=min(_MORNING, 24.0 - self.hours))

    def _is_worked(self, day: date) -> bool:
        return self.weekends or day.weekday() < _WEEKEND

    def begins(self, at: datetime) -> datetime:
        """The first moment from then on at which somebody works.

        Examples
        --------
        >>> Days(6, weekends=False).begins(datetime(2026, 7, 11, 12, 0))  # a Saturday
        datetime.datetime(2026, 7, 13, 9, 0)
        """
        while True:
            opens = self._opens(at.date())
            shuts = opens + timedelta(hours=self.hours)
            if self._is_worked(at.date()) and at < shuts:
                return max(at, opens)
            at = datetime.combine(at.date() + timedelta(days=1), time(0, 0))

    def worked(self, at: datetime, hours: float) -> datetime:
        """When work of so many hours is over that begins then; it goes on the next day.

        Examples
        --------
        >>> Days(6, weekends=False).worked(datetime(2026, 7, 10, 14, 0), 2.0)
        datetime.datetime(2026, 7, 13, 10, 0)
        """
        at = self.begins(at)
        left = timedelta(hours=hours)
        while left > timedelta(0):
            at = self.begins(at)
            until = self._opens(at.date()) + timedelta(hours=self.hours)
            taken = min(left, until - at)
            at, left = at + taken, left - taken
        return at


@dataclass(frozen=True)
class Placed:
    """A step in its place in time.

    step : CardStep
    begins, ends : of the hands' work
    over : when its wait is over
    idle : nobody could do anything for so long before it [h]
    """

    step: CardStep
    begins: datetime
    ends: datetime
    over: datetime
    idle: float


def _waited_for(step: CardStep, ends: datetime) -> datetime:
    return ends + timedelta(hours=step.wait, days=step.wait_days)


def placed_in_time(
    steps: Sequence[CardStep],
    begin: datetime,
    days: Days,
    there: Mapping[str, datetime] | None = None,
    done: Collection[str] = (),
    over: Mapping[str, datetime] | None = None,
) -> tuple[Placed, ...]:
    """One pair of hands: always the earliest part of the job that can be done, in waits as well.

    Parameters
    ----------
    steps : sequence of CardStep
    begin : datetime
    days : Days
    there : mapping of step id to datetime, optional
        When what a step needs has come.
    done : collection of str
        Ids that are done: they are not placed.
    over : mapping of step id to datetime, optional
        When the wait of a step that is done is over.

    Returns
    -------
    tuple of Placed
        In the order of the work, each behind all that it needs.

    Raises
    ------
    InvalidQuantity
        If steps wait for each other in a ring.

    Notes
    -----
    List scheduling on one machine with delays. Of what can be done now, a part of the job that
    comes earlier goes first; in it what has to wait afterwards, then what most hangs on. Not always
    the shortest: a card that jumps between parts of a job is not followed.
    """
    graph, by_id = graph_of(steps), {each.id: each for each in steps}
    tails = _tails(graph, by_id)
    released = dict(over or {})
    rank = {
        each.id: (_PHASE[each.step.phase], -each.wait - 24.0 * each.wait_days, -tails[each.id], at)
        for at, each in enumerate(steps)
    }
    left = [each.id for each in steps if each.id not in done]
    finished = {each for each in by_id if each in done}
    arrivals = there or {}
    now, placed = days.begins(begin), []
    while left:
        ready = {
            name: max(
                [now, *(released.get(need, now) for need in by_id[name].needs),
                 arrivals.get(name, now)]
            )
            for name in left
            if all(need in finished for need in by_id[name].needs)
        }  # fmt: skip
        soonest = min(ready.values())
        name = min((n for n, when in ready.items() if when <= soonest), key=lambda n: rank[n])
        step, begins = by_id[name], days.begins(max(now, soonest))
        ends = days.worked(begins, step.hours)
        idle = (begins - now).total_seconds() / 3600.0
        placed.append(Placed(step, begins, ends, _waited_for(step, ends), idle))
        released[name] = placed[-1].over
        now = ends
        finished.add(name)
        left.remove(name)
    return tuple(placed)


def in_order(steps: Sequence[CardStep]) -> tuple[CardStep, ...]:
    """Steps in the order of the work.

    Raises
    ------
    InvalidQuantity
        If steps wait for each other in a ring.

    Examples
    --------
    >>> in_order([])
    ()
    """
    placed = placed_in_time(steps, datetime(2026, 1, 5, 0, 0), Days())
    return tuple(each.step for each in placed)


def needed_by(steps: Iterable[CardStep], step: str) -> frozenset[str]:
    """Ids of all that must come before a step, however far."""
    graph = graph_of(list(steps))
    return frozenset(nx.ancestors(graph, step)) if step in graph else frozenset()
