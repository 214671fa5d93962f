"""Grounds: what a trail begins with, at any size."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

import numpy as np

from ..geometry.frame import Frame
from ..kinds.kind import Rows
from ..pixels.arrays import Array
from ..pixels.pyramid import Pyramid, pyramid_of
from ..sources.drawn import DrawnSource
from . import keys
from .cache import Cache

STRIP = 128


class Ground(Protocol):
    """A picture that steps begin with."""

    @property
    def frame(self) -> Frame:
        """Its frame."""

    @property
    def digest(self) -> str:
        """What identifies its contents."""

    @property
    def longest(self) -> int | None:
        """Pixels on its longer side; None where it is drawn as large as asked."""

    def picture(self, longer: int) -> Array:
        """Return it with `longer` pixels on its longer side, coded (rows, cols, 4)."""

    def pyramid(self, longer: int) -> Pyramid:
        """Return it for sampling, with at least `longer` pixels where it has them."""


class PhotoGround:
    """A photo."""

    def __init__(self, photo: Pyramid, contents: str) -> None:
        self._photo = photo
        self.digest = keys.source("photo", contents)
        self.frame = photo.frame
        self.longest: int | None = max(photo.rows, photo.cols)

    def picture(self, longer: int) -> Array:
        return self._photo.picture(longer)

    def pyramid(self, longer: int) -> Pyramid:
        return self._photo


class DrawnGround:
    """A source that is drawn: nothing is read, and nothing limits its size."""

    def __init__(self, source: DrawnSource, cache: Cache, check: Callable[[], None]) -> None:
        self._source = source
        self._cache = cache
        self._check = check
        self.digest = keys.source("drawn", source)
        self.frame = source.frame
        self.longest: int | None = None

    def picture(self, longer: int) -> Array:
        def draw() -> Array:
            rows, cols = self.frame.pixels(longer)
            out = np.empty((rows, cols, 4), np.float32)
            for top in range(0, rows, STRIP):
                self._check()
                count = min(STRIP, rows - top)
                out[top : top + count] = self._source.paint(Rows(self.frame, rows, cols, top, count))
            return out

        return self._cache.get(keys.picture(self.digest, longer, None), draw)

    def pyramid(self, longer: int) -> Pyramid:
        return self._cache.get(keys.pyramid(keys.picture(self.digest, longer, None)), lambda: pyramid_of(self.picture(longer)))


class MissingGround:
    """Stands where a photo is gone: stripes of two greys, so that the rest of the piece can still be seen."""

    frame = Frame(1.5)
    longest: int | None = None

    def __init__(self, name: str) -> None:
        self.digest = keys.source("missing", name)

    def picture(self, longer: int) -> Array:
        rows, cols = self.frame.pixels(longer)
        x, y = self.frame.grid(rows, cols)
        light = np.where(((x + y) * 4) % 1 < 0.5, np.float32(0.42), np.float32(0.5))
        return np.stack([light, light, light, np.ones_like(light)], axis=-1)

    def pyramid(self, longer: int) -> Pyramid:
        return pyramid_of(self.picture(longer))
