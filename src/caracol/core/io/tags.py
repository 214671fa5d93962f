"""The tags of a TIFF file's first picture, read by hand: no count in a file makes a reader read more than the file holds (TIFF 6.0, BigTIFF)."""

from __future__ import annotations

import struct
from collections.abc import Iterator
from dataclasses import dataclass

TIFF_MARKS = (b"II*\0", b"MM\0*", b"II+\0", b"MM\0+")
SIZES = {1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 6: 1, 7: 1, 8: 2, 9: 4, 10: 8, 11: 4, 12: 8, 13: 4, 16: 8, 17: 8, 18: 8}
"""Bytes of a value by its type."""
BYTES = (1, 6, 7)
"""Types that are bytes as they are: BYTE, SBYTE, UNDEFINED."""
MOST_TAGS = 4096


@dataclass(frozen=True)
class Tag:
    """A tag as it stands in the file: its number, its type, how many values it says it has, and where they lie."""

    number: int
    kind: int
    count: int
    at: int

    @property
    def length(self) -> int:
        """Bytes that its values take; 0 where its type is unknown."""
        return self.count * SIZES.get(self.kind, 0)


def tags_of(content: bytes) -> Iterator[Tag]:
    """Yield the tags of the first picture, as far as they are there."""
    if content[:4] not in TIFF_MARKS:
        return
    order = "<" if content[:2] == b"II" else ">"
    big = content[2:4] in (b"+\0", b"\0+")
    head, entry, room = (f"{order}Q", f"{order}HHQ", 8) if big else (f"{order}H", f"{order}HHI", 4)
    try:
        (at,) = struct.unpack_from(f"{order}Q" if big else f"{order}I", content, 8 if big else 4)
        (many,) = struct.unpack_from(head, content, at)
        at += struct.calcsize(head)
        for _ in range(min(many, MOST_TAGS)):
            number, kind, count = struct.unpack_from(entry, content, at)
            inside = at + struct.calcsize(entry)
            tag = Tag(number, kind, count, inside)
            if tag.length > room:
                (place,) = struct.unpack_from(f"{order}Q" if big else f"{order}I", content, inside)
                tag = Tag(number, kind, count, place)
            yield tag
            at = inside + room
    except struct.error:
        return  # cut short: what was there was told


def bytes_of_tag(content: bytes, number: int) -> bytes:
    """Return what a tag of bytes holds; nothing where there is none, where it is of another type, or where it says more than the file has."""
    for tag in tags_of(content):
        if tag.number == number:
            whole = tag.kind in BYTES and tag.at + tag.length <= len(content)
            return content[tag.at : tag.at + tag.length] if whole else b""
    return b""


def overlong(content: bytes) -> Tag | None:
    """Return a tag that says more values than the file has room for; None where there is none."""
    return next((tag for tag in tags_of(content) if tag.length > len(content)), None)
