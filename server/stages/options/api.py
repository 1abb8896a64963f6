"""Options: begin a study of remedies, watch it, look into one, apply it."""

from __future__ import annotations

from accounts.requests import signed_in
from bilge_core.options.search import What
from bilge_core.quantities import UnitSystem
from bilge_core.tell.overfill import OverfillOut
from builds.schemas import BuildOut
from builds.selectors import build_of, build_out
from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import Router
from studies import services
from studies.schemas import ApplyIn, OverLapOut, SearchIn, StudyIn

from stages.options import answer
from stages.options.schemas import LatestSearchOut, LatestStudyOut, RemedyOut

router = Router()


@router.get("/{int:build_id}", response=LatestStudyOut, operation_id="get_options")
def get_options(request: HttpRequest, build_id: int) -> LatestStudyOut:
    """The newest study of a build, its progress and its table."""
    services.wake()
    return answer.latest(signed_in(request).workshop, build_id)


@router.post("/{int:build_id}/study", response=LatestStudyOut, operation_id="begin_study")
def begin_study(request: HttpRequest, build_id: int, payload: StudyIn) -> LatestStudyOut:
    """Try remedies on a build as it stands, or find the study there is."""
    user = signed_in(request)
    services.ask_for_study(user, build_id, payload)
    return answer.latest(user.workshop, build_id)


@router.post("/{int:build_id}/cancel", response=LatestStudyOut, operation_id="cancel_study")
def cancel_study(request: HttpRequest, build_id: int) -> LatestStudyOut:
    """End a study; what was tried stays."""
    workshop = signed_in(request).workshop
    services.cancel_study(workshop, build_id)
    return answer.latest(workshop, build_id)


@router.get("/{int:build_id}/search/{what}", response=LatestSearchOut, operation_id="get_search")
def get_search(request: HttpRequest, build_id: int, what: What) -> LatestSearchOut:
    """The newest search of a kind, its grid and the best place so far."""
    return answer.latest_search(signed_in(request).workshop, build_id, what)


@router.post(
    "/{int:build_id}/search/{what}/cancel", response=LatestSearchOut, operation_id="cancel_search"
)
def cancel_search(request: HttpRequest, build_id: int, what: What) -> LatestSearchOut:
    """End a search; what was tried stays."""
    workshop = signed_in(request).workshop
    services.cancel_study(workshop, build_id, what)
    return answer.latest_search(workshop, build_id, what)


@router.post("/{int:build_id}/search", response=LatestSearchOut, operation_id="begin_search")
def begin_search(request: HttpRequest, build_id: int, payload: SearchIn) -> LatestSearchOut:
    """Look for the best place of a plate or of the pickup, or find the search there is."""
    user = signed_in(request)
    services.ask_for_search(user, build_id, payload.what)
    return answer.latest_search(user.workshop, build_id, payload.what)


@router.get("/{int:build_id}/remedy", response=RemedyOut, operation_id="get_remedy")
def get_remedy(
    request: HttpRequest, build_id: int, key: str, system: UnitSystem = "metric"
) -> RemedyOut:
    """What one remedy would change."""
    return answer.remedy(signed_in(request).workshop, build_id, key, system)


@router.get("/{int:build_id}/over-lap", response=OverLapOut, operation_id="lay_over_lap")
def lay_over_lap(request: HttpRequest, build_id: int, key: str) -> OverLapOut:
    """One remedy over the worst lap, beside the build as it is."""
    return answer.laid_over(signed_in(request).workshop, build_id, key)


@router.post("/{int:build_id}/apply", response=BuildOut, operation_id="apply_remedy")
def apply_remedy(request: HttpRequest, build_id: int, payload: ApplyIn) -> BuildOut:
    """Make a remedy a revision of the build."""
    user = signed_in(request)
    return build_out(services.apply_remedy(user, build_id, payload.base_state, payload.key))


@router.get("/{int:build_id}/overfill", response=OverfillOut, operation_id="plan_overfill")
def plan_overfill(request: HttpRequest, build_id: int) -> OverfillOut:
    """Oil above the mark as a measured trial: pours, what to look at, where to stop."""
    return answer.overfill(signed_in(request).workshop, build_id)


@router.get("/{int:build_id}/page", operation_id="print_options")
def print_options(request: HttpRequest, build_id: int) -> HttpResponse:
    """The newest study on one page, as PDF."""
    workshop = signed_in(request).workshop
    made = answer.page(workshop, build_id)
    name = slugify(build_of(workshop, build_id).name) or "build"
    return HttpResponse(
        made,
        content_type="application/pdf",
        headers={"Content-Disposition": f'attachment; filename="{name}-remedies.pdf"'},
    )
