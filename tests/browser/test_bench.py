"""Single things done on the Bench, seen as pixels."""

from __future__ import annotations

import io
import re
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import Page, Route, expect

from .bench import Bench, difference


def test_ring_centre_and_reach_by_hand(bench: Bench) -> None:
    bench.choose("Ring")
    box = bench.place()
    middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    unit = box["width"] / 2
    bench.drag(bench.knob("Centre"), (middle[0] + 0.3 * unit, middle[1] - 0.2 * unit))
    bench.drag(bench.knob("Size"), (middle[0] - 0.1 * unit, middle[1] - 0.2 * unit))
    found = bench.settings("ring")
    assert (found["x"], found["y"]) == (pytest.approx(0.3, abs=0.01), pytest.approx(-0.2, abs=0.01))
    assert found["reach"] == pytest.approx(0.4, abs=0.02)
    bench.drag(bench.knob("Centre"), (middle[0] + 3, middle[1] + 3), keys="Shift")
    assert (bench.settings("ring")["x"], bench.settings("ring")["y"]) == (0, 0)


def test_handles_by_keyboard_and_double_click(bench: Bench, page: Page) -> None:
    bench.choose("Ring")
    knob = bench.knob("Centre")
    knob.focus()
    for key in ("ArrowRight", "ArrowRight", "Shift+ArrowDown"):
        page.keyboard.press(key)
    assert (bench.settings("ring")["x"], bench.settings("ring")["y"]) == (pytest.approx(0.01), pytest.approx(0.05))
    knob.locator("circle").first.dblclick()
    assert (bench.settings("ring")["x"], bench.settings("ring")["y"]) == (0, 0)


def test_crop_box_on_the_uncropped_picture(bench: Bench, page: Page) -> None:
    page.get_by_role("button", name="Add a step at place 1").click()
    page.get_by_label("Search steps").fill("plain middle")
    page.keyboard.press("Enter")
    bench.settle()
    box = bench.place()
    assert box["width"] / box["height"] == pytest.approx(2, abs=0.02)
    bench.drag(bench.knob("Crop, left side"), (box["x"] + 0.25 * box["width"], box["y"] + 40))
    bench.drag(bench.knob("Crop, top right corner"), (box["x"] + 0.8 * box["width"], box["y"] + 0.1 * box["height"]))
    found = bench.settings("crop")
    assert [found[k] for k in ("left", "right", "top", "bottom")] == [pytest.approx(v, abs=0.01) for v in (0.25, 0.8, 0.1, 1)]
    bench.drag(bench.knob("Crop, top left corner"), (box["x"] + 0.5 * box["width"], box["y"] + 0.2 * box["height"]), keys="Shift")
    locked = bench.settings("crop")
    assert (locked["right"] - locked["left"]) / (1 - locked["top"]) == pytest.approx(0.55 / 0.9, abs=0.02)
    assert locked["left"] == pytest.approx(0.5, abs=0.02)
    page.get_by_role("switch", name="About the centre").click()
    bench.drag(bench.knob("Crop, right side"), (box["x"] + 0.7 * box["width"], box["y"] + 40))
    about = bench.settings("crop")
    assert (about["left"], about["right"]) == (pytest.approx(0.3, abs=0.01), pytest.approx(0.7, abs=0.01))


def test_level_line_is_laid_along_the_horizon(bench: Bench, page: Page) -> None:
    page.get_by_role("button", name="Add a step at place 1").click()
    page.get_by_label("Search steps").fill("horizon")
    page.get_by_role("button", name="Level", exact=True).click()
    bench.settle()
    x, y = bench.at(bench.knob("Horizon, right end"))
    left, height = bench.at(bench.knob("Horizon, left end"))
    bench.drag(bench.knob("Horizon, right end"), (x, y + 30))
    bench.drag(bench.knob("Horizon, left end"), (left, height - 10))
    expected = -np.arctan2(40, x - left) / (2 * np.pi)
    assert bench.settings("level")["angle"] == pytest.approx(expected, abs=0.001)


def test_turn_arm_turns_the_picture(bench: Bench, page: Page) -> None:
    bench.choose("Ring")
    page.keyboard.press("a")
    page.get_by_label("Search steps").fill("upside")
    page.get_by_role("button", name=re.compile("^Upside down")).click()
    bench.settle()
    box = bench.place()
    before = bench.picture()
    bench.drag(bench.knob("Turn"), (box["x"] + box["width"] * 0.1, box["y"] + box["height"] / 2))
    assert bench.settings("turn")["angle"] == pytest.approx(0.75, abs=0.01)
    assert difference(bench.picture(), np.rot90(before, -1)) < 5


def test_switch_reorder_remove_undo_redo(bench: Bench, page: Page) -> None:
    start = bench.picture()
    page.get_by_role("switch", name="Rim on").click()
    off = bench.picture()
    assert difference(off, start) > 1
    page.get_by_role("button", name="Step 3, Rim").hover()
    page.get_by_role("button", name="Remove Ring").click()
    flat = bench.picture()
    assert flat.shape[0] != flat.shape[1]
    page.keyboard.press("Control+z")
    assert difference(bench.picture(), off) == 0
    page.keyboard.press("Control+z")
    assert difference(bench.picture(), start) == 0
    page.keyboard.press("Control+Shift+z")
    assert difference(bench.picture(), off) == 0
    ring, rim = page.get_by_role("button", name="Step 2, Ring"), page.get_by_role("button", name="Step 3, Rim")
    a, b = ring.bounding_box(), rim.bounding_box()
    assert a is not None
    assert b is not None
    page.mouse.move(b["x"] + 40, b["y"] + 30)
    page.mouse.down()
    page.mouse.move(a["x"] + 60, a["y"] + 30, steps=6)
    page.mouse.move(a["x"] + 30, a["y"] + 30, steps=3)
    page.mouse.up()
    expect(page.get_by_role("button", name="Step 2, Rim")).to_be_visible()
    assert [step["kind"] for step in bench.saved()["layers"][0]["steps"]][-3:] == ["close-seam", "rim", "ring"]


def test_panel_sliders_numbers_choices_and_reset(bench: Bench, page: Page) -> None:
    bench.choose("Ring")
    page.get_by_label("Size, number").fill("0.9")
    page.get_by_label("Size, number").press("Enter")
    assert bench.settings("ring")["reach"] == 0.9
    page.get_by_role("slider", name="Seam").focus()
    page.keyboard.press("ArrowRight")
    assert bench.settings("ring")["seam"] == pytest.approx(0.5025)
    page.get_by_role("combobox", name="Spread").click()
    page.get_by_title("Tunnel", exact=True).click()
    assert bench.settings("ring")["spread"] == "depth"
    expect(page.get_by_label("Hole, number", exact=True)).to_have_value(re.compile("^0.10"))
    page.get_by_role("button", name="Reset all").click()
    assert bench.settings("ring")["spread"] == "even"
    assert bench.settings("ring")["seam"] is None


def test_hold_for_the_original_and_split(bench: Bench, page: Page) -> None:
    result = bench.place()
    page.keyboard.down("o")
    expect(page.locator(".stage img")).to_have_count(1)
    page.wait_for_function(f"document.querySelector('.stage img').getBoundingClientRect().width > {result['width']} * 1.3")
    page.keyboard.up("o")
    page.wait_for_function(f"Math.abs(document.querySelector('.stage img').getBoundingClientRect().width - {result['width']}) < 2")
    page.keyboard.press("s")
    line = page.get_by_role("slider", name="Split between original and result")
    expect(page.locator(".stage img")).to_have_count(2)
    box = line.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + 13, 300)
    page.mouse.down()
    page.mouse.move(300, 300, steps=4)
    page.mouse.up()
    assert line.get_attribute("aria-valuenow") == str(round(300 / page.locator(".stage").bounding_box()["width"] * 100))  # type: ignore[index]


def test_zoom_pan_fit_and_surround(bench: Bench, page: Page) -> None:
    fit = bench.place()
    page.mouse.move(fit["x"] + 100, fit["y"] + 100)
    page.mouse.wheel(0, -400)
    page.wait_for_function(f"document.querySelector('.stage img').getBoundingClientRect().width > {fit['width']} * 1.5")
    zoomed = bench.place()
    assert (fit["x"] + 100 - zoomed["x"]) / zoomed["width"] == pytest.approx(100 / fit["width"], abs=0.01)
    page.mouse.down()
    page.mouse.move(fit["x"] + 160, fit["y"] + 140, steps=5)
    page.mouse.up()
    assert bench.place()["x"] == pytest.approx(zoomed["x"] + 60, abs=6)
    page.keyboard.press("0")
    assert bench.place() == pytest.approx(fit, abs=1)
    page.keyboard.press("g")
    expect(page.locator(".stage.dark")).to_be_visible()


def test_one_to_one_shows_the_pixels_of_the_export(bench: Bench, page: Page, tmp_path: Path) -> None:
    page.get_by_role("button", name="Export", exact=True).click()
    page.get_by_label("Format").get_by_text("PNG", exact=True).click()
    page.get_by_label("Longer side in pixels").fill("2500")
    page.get_by_label("Longer side in pixels").press("Enter")
    with page.expect_download() as download:
        page.get_by_role("button", name="Export PNG").click()
    file = tmp_path / "whole.png"
    download.value.save_as(file)
    delivered = np.asarray(Image.open(file).convert("RGB")).astype(int)

    page.get_by_role("button", name="1:1", exact=True).click()
    expect(page.get_by_role("button", name="1:1")).to_have_attribute("aria-pressed", "true")
    bench.settle()
    stage = page.locator(".stage").bounding_box()
    assert stage is not None
    clip = {
        "x": round(stage["x"] + stage["width"] / 2) - 200,
        "y": round(stage["y"] + stage["height"] / 2) - 200,
        "width": 400,
        "height": 400,
    }

    def seen_beside_delivered() -> float:
        whole = page.locator(".stage > .picture-side img").first.bounding_box()
        assert whole is not None
        assert (whole["width"], whole["height"]) == (2500, 2500)
        seen = np.asarray(Image.open(io.BytesIO(page.screenshot(clip=clip))).convert("RGB")).astype(int)  # type: ignore[arg-type]
        x, y = round(clip["x"] - whole["x"]), round(clip["y"] - whole["y"])
        return float(np.abs(seen - delivered[y : y + 400, x : x + 400]).mean())

    assert seen_beside_delivered() < 2.5
    # Only what is seen was made, and what a hand moves into sight is made then.
    page.mouse.move(stage["x"] + 500, stage["y"] + 300)
    page.mouse.down()
    page.mouse.move(stage["x"] + 200, stage["y"] + 100, steps=4)
    page.mouse.up()
    bench.settle()
    assert seen_beside_delivered() < 2.5
    page.keyboard.press("2")
    expect(page.get_by_role("button", name="2:1")).to_have_attribute("aria-pressed", "true")
    bench.settle()


def test_two_tabs_and_the_choice(bench: Bench, page: Page) -> None:
    """A second tab saves first; this one is refused and keeps both."""
    bench.saved()
    other = Bench(page.context.new_page(), bench.var)
    other.page.goto(page.url)
    other.settle()
    other.page.get_by_role("switch", name="Rim on").click()
    other.saved()
    page.get_by_role("switch", name="Close seam on").click()
    banner = page.get_by_role("alertdialog", name="This piece was changed elsewhere")
    expect(banner).to_be_visible()
    address = page.url
    banner.get_by_role("button", name="Keep both").click()
    page.wait_for_url(lambda url: url != address)
    mine = bench.saved()["layers"][0]["steps"]
    assert [step["on"] for step in mine] == [False, True, True]
    theirs = other.saved()["layers"][0]["steps"]
    assert [step["on"] for step in theirs] == [True, True, False]


def test_connection_lost_while_saving_loses_nothing(bench: Bench, page: Page) -> None:
    bench.saved()

    def refuse(route: Route) -> Any:
        return route.abort() if route.request.method == "PUT" else route.continue_()

    page.route("**/api/v1/pieces/*", refuse)
    page.get_by_role("switch", name="Rim on").click()
    expect(page.get_by_role("status").filter(has_text="Not saved")).to_have_attribute("title", re.compile("does not answer"))
    page.unroute("**/api/v1/pieces/*")
    assert bench.saved()["layers"][0]["steps"][2]["on"] is False


def test_keys_are_listed_and_the_piece_renamed(bench: Bench, page: Page) -> None:
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_contain_text("The original photo")
    page.keyboard.press("Escape")
    page.get_by_role("button", name=re.compile("Name of the piece")).click()
    page.get_by_label("Name of the piece").fill("Low water")
    page.keyboard.press("Enter")
    bench.saved()
    page.reload()
    expect(page.get_by_role("button", name="Name of the piece: Low water. Rename")).to_be_visible()


def test_a_piece_that_is_not_there_says_so(page: Page) -> None:
    page.goto("/bench/00000000-0000-4000-8000-000000000000")
    expect(page.get_by_role("heading", name="This no longer exists.")).to_be_visible()
    page.get_by_role("link", name="To the Shelf", exact=True).click()
    expect(page.get_by_role("button", name="Add photos")).to_be_visible()
