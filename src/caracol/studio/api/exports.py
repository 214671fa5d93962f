"""Exports of a piece."""

# Annotations are not put off here: pages wrap views, and their types are looked up where the wrapper stands.

from dataclasses import asdict
from uuid import UUID

from django.db.models import QuerySet
from django.http import FileResponse, HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router, Status
from ninja.pagination import paginate

from ...core.piece.files import check_piece
from .. import exports, media
from ..estimates import estimate
from ..models import Export, Piece
from .described import DOWNLOAD, binary
from .pages import Pages
from .schemas.common import FAULTS
from .schemas.exports import EstimateIn, EstimateOut, ExportIn, ExportOut
from .serving import served

router = Router(tags=["exports"])
MEDIA = ("image/jpeg", "image/png", "image/webp", "image/avif", "image/tiff", "image/openraster")


@router.get("/pieces/{piece_id}/exports", response={200: list[ExportOut], **FAULTS}, operation_id="list_exports")
@paginate(Pages)
def list_exports(request: HttpRequest, piece_id: UUID) -> QuerySet[Export]:
    """List a piece's exports, the newest first."""
    return get_object_or_404(Piece, id=piece_id).exports.all()


@router.post("/pieces/{piece_id}/exports", response={201: ExportOut, **FAULTS}, operation_id="start_export")
def ask(request: HttpRequest, piece_id: UUID, payload: ExportIn) -> Status[Export]:
    """Export the piece as it is saved now; the work goes to the worker."""
    return Status(201, exports.ask(get_object_or_404(Piece, id=piece_id), payload.model_dump()))


@router.post("/export-estimates", response={200: EstimateOut, **FAULTS}, operation_id="estimate_export")
def estimate_export(request: HttpRequest, payload: EstimateIn) -> EstimateOut:
    """Estimate how large a file would be, and up to which size the photo is sharp."""
    piece = check_piece(payload.document)
    with served(request) as stop:
        return EstimateOut(**asdict(estimate(piece, payload.options.model_dump(), stop)))


@router.get("/exports/{export_id}", response={200: ExportOut, **FAULTS}, operation_id="get_export")
def get(request: HttpRequest, export_id: UUID) -> Export:
    """Return an export: its state, how far it is, and where its file is once it is done."""
    return get_object_or_404(Export, id=export_id)


@router.post("/exports/{export_id}/cancel", response={200: ExportOut, **FAULTS}, operation_id="cancel_export")
def cancel(request: HttpRequest, export_id: UUID) -> Export:
    """Stop an export that is not finished."""
    export = get_object_or_404(Export, id=export_id)
    exports.cancel(export)
    export.refresh_from_db()
    return export


@router.get(
    "/exports/{export_id}/file",
    operation_id="get_export_file",
    response={200: None, **FAULTS},
    openapi_extra=binary("The finished file; 404 until it is done.", *MEDIA, headers=DOWNLOAD),
)
def file(request: HttpRequest, export_id: UUID) -> FileResponse:
    """Return the finished file."""
    export = get_object_or_404(Export, id=export_id, state=Export.State.DONE)
    return media.answer(export.stored, name=export.file_name)
