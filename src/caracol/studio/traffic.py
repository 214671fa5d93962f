"""Who is being served just now, so that work nobody waits for can stand back."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager

QUIET = 0.7
"""Seconds without a picture asked for, after which a hand is thought to rest."""
PATIENCE = 0.1


class Traffic:
    """Counts the pictures that are being made for somebody."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._serving = 0
        self._last = 0.0

    @contextmanager
    def served(self) -> Iterator[None]:
        """Say that somebody is served inside this block."""
        with self._lock:
            self._serving += 1
        try:
            yield
        finally:
            with self._lock:
                self._serving -= 1
                self._last = time.monotonic()

    @property
    def is_quiet(self) -> bool:
        """Whether nobody is served, nor was a moment ago."""
        return self.rests_since(QUIET)

    @property
    def last_served(self) -> float:
        """When the last picture was finished, in the seconds of `time.monotonic`; 0 before the first."""
        return self._last

    def rests_since(self, seconds: float) -> bool:
        """Whether nobody is served, nor was in the last seconds."""
        with self._lock:
            return not self._serving and time.monotonic() - self._last >= seconds

    def wait_until_quiet(self) -> None:
        """Return when nobody is served any more."""
        while not self.is_quiet:
            time.sleep(PATIENCE)


TRAFFIC = Traffic()
