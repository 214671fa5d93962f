"""Foreign bytes are opened in a process of their own, where it can be stopped: what it stumbles over holds up nobody else.

It gives its memory back after each, and ends when nothing was to be opened for a while.
"""

from __future__ import annotations

import threading
import time
from collections.abc import Callable
from concurrent.futures import BrokenExecutor
from concurrent.futures import TimeoutError as TooLong
from multiprocessing import get_context
from typing import Any, TypeVar

from pebble import ProcessExpired, ProcessPool

from ..core.errors import PictureError
from ..core.inspection import Inspected
from ..core.inspection import inspect_file as read_whole
from ..core.io.xmp import trail_in as read_trail
from .child_processes import bound
from .memory import give_back

SAID = 2.0
"""Seconds for what a file says of itself."""
WHOLE = 120.0
"""Seconds for a whole picture: the largest that is taken, on a slow machine."""
REST = 120.0
"""Seconds after which a process that has nothing to open ends: to begin one anew takes two."""
Made = TypeVar("Made")


def _begin() -> None:
    if (bind := bound()) is not None:
        bind()


def _tidily(work: Callable[..., Made], *given: Any) -> Made:
    """Do work, and keep nothing of the memory it took."""
    try:
        return work(*given)
    finally:
        give_back()


class Sandbox:
    """Two processes, so that one large photo does not keep a small file waiting; begun when first needed."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._pool: ProcessPool | None = None
        self._busy = 0
        self._last = 0.0

    def call(self, work: Callable[..., Made], *given: Any, seconds: float, name: str) -> Made:
        """Return what work on a file gives, done in another process.

        Raises
        ------
        PictureError
            It took longer than `seconds`, or the process that was at it died.
        """
        with self._lock:
            if self._pool is None or not self._pool.active:
                self._pool = ProcessPool(max_workers=2, initializer=_begin, context=get_context("spawn"))
                threading.Thread(target=self._end_when_idle, args=(self._pool,), daemon=True, name="apart").start()
            pool = self._pool
            self._busy += 1
        try:
            return pool.schedule(_tidily, args=(work, *given), timeout=seconds).result()
        except TooLong as error:
            raise PictureError(
                f"{name} is not opened: reading it takes longer than {seconds:g} seconds. Open it elsewhere and save it again as PNG or JPEG."
            ) from error
        except (ProcessExpired, BrokenExecutor) as error:
            raise PictureError(
                f"{name} is damaged in a way that its reader does not survive. Copy it again from where it came from."
            ) from error
        finally:
            with self._lock:
                self._busy -= 1
                self._last = time.monotonic()

    def _end_when_idle(self, pool: ProcessPool) -> None:
        while True:
            time.sleep(REST / 6)
            with self._lock:
                if self._busy or time.monotonic() - self._last < REST:
                    continue
                self._pool = None
            pool.close()
            pool.join()
            return


SANDBOX = Sandbox()


def trail_in(content: bytes, name: str) -> dict[str, Any] | None:
    """Return the piece that travels in a file, as `xmp.trail_in` does."""
    return SANDBOX.call(read_trail, content, name, seconds=SAID, name=name)


def inspect_file(content: bytes, name: str) -> Inspected:
    """Look a file over, as `taking_in.inspect_file` does."""
    return SANDBOX.call(read_whole, content, name, seconds=WHOLE, name=name)
