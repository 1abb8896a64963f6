"""Marks of a dry sump's tank, and the litres at a level found in it."""

from __future__ import annotations

from dataclasses import dataclass

from bilge_core.errors import InvalidQuantity
from bilge_core.rules import dry
from bilge_core.scavenge.tank import TankSpace


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
