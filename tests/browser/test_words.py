"""Text on the picture: written where they stand, told where they do not fit, in the colour that is shown."""

from __future__ import annotations

import re

import numpy as np
from playwright.sync_api import Page, expect

from .bench import Bench


def ink(picture: np.ndarray, ground: np.ndarray) -> np.ndarray:
    """Return the box (left, top, right, bottom) of what is not as the ground is, in shares of the picture."""
    there = np.abs(picture - ground).max(axis=-1) > 60
    rows, cols = (np.flatnonzero(there.any(axis=axis)) for axis in (1, 0))
    high, wide = there.shape
    return np.array([cols[0] / wide, rows[0] / high, (cols[-1] + 1) / wide, (rows[-1] + 1) / high])


def test_words_are_written_on_the_picture_and_made_to_fit(plain: Bench, page: Page) -> None:
    asked: list[str] = []
    page.on("request", lambda request: asked.append(request.url) if request.url.endswith("/api/v1/analyses/text-boxes") else None)
    ground = plain.picture()
    assert asked == [], "a piece without words asks for none"
    page.get_by_role("button", name="+ Layer").click()
    page.get_by_label("Add a layer").get_by_role("button", name="Text", exact=True).click()
    panel = page.get_by_role("complementary", name="Settings of the text")
    expect(panel).to_be_visible()
    left, top, right, bottom = first = ink(plain.picture(), ground)
    expect(page.locator(".words-fit")).to_be_hidden()
    assert plain.saved()["layers"][1]["source"]["ratio"] == 2

    # Beside the words a double click writes nothing; on them it opens them, all of them chosen.
    box = plain.place()
    there = (box["x"] + box["width"] * (left + right) / 2, box["y"] + box["height"] * (top + bottom) / 2)
    page.mouse.dblclick(box["x"] + box["width"] * left / 2, box["y"] + box["height"] * 0.9)
    expect(page.get_by_label("Text on the picture")).to_be_hidden()
    page.mouse.dblclick(*there)
    expect(page.get_by_label("Text on the picture")).to_be_focused()
    page.keyboard.type("Slack water at the long pier")
    words = page.get_by_role("group", name="Text", exact=True)
    expect(words).to_contain_text("The text runs past the frame: left and right.")
    edges = plain.picture()[:, [0, -1]] - ground[:, [0, -1]]
    assert np.abs(edges).max() > 60, "the words are cut, as it is said"
    words.get_by_role("button", name="Make it fit").click()
    expect(words).not_to_contain_text("run past")
    fitted = ink(plain.picture(), ground)
    assert 0.01 < fitted[0] < 0.05 < 0.95 < fitted[2] < 0.99
    page.get_by_label("Text on the picture").focus()
    page.keyboard.press("Escape")
    expect(words).to_be_hidden()
    assert plain.saved()["layers"][1]["source"]["text"] == "Slack water at the long pier"
    said = panel.get_by_role("button", name=re.compile("^Colour: #")).get_attribute("aria-label") or ""
    colour = [int(said[n : n + 2], 16) for n in (9, 11, 13)]
    left, top, right, bottom = ink(plain.picture(), ground)
    high, wide = ground.shape[:2]
    lettered = plain.picture()[int(top * high) : int(bottom * high), int(left * wide) : int(right * wide)]
    assert (np.abs(lettered - colour).max(axis=-1) <= 8).mean() > 0.15

    # Typing is one line of history, and fitting another.
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    assert np.abs(ink(plain.picture(), ground) - first).max() < 0.01

    # Also where the layer is moved by hand, whose face is set back by nothing but its panel.
    page.get_by_role("button", name=re.compile("^Layer Text\\b")).first.click()
    face = page.get_by_role("button", name="Move the layer")
    face.focus()
    page.keyboard.press("Shift+ArrowRight")
    plain.settle()
    page.mouse.dblclick(*there)
    expect(page.get_by_label("Text on the picture")).to_be_focused()
    assert plain.saved()["layers"][1]["place"]["x"] == 0.05
