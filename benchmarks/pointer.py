"""Pointer to picture: how long after a pointer move on the seam ray a picture that shows it is on the screen, in Chromium.

Each move waits for its own picture, as a slow hand would; the time runs from the event in the page to the frame after the new
picture was decoded and put in place.
"""

from __future__ import annotations

import os
import re
import socket
import statistics
import subprocess
import sys
import tempfile
from pathlib import Path

from PIL import Image
from playwright.sync_api import sync_playwright

from benchmarks.plain import detailed_photo

ROOT = Path(__file__).resolve().parents[1]
FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-sync"]
WATCH = """() => {
  const before = document.querySelector('.stage img').src;
  window.waiting = new Promise((done) => addEventListener('pointermove', (event) => {
    const began = performance.now();
    const look = () => document.querySelector('.stage img').src !== before
      ? requestAnimationFrame(() => done(performance.now() - began)) : requestAnimationFrame(look);
    look();
  }, { once: true, capture: true }));
}"""


def measure(moves: int = 30) -> dict[str, float]:
    """Return median and worst of many moves, in milliseconds."""
    var = tempfile.mkdtemp()
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    environment = {**os.environ, "CARACOL_VAR": var, "DJANGO_SETTINGS_MODULE": "caracol.studio.settings"}
    environment.pop("CARACOL_TASKS", None)
    subprocess.run([sys.executable, "manage.py", "migrate", "--verbosity", "0"], cwd=ROOT, env=environment, check=True)
    server = subprocess.Popen(
        [sys.executable, "-m", "caracol.studio.serve", "--port", str(port)], cwd=ROOT, env=environment, stdout=subprocess.PIPE, text=True
    )
    assert server.stdout is not None
    next(line for line in server.stdout if "open at" in line)
    photo = Path(var) / "bench.jpg"
    Image.fromarray(detailed_photo(1500, 4500)).save(photo, quality=92)
    try:
        with sync_playwright() as play:
            browser = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.set_default_timeout(60_000)
            page.goto(f"http://127.0.0.1:{port}/")
            page.locator("input[type=file]").set_input_files(str(photo))
            page.get_by_label("Start a piece").get_by_role("button", name=re.compile("^Planet")).click()
            page.get_by_role("button", name=re.compile("Ring$")).first.click()
            page.locator('.stage[data-settled="yes"]').wait_for()
            page.wait_for_timeout(1500)
            knob = page.locator(".knob", has=page.locator("title", has_text="Seam ray")).locator("circle.dot").bounding_box()
            assert knob is not None
            x, y = knob["x"] + knob["width"] / 2, knob["y"] + knob["height"] / 2
            page.mouse.move(x, y)
            page.mouse.down()
            times = []
            for step in range(moves):
                page.evaluate(WATCH)
                page.mouse.move(x + 6 * (step + 1), y - 2 * step)
                times.append(float(page.evaluate("window.waiting")))
            page.mouse.up()
            browser.close()
    finally:
        server.terminate()
        server.wait()
    return {"median_ms": round(statistics.median(times), 1), "worst_ms": round(max(times), 1), "moves": moves}
