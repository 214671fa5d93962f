"""What dead processes leave behind: files that no row names, files half written, tasks that say they are running."""

from __future__ import annotations

import time
from contextlib import suppress
from datetime import timedelta
from pathlib import PurePath

from django.conf import settings
from django.utils import timezone
from django_tasks.base import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from . import media, thumbnails
from .models import Export, Photo, RunPhoto

OLD = timedelta(days=1)
SWEPT = "swept"
KEPT = 30 * 24 * 3600.0
"""Seconds that files stay there."""


def collect_files(before: float) -> int:
    """Put away files that no row names, where they are older than `before` (seconds since the epoch); delete files half written.

    A file is written before its row: a younger one may be waiting for it. What is put away stays in `swept/` for `KEPT`: a database that
    was lost, or put back from a copy, names fewer files than there are.

    Returns
    -------
    int
        How many were put away or deleted.
    """
    for name in media.listed(SWEPT):
        with suppress(FileNotFoundError):
            if media.written_at(name) < time.time() - KEPT:
                media.delete(name)
    photos = {f"{digest}{suffix}" for digest, suffix in Photo.objects.values_list("digest", "suffix")}
    previews = {PurePath(name).name for name in Photo.objects.values_list("preview", flat=True)}
    exports = {PurePath(name).name for name in Export.objects.exclude(stored="").values_list("stored", flat=True)}
    previews |= {PurePath(name).name for name in RunPhoto.objects.exclude(small="").values_list("small", flat=True)}
    exports |= {PurePath(name).name for name in RunPhoto.objects.exclude(stored="").values_list("stored", flat=True)}
    named = {"photos": photos, "previews": previews, "exports": exports}
    count = 0
    for folder, wanted in named.items():
        for name in media.listed(folder):
            last = PurePath(name).name
            with suppress(FileNotFoundError):
                if last not in wanted and media.written_at(name) < before:
                    _put_away(name, f"{SWEPT}/{folder}/{last}")
                    count += 1
    return count + thumbnails.sweep(before)


def _put_away(name: str, to: str) -> None:
    if PurePath(name).name.startswith(media.HALF):
        media.delete(name)
    else:
        media.move(name, to)


def collect_tasks() -> int:
    """Close tasks whose worker is dead, where all workers are, and forget those that were done long ago; return how many were closed."""
    dead = DBTaskResult.objects.none() if settings.MANY else DBTaskResult.objects.filter(status=TaskResultStatus.RUNNING)
    count = dead.update(status=TaskResultStatus.FAILED, finished_at=timezone.now())
    DBTaskResult.objects.filter(finished_at__lt=timezone.now() - OLD).delete()
    return count
