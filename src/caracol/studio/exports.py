"""Exports: asked for in the web process, done in the worker, with progress and cancel."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator
from functools import partial
from itertools import chain, count
from pathlib import Path
from typing import Any

from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from ..core.errors import CaracolError, Overtaken
from ..core.io.formats import SUFFIXES, collect, encode
from ..core.piece.model import Step, check_piece, dump_piece
from ..core.render import Context, Renderer, aside
from ..core.render.context import CORES
from . import media
from .models import Export, Piece
from .photos import SHELF, clean_name

SHAPES: dict[str, float | None] = {"own": None, "square": 1.0, "4:5": 0.8, "9:16": 9 / 16, "16:9": 16 / 9}
ENCODING = {"png": 360.0, "png16": 580.0, "jpeg": 16.0, "webp": 370.0}
"""Nanoseconds to write one pixel of a file."""
PAUSE = 0.25
"""Seconds between two looks at the database while working."""


def shaped(document: dict[str, Any], shape: str) -> dict[str, Any]:
    """Return the document with a last step that brings it to a named shape, cut about the centre; a layered one is cut by `finish` instead."""
    ratio = SHAPES[shape]
    if ratio is None or is_layered(document):
        return document
    layer = {**document["layers"][0], "steps": [*document["layers"][0]["steps"], _shape_step(ratio)]}
    return {**document, "layers": [layer]}


def _shape_step(ratio: float) -> dict[str, Any]:
    return {"id": "export-shape", "kind": "refit", "settings": {"ratio": ratio, "how": "cover"}}


def is_layered(document: dict[str, Any]) -> bool:
    """Whether a document has more than one layer that is just its trail, so that a shape must be cut from what is put together."""
    first = document["layers"][0]
    own = (document.get("frame") or {}).get("ratio") is None
    # A where lies on the piece's frame: cut before it, the layer would be seen through another part of it.
    apart = first.get("place") is not None or first.get("where") is not None
    return len(document["layers"]) > 1 or "layers" in first or apart or not own


def _finish_of(export: Export) -> tuple[Step, ...]:
    """Return the steps that cut a layered piece to its shape."""
    ratio = SHAPES[export.options.get("shape", "own")]
    if ratio is None or not is_layered(export.document):
        return ()
    return check_piece({"caracol": 1, "layers": [{"id": "shape", "steps": [_shape_step(ratio)]}]}).layer.steps


def ask(piece: Piece, options: dict[str, Any]) -> Export:
    """Number a new export of the piece as it is now and put it in the queue."""
    from .jobs import run_export

    document = dump_piece(check_piece(shaped(piece.document, options["shape"])))
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


class _Watch:
    """Tells the database how far the work is, and hears from it whether to stop; not more often than `PAUSE`."""

    def __init__(self, export: Export) -> None:
        self.rows = Export.objects.filter(id=export.id)
        self.next_look = 0.0
        self.share = 0.0
        self.rendering = 1.0
        self.thread = threading.get_ident()
        self.stopped = False

    def plan(self, rendering: float, encoding: float) -> None:
        """Be told what the two parts of the work cost, in nanoseconds of one core; the second has but one."""
        self.rendering = rendering / (rendering + CORES * encoding)

    def progress(self, share: float) -> None:
        self.share = share * self.rendering
        self._look()

    def stop(self) -> bool:
        """Whether it was cancelled. Long work may ask without ever telling how far it is; so this looks, too."""
        self._look()
        return self.stopped

    def _look(self) -> None:
        now = time.monotonic()
        # Strips ask in threads of their own, which have no business with the database.
        if now < self.next_look or threading.get_ident() != self.thread:
            return
        self.next_look = now + PAUSE
        self.stopped = not self.rows.filter(state=Export.State.WORKING).update(share=self.share)


def work(export_id: str) -> None:
    """Do one export. Cancelling is another process setting the row's state; a fault ends in a message on the row."""
    taken = Export.objects.filter(id=export_id, state=Export.State.WAITING).update(state=Export.State.WORKING, share=0)
    if not taken:
        return
    export = Export.objects.get(id=export_id)
    watch = _Watch(export)
    try:
        context = Context(SHELF, stop=watch.stop, progress=watch.progress)
        renderer = Renderer(check_piece(export.document), context, finish=_finish_of(export))
        kind, size = export.options["format"], export.options["size"]
        shape, strips = renderer.rows(size)
        watch.plan(renderer.plan(size).cost, shape[0] * shape[1] * ENCODING[kind])
        pixels = collect(shape, strips, 16 if kind == "png16" else 8)
        content = aside(partial(encode, pixels, kind, export.options["quality"]), context)
        stored = media.store("exports", content, SUFFIXES[kind])
    except Overtaken:
        return
    except (CaracolError, OSError) as error:
        _finish(
            export,
            state=Export.State.FAILED,
            message=str(error) if isinstance(error, CaracolError) else f"The file could not be written: {error.strerror}.",
        )
        return
    except Exception:
        # The worker logs it; the artist must not be left with work that seems to go on for ever.
        _finish(
            export,
            state=Export.State.FAILED,
            message="It stopped for a reason Caracol has no words for; the worker's log has it. Try a smaller size.",
        )
        raise
    _finish(export, state=Export.State.DONE, share=1, stored=stored, size_bytes=len(content), width=shape[1], height=shape[0])


def _finish(export: Export, **fields: Any) -> None:
    """Write the end, unless it was cancelled meanwhile."""
    Export.objects.filter(id=export.id, state=Export.State.WORKING).update(done_at=timezone.now(), **fields)


def cancel(export: Export) -> None:
    """Cancel an export that is not finished; the worker sees it at its next strip."""
    Export.objects.filter(id=export.id, state__in=(Export.State.WAITING, Export.State.WORKING)).update(
        state=Export.State.CANCELLED, done_at=timezone.now()
    )


def requeue() -> int:
    """Put exports back in the queue that a killed worker left unfinished; return how many."""
    from .jobs import run_export

    # Waiting ones too: a worker may have been killed between taking one and saying so. Asked for twice, it is still done once.
    left = list(Export.objects.filter(state__in=(Export.State.WAITING, Export.State.WORKING)))
    for export in left:
        Export.objects.filter(id=export.id).update(state=Export.State.WAITING, share=0)
        run_export.enqueue(str(export.id))
    return len(left)


def file_of(export: Export) -> Path:
    """Return where the finished file lies."""
    return media.path_of(export.stored)
