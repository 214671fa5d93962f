"""Files named by what they hold: written to a temporary name, synced, renamed. The database row comes after the file."""

from __future__ import annotations

import os
import tempfile
from contextlib import suppress
from hashlib import sha256
from pathlib import Path

from django.conf import settings


def digest_of(content: bytes) -> str:
    """Return what names a file by what it holds."""
    return sha256(content).hexdigest()


def store(folder: str, content: bytes, suffix: str) -> str:
    """Keep `content` and return its stored name; the same content is kept once.

    Raises
    ------
    OSError
        The disk is full or cannot be written; nothing is left behind.
    """
    name = digest_of(content) + suffix
    return put(f"{folder}/{name[:2]}/{name}", content)


def put(name: str, content: bytes) -> str:
    """Keep `content` under a name of the caller's, whole or not at all."""
    path = settings.VAR / name
    if path.exists():
        return name
    path.parent.mkdir(parents=True, exist_ok=True)
    handle, temporary = tempfile.mkstemp(dir=path.parent, prefix=".part-")
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(content)
            file.flush()
            os.fsync(file.fileno())
        os.replace(temporary, path)
    except BaseException:
        Path(temporary).unlink(missing_ok=True)
        raise
    return name


def path_of(stored: str) -> Path:
    """Return where a stored file lies."""
    return Path(settings.VAR / stored)


def keep_newest(folder: str, most: int) -> None:
    """Delete the files of a folder that were least recently used, a tenth more than needed, where there are more than `most`."""
    files = [entry for part in os.scandir(settings.VAR / folder) if part.is_dir() for entry in os.scandir(part.path)]
    if len(files) <= most:
        return
    with suppress(FileNotFoundError):  # another process may be tidying too
        for entry in sorted(files, key=lambda file: file.stat().st_mtime)[: len(files) - most + most // 10]:
            Path(entry.path).unlink(missing_ok=True)
