"""Job card: the work in order, entered step by step."""

from __future__ import annotations

from accounts.requests import signed_in
from builds.selectors import build_of
from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import Router

from stages.job_card import answer, page
from stages.job_card.schemas import EntriesIn, JobStageOut, PartTickIn, SaidIn

router = Router()


@router.get("/{int:build_id}", response=JobStageOut, operation_id="get_job")
def get_job(request: HttpRequest, build_id: int) -> JobStageOut:
    """The job that makes the plan of the car as it is, begun or not."""
    return answer.job(signed_in(request).workshop, build_id)


@router.post("/{int:build_id}/try", response=JobStageOut, operation_id="try_job")
def try_job(request: HttpRequest, build_id: int, payload: SaidIn) -> JobStageOut:
    """How the card would be with other things said of it; nothing is kept."""
    return answer.tried(signed_in(request).workshop, build_id, payload.said)


@router.post("/{int:build_id}/begin", response=JobStageOut, operation_id="begin_job")
def begin_job(request: HttpRequest, build_id: int, payload: SaidIn) -> JobStageOut:
    """Begin the job: from then on it is ticked."""
    return answer.begun(signed_in(request), build_id, payload.said)


@router.put("/{int:build_id}/said", response=JobStageOut, operation_id="say_of_job")
def say_of_job(request: HttpRequest, build_id: int, payload: SaidIn) -> JobStageOut:
    """Say what is in the way, which school, what else is to be done."""
    return answer.said(signed_in(request), build_id, payload.said)


@router.post("/{int:build_id}/entries", response=JobStageOut, operation_id="enter_on_job")
def enter_on_job(request: HttpRequest, build_id: int, payload: EntriesIn) -> JobStageOut:
    """Keep what happened, each once however often it is sent; what is not let is told."""
    return answer.entered(signed_in(request), build_id, payload.entries)


@router.put("/{int:build_id}/parts/{key}", response=JobStageOut, operation_id="tick_job_part")
def tick_job_part(
    request: HttpRequest, build_id: int, key: str, payload: PartTickIn
) -> JobStageOut:
    """Say how far a part of the job is."""
    return answer.ticked_part(signed_in(request), build_id, key, payload.how_far)


@router.post("/{int:build_id}/close", response=JobStageOut, operation_id="close_job")
def close_job(request: HttpRequest, build_id: int) -> JobStageOut:
    """Close the card: the car is as it was planned."""
    return answer.closed(signed_in(request), build_id)


@router.get("/{int:build_id}/page", operation_id="print_job")
def print_job(request: HttpRequest, build_id: int) -> HttpResponse:
    """The card to print, with boxes to tick and a code back to each part of the job, as PDF."""
    workshop = signed_in(request).workshop
    name = build_of(workshop, build_id).name
    address = request.build_absolute_uri(f"/builds/{build_id}/job-card")
    made = page.as_page(name, answer.job(workshop, build_id), address)
    return HttpResponse(
        made, content_type="application/pdf",
        headers={
            "Content-Disposition": f'attachment; filename="{slugify(name) or "build"}-job.pdf"'
        },
    )  # fmt: skip
