"""Track book: sessions, what they used, what is due."""

from __future__ import annotations

from accounts.requests import signed_in
from bilge_core.quantities import UnitSystem
from django.http import HttpRequest
from ninja import Router

from stages.track_book import answer
from stages.track_book.schemas import BookedAllIn, BookStageOut

router = Router()


@router.get("/{int:build_id}", response=BookStageOut, operation_id="get_book")
def get_book(request: HttpRequest, build_id: int, system: UnitSystem = "metric") -> BookStageOut:
    """Sessions, the newest first, with what they used; what is due; trends."""
    return answer.book(signed_in(request).workshop, build_id, system)


@router.post("/{int:build_id}/entries", response=BookStageOut, operation_id="write_in_book")
def write_in_book(request: HttpRequest, build_id: int, payload: BookedAllIn) -> BookStageOut:
    """Write down what was entered, each once however often it is sent."""
    return answer.written(signed_in(request), build_id, payload.entries, payload.system)
