"""Signs of life: work in hand says that its worker is alive, however long a step of it takes; what is silent is taken up by others."""

from __future__ import annotations

import logging
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from typing import Any

from django.conf import settings
from django.db import Error as DatabaseError
from django.db import connections
from django.db.models import Q, QuerySet
from django.utils import timezone

log = logging.getLogger(__name__)
BEATS = 6
"""So many signs of life fall into the time after which silent work is taken up."""


def silent() -> Q:
    """Return what finds work whose worker has not been heard of lately."""
    return Q(heard_at=None) | Q(heard_at__lt=timezone.now() - timedelta(seconds=settings.SILENT))


@contextmanager
def heartbeat(rows: QuerySet[Any]) -> Iterator[None]:
    """Give signs of life of the row in `rows` inside this block, from a thread of its own."""
    over = threading.Event()

    def beat() -> None:
        while not over.wait(settings.SILENT / BEATS):
            try:
                rows.filter(state="working").update(heard_at=timezone.now())
            except DatabaseError as error:
                log.warning("no sign of life could be given: %s", error)
            finally:
                connections.close_all()

    thread = threading.Thread(target=beat, daemon=True, name="heart")
    thread.start()
    try:
        yield
    finally:
        over.set()
        thread.join()
