"""The real thing: web process, worker and page on a port of their own, driven in Chromium."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any
from zlib import crc32

import pytest
from playwright.sync_api import Browser, Page, Playwright, expect

from caracol.core.io.formats import collect
from tests.pictures import detailed

from .api import Api
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
PLANET: tuple[tuple[str, dict[str, Any]], ...] = (
    ("close-seam", {}),
    ("ring", {"inside": "bottom", "spread": "shape", "reach": 1.5, "fold": 0.2}),
    ("rim", {"radius": 1.05, "width": 0.4}),
)
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
def page(chromium: Browser, address: str, request: pytest.FixtureRequest) -> Iterator[Page]:
    """Return a page, on the Shelf unless a Bench is asked for as well; errors that no code caught fail the test."""
    # What tests ask of the page themselves (its pixels, whether something holds yet) its own policy would refuse; a test without this is
    # in test_shelf.
    context = chromium.new_context(viewport={"width": 1280, "height": 800}, base_url=address, reduced_motion="reduce", bypass_csp=True)
    opened = context.new_page()
    faults: list[str] = []
    opened.on("pageerror", lambda error: faults.append(str(error)))
    if not {"bench", "plain"} & set(request.fixturenames):
        opened.goto("/")
    yield opened
    context.close()
    assert not faults


@pytest.fixture
def photo(tmp_path: Path, request: pytest.FixtureRequest) -> Path:
    """Return a photo file that no other test uses."""
    from PIL import Image

    seed = crc32(request.node.nodeid.encode())
    path = tmp_path / f"photo-{seed}.png"
    Image.fromarray(collect((400, 800), [(0, detailed(400, 800, seed))])).save(path, compress_level=1)
    return path


@pytest.fixture
def bench(page: Page, photo: Path, var: Path, address: str) -> Bench:
    """Return a Bench with a planet from the test's own photo, made through the API: close seam, ring and rim, whatever the photo's reading says."""
    return Bench(page, var).open(Api(address).piece(photo, *PLANET))


@pytest.fixture
def plain(page: Page, photo: Path, var: Path, address: str) -> Bench:
    """Return a Bench with nothing but the test's own photo, made through the API."""
    return Bench(page, var).open(Api(address).piece(photo))
