"""A Bench with room for the picture: what stands beside it, and what of it is sized, folded and led back by hand."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from tests.api import Api

from .bench import Bench, difference

FIVE = [
    {"id": "b", "name": "Everything below", "source": {"kind": "below"}, "opacity": 0.5, "steps": [{"id": "s2", "kind": "twirl"}]},
    {"id": "c", "name": "Star", "source": {"kind": "shape", "form": "star"}, "place": {"scale": 0.2, "x": -0.5}},
    {"id": "d", "name": "Disc", "source": {"kind": "shape", "form": "ellipse"}, "place": {"scale": 0.2, "x": 0.5}},
    {"id": "e", "name": "Glow", "source": {"kind": "fill"}, "opacity": 0.1},
]


@pytest.fixture
def layered(blank: Bench, ground: Path, address: str) -> Bench:
    """Return a Bench with a square piece of five layers."""
    api = Api(address)
    name = api.upload(ground.read_bytes(), ground.name)["file_name"]
    land = {"id": "land", "name": "Land", "source": {"kind": "photo", "photo": name}, "steps": [{"id": "s1", "kind": "ring"}]}
    return blank.open(api.call("POST", "pieces", {"name": "five", "document": {"caracol": 1, "layers": [land, *FIVE]}}))


def drag(page: Page, start: tuple[float, float], by: tuple[float, float]) -> None:
    page.mouse.move(*start)
    page.mouse.down()
    for share in (0.3, 0.7, 1):
        page.mouse.move(start[0] + by[0] * share, start[1] + by[1] * share)
    page.mouse.up()


def middle(box: Any) -> tuple[float, float]:
    assert box is not None
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def test_five_layers_leave_the_picture_its_room_and_the_trail_is_sized(layered: Bench, page: Page) -> None:
    """Nothing lies on the picture; what stands beside it is sized and folded, and stays so."""
    box = layered.place()
    assert min(box["width"], box["height"]) >= 560
    bar = page.get_by_role("toolbar", name="View").bounding_box()
    assert bar is not None
    assert bar["x"] >= box["x"] + box["width"]
    page.get_by_role("button", name="Hide the view tools").click()
    expect(page.get_by_role("button", name="Fit", exact=True)).to_be_hidden()
    page.keyboard.press("g")
    edge = page.get_by_role("separator", name="Height of the trail")
    drag(page, middle(edge.bounding_box()), (0, -120))
    layered.settle()
    assert layered.place()["height"] == pytest.approx(box["height"] - 120, abs=3)
    page.reload()
    layered.settle()
    assert layered.place()["height"] == pytest.approx(box["height"] - 120, abs=3)
    expect(page.locator(".stage.dark")).to_be_visible()
    page.get_by_role("button", name="Show the view tools").click()
    expect(page.get_by_role("button", name="Fit", exact=True)).to_be_visible()
    page.get_by_role("separator", name="Height of the trail").dblclick()
    layered.settle()
    assert layered.place()["height"] == pytest.approx(box["height"], abs=1)


def test_a_handle_outside_the_view_is_led_back_to(bench: Bench, page: Page) -> None:
    bench.choose("Ring")
    marker = page.get_by_role("button", name="Bring back Centre")
    expect(marker).to_have_count(0)
    stage = page.locator(".stage").bounding_box()
    assert stage is not None
    page.mouse.move(stage["x"] + 30, stage["y"] + stage["height"] / 2)
    for _ in range(4):
        page.mouse.wheel(0, -300)
    bench.settle()
    marker.click()
    expect(marker).to_have_count(0)
    x, y = bench.at(bench.knob("Centre"))
    assert stage["x"] < x < stage["x"] + stage["width"]
    assert stage["y"] < y < stage["y"] + stage["height"]


def test_a_number_is_scrubbed_by_its_name(bench: Bench, page: Page) -> None:
    """Sideways, finer with Shift, as one edit; while it is dragged nothing lies on the picture. What does nothing now says why."""
    bench.choose("Ring")
    before = bench.settings("ring")["reach"]
    name = middle(page.get_by_role("button", name=re.compile("^Size:")).bounding_box())
    page.mouse.move(*name)
    page.mouse.down()
    page.mouse.move(name[0] + 12, name[1])
    page.mouse.move(name[0] - 26, name[1])
    expect(page.locator("svg.handles").first).to_be_hidden()
    page.mouse.up()
    expect(page.locator("svg.handles").first).to_be_visible()
    rough = bench.settings("ring")["reach"]
    assert rough == pytest.approx(before - 0.4, abs=0.06)
    page.keyboard.down("Shift")
    drag(page, name, (26, 0))
    page.keyboard.up("Shift")
    assert bench.settings("ring")["reach"] == pytest.approx(rough + 0.04, abs=0.012)
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    assert bench.settings("ring")["reach"] == before
    why = page.get_by_text("There is no hole to fill: Hole is 0.")
    expect(why).to_have_count(0)
    page.get_by_role("combobox", name="Spread").click()
    page.get_by_title("Even", exact=True).click()
    expect(why).to_be_visible()
    page.get_by_label("Hole, number", exact=True).fill("0.2")
    expect(why).to_have_count(0)


def test_a_layer_is_dragged_into_a_group_that_is_then_twirled(layered: Bench, page: Page) -> None:
    page.get_by_role("button", name="Layer Star").click()
    page.get_by_role("button", name="Group", exact=True).click()
    drag(page, middle(page.get_by_role("separator", name="Height of the trail").bounding_box()), (0, -200))
    grip = page.locator(".lane", has=page.get_by_role("button", name="Layer Disc")).locator(".lane-grip")
    target = middle(page.locator(".lane", has=page.get_by_role("button", name="Layer Group")).locator(".lane-name").bounding_box())
    start = middle(grip.bounding_box())
    drag(page, start, (target[0] - start[0], target[1] - start[1]))
    group = next(entry for entry in layered.saved()["layers"] if "layers" in entry)
    assert [layer["name"] for layer in group["layers"]] == ["Star", "Disc"]
    before = layered.picture()
    page.get_by_role("button", name="Layer Group").click()
    layered.add("Deep twirl")
    after = layered.picture()
    group = next(entry for entry in layered.saved()["layers"] if "layers" in entry)
    assert [step["kind"] for step in group["steps"]] == ["twirl"]
    rows, cols = after.shape[:2]
    # What the group has no part in stays; star and disc are wound up.
    assert difference(after[: rows // 8, : cols // 8], before[: rows // 8, : cols // 8]) < 0.5
    assert difference(after, before) > 1


def test_a_photo_is_exchanged_under_all_steps(bench: Bench, photo: Path, page: Page, address: str) -> None:
    other = Api(address).upload(photo.read_bytes(), photo.name)
    before = bench.picture()
    page.get_by_role("button", name="The photo").hover()
    page.get_by_role("button", name="Use another photo").click()
    page.get_by_role("button", name=f"Use {photo.stem}").click()
    (layer,) = bench.saved()["layers"]
    assert layer["source"]["photo"] == other["file_name"]
    assert [step["kind"] for step in layer["steps"]] == ["close-seam", "ring", "rim"]
    assert difference(bench.picture(), before) > 5
    page.keyboard.press("Control+z")
    assert np.array_equal(bench.picture(), before)


def test_a_trail_is_pasted_onto_other_pieces_from_the_shelf(bench: Bench, ground: Path, page: Page, address: str) -> None:
    api = Api(address)
    names = ["bare one", "bare two"]
    pieces = [api.piece(ground, ("tone", {"black": 0.1}), called=name) for name in names]
    mine = page.url.rsplit("/", 1)[1]
    own = api.call("GET", f"pieces/{mine}")["name"]
    page.get_by_role("link", name="Shelf", exact=True).click()
    page.locator("article", has=page.get_by_role("link", name=f"Open {own}")).first.hover()
    page.get_by_role("button", name=f"Copy the trail of {own}").first.click()
    for name in names:
        page.get_by_role("checkbox", name=f"Select {name}").first.check()
    page.get_by_role("button", name="Paste 3 steps onto them").click()
    expect(page.get_by_text("Pasted onto 2 pieces.")).to_be_visible()
    for piece in pieces:
        found = api.call("GET", f"pieces/{piece['id']}")["document"]["layers"][0]["steps"]
        assert [step["kind"] for step in found] == ["tone", "close-seam", "ring", "rim"]
        assert len({step["id"] for step in found}) == 4
    bench.open(pieces[0])
    page.keyboard.press("Control+z")
    assert [step["kind"] for step in bench.saved()["layers"][0]["steps"]] == ["tone"]


def test_where_a_step_acts_is_drawn_before_it_is_chosen(plain: Bench, page: Page) -> None:
    before = plain.picture()
    page.keyboard.press("a")
    page.get_by_role("button", name="Only in part of the picture…").click()
    page.get_by_role("group", name="Draw the area of the step").get_by_role("button", name="Rectangle").click()
    box = plain.place()
    drag(page, (box["x"] + 4, box["y"] + 4), (box["width"] * 0.4, box["height"] - 8))
    page.get_by_label("Search steps").fill("swirl")
    page.get_by_role("button", name=re.compile("^Deep twirl Twirl")).click()
    after = plain.picture()
    (step,) = plain.saved()["layers"][0]["steps"]
    assert step["kind"] == "twirl"
    assert step["where"]["shapes"][0]["kind"] == "rectangle"
    half = after.shape[1] // 2
    assert np.array_equal(after[:, half:], before[:, half:])
    assert difference(after[:, :half], before[:, :half]) > 3
    page.keyboard.press("a")
    page.get_by_label("Search steps").fill("posterize")
    expect(page.locator(".finder .find").first).to_contain_text("Posterise")
    page.get_by_label("Search steps").fill("whirlpool")
    expect(page.locator(".finder .find").first).to_contain_text("twirl")
