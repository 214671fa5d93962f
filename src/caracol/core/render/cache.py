"""Pictures, pyramids and whatever else lasts, kept by key, least recently used out first."""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import Any, TypeVar

from cachetools import Cache as Plain
from cachetools import LRUCache

Kept = TypeVar("Kept")


def _nbytes(kept: Any) -> int:
    return int(kept.nbytes)


class Cache:
    """A store with a limit in bytes, safe among threads. What two threads ask for at once is made by one of them.

    Parameters
    ----------
    limit : int
        Bytes; what is larger than the whole limit is not kept.
    """

    def __init__(self, limit: int) -> None:
        self.limit = limit
        self._held: LRUCache[str, Any] = LRUCache(max(limit, 0), getsizeof=_nbytes)
        self._making: dict[str, threading.Event] = {}
        self._lock = threading.Lock()
        self._waiting = 0

    @property
    def waiting(self) -> int:
        """Return how many threads wait for what another is making."""
        return self._waiting

    @property
    def size(self) -> int:
        """Return the bytes that are held."""
        return int(self._held.currsize)

    def peek(self, key: str) -> Any:
        """Return what is kept under `key`, or None; this is no use of it."""
        with self._lock:
            return Plain.__getitem__(self._held, key) if key in self._held else None

    def find(self, key: str) -> Any:
        """Return what is kept under `key`, as used just now, or None."""
        with self._lock:
            return self._held.get(key)

    def get(self, key: str, make: Callable[[], Kept]) -> Kept:
        """Return what is kept under `key`, else make it and keep it.

        Where another thread is making it, that is waited for; if it fails there, or is too large to be kept, it is made here.
        """
        while True:
            with self._lock:
                if key in self._held:
                    return self._held[key]
                others = self._making.get(key)
                if others is None:
                    self._making[key] = threading.Event()
                    break
                self._waiting += 1
            others.wait()
            with self._lock:
                self._waiting -= 1
        try:
            made: Any = make()
            with self._lock:
                if _nbytes(made) <= self.limit:
                    self._held[key] = made
            return made
        finally:
            with self._lock:
                self._making.pop(key).set()
