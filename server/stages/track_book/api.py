"""Track book: sessions, what they used, what is due."""

from __future__ import annotations

from accounts.requests import signed_in
from bilge_core.errors import InvalidInput, Problem
from bilge_core.quantities import UnitSystem
from bilge_core.tell.judged import JudgedOut, JudgedTrace
from builds.schemas import BuildOut
from builds.selectors import build_of, build_out
from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from learning import services as learning
from learning.schemas import LatestLearningOut, LeaveIn, TakeIn, TakeTrialIn
from learning.selectors import learning_out, newest_of
from live import services as live
from live.schemas import LiveSince
from live.selectors import live_of
from ninja import File, Router, Status
from ninja.files import UploadedFile

from stages.track_book import answer, exchange, judging, page
from stages.track_book.schemas import BookedAllIn, BookStageOut, LapToJudge, SessionLapsIn

router = Router()


@router.get("/{int:build_id}", response=BookStageOut, operation_id="get_book")
def get_book(request: HttpRequest, build_id: int, system: UnitSystem = "metric") -> BookStageOut:
    """Sessions, the newest first, with what they used; what is due; trends."""
    return answer.book(signed_in(request).workshop, build_id, system)


@router.post("/{int:build_id}/entries", response=BookStageOut, operation_id="write_in_book")
def write_in_book(request: HttpRequest, build_id: int, payload: BookedAllIn) -> BookStageOut:
    """Write down what was entered, each once however often it is sent."""
    return answer.written(signed_in(request), build_id, payload.entries, payload.system)


@router.post("/import", response={201: BuildOut}, operation_id="bring_book_in")
def bring_book_in(request: HttpRequest, file: File[UploadedFile]) -> Status[BuildOut]:
    """A new build with its whole track book, from a file."""
    return Status(201, build_out(exchange.brought_in(signed_in(request), file)))


@router.get("/{int:build_id}/export", operation_id="save_book")
def save_book(request: HttpRequest, build_id: int) -> HttpResponse:
    """A car's whole track book as one file: JSON, CSV, laps, photos and a manifest."""
    build, data = exchange.saved(signed_in(request).workshop, build_id)
    name = f"{slugify(build.name) or 'car'}-track-book.zip"
    return HttpResponse(
        data,
        content_type="application/zip",
        headers={"Content-Disposition": f'attachment; filename="{name}"'},
    )


@router.get("/{int:build_id}/page", operation_id="print_book")
def print_book(request: HttpRequest, build_id: int, system: UnitSystem = "metric") -> HttpResponse:
    """The book on paper."""
    workshop = signed_in(request).workshop
    name = build_of(workshop, build_id).name
    told = answer.book(workshop, build_id, system)
    made = page.as_page(name, told.book, judging.all_judged(workshop, build_id))
    return HttpResponse(
        made,
        content_type="application/pdf",
        headers={
            "Content-Disposition": f'inline; filename="{slugify(name) or "car"}-track-book.pdf"'
        },
    )


@router.get("/laps", response=list[LapToJudge], operation_id="list_laps_to_judge")
def list_laps_to_judge(request: HttpRequest) -> list[LapToJudge]:
    """Laps of the workshop that have their oil's pressure, newest first."""
    return judging.laps_to_judge(signed_in(request).workshop)


@router.get(
    "/{int:build_id}/sessions/{session_id}/judged", response=JudgedOut, operation_id="get_judged"
)
def get_judged(request: HttpRequest, build_id: int, session_id: str) -> JudgedOut:
    """A session's laps against the forecast that it is judged by."""
    return judging.judged_of(signed_in(request).workshop, build_id, session_id)


@router.put(
    "/{int:build_id}/sessions/{session_id}/judged", response=JudgedOut, operation_id="judge_session"
)
def judge_session(
    request: HttpRequest, build_id: int, session_id: str, payload: SessionLapsIn
) -> JudgedOut:
    """Hold laps against the forecast of the car that drove them, and keep both."""
    return judging.judge_session(signed_in(request), build_id, session_id, payload)


@router.get(
    "/{int:build_id}/sessions/{session_id}/judged/{int:lap_number}/{int:dip_number}",
    response=JudgedTrace,
    operation_id="get_judged_trace",
)
def get_judged_trace(
    request: HttpRequest, build_id: int, session_id: str, lap_number: int, dip_number: int
) -> JudgedTrace:
    """Round one dip of one lap: measured, and as the sensor would show the forecast."""
    return judging.trace_of(
        signed_in(request).workshop, build_id, session_id, lap_number, dip_number
    )


def _newest(request: HttpRequest, build_id: int) -> LatestLearningOut:
    found = newest_of(signed_in(request).workshop, build_id)
    return LatestLearningOut(learning=None if found is None else learning_out(found))


@router.get("/{int:build_id}/learning", response=LatestLearningOut, operation_id="get_learning")
def get_learning(request: HttpRequest, build_id: int) -> LatestLearningOut:
    """The newest fit of what nobody measured: how far it is, what came of it."""
    learning.wake()
    return _newest(request, build_id)


@router.post("/{int:build_id}/learning", response=LatestLearningOut, operation_id="ask_learning")
def ask_learning(request: HttpRequest, build_id: int) -> LatestLearningOut:
    """Fit what nobody measured to the laps that tell most of it."""
    learning.ask(signed_in(request), build_id)
    return _newest(request, build_id)


@router.post(
    "/{int:build_id}/learning/cancel", response=LatestLearningOut, operation_id="cancel_learning"
)
def cancel_learning(request: HttpRequest, build_id: int) -> LatestLearningOut:
    """End the fit that is under way."""
    learning.cancel(signed_in(request), build_id)
    return _newest(request, build_id)


@router.post("/{int:build_id}/learning/take", response=BuildOut, operation_id="take_learned")
def take_learned(request: HttpRequest, build_id: int, payload: TakeIn) -> BuildOut:
    """Take fitted figures over into what is known of the car."""
    user = signed_in(request)
    wanted = payload.learning_id, payload.base_state, payload.keys
    return build_out(learning.take(user, build_id, *wanted))


@router.post(
    "/{int:build_id}/learning/leave", response=LatestLearningOut, operation_id="leave_learned"
)
def leave_learned(request: HttpRequest, build_id: int, payload: LeaveIn) -> LatestLearningOut:
    """Leave all as it was."""
    learning.leave(signed_in(request), build_id, payload.learning_id)
    return _newest(request, build_id)


@router.post(
    "/{int:build_id}/hold-ups/{trial_id}/take", response=BuildOut, operation_id="take_held_up"
)
def take_held_up(
    request: HttpRequest, build_id: int, trial_id: str, payload: TakeTrialIn
) -> BuildOut:
    """Take over what a hold-up trial told, in place of what was guessed."""
    user = signed_in(request)
    return build_out(learning.take_held_up(user, build_id, trial_id, payload.base_state))


@router.get("/{int:build_id}/live", response=LiveSince, operation_id="get_live")
def get_live(request: HttpRequest, build_id: int, after: float = -1.0) -> LiveSince:
    """A car that is followed while it drives, its line after a time."""
    return live_of(signed_in(request).workshop, build_id, after)


@router.post("/{int:build_id}/live", response=LiveSince, operation_id="open_live")
def open_live(request: HttpRequest, build_id: int) -> LiveSince:
    """Follow a car by its forecast."""
    user = signed_in(request)
    build = build_of(user.workshop, build_id)
    found = judging.forecast_of_car(build)
    if found is None:
        words = "has no run in moving oil to be followed by; run it on Slosh first"
        raise InvalidInput([Problem("build_id", words)])
    live.open_feed(user, build, *found)
    return live_of(user.workshop, build_id)


@router.delete("/{int:build_id}/live", response=LiveSince, operation_id="close_live")
def close_live(request: HttpRequest, build_id: int) -> LiveSince:
    """Follow a car no more."""
    workshop = signed_in(request).workshop
    live.close_feed(workshop, build_id)
    return live_of(workshop, build_id)
