"""Judging builds over laps in settled oil, and keeping the verdicts."""

from __future__ import annotations

from accounts.models import Workshop
from bilge_core.document.build import Build as BuildDocument
from bilge_core.forecast import SettledForecast, forecast_settled
from bilge_core.tell.known_by import key_of
from bilge_core.tell.verdict import OverLap, VerdictOut, verdict_out, with_drains, worst_first
from builds.models import Build
from builds.selectors import laps_of, plain_document
from loads.models import Lap
from loads.selectors import known_by
from loads.services import corners_of, log_of

from forecasts.drained import OfRun, drains_verdict_over
from forecasts.models import KeptVerdict

SETTLED_NAME = "Settled oil"


def forecast_over(document: BuildDocument, lap: Lap) -> SettledForecast:
    """A document over a lap, in settled oil.

    Raises
    ------
    InvalidInput
    """
    log = log_of(lap)
    return forecast_settled(document, log, corners_of(lap, log))


def _key(build: Build, lap: Lap) -> str:
    assert build.current is not None
    return key_of("settled", plain_document(build.current), known_by(lap))


def keep_verdict(build: Build, lap: Lap | None, verdict: VerdictOut) -> None:
    """Keep a verdict over a lap, once; two requests that made the same one do no harm."""
    if lap is None:
        return
    key = _key(build, lap)
    if KeptVerdict.objects.filter(workshop=build.workshop, key=key).exists():
        return
    row = KeptVerdict(workshop=build.workshop, key=key, told=verdict.model_dump(mode="json"))
    KeptVerdict.objects.bulk_create([row], ignore_conflicts=True)


def _kept(workshop: Workshop, key: str) -> VerdictOut | None:
    told = KeptVerdict.objects.filter(workshop=workshop, key=key).values_list("told", flat=True)
    found = told.first()
    return None if found is None else VerdictOut.model_validate(found)


def verdict_over(build: Build, document: BuildDocument, lap: Lap) -> VerdictOut:
    """The verdict on a build as it stands over a lap: the one that is kept, or given now.

    Raises
    ------
    InvalidInput
    """
    found = _kept(build.workshop, _key(build, lap))
    if found is None:
        result = forecast_over(document, lap)
        found = verdict_out(result.verdict, result.dry_time)
        keep_verdict(build, lap, found)
    return found


def over_lap(
    build: Build, document: BuildDocument, lap: Lap, verdict: VerdictOut, model: str,
    run: OfRun | None = None,
) -> OverLap:  # fmt: skip
    """A verdict of the pan's oil over a lap, the drains weighed in on the same oil."""
    drains = drains_verdict_over(build, document, lap, run)
    whole = verdict if drains is None else with_drains(verdict, drains)
    speaks = whole is not verdict and whole.headline != verdict.headline
    return OverLap(
        lap_id=lap.pk, lap_name=lap.name, verdict=whole, oil=verdict, model=model,
        speaks="drains" if speaks else "oil", drains=drains,
    )  # fmt: skip


def verdicts_of(build: Build, document: BuildDocument) -> list[OverLap]:
    """The verdicts over all laps that a build is judged by, the worst first.

    Raises
    ------
    InvalidInput
    """
    return worst_first(
        [
            over_lap(build, document, lap, verdict_over(build, document, lap), SETTLED_NAME)
            for lap in laps_of(build)
        ]
    )
