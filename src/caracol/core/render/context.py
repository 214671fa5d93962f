"""What is fixed for one render, and the pool its strips run in."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from itertools import pairwise
from typing import Protocol

import cv2
import numpy as np

from ..errors import Overtaken
from ..geometry.frame import Frame
from ..piece.where import Where
from ..pixels.arrays import Array
from ..pixels.pyramid import Pyramid
from ..pixels.sampling import FULL, Quality
from . import keys
from .cache import Cache

STRIP = 64
LARGEST = 32768
CORES = int(os.environ.get("CARACOL_CORES") or os.cpu_count() or 1)
POOL = ThreadPoolExecutor(CORES, thread_name_prefix="strip")
# OpenCV brings threads of its own; strips already use every core.
cv2.setNumThreads(1)


class Photos(Protocol):
    """Where photos come from."""

    def pyramid(self, name: str) -> Pyramid:
        """Return a photo, or raise MissingPhoto or PictureError."""

    def digest(self, name: str) -> str:
        """Return what identifies the photo's contents."""


def _never_stop() -> bool:
    return False


def no_progress(share: float) -> None:
    """Tell nobody."""


@dataclass(frozen=True)
class Context:
    """What is fixed for one render.

    Parameters
    ----------
    stop : callable () -> bool
        Asked before every strip; True ends the render with `Overtaken`.
    progress : callable (share)
        Told 0…1 as strips of the last stage are done.
    lenient : bool
        Whether a layer whose photo is gone is shown as a placeholder where other layers stand beside it; else MissingPhoto is raised.
    """

    photos: Photos
    cache: Cache = field(default_factory=lambda: Cache(1 << 30))
    quality: Quality = FULL
    stop: Callable[[], bool] = _never_stop
    progress: Callable[[float], None] = no_progress
    lenient: bool = False

    def check(self) -> None:
        """Raise `Overtaken` when the work is not wanted any more."""
        if self.stop():
            raise Overtaken("the work was overtaken by a newer request")

    def mask(self, where: Where | None, frame: Frame, shape: tuple[int, int], picture: Array | None) -> Array | None:
        """Return a whole where, (rows, cols), kept for all that have the same; None for everywhere.

        Parameters
        ----------
        picture : float32 array (rows, cols, 4), optional
            What ranges of light and hue look at; such a where is not kept.
        """
        if where is None:
            return None
        out = np.empty(shape, np.float32)

        def work(top: int, height: int) -> Array:
            seen = None if picture is None else picture[top : top + height]
            out[top : top + height] = where.mask(frame, *shape, top, height, seen)
            return out[top : top + height]

        def make() -> Array:
            for _ in self.strips(shape[0], work):
                pass
            return out

        if where.looks_at_picture:
            return make()
        return self.cache.get(keys.where(where, frame, shape), make)

    def in_parts(self, count: int, work: Callable[[int, int], None]) -> None:
        """Call work(start, stop) for as many parts of 0 … count as there are cores, side by side, and wait for all."""
        self.check()
        cuts = [count * n // CORES for n in range(CORES + 1)]
        for future in [POOL.submit(work, a, b) for a, b in pairwise(cuts) if b > a]:
            future.result()

    def strips(self, rows: int, work: Callable[[int, int], Array], height: int = STRIP) -> Iterator[tuple[int, Array]]:
        """Compute strips (top, height) in the shared pool, a few ahead of the reader, in order."""
        tops = list(range(0, rows, height))
        ahead = 2 * CORES

        def one(top: int) -> Array:
            self.check()
            return work(top, min(height, rows - top))

        waiting = [POOL.submit(one, top) for top in tops[:ahead]]
        try:
            for index, top in enumerate(tops):
                strip = waiting.pop(0).result()
                if index + ahead < len(tops):
                    waiting.append(POOL.submit(one, tops[index + ahead]))
                self.progress((top + len(strip)) / rows)
                yield top, strip
        finally:
            for future in waiting:
                future.cancel()
