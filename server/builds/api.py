"""Builds: make, read, edit, undo."""

from __future__ import annotations

from accounts.requests import signed_in
from bilge_core.document.read import write_build
from bilge_core.quantities import UnitSystem
from bilge_core.tell.differences import DifferenceOut
from django.http import HttpRequest, HttpResponse
from django.utils.text import slugify
from ninja import File, Router, Status
from ninja.files import UploadedFile

from builds import photos, selectors, services
from builds.schemas import (
    ActIn,
    AsIsIn,
    BuildOut,
    ChooseLapIn,
    DocumentIn,
    JudgeIn,
    MoveIn,
    NewBuildIn,
    PhotoOut,
    RevisionIn,
    ShowIn,
    StateOut,
    TemplateOut,
)
from builds.templates import templates

router = Router()


@router.get("/templates", response=list[TemplateOut], operation_id="list_templates")
def list_templates(request: HttpRequest) -> list[TemplateOut]:
    """What a build can begin from."""
    return templates()


@router.post("", response={201: BuildOut}, operation_id="create_build")
def create_build(request: HttpRequest, payload: NewBuildIn) -> Status[BuildOut]:
    """A new build from a template."""
    return Status(201, selectors.build_out(services.new_from_template(signed_in(request), payload)))


@router.get("/{int:build_id}", response=BuildOut, operation_id="get_build")
def get_build(request: HttpRequest, build_id: int) -> BuildOut:
    """A build as it stands."""
    return selectors.build_out(selectors.build_of(signed_in(request).workshop, build_id))


@router.delete("/{int:build_id}", response={204: None}, operation_id="delete_build")
def delete_build(request: HttpRequest, build_id: int) -> Status[None]:
    """Delete a build and all its states."""
    services.delete_build(signed_in(request), build_id)
    return Status(204, None)


@router.get("/{int:build_id}/document", operation_id="export_document")
def export_document(request: HttpRequest, build_id: int) -> HttpResponse:
    """The bare document as a file."""
    build = selectors.build_of(signed_in(request).workshop, build_id)
    text = write_build(selectors.document_of(build))
    name = slugify(build.name) or "build"
    return HttpResponse(
        text,
        content_type="application/json",
        headers={"Content-Disposition": f'attachment; filename="{name}.json"'},
    )


@router.post("/{int:build_id}/acts", response=BuildOut, operation_id="act_on_build")
def act_on_build(request: HttpRequest, build_id: int, payload: ActIn) -> BuildOut:
    """Change a build by an act: figures, a spacer, a deeper sump, a preset, a flange, a mend."""
    return selectors.build_out(services.act(signed_in(request), build_id, payload))


@router.put("/{int:build_id}/document", response=BuildOut, operation_id="replace_document")
def replace_document(request: HttpRequest, build_id: int, payload: DocumentIn) -> BuildOut:
    """Edit the whole document."""
    return selectors.build_out(services.replace_document(signed_in(request), build_id, payload))


@router.post("/{int:build_id}/undo", response=BuildOut, operation_id="undo_edit")
def undo_edit(request: HttpRequest, build_id: int, payload: MoveIn) -> BuildOut:
    """Undo the last edit."""
    build = services.undo(signed_in(request), build_id, payload.base_state)
    return selectors.build_out(build)


@router.post("/{int:build_id}/redo", response=BuildOut, operation_id="redo_edit")
def redo_edit(request: HttpRequest, build_id: int, payload: MoveIn) -> BuildOut:
    """Do an undone edit again."""
    build = services.redo(signed_in(request), build_id, payload.base_state)
    return selectors.build_out(build)


@router.get("/{int:build_id}/history", response=list[StateOut], operation_id="get_history")
def get_history(request: HttpRequest, build_id: int) -> list[StateOut]:
    """The states of a build, newest first."""
    return selectors.history_of(selectors.build_of(signed_in(request).workshop, build_id))


@router.post("/{int:build_id}/show", response=BuildOut, operation_id="show_state")
def show_state(request: HttpRequest, build_id: int, payload: ShowIn) -> BuildOut:
    """Show any state of the build."""
    return selectors.build_out(services.show_state(signed_in(request), build_id, payload))


@router.put("/{int:build_id}/as-is", response=BuildOut, operation_id="say_as_is")
def say_as_is(request: HttpRequest, build_id: int, payload: AsIsIn) -> BuildOut:
    """Say which state the car is in."""
    return selectors.build_out(services.say_as_is(signed_in(request), build_id, payload))


@router.get(
    "/{int:build_id}/differences",
    response=list[DifferenceOut],
    operation_id="get_differences",
)
def get_differences(
    request: HttpRequest, build_id: int, before: int, after: int, system: UnitSystem = "metric"
) -> list[DifferenceOut]:
    """What is to be built to get from one state to another."""
    workshop = signed_in(request).workshop
    return selectors.differences_between(workshop, build_id, before, after, system)


@router.put("/{int:build_id}/revision", response=BuildOut, operation_id="name_revision")
def name_revision(request: HttpRequest, build_id: int, payload: RevisionIn) -> BuildOut:
    """Name the state shown."""
    return selectors.build_out(services.name_revision(signed_in(request), build_id, payload))


@router.put("/{int:build_id}/lap", response=BuildOut, operation_id="choose_lap")
def choose_lap(request: HttpRequest, build_id: int, payload: ChooseLapIn) -> BuildOut:
    """Choose the lap to show, and judge by it too."""
    return selectors.build_out(services.choose_lap(signed_in(request), build_id, payload))


@router.put("/{int:build_id}/judged", response=BuildOut, operation_id="judge_by")
def judge_by(request: HttpRequest, build_id: int, payload: JudgeIn) -> BuildOut:
    """Choose the laps to judge by."""
    return selectors.build_out(services.judge_by(signed_in(request), build_id, payload))


@router.post("/{int:build_id}/photos", response={201: PhotoOut}, operation_id="add_photo")
def add_photo(request: HttpRequest, build_id: int, file: File[UploadedFile]) -> Status[PhotoOut]:
    """Keep a photo of a part."""
    kept = photos.add_photo(signed_in(request), build_id, file)
    return Status(201, PhotoOut(token=kept.token))


@router.get("/{int:build_id}/photos/{token}", operation_id="get_photo")
def get_photo(request: HttpRequest, build_id: int, token: str) -> HttpResponse:
    """A photo as JPEG."""
    data = photos.photo_bytes(signed_in(request).workshop, build_id, token)
    answer = HttpResponse(data, content_type="image/jpeg")
    answer.headers["Cache-Control"] = "private, max-age=31536000, immutable"
    return answer
