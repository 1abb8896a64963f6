"""Another shape for the same litres: a depth that holds a volume, and pans to begin from."""

from __future__ import annotations

import math
from collections.abc import Collection
from typing import Literal

import scipy
from typing_extensions import override

from bilge_core.acts.act import Act, Done, Length, build_with, figures_named
from bilge_core.acts.deepen import deepen
from bilge_core.document.build import Build
from bilge_core.document.ids import Document, is_id
from bilge_core.errors import InvalidInput, InvalidQuantity
from bilge_core.pan import assemble_pan

_MOST = 0.25  # [m] that a zone may go down or come up
_STEP = 0.01  # [m] from today's depth outward

SumpPlace = Literal["front", "middle", "rear"]


def depth_for_capacity(build: Build, capacity: float, zones: Collection[int]) -> float:
    """How much deeper some zones must be for the pan to hold a volume to its rail.

    Parameters
    ----------
    build : Build
    capacity : float
        Wanted to the rail [m3].
    zones : collection of int
        Those that go down or come up.

    Returns
    -------
    float
        Added depth [m], negative when they may come up.

    Raises
    ------
    InvalidQuantity
        If the volume is not positive, a zone is not there, or no depth within
        250 mm of today's gives it.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> now = assemble_pan(build).capacity_to_rail
    >>> round(depth_for_capacity(build, now, [0]), 6)
    0.0
    """
    if not (math.isfinite(capacity) and capacity > 0.0):
        raise InvalidQuantity("volume to hold", capacity, "positive")
    count = len(build.pan.zones)
    chosen = set(zones)
    if not chosen or not chosen <= set(range(count)):
        raise InvalidQuantity("zones", sorted(chosen), f"some of 0 to {count - 1}")

    def missing(by: float) -> float:
        changed = build if abs(by) < 1e-6 else deepen(build, by, chosen).build
        return assemble_pan(changed).capacity_to_rail - capacity

    near, short = 0.0, missing(0.0)
    if abs(short) < 1e-9:
        return 0.0
    step = -math.copysign(_STEP, short)
    while abs(near) < _MOST:
        try:
            after = missing(near + step)
        except InvalidInput:
            break
        if short * after <= 0.0:
            return float(scipy.optimize.brentq(missing, *sorted((near, near + step)), xtol=1e-6))
        near, short = near + step, after
    raise InvalidQuantity(
        "volume to hold",
        f"{capacity * 1e3:.2f} L",
        f"at {'most' if step > 0 else 'least'} {(short + capacity) * 1e3:.2f} L with these zones",
    )


def sump_preset(build: Build, place: SumpPlace, depth: float, shelf: float) -> Build:
    """The same rail with a sump in front, in the middle or at the rear, and the mouth in it.

    Parameters
    ----------
    build : Build
        Its rail's length and width are kept.
    place : {"front", "middle", "rear"}
    depth : float
        Of the sump below the rail [m].
    shelf : float
        Depth of the rest [m], less than the sump's.

    Returns
    -------
    Build
        With new zones, no plates, bosses or marks; the mouth in the sump's middle, its gap kept.

    Raises
    ------
    InvalidQuantity
        If the depths are not positive or the shelf is not the shallower.
    InvalidInput
        If what results does not hold together.

    Notes
    -----
    The sump takes 45 % of the length, the ramps to it 12 % each (ours).

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> [zone.name for zone in sump_preset(build, "rear", 0.15, 0.05).pan.zones]
    ['deep sump', 'ramp', 'shelf']
    """
    if not (0.0 < shelf < depth and math.isfinite(depth)):
        raise InvalidQuantity("shelf", shelf, "positive and shallower than the sump")
    x0, y0, x1, y1 = (round(v * 1e3, 1) for v in assemble_pan(build).rail.bounds)
    length = x1 - x0
    deep, low = depth * 1e3, shelf * 1e3
    sump, ramp = round(0.45 * length, 1), round(0.12 * length, 1)
    start = {"rear": x0, "middle": round((x0 + x1 - sump) / 2, 1), "front": round(x1 - sump, 1)}[
        place
    ]
    zones: list[dict[str, object]] = []

    def add(name: str, a: float, b: float, floor: dict[str, object]) -> None:
        outline = [(a, y0), (b, y0), (b, y1), (a, y1)]
        zones.append({"name": name, "outline_mm": outline, "floor": floor})

    def ramp_floor(from_depth: float, to_depth: float) -> dict[str, object]:
        return {
            "kind": "ramp",
            "runs": "lengthways",
            "from_depth_mm": from_depth,
            "to_depth_mm": to_depth,
        }

    flat_low: dict[str, object] = {"kind": "flat", "depth_mm": low}
    end = start + sump
    add("deep sump", start, end, {"kind": "flat", "depth_mm": deep})
    both = place == "middle"
    if place in ("front", "middle"):
        add("rear ramp" if both else "ramp", start - ramp, start, ramp_floor(low, deep))
        add("rear shelf" if both else "shelf", x0, start - ramp, flat_low)
    if place in ("rear", "middle"):
        add("front ramp" if both else "ramp", end, end + ramp, ramp_floor(deep, low))
        add("front shelf" if both else "shelf", end + ramp, x1, flat_low)
    raw = without_the_old_pan(build)
    raw["pan"] |= {"zones": zones, "flange": None}
    raw["pickup"] |= {"x_mm": round((start + end) / 2, 1), "y_mm": round((y0 + y1) / 2, 1)}
    return build_with(build, raw)


def without_the_old_pan(build: Build) -> Document:
    """A build as plain data whose pan is begun anew: no plates, no bosses, no marks.

    Lines that ended at its bosses come back into the pan anywhere.

    Examples
    --------
    >>> from pathlib import Path
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin-gated.json").read_text())
    >>> without_the_old_pan(build)["pan"]["plates"]
    []
    """
    raw = build.model_dump(mode="json")
    raw["pan"] |= {"plates": [], "bosses": [], "dip_marks": []}
    for run in raw["circuit"]["runs"]:
        if is_id(run["end"]["port"]):  # a boss of the pan that was
            run["end"]["port"] = "returns"
    return raw


class SumpPreset(Act):
    """The pan begun anew with its sump somewhere else."""

    kind: Literal["sump_preset"]
    place: SumpPlace
    depth_mm: Length
    shelf_mm: Length

    @override
    def done(self, build: Build) -> Done:
        with figures_named(shelf="shelf_mm"):
            made = sump_preset(build, self.place, self.depth_mm * 1e-3, self.shelf_mm * 1e-3)
        return Done(made, f"pan begun anew, sump {self.place}")
