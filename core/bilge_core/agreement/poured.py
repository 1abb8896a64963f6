"""Pour-and-dip points against the pan as drawn, and which dimension would explain a mismatch."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from bilge_core.document.build import Build
from bilge_core.document.car import Car
from bilge_core.document.dipped import Dipped
from bilge_core.document.floors import FlatFloor, lowered
from bilge_core.document.read import build_from
from bilge_core.errors import InvalidInput
from bilge_core.pan import Pan, assemble_pan, level_of_volume
from bilge_core.physics.arrays import Array
from bilge_core.physics.axes import standing_up

LEVEL_CAR = Car(nose_points="front", lean_right_deg=0, nose_up_deg=0)
"""An engine on the bench with its rail level."""

_STEP = 2.0  # [mm] by which a dimension is moved to see what it does
_WORTH_SAYING = 1.0  # [mm rms] below which a mismatch is the dipstick's own


@dataclass(frozen=True)
class PouredComparison:
    """Computed levels at the poured volumes, against what was dipped.

    poured : ndarray, shape (n,) [m3]
    dipped, computed : ndarray, shape (n,) [m] above the lowest point
    """

    poured: Array
    dipped: Array
    computed: Array

    @property
    def rms(self) -> float:
        """Root mean square of computed less dipped [m]."""
        return float(np.sqrt(np.mean((self.computed - self.dipped) ** 2)))


@dataclass(frozen=True)
class Explanation:
    """One dimension that, changed alone, brings drawing and dips together best.

    what : such as ``depth of the deep sump``
    change : [m] to add to it
    rms : what mismatch it leaves [m]
    """

    what: str
    change: float
    rms: float


def car_when_dipped(dipped: Dipped, car: Car) -> Car:
    """How the engine stood when it was dipped."""
    return car if dipped.engine == "in_car" else LEVEL_CAR


def compare_poured(pan: Pan, car: Car, dipped: Dipped) -> PouredComparison:
    """Compare what was dipped with the pan as drawn; points beyond what it holds are left out.

    Parameters
    ----------
    pan : Pan
    car : Car
    dipped : Dipped

    Returns
    -------
    PouredComparison

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> dips = Dipped.model_validate(
    ...     {"engine": "level", "points": [{"poured_l": 4.0, "level_mm": 80.0}]})
    >>> comparison = compare_poured(assemble_pan(build), build.car, dips)
    >>> round(float(comparison.computed[0]) * 1e3, 1)
    62.6
    """
    normal = standing_up(car_when_dipped(dipped, car))
    lowest = float((pan.solid.vertices @ normal).min())
    points = [each for each in dipped.points if each.poured_l * 1e-3 < pan.solid.volume]
    computed = [level_of_volume(pan.solid, normal, each.poured_l * 1e-3) for each in points]
    return PouredComparison(
        np.array([each.poured_l for each in points]) * 1e-3,
        np.array([each.level_mm for each in points]) * 1e-3,
        np.array(computed, dtype=np.float64) - lowest,
    )


def _with_depths(build: Build, zones: set[int], by: float) -> Build:
    document = build.model_dump(mode="json")
    for index, zone in enumerate(document["pan"]["zones"]):
        if index in zones:
            zone["floor"] = lowered(zone["floor"], by)
    return build_from(document)


def _with_width(build: Build, by: float) -> Build:
    """All of the plan grown sideways by `by` mm on each side."""
    document = build.model_dump(mode="json")
    ys = [y for zone in document["pan"]["zones"] for _, y in zone["outline_mm"]]
    half = (max(ys) - min(ys)) / 2.0
    middle = (max(ys) + min(ys)) / 2.0

    def wider(places: list[list[float]]) -> list[list[float]]:
        return [[x, middle + (y - middle) * (half + by) / half, *z] for x, y, *z in places]

    for zone in document["pan"]["zones"]:
        zone["outline_mm"] = wider(zone["outline_mm"])
        if zone["floor"]["kind"] == "surface":
            zone["floor"]["places_mm"] = wider(zone["floor"]["places_mm"])
    return build_from(document)


def _candidates(build: Build) -> dict[str, Callable[[float], Build]]:
    zones = build.pan.zones
    found: dict[str, Callable[[float], Build]] = {}
    for index, zone in enumerate(zones):
        kind = "depth" if isinstance(zone.floor, FlatFloor) else "depths"
        found[f"{kind} of {zone.name}"] = lambda by, i=index: _with_depths(build, {i}, by)  # type: ignore[misc]
    if len(zones) > 1:
        found["depths of all zones"] = lambda by: _with_depths(build, set(range(len(zones))), by)
    found["width of the pan, each side"] = lambda by: _with_width(build, by)
    return found


def explain_poured(build: Build, dipped: Dipped | None) -> tuple[Explanation, ...]:
    """Which single dimension would explain the mismatch, the best first.

    Parameters
    ----------
    build : Build
    dipped : Dipped or None
        With at least two points, or nothing is explained.

    Returns
    -------
    tuple of Explanation
        At most three that at least halve the mismatch; empty when it is under 1 mm rms or
        nothing explains it.

    Notes
    -----
    Each candidate is moved alone, by the least-squares step of the levels linearised over 2 mm,
    and what it leaves is computed exactly. A dipstick read from another zero counts as one.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> explain_poured(read_build(Path("demo/dunlin.json").read_text()), None)
    ()
    """
    if dipped is None or len(dipped.points) < 2:
        return ()
    here = compare_poured(assemble_pan(build), build.car, dipped)
    miss = here.dipped - here.computed
    if here.rms * 1e3 < _WORTH_SAYING:
        return ()
    zero = float(miss.mean())
    found = [Explanation("zero of the dipstick", zero, float(np.sqrt(np.mean((miss - zero) ** 2))))]
    for what, changed in _candidates(build).items():
        try:
            moved = compare_poured(assemble_pan(changed(_STEP)), build.car, dipped)
            if len(moved.computed) != len(miss):
                continue
            slope = (moved.computed - here.computed) / _STEP
            step = float(slope @ miss / max(float(slope @ slope), 1e-18))
            after = compare_poured(assemble_pan(changed(step)), build.car, dipped)
        except InvalidInput:  # that dimension cannot be so
            continue
        if len(after.computed) == len(miss):
            found.append(Explanation(what, step * 1e-3, after.rms))
    found.sort(key=lambda each: each.rms)
    return tuple(each for each in found if each.rms < 0.5 * here.rms)[:3]
