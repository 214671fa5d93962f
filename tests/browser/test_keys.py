"""Keys: alive after whatever was pressed, Escape back to the picture, a planet from the start page without a pointer."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from .bench import Bench
from .test_layers import trace


def focused(page: Page) -> str:
    """Return what has the focus, by its name or its class."""
    return str(page.evaluate("() => document.activeElement.ariaLabel ?? document.activeElement.className"))


def after_slider(page: Page) -> None:
    box = page.get_by_role("slider", name="Size").bounding_box()
    assert box is not None
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    trace(page, (x, y), (x - 30, y))
    assert focused(page) == "Size"


def after_choice(page: Page) -> None:
    page.get_by_role("radiogroup", name="In the middle").get_by_text("Sky").click()


def after_number(page: Page) -> None:
    page.get_by_label("Size, number").fill("1.2")
    page.keyboard.press("Enter")


@pytest.mark.parametrize("hand", [after_slider, after_choice, after_number])
def test_every_key_answers_whatever_was_pressed(bench: Bench, page: Page, hand) -> None:  # type: ignore[no-untyped-def]
    bench.choose("Ring")
    before = bench.settings("ring")
    hand(page)
    assert bench.settings("ring") != before
    page.keyboard.press("Control+z")
    assert bench.settings("ring") == before
    hand(page)
    # The key that opened it closes it.
    for key, name in (("e", "Export"), ("v", "Versions"), ("l", "Roll"), ("Shift+?", "Shortcuts")):
        place = page.get_by_role("dialog" if name == "Shortcuts" else "complementary" if name != "Roll" else "region", name=name)
        page.keyboard.press(key)
        expect(place).to_be_visible()
        page.keyboard.press(key)
        expect(place).to_be_hidden()
    hand(page)
    page.keyboard.press("a")
    expect(page.get_by_label("Search steps")).to_be_focused()
    page.keyboard.press("Escape")
    expect(page.get_by_label("Search steps")).to_be_hidden()
    assert focused(page) == "Picture"
    hand(page)
    page.keyboard.press("x")
    expect(page.get_by_role("switch", name="Ring on")).not_to_be_checked()
    page.keyboard.press("x")
    page.keyboard.press(".")
    expect(page.get_by_role("status", name="Selected")).to_have_text("Rim, step 3 of 3")
    page.keyboard.press("Delete")
    expect(page.get_by_role("button", name="Step 3, Rim")).to_be_hidden()
    page.keyboard.press("f")
    expect(page.get_by_role("status", name="Selected")).to_have_text("The whole piece")


def test_escape_leaves_a_box_then_what_stands_beside_the_picture(bench: Bench, page: Page) -> None:
    page.keyboard.press("e")
    page.get_by_label("Longer side in pixels").click()
    page.keyboard.press("Escape")
    assert focused(page) == "Picture"
    expect(page.get_by_role("complementary", name="Export")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("complementary", name="Export")).to_be_hidden()
    # A variant looked at large leads back to the twelve, wherever the focus is.
    page.keyboard.press("l")
    page.get_by_role("button", name="Variant 3, larger").click()
    page.keyboard.press("Escape")
    expect(page.get_by_role("button", name="Variant 3, larger")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("region", name="Roll")).to_be_hidden()


def test_a_row_of_arrows_is_one_undo_and_enter_types_the_number(bench: Bench, page: Page) -> None:
    bench.choose("Ring")
    first = bench.settings("ring")
    page.get_by_role("slider", name="Size").focus()
    for _ in range(4):
        page.keyboard.press("ArrowRight")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Size, number")).to_be_focused()
    page.keyboard.type("2.5")
    page.keyboard.press("Enter")
    assert focused(page) == "Size"
    assert bench.settings("ring")["reach"] == pytest.approx(2.5)
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    assert bench.settings("ring") == first


def test_keys_are_explained_on_one_screen_and_found(bench: Bench, page: Page) -> None:
    page.keyboard.press("Shift+?")
    dialog = page.get_by_role("dialog", name="Shortcuts")
    expect(dialog.get_by_role("heading").nth(0)).to_have_text("Undo, copy, repeat")
    page.wait_for_function("() => document.activeElement.ariaLabel === 'Search shortcuts'")
    ends = dialog.locator("dd").evaluate_all("(all) => all.map((one) => one.getBoundingClientRect()).map((box) => [box.right, box.bottom])")
    assert max(right for right, _ in ends) < 1280
    assert max(bottom for _, bottom in ends) < 800
    page.keyboard.type("brush softer")
    expect(dialog.locator("dt")).to_have_text(["Shift + N"])
    page.keyboard.press("Escape")
    expect(dialog).to_be_hidden()


def test_a_planet_by_keys_alone(page: Page, photo: Path, var: Path) -> None:
    bench = Bench(page, var)
    bench.upload(photo)
    page.goto("/")
    expect(page.get_by_role("complementary", name=re.compile("^Photo "))).to_be_visible()
    presses = 0

    def press(key: str) -> None:
        nonlocal presses
        presses += 1
        page.keyboard.press(key)

    press("Tab")
    assert page.evaluate("() => document.activeElement.textContent") == "To the photos"
    press("Enter")
    press("ArrowRight")
    press("ArrowLeft")
    press("Enter")
    expect(page.locator(".starts :focus")).to_be_visible()
    press("Home")
    while page.evaluate("() => document.activeElement.dataset.roving") != "planet":
        press("ArrowRight")
        assert presses < 20
    press("Enter")
    bench.settle()
    assert presses <= 20
    assert [step["kind"] for step in bench.saved()["layers"][0]["steps"]].count("ring") == 1


def test_what_a_key_opens_has_the_keys_and_gives_them_back(plain: Bench, page: Page) -> None:
    """E is on its button, V in its panel; the same key leads back to the picture, and so does what was taken from a sheet."""
    page.keyboard.press("e")
    button = page.get_by_role("complementary", name="Export").get_by_role("button", name="Export JPEG")
    expect(button).to_be_focused()
    # Its shapes are one stop, and arrows go from one to the next.
    shapes = page.get_by_role("radiogroup", name="Shape")
    shapes.get_by_role("radio", checked=True).focus()
    for _ in range(5):
        page.keyboard.press("ArrowRight")
    page.keyboard.press("Enter")
    expect(shapes.get_by_role("radio", name="Poster")).to_be_checked()
    page.keyboard.press("e")
    expect(page.get_by_role("region", name="Picture", exact=True)).to_be_focused()
    page.keyboard.press("v")
    assert page.evaluate("document.activeElement.closest('.bench-side') !== null")
    page.keyboard.press("v")
    page.get_by_role("button", name="+ Layer").focus()
    page.keyboard.press("Enter")
    page.get_by_label("Add a layer").get_by_role("button", name="The picture below, as a layer").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("region", name="Picture", exact=True)).to_be_focused()
