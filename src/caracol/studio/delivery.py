"""Deliveries: exports done in the worker, with progress and cancel."""

from __future__ import annotations

import threading
import time
from functools import partial
from typing import Any

from django.conf import settings
from django.utils import timezone

from ..core.errors import CaracolError, Overtaken
from ..core.io.formats import SUFFIXES, collect, encode
from ..core.piece.files import check_piece
from ..core.render import Context, Renderer, aside
from ..core.render.context import CORES
from ..core.render.limits import Limits
from . import media
from .models import Export
from .photos import SHELF
from .shapes import finish_of

ENCODING = {"png": 360.0, "png16": 580.0, "jpeg": 16.0, "webp": 370.0}
"""Nanoseconds to write one pixel of a file."""
WRITING = {"png": 12, "png16": 32, "jpeg": 16, "webp": 20}
"""Bytes a pixel that are held while a file is written: the picture, its copy for the writer, and the file."""
LIMITS = Limits(settings.EXPORT_SECONDS, settings.WORK_BYTES)
PAUSE = 0.25
"""Seconds between two looks at the database while working."""


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
        context = Context(SHELF.once(), stop=watch.stop, progress=watch.progress)
        renderer = Renderer(check_piece(export.document), context, finish=finish_of(export))
        kind, size = export.options["format"], export.options["size"]
        plan = renderer.plan(size)
        shape, strips = renderer.rows(size)
        pixels_in_all = shape[0] * shape[1]
        LIMITS.check(plan, pixels_in_all * WRITING[kind])
        watch.plan(plan.cost, pixels_in_all * ENCODING[kind])
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
