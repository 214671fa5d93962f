"""Versions of a piece: list, keep, rename, delete, restore, branch."""

# Annotations are not put off here: pages wrap views, and their types are looked up where the wrapper stands.

from uuid import UUID

from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router, Status
from ninja.pagination import paginate

from ...core.piece.files import check_piece, dump_piece
from .. import previews, versions
from ..models import Piece, Version
from .described import binary
from .pages import Pages
from .photos import FOREVER
from .schemas.common import FAULTS
from .schemas.pieces import PieceOut, VersionAddIn, VersionIn, VersionOut, VersionRow
from .serving import served

router = Router(tags=["versions"])


@router.get("/pieces/{piece_id}/versions", response={200: list[VersionRow], **FAULTS}, operation_id="list_versions")
@paginate(Pages)
def list_versions(request: HttpRequest, piece_id: UUID) -> QuerySet[Version]:
    """List the versions of a piece, the newest first."""
    return get_object_or_404(Piece, id=piece_id).versions.present().defer("document")


@router.post("/pieces/{piece_id}/versions", response={201: VersionRow, **FAULTS}, operation_id="add_version")
def add(request: HttpRequest, piece_id: UUID, payload: VersionAddIn) -> Status[Version]:
    """Save the piece as it is now, or the given document of it, as a version, with a name or without."""
    document = None if payload.document is None else dump_piece(check_piece(payload.document))
    return Status(201, versions.add(get_object_or_404(Piece, id=piece_id), payload.name.strip(), document))


@router.get("/versions/{version_id}", response={200: VersionOut, **FAULTS}, operation_id="get_version")
def get(request: HttpRequest, version_id: UUID) -> Version:
    """Return a version with its document."""
    return get_object_or_404(Version, id=version_id)


@router.patch("/versions/{version_id}", response={200: VersionRow, **FAULTS}, operation_id="rename_version")
def rename(request: HttpRequest, version_id: UUID, payload: VersionIn) -> Version:
    """Give a version a name: it is then never deleted automatically."""
    version = get_object_or_404(Version, id=version_id)
    version.name = payload.name.strip()
    version.save(update_fields=["name"])
    return version


@router.delete("/versions/{version_id}", response={200: VersionRow, **FAULTS}, operation_id="delete_version")
def delete(request: HttpRequest, version_id: UUID) -> Version:
    """Delete a version."""
    version = get_object_or_404(Version, id=version_id)
    version.remove()
    return version


@router.post("/versions/{version_id}/restore", response={200: PieceOut, **FAULTS}, operation_id="restore_version")
def restore(request: HttpRequest, version_id: UUID) -> Piece:
    """Make the piece what it was; what it is now becomes a version."""
    return versions.restore(get_object_or_404(Version, id=version_id))


@router.post("/versions/{version_id}/pieces", response={201: PieceOut, **FAULTS}, operation_id="make_piece_of_version")
def branch(request: HttpRequest, version_id: UUID) -> Status[Piece]:
    """Make a new piece of a version."""
    return Status(201, versions.branch(get_object_or_404(Version, id=version_id)))


@router.get(
    "/versions/{version_id}/thumbnail",
    operation_id="get_version_thumbnail",
    response={200: None, **FAULTS},
    openapi_extra=binary("A small JPEG.", "image/jpeg"),
)
def thumbnail(request: HttpRequest, version_id: UUID) -> HttpResponse:
    """Return a small JPEG of a version."""
    version = get_object_or_404(Version, id=version_id)
    with served(request) as stop:
        response = HttpResponse(previews.thumbnail(check_piece(version.document), 320, stop), content_type="image/jpeg")
    response["Cache-Control"] = FOREVER
    return response
