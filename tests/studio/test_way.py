"""All else stands back while a draft is made under the hand, but never one that the hand waits for."""

from __future__ import annotations

import threading
from concurrent.futures import ThreadPoolExecutor

import numpy as np
import pytest

from caracol.core.render.cache import Cache
from caracol.studio import load
from caracol.studio.load import Way


def test_others_stand_back_until_the_hand_has_its_draft(monkeypatch: pytest.MonkeyPatch) -> None:
    """What was asked in the middle of a draft is answered after it."""
    asked, told = threading.Event(), []
    monkeypatch.setattr(load.time, "sleep", lambda _: asked.set())
    monkeypatch.setattr(load, "PAUSE", 1e9)
    way = Way(lambda: False)

    def other() -> None:
        stop = way.stop_of(lambda: False)
        told.append(stop())

    with ThreadPoolExecutor(1) as pool:
        with way.hand():
            answer = pool.submit(other)
            assert asked.wait(20)
            assert told == []
        answer.result(20)
    assert told == [False]


@pytest.mark.parametrize("waited_for", [True, False])
def test_nobody_stands_back_for_ever_or_where_it_is_waited_for(waited_for: bool, monkeypatch: pytest.MonkeyPatch) -> None:
    """Three seconds at most for one picture, and none while somebody needs what it has begun."""
    slept: list[float] = []
    monkeypatch.setattr(load.time, "sleep", slept.append)
    way = Way(lambda: waited_for)
    stop = way.stop_of(lambda: True)
    with way.hand():
        assert stop()
        assert sum(slept) == pytest.approx(0 if waited_for else load.PAUSE, abs=0.02)
        slept.clear()
        assert stop()
        assert slept == []


def test_threads_that_compute_strips_never_stand_back(monkeypatch: pytest.MonkeyPatch) -> None:
    """They are the hand's as well."""
    slept: list[float] = []
    monkeypatch.setattr(load.time, "sleep", slept.append)
    way = Way(lambda: False)
    stop = way.stop_of(lambda: False)
    with way.hand(), ThreadPoolExecutor(1) as pool:
        assert not pool.submit(stop).result(20)
    assert slept == []


def test_a_cache_says_who_waits() -> None:
    """One makes, the other waits, and then neither does."""
    cache, begun, go = Cache(1 << 20), threading.Event(), threading.Event()

    def make() -> np.ndarray:
        begun.set()
        assert go.wait(20)
        return np.zeros(3)

    with ThreadPoolExecutor(2) as pool:
        first = pool.submit(cache.get, "a", make)
        assert begun.wait(20)
        assert cache.waiting == 0
        second = pool.submit(cache.get, "a", make)
        while cache.waiting == 0:
            assert not second.done()
        go.set()
        assert first.result(20) is second.result(20)
    assert cache.waiting == 0
