"""What dead processes leave behind: files that no row names, files half written, tasks that say they are running."""

from __future__ import annotations

import os
import time
from collections.abc import Iterator
from contextlib import suppress
from datetime import timedelta
from pathlib import Path

from django.conf import settings
from django.utils import timezone
from django_tasks.base import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from .models import Export, Photo, RunPhoto

OLD = timedelta(days=1)
SWEPT = "swept"
KEPT = 30 * 24 * 3600.0
"""Seconds that files stay there."""


def sweep_files(before: float) -> int:
    """Put away files that no row names, where they are older than `before` (seconds since the epoch); delete files half written.

    A file is written before its row: a younger one may be waiting for it. What is put away stays in `swept/` for `KEPT`: a database that
    was lost, or put back from a copy, names fewer files than there are.

    Returns
    -------
    int
        How many were put away or deleted.
    """
    for path in _files(settings.VAR / SWEPT):
        with suppress(FileNotFoundError):
            if path.stat().st_ctime < time.time() - KEPT:
                path.unlink()
    photos = {f"{digest}{suffix}" for digest, suffix in Photo.objects.values_list("digest", "suffix")}
    previews = {Path(name).name for name in Photo.objects.values_list("preview", flat=True)}
    exports = {Path(name).name for name in Export.objects.exclude(stored="").values_list("stored", flat=True)}
    previews |= {Path(name).name for name in RunPhoto.objects.exclude(small="").values_list("small", flat=True)}
    exports |= {Path(name).name for name in RunPhoto.objects.exclude(stored="").values_list("stored", flat=True)}
    named = {"photos": photos, "previews": previews, "exports": exports}
    count = 0
    for folder in (*named, "looks"):
        for path in _files(Path(settings.VAR / folder)):
            wanted = not path.name.startswith(".part-") and (folder == "looks" or path.name in named[folder])
            with suppress(FileNotFoundError):
                if not wanted and path.stat().st_mtime < before:
                    _put_away(path, folder)
                    count += 1
    return count


def _put_away(path: Path, folder: str) -> None:
    if path.name.startswith(".part-"):
        path.unlink()
        return
    place = Path(settings.VAR) / SWEPT / folder / path.name
    place.parent.mkdir(parents=True, exist_ok=True)
    path.replace(place)


def sweep_tasks() -> int:
    """Close tasks whose worker is dead, and forget those that were done long ago; return how many were closed."""
    dead = DBTaskResult.objects.filter(status=TaskResultStatus.RUNNING)
    count = dead.update(status=TaskResultStatus.FAILED, finished_at=timezone.now())
    DBTaskResult.objects.filter(finished_at__lt=timezone.now() - OLD).delete()
    return count


def _files(folder: Path) -> Iterator[Path]:
    for place, _, names in os.walk(folder):
        for name in names:
            yield Path(place) / name
