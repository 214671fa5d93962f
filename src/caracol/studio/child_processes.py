"""Processes that end with the one that started them."""

from __future__ import annotations

import ctypes
import signal
import sys
from collections.abc import Callable

PR_SET_PDEATHSIG = 1


def _die_with_parent() -> None:
    ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGTERM)


def bound() -> Callable[[], None] | None:
    """Return what a new process does first (`preexec_fn`): it asks the kernel to end it when its parent is gone, however that came.

    Only Linux can; elsewhere there is nothing to do.
    """
    return _die_with_parent if sys.platform == "linux" else None
