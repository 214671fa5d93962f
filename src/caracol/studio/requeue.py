"""Work that dead workers left in hand is handed out again."""

from __future__ import annotations

import logging
import threading
import time

from django.conf import settings
from django.db import Error as DatabaseError
from django.db import connections

from . import exports, runs

log = logging.getLogger(__name__)


def requeue_stale(everything: bool) -> tuple[int, int]:
    """Hand out again what workers left unfinished; return how many exports, and how many runs go on.

    Parameters
    ----------
    everything : bool
        Whether no worker can be alive; else only what has not been heard of lately is handed out.
    """
    return exports.requeue(everything), runs.requeue(everything)


def watch() -> None:
    """Take up silent work a few times in the time after which it counts as silent; never returns."""
    while True:
        time.sleep(settings.SILENT / 3)
        try:
            left, gone_on = requeue_stale(everything=False)
            if left or gone_on:
                log.warning("%d exports and %d runs of silent workers were handed out again", left, gone_on)
        except DatabaseError as error:
            log.warning("silent work could not be looked for: %s", error)
        finally:
            connections.close_all()


def start_watching() -> None:
    """Look after the work of all machines from this process, in the background."""
    threading.Thread(target=watch, daemon=True, name="requeue").start()
