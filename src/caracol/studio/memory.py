"""Memory that is given back to the system when the work that needed it is over."""

from __future__ import annotations

import ctypes
import gc
import threading
import time
from contextlib import suppress

import psutil

from .load import LOAD

REST = 20.0
"""Seconds of rest after which freed memory is given back: while drafts follow each other it is used again at once."""
PAUSE = 2.0
GROWN = 32 << 20
"""Bytes that the process has grown by since the last time, at least: whatever they were for, some may be free again."""


def give_back() -> None:
    """Give all freed memory back to the system, where its C library can (glibc)."""
    with suppress(OSError, AttributeError):
        ctypes.CDLL(None).malloc_trim(0)


def keep_tidy() -> None:
    """Give freed memory back whenever nobody has asked for a picture for a while and there may be some; never returns."""
    process, left = psutil.Process(), 0
    while True:
        time.sleep(PAUSE)
        if LOAD.rests_since(REST) and process.memory_info().rss > left + GROWN:
            gc.collect()
            give_back()
            left = process.memory_info().rss


def start_tidying() -> None:
    """Keep this process tidy in the background."""
    threading.Thread(target=keep_tidy, daemon=True, name="tidy").start()
