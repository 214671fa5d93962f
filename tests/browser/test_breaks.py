"""Breaking by hand: bars, runs, melts, keep areas, rolls; seen as pixels."""

from __future__ import annotations

import re

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from .bench import Bench, difference
from .test_layers import trace


def shift_of(moved: np.ndarray, still: np.ndarray) -> int:
    """Return by how many columns a plane is moved right: the peak of its cross-correlation."""
    spectrum = (np.fft.rfft(moved - moved.mean(), axis=1) * np.conj(np.fft.rfft(still - still.mean(), axis=1))).sum(axis=0)
    peak = int(np.fft.irfft(spectrum, n=moved.shape[1]).argmax())
    return peak - moved.shape[1] if peak > moved.shape[1] // 2 else peak


def only_bar(bench: Bench, page: Page) -> tuple[float, float, float]:
    """Draw one bar across the picture, a quarter of its height high, a quarter down, and nothing else; return its middle and the width."""
    bench.add("Torn slices")
    page.get_by_label("Thin bars, number").fill("0")
    page.get_by_label("Wide bars, number").fill("0")
    page.get_by_role("button", name="New bar").click()
    box = bench.place()
    x, y, width, height = (box[name] for name in ("x", "y", "width", "height"))
    trace(page, (x + 1, y + height * 0.25), (x + width - 1, y + height * 0.5))
    page.keyboard.press("Escape")  # the tool stays in the hand until it is put away
    bench.settle()
    return x + width / 2, y + height * 0.375, width


def test_one_bar_is_dragged_and_only_it_moves(plain: Bench, page: Page) -> None:
    before = plain.picture()
    x, y, width = only_bar(plain, page)
    assert difference(plain.picture(), before) < 1.5
    page.mouse.move(x, y)
    page.mouse.down()
    for share in (0.3, 0.6, 1.0):
        page.mouse.move(x + share * width * 0.1, y + share * 30)
    page.mouse.up()
    (bar,) = plain.settings("slices")["bars"]
    assert bar["shift"] == pytest.approx(0.1, abs=0.004)
    assert bar["drop"] == 0  # level, however the hand went
    after = plain.picture()
    rows, cols = after.shape[:2]
    inside, above, below = slice(int(rows * 0.27), int(rows * 0.48)), slice(0, int(rows * 0.24)), slice(int(rows * 0.52), rows)
    assert shift_of(after[inside, ..., 1], before[inside, ..., 1]) == pytest.approx(cols * 0.1, abs=2)
    assert difference(after[above], before[above]) < 1.5
    assert difference(after[below], before[below]) < 1.5
    page.keyboard.press("Control+z")
    assert difference(plain.picture(), before) < 1.5


def test_bars_leave_their_level_split_and_go(plain: Bench, page: Page) -> None:
    x, y, _ = only_bar(plain, page)
    page.keyboard.down("Alt")
    trace(page, (x, y), (x + 20, y + 40))
    page.keyboard.up("Alt")
    (bar,) = plain.settings("slices")["bars"]
    assert bar["drop"] > 0.03
    page.get_by_label("Bars").get_by_role("button", name="Split").click()
    assert len(plain.settings("slices")["bars"]) == 2
    page.get_by_label("Bar 1", exact=True).focus()
    page.keyboard.press("Shift+ArrowRight")
    moved, other = plain.settings("slices")["bars"]
    assert moved["shift"] == pytest.approx(other["shift"] + 0.02, abs=1e-6)
    page.keyboard.press("Delete")
    assert plain.settings("slices")["bars"] == [other]


def test_locked_bars_stay_when_the_others_are_drawn_again(plain: Bench, page: Page) -> None:
    plain.add("Torn slices")
    page.get_by_label("Bar 3", exact=True).focus()
    page.get_by_label("Bars").get_by_role("button", name="Lock").click()
    first = plain.settings("slices")["bars"]
    page.get_by_role("button", name="New random, keep locked").click()
    expect(page.get_by_label("Bars").get_by_text(f"{len(first)} kept, 1 locked")).to_be_visible()
    expect(page.get_by_label(f"Bar {len(first)}, locked")).to_be_visible()
    again = plain.settings("slices")["bars"]
    assert len(again) == len(first)
    assert again[-1] == first[2]
    assert {bar["top"] for bar in first} & {bar["top"] for bar in again} == {first[2]["top"]}


def test_a_keep_area_halves_the_shift(plain: Bench, page: Page) -> None:
    before = plain.picture()
    plain.add("Red aside")
    page.get_by_label("Red across, number").fill("0.3")
    page.get_by_role("button", name="The photo").click()
    plain.settle()
    page.get_by_label("Keep areas").get_by_role("button", name="Draw one").click()
    page.get_by_role("button", name="Rectangle", exact=True).click()
    box = plain.place()
    x, y, width, height = (box[name] for name in ("x", "y", "width", "height"))
    trace(page, (x + 2, y + 2), (x + width / 2, y + height - 2))
    page.get_by_label("Protection, number").fill("50")
    page.get_by_label("Protection, number").press("Enter")
    plain.choose("Channel split")
    expect(page.get_by_label("Keep areas")).to_be_visible()  # its outline, over the picture
    after = plain.picture()
    cols = after.shape[1]
    whole = after.shape[0] / 2 * 0.3
    left, right = slice(int(cols * 0.06), int(cols * 0.4)), slice(int(cols * 0.62), int(cols * 0.95))
    assert shift_of(after[:, left, 0], before[:, left, 0]) == pytest.approx(whole / 2, abs=2)
    assert shift_of(after[:, right, 0], before[:, right, 0]) == pytest.approx(whole, abs=2)
    (area,) = plain.saved()["layers"][0]["source"]["keep"]
    assert area["weight"] == 0.5


def test_runs_are_shown_while_a_threshold_is_dragged(plain: Bench, page: Page) -> None:
    plain.add("Sorted rain")
    handle = page.get_by_role("slider", name="From", exact=True)
    box = handle.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + 18, box["y"] + box["height"] / 2, steps=4)
    expect(page.locator(".stage img.veil")).to_be_visible()
    page.mouse.up()
    expect(page.locator(".stage img.veil")).to_be_hidden()
    plain.settle()
    page.get_by_role("button", name="Show sorted stretches").click()
    expect(page.locator(".stage img.veil")).to_be_visible()
    assert plain.settings("pixel-sort")["low"] > 0.35


def test_a_melt_is_played_changed_on_the_way_and_replays(plain: Bench, page: Page) -> None:
    plain.add("Slow melt")
    page.get_by_role("button", name="From the start").click()
    rounds = page.get_by_role("status").filter(has_text=re.compile(r"^round \d+$"))
    expect(rounds).to_have_text(re.compile("round ([5-9]|[1-9][0-9])"))
    page.get_by_role("slider", name="Threshold").press("ArrowRight")
    expect(page.get_by_label("Changes along the way").get_by_text(re.compile("^from "))).to_be_visible()
    # The arrow on the picture too holds from there on, and leaves what was before.
    x, y = plain.at(plain.knob("Flow"))
    trace(page, (x, y), (x + 60, y))
    page.get_by_role("button", name="Stop").click()
    found = plain.settings("melt")
    assert [key["threshold"] for key in found["keys"] if key["threshold"] is not None] == [pytest.approx(0.31)]
    assert any(key["push"] for key in found["keys"])
    assert (found["heading"], found["push"]) == (0.5, 0.016)
    assert 5 <= found["keys"][0]["round"] <= found["rounds"] + 1
    played = plain.picture()
    page.reload()
    plain.choose("Melt")
    assert np.array_equal(plain.picture(), played)
    # History outlives the reload: the last act is taken back and done again.
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="Redo", exact=True)).to_be_enabled()
    assert plain.settings("melt") != found
    page.keyboard.press("Control+Shift+z")
    expect(page.get_by_role("button", name="Redo", exact=True)).to_be_disabled()
    assert plain.settings("melt") == found
    assert np.array_equal(plain.picture(), played)


def test_rolling_keeps_and_uses_a_variant(plain: Bench, page: Page) -> None:
    plain.add("Loose pieces")
    before = plain.picture()
    page.keyboard.press("l")
    sheet = page.get_by_label("Roll", exact=True)
    expect(sheet.locator("img")).to_have_count(12)
    sheet.get_by_role("button", name="Save version").nth(2).click()
    expect(sheet.get_by_role("button", name="Saved")).to_have_count(1)
    sheet.get_by_role("button", name="Variant 5, larger").click()
    expect(sheet.get_by_text(re.compile("^Slices: "))).to_be_visible()
    sheet.get_by_role("button", name="Use").click()
    expect(sheet).to_be_hidden()
    assert difference(plain.picture(), before) > 2
    assert plain.settings("slices")["seed"] != 1
    page.keyboard.press("v")
    expect(page.get_by_label("Versions").get_by_text(re.compile("^Roll "))).to_be_visible()
    page.keyboard.press("v")
    page.keyboard.press("Control+z")
    assert np.array_equal(plain.picture(), before)
