"""From a build's circuit to its network: nodes that hold oil, elements that let it through."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from bilge_core.document.build import Build
from bilge_core.errors import InvalidInput, Problem
from bilge_core.network.draft import Draft, Port
from bilge_core.network.elimination import plan_elimination
from bilge_core.network.guesses import Guessed, known_of
from bilge_core.network.laws import CHARGED_AT
from bilge_core.network.layout import lay_out
from bilge_core.network.oil import NetworkOil, oil_of
from bilge_core.network.records import (
    BOTTLE,
    ELEMENT,
    HOLE,
    NODE,
    PARCELS,
    STEP,
    VESSEL,
    WHOLE,
    Flowing,
    Rows,
    at_rest,
)
from bilge_core.network.references import running_speed

_BULK = 1.2e9
"""Bulk modulus of oil with what hoses give [Pa]; oil alone has about 1.5e9 (from memory)."""
_VAPOUR = 3e3
"""[Pa] absolute under which oil in a pump's inlet gives off its gas (ours: nearly nil)."""
_STAYS = 0.01
"""Share of a node's volume that is gas at the air's pressure and stays (ours): a node without gas
cannot cavitate and has no solution."""
_BOTTLE_TAKES = 10.0
"""[s] in which a bottle's gas comes to the bottle's warmth (from memory)."""


@dataclass(frozen=True)
class Network:
    """A circuit, ready to be run.

    still : Flowing, at rest
    oil : NetworkOil, running
    node_of : component's id and port to its node, of all that is under pressure
    gallery, inlet, outlet : nodes of the main gallery, of the pump's inlet and outlet
    elements : component's id and what it is, element by element: such as ("c4", "relief")
    vessels : component's id and what it is, vessel by vessel
    ways : where each way back comes out: "" along the skirt, else the boss's id
    taken : keys of the guesses used
    running : crank speed at which what the engine holds is told [rad/s]
    """

    still: Flowing
    oil: NetworkOil
    node_of: Mapping[tuple[str, str], int]
    gallery: int
    inlet: int
    outlet: int
    elements: tuple[tuple[str, str], ...]
    vessels: tuple[tuple[str, str], ...]
    ways: tuple[str, ...]
    taken: tuple[str, ...]
    running: float

    def element(self, component: str, what: str) -> int:
        """Number of a component's element; of a pump its stage.

        Raises
        ------
        ValueError
            If there is none.
        """
        return self.elements.index((component, what))


def _checked(draft: Draft) -> None:
    if not any(what == "stage" for _, what in draft.names):
        raise InvalidInput([Problem("circuit.components", "must have a pressure stage")])
    if draft.gallery is None:
        raise InvalidInput(
            [
                Problem(
                    "circuit.runs",
                    "must lead oil from the pump to a gallery, or nothing tells its pressure",
                )
            ]
        )


def flowing_of(
    draft: Draft, oil: NetworkOil, guessed: Guessed
) -> tuple[Flowing, Mapping[Port, int]]:
    """What is laid out, as the compiled loops take it, at rest; and the node of each port."""
    numbers, starts, ends = draft.numbered()
    pairs = [(a, b) for a, b in zip(starts, ends, strict=True) if a >= 0 and b >= 0]
    elimination = plan_elimination(len(numbers), pairs)
    still = Flowing(
        nodes=_nodes(draft, numbers),
        elements=_elements(draft, numbers, starts, ends, elimination.places),
        vessels=_vessels(draft, oil),
        holes=_holes(draft),
        bottles=np.array([(*row[1:], 0.0, 0.0) for row in draft.bottles], dtype=BOTTLE),
        whole=_whole(draft, oil, guessed),
        step=np.zeros(1, dtype=STEP),
        sinks=np.array(draft.sinks, dtype=np.int32),
        parcels=np.zeros((PARCELS, 2)),
        given=np.zeros(len(draft.ways)),
        pivots=elimination.pivots,
        meets=elimination.meets,
        targets=elimination.targets,
        matrix=np.zeros(elimination.entries),
    )
    return at_rest(still), {port: numbers[draft.joined(port)] for port in draft.ports}


def network_of(build: Build, instead: Mapping[str, float] | None = None) -> Network:
    """Assemble the network of a build.

    Parameters
    ----------
    build : Build
    instead : mapping of str to float, optional
        Guesses to set otherwise than they are likely to be: see `GUESSES`.

    Returns
    -------
    Network

    Raises
    ------
    InvalidInput
        If the pump does not feed a gallery, with the field named.

    Notes
    -----
    What lies between the pickup's mouth and the pump, and all that the pump's outlet feeds. Lines
    whose bore or length nobody gave are taken without loss; what is guessed is listed in `taken`.
    Heights are left out of pressures: a metre of oil is 0.08 bar.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> network = network_of(read_build(Path("demo/dunlin.json").read_text()))
    >>> len(network.still.nodes), [what for _, what in network.vessels]
    (5, ['floor', 'thrown'])
    """
    guessed = Guessed(instead, known_of(build))
    oil = oil_of(build)
    draft = lay_out(build, oil, guessed)
    _checked(draft)
    assert draft.gallery is not None  # just checked
    still, ports = flowing_of(draft, oil, guessed)
    pump = build.circuit.pump.id
    return Network(
        still, oil, ports, ports[draft.gallery], ports[pump, "inlet"],
        ports[pump, "outlet"], tuple(draft.names),
        tuple((each.component, each.what) for each in draft.vessels), tuple(draft.ways),
        guessed.used, running_speed(build),
    )  # fmt: skip


def _nodes(draft: Draft, numbers: Mapping[Port, int]) -> Rows:
    rows = np.zeros(len(numbers), dtype=NODE)
    rows["volume"] = draft.volumes(numbers)
    rows["bottle"] = -1
    for at, (port, _, _) in enumerate(draft.bottles):
        rows["bottle"][numbers[draft.joined(port)]] = at
    return rows


def _elements(
    draft: Draft, numbers: Mapping[Port, int], starts: list[int], ends: list[int], places: Rows
) -> Rows:
    rows = np.zeros(len(starts), dtype=ELEMENT)
    rows["kind"], rows["start"], rows["end"] = draft.kinds, starts, ends
    rows["at_start"] = rows["at_end"] = -1
    for at, (start, end) in enumerate(zip(starts, ends, strict=True)):
        for name, figure in draft.figures[at].items():
            rows[name][at] = figure
        senses = draft.senses[at]
        rows["senses"][at] = -1 if senses is None else numbers[draft.joined(senses)]
        if start >= 0 and end >= 0:
            rows["at_start"][at], rows["at_end"][at] = places[start, end], places[end, start]
    return rows


def _vessels(draft: Draft, oil: NetworkOil) -> Rows:
    rows = np.zeros(len(draft.vessels), dtype=VESSEL)
    for row, vessel in zip(rows, draft.vessels, strict=True):
        row["is_floor"] = vessel.what == "floor"
        row["lag"], row["more"], row["factor"] = vessel.lags
        row["length"], row["width"], row["foam"] = vessel.floor
        row["pocket"] = vessel.pocket
        row["gas"], row["push"], row["shut"] = vessel.gas, vessel.push, vessel.shut
        row["full_speed"], row["density"] = vessel.full_speed, oil.density
    return rows


def _holes(draft: Draft) -> Rows:
    rows = [(*hole, at, to) for at, vessel in enumerate(draft.vessels) for hole, to in vessel.holes]
    return np.array(rows, dtype=HOLE)


def _whole(draft: Draft, oil: NetworkOil, guessed: Guessed) -> Rows:
    whole = np.zeros(1, dtype=WHOLE)
    whole["density"], whole["vapour"], whole["bulk"] = oil.density, _VAPOUR, _BULK
    whole["stays"], whole["sealing"] = _STAYS, guessed["sealing_oil"]
    whole["tube"], whole["bottle_time"] = draft.tube_volume, _BOTTLE_TAKES
    whole["bottle_warmth"] = guessed["bottle_warmth"] if draft.bottles else CHARGED_AT
    return whole
