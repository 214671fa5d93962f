"""Exports: asked for in the web process, numbered, cancelled, taken up again."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import chain, count
from pathlib import Path
from typing import Any

from django.db.models import Max, Q
from django.utils import timezone

from ..core.delivery.names import stem_for
from ..core.io.formats import SUFFIXES
from ..core.piece.files import check_piece, dump_piece
from .database import one_writer
from .heartbeat import silent
from .jobs import run_export, tell
from .models import Export, Piece


def ask(piece: Piece, options: dict[str, Any]) -> Export:
    """Number a new export of the piece as it is now and put it in the queue."""
    # The piece as it is: its shape is cut when it is made, and what travels in the file is the piece.
    document = dump_piece(check_piece(piece.document))
    with one_writer():
        number = (piece.exports.aggregate(last=Max("number"))["last"] or 0) + 1
        name = _free_name(piece, number, SUFFIXES[options["format"]])
        export = Export.objects.create(
            piece=piece, number=number, file_name=name, document=document, options=options, heard_at=timezone.now()
        )
    tell(run_export, str(export.id))
    return export


def _free_name(piece: Piece, number: int, suffix: str) -> str:
    """Return the file's name: the piece's, and the number of the export; pieces of the same name are told apart."""
    stem = stem_for(piece.name, "piece")
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


def requeue(everything: bool = True) -> int:
    """Put exports back in the queue that killed workers left unfinished; return how many.

    Parameters
    ----------
    everything : bool
        Whether no worker can be alive; else only those that have not been heard of lately are put back.
    """
    # Waiting ones too: a worker may have been killed between taking one and saying so. Asked for twice, it is still done once.
    left = Q(state__in=(Export.State.WAITING, Export.State.WORKING))
    left = left if everything else left & silent()
    count = 0
    for export in Export.objects.filter(left):
        if Export.objects.filter(left, id=export.id).update(state=Export.State.WAITING, share=0, heard_at=timezone.now()):
            tell(run_export, str(export.id))
            count += 1
    return count
