"""A walk at random over the Bench: sensible gestures from a seed, and after each what must always hold."""

from __future__ import annotations

import io
import json
import random
import re
from collections.abc import Callable
from typing import Any
from urllib.request import Request, urlopen

import numpy as np
from PIL import Image
from playwright.sync_api import ConsoleMessage, Error, Locator, expect
from tests.api import Api
from tests.browser.bench import Bench, difference

WORDS = ("twirl", "wave", "tunnel", "halftone", "negative", "grain", "blur", "slices", "emboss", "mirror", "pixel sort", "fog")
KEYS = (
    "a", "b", "c", "e", "f", "g", "l", "n", "m", "p", "r", "s", "v", "x", "0", "1", "2", "+", "-", "[", "]", ",", ".", "Delete",
    "Escape", "Control+c", "Control+v", "Control+z", "Control+Shift+z", "Shift+?", "Tab", "ArrowLeft", "ArrowUp", "Space", "Enter",
)  # fmt: skip
# What leads away from the Bench or out of the browser is walked by gestures of its own.
LEFT_ALONE = re.compile(r"Export|Download|Shelf|file|Add photos|photo of|Save to the Shelf|Open the|Use the other|Copy$")
PANELS = {"e": "Export", "v": "Versions"}
"""What keys open, and put away again."""
NEAR = 40.0
"""Decibels between two pictures that are the same but for their packing."""
PACKED = 34.0
"""The same between two files of different formats."""


class Fault(AssertionError):
    """Something that must always hold does not; the walk's seed and gestures say how it came to be."""


def decibels(a: np.ndarray, b: np.ndarray) -> float:
    """Return how alike two pictures of 0…255 are; 0 where their shapes differ."""
    if a.shape != b.shape:
        return 0.0
    error = float(((a.astype(float) - b) ** 2).mean())
    return 99.0 if error == 0 else float(10 * np.log10(255**2 / error))


def fetched(request: Request | str, on_paper: bool) -> np.ndarray:
    """Return a picture that the server gives, (rows, cols, 3), 0…255: as it looks on white paper, or with its transparency left out."""
    with urlopen(request, timeout=120) as answer:
        picture = Image.open(io.BytesIO(answer.read())).convert("RGBA")
    if not on_paper:
        return np.asarray(picture.convert("RGB"))
    return np.asarray(Image.alpha_composite(Image.new("RGBA", picture.size, "white"), picture).convert("RGB"))


class Walk:
    """One walk over one piece."""

    def __init__(self, bench: Bench, address: str, piece: dict[str, Any], seed: int) -> None:
        self.bench, self.page, self.api = bench, bench.page, Api(address)
        self.piece, self.seed = piece, seed
        self.rng = random.Random(seed)
        self.done: list[str] = []
        self.errors: list[str] = []
        self.page.on("pageerror", lambda error: self.errors.append(str(error)))
        self.page.on("console", self._hear)
        self.gestures: list[Callable[[], str]] = [
            self.slide, self.slide, self.pull, self.pull, self.press, self.press, self.press, self.key, self.key, self.key, self.choose,
            self.find, self.type, self.switch, self.draw, self.draw, self.wheel, self.back, self.reload, self.leave, self.resize,
        ]  # fmt: skip

    def _hear(self, message: ConsoleMessage) -> None:
        # A look that a newer one overtakes is refused, which browsers write down.
        if message.type == "error" and "Failed to load resource" not in message.text:
            self.errors.append(message.text)

    def go(self, count: int, every: int = 10) -> None:
        """Do so many gestures; the piece as a whole is checked after every few of them."""
        self.bench.open(self.piece)
        self.first = self.saved()
        for number in range(1, count + 1):
            gesture = self.rng.choice(self.gestures)
            try:
                self.done.append(gesture())
            except Error as error:
                self.done.append(f"{gesture.__name__} not done: {str(error).splitlines()[0]}")
            self.holds()
            if number % every == 0:
                self.whole()

    def fault(self, what: str) -> Fault:
        return Fault(f"seed {self.seed}: {what}\n" + "\n".join(self.done[-15:]))

    def saved(self) -> dict[str, Any]:
        """Wait until all is saved, and return the document that is."""
        expect(self.page.get_by_role("status").filter(has_text=re.compile("^Saved"))).to_be_visible()
        return dict(self.api.call("GET", f"pieces/{self.piece['id']}")["document"])

    # Gestures: each says what it did.

    def _one(self, some: Locator) -> Locator:
        count = some.count()
        if not count:
            raise Error("nothing there")
        return some.nth(self.rng.randrange(count))

    def slide(self) -> str:
        slider = self._one(self.page.locator(".bench-side [role=slider]"))
        slider.scroll_into_view_if_needed(timeout=1000)
        box = slider.bounding_box()
        assert box is not None
        x, y, by = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2, self.rng.randint(-60, 60)
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + by / 2, y)
        self.page.mouse.move(x + by, y)
        self.page.mouse.up()
        return f"slide {slider.get_attribute('aria-label')} by {by}"

    def pull(self) -> str:
        knob = self._one(self.page.locator(".stage .knob"))
        x, y = self.bench.at(knob)
        dx, dy = self.rng.randint(-90, 90), self.rng.randint(-90, 90)
        name = knob.get_attribute("aria-label")
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + dx / 2, y + dy / 2)
        self.page.mouse.move(x + dx, y + dy)
        self.page.mouse.up()
        return f"pull {name} by {dx}, {dy}"

    def press(self) -> str:
        button = self._one(self.page.locator("main button:visible, main [role=radio]:visible, header button:visible"))
        name = button.get_attribute("aria-label") or button.text_content() or ""
        if LEFT_ALONE.search(name):
            return f"leave {name} alone"
        button.click(timeout=1500)
        return f"press {name}"

    def key(self) -> str:
        key = self.rng.choice(KEYS)
        self.page.keyboard.press(key)
        return f"key {key}"

    def choose(self) -> str:
        step = self._one(self.page.locator(".trail .pick"))
        step.click(timeout=1500)
        return f"choose {step.get_attribute('aria-label')}"

    def find(self) -> str:
        word = self.rng.choice(WORDS)
        self.page.keyboard.press("Escape")
        self.page.keyboard.press("a")
        self.page.get_by_label("Search steps").fill(word, timeout=1500)
        self.page.keyboard.press("ArrowDown")
        self.page.keyboard.press(self.rng.choice(("Enter", "Enter", "Escape")))
        return f"find {word}"

    def type(self) -> str:
        box = self._one(self.page.locator(".bench-side input[role=spinbutton]"))
        number = round(self.rng.uniform(-2, 6), 2)
        box.fill(str(number), timeout=1500)
        self.page.keyboard.press(self.rng.choice(("Enter", "Tab", "Escape")))
        return f"type {number} into {box.get_attribute('aria-label')}"

    def switch(self) -> str:
        one = self._one(self.page.locator(".trail [role=switch]"))
        one.click(timeout=1500)
        return f"switch {one.get_attribute('aria-label')}"

    def draw(self) -> str:
        """Drag over the picture, with whatever the hand holds; sometimes with Space or the middle button, which pan."""
        box = self.page.locator(".stage").bounding_box()
        assert box is not None
        ends = [(box["x"] + box["width"] * self.rng.random(), box["y"] + box["height"] * self.rng.random()) for _ in range(3)]
        how = self.rng.choice(("", "", "Space", "middle"))
        if how == "Space":
            self.page.keyboard.down("Space")
        self.page.mouse.move(*ends[0])
        self.page.mouse.down(button="middle" if how == "middle" else "left")
        for end in ends[1:]:
            self.page.mouse.move(*end)
        self.page.mouse.up(button="middle" if how == "middle" else "left")
        if how == "Space":
            self.page.keyboard.up("Space")
        return f"draw {how} through {[(round(x), round(y)) for x, y in ends]}"

    def wheel(self) -> str:
        by = self.rng.choice((-240, -120, 120, 240))
        self.page.mouse.move(300, 300)
        self.page.mouse.wheel(0, by)
        return f"wheel {by}"

    def back(self) -> str:
        count = self.rng.randint(1, 6)
        for _ in range(count):
            self.page.keyboard.press(self.rng.choice(("Control+z", "Control+z", "Control+Shift+z")))
        return f"back and forth {count} times"

    def reload(self) -> str:
        self.saved()
        self.page.reload()
        return "reload"

    def leave(self) -> str:
        self.page.goto("/")
        self.page.get_by_role("link", name=f"Open {self.piece['name']}").first.click(timeout=5000)
        return "leave and come back"

    def resize(self) -> str:
        width, height = self.rng.choice(((1280, 800), (1024, 700), (900, 600)))
        self.page.set_viewport_size({"width": width, "height": height})
        return f"window {width}×{height}"

    # What must always hold.

    def holds(self) -> None:
        """After each gesture: no error, no scrolled document, and a picture that comes to rest."""
        if self.errors:
            raise self.fault("errors: " + "; ".join(self.errors)[:600])
        page = self.page
        if "/bench/" not in page.url:
            page.goto(f"/bench/{self.piece['id']}")
        try:
            expect(page.locator('.stage[data-settled="yes"]')).to_be_visible(timeout=60_000)
        except AssertionError:
            raise self.fault("the picture never comes to rest") from None
        grown = page.evaluate(
            "[document.scrollingElement.scrollHeight - innerHeight, document.scrollingElement.scrollWidth - innerWidth, scrollX, scrollY]"
        )
        if max(grown) > 0:
            raise self.fault(f"the document scrolls: {grown}")

    def whole(self) -> None:
        """Now and then: keys answer, the piece that is saved is the one that is shown, and undoing everything gives what there was."""
        page = self.page
        for _ in range(3):
            page.keyboard.press("Escape")
        page.keyboard.press("Shift+?")
        try:
            expect(page.get_by_role("dialog", name="Shortcuts")).to_be_visible(timeout=5000)
        except AssertionError:
            raise self.fault("a key is dead: ?") from None
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog", name="Shortcuts")).to_be_hidden()
        for key, opened in PANELS.items():
            panel = page.get_by_role("complementary", name=opened)
            try:
                for seen in (True, False):
                    page.keyboard.press(key)
                    expect(panel).to_be_visible(visible=seen, timeout=5000)
            except AssertionError:
                raise self.fault(f"a key is dead: {key}") from None
        self.seen_is_saved()
        undo, redo = page.get_by_role("button", name="Undo", exact=True), page.get_by_role("button", name="Redo", exact=True)
        after = self.saved()
        count = 0
        while undo.is_enabled() and count < 500:
            page.keyboard.press("Control+z")
            count += 1
        if self.saved()["layers"] != self.first["layers"]:
            raise self.fault("undoing everything gives another document than the first")
        for _ in range(count):
            if redo.is_enabled():
                page.keyboard.press("Control+Shift+z")
        if self.saved()["layers"] != after["layers"]:
            raise self.fault("redoing everything gives another document than before")

    def seen_is_saved(self) -> None:
        """The settled picture of the finished piece is what the core renders of what is saved."""
        page = self.page
        bar = page.get_by_role("toolbar", name="View")
        for name in ("Split line", "Side by side"):
            pressed = bar.get_by_role("button", name=name, exact=True)
            if pressed.count() and pressed.get_attribute("aria-pressed") == "true":
                pressed.click()
        for link in ("Show all", "All of it"):
            if page.get_by_role("button", name=link, exact=True).count():
                page.get_by_role("button", name=link, exact=True).click()
        page.keyboard.press("f")
        page.keyboard.press("0")
        document = self.saved()
        shown = self.bench.picture()
        rendered = self.rendered(document | {"frame": (document.get("frame") or {}) | {"box": None}}, max(shown.shape[:2]))
        if decibels(rendered, shown) < NEAR:
            raise self.fault(
                f"what is shown is not what is saved: {decibels(rendered, shown):.1f} dB, {difference(rendered.astype(int), shown):.1f}"
            )

    def rendered(self, document: dict[str, Any], size: int, on_paper: bool = False) -> np.ndarray:
        """Return a document as the core renders it now."""
        body = json.dumps({"document": document, "size": size})
        return fetched(Request(f"{self.api.address}/api/v1/previews", body.encode(), {"Content-Type": "application/json"}), on_paper)

    def delivered(self) -> None:
        """At the end: the file that the panel makes is the piece as it is saved."""
        page = self.page
        for _ in range(3):
            page.keyboard.press("Escape")
        document = self.saved()
        page.keyboard.press("e")
        panel = page.get_by_role("complementary", name="Export")
        panel.get_by_role("button", name=re.compile("^Export (JPEG|PNG|WebP)")).click()
        link = panel.get_by_role("link", name=re.compile("^Download")).first
        expect(link).to_be_visible(timeout=240_000)
        file = fetched(f"{self.api.address}{link.get_attribute('href')}", on_paper=True)
        rendered = self.rendered(document, max(file.shape[:2]), on_paper=True)
        # Reduced, so that noise which two formats pack unlike is no difference.
        alike = decibels(*(np.asarray(Image.fromarray(one).reduce(4)) for one in (rendered, file)))
        if alike < PACKED:
            raise self.fault(f"the delivered file is not the piece: {alike:.1f} dB, {file.shape}, {rendered.shape}")
