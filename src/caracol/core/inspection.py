"""A foreign picture file looked over once: whether it can be read, what is in it, and its small picture."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from .io.decode import read_photo
from .io.formats import to_jpeg
from .pixels.pyramid import Pyramid, build_pyramid
from .reading.reading import read

PREVIEW = 1024


@dataclass(frozen=True)
class Inspected:
    """What was found in a file: what kind it is, what its owner should know, its picture's size, a small JPEG of it, and what is seen in it."""

    kind: str
    notes: tuple[str, ...]
    width: int
    height: int
    transparent: bool
    preview: bytes
    reading: dict[str, Any]


def preview_of(pyramid: Pyramid) -> bytes:
    """Return a photo's small picture as JPEG."""
    return to_jpeg(pyramid.look(min(PREVIEW, max(pyramid.rows, pyramid.cols))))


def inspect_file(content: bytes, name: str) -> Inspected:
    """Decode a picture file and say what was found; raises PictureError as `read_photo` does."""
    loaded = read_photo(content, name)
    pyramid = build_pyramid(loaded.texels, loaded.space)
    transparent = bool(loaded.texels[..., 3].min() < 65535)
    return Inspected(
        loaded.kind, loaded.notes, pyramid.cols, pyramid.rows, transparent, preview_of(pyramid), read(pyramid).as_data()
    )  # fmt: skip
