"""The real thing: web process, worker and page on a port of their own, driven in Chromium."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, Playwright, expect

from caracol.core.formats import collect
from tests.pictures import detailed

from .bench import Bench
from .server import Server

FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
expect.set_options(timeout=20_000)


@pytest.fixture(scope="session")
def var(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Return the folder in which this Caracol keeps everything."""
    return tmp_path_factory.mktemp("caracol-var")


@pytest.fixture(scope="session")
def address(var: Path) -> Iterator[str]:
    """Start Caracol and return its address."""
    server = Server(var)
    yield server.address
    server.stop()


@pytest.fixture(scope="session")
def chromium(playwright: Playwright) -> Iterator[Browser]:
    """Debian's Chromium."""
    browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
    yield browser
    browser.close()


@pytest.fixture
def page(chromium: Browser, address: str) -> Iterator[Page]:
    """Return a page on the Shelf; errors that no code caught fail the test."""
    context = chromium.new_context(viewport={"width": 1280, "height": 800}, base_url=address)
    opened = context.new_page()
    faults: list[str] = []
    opened.on("pageerror", lambda error: faults.append(str(error)))
    opened.goto("/")
    yield opened
    context.close()
    assert not faults


@pytest.fixture
def photo(tmp_path: Path, request: pytest.FixtureRequest) -> Path:
    """Return a photo file that no other test uses."""
    from PIL import Image

    seed = sum(request.node.nodeid.encode()) * 7 + len(request.node.nodeid)
    path = tmp_path / f"photo-{seed}.png"
    Image.fromarray(collect((400, 800), [(0, detailed(400, 800, seed))])).save(path)
    return path


@pytest.fixture
def bench(page: Page, photo: Path, var: Path) -> Bench:
    """Return a Bench with a planet from the test's own photo."""
    made = Bench(page, var)
    made.upload(photo)
    made.start("Planet")
    return made


@pytest.fixture
def plain(page: Page, photo: Path, var: Path) -> Bench:
    """Return a Bench with nothing but the test's own photo."""
    made = Bench(page, var)
    made.upload(photo)
    made.start("Plain")
    return made


def pytest_collection_modifyitems(items: list[Any]) -> None:
    """Browser tests come last: what is quick fails first."""
    items.sort(key=lambda item: "/browser/" in str(item.path))
