"""Pointer to picture: how long after a pointer move on the seam ray a picture that shows it is on the screen, in Chromium.

The hand goes on four times a second, so that each move has its own picture; the time runs from the event in the page to the frame after
the new picture was decoded and put in place.
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
from typing import Any

from PIL import Image
from playwright.sync_api import Page, sync_playwright

from benchmarks.plain import detailed_photo

ROOT = Path(__file__).resolve().parents[1]
FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-sync"]
WATCH = """() => {
  window.log = [];
  const fetched = window.fetch;
  window.fetch = async (...asked) => {
    if (!String(asked[0]).endsWith('/api/v1/previews')) return fetched(...asked);
    const look = { sent: performance.now(), size: JSON.parse(asked[1].body).size };
    window.log.push(look);
    const answer = await fetched(...asked);
    look.answered = performance.now();
    look.server = Number((answer.headers.get('Server-Timing') ?? '').split('dur=')[1]);
    return answer;
  };
  new MutationObserver(() => requestAnimationFrame(() => window.log.push({ shown: performance.now() })))
    .observe(document.querySelector('.stage'), { subtree: true, attributes: true, attributeFilter: ['src'] });
  addEventListener('pointermove', () => window.log.push({ moved: performance.now() }), { capture: true });
}"""
WARM = 12_000
PAUSE = 250
"""Milliseconds: until what a start loads beside it is loaded, and from move to move."""


def measure(moves: int = 100) -> dict[str, Any]:
    """Return median and worst of many moves in milliseconds, in parts, after everything is warm."""
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
            page.wait_for_timeout(WARM)
            knob = page.locator(".knob", has=page.locator("title", has_text="Seam ray")).locator("circle.dot").bounding_box()
            assert knob is not None
            x, y = knob["x"] + knob["width"] / 2, knob["y"] + knob["height"] / 2
            page.mouse.move(x, y)
            page.mouse.down()
            page.evaluate(WATCH)
            for step in range(moves):
                page.mouse.move(x + 4 * (step % 40 + 1), y - 1.5 * (step % 40))
                page.wait_for_timeout(PAUSE)
            log = page.evaluate("window.log")
            page.mouse.up()
            rounds = melt_rounds(page)
            browser.close()
    finally:
        server.terminate()
        server.wait()
    return {**parts_of(log), "melt_rounds_a_second": rounds}


def melt_rounds(page: Page) -> float:
    """Return how many rounds of a melt are seen a second while it plays, at the size the Bench draws drafts of the planet."""
    page.get_by_role("button", name="Add a step at place 4").click()
    page.get_by_label("Search steps").fill("Slow melt")
    page.get_by_role("button", name=re.compile("^Slow melt")).first.click()
    page.locator('.stage[data-settled="yes"]').wait_for()
    page.get_by_role("button", name="From the start").click()
    told = page.get_by_role("status").filter(has_text="round")
    counted = []
    for _ in range(2):
        page.wait_for_timeout(2_000)
        counted.append((int(told.inner_text().split()[-1]), page.evaluate("performance.now()")))
    (first, begun), (last, ended) = counted
    return round((last - first) / (ended - begun) * 1000, 1)


def parts_of(log: list[dict[str, float]]) -> dict[str, Any]:
    """Return what lay between each move and the picture that shows it."""
    parts: dict[str, list[float]] = {"to_request": [], "look_in_server": [], "to_answer": [], "to_show": [], "pointer_to_picture": []}
    for look in (entry for entry in log if "answered" in entry):
        moved = [entry["moved"] for entry in log if entry.get("moved", 1e12) <= look["sent"]]
        shown = [entry["shown"] for entry in log if entry.get("shown", 0) >= look["answered"]]
        if moved and shown:
            spans = (
                look["sent"] - moved[-1],
                look["server"],
                look["answered"] - look["sent"],
                shown[0] - look["answered"],
                shown[0] - moved[-1],
            )
            for part, span in zip(parts.values(), spans, strict=True):
                part.append(span)
    sizes = [int(look["size"]) for look in log if "answered" in look]
    told = {name: {"median_ms": round(statistics.median(part), 1), "worst_ms": round(max(part), 1)} for name, part in parts.items()}
    return {**told, "moves": len(parts["to_request"]), "sizes": {size: sizes.count(size) for size in sorted(set(sizes))}}
