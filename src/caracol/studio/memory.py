"""Memory that is given back to the system when the work that needed it is over."""

from __future__ import annotations

import ctypes
import threading
import time
from contextlib import suppress

from .traffic import TRAFFIC

REST = 20.0
"""Seconds of rest after which freed memory is given back: while drafts follow each other it is used again at once."""
PAUSE = 2.0


def give_back() -> None:
    """Give all freed memory back to the system, where its C library can (glibc)."""
    with suppress(OSError, AttributeError):
        ctypes.CDLL(None).malloc_trim(0)


def keep_tidy() -> None:
    """Give freed memory back whenever nobody has asked for a picture for a while; never returns."""
    tidied_at = 0.0
    while True:
        time.sleep(PAUSE)
        last = TRAFFIC.last_served
        if last > tidied_at and TRAFFIC.rests_since(REST):
            give_back()
            tidied_at = time.monotonic()


def start_tidying() -> None:
    """Keep this process tidy in the background."""
    threading.Thread(target=keep_tidy, daemon=True, name="tidy").start()
