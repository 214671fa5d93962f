"""The work on runs: every photo is a piece of work of its own, taken by whoever is free, and done once."""

from __future__ import annotations

import logging
import threading
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor

from django.db import connections
from django.db.models import F
from django.utils import timezone

from ..core.errors import CaracolError, Superseded
from ..core.io.formats import to_jpeg
from ..core.piece.recipe import check_recipe, with_one_photo
from ..core.render import Context, Renderer
from ..core.render.context import CORES
from . import media
from .export_work import Watch, fault_message, made, wanted_of
from .heartbeat import heartbeat
from .models import Run, RunPhoto
from .photos import SHELF
from .recipes import figure_for

log = logging.getLogger(__name__)
SMALL = 320
"""Pixels of the small picture of a finished photo."""
SLICE = 8.0
"""Seconds after which a worker lets other work in between."""
State = RunPhoto.State


def work(run_id: str, turn: int, hand_on: Callable[[], object]) -> None:
    """Do photos of a run, as many at a time as there are cores, for a slice of time.

    Cores are kept busy by several photos rather than by strips of one: one may write its file while another renders.

    Parameters
    ----------
    turn : int
        What was handed out before the last time is not worked on.
    hand_on : callable
        Tells the workers of the same work once more. Called first, where this one has its hands full and photos are left: others can help
        at once, and where none is free this worker goes on later, so that other work comes in between.
    """
    until = time.monotonic() + SLICE
    lanes = CORES if threading.current_thread() is threading.main_thread() else 1
    hands = [photo for _ in range(lanes) if (photo := _take(run_id, turn)) is not None]

    def lane(photo: RunPhoto | None) -> None:
        while photo is not None:
            _do(photo)
            photo = _take(run_id, turn) if time.monotonic() < until else None

    def beside(photo: RunPhoto) -> None:
        try:
            lane(photo)
        finally:
            connections.close_all()

    if len(hands) == lanes and RunPhoto.objects.filter(run_id=run_id, state=State.WAITING).exists():
        hand_on()
    if len(hands) == 1:
        lane(hands[0])
    elif hands:
        with ThreadPoolExecutor(lanes) as pool:
            for done in [pool.submit(beside, photo) for photo in hands]:
                done.result()
    _end(run_id)


def _take(run_id: str, turn: int) -> RunPhoto | None:
    """Take the next photo; None where there is none, or the run is paused, over, or was handed out anew."""
    waiting = RunPhoto.objects.filter(run_id=run_id, state=State.WAITING)
    while (photo := waiting.first()) is not None:
        now = timezone.now()
        if not Run.objects.filter(id=run_id, turn=turn, state=Run.State.WORKING).update(heard_at=now):
            return None
        if waiting.filter(id=photo.id).update(state=State.WORKING, share=0, heard_at=now, times=F("times") + 1):
            photo.refresh_from_db()
            return photo
    return None


def _end(run_id: str) -> None:
    """Close a run that has nothing left."""
    left = RunPhoto.objects.filter(run_id=run_id, state__in=(State.WAITING, State.WORKING))
    if not left.exists():
        Run.objects.filter(id=run_id, state=Run.State.WORKING).update(state=Run.State.DONE)


def _do(photo: RunPhoto) -> None:
    """Make one photo's file. A fault ends in a message on its row, and stops no other."""
    run = photo.run
    # Whoever took it since has counted once more: what is written here then is nobody's.
    mine = RunPhoto.objects.filter(id=photo.id, times=photo.times)
    try:
        piece = with_one_photo(check_recipe(run.recipe), photo.photo, run.dials, figure_for(photo.photo), run.slots)
        with heartbeat(mine):
            found = made(piece, run.options, Watch(mine))
            stored = media.store("exports", found.content, wanted_of(run.options).suffix)
            small = media.store("previews", to_jpeg(Renderer(piece, Context(SHELF.once())).picture(SMALL)), ".jpg")
        done = {"stored": stored, "small": small, "size_bytes": len(found.content)}
        said = {"state": State.DONE, "share": 1.0, "width": found.width, "height": found.height, "message": found.lost}
    except Superseded:
        return
    except (CaracolError, OSError) as error:
        done, said = {}, {"state": State.FAILED, "message": fault_message(error)}
    except Exception as error:
        log.exception("a photo of a run failed")
        done, said = {}, {"state": State.FAILED, "message": fault_message(error)}
    mine.filter(state=State.WORKING).update(**done, **said)
