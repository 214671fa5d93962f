"""Exports: asked for in the web process, numbered, cancelled, taken up again."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import chain, count
from pathlib import Path
from typing import Any

from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from ..core.io.formats import SUFFIXES
from ..core.piece.files import check_piece, dump_piece
from . import media
from .jobs import run_export
from .models import Export, Piece
from .photos import clean_name


def ask(piece: Piece, options: dict[str, Any]) -> Export:
    """Number a new export of the piece as it is now and put it in the queue."""
    # The piece as it is: its shape is cut when it is made, and what travels in the file is the piece.
    document = dump_piece(check_piece(piece.document))
    with transaction.atomic():
        number = (piece.exports.aggregate(last=Max("number"))["last"] or 0) + 1
        name = _free_name(piece, number, SUFFIXES[options["format"]])
        export = Export.objects.create(piece=piece, number=number, file_name=name, document=document, options=options)
    run_export.enqueue(str(export.id))
    return export


def _free_name(piece: Piece, number: int, suffix: str) -> str:
    """Return the file's name: the piece's, and the number of the export; pieces of the same name are told apart."""
    stem = clean_name(piece.name).replace(",", "").replace(" ", "-").lower() or "piece"
    others = set(Export.objects.exclude(piece=piece).filter(file_name__startswith=stem).values_list("file_name", flat=True))
    taken = {Path(name).stem.rpartition("-")[0] for name in others}
    own = next(name for name in chain([stem], (f"{stem}-{letter}" for letter in _letters())) if name not in taken)
    return f"{own}-{number:02d}{suffix}"


def _letters() -> Iterator[str]:
    """Yield b, c, … z, b2, c2 and so on without end."""
    for turn in count(1):
        for letter in "bcdefghijklmnopqrstuvwxyz":
            yield letter if turn == 1 else f"{letter}{turn}"


def cancel(export: Export) -> None:
    """Cancel an export that is not finished; the worker sees it at its next strip."""
    Export.objects.filter(id=export.id, state__in=(Export.State.WAITING, Export.State.WORKING)).update(
        state=Export.State.CANCELLED, done_at=timezone.now()
    )


def requeue() -> int:
    """Put exports back in the queue that a killed worker left unfinished; return how many."""
    # Waiting ones too: a worker may have been killed between taking one and saying so. Asked for twice, it is still done once.
    left = list(Export.objects.filter(state__in=(Export.State.WAITING, Export.State.WORKING)))
    for export in left:
        Export.objects.filter(id=export.id).update(state=Export.State.WAITING, share=0)
        run_export.enqueue(str(export.id))
    return len(left)


def file_of(export: Export) -> Path:
    """Return where the finished file lies."""
    return media.path_of(export.stored)
