"""What dead processes leave behind: files that no row names, files half written, tasks that say they are running."""

from __future__ import annotations

import os
from collections.abc import Iterator
from contextlib import suppress
from datetime import timedelta
from pathlib import Path

from django.conf import settings
from django.utils import timezone
from django_tasks.base import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from .models import Export, Photo

OLD = timedelta(days=1)


def sweep_files(before: float) -> int:
    """Delete files that no row names and files half written, where they are older than `before` (seconds since the epoch).

    A file is written before its row: a younger one may be waiting for it.

    Returns
    -------
    int
        How many were deleted.
    """
    photos = {f"{digest}{suffix}" for digest, suffix in Photo.objects.values_list("digest", "suffix")}
    previews = {Path(name).name for name in Photo.objects.values_list("preview", flat=True)}
    exports = {Path(name).name for name in Export.objects.exclude(stored="").values_list("stored", flat=True)}
    named = {"photos": photos, "previews": previews, "exports": exports}
    count = 0
    for folder in (*named, "looks"):
        for path in _files(Path(settings.VAR / folder)):
            wanted = not path.name.startswith(".part-") and (folder == "looks" or path.name in named[folder])
            with suppress(FileNotFoundError):
                if not wanted and path.stat().st_mtime < before:
                    path.unlink()
                    count += 1
    return count


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
