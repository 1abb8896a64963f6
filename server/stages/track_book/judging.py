"""A session's laps held against the forecast there is, and kept."""

from __future__ import annotations

from typing import Any

import numpy as np
from accounts.models import User, Workshop
from bilge_core.agreement.as_usual import AsUsual
from bilge_core.agreement.asked import lag_of
from bilge_core.agreement.book_entries import Session
from bilge_core.agreement.dips_met import Frozen
from bilge_core.agreement.judged import (
    Named,
    frozen_at,
    judge,
    kept_of,
    read_kept_laps,
)
from bilge_core.agreement.same_lap import laid_on
from bilge_core.errors import InvalidInput, InvalidQuantity, Problem
from bilge_core.forecast.moving import moving_name
from bilge_core.loads.log import Log
from bilge_core.network import network_of, steady
from bilge_core.tell.judged import ForecastKept, JudgedOut, JudgedTrace, judged_out, judged_trace
from builds.models import Build, BuildState
from builds.selectors import build_of, laps_of
from config.errors import NotFound
from django.db import transaction
from loads.models import Lap
from loads.selectors import lap_of
from loads.services import corners_of, log_of
from records.models import SessionJudged
from runs.felt import felt_in
from runs.models import Run
from runs.selectors import figures_kept, finished_of

from stages.track_book.schemas import LapToJudge, SessionLapsIn


def _session_state(build: Build, session: str) -> BuildState:
    """The state that a session was driven in.

    Raises
    ------
    NotFound
    """
    rows = build.book_entries.filter(data__kind="session", data__id=session)
    first = rows.select_related("state").order_by("id").first()
    struck = build.book_entries.filter(data__kind="session_struck", data__id=session)
    if first is None or struck.exists():
        raise NotFound("session")
    return first.state


def laps_to_judge(workshop: Workshop) -> list[LapToJudge]:
    """Laps of the workshop that have their oil's pressure, newest first."""
    rows = Lap.objects.filter(workshop=workshop).defer("samples")
    return [
        LapToJudge(id=lap.pk, name=lap.name, file_name=lap.file_name, duration_s=lap.duration_s)
        for lap in rows
        if "oil_pressure" in (lap.mapping.get("columns") or {})
    ]


def _forecast(
    build: Build, state: BuildState, laps: list[Lap], driven: Log
) -> tuple[Frozen, ForecastKept] | tuple[None, None]:
    """The best forecast of a state over a lap of the circuit that was driven, to be kept.

    One over a logged lap itself comes first, then one over a lap that the build is judged by.
    """
    candidates = {lap.pk: lap for lap in (*laps, *laps_of(build))}
    for lap in candidates.values():
        run = finished_of(build, felt_in(state, lap))
        if run is None:
            continue
        log = log_of(lap)
        if laid_on(driven, log).is_same:
            found = _frozen(run, lap, state)
            if found is not None:
                return found
    return None, None


def forecast_of_car(build: Build) -> tuple[Frozen, ForecastKept] | None:
    """The forecast of the car as it is, over the first lap that it is judged by and was run."""
    state = build.as_is or build.current
    assert state is not None
    for lap in laps_of(build):
        run = finished_of(build, felt_in(state, lap))
        found = None if run is None else _frozen(run, lap, state)
        if found is not None:
            return found
    return None


def _frozen(run: Run, lap: Lap, state: BuildState) -> tuple[Frozen, ForecastKept] | None:
    figures = figures_kept(run)
    samples = figures.samples
    if figures.pressure is None or not samples.pressure_bar:
        return None  # of before the circuit was run along
    document = state.read
    table = steady(network_of(document))
    log = log_of(lap)
    frozen = frozen_at(
        log, corners_of(lap, log), np.array(samples.time_s),
        np.array(samples.pressure_bar) * 1e5, np.array(samples.usual_bar) * 1e5,
        AsUsual(table.speed, table.gallery),
    )  # fmt: skip
    told = ForecastKept(
        model=moving_name(figures.cells), lap=lap.name, state=state.number, run=run.pk,
        made_at=(run.ended_at or run.asked_at).isoformat(), dips=len(figures.pressure.dips),
        dry_s=figures.dry_s, lowest_bar=figures.lowest_bar,
    )  # fmt: skip
    return frozen, told


def _should(build: Build, session: str) -> AsUsual | None:
    """What the gallery has on straights, by the last session before in which nothing was short."""
    on = _day_of(build, session)
    rows = build.judged.exclude(session=session).order_by("-judged_at")
    for row in rows.defer("kept"):
        looks = (row.told.get("resembles") or {}).get("looks")
        if looks in ("nothing", "slosh") and _day_of(build, row.session) < on:
            frozen, laps = read_kept_laps(bytes(row.kept))
            return judge(laps, frozen, row.lag_s).usual
    return None


def _day_of(build: Build, session: str) -> str:
    rows = build.book_entries.filter(data__kind="session", data__id=session)
    last = rows.order_by("-id").values_list("data", flat=True).first()
    return str(Session.model_validate(last).on) if last else ""


def _row(build: Build, session: str) -> SessionJudged:
    row = build.judged.filter(session=session).first()
    if row is None:
        raise NotFound("laps of this session")
    return row


def judged_of(workshop: Workshop, build_id: int, session: str) -> JudgedOut:
    """What is kept of a session's laps against the forecast.

    Raises
    ------
    NotFound
    """
    build = build_of(workshop, build_id)
    row = build.judged.filter(session=session).defer("kept").first()
    if row is None:
        raise NotFound("laps of this session")
    return JudgedOut.model_validate(row.told)


def all_judged(workshop: Workshop, build_id: int) -> dict[str, JudgedOut]:
    """What is kept of all sessions' laps, by session.

    Raises
    ------
    NotFound
    """
    rows = build_of(workshop, build_id).judged.values_list("session", "told")
    return {session: JudgedOut.model_validate(told) for session, told in rows}


def trace_of(workshop: Workshop, build_id: int, session: str, lap: int, dip: int) -> JudgedTrace:
    """Round one dip of one lap of a session.

    Raises
    ------
    NotFound
    """
    build = build_of(workshop, build_id)
    row = _row(build, session)
    frozen, laps = read_kept_laps(bytes(row.kept))
    judged = judge(laps, frozen, row.lag_s)  # what it resembles is not drawn
    try:
        return judged_trace(judged, lap, dip)
    except IndexError:
        raise NotFound("dip") from None


def _known_lag(build: Build) -> float:
    """Of the pressure's sensor, as it is known now [s]."""
    known = build.as_is or build.current
    assert known is not None
    return lag_of(known.read)


@transaction.atomic
def judge_session(user: User, build_id: int, session: str, wanted: SessionLapsIn) -> JudgedOut:
    """Hold laps against the forecast of the car that drove them, and keep both with the session.

    A session that was judged before keeps the forecast that it was judged by, unless it is said to
    be looked for anew.

    Raises
    ------
    NotFound
    InvalidInput
        If no lap can be held against it.
    """
    build = build_of(user.workshop, build_id, lock=True)
    state = _session_state(build, session)
    laps = [lap_of(user.workshop, each) for each in dict.fromkeys(wanted.lap_ids)]
    named = tuple(Named(lap.name, log_of(lap)) for lap in laps)
    row = build.judged.filter(session=session).first()
    if not named:
        if row is None:
            raise InvalidInput([Problem("lap_ids", "must name the laps that the session was")])
        _, named = read_kept_laps(bytes(row.kept))
    frozen: Frozen | None = None
    told: ForecastKept | None = None
    if row is not None and row.forecast is not None and not wanted.forecast_anew:
        frozen, _ = read_kept_laps(bytes(row.kept))
        told = ForecastKept.model_validate(row.forecast)
    else:
        frozen, told = _forecast(build, state, laps, named[0].log)
    lag = _known_lag(build) if wanted.lag_s is None else wanted.lag_s
    try:
        judged = judge(named, frozen, lag, _should(build, session))
    except InvalidQuantity as error:
        words = f"are {error.value}; they must be {error.requirement}"
        raise InvalidInput([Problem("lap_ids", words)]) from error
    out = judged_out(judged, frozen, told)
    held = set(judged.names)
    kept: dict[str, Any] = {
        "forecast": None if told is None else told.model_dump(mode="json"),
        "kept": kept_of(frozen, [each for each in named if each.name in held]),
        "lag_s": lag,
        "count": out.count.model_dump(mode="json"),
        "told": out.model_dump(mode="json"),
        "judged_by": user,
    }
    SessionJudged.objects.update_or_create(build=build, session=session, defaults=kept)
    return out
