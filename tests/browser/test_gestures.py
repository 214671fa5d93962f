"""How many gestures five jobs take. A gesture is a press, a drag, or a word that is typed and entered. The numbers may only fall."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Locator, Page

from .bench import Bench


class Hand:
    """A hand whose gestures are counted."""

    def __init__(self, bench: Bench) -> None:
        self.bench = bench
        self.page = bench.page
        self.count = 0

    def press(self, what: Locator) -> None:
        what.click()
        self.count += 1

    def key(self, key: str) -> None:
        self.page.keyboard.press(key)
        self.count += 1

    def enter(self, words: str) -> None:
        self.page.get_by_label("Search steps").fill(words)
        self.page.get_by_label("Search steps").press("Enter")
        self.bench.settle()
        self.count += 1

    def draw(self, start: tuple[float, float], end: tuple[float, float]) -> None:
        mouse = self.page.mouse
        mouse.move(*start)
        mouse.down()
        mouse.move((start[0] + end[0]) / 2, (start[1] + end[1]) / 2)
        mouse.move(*end)
        mouse.up()
        self.bench.settle()
        self.count += 1

    def button(self, name: str) -> Locator:
        return self.page.get_by_role("button", name=re.compile(f"^{name}"))

    def start(self, photo: Path, name: str) -> None:
        self.press(self.page.locator(".card", has_text=photo.stem).last)
        self.press(self.page.get_by_label("Start a piece").get_by_role("button", name=re.compile(f"^{name}")))
        self.bench.settle()

    def kinds(self) -> list[str]:
        return [step["kind"] for step in self.bench.saved()["layers"][0]["steps"]]


@pytest.fixture
def hand(page: Page, var: Path, photo: Path) -> Hand:
    """Return a hand on a Shelf that has the photo."""
    bench = Bench(page, var)
    bench.upload(photo)
    page.reload()
    return Hand(bench)


@pytest.fixture
def on_bench(plain: Bench) -> Hand:
    """Return a hand on the Bench of a photo without steps."""
    return Hand(plain)


def test_planet_from_a_panorama(hand: Hand, photo: Path) -> None:
    hand.start(photo, "Planet")
    assert "ring" in hand.kinds()
    assert hand.count <= 2


def test_planet_with_a_better_loop(hand: Hand, photo: Path) -> None:
    hand.start(photo, "Planet")
    hand.press(hand.button("The photo"))
    hand.press(hand.button("Trim to"))
    hand.bench.settle()
    assert {"crop", "ring"} <= set(hand.kinds())
    assert hand.count <= 4


def test_two_ghosts_with_lines(on_bench: Hand) -> None:
    for words in ("two ghosts", "fine screen"):
        on_bench.key("a")
        on_bench.enter(words)
    assert on_bench.kinds() == ["ghosts", "scan-lines"]
    assert on_bench.count <= 4


def test_torn_bars_with_a_kept_face(on_bench: Hand) -> None:
    hand = on_bench
    hand.key("a")
    hand.enter("torn bars")
    hand.press(hand.button("The photo"))
    hand.bench.settle()
    hand.press(hand.button("Draw one"))
    box = hand.bench.place()
    x, y = box["x"] + box["width"] * 0.4, box["y"] + box["height"] * 0.3
    hand.draw((x, y), (x + 90, y + 110))
    hand.key("f")
    hand.bench.settle()
    assert hand.kinds() == ["slices"]
    (area,) = hand.bench.saved()["layers"][0]["source"]["keep"]
    assert area["where"]["shapes"][0]["kind"] == "ellipse"
    assert hand.count <= 8


def test_inside_out_turned_and_contrasted(hand: Hand, photo: Path) -> None:
    hand.start(photo, "Inside-out")
    before = hand.bench.settings("ring")["seam"]
    box = hand.bench.place()
    hand.draw(hand.bench.at(hand.bench.knob("Seam")), (box["x"] + box["width"] * 0.9, box["y"] + box["height"] / 2))
    assert hand.bench.settings("ring")["seam"] != before
    hand.key("a")
    hand.enter("clearer")
    assert hand.kinds()[-2:] == ["ring", "tone"]
    assert hand.count <= 5
