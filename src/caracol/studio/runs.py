"""Runs: a recipe on many photos, asked for in the web process, paused, gone on with, cancelled, retried; and what comes of them."""

from __future__ import annotations

import zipfile
from collections.abc import Iterator, Sequence
from typing import Any

import cv2
import numpy as np
from django.db.models import Exists, F, OuterRef, Q
from django.utils import timezone

from ..core.delivery.contact_sheet import Shown, contact_sheet
from ..core.delivery.names import names_for
from ..core.errors import MissingPhoto, PieceError
from ..core.io.formats import SUFFIXES, encode
from ..core.piece.recipe import check_recipe, dump_recipe, with_one_photo
from . import media
from .database import one_writer
from .heartbeat import silent
from .jobs import tell, work_on_run
from .models import Photo, Recipe, Run, RunPhoto
from .recipes import check_slots
from .run_work import SMALL

State = RunPhoto.State


def start(
    recipe: Recipe, file_names: Sequence[str], dials: dict[str, float], slots: dict[str, str], options: dict[str, Any], pattern: str
) -> Run:
    """Ask for a run; `slots` are photos chosen for some of the recipe's layers, for all of them the same.

    Raises
    ------
    PieceError
        A dial, or the naming pattern, is wrong; nothing is begun.
    MissingPhoto
        A photo is not on the Shelf.
    """
    known = check_recipe(recipe.data)
    photos = {one.file_name: one for one in Photo.objects.present().filter(file_name__in=file_names)}
    missing = [name for name in file_names if name not in photos]
    if missing:
        raise MissingPhoto(f"photo {missing[0]!r} is not on the Shelf")
    check_slots(slots)
    with_one_photo(known, file_names[0], dials, chosen=slots)
    names = names_for(pattern, [photos[name].name for name in file_names], recipe.name, SUFFIXES[options["format"]])
    with one_writer():
        run = Run.objects.create(name=free_run_name(recipe.name), recipe=dump_recipe(known), dials=dials, slots=slots, options=options)
        RunPhoto.objects.bulk_create(
            RunPhoto(run=run, number=number, photo=photo, file_name=name)
            for number, (photo, name) in enumerate(zip(file_names, names, strict=True), 1)
        )
    hand_out(run)
    return run


def free_run_name(name: str) -> str:
    """Return a name that no other run has."""
    taken = set(Run.objects.filter(name__startswith=name[:190]).values_list("name", flat=True))
    return next(one for k in range(1, len(taken) + 2) if (one := name[:190] if k == 1 else f"{name[:190]} {k}") not in taken)


def hand_out(run: Run) -> None:
    """Tell the workers that there is something to do; what they were told before counts no more."""
    Run.objects.filter(id=run.id).update(turn=F("turn") + 1, heard_at=timezone.now())
    run.refresh_from_db(fields=["turn"])
    tell(work_on_run, str(run.id), run.turn)


def pause(run: Run) -> None:
    """Begin no further photo until it is gone on with; those in hand are finished."""
    Run.objects.filter(id=run.id, state=Run.State.WORKING).update(state=Run.State.PAUSED)


def go_on(run: Run) -> None:
    """Go on with a paused run."""
    if Run.objects.filter(id=run.id, state=Run.State.PAUSED).update(state=Run.State.WORKING):
        hand_out(run)


def cancel(run: Run) -> None:
    """Stop a run: what is done stays, what is in hand is given up."""
    if Run.objects.filter(id=run.id, state__in=(Run.State.WORKING, Run.State.PAUSED)).update(state=Run.State.CANCELLED):
        run.photos.filter(state__in=(State.WAITING, State.WORKING)).update(state=State.CANCELLED)


def retry(run: Run) -> int:
    """Do the photos again that failed or were given up; return how many."""
    with one_writer():
        count = run.photos.filter(state__in=(State.FAILED, State.CANCELLED)).update(state=State.WAITING, share=0, message="")
        if count:
            Run.objects.filter(id=run.id).update(state=Run.State.WORKING)
    if count:
        hand_out(run)
    return count


def requeue(everything: bool = True) -> int:
    """Put photos back that a dead worker had in hand, and tell the workers; return how many runs go on.

    Parameters
    ----------
    everything : bool
        Whether no other worker can be alive; else only photos whose worker has not been heard of lately are put back.
    """
    left = RunPhoto.objects.filter(Q() if everything else silent(), state=State.WORKING)
    held = set(left.values_list("run_id", flat=True))
    left.update(state=State.WAITING, share=0)
    going = Run.objects.filter(state=Run.State.WORKING)
    if not everything:
        # Nobody has a photo of it in hand, and what was handed out is lost.
        alone = ~Exists(RunPhoto.objects.filter(run=OuterRef("id"), state=State.WORKING))
        going = going.filter(Q(id__in=held) | silent() & alone)
    runs = list(going)
    for run in runs:
        hand_out(run)
    return len(runs)


class _Pipe:
    """What a ZIP is written into, to be sent as it grows."""

    def __init__(self) -> None:
        self.parts: list[bytes] = []

    def write(self, data: bytes) -> int:
        self.parts.append(bytes(data))
        return len(data)

    def flush(self) -> None:
        pass

    def taken(self) -> bytes:
        data = b"".join(self.parts)
        self.parts.clear()
        return data


CHUNK = 1 << 20


def zipped(run: Run) -> Iterator[bytes]:
    """Yield the finished files of a run as a ZIP, never more than a part of one in memory; pictures are packed already."""
    pipe = _Pipe()
    with zipfile.ZipFile(pipe, "w", zipfile.ZIP_STORED) as file:  # type: ignore[call-overload]
        for photo in run.photos.filter(state=State.DONE):
            if not media.exists(photo.stored):
                continue
            with (
                file.open(zipfile.ZipInfo(photo.file_name, (1980, 1, 1, 0, 0, 0)), "w", force_zip64=True) as into,
                media.opened(photo.stored) as source,
            ):
                while part := source.read(CHUNK):
                    into.write(part)
                    yield pipe.taken()
            yield pipe.taken()
    yield pipe.taken()


def sheet(run: Run) -> bytes:
    """Return the finished pictures of a run as one contact sheet, a JPEG."""
    shown = []
    for photo in run.photos.all():
        pixels = None
        if media.exists(photo.small):
            pixels = cv2.imdecode(np.frombuffer(media.read(photo.small), np.uint8), cv2.IMREAD_COLOR_RGB)
        picture = None if pixels is None else np.dstack([pixels.astype(np.float32) / 255, np.ones(pixels.shape[:2], np.float32)])
        words = f"{photo.width} × {photo.height}" if photo.state == State.DONE else photo.message or photo.state
        shown.append(Shown(picture, photo.file_name, words))
    if not shown:
        raise PieceError(["the run has no photo"])
    return encode(contact_sheet(shown, SMALL), "jpeg", 90)
