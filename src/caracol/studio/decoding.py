"""A memory budget for photos while they are decoded: small ones beside each other, large ones alone."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager

import cv2

from ..core.io.decode import MOST_PIXELS

# Readings and cut-outs run beside each other in threads of the server: OpenCV need not bring more.
cv2.setNumThreads(1)


class MemoryBudget:
    """So many pixels may be in work at once; whoever came first goes in first."""

    def __init__(self, pixels: int) -> None:
        self.pixels = pixels
        self.taken = 0
        self._door = threading.Lock()
        self._left = threading.Condition()

    @contextmanager
    def of(self, pixels: int | None = None) -> Iterator[None]:
        """Have room for a photo of so many pixels inside this block; all there is where its size is not known."""
        wanted = self.pixels if pixels is None else min(pixels, self.pixels)
        with self._door, self._left:
            self._left.wait_for(lambda: self.taken + wanted <= self.pixels)
            self.taken += wanted
        try:
            yield
        finally:
            with self._left:
                self.taken -= wanted
                self._left.notify_all()


DECODING = MemoryBudget(MOST_PIXELS)
"""The largest photo takes two gigabytes while it is decoded: smaller ones together no more than that."""
