"""Small pictures of photos and pieces, kept in a folder of this machine while there is room: whatever is lost is made again."""

from __future__ import annotations

import logging
import os
from contextlib import suppress
from pathlib import Path

from django.conf import settings

from .media import HALF, write_whole

log = logging.getLogger(__name__)


def kept(name: str) -> bytes | None:
    """Return a small picture; None where it is not there."""
    path = _path_of(name)
    try:
        os.utime(path)
        return path.read_bytes()
    except FileNotFoundError:
        return None


def keep(name: str, data: bytes) -> None:
    """Keep a small picture; those least recently looked at go. Where there is no room it is only made anew next time."""
    try:
        write_whole(_path_of(name), data)
        _keep_newest(settings.LOOK_CACHE_FILES)
    except OSError as error:
        log.warning("a small picture could not be kept: %s", error)


def sweep(before: float) -> int:
    """Delete files half written, where they are older than `before` (seconds since 1970); return how many."""
    count = 0
    for path in _folder().rglob(f"{HALF}*"):
        with suppress(FileNotFoundError):
            if path.stat().st_mtime < before:
                path.unlink()
                count += 1
    return count


def _folder() -> Path:
    return Path(settings.VAR) / "looks"


def _path_of(name: str) -> Path:
    return _folder() / name[:2] / f"{name}.jpg"


def _keep_newest(most: int) -> None:
    """Delete the files that were least recently used, a tenth more than needed, where there are more than `most`."""
    files = [entry for part in os.scandir(_folder()) if part.is_dir() for entry in os.scandir(part.path)]
    if len(files) <= most:
        return
    with suppress(FileNotFoundError):  # another process may be tidying too
        for entry in sorted(files, key=lambda file: file.stat().st_mtime)[: len(files) - most + most // 10]:
            Path(entry.path).unlink(missing_ok=True)
