"""Which drains run together before they come out, and where each must fall to by itself."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from bilge_core.document.circuit.circuit import Circuit
from bilge_core.document.circuit.falling import drain_runs
from bilge_core.document.circuit.pumps import ScavengeStage
from bilge_core.document.circuit.run import Run


@dataclass(frozen=True)
class Way:
    """A drain's runs as far as it is judged to fall.

    runs : tuple of Run, the housing's own first
    stage : id of the stage that pulls it; empty: it falls to pan or block
    alone : whether that stage is its own
    junction : id of where it meets others on their way to a stage; empty: it meets none
    with_others : by a run's id, the first runs of the drains whose oil is in it besides
    """

    runs: tuple[Run, ...]
    stage: str = ""
    alone: bool = False
    junction: str = ""
    with_others: Mapping[str, tuple[str, ...]] = field(default_factory=dict)


def ways_of(circuit: Circuit, firsts: Sequence[Run]) -> dict[str, Way]:
    """The way of each of some drains, by its first run's id.

    Parameters
    ----------
    circuit : Circuit
    firsts : sequence of Run
        Of the drains, each from its housing.

    Notes
    -----
    Of two inlets on one stage the dry one takes all: the wet one gets nothing (by trial in the
    circuit's own network, 20 and 0 L/min). So lines that meet on their way to a stage are told as
    falling to where they meet, by themselves, and the stage as emptying that place.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> circuit = read_build(Path("demo/sandpiper.json").read_text()).circuit
    >>> first = next(run for run in circuit.runs if run.name == "drain of the turbo")
    >>> way = ways_of(circuit, [first])[first.id]
    >>> way.stage, way.with_others
    ('', {})
    """
    whole = {first.id: drain_runs(circuit, first) for first in firsts}
    through: dict[str, list[str]] = defaultdict(list)
    for first, runs in whole.items():
        for run in runs:
            through[run.id].append(first)
    ends = {first: circuit.component(runs[-1].end.component) for first, runs in whole.items()}
    stages = {first: end.id for first, end in ends.items() if isinstance(end, ScavengeStage)}
    inlets = Counter(stages.values())
    found = {}
    for first, runs in whole.items():
        stage = stages.get(first, "")
        if not stage:
            others = {
                run.id: tuple(each for each in through[run.id] if each != first)
                for run in runs
                if len(through[run.id]) > 1
            }
            found[first] = Way(runs, with_others=others)
        elif inlets[stage] == 1:
            found[first] = Way(runs, stage, alone=True)
        else:
            own = tuple(run for run in runs if len(through[run.id]) == 1)
            found[first] = Way(own, stage, junction=own[-1].end.component)
    return found
