"""The work on runs: every photo is a piece of work of its own, taken by whoever is free, and done once."""

from __future__ import annotations

import logging
import threading
import time
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta

from django.db import connections
from django.db.models import F, Q
from django.utils import timezone

from ..core.errors import CaracolError, Overtaken
from ..core.piece.recipe import check_recipe, with_one_photo
from ..core.render import Context, Renderer
from ..core.render.context import CORES
from . import media
from .delivery import Watch, in_words, made, wanted_of
from .models import Run, RunPhoto
from .photos import SHELF, to_jpeg
from .recipes import figure_for

log = logging.getLogger(__name__)
SMALL = 320
"""Pixels of the small picture of a finished photo."""
SLICE = 8.0
"""Seconds after which a worker lets other work in between."""
DEAD = timedelta(seconds=30)
"""A photo whose worker has not been heard of for so long is taken up by another."""
State = RunPhoto.State


def work(run_id: str) -> bool:
    """Do photos of a run, as many at a time as there are cores, for a slice of time; return whether some are left.

    Cores are kept busy by several photos rather than by strips of one: one may write its file while another renders.
    """
    until = time.monotonic() + SLICE

    def lane() -> None:
        try:
            while time.monotonic() < until and (photo := _take(run_id)) is not None:
                _do(photo)
        finally:
            connections.close_all()

    if threading.current_thread() is threading.main_thread() and CORES > 1:
        with ThreadPoolExecutor(CORES) as pool:
            for done in [pool.submit(lane) for _ in range(CORES)]:
                done.result()
    else:
        while time.monotonic() < until and (photo := _take(run_id)) is not None:
            _do(photo)
    return _ended(run_id)


def _take(run_id: str) -> RunPhoto | None:
    """Take the next photo; None where there is none, or the run is paused or over."""
    if not Run.objects.filter(id=run_id, state=Run.State.WORKING).exists():
        return None
    free = Q(state=State.WAITING) | Q(state=State.WORKING, heard_at__lt=timezone.now() - DEAD)
    while (photo := RunPhoto.objects.filter(free, run_id=run_id).first()) is not None:
        now = timezone.now()
        mine = RunPhoto.objects.filter(free, id=photo.id).update(state=State.WORKING, share=0, heard_at=now, times=F("times") + 1)
        if mine:
            photo.refresh_from_db()
            return photo
    return None


def _ended(run_id: str) -> bool:
    """Close a run that has nothing left; return whether it has."""
    left = RunPhoto.objects.filter(run_id=run_id, state__in=(State.WAITING, State.WORKING)).exists()
    if not left:
        Run.objects.filter(id=run_id, state=Run.State.WORKING).update(state=Run.State.DONE)
    return left and Run.objects.filter(id=run_id, state=Run.State.WORKING).exists()


def _do(photo: RunPhoto) -> None:
    """Make one photo's file. A fault ends in a message on its row, and stops no other."""
    run = photo.run
    # Whoever took it since has counted once more: what is written here then is nobody's.
    mine = RunPhoto.objects.filter(id=photo.id, times=photo.times)
    try:
        piece = with_one_photo(check_recipe(run.recipe), photo.photo, run.dials, figure_for(photo.photo))
        found = made(piece, run.options, Watch(mine, heard=True))
        stored = media.store("exports", found.content, wanted_of(run.options).suffix)
        small = to_jpeg(Renderer(piece, Context(SHELF.once())).picture(SMALL))
        done = {"stored": stored, "small": media.store("previews", small, ".jpg"), "size_bytes": len(found.content)}
        said = {"state": State.DONE, "share": 1.0, "width": found.width, "height": found.height, "message": found.lost}
    except Overtaken:
        return
    except (CaracolError, OSError) as error:
        done, said = {}, {"state": State.FAILED, "message": in_words(error)}
    except Exception as error:
        log.exception("a photo of a run failed")
        done, said = {}, {"state": State.FAILED, "message": in_words(error)}
    mine.filter(state=State.WORKING).update(**done, **said)
