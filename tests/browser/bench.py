"""The hands of the browser tests: what a person does, and what they see as pixels."""

from __future__ import annotations

import base64
import io
import json
import re
import sqlite3
from pathlib import Path
from typing import Any

import numpy as np
from PIL import Image
from playwright.sync_api import Locator, Page, expect

READ_PICTURE = """async () => {
  const image = [...document.querySelectorAll('.stage > .picture-side img')].at(-1);
  const blob = await (await fetch(image.src)).blob();
  const bytes = new Uint8Array(await blob.arrayBuffer());
  return btoa(Array.from(bytes, (b) => String.fromCharCode(b)).join(''));
}"""


TWO_FRAMES = "() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))"
"""What a gesture changed of the stage's size is known one frame later: before, the old picture is still the wanted one."""


def difference(a: np.ndarray, b: np.ndarray) -> float:
    """Return the mean distance of two pictures, 0…255; 255 where their shapes differ."""
    return float(np.abs(a - b).mean()) if a.shape == b.shape else 255.0


class Bench:
    """One piece on the Bench."""

    def __init__(self, page: Page, var: Path) -> None:
        self.page = page
        self.var = var

    def open(self, piece: dict[str, Any]) -> Bench:
        """Open a piece and wait for its picture."""
        self.page.goto(f"/bench/{piece['id']}")
        self.settle()
        return self

    def upload(self, *files: Path) -> None:
        """Put files on the Shelf and wait until the last is chosen."""
        self.page.locator("input[type=file]").set_input_files([str(f) for f in files])
        expect(self.page.get_by_role("complementary", name=f"Photo {files[-1].stem}")).to_be_visible()

    def start(self, name: str) -> None:
        """Start a piece from the chosen photo."""
        self.page.get_by_label("Start a piece").get_by_role("button", name=re.compile(f"^{name}")).click()
        self.settle()

    def settle(self) -> None:
        """Wait until the picture is the finished one for what is set now."""
        expect(self.page.locator('.stage[data-settled="yes"]')).to_be_visible()

    def choose(self, label: str) -> None:
        """Select a step by its label and wait for its picture."""
        self.page.get_by_role("button", name=re.compile(rf"^Step \d+, {label}$")).first.click()
        self.settle()

    def add(self, name: str, place: int = 1) -> None:
        """Add a step by its name in the finder."""
        self.page.get_by_role("button", name=f"Add a step at place {place}").click()
        self.page.get_by_label("Search steps").fill(name)
        self.page.get_by_role("region", name="Add a step").get_by_role("button", name=re.compile(f"^{name}")).first.click()
        expect(self.page.get_by_label("Search steps")).to_be_hidden()
        self.settle()

    def knob(self, label: str) -> Locator:
        return self.page.locator(".knob").filter(has=self.page.locator("title", has_text=re.compile(f"^{label}$")))

    def at(self, knob: Locator) -> tuple[float, float]:
        """Return where a knob's middle is on the page."""
        box = knob.locator("circle.dot").bounding_box()
        assert box is not None
        return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2

    def drag(self, knob: Locator, to: tuple[float, float], keys: str | None = None) -> None:
        """Drag a knob to a place on the page, in several moves as a hand does."""
        x, y = self.at(knob)
        mouse = self.page.mouse
        mouse.move(x, y)
        mouse.down()
        if keys:
            self.page.keyboard.down(keys)
        for share in (0.25, 0.5, 0.75, 1.0):
            mouse.move(x + (to[0] - x) * share, y + (to[1] - y) * share)
        mouse.up()
        if keys:
            self.page.keyboard.up(keys)
        self.settle()

    def picture(self) -> np.ndarray:
        """Return the pixels of the picture that is shown, (rows, cols, 3), 0…255."""
        self.page.evaluate(TWO_FRAMES)
        self.settle()
        data = base64.b64decode(self.page.evaluate(READ_PICTURE))
        return np.asarray(Image.open(io.BytesIO(data)).convert("RGB")).astype(int)

    def alpha(self) -> np.ndarray:
        """Return how opaque the shown picture is, (rows, cols), 0…255."""
        self.page.evaluate(TWO_FRAMES)
        self.settle()
        data = base64.b64decode(self.page.evaluate(READ_PICTURE))
        return np.asarray(Image.open(io.BytesIO(data)).convert("RGBA"))[..., 3]

    def place(self) -> dict[str, float]:
        """Return where the picture lies on the page."""
        box = self.page.locator(".stage > .picture-side img").last.bounding_box()
        assert box is not None
        return dict(box)

    def saved(self) -> dict[str, Any]:
        """Wait for the autosave and return the document as the database holds it."""
        expect(self.page.get_by_role("status").filter(has_text=re.compile("^Saved"))).to_be_visible()
        piece = self.page.url.rsplit("/", 1)[1].replace("-", "")
        with sqlite3.connect(self.var / "caracol.sqlite3") as database:
            row = database.execute("select document from studio_piece where id = ?", (piece,)).fetchone()
        return dict(json.loads(row[0]))

    def settings(self, kind: str) -> dict[str, Any]:
        """Return the saved settings of the first step of a kind."""
        return dict(next(step["settings"] for step in self.saved()["layers"][0]["steps"] if step["kind"] == kind))
