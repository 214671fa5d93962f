"""Layers put together, from the lowest up; what lies below each is one cached picture."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Protocol

import numpy as np

from ..geometry.frame import Frame
from ..piece.model import Sheet
from ..pixels.arrays import Array
from ..pixels.blending import lay
from ..pixels.pyramid import Pyramid, pyramid_of
from . import keys
from .context import STRIP, Context


class Entry(Protocol):
    """What can be laid: a trail, or a group's own composite. Its picture has the piece's frame."""

    @property
    def digest(self) -> str:
        """What identifies it at any size."""

    def picture(self, longer: int) -> Array:
        """Return it whole."""

    def rows(self, longer: int) -> tuple[tuple[int, int], Iterator[tuple[int, Array]]]:
        """Return (rows, cols) and an iterator of (top, strip)."""


@dataclass(frozen=True)
class Laid:
    """An entry and how it is laid over what is beneath."""

    entry: Entry
    sheet: Sheet

    @property
    def digest(self) -> str:
        """What identifies both."""
        return keys.laid(self.entry.digest, self.sheet)

    def over(self, beneath: Array, strip: Array, frame: Frame, shape: tuple[int, int], top: int) -> Array:
        """Return a strip of the entry laid over the same strip of what is beneath."""
        how, count = self.sheet, len(strip)
        where = None if how.where is None else how.where.mask(frame, *shape, top, count, strip)
        return lay(beneath, strip, how.opacity, how.blend, where)


class _Reader:
    """Strips of any heights, read on in the heights that are asked for."""

    def __init__(self, strips: Iterator[tuple[int, Array]]) -> None:
        self._strips = strips
        self._rest: Array | None = None

    def take(self, count: int) -> Array:
        parts: list[Array] = []
        while count:
            if self._rest is None or not len(self._rest):
                _, self._rest = next(self._strips)
            part, self._rest = self._rest[:count], self._rest[count:]
            parts.append(part)
            count -= len(part)
        return parts[0] if len(parts) == 1 else np.concatenate(parts)


class Composite:
    """Entries laid over each other on nothing, in one frame."""

    def __init__(self, frame: Frame, laid: list[Laid], context: Context) -> None:
        self.frame = frame
        self.laid = laid
        self.context = context

    @property
    def digest(self) -> str:
        """What identifies the result at any size."""
        return keys.composite(self.frame, (one.digest for one in self.laid))

    def first(self, count: int) -> Composite:
        """Return what the first `count` entries give."""
        return Composite(self.frame, self.laid[:count], self.context)

    def picture(self, longer: int) -> Array:
        """Return the result, (rows, cols, 4)."""
        shape = self.frame.pixels(longer)
        if not self.laid:
            return np.zeros((*shape, 4), np.float32)
        last = self.laid[-1]
        if len(self.laid) == 1 and last.sheet.is_plain:
            return last.entry.picture(longer)

        def make() -> Array:
            beneath, above = self.first(len(self.laid) - 1).picture(longer), last.entry.picture(longer)
            mask = self.context.mask(last.sheet.where, self.frame, shape, above)
            out = np.empty((*shape, 4), np.float32)

            def work(top: int, height: int) -> Array:
                rows = slice(top, top + height)
                where = None if mask is None else mask[rows]
                out[rows] = lay(beneath[rows], above[rows], last.sheet.opacity, last.sheet.blend, where)
                return out[rows]

            for _ in self.context.strips(shape[0], work):
                pass
            return out

        return self.context.cache.get(keys.picture(self.digest, longer, self.context.quality), make)

    def rows(self, longer: int) -> tuple[tuple[int, int], Iterator[tuple[int, Array]]]:
        """Return (rows, cols) and an iterator of (top, strip) that reads all entries side by side."""
        shape = self.frame.pixels(longer)
        if len(self.laid) == 1 and self.laid[0].sheet.is_plain:
            return self.laid[0].entry.rows(longer)
        readers = [_Reader(one.entry.rows(longer)[1]) for one in self.laid]

        def strips() -> Iterator[tuple[int, Array]]:
            for top in range(0, shape[0], STRIP):
                height = min(STRIP, shape[0] - top)
                strip = np.zeros((height, shape[1], 4), np.float32)
                for one, reader in zip(self.laid, readers, strict=True):
                    strip = one.over(strip, reader.take(height), self.frame, shape, top)
                self.context.progress((top + height) / shape[0])
                yield top, strip

        return shape, strips()


class BelowGround:
    """What lies under a layer, as its ground."""

    longest: int | None = None

    def __init__(self, beneath: Composite) -> None:
        self._beneath = beneath
        self.frame = beneath.frame

    @property
    def digest(self) -> str:
        return keys.source("below", self._beneath.digest)

    def picture(self, longer: int) -> Array:
        return self._beneath.picture(longer)

    def pyramid(self, longer: int) -> Pyramid:
        key = keys.picture(self.digest, longer, self._beneath.context.quality)
        return self._beneath.context.cache.get(keys.pyramid(key), lambda: pyramid_of(self.picture(longer)))
