"""Files named by what they hold, in the storage of the settings. The database row comes after the file.

By default that is a folder of this machine (`Folder`); several machines share one, or any other storage that Django can speak to.
"""

from __future__ import annotations

import os
import tempfile
from collections.abc import Iterator
from contextlib import suppress
from hashlib import sha256
from pathlib import Path
from typing import IO

from django.core.files.base import ContentFile, File
from django.core.files.storage import FileSystemStorage, default_storage
from django.http import FileResponse, Http404

HALF = ".part-"
"""What the names of files begin with while they are written."""


class Folder(FileSystemStorage):
    """A folder whose files are whole or not there: written to a temporary name, synced, renamed."""

    def get_available_name(self, name: str, max_length: int | None = None) -> str:
        """Return the name itself: what has the same name holds the same."""
        return name

    def _save(self, name: str, content: File[bytes]) -> str:
        write_whole(Path(self.path(name)), content.read())
        return name


def write_whole(path: Path, content: bytes) -> None:
    """Write a file, whole or not at all.

    Raises
    ------
    OSError
        The disk is full or cannot be written; nothing is left behind.
    """
    path.parent.mkdir(parents=True, exist_ok=True)
    handle, temporary = tempfile.mkstemp(dir=path.parent, prefix=HALF)
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(content)
            file.flush()
            os.fsync(file.fileno())
        os.replace(temporary, path)
    except BaseException:
        Path(temporary).unlink(missing_ok=True)
        raise


def digest_of(content: bytes) -> str:
    """Return what names a file by what it holds."""
    return sha256(content).hexdigest()


def photo_name(digest: str, suffix: str) -> str:
    """Return the stored name of a photo's file."""
    return f"photos/{digest[:2]}/{digest}{suffix}"


def store(folder: str, content: bytes, suffix: str) -> str:
    """Keep `content` and return its stored name; the same content is kept once.

    Raises
    ------
    OSError
        It cannot be written; nothing is left behind.
    """
    name = digest_of(content) + suffix
    stored = f"{folder}/{name[:2]}/{name}"
    return stored if exists(stored) else default_storage.save(stored, ContentFile(content))


def exists(stored: str) -> bool:
    """Whether there is such a file."""
    return bool(stored) and default_storage.exists(stored)


def opened(stored: str) -> IO[bytes]:
    """Open a stored file for reading; raises FileNotFoundError."""
    return default_storage.open(stored, "rb")


def read(stored: str) -> bytes:
    """Return what a stored file holds; raises FileNotFoundError."""
    with opened(stored) as file:
        return file.read()


def answer(stored: str, kind: str | None = None, name: str | None = None) -> FileResponse:
    """Return a stored file as an answer of the web process: with a `name` to be kept, else to be shown, of media type `kind`.

    Raises
    ------
    Http404
        It is gone.
    """
    if not exists(stored):
        raise Http404
    response = FileResponse(opened(stored), as_attachment=name is not None, filename=name or "", content_type=kind)
    response["Content-Length"] = default_storage.size(stored)
    return response


def listed(folder: str) -> Iterator[str]:
    """Yield the stored names in a folder and the folders in it."""
    with suppress(FileNotFoundError):
        folders, files = default_storage.listdir(folder)
        yield from (f"{folder}/{name}" for name in files)
        for inner in folders:
            yield from listed(f"{folder}/{inner}")


def written_at(stored: str) -> float:
    """Return when a stored file was written, in seconds since 1970; raises FileNotFoundError."""
    return default_storage.get_modified_time(stored).timestamp()


def move(stored: str, to: str) -> None:
    """Move a stored file; it counts as written now."""
    default_storage.save(to, ContentFile(read(stored)))
    default_storage.delete(stored)


def delete(stored: str) -> None:
    """Delete a stored file; one that is gone already is no fault."""
    default_storage.delete(stored)
