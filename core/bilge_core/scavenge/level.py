"""Marks of a dry sump's tank, and the litres at a level found in it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from bilge_core.document.build import Build
from bilge_core.errors import InvalidQuantity
from bilge_core.network import held_running, network_of, steady
from bilge_core.network.way_back import way_back_of
from bilge_core.physics.turns import speed_of_rpm
from bilge_core.rules import dry
from bilge_core.scavenge.tank import TankSpace

IDLE = 900.0
"""[rpm] at which a hot engine idles (ours)."""


def after_a_start(build: Build) -> tuple[float, float]:
    """What a tank lacks after a start until the first oil is back [m3], and when that is [s].

    Idling, as much is on its way back and up top as came down when the engine stopped, which lies
    in the pan: the pressure stage takes it out of the tank before the stages bring any.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> lacks, first = after_a_start(read_build(Path("demo/curlew.json").read_text()))
    >>> 0.5e-3 < lacks < 2e-3, 4.0 < first < 20.0
    (True, True)
    """
    idle = float(speed_of_rpm(IDLE))
    held, way = held_running(build, idle), way_back_of(build)
    if way is None:
        return held.aloft, 0.0
    fed = float(steady(network_of(build)).drawn_at(np.array(idle)))
    takes = way.takes(fed, idle)[way.draws]
    return held.aloft + held.coming_back, float(takes.min()) if takes.size else 0.0


@dataclass(frozen=True)
class TankMarks:
    """Heights over the tank's floor, car level, engine running [m].

    low : under it the outlet comes too near the surface in the lap's hardest loads; None: no lap
    expected : where it should stand with the oil that the build says
    full : over it foam and what comes back want more room than there is
    """

    low: float | None
    expected: float
    full: float


def litres_at(space: TankSpace, level: float) -> float:
    """Oil [m3] at a level over the tank's floor [m], car level.

    Raises
    ------
    InvalidQuantity
        If it is below the floor or over the top.

    Examples
    --------
    >>> from bilge_core.document.circuit.dry_and_gas import Tank
    >>> from bilge_core.scavenge.tank import tank_space
    >>> space = tank_space(Tank(kind="tank", name="t", volume_l=8, length_mm=200, width_mm=160))
    >>> round(litres_at(space, 0.125) * 1e3, 2)
    4.0
    """
    if not 0.0 <= level <= space.height * (1.0 + 1e-9):
        raise InvalidQuantity("level", f"{level * 1e3:.0f} mm", "from the floor to the top")
    return level * space.area


def tank_marks(space: TankSpace, running: float, needed: float | None) -> TankMarks:
    """Where a tank's marks are.

    Parameters
    ----------
    space : TankSpace
    running : float
        Oil in it as the engine runs steadily [m3].
    needed : float or None
        That keeps its outlet covered in the lap's hardest loads [m3]; None: no lap.

    Examples
    --------
    >>> from bilge_core.document.circuit.dry_and_gas import Tank
    >>> from bilge_core.scavenge.tank import tank_space
    >>> space = tank_space(Tank(kind="tank", name="t", volume_l=8, length_mm=200, width_mm=160))
    >>> marks = tank_marks(space, 5e-3, 2e-3)
    >>> [round(each * 1e3 + 1e-6) for each in (marks.low, marks.expected, marks.full)]
    [63, 156, 200]
    """
    return TankMarks(
        None if needed is None else needed / space.area, running / space.area,
        dry.TANK_FULL.most * space.volume / space.area,
    )  # fmt: skip
