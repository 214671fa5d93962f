"""The real thing: web process, worker and page on a port of their own, driven in Chromium."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any
from zlib import crc32

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, Playwright, expect

from caracol.core.io.formats import collect
from tests.api import Api
from tests.pictures import detailed
from tests.server import Server

from .bench import Bench

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
def visit(playwright: Playwright, address: str, tmp_path_factory: pytest.TempPathFactory) -> Iterator[BrowserContext]:
    """Debian's Chromium with a profile on disk: what it has compiled of the page it keeps from one test to the next, as with a person."""
    # What tests ask of the page themselves (its pixels, whether something holds yet) its own policy would refuse; a test without this is
    # in test_shelf.
    context = playwright.chromium.launch_persistent_context(
        tmp_path_factory.mktemp("profile"), executable_path="/usr/bin/chromium", args=FLAGS, viewport={"width": 1280, "height": 800},
        base_url=address, reduced_motion="reduce", bypass_csp=True,
    )  # fmt: skip
    yield context
    context.close()


@pytest.fixture(scope="session")
def chromium(playwright: Playwright) -> Iterator[Browser]:
    """Debian's Chromium without a profile, for a test that needs a visitor of its own."""
    browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
    yield browser
    browser.close()


@pytest.fixture
def page(visit: BrowserContext, address: str, request: pytest.FixtureRequest) -> Iterator[Page]:
    """Return a page, on the Shelf unless a Bench is asked for as well; errors that no code caught fail the test."""
    opened = visit.new_page()
    faults: list[str] = []
    opened.on("pageerror", lambda error: faults.append(str(error)))
    if not {"bench", "plain", "blank"} & set(request.fixturenames):
        opened.goto("/")
    yield opened
    keeper, *left = visit.pages
    for one in left:
        one.close()
    # Nothing that a test has chosen or left unsaved is there for the next one.
    visit.new_cdp_session(keeper).send("Storage.clearDataForOrigin", {"origin": address, "storageTypes": "cookies,local_storage,indexeddb"})
    assert not faults


def _photo(folder: Path, seed: int) -> Path:
    from PIL import Image

    path = folder / f"photo-{seed}.png"
    Image.fromarray(collect((400, 800), [(0, detailed(400, 800, seed))])).save(path, compress_level=1)
    return path


@pytest.fixture
def photo(tmp_path: Path, request: pytest.FixtureRequest) -> Path:
    """Return a photo file that no other test uses."""
    return _photo(tmp_path, crc32(request.node.nodeid.encode()))


@pytest.fixture(scope="session")
def ground(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Return the photo file of `bench` and `plain`: one for all, which is read once."""
    return _photo(tmp_path_factory.mktemp("ground"), 7)


@pytest.fixture
def called(request: pytest.FixtureRequest) -> str:
    """Return a name that no other test's piece has."""
    return f"photo-{crc32(request.node.nodeid.encode())}"


@pytest.fixture
def blank(page: Page, var: Path) -> Bench:
    """Return the hands of a Bench that has no piece yet."""
    return Bench(page, var)


@pytest.fixture
def bench(blank: Bench, ground: Path, address: str, called: str) -> Bench:
    """Return a Bench with a planet, made through the API: close seam, ring and rim, whatever the photo's reading says."""
    return blank.open(Api(address).piece(ground, *PLANET, called=called))


@pytest.fixture
def plain(blank: Bench, ground: Path, address: str, called: str) -> Bench:
    """Return a Bench with nothing but a photo, made through the API."""
    return blank.open(Api(address).piece(ground, called=called))
