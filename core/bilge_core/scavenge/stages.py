"""The scavenge stages of a build and the mouths that each draws by."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bilge_core.document.build import Build
from bilge_core.document.circuit.circuit import Circuit
from bilge_core.document.circuit.pumps import PickupTube, ScavengeStage
from bilge_core.errors import InvalidInput, Problem
from bilge_core.network.way_back import lines_behind, swept_by
from bilge_core.pan.assembly import Pan
from bilge_core.physics.arrays import Array
from bilge_core.pickup.mouth import Mouth


@dataclass(frozen=True)
class DrawnMouth:
    """A scavenge mouth in the pan.

    component : id of its pickup
    name : as the builder has it
    mouth : Mouth
    """

    component: str
    name: str
    mouth: Mouth


@dataclass(frozen=True)
class Stage:
    """A scavenge stage and where it draws.

    component : id
    name : as the builder has it
    per_turn : displacement [m3]
    ratio : turns of the pump per turn of the crank
    mouths : places of its mouths among all of them; none: it draws from no pan (a turbo's own)
    """

    component: str
    name: str
    per_turn: float
    ratio: float
    mouths: tuple[int, ...]

    def swept(self, speed: Array | float) -> Array:
        """What it sweeps at crank speeds [rad/s]: [m3/s], gas and oil.

        Examples
        --------
        >>> Stage("c1", "front", 14e-6, 0.5, (0,)).swept(2 * np.pi * 100.0).round(6).item()
        0.0007
        """
        return swept_by(self.per_turn, self.ratio, speed)


def _placed(build: Build, pan: Pan, tube: PickupTube, field: str) -> Mouth:
    at = tube.mouth_at
    if at is None:
        return pan.mouth
    x, y = at.x_mm * 1e-3, at.y_mm * 1e-3
    floor = pan.floor_at(x, y)
    if floor is None:
        words = f"the mouth of the {tube.name!r} is outside the pan; move it over a floor"
        raise InvalidInput([Problem(f"{field}.mouth_at.x_mm", words)])
    half = at.diameter_mm * 0.5e-3
    return Mouth(np.array([x, y, floor + at.gap_mm * 1e-3]), half, half, True)


def swept_of(stage: ScavengeStage, speed: Array) -> Array:
    """What a stage sweeps at crank speeds [rad/s]: [m3/s], gas and oil.

    Examples
    --------
    >>> stage = ScavengeStage(kind="scavenge_stage", name="it", displacement_cm3=4, drive_ratio=0.5)
    >>> swept_of(stage, np.array([2 * np.pi * 100])).round(6).tolist()  # 6000 rpm
    [0.0002]
    """
    return swept_by(stage.displacement_cm3 * 1e-6, stage.drive_ratio, speed)


def stages_on_pan(circuit: Circuit) -> list[ScavengeStage]:
    """The stages that draw from the pan: others have a turbo's or a head's drain to themselves."""
    return [each for each in circuit.of_kind(ScavengeStage) if lines_behind(circuit, each.id)[0]]


def scavenge_ratio(circuit: Circuit) -> float:
    """What all scavenge stages sweep over what the pressure stage does [-]."""
    pump = circuit.pump
    stages = circuit.of_kind(ScavengeStage)
    swept = sum(each.displacement_cm3 * each.drive_ratio for each in stages)
    return swept / (pump.displacement_cm3 * pump.drive_ratio)


def scavenged(build: Build, pan: Pan) -> tuple[tuple[Stage, ...], tuple[DrawnMouth, ...]]:
    """Stages and mouths of a dry-sumped build, in the circuit's order.

    Parameters
    ----------
    build : Build
    pan : Pan
        As assembled from it.

    Returns
    -------
    tuple of Stage, tuple of DrawnMouth

    Raises
    ------
    InvalidInput
        If a mouth is outside the pan, or no stage draws from it.
    """
    circuit = build.circuit
    mouths: list[DrawnMouth] = []
    stages: list[Stage] = []
    places = {each.id: f"circuit.components.{at}" for at, each in enumerate(circuit.components)}
    for stage in circuit.of_kind(ScavengeStage):
        own: list[int] = []
        for tube in lines_behind(circuit, stage.id)[0]:
            if all(each.component != tube.id for each in mouths):
                mouth = _placed(build, pan, tube, places[tube.id])
                mouths.append(DrawnMouth(tube.id, tube.name, mouth))
            own.append(next(n for n, each in enumerate(mouths) if each.component == tube.id))
        stages.append(
            Stage(
                stage.id, stage.name, stage.displacement_cm3 * 1e-6, stage.drive_ratio, tuple(own)
            )
        )
    if not mouths:
        words = "must have a scavenge stage that draws from the pan: the tank would run empty"
        raise InvalidInput([Problem("circuit.components", words)])
    return tuple(stages), tuple(mouths)
