"""Bends shaped by hand on the picture, seen as pixels."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from .bench import Bench, difference


def test_twirl_is_wound_by_its_arm(plain: Bench, page: Page) -> None:
    before = plain.picture()
    plain.add("Soft twirl")
    box = plain.place()
    centre = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    arm = plain.knob("Turns")
    for way in ((0, 90), (-90, 0), (0, -90), (90, 0)):
        plain.drag(arm, (centre[0] + way[0], centre[1] + way[1]))
    assert plain.settings("twirl")["turns"] == pytest.approx(1.25, abs=0.02)
    plain.drag(plain.knob("Radius"), (centre[0] + 0.5 * box["height"] / 2, centre[1]))
    assert plain.settings("twirl")["reach"] == pytest.approx(0.5, abs=0.03)
    after = plain.picture()
    rows, cols = after.shape[:2]
    middle = (slice(int(rows * 0.4), int(rows * 0.6)), slice(int(cols * 0.45), int(cols * 0.55)))
    assert difference(after[middle], before[middle]) > 5
    assert difference(after[:, : cols // 4], before[:, : cols // 4]) < 3


def test_wave_heading_length_and_height(plain: Bench, page: Page) -> None:
    before = plain.picture()
    plain.add("Switchback")
    box = plain.place()
    unit, centre = box["height"] / 2, (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    plain.drag(plain.knob("Direction"), (centre[0] + 2, centre[1] - 0.6 * unit), keys="Shift")
    assert plain.settings("wave")["heading"] in (0, 1)
    _, y = plain.at(plain.knob("Length"))
    plain.drag(plain.knob("Length"), (centre[0] + 1.0 * unit, y))
    plain.drag(plain.knob("Height"), (centre[0], centre[1] + 0.25 * unit))
    found = plain.settings("wave")
    assert found["length"] == pytest.approx(1.0, abs=0.02)
    assert found["height"] == pytest.approx(0.25, abs=0.02)
    # Pointed, heading up: the column a quarter wave right of the middle is moved up by the height.
    after = plain.picture()
    rows, cols = after.shape[:2]
    col, shift = cols // 2 + round(cols / 16), round(rows * 0.125)
    moved = difference(after[: rows - shift, col - 1 : col + 2], before[shift:, col - 1 : col + 2])
    assert moved < difference(after[:, col - 1 : col + 2], before[:, col - 1 : col + 2]) / 3


def test_row_curve_is_drawn_on_the_picture(plain: Bench, page: Page) -> None:
    before = plain.picture()
    plain.add("Swaying")
    box = plain.place()
    unit = box["height"] / 2
    plain.drag(plain.knob("Curve point 2"), (box["x"] + box["width"] / 2 + 0.5 * unit, box["y"] + 0.5 * box["height"]))
    plain.knob("Curve point 3").locator("circle").first.dblclick()
    curve = plain.settings("row-bend")["curve"]
    assert len(curve) == 3
    assert curve[1] == pytest.approx([0.5, 0.5], abs=0.02)
    after = plain.picture()
    rows, cols = after.shape[:2]
    row, shift = rows // 2, cols // 8
    assert difference(after[row, shift:], before[row, : cols - shift]) < difference(after[row], before[row]) / 2
    page.keyboard.press("Control+z")
    assert len(plain.settings("row-bend")["curve"]) == 4


def test_place_by_its_corners_and_arm(plain: Bench, page: Page) -> None:
    plain.add("Closer")
    page.get_by_role("button", name="Reset all").click()
    plain.settle()
    box = plain.place()
    plain.drag(plain.knob("Top left corner"), (box["x"] + box["width"] * 0.25, box["y"] + box["height"] * 0.25))
    found = plain.settings("place")
    assert found["corners"][0] == pytest.approx([1.0, 0.5], abs=0.03)
    assert found["corners"][1:] == [[0, 0]] * 3
    after = plain.picture()
    assert after[2, 2].tolist() in ([255] * 3, [0] * 3)
    plain.drag(plain.knob("Move"), (box["x"] + box["width"] * 0.5 + 40, box["y"] + box["height"] * 0.5))
    assert plain.settings("place")["x"] == pytest.approx(40 / (box["height"] / 2), abs=0.02)


def test_drawn_again_held_and_back(plain: Bench, page: Page) -> None:
    plain.add("Sea")
    first = plain.settings("wave")["seed"]
    page.get_by_role("button", name="New random").click()
    assert plain.settings("wave")["seed"] != first
    page.get_by_role("button", name=str(first), exact=True).click()
    assert plain.settings("wave")["seed"] == first
    page.get_by_role("button", name="Lock", exact=True).click()
    expect(page.get_by_role("button", name="New random")).to_be_disabled()


def test_displace_arrow_says_where_light_goes(plain: Bench) -> None:
    before = plain.picture()
    plain.add("Raised light")
    box = plain.place()
    unit, centre = box["height"] / 2, (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    plain.drag(plain.knob("Amount and direction"), (centre[0] + 0.5 * unit, centre[1]), keys="Shift")
    found = plain.settings("displace")
    assert found["heading"] == 0.25
    assert found["amount"] == pytest.approx(0.5, abs=0.03)
    assert difference(plain.picture(), before) > 5


def test_spiral_is_laid_by_its_first_copy(plain: Bench, page: Page) -> None:
    before = plain.picture()
    plain.add("Card fan")
    box = plain.place()
    unit, centre = box["height"] / 2, (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    plain.drag(plain.knob("Begins at"), (centre[0] + 1.2 * unit, centre[1]), keys="Shift")
    plain.drag(plain.knob("Growth a turn"), (centre[0] + 0.4 * unit, centre[1]))
    found = plain.settings("spiral-repeat")
    assert (found["start"], found["reach"]) == (0.25, pytest.approx(1.2, abs=0.03))
    assert found["growth"] == pytest.approx(3, abs=0.15)
    # The outermost copy lies there, on the picture darkened: beside it there is as much less light, and on it another picture.
    after = plain.picture()
    rows, cols = after.shape[:2]
    dark = after[:9, :9].mean() / before[:9, :9].mean()
    assert dark < 0.7
    there = np.s_[rows // 2 - 4 : rows // 2 + 5, cols // 2 + int(1.2 * rows / 2) - 4 : cols // 2 + int(1.2 * rows / 2) + 5]
    assert difference(after[there], before[there] * dark) > 8


def test_a_blank_formula_takes_the_names_of_its_system(plain: Bench, page: Page) -> None:
    plain.add("Blank formula")
    before = plain.picture()
    page.get_by_role("radiogroup", name="System").get_by_text("Polar").click()
    assert {name: plain.settings("formula")[name] for name in ("first", "second")} == {"first": "rad", "second": "ang"}
    assert difference(plain.picture(), before) < 1


def test_a_formula_written_faulted_kept_and_taken(plain: Bench, page: Page, tmp_path: Path) -> None:
    before = plain.picture()
    plain.add("Slow swell")
    first, second = page.get_by_label("new x"), page.get_by_label("new y")
    first.fill("x + push")
    second.fill("y")
    expect(page.locator('.formula-line[data-read="yes"]')).to_have_count(2)
    page.get_by_label("push, number").fill("0.5")
    found = plain.settings("formula")
    assert (found["first"], found["second"]) == ("x + push", "y")
    assert found["knobs"]["push"]["value"] == 0.5
    # The colour comes from half a unit further right: a quarter of the height.
    after = plain.picture()
    shift = round(after.shape[0] / 4)
    assert difference(after[:, :-shift], before[:, shift:]) < 3
    # A line that cannot be read says where, and the picture stays.
    first.fill("x + push +")
    expect(page.get_by_role("alert")).to_contain_text("At 11: expected a number, a name")
    expect(page.locator(".word-fault")).to_have_count(1)
    assert plain.settings("formula")["first"] == "x + push"
    first.fill("x - push")
    expect(page.locator('.formula-line[data-read="yes"]')).to_have_count(2)
    assert difference(plain.picture()[:, shift:], before[:, :-shift]) < 3
    # Kept under a name, found in the book with its picture, exported, renamed, deleted, brought back, taken.
    page.get_by_role("button", name="Save in the formula book").click()
    page.get_by_label("Name of the formula").fill("My push")
    page.keyboard.press("Enter")
    expect(page.get_by_text("was saved")).to_be_visible()
    page.get_by_role("button", name="Open the formula book").click()
    with page.expect_download() as waiting:
        page.get_by_role("link", name="Export My push as JSON").click()
    told = json.loads(Path(waiting.value.path()).read_text())
    assert (told["formula"], told["settings"]["first"]) == ("My push", "x - push")
    page.get_by_role("button", name="Delete My push").click()
    expect(page.get_by_role("button", name="Use My push")).to_have_count(0)
    page.get_by_role("button", name="Undo", exact=True).last.click()
    page.get_by_role("button", name="Use Whirl in steps").click()
    assert plain.settings("formula")["system"] == "polar"
    plain.drag(plain.knob("Ray"), tuple(np.add(plain.at(plain.knob("Centre")), (120, 0))), keys="Shift")
    assert plain.settings("formula")["ray"] == 0.25
    page.get_by_role("button", name="Open the formula book").click()
    page.get_by_role("button", name="Use My push").click()
    assert plain.settings("formula")["first"] == "x - push"


def test_the_red_arrow_moves_the_red_plate_alone(plain: Bench) -> None:
    before = plain.picture()
    plain.add("Red aside")
    box = plain.place()
    unit = box["height"] / 2
    base = (box["x"] + box["width"] / 2 - 0.45 * unit, box["y"] + box["height"] / 2)
    plain.drag(plain.knob("Red channel"), (base[0] + 0.2 * unit, base[1] + 3), keys="Shift")
    found = plain.settings("channel-split")
    assert (found["red_x"], found["red_y"]) == (pytest.approx(0.2, abs=0.011), 0)
    after = plain.picture()
    red = [picture[..., 0] - picture[..., 0].mean() for picture in (after, before)]
    spectrum = (np.fft.rfft(red[0], axis=1) * np.conj(np.fft.rfft(red[1], axis=1))).sum(axis=0)
    peak = int(np.fft.irfft(spectrum, n=after.shape[1]).argmax())
    assert peak == pytest.approx(found["red_x"] * after.shape[0] / 2, abs=2)
    # JPEG mixes a little between channels; the green and blue plates stay.
    assert np.abs(after[..., 1] - before[..., 1]).mean() < 0.35 * np.abs(after[..., 0] - before[..., 0]).mean()
