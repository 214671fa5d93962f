"""Deliveries: exports done in the worker, with progress and cancel."""

from __future__ import annotations

import threading
import time
from typing import Any

from django.conf import settings
from django.db.models import QuerySet
from django.utils import timezone

from ..core.delivery.export import ENCODING, Delivered, DeliveryOptions, check_cost, deliver
from ..core.delivery.shapes import finish_of, ratio_of, shaped
from ..core.errors import CaracolError, Superseded
from ..core.io.formats import LAYERED
from ..core.piece.files import check_piece, dump_piece
from ..core.piece.model import Piece
from ..core.render import Context, Renderer
from ..core.render.context import CORES
from ..core.render.limits import Limits
from . import media
from .heartbeat import heartbeat
from .models import Export
from .photos import SHELF

LIMITS = Limits(settings.EXPORT_SECONDS, settings.WORK_BYTES)
PAUSE = 0.25
"""Seconds between two looks at the database while working."""


class Watch:
    """Tells the database how far the work is, and hears from it whether to stop; not more often than `PAUSE`."""

    def __init__(self, rows: QuerySet[Any]) -> None:
        """Of the one row in `rows`."""
        self.rows = rows
        self.next_look = 0.0
        self.share = 0.0
        self.rendering = 1.0
        self.parts = 1
        self.part = 0
        self.thread = threading.get_ident()
        self.stopped = False

    def plan(self, rendering: float, encoding: float, parts: int = 1) -> None:
        """Be told what rendering and writing cost, in nanoseconds of one core (writing has but one), and how many pictures are made."""
        self.rendering = rendering / (rendering + CORES * encoding)
        self.parts = parts

    def progress(self, share: float) -> None:
        done = (self.part + share) / self.parts * self.rendering
        if done < self.share and self.part < self.parts - 1:
            self.part += 1  # it began anew: the next picture
        self.share = max(self.share, min((self.part + share) / self.parts, 1.0) * self.rendering)
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
        self.stopped = not self.rows.filter(state="working").update(share=self.share)


def work(export_id: str) -> None:
    """Do one export. Cancelling is another process setting the row's state; a fault ends in a message on the row."""
    waiting = Export.objects.filter(id=export_id, state=Export.State.WAITING)
    taken = waiting.update(state=Export.State.WORKING, share=0, heard_at=timezone.now())
    if not taken:
        return
    export = Export.objects.get(id=export_id)
    mine = Export.objects.filter(id=export.id)
    try:
        with heartbeat(mine):
            found = made(check_piece(export.document), export.options, Watch(mine))
            stored = media.store("exports", found.content, wanted_of(export.options).suffix)
    except Superseded:
        return
    except (CaracolError, OSError) as error:
        _finish(export, state=Export.State.FAILED, message=fault_message(error))
        return
    except Exception as error:
        # The worker logs it; the artist must not be left with work that seems to go on for ever.
        _finish(export, state=Export.State.FAILED, message=fault_message(error))
        raise
    _finish(
        export, state=Export.State.DONE, share=1, stored=stored, size_bytes=len(found.content), width=found.width, height=found.height,
        message=found.lost,
    )  # fmt: skip


def fault_message(error: Exception) -> str:
    """Return what an artist is told of a fault in a delivery."""
    if isinstance(error, CaracolError):
        return str(error)
    if isinstance(error, OSError):
        return f"The file could not be written: {error.strerror}."
    return "It stopped for a reason Caracol has no words for; the worker's log has it. Try a smaller size."


def wanted_of(options: dict[str, Any]) -> DeliveryOptions:
    """Return what stored options ask for; those of earlier releases name fewer."""
    named = {name: options[name] for name in ("size", "quality", "space", "packing", "dpi", "title", "author", "trail") if name in options}
    return DeliveryOptions(options["format"], **named)


def made(piece: Piece, options: dict[str, Any], watch: Watch) -> Delivered:
    """Make the file of a piece.

    Raises
    ------
    CaracolError, OSError
    """
    wanted, ratio, document = wanted_of(options), ratio_of(options), dump_piece(piece)
    context = Context(SHELF.once(), stop=watch.stop, progress=watch.progress)
    renderer = Renderer(check_piece(shaped(document, ratio)), context, finish=finish_of(document, ratio))
    check_cost(renderer, wanted, LIMITS)
    rows, cols = renderer.frame.pixels(wanted.size)
    parts = 1 + len(renderer.layers()) if wanted.kind == LAYERED else 1
    watch.plan(parts * renderer.plan(wanted.size).cost, rows * cols * ENCODING[wanted.kind] * parts, parts)
    return deliver(piece, renderer, wanted)


def _finish(export: Export, **fields: Any) -> None:
    """Write the end, unless it was cancelled meanwhile."""
    Export.objects.filter(id=export.id, state=Export.State.WORKING).update(done_at=timezone.now(), **fields)
