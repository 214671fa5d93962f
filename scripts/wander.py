"""Walks at random over the Bench in a real browser, from seeds that repeat them: `make wander` (not in CI; a short one is).

Every walk has a piece of its own from one of the demo's kinds of photos. What does not hold is printed with its seed and the gestures before it.
"""

from __future__ import annotations

import argparse
import io
import os
import sys
import tempfile
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "caracol.studio.settings")

from PIL import Image
from playwright.sync_api import sync_playwright
from tests.api import Api
from tests.browser.bench import Bench
from tests.browser.conftest import FLAGS
from tests.pictures import detailed
from tests.server import Server

from caracol.core.io.formats import collect
from scripts.wandering import Walk

STARTS = ("planet", "sky-well", "tunnel", "inside-out", "plain")
SHAPES = ((400, 800), (600, 400), (500, 500), (300, 1200))


def photo(seed: int) -> bytes:
    """Return a photo file, another for each seed."""
    rows, cols = SHAPES[seed % len(SHAPES)]
    out = io.BytesIO()
    Image.fromarray(collect((rows, cols), [(0, detailed(rows, cols, seed))])).save(out, "PNG", compress_level=1)
    return out.getvalue()


def main() -> int:
    """Walk until the time is over; return 1 where something did not hold."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--minutes", type=float, default=60)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--gestures", type=int, default=60)
    given = parser.parse_args()
    found = walks = gestures = 0
    until = time.monotonic() + 60 * given.minutes
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        server = Server(Path(folder))
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        api = Api(server.address)
        seed = given.seed
        while time.monotonic() < until:
            context = browser.new_context(
                base_url=server.address, viewport={"width": 1280, "height": 800}, reduced_motion="reduce", bypass_csp=True
            )
            shelved = api.upload(photo(seed), f"walk {seed}.png")
            piece = api.call("POST", "pieces", {"photo": shelved["id"], "start": STARTS[seed % len(STARTS)]})
            walk = Walk(Bench(context.new_page(), Path(folder)), server.address, piece, seed)
            try:
                walk.go(given.gestures)
                walk.delivered()
            except Exception as fault:
                found += 1
                print(f"--- {type(fault).__name__}: {fault}", flush=True)
            walks, gestures, seed = walks + 1, gestures + len(walk.done), seed + 1
            context.close()
        browser.close()
        server.stop()
    print(f"{walks} walks, {gestures} gestures, {found} faults")
    return min(found, 1)


if __name__ == "__main__":
    sys.exit(main())
