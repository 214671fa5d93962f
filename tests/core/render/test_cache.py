"""What to save, what goes first, and what is never counted twice."""

from __future__ import annotations

import threading

import numpy as np
import pytest

from caracol.core.render.cache import Cache

KB = 1024


def block(kb: int = 1, value: int = 0) -> np.ndarray:
    return np.full(kb * KB, value, np.uint8)


def test_made_once_and_then_found() -> None:
    cache, made = Cache(10 * KB), []

    def make() -> np.ndarray:
        made.append(1)
        return block()

    assert cache.get("a", make) is cache.get("a", make)
    assert len(made) == 1


def test_the_least_recently_used_goes_first() -> None:
    cache = Cache(3 * KB)
    for key in "abc":
        cache.get(key, block)
    cache.get("a", block)
    cache.get("d", block)
    assert [cache.peek(key) is not None for key in "abcd"] == [True, False, True, True]
    assert cache.size == 3 * KB


def test_looking_does_not_count_as_using() -> None:
    cache = Cache(2 * KB)
    for key in "ab":
        cache.get(key, block)
    assert cache.peek("a") is not None
    cache.get("c", block)
    assert cache.peek("a") is None


def test_what_is_larger_than_the_limit_is_handed_out_but_not_kept() -> None:
    cache = Cache(2 * KB)
    cache.get("small", block)
    assert cache.get("large", lambda: block(3)).nbytes == 3 * KB
    assert cache.peek("large") is None
    assert cache.peek("small") is not None
    assert cache.size == KB


def test_many_go_for_a_large_one() -> None:
    cache = Cache(4 * KB)
    for key in "abcd":
        cache.get(key, block)
    cache.get("large", lambda: block(3))
    assert [cache.peek(key) is not None for key in "abcd"] == [False, False, False, True]
    assert cache.size == 4 * KB


def test_a_fault_while_making_leaves_nothing_behind() -> None:
    cache = Cache(4 * KB)

    def broken() -> np.ndarray:
        raise ValueError("no picture")

    with pytest.raises(ValueError, match="no picture"):
        cache.get("a", broken)
    assert cache.get("a", lambda: block(1, 7))[0] == 7
    assert cache.size == KB


def test_what_two_threads_ask_for_at_once_is_made_by_one_of_them() -> None:
    cache, made = Cache(4 * KB), []
    begun, end = threading.Event(), threading.Event()

    def make() -> np.ndarray:
        made.append(1)
        begun.set()
        assert end.wait(timeout=10)
        return block()

    found: list[np.ndarray] = []
    threads = [threading.Thread(target=lambda: found.append(cache.get("a", make))) for _ in range(3)]
    for thread in threads:
        thread.start()
    assert begun.wait(timeout=10)
    end.set()
    for thread in threads:
        thread.join()
    assert (len(found), len(made), cache.size) == (3, 1, KB)


def test_who_waited_for_a_maker_that_failed_makes_it_itself() -> None:
    cache = Cache(4 * KB)
    begun, end = threading.Event(), threading.Event()

    def fail() -> np.ndarray:
        begun.set()
        assert end.wait(timeout=10)
        raise ValueError("no picture")

    def first() -> None:
        with pytest.raises(ValueError, match="no picture"):
            cache.get("a", fail)

    found: list[np.ndarray] = []
    threads = [threading.Thread(target=first), threading.Thread(target=lambda: found.append(cache.get("a", lambda: block(1, 7))))]
    threads[0].start()
    assert begun.wait(timeout=10)
    threads[1].start()
    end.set()
    for thread in threads:
        thread.join()
    assert found[0][0] == 7
