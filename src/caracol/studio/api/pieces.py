"""Pieces: list, start, save, delete, restore."""

from __future__ import annotations

import json
from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Router

from ...core.errors import PieceError
from ...core.piece import check_piece
from .. import looks, pieces
from ..models import Photo, Piece
from ..photos import clean_name
from .photos import FOREVER
from .schemas import FAULTS, PieceIn, PieceOut, PieceRow, PieceStartIn, StaleOut

router = Router(tags=["pieces"])


def lowest_of(document: dict[str, Any]) -> dict[str, Any]:
    """Return the lowest layer of a document."""
    entry = document["layers"][0]
    while "layers" in entry:
        entry = entry["layers"][0]
    return dict(entry)


def as_row(piece: Piece) -> PieceRow:
    """Return a piece as the list shows it."""
    layer, layers = lowest_of(piece.document), list(check_piece(piece.document).walk())
    return PieceRow(
        id=piece.id,
        name=piece.name,
        revision=piece.revision,
        steps=sum(len(one.steps) for one in layers),
        layers=len(layers),
        photo=layer["source"].get("photo"),
        changed_at=piece.changed_at,
    )


@router.get("", response={200: list[PieceRow], **FAULTS}, operation_id="list_pieces")
def list_pieces(request: HttpRequest) -> list[PieceRow]:
    """List all pieces, the last changed first."""
    return [as_row(piece) for piece in Piece.objects.present()]


@router.post("", response={200: PieceOut, **FAULTS}, operation_id="start_piece")
def start(request: HttpRequest, payload: PieceStartIn) -> Piece:
    """Start a piece from a photo and a starting point, or from the contents of a piece file."""
    if payload.document is not None:
        return pieces.create(payload.name or "Opened piece", payload.document)
    if payload.source is not None:
        return pieces.start_drawn(payload.source)
    if payload.photo is None:
        raise PieceError(["photo: name a photo of the Shelf, or give a source or a document"])
    return pieces.start(get_object_or_404(Photo, id=payload.photo), payload.start)


@router.get("/{piece_id}", response={200: PieceOut, **FAULTS}, operation_id="get_piece")
def get(request: HttpRequest, piece_id: UUID) -> Piece:
    """Return a piece with its document and revision."""
    return get_object_or_404(Piece, id=piece_id)


@router.put("/{piece_id}", response={200: PieceOut, 409: StaleOut, **FAULTS}, operation_id="save_piece")
def save(request: HttpRequest, piece_id: UUID, payload: PieceIn) -> Piece:
    """Save a piece over the revision it started from; a stale one is refused and told what is kept."""
    get_object_or_404(Piece, id=piece_id)
    return pieces.save(piece_id, payload.revision, payload.name.strip(), payload.document)


@router.delete("/{piece_id}", response={200: PieceOut, **FAULTS}, operation_id="delete_piece")
def delete(request: HttpRequest, piece_id: UUID) -> Piece:
    """Delete a piece; `restore` brings it back."""
    piece = get_object_or_404(Piece, id=piece_id)
    piece.deleted_at = timezone.now()
    piece.save(update_fields=["deleted_at"])
    return piece


@router.post("/{piece_id}/restore", response={200: PieceOut, **FAULTS}, operation_id="restore_piece")
def restore(request: HttpRequest, piece_id: UUID) -> Piece:
    """Bring a deleted piece back."""
    piece = get_object_or_404(Piece, id=piece_id)
    piece.deleted_at = None
    piece.save(update_fields=["deleted_at"])
    return piece


@router.get("/{piece_id}/thumbnail", operation_id="piece_thumbnail", include_in_schema=False)
def thumbnail(request: HttpRequest, piece_id: UUID) -> HttpResponse:
    """Return a small JPEG of the piece as it is now; ask with its revision so that it may be cached."""
    piece = get_object_or_404(Piece, id=piece_id)
    response = HttpResponse(looks.thumbnail(check_piece(piece.document), 320), content_type="image/jpeg")
    response["Cache-Control"] = FOREVER
    return response


@router.get("/{piece_id}/file", operation_id="piece_file", include_in_schema=False)
def file(request: HttpRequest, piece_id: UUID) -> HttpResponse:
    """Return the piece as a file for the command line."""
    piece = get_object_or_404(Piece, id=piece_id)
    response = HttpResponse(json.dumps(piece.document, indent=2), content_type="application/json")
    response["Content-Disposition"] = f'attachment; filename="{clean_name(piece.name).encode("ascii", "replace").decode()}.json"'
    return response
