"""Pictures and pyramids kept by digest, least recently used out first."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable
from typing import Any, TypeVar

Kept = TypeVar("Kept")


class Cache:
    """A store with a limit in bytes, safe among threads.

    Parameters
    ----------
    limit : int
        Bytes; what is larger than the whole limit is not kept.
    """

    def __init__(self, limit: int) -> None:
        self.limit = limit
        self.size = 0
        self._held: OrderedDict[str, Any] = OrderedDict()
        self._lock = threading.Lock()

    def peek(self, key: str) -> Any:
        """Return what is kept under `key`, or None."""
        with self._lock:
            return self._held.get(key)

    def find(self, key: str) -> Any:
        """Return what is kept under `key`, as used just now, or None."""
        with self._lock:
            if key not in self._held:
                return None
            self._held.move_to_end(key)
            return self._held[key]

    def get(self, key: str, make: Callable[[], Kept]) -> Kept:
        """Return what is kept under `key`, else make it and keep it. Two threads may make the same thing; one stays."""
        with self._lock:
            if key in self._held:
                self._held.move_to_end(key)
                return self._held[key]
        made: Any = make()
        with self._lock:
            if key not in self._held and made.nbytes <= self.limit:
                self._held[key] = made
                self.size += made.nbytes
            while self.size > self.limit:
                _, gone = self._held.popitem(last=False)
                self.size -= gone.nbytes
        return made
