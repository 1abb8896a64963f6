"""Oil above the mark as a measured trial: how much at a time, what to look at, where to stop."""

from __future__ import annotations

from dataclasses import dataclass

from bilge_core.acts.pan_widened import Refill
from bilge_core.clearance.crank import crank_gap
from bilge_core.document.build import Build
from bilge_core.errors import BilgeError, InvalidInput, Problem
from bilge_core.forecast import forecast_settled
from bilge_core.loads.corners import Corner
from bilge_core.loads.log import Log
from bilge_core.options.candidate import room_of

STEP = 0.25
"""[L] poured at a time. Ours: half of what is tried at once without a look at the dipstick."""
_MOST = 8  # steps: two litres over the mark (ours)
KEEPS_CLEAR = 5e-3
"""[m] that standing oil stays below the crank's swept circle. Ours: the surface of running oil is
not still, and the forecast's level is that of what the engine is guessed to hold.
"""


@dataclass(frozen=True)
class OverfillStep:
    """One pour.

    total : in the engine, cold [m3]
    crank : standing oil below the crank's swept circle [m]
    touches : of the lap, settled oil reaches it [s]
    dry : at the mouth in settled oil, a filter and no verdict [s]
    stop : why not to go so far, in words; empty: it may be tried
    """

    total: float
    crank: float
    touches: float
    dry: float
    stop: str


LOOK_AT = (
    "Warm, level, off: wait five minutes, then dip. Write the level down.",
    "Drive ten minutes, hard from the second pour on: look at pressure, smoke and the catch can.",
    "More in the catch can, smoke, lost power or hotter oil than before: let the last pour out.",
    "Oil on a track is a danger to others: at the first drop outside, stop and come in.",
)
"""What to do and to look at after each pour: from memory."""


def overfill_plan(build: Build, log: Log, corners: tuple[Corner, ...]) -> tuple[OverfillStep, ...]:
    """Pours above the mark, up to the first that should not be made.

    Parameters
    ----------
    build : Build
        With its crank known.
    log : Log
        Prepared.
    corners : tuple of Corner

    Returns
    -------
    tuple of OverfillStep
        From a first pour over the mark; the last has a reason to stop, or is two litres over.

    Raises
    ------
    InvalidInput
        If the crank's sweep is not known: nobody can say then where to stop.

    Examples
    --------
    >>> from pathlib import Path
    >>> import numpy as np
    >>> from bilge_core.document.read import read_build
    >>> build = read_build(Path("demo/dunlin.json").read_text())
    >>> log = Log(np.arange(0.0, 1.0, 0.02), *np.zeros((3, 50)), np.full(50, 500.0))
    >>> plan = overfill_plan(build, log, ())
    >>> round(plan[0].total * 1e3, 2), plan[0].crank > plan[1].crank > KEEPS_CLEAR
    (6.45, True)
    """
    crank = build.car.crank
    if crank is None:
        words = "is not known: without the crank's sweep nobody can say where to stop"
        raise InvalidInput([Problem("car.crank", words)])
    mark = build.oil.mark_l or build.oil.volume_l
    steps: list[OverfillStep] = []
    for number in range(1, _MOST + 1):
        total = round(mark + number * STEP, 3)
        try:
            filled = Refill(kind="refill", to_l=total).done(build).build
            found = forecast_settled(filled, log, corners)
        except BilgeError as error:
            steps.append(OverfillStep(total * 1e-3, 0.0, 0.0, 0.0, str(error)))
            break
        gap = room_of(filled).crank
        assert gap is not None
        gaps = crank_gap(crank, found.lap.normals, found.lap.levels)
        touches = float((gaps < 0.0).sum()) * found.lap.step
        stop = ""
        if gap < KEEPS_CLEAR:
            stop = (
                f"standing oil would be {gap * 1e3:.0f} mm below the crank; "
                f"{KEEPS_CLEAR * 1e3:.0f} mm at the least"
                if gap > 0.0
                else f"standing oil would reach {-gap * 1e3:.0f} mm into the crank's sweep"
            )
        steps.append(OverfillStep(total * 1e-3, gap, touches, found.dry_time.dry, stop))
        if stop:
            break
    return tuple(steps)
