"""Pieces: started, saved by revision, deleted and brought back."""

from __future__ import annotations

import zlib
from typing import Any
from uuid import UUID

from django.utils import timezone

from ..core.errors import PieceError
from ..core.piece.files import check_piece, kept_form
from ..core.piece.model import Piece as Checked
from ..core.piece.starts import STARTS, start_piece
from . import versions
from .database import one_writer
from .models import Photo, Piece, PieceHistory, free_name
from .photos import clean_name
from .sandbox import trail_in


class Stale(Exception):
    """A save that started from an older revision than the one that is kept."""

    def __init__(self, current: Piece) -> None:
        self.current = current
        super().__init__(
            f"This piece was changed elsewhere (revision {current.revision}). Nothing was overwritten; choose which one to keep."
        )


def start(photo: Photo, key: str, loop: bool = False) -> Piece:
    """Start a piece from a photo and a starting point; with `loop`, cut first where its edges agree best."""
    label = next(s.label for s in STARTS if s.key == key)
    begun = start_piece(key, photo.file_name, photo.read, loop)
    begun["layers"][0] |= {"name": photo.name}
    begun["layers"][0]["source"]["keep"] = photo.keep
    return create(f"{photo.name}, {label.lower()}", begun)


def start_drawn(source: dict[str, Any]) -> Piece:
    """Start a piece from a drawn source: a fill, a shape or a pattern."""
    if source.get("kind") == "photo":
        raise PieceError(["source.kind: a photo is named by `photo`; expected fill, shape or pattern"])
    named = str(source.get("form") or source.get("kind")).capitalize()
    return _named(named, check_piece({"caracol": 3, "layers": [{"id": "land", "name": named, "source": source}]}))


def create(name: str, document: dict[str, Any]) -> Piece:
    """Keep a piece that came as a file."""
    return _named(name, check_piece(document))


def _named(name: str, piece: Checked) -> Piece:
    """Keep a piece under a name that no other has."""
    with one_writer():
        return Piece.objects.create(name=free_name(Piece, name), document=kept_form(piece))


def open_delivered(content: bytes, file_name: str) -> Piece:
    """Make a piece of the one that travels in a delivered file.

    Raises
    ------
    PieceError
        None does, or it breaks the rules.
    PictureError
        It is no picture.
    """
    document = trail_in(content, file_name)
    if document is None:
        raise PieceError([f"{file_name}: there is no piece in this file; put it on the Shelf as a photo"])
    return create(clean_name(file_name), document)


def save(piece_id: UUID, revision: int, name: str, document: dict[str, Any], token: str = "") -> Piece:
    """Save a piece over the revision it started from; a save that was done already, by its token, is answered as it was then.

    Raises
    ------
    Stale
        Another save came between; nothing is written.
    PieceError
        The document breaks the rules; nothing is written.
    """
    checked = kept_form(check_piece(document))
    with one_writer():
        before = Piece.objects.filter(id=piece_id, revision=revision).first()
        if before is not None and before.document != checked:
            versions.keep_before_change(before)
        changed = Piece.objects.filter(id=piece_id, revision=revision).update(
            document=checked, name=name, revision=revision + 1, save_token=token, changed_at=timezone.now(), deleted_at=None, faults=[]
        )
        piece = Piece.objects.get(id=piece_id)
    if not changed and not (token and piece.save_token == token):
        raise Stale(piece)
    return piece


def keep_history(piece: Piece, revision: int, history: str) -> int:
    """Keep what was done to a piece up to a revision, and return the revision whose history is kept: a later one stays."""
    packed = zlib.compress(history.encode())
    with one_writer():
        kept = PieceHistory.objects.filter(piece=piece).first()
        if kept is not None and kept.revision > revision:
            return kept.revision
        PieceHistory.objects.update_or_create(piece=piece, defaults={"revision": revision, "states": packed})
    return revision


def history_of(piece: Piece) -> tuple[int, str | None]:
    """Return the revision at which the piece's history was kept, and the history as the Bench packed it; None where there is none."""
    kept = PieceHistory.objects.filter(piece=piece).first()
    return (0, None) if kept is None else (kept.revision, zlib.decompress(kept.states).decode())


def check_all() -> int:
    """Find out which pieces this release cannot read, and why; return how many."""
    count = 0
    for piece in Piece.objects.all().iterator():
        try:
            check_piece(piece.document)
            faults: list[str] = []
        except PieceError as error:
            faults = error.faults
        count += bool(faults)
        if faults != piece.faults:
            Piece.objects.filter(id=piece.id).update(faults=faults)
    return count
