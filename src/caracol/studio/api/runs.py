"""Runs: a recipe on many photos, with their files, one ZIP and one contact sheet."""

# Annotations are not put off here: pages wrap views, and their types are looked up where the wrapper stands.

from uuid import UUID

from django.db.models import QuerySet
from django.http import FileResponse, HttpRequest, HttpResponse, StreamingHttpResponse
from django.shortcuts import get_object_or_404
from django.utils.http import content_disposition_header
from ninja import Router, Status
from ninja.pagination import paginate

from ...core.delivery.names import stem_for
from ...core.piece.recipe import check_recipe
from .. import media, runs
from ..models import Recipe, Run, RunPhoto
from ..sharpness import sharpness
from .described import DOWNLOAD, binary
from .exports import MEDIA
from .pages import Pages
from .schemas.common import FAULTS
from .schemas.runs import RunIn, RunOut, RunPhotoOut, SharpnessIn, SharpnessOut
from .serving import download

router = Router(tags=["runs"])


@router.get("", response={200: list[RunOut], **FAULTS}, operation_id="list_runs")
@paginate(Pages)
def list_runs(request: HttpRequest) -> QuerySet[Run]:
    """List the runs, the newest first."""
    return Run.objects.all()


@router.post("", response={201: RunOut, **FAULTS}, operation_id="start_run")
def start(request: HttpRequest, payload: RunIn) -> Status[Run]:
    """Ask for a run; the work goes to the worker."""
    recipe = get_object_or_404(Recipe, id=payload.recipe)
    return Status(201, runs.start(recipe, payload.photos, payload.dials, payload.slots, payload.options.model_dump(), payload.pattern))


@router.post("/estimates", response={200: SharpnessOut, **FAULTS}, operation_id="estimate_run")
def estimate_sharpness(request: HttpRequest, payload: SharpnessIn) -> SharpnessOut:
    """Return how many files of a run would be enlarged, and up to which size all are sharp."""
    recipe = get_object_or_404(Recipe, id=payload.recipe)
    found = sharpness(check_recipe(recipe.data), payload.photos, payload.dials, payload.slots, payload.size)
    return SharpnessOut(enlarged=found.enlarged, sharp=found.sharp)


@router.get("/{run_id}", response={200: RunOut, **FAULTS}, operation_id="get_run")
def get(request: HttpRequest, run_id: UUID) -> Run:
    """Return a run and how far it is."""
    return get_object_or_404(Run, id=run_id)


@router.get("/{run_id}/photos", response={200: list[RunPhotoOut], **FAULTS}, operation_id="list_run_photos")
@paginate(Pages)
def list_photos(request: HttpRequest, run_id: UUID) -> QuerySet[RunPhoto]:
    """List the photos of a run in their order."""
    return get_object_or_404(Run, id=run_id).photos.all()


@router.post("/{run_id}/pause", response={200: RunOut, **FAULTS}, operation_id="pause_run")
def pause(request: HttpRequest, run_id: UUID) -> Run:
    """Begin no further photo for now."""
    runs.pause(get_object_or_404(Run, id=run_id))
    return get_object_or_404(Run, id=run_id)


@router.post("/{run_id}/resume", response={200: RunOut, **FAULTS}, operation_id="resume_run")
def go_on(request: HttpRequest, run_id: UUID) -> Run:
    """Resume a paused run."""
    runs.go_on(get_object_or_404(Run, id=run_id))
    return get_object_or_404(Run, id=run_id)


@router.post("/{run_id}/cancel", response={200: RunOut, **FAULTS}, operation_id="cancel_run")
def cancel(request: HttpRequest, run_id: UUID) -> Run:
    """Stop a run; what is done stays."""
    runs.cancel(get_object_or_404(Run, id=run_id))
    return get_object_or_404(Run, id=run_id)


@router.post("/{run_id}/retry", response={200: RunOut, **FAULTS}, operation_id="retry_run")
def retry(request: HttpRequest, run_id: UUID) -> Run:
    """Retry the photos that failed or were cancelled."""
    runs.retry(get_object_or_404(Run, id=run_id))
    return get_object_or_404(Run, id=run_id)


@router.get(
    "/{run_id}/archive",
    operation_id="get_run_archive",
    response={200: None, **FAULTS},
    openapi_extra=binary("A ZIP of all finished files.", "application/zip", headers=DOWNLOAD),
)
def zipped(request: HttpRequest, run_id: UUID) -> StreamingHttpResponse:
    """Return the finished files as one ZIP, sent while it is made."""
    run = get_object_or_404(Run, id=run_id)
    response = StreamingHttpResponse(runs.zipped(run), content_type="application/zip")
    response["Content-Disposition"] = content_disposition_header(True, f"{stem_for(run.name, 'run')}.zip")
    return response


@router.get(
    "/{run_id}/contact-sheet",
    operation_id="get_run_contact_sheet",
    response={200: None, **FAULTS},
    openapi_extra=binary("A contact sheet as JPEG.", "image/jpeg", headers=DOWNLOAD),
)
def sheet(request: HttpRequest, run_id: UUID) -> HttpResponse:
    """Return all pictures of a run as one contact sheet."""
    run = get_object_or_404(Run, id=run_id)
    return download(runs.sheet(run), "image/jpeg", f"{stem_for(run.name, 'run')}-sheet.jpg")


def _done(run_id: UUID, number: int) -> RunPhoto:
    return get_object_or_404(RunPhoto, run_id=run_id, number=number, state=RunPhoto.State.DONE)


@router.get(
    "/{run_id}/photos/{number}/file",
    operation_id="get_run_file",
    response={200: None, **FAULTS},
    openapi_extra=binary("The finished file of one photo; 404 until it is done.", *MEDIA, headers=DOWNLOAD),
)
def file(request: HttpRequest, run_id: UUID, number: int) -> FileResponse:
    """Return one finished file."""
    photo = _done(run_id, number)
    return media.answer(photo.stored, name=photo.file_name)


@router.get(
    "/{run_id}/photos/{number}/preview",
    operation_id="get_run_preview",
    response={200: None, **FAULTS},
    openapi_extra=binary("A small JPEG of a finished file.", "image/jpeg"),
)
def picture(request: HttpRequest, run_id: UUID, number: int) -> FileResponse:
    """Return the small picture of a finished photo."""
    return media.answer(_done(run_id, number).small, "image/jpeg")
