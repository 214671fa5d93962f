"""What is fixed for one render, and the pool its strips run in."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from concurrent.futures import TimeoutError as NotYet
from dataclasses import dataclass, field
from functools import cache
from itertools import pairwise
from typing import Any, Protocol, TypeVar

import cv2

from ..arrays import Array
from ..errors import Superseded
from ..pixels.pyramid import Pyramid
from ..render.quality import FULL, Quality
from .cache import Cache

STRIP = 64
LARGEST = 32768
CORES = int(os.environ.get("CARACOL_CORES") or os.cpu_count() or 1)
PATIENCE = 0.2
"""Seconds between two looks at the stop signal while long work is done aside."""


@cache
def strip_pool() -> ThreadPoolExecutor:
    """Return the threads that compute strips, begun when first asked for."""
    # OpenCV brings threads of its own; strips already use every core.
    cv2.setNumThreads(1)
    return ThreadPoolExecutor(CORES, thread_name_prefix="strip")


@cache
def aside_pool() -> ThreadPoolExecutor:
    """Return the threads that long work on whole pictures is done in, begun when first asked for."""
    return ThreadPoolExecutor(16, thread_name_prefix="aside")


Made = TypeVar("Made")


class Photos(Protocol):
    """Where photos come from."""

    def pyramid(self, name: str) -> Pyramid:
        """Return a photo, or raise MissingPhoto or PictureError."""

    def digest(self, name: str) -> str:
        """Return what identifies the photo's contents."""


class Allowance(Protocol):
    """What a render may cost (`limits.Limits`)."""

    def check(self, plan: Any, /) -> None:
        """Raise TooLarge for a plan that costs more."""


class _Anything:
    def check(self, plan: Any, /) -> None:
        pass


ANYTHING = _Anything()


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
        Asked before every strip; True ends the render with `Superseded`.
    progress : callable (share)
        Told 0…1 of the plan as work is done; it never falls.
    lenient : bool
        Whether a layer whose photo is gone is shown as a placeholder where other layers stand beside it; else MissingPhoto is raised.
    limits : Allowance
        What the work may cost: asked before any of it is begun.
    """

    photos: Photos
    cache: Cache = field(default_factory=lambda: Cache(1 << 30))
    quality: Quality = FULL
    stop: Callable[[], bool] = _never_stop
    progress: Callable[[float], None] = no_progress
    lenient: bool = False
    limits: Allowance = ANYTHING

    def check(self) -> None:
        """Raise `Superseded` when the work is not wanted any more."""
        if self.stop():
            raise Superseded("the work was superseded by a newer request")

    def wait(self, future: Future[Made]) -> Made:
        """Return the result of work in another thread, with an ear for the stop signal."""
        while True:
            try:
                return future.result(timeout=PATIENCE)
            except NotYet:
                # It may have ended just now, or the fault may be its own.
                if future.done():
                    return future.result()
                self.check()

    def in_parts(self, count: int, work: Callable[[int, int], None]) -> None:
        """Call work(start, stop) for as many parts of 0 … count as there are cores, side by side, and wait for all."""
        self.check()
        cuts = [count * n // CORES for n in range(CORES + 1)]
        for future in [strip_pool().submit(work, a, b) for a, b in pairwise(cuts) if b > a]:
            future.result()

    def strips(self, rows: int, work: Callable[[int, int], Array], height: int = STRIP, first: int = 0) -> Iterator[tuple[int, Array]]:
        """Compute strips (top, height) from row `first` up to `rows` in the shared pool, a few ahead of the reader, in order."""
        tops = list(range(first, rows, height))
        ahead = 2 * CORES

        def one(top: int) -> Array:
            self.check()
            return work(top, min(height, rows - top))

        waiting = [strip_pool().submit(one, top) for top in tops[:ahead]]
        try:
            for index, top in enumerate(tops):
                strip = self.wait(waiting.pop(0))
                self.check()
                if index + ahead < len(tops):
                    waiting.append(strip_pool().submit(one, tops[index + ahead]))
                yield top, strip
        finally:
            for future in waiting:
                future.cancel()


def aside(make: Callable[[], Made], context: Context) -> Made:
    """Return what long work makes, done in another thread so that a stop is heard meanwhile.

    Raises
    ------
    Superseded
        It is not wanted any more. What had begun ends by itself, and nobody takes its result.
    """
    return context.wait(aside_pool().submit(make))
