"""The Shelf with very many photos and pieces, in Chromium: when it is first painted, when pictures are there, what scrolling costs, memory.

python -m benchmarks.shelf FOLDER [--photos 2000] [--pieces 500]
"""

from __future__ import annotations

import argparse
import json
import os
import sys
import tempfile
from pathlib import Path
from typing import Any

import cv2
import numpy as np
import psutil
from playwright.sync_api import Page, sync_playwright

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
from tests.server import Server

DONORS = 14
LONGEST = 1600
FLAGS = ["--no-sandbox", "--disable-gpu", "--no-first-run", "--disable-background-networking", "--enable-precise-memory-info"]
FRAMES = """() => {
  window.gaps = [];
  let last = performance.now();
  const tick = (now) => { window.gaps.push(now - last); last = now; requestAnimationFrame(tick); };
  requestAnimationFrame(tick);
}"""
SEEN = """() => {
  const seen = [...document.querySelectorAll('.card-picture')].filter((image) => {
    const box = image.getBoundingClientRect();
    return box.top < innerHeight && box.bottom > 0;
  });
  return document.querySelectorAll('[aria-label=Photos] .card').length > 4 && seen.every((image) => image.complete && image.naturalWidth > 0);
}"""


def fill(folder: Path, photos: int, pieces: int) -> None:
    """Put so many photos on the Shelf, each with a preview of its own, few with files of their own; and pieces of them."""
    import django

    django.setup()
    from django.core.management import call_command

    from caracol.core.piece.starts import STARTS, start_piece
    from caracol.studio import media
    from caracol.studio.models import Photo
    from caracol.studio.photos import add_photo
    from caracol.studio.pieces import create

    call_command("prepare")
    donors = []
    for path in sorted(folder.glob("*.jpg"))[:DONORS]:
        pixels = cv2.imread(str(path))
        scale = LONGEST / max(pixels.shape[:2])
        _, data = cv2.imencode(".jpg", cv2.resize(pixels, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA))
        donors.append(add_photo(data.tobytes(), path.name)[0])
    rows = []
    for number in range(photos - len(donors)):
        donor = donors[number % len(donors)]
        preview = cv2.imdecode(np.frombuffer(media.read(donor.preview), np.uint8), cv2.IMREAD_COLOR)
        _, data = cv2.imencode(".jpg", np.roll(preview, 7 * number, axis=1), [cv2.IMWRITE_JPEG_QUALITY, 85])
        rows.append(
            Photo(
                name=f"{donor.name} {number}", file_name=f"{number}-{donor.file_name}", digest=donor.digest, suffix=donor.suffix,
                preview=media.store("previews", data.tobytes(), ".jpg"), width=donor.width, height=donor.height, reading=donor.reading,
                suits=donor.suits,
            )
        )  # fmt: skip
    Photo.objects.bulk_create(rows)
    for number in range(pieces):
        donor, start = donors[number % len(donors)], STARTS[number // len(donors) % len(STARTS)]
        document = start_piece(start.key, donor.file_name, donor.read)
        document["layers"][0]["steps"].append({"id": f"t{number}", "kind": "turn", "settings": {"angle": round(0.001 * number, 4)}})
        create(f"{donor.name}, {start.label.lower()}", document)


def renderer_mb(browser: psutil.Process) -> float:
    """Return the memory of the largest of the browser's renderers, in megabytes."""
    sizes = [one.memory_info().rss for one in browser.children(recursive=True) if "--type=renderer" in one.cmdline()]
    return max(sizes) / 1e6


def to_the_end(page: Page) -> None:
    """Scroll until every photo is in the list, ten thousand pixels a second."""
    page.mouse.move(400, 500)
    while True:
        page.mouse.wheel(0, 500)
        page.wait_for_timeout(50)
        more = page.locator(".shelf-main section[aria-label='Photos'] .more")
        if not more.count():
            return


def measure(page: Page, browser: psutil.Process, address: str) -> dict[str, Any]:
    """Return what one visit costs."""
    page.goto(address)
    page.wait_for_function(SEEN)
    found: dict[str, Any] = {
        "first_paint_ms": round(page.evaluate("performance.getEntriesByName('first-contentful-paint')[0].startTime")),
        "pictures_in_sight_ms": round(page.evaluate("performance.now()")),
        "renderer_mb": round(renderer_mb(browser)),
        "heap_mb": round(page.evaluate("performance.memory.usedJSHeapSize") / 1e6),
    }
    page.evaluate(FRAMES)
    to_the_end(page)
    gaps = np.array(page.evaluate("window.gaps"))
    return found | {
        "cards": page.locator(".card").count(),
        "frame_ms_median": round(float(np.median(gaps)), 1),
        "frame_ms_99": round(float(np.percentile(gaps, 99)), 1),
        "frame_ms_longest": round(float(gaps.max()), 1),
        "renderer_mb_at_the_end": round(renderer_mb(browser)),
        "heap_mb_at_the_end": round(page.evaluate("performance.memory.usedJSHeapSize") / 1e6),
        "nodes_at_the_end": page.evaluate("document.querySelectorAll('*').length"),
    }


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("folder", type=Path)
    parser.add_argument("--photos", type=int, default=2000)
    parser.add_argument("--pieces", type=int, default=500)
    parser.add_argument("--keep", type=Path, help="fill this folder, or use it as it was filled before")
    asked = parser.parse_args()
    with tempfile.TemporaryDirectory() as temporary:
        var = asked.keep or Path(temporary)
        filled = (var / "caracol.sqlite3").exists()
        os.environ.update(CARACOL_VAR=str(var), DJANGO_SETTINGS_MODULE="caracol.studio.settings")
        if not filled:
            fill(asked.folder, asked.photos, asked.pieces)
        server = Server(var)
        try:
            with sync_playwright() as playwright, tempfile.TemporaryDirectory() as profile:
                context = playwright.chromium.launch_persistent_context(
                    profile, executable_path="/usr/bin/chromium", args=FLAGS, viewport={"width": 1280, "height": 800}
                )
                browser = next(
                    one
                    for one in psutil.Process().children(recursive=True)
                    if "chromium" in one.name() and f"--user-data-dir={profile}" in one.cmdline()
                )
                visits = [measure(context.new_page(), browser, server.address) for _ in range(2)]
                context.close()
        finally:
            server.stop()
    print(json.dumps({"photos": asked.photos, "pieces": asked.pieces, "first_visit": visits[0], "second_visit": visits[1]}, indent=1))


if __name__ == "__main__":
    main()
