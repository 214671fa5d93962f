"""What previews and analyses of the screen share: the cache, the limits, and which request is the newest."""

from __future__ import annotations

import threading
from collections.abc import Callable

from django.conf import settings

from ..core.render import Context
from ..core.render.cache import Cache
from ..core.render.limits import Limits
from ..core.render.quality import FULL, Quality
from .photos import SHELF

Stop = Callable[[], bool]
"""Says whether a picture is not wanted any more."""
CACHE = Cache(settings.PICTURE_CACHE)
LIMITS = Limits(settings.LOOK_SECONDS, settings.WORK_BYTES)


class NewestRequests:
    """Remembers the newest request of each bench; older ones are told to stop."""

    def __init__(self) -> None:
        self._newest: dict[str, int] = {}
        self._lock = threading.Lock()

    def enter(self, bench: str, turn: int) -> Callable[[], bool]:
        """Announce request number `turn` of a bench; return the stop signal for it."""
        with self._lock:
            if len(self._newest) > 1000:
                self._newest.clear()
            self._newest[bench] = max(turn, self._newest.get(bench, turn))
        return lambda: self._newest.get(bench, turn) > turn


NEWEST = NewestRequests()


def never() -> bool:
    """Go on to the end."""
    return False


def screen_context(stop: Stop, quality: Quality = FULL) -> Context:
    """Return what pictures for the screen are rendered with: from the shared cache, within its limits, stripes where a photo is gone."""
    photos = SHELF.lately() if quality.coded else SHELF.once()
    return Context(photos, cache=CACHE, quality=quality, stop=stop, lenient=True, limits=LIMITS)
