"""How requests for pictures are served: a few at once, and none for a client that has gone."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager

from django.http import HttpRequest, HttpResponse
from django.utils.http import content_disposition_header

from ...core.render.context import CORES
from ..load import Slots, Way, hung_up
from ..rendering import CACHE

SLOTS = Slots(max(2, CORES), waiting=24)
INTERACTIVE = Slots(2, waiting=8)
"""Drafts under the hand wait for no other picture."""
WAY = Way(lambda: CACHE.waiting > 0)


def _never() -> bool:
    return False


@contextmanager
def served(request: HttpRequest, superseded: Callable[[], bool] = _never, hand: bool = False) -> Iterator[Callable[[], bool]]:
    """Hold a seat inside this block and give the signal that says whether to stop: superseded, or the client gone.

    Raises
    ------
    Superseded
        It was so before there was a seat.
    Overloaded
        Too many wait already.
    """
    gone = hung_up(request.META.get("gunicorn.socket"))

    def stop() -> bool:
        return superseded() or gone()

    if hand:
        with INTERACTIVE.taken(stop), WAY.hand():
            yield stop
    else:
        with SLOTS.taken(stop):
            yield WAY.stop_of(stop)


def download(content: str | bytes, kind: str, name: str) -> HttpResponse:
    """Return something to be kept under a name, in whatever script that is written (RFC 6266)."""
    response = HttpResponse(content, content_type=kind)
    response["Content-Disposition"] = content_disposition_header(True, name)
    return response


def png(data: bytes) -> HttpResponse:
    """Return a picture of something that changes all the time, as an answer."""
    response = HttpResponse(data, content_type="image/png")
    response["Cache-Control"] = "no-store"
    return response
