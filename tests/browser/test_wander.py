"""A short walk at random; `make wander` is a long one."""

from __future__ import annotations

from pathlib import Path

from playwright.sync_api import Page
from scripts.wandering import Walk

from tests.api import Api

from .bench import Bench
from .conftest import PLANET


def test_a_short_walk(page: Page, ground: Path, var: Path, address: str) -> None:
    walk = Walk(Bench(page, var), address, Api(address).piece(ground, *PLANET, called="Walk 11"), seed=11)
    walk.go(28, every=14)
    assert len(walk.done) == 28
