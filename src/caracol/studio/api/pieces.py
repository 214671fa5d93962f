"""Pieces: list, start, save, delete, restore."""

from __future__ import annotations

from uuid import UUID

from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import File, Router, Status
from ninja.files import UploadedFile
from ninja.pagination import paginate

from ...core.delivery.names import stem_for
from ...core.errors import PieceError
from ...core.piece.files import check_piece, written_to_read
from .. import pieces, previews
from ..models import Photo, Piece
from .described import DOWNLOAD, binary
from .pages import Pages
from .photos import FOREVER
from .schemas.common import FAULTS
from .schemas.pieces import HistoryIn, HistoryKeptOut, HistoryOut, PieceIn, PieceOut, PieceRow, PieceStartIn, StaleOut
from .serving import download, served

router = Router(tags=["pieces"])


@router.get("", response={200: list[PieceRow], **FAULTS}, operation_id="list_pieces")
@paginate(Pages)
def list_pieces(request: HttpRequest, gone: bool = False) -> QuerySet[Piece]:
    """List the pieces, the last changed first; with `gone` those that were deleted."""
    return (Piece.objects.gone() if gone else Piece.objects.present()).defer("document")


@router.post("", response={201: PieceOut, **FAULTS}, operation_id="start_piece")
def start(request: HttpRequest, payload: PieceStartIn) -> Status[Piece]:
    """Start a piece from a photo and a start, a drawn source, or the contents of a piece file."""
    if payload.document is not None:
        return Status(201, pieces.create(payload.name or "Opened piece", payload.document))
    if payload.source is not None:
        return Status(201, pieces.start_drawn(payload.source))
    if payload.photo is None:
        raise PieceError(["photo: name a photo of the Shelf, or give a source or a document"])
    return Status(201, pieces.start(get_object_or_404(Photo, id=payload.photo), payload.start, payload.loop))


@router.post("/imports", response={201: PieceOut, **FAULTS}, operation_id="import_piece")
def open_delivered(request: HttpRequest, file: File[UploadedFile]) -> Status[Piece]:
    """Make a piece of the steps inside an exported file."""
    return Status(201, pieces.open_delivered(file.read(), file.name or "file"))


@router.get("/{piece_id}", response={200: PieceOut, **FAULTS}, operation_id="get_piece")
def get(request: HttpRequest, piece_id: UUID) -> Piece:
    """Return a piece with its document and revision; `faults` say why it cannot be read, where that is so."""
    piece = get_object_or_404(Piece, id=piece_id)
    try:
        check_piece(piece.document)
        piece.faults = []
    except PieceError as error:
        piece.faults = error.faults
    return piece


@router.get("/{piece_id}/history", response={200: HistoryOut, **FAULTS}, operation_id="get_history")
def history(request: HttpRequest, piece_id: UUID) -> HistoryOut:
    """Return the history of a piece, for undo after a reload."""
    revision, packed = pieces.history_of(get_object_or_404(Piece, id=piece_id))
    return HistoryOut(revision=revision, history=packed)


@router.put("/{piece_id}/history", response={200: HistoryKeptOut, **FAULTS}, operation_id="save_history")
def keep_history(request: HttpRequest, piece_id: UUID, payload: HistoryIn) -> HistoryKeptOut:
    """Save the history that belongs to a revision of a piece; one of an older revision is not stored."""
    piece = get_object_or_404(Piece, id=piece_id)
    return HistoryKeptOut(revision=pieces.keep_history(piece, payload.revision, payload.history))


@router.put("/{piece_id}", response={200: PieceOut, 409: StaleOut, **FAULTS}, operation_id="save_piece")
def save(request: HttpRequest, piece_id: UUID, payload: PieceIn) -> Piece:
    """Save a piece over the revision it started from; a stale one is refused and told what is kept."""
    get_object_or_404(Piece, id=piece_id)
    return pieces.save(piece_id, payload.revision, payload.name.strip(), payload.document, payload.token)


@router.delete("/{piece_id}", response={200: PieceOut, **FAULTS}, operation_id="delete_piece")
def delete(request: HttpRequest, piece_id: UUID) -> Piece:
    """Delete a piece; `restore` brings it back."""
    piece = get_object_or_404(Piece, id=piece_id)
    piece.remove()
    return piece


@router.post("/{piece_id}/restore", response={200: PieceOut, **FAULTS}, operation_id="restore_piece")
def restore(request: HttpRequest, piece_id: UUID) -> Piece:
    """Bring a deleted piece back."""
    piece = get_object_or_404(Piece, id=piece_id)
    piece.bring_back()
    return piece


@router.get(
    "/{piece_id}/thumbnail",
    operation_id="get_piece_thumbnail",
    response={200: None, **FAULTS},
    openapi_extra=binary("A small JPEG.", "image/jpeg"),
)
def thumbnail(request: HttpRequest, piece_id: UUID) -> HttpResponse:
    """Return a small JPEG of the piece as it is now; ask with its revision so that it may be cached."""
    piece = check_piece(get_object_or_404(Piece, id=piece_id).document)
    data = previews.kept_thumbnail(piece, previews.THUMBNAIL)
    if data is None:
        with served(request) as stop:
            data = previews.thumbnail(piece, previews.THUMBNAIL, stop)
    response = HttpResponse(data, content_type="image/jpeg")
    response["Cache-Control"] = FOREVER
    return response


@router.get(
    "/{piece_id}/file",
    operation_id="get_piece_file",
    response={200: None, **FAULTS},
    openapi_extra=binary("The piece as JSON.", "application/json", headers=DOWNLOAD),
)
def file(request: HttpRequest, piece_id: UUID) -> HttpResponse:
    """Return the piece as a file for the command line."""
    piece = get_object_or_404(Piece, id=piece_id)
    return download(written_to_read(piece.document), "application/json", f"{stem_for(piece.name, 'piece')}.json")
