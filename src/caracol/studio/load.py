"""Who is being served just now, so that work nobody waits for can stand back."""

from __future__ import annotations

import socket
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager

from ..core.errors import Superseded

QUIET = 0.7
"""Seconds without a picture asked for, after which a hand is thought to rest."""
PATIENCE = 0.1


class Load:
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


LOAD = Load()

PAUSE = 3.0
"""Seconds for which one picture stands back at most, so that others than the hand's are made too while somebody drags on and on."""
MOMENT = 0.01


class Way:
    """Lets all else stand back while a draft is made under the hand.

    Parameters
    ----------
    is_waited_for : callable () -> bool
        Whether somebody, and it may be the hand, waits for what others have begun: then nobody stands back.
    """

    def __init__(self, is_waited_for: Callable[[], bool]) -> None:
        self._is_waited_for = is_waited_for
        self._hands = 0
        self._lock = threading.Lock()

    @contextmanager
    def hand(self) -> Iterator[None]:
        """Say that a draft is made inside this block."""
        with self._lock:
            self._hands += 1
        try:
            yield
        finally:
            with self._lock:
                self._hands -= 1

    def stop_of(self, stop: Callable[[], bool]) -> Callable[[], bool]:
        """Return a stop signal of other work, which is only answered when the hand has what it wants.

        Only the thread that called this stands back in it: strips share their threads with the hand's.
        """
        owner = threading.get_ident()
        left = [PAUSE]

        def standing_back() -> bool:
            while self._hands and left[0] > 0 and threading.get_ident() == owner and not self._is_waited_for():
                time.sleep(MOMENT)
                left[0] -= MOMENT
            return stop()

        return standing_back


class Overloaded(Exception):
    """More pictures are asked for than can be made, or waited for."""


class Slots:
    """So many pictures are made at once: more would only make each slower, and all of them hold memory."""

    def __init__(self, count: int, waiting: int) -> None:
        self._free = threading.Semaphore(count)
        self._waiting = threading.Semaphore(waiting)

    @contextmanager
    def taken(self, stop: Callable[[], bool]) -> Iterator[None]:
        """Hold a seat inside this block; wait for one before.

        Raises
        ------
        Superseded
            The picture is not wanted any more.
        Overloaded
            So many wait already that one more would keep all else from being answered.
        """
        if not self._free.acquire(blocking=False):
            self._wait(stop)
        try:
            yield
        finally:
            self._free.release()

    def _wait(self, stop: Callable[[], bool]) -> None:
        if not self._waiting.acquire(blocking=False):
            raise Overloaded("Very many pictures are asked for at once; this one was not begun. Ask again in a moment.")
        try:
            while not self._free.acquire(timeout=PATIENCE):
                if stop():
                    raise Superseded("nobody waits for this picture any more")
        finally:
            self._waiting.release()


def hung_up(connection: socket.socket | None) -> Callable[[], bool]:
    """Return what says whether the client at the other end of a connection has gone; never, where there is none to look at.

    It looks a few times a second, whoever asks: strips ask often, from several threads.
    """
    state = {"next": 0.0, "gone": False}

    def look() -> bool:
        now = time.monotonic()
        if connection is None or state["gone"] or now < state["next"]:
            return bool(state["gone"])
        state["next"] = now + PATIENCE
        try:
            state["gone"] = connection.recv(1, socket.MSG_PEEK | socket.MSG_DONTWAIT) == b""
        except BlockingIOError:
            pass
        except OSError:
            state["gone"] = True
        return bool(state["gone"])

    return look
