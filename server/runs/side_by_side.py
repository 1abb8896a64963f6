"""Any two states of a build beside each other: figures of both, and what differs."""

from __future__ import annotations

from dataclasses import dataclass

from accounts.models import Workshop
from bilge_core.clearance.ground import ground_clearance
from bilge_core.document.build import Build as BuildDocument
from bilge_core.errors import BilgeError
from bilge_core.forecast.moving import moving_name
from bilge_core.pan import assemble_pan
from bilge_core.quantities import UnitSystem
from bilge_core.tell.moving import Summary, WindageOut, thrown_beside
from bilge_core.tell.numbers import mm
from bilge_core.tell.verdict import VerdictOut, faulty, verdict_out
from builds.models import BuildState
from builds.selectors import build_of, differences_between, state_of
from forecasts.verdicts import SETTLED_NAME, forecast_over
from loads.models import Lap

from runs.felt import felt_in
from runs.schemas import SideBySideOut, SideOut
from runs.selectors import known_over


@dataclass(frozen=True)
class _Told:
    verdict: VerdictOut
    model: str
    lowest_bar: float | None = None
    windage: WindageOut | None = None


def _forecast(workshop: Workshop, state: BuildState, document: BuildDocument, lap: Lap) -> _Told:
    """The finest that is known of a state over a lap."""
    felt = felt_in(state, lap)
    run = known_over(workshop, [felt]).get(felt)
    if run is not None and run.result is not None:
        summary = Summary.model_validate(run.result.summary)
        name = moving_name(run.cells)  # type: ignore[arg-type]
        return _Told(summary.verdict, name, summary.lowest_bar, summary.windage)
    try:
        found = forecast_over(document, lap)
    except BilgeError as error:
        return _Told(faulty(str(error)), SETTLED_NAME)
    return _Told(verdict_out(found.verdict, found.dry_time), SETTLED_NAME)


def _side(workshop: Workshop, state: BuildState, lap: Lap | None) -> SideOut:
    document = state.read
    try:
        ground = ground_clearance(document, assemble_pan(document))
    except BilgeError:
        ground = None
    revision = getattr(state, "revision", None)
    told = None if lap is None else _forecast(workshop, state, document, lap)
    return SideOut(
        state=state.number,
        name=state.change if revision is None else f"R{revision.number} · {revision.name}",
        oil_l=round(document.oil.volume_l, 2),
        ground_mm=None if ground is None else mm(ground.gap),
        verdict=None if told is None else told.verdict,
        model="" if told is None else told.model,
        lowest_bar=None if told is None else told.lowest_bar,
        windage=None if told is None else told.windage,
    )


def side_by_side(
    workshop: Workshop, build_id: int, before: int, after: int, system: UnitSystem
) -> SideBySideOut:
    """Two states of a build over the lap that it shows.

    Raises
    ------
    NotFound
    """
    lap = build_of(workshop, build_id).lap
    sides = [_side(workshop, state_of(workshop, build_id, each), lap) for each in (before, after)]
    former, later = (side.windage for side in sides)
    return SideBySideOut(
        lap_name=None if lap is None else lap.name,
        sides=sides,
        thrown=thrown_beside(later, former, sides[0].name) if former and later else "",
        differences=differences_between(workshop, build_id, before, after, system),
    )
