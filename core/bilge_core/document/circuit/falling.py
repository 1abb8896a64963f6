"""A drain's runs: from what it drains through tees, fittings and valves to where oil comes out."""

from __future__ import annotations

from bilge_core.document.circuit.circuit import Circuit
from bilge_core.document.circuit.engine_side import Crankcase
from bilge_core.document.circuit.pumps import PanRegion, ScavengeStage
from bilge_core.document.circuit.run import Run


def drain_runs(circuit: Circuit, first: Run) -> tuple[Run, ...]:
    """A drain's runs, from its first one as far as a stage, the pan or the block.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> circuit = read_build(Path("demo/sandpiper.json").read_text()).circuit
    >>> first = next(run for run in circuit.runs if run.name == "drain of the turbo")
    >>> [run.name for run in drain_runs(circuit, first)]
    ['drain of the turbo']
    """
    runs = [first]
    while True:
        component = circuit.component(runs[-1].end.component)
        if component is None or isinstance(component, PanRegion | Crankcase | ScavengeStage):
            return tuple(runs)
        onward = [
            run
            for run in circuit.runs
            if run.start.component == component.id
            and run.service in ("drain", "scavenge")
            and run not in runs
        ]
        if not onward:
            return tuple(runs)
        runs.append(onward[0])
