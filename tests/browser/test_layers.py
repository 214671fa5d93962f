"""Layers, where, blends, undo and versions, by pointer and keyboard, seen as pixels."""

from __future__ import annotations

import re
from itertools import pairwise

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from .bench import Bench, difference


def add_layer(bench: Bench, page: Page, name: str) -> None:
    """Add a layer above the one that is worked on; a photo is searched for, as the Shelf may hold more than a page of newer ones."""
    page.get_by_role("button", name="+ Layer").click()
    sheet = page.get_by_label("Add a layer")
    if name.startswith("Layer from "):
        sheet.get_by_label("Search photos").fill(name.removeprefix("Layer from "))
    sheet.get_by_role("button", name=name, exact=True).click()
    bench.settle()


def trace(page: Page, *points: tuple[float, float]) -> None:
    """Draw with the pointer through places on the page."""
    page.mouse.move(*points[0])
    page.mouse.down()
    for (x0, y0), (x1, y1) in pairwise(points):
        for share in (0.34, 0.67, 1.0):
            page.mouse.move(x0 + (x1 - x0) * share, y0 + (y1 - y0) * share)
    page.mouse.up()


def test_a_vortex_of_four_lanes(plain: Bench, page: Page) -> None:
    plain.add("Deep twirl")
    first = plain.picture()
    name = plain.saved()["layers"][0]["source"]["photo"]
    add_layer(plain, page, f"Layer from {name.rsplit('.', 1)[0]}")
    plain.add("Left to right")
    plain.add("Endless twirl", place=2)
    add_layer(plain, page, "Glow")
    add_layer(plain, page, "The picture below, as a layer")
    plain.add("Soft twirl")
    layers = plain.saved()["layers"]
    assert [layer["source"]["kind"] for layer in layers] == ["photo", "photo", "fill", "below"]
    assert [[step["kind"] for step in layer["steps"]] for layer in layers] == [["twirl"], ["turn", "twirl"], [], ["twirl"]]
    # The glow lies over all: it is all there is, until a blend mode mixes it.
    page.get_by_role("button", name="Layer Glow").click()
    before = plain.picture()
    page.get_by_role("button", name=re.compile("^Blend mode: normal")).click()
    sheet = page.get_by_label("Blend modes")
    expect(sheet.get_by_role("button", name=re.compile("^Blend "))).to_have_count(21)
    sheet.get_by_role("button", name="Enlarge overlay").click()
    sheet.get_by_role("button", name="Use it").click()
    mixed = plain.picture()
    assert difference(mixed, before) > 10
    assert difference(mixed, first) > 10
    assert plain.saved()["layers"][2]["blend"] == "overlay"
    # Hidden, alone, and away again.
    page.get_by_role("button", name="Hide Picture below").click()
    assert plain.saved()["layers"][3]["visible"] is False
    page.get_by_role("button", name="Solo Glow").click()
    alone = plain.picture()
    assert difference(alone, alone[:, ::-1]) < 2  # nothing but the round glow
    page.get_by_role("button", name="Show all", exact=True).click()
    page.get_by_role("button", name="Delete", exact=True).click()
    assert len(plain.saved()["layers"]) == 3


def test_a_painted_where_leaves_the_rest_to_the_bit(plain: Bench, page: Page) -> None:
    before = plain.picture()
    plain.add("Fine rings")
    page.get_by_role("button", name="Area", exact=True).click()
    page.get_by_role("button", name="Paint", exact=True).click()
    box = plain.place()
    x, y, w, h = box["x"], box["y"], box["width"], box["height"]
    trace(page, (x + 0.42 * w, y + 0.5 * h), (x + 0.5 * w, y + 0.45 * h), (x + 0.58 * w, y + 0.5 * h))
    for other in ("Red", "Green"):
        page.get_by_role("button", name=other, exact=True).click()
    saved = plain.saved()["layers"][0]["steps"][0]
    assert saved["where"]["shapes"][0]["kind"] == "stroke"
    assert saved["channels"] == ["b"]
    after = plain.picture()
    rows, cols = after.shape[:2]
    # JPEG spreads a change over its block of 8 and its neighbour; beyond that nothing may differ at all.
    outside = np.ones((rows, cols), bool)
    outside[int(0.22 * rows) : int(0.78 * rows), int(0.27 * cols) : int(0.73 * cols)] = False
    assert np.array_equal(after[outside], before[outside])
    inside = (slice(int(0.42 * rows), int(0.54 * rows)), slice(int(0.45 * cols), int(0.55 * cols)))
    moved = np.abs(after[inside] - before[inside]).mean(axis=(0, 1))
    assert moved[2] > 3 * moved[0]
    # Half as strong is half as far.
    page.get_by_label("Opacity, number").fill("50")
    half = plain.picture()
    assert difference(half[inside], before[inside]) < 0.75 * difference(after[inside], before[inside])


def test_shapes_are_drawn_moved_joined_and_taken_away(plain: Bench, page: Page) -> None:
    plain.add("Dark night")
    page.get_by_role("button", name="Area", exact=True).click()
    page.get_by_role("button", name="Rectangle", exact=True).click()
    box = plain.place()
    middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    unit = box["height"] / 2
    trace(page, (middle[0] - 0.5 * unit, middle[1] - 0.4 * unit), (middle[0] + 0.5 * unit, middle[1] + 0.4 * unit))
    page.get_by_role("button", name="By brightness", exact=True).click()
    page.get_by_label("How shape 2 is combined").click()
    page.get_by_title("intersect").click()
    page.get_by_role("button", name="Rectangle", exact=True).last.click()
    plain.drag(plain.knob("Shape, move"), (middle[0] + 0.6 * unit, middle[1]))
    where = plain.saved()["layers"][0]["steps"][0]["where"]
    assert [(s["kind"], s["join"]) for s in where["shapes"]] == [("rectangle", "add"), ("light", "intersect")]
    rectangle = where["shapes"][0]
    assert (rectangle["x"], rectangle["rx"], rectangle["ry"]) == (
        pytest.approx(0.6, abs=0.02),
        pytest.approx(0.5, abs=0.02),
        pytest.approx(0.4, abs=0.02),
    )
    page.get_by_role("button", name="Remove shape 2").click()
    page.get_by_role("button", name="Whole picture", exact=True).click()
    assert plain.saved()["layers"][0]["steps"][0]["where"] is None


def test_a_layer_is_placed_by_hand_in_a_turned_view(plain: Bench, page: Page) -> None:
    add_layer(plain, page, "Disc")
    box = plain.place()
    unit, middle = box["height"] / 2, (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    trace(page, (middle[0] + 10, middle[1] + 30), (middle[0] + 10 + 0.5 * unit, middle[1] + 30))
    assert plain.saved()["layers"][1]["place"]["x"] == pytest.approx(0.5, abs=0.02)
    for _ in range(6):
        page.keyboard.press("]")
    plain.settle()
    # The view stands on its side: what goes down on the screen goes right on the piece.
    trace(page, (middle[0], middle[1] + 0.5 * unit + 20), (middle[0], middle[1] + 0.2 * unit + 20))
    place = plain.saved()["layers"][1]["place"]
    assert place["x"] == pytest.approx(0.2, abs=0.02)
    assert place["y"] == pytest.approx(0, abs=0.02)
    page.keyboard.press("0")
    plain.drag(plain.knob("Turn of the layer"), tuple(np.add(plain.at(plain.knob("Turn of the layer")), (400, 300))), keys="Shift")
    assert plain.saved()["layers"][1]["place"]["turn"] * 24 == pytest.approx(
        round(plain.saved()["layers"][1]["place"]["turn"] * 24), abs=1e-2
    )


def test_forty_edits_back_and_forward_again(plain: Bench, page: Page) -> None:
    first = plain.picture()
    plain.add("Soft twirl")
    panel = page.get_by_label("Settings of Twirl")
    for n in range(20):
        panel.get_by_role("button", name=("Deep twirl", "Endless twirl", "Soft twirl")[n % 3]).click()
        page.keyboard.press("x")
    page.get_by_role("button", name="History").click()
    expect(page.get_by_label("History").get_by_role("listitem")).not_to_have_count(0)
    count = page.get_by_label("History").get_by_role("listitem").count()
    assert count >= 41
    last, document = plain.picture(), plain.saved()
    for _ in range(count - 1):
        page.keyboard.press("Control+z")
    assert np.array_equal(plain.picture(), first)
    for _ in range(count - 1):
        page.keyboard.press("Control+Shift+z")
    assert np.array_equal(plain.picture(), last)
    assert plain.saved() == document
    page.get_by_label("History").get_by_role("button", name="opened").click()
    assert np.array_equal(plain.picture(), first)


def test_versions_kept_compared_and_restored(plain: Bench, page: Page) -> None:
    first = plain.picture()
    page.get_by_role("button", name="Versions").click()
    page.get_by_label("Name of the version").fill("As it was")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Compare with As it was")).to_be_visible()
    plain.add("Upside down")
    assert difference(plain.picture(), first) > 10
    page.get_by_role("button", name="Versions").click()
    page.get_by_role("button", name="Compare with As it was").click()
    expect(page.locator(".beside img")).to_be_visible()
    expect(page.locator(".beside-label")).to_have_text("As it was")
    page.get_by_role("button", name="Restore").first.click()
    expect(page.get_by_role("button", name=re.compile(r"^Step \d+,"))).to_have_count(0)
    assert plain.saved()["layers"][0]["steps"] == []
    assert np.array_equal(plain.picture(), first)
    page.keyboard.press("Control+z")
    assert len(plain.saved()["layers"][0]["steps"]) == 1


def test_steps_are_copied_to_another_layer_and_done_again(plain: Bench, page: Page) -> None:
    plain.add("Switchback")
    page.keyboard.press("Control+c")
    add_layer(plain, page, "Stripes")
    page.keyboard.press("Control+v")
    assert [s["kind"] for s in plain.saved()["layers"][1]["steps"]] == ["wave"]
    page.keyboard.press("r")
    assert [s["kind"] for s in plain.saved()["layers"][1]["steps"]] == ["wave", "wave"]


def test_split_line_is_turned_and_a_stage_kept(plain: Bench, page: Page) -> None:
    plain.add("Upside down")
    page.keyboard.press("s")
    knob = page.get_by_role("button", name="Turn the split line")
    box = knob.bounding_box()
    assert box is not None
    x, y = box["x"] + 11, box["y"] + 11
    trace(page, (x, y), (x + 180, y + 180))
    style = page.locator(".split-turner").get_attribute("style") or ""
    assert float(re.findall(r"rotate\(([-\d.]+)turn\)", style)[0]) == pytest.approx(0.25, abs=0.02)
    page.keyboard.press("s")
    page.get_by_role("button", name="Save to the Shelf").click()
    expect(page.get_by_text("is on the Shelf")).to_be_visible()


def test_a_named_area_is_used_by_another_step(plain: Bench, page: Page) -> None:
    plain.add("Dark night")
    page.get_by_role("button", name="Area", exact=True).click()
    page.get_by_role("button", name="Ellipse", exact=True).click()
    box = plain.place()
    middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    trace(page, (middle[0] - 120, middle[1] - 60), (middle[0] + 60, middle[1] + 60))
    page.get_by_role("button", name="Find areas").click()
    page.get_by_label("Name of this area").fill("The pond")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="The pond", exact=True)).to_be_visible()
    page.keyboard.press("Escape")
    plain.add("Light haze", place=2)
    page.get_by_role("button", name="Area", exact=True).click()
    page.get_by_role("button", name="Find areas").click()
    page.get_by_role("button", name="The pond", exact=True).click()
    first, second = plain.saved()["layers"][0]["steps"]
    assert second["where"] == first["where"]
    assert second["where"]["shapes"][0]["kind"] == "ellipse"


def test_a_group_is_laid_like_one_layer(plain: Bench, page: Page) -> None:
    before = plain.picture()
    add_layer(plain, page, "Stripes")
    whole = plain.picture()
    page.get_by_role("button", name="Group", exact=True).click()
    page.get_by_label("Opacity, number").fill("50")
    page.get_by_label("Opacity, number").press("Enter")
    half = plain.picture()
    assert difference(half, (before + whole) / 2) < 3
    group = plain.saved()["layers"][1]
    assert (group["opacity"], len(group["layers"])) == (0.5, 1)
    page.get_by_role("button", name="Ungroup", exact=True).click()
    assert np.array_equal(plain.picture(), whole)


def test_a_reload_in_the_middle_of_a_drag_keeps_what_was_seen(plain: Bench, page: Page) -> None:
    plain.add("Soft twirl")
    box = plain.place()
    x, y = plain.at(plain.knob("Radius"))
    page.mouse.move(x, y)
    page.mouse.down()
    for share in (0.4, 0.7, 1.0):
        page.mouse.move(x + (box["x"] + box["width"] / 2 + 0.5 * box["height"] / 2 - x) * share, y)
    expect(page.get_by_label("Radius, number")).to_have_value(re.compile("^0.[45]"))
    page.reload()
    plain.choose("Twirl")
    assert plain.settings("twirl")["reach"] == pytest.approx(0.5, abs=0.03)
