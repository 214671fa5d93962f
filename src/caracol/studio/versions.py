"""Versions: what a piece was at earlier moments, kept across sittings."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.utils import timezone

from ..core.piece.files import check_piece, dump_piece
from .database import one_writer
from .models import Piece, Version, free_name

SANDBOX = timedelta(minutes=4)
"""Versions that are kept by themselves lie at least this far apart."""
MOST_AUTOMATIC = 40


def add(piece: Piece, name: str = "", document: dict[str, Any] | None = None) -> Version:
    """Keep the piece as it is saved now, or another document of it, such as a variant that was rolled."""
    return Version.objects.create(piece=piece, name=name, document=piece.document if document is None else document)


def keep_before_change(piece: Piece) -> None:
    """Keep, by itself, what is about to be overwritten, where the last version is older than `SANDBOX`; the oldest such leave."""
    last = piece.versions.present().first()
    if last is not None and (timezone.now() - last.made_at < SANDBOX or last.document == piece.document):
        return
    add(piece)
    kept = piece.versions.filter(name="").values_list("id", flat=True)[MOST_AUTOMATIC:]
    piece.versions.filter(id__in=list(kept)).delete()


def restore(version: Version) -> Piece:
    """Make the piece what it was; what it is now is kept as a version first.

    Raises
    ------
    PieceError
        This release cannot read the version; the piece stays as it is.
    """
    document = dump_piece(check_piece(version.document))
    # Read inside the transaction: a save that comes first is kept as the version, one that comes later is stale.
    with one_writer():
        piece = Piece.objects.get(id=version.piece_id)
        if piece.document != document:
            add(piece)
        piece.document = document
        piece.revision += 1
        piece.save_token, piece.faults, piece.changed_at = "", [], timezone.now()
        piece.save(update_fields=["document", "revision", "save_token", "faults", "changed_at"])
    return piece


def branch(version: Version) -> Piece:
    """Make a new piece of a version.

    Raises
    ------
    PieceError
        This release cannot read the version.
    """
    document = dump_piece(check_piece(version.document))
    with one_writer():
        name = free_name(Piece, f"{version.piece.name[:150]}, {version.name or 'earlier'}")
        return Piece.objects.create(name=name, document=document)
