"""Tone, colour and light by hand, seen as pixels; a figure cut out of one photo and placed in another."""

from __future__ import annotations

import re
from io import BytesIO
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import Locator, Page, expect

from caracol.world.photos import SCENES, draw_photo
from tests.api import Api

from .bench import Bench, difference

LUMA = np.array([0.2126, 0.7152, 0.0722])


def drag_by(page: Page, what: Locator, dx: float, dy: float) -> None:
    """Drag something by so many pixels of the page."""
    box = what.bounding_box()
    assert box is not None
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + dx, y + dy, steps=4)
    page.mouse.up()


def test_a_curve_is_bent_over_the_histogram(blank: Bench, page: Page, ground: Path, address: str, called: str) -> None:
    plain = blank.open(Api(address).piece(ground, ("curves", {}), called=called))
    plain.choose("Curves")
    page.locator(".curve-box .tones path").first.wait_for()
    before = plain.picture()
    box = page.locator(".curve-box").bounding_box()
    assert box is not None
    # A press on the line makes a point, which goes with the hand.
    x, y = box["x"] + 0.4 * box["width"], box["y"] + 0.6 * box["height"]
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y - 0.2 * box["height"], steps=4)
    page.mouse.up()
    [(a, _), (old, new), *_] = plain.settings("curves")["all"]
    assert (a, old, new) == (0, pytest.approx(0.4, abs=0.02), pytest.approx(0.6, abs=0.02))
    lighter = plain.picture()
    middle = np.abs(before - 0.4 * 255) < 4
    assert lighter[middle].mean() == pytest.approx(0.6 * 255, abs=6)
    # Red alone, by its keys; the other plates stay.
    page.get_by_label("Curve", exact=True).get_by_text("Red").click()
    page.get_by_role("button", name="Add a point").click()
    point = page.get_by_role("button", name=re.compile("^Point 2 of Red"))
    point.focus()
    for _ in range(4):
        page.keyboard.press("Shift+ArrowDown")
    reddened = plain.picture()
    assert reddened[..., 0].mean() < lighter[..., 0].mean() - 8
    assert difference(reddened[..., 1:], lighter[..., 1:]) < 2.5
    # Taken from the picture: the point stands at the tone that was pressed on.
    page.get_by_label("Curve", exact=True).get_by_text("Blue").click()
    page.get_by_role("button", name="Point from picture").click()
    ground = page.locator(".pick-ground")
    expect(ground).to_be_visible()
    shown = plain.picture()
    assert difference(shown, before) < 1
    spot = plain.place()
    page.mouse.click(spot["x"] + 0.3 * spot["width"], spot["y"] + 0.5 * spot["height"])
    expect(ground).to_be_hidden()
    rows, cols = before.shape[:2]
    pressed = before[round(0.5 * rows), round(0.3 * cols), 2] / 255
    assert min(abs(point[0] - pressed) for point in plain.settings("curves")["blue"]) < 0.06
    # Out of the square it is gone again.
    page.get_by_label("Curve", exact=True).get_by_text("All").click()
    drag_by(page, page.get_by_role("button", name=re.compile("^Point 2 of All")), 0, -400)
    plain.settle()
    assert len(plain.settings("curves")["all"]) == 2


def test_tones_are_set_under_the_histogram_and_lost_ones_shown(blank: Bench, page: Page, ground: Path, address: str, called: str) -> None:
    plain = blank.open(Api(address).piece(ground, ("tone", {}), called=called))
    plain.choose("Tone")
    before = plain.picture()
    page.get_by_role("button", name="Auto", exact=True).click()
    auto = plain.settings("tone")
    assert auto["white"] < 1 or auto["black"] > 0
    assert plain.picture().std() > before.std()
    drag_by(page, page.get_by_role("slider", name="Black, on the histogram"), 90, 0)
    plain.settle()
    assert plain.settings("tone")["black"] > 0.3
    assert (plain.picture() < 4).mean() > 0.1
    page.keyboard.down("k")
    lost = page.locator(".stage img.veil.clipped")
    expect(lost).to_be_visible()
    page.keyboard.up("k")
    expect(lost).to_have_count(0)
    page.get_by_role("slider", name="Middle, on the histogram").press("Shift+ArrowLeft")
    assert plain.settings("tone")["gamma"] > auto["gamma"]


def test_a_gradient_is_made_from_colours_of_the_picture_and_kept(plain: Bench, page: Page, called: str) -> None:
    before = plain.picture()
    plain.add("Two inks")
    mapped = plain.picture()
    panel = page.get_by_label("Gradient", exact=True)
    bar = panel.locator(".gradient-bar").first
    bar.click(position={"x": 60, "y": 10})
    assert len(plain.settings("gradient-map")["stops"]) == 5
    # The new stop is chosen: its colour is taken from the finished picture.
    page.get_by_role("button", name=re.compile("^From picture: colour of stop 5")).click()
    # What is edited while the hand is on its way to the picture stays.
    panel.get_by_role("button", name="Spread evenly").click()
    evenly = [stop["at"] for stop in plain.settings("gradient-map")["stops"]]
    mapped = plain.picture()
    spot = plain.place()
    rows, cols = mapped.shape[:2]
    page.mouse.move(spot["x"] + 0.5 * spot["width"], spot["y"] + 0.5 * spot["height"])
    page.mouse.click(spot["x"] + 0.6 * spot["width"], spot["y"] + 0.5 * spot["height"])
    expect(page.locator(".pick-ground")).to_be_hidden()
    taken = plain.settings("gradient-map")["stops"][4]["colour"]
    rgb = [int(taken[n : n + 2], 16) for n in (1, 3, 5)]
    assert np.abs(mapped[round(0.5 * rows), round(0.6 * cols)] - rgb).max() < 40
    assert [stop["at"] for stop in plain.settings("gradient-map")["stops"]] == evenly
    panel.get_by_role("button", name="Reverse").click()
    turned = plain.picture()
    light = (before @ LUMA).ravel()
    assert np.corrcoef((turned @ LUMA).ravel(), light)[0, 1] < -0.5 < 0.5 < np.corrcoef((mapped @ LUMA).ravel(), light)[0, 1]
    panel.get_by_role("button", name="Save this one").click()
    kept = page.get_by_label("Saved gradients")
    expect(kept.locator(".kept-gradient")).not_to_have_count(0)
    page.keyboard.press("Control+z")
    assert difference(plain.picture(), turned) > 10
    kept.get_by_role("button", name=re.compile("^Use ")).first.click()
    assert difference(plain.picture(), turned) < 1


def test_light_goes_where_it_is_dragged_and_plates_are_seen_alone(plain: Bench, page: Page) -> None:
    plain.add("Spotlight")
    before = plain.picture()
    spot = plain.place()
    plain.drag(plain.knob("Centre"), (spot["x"] + 0.25 * spot["width"], spot["y"] + 0.5 * spot["height"]))
    moved = plain.picture()
    cols = before.shape[1]
    left, right = (slice(None), slice(0, cols // 3)), (slice(None), slice(-cols // 3, None))
    assert moved[left].mean() > before[left].mean() + 4
    assert moved[right].mean() < before[right].mean() - 2
    plain.drag(plain.knob("Radius"), (spot["x"] + 0.3 * spot["width"], spot["y"] + 0.5 * spot["height"]))
    assert plain.settings("light")["reach"] < 0.5
    # One plate: what is drawn has one value for all three.
    page.locator("body").press("p")
    expect(page.get_by_text("Channel: light")).to_be_visible()
    shot = page.screenshot(clip={"x": spot["x"] + 20, "y": spot["y"] + 20, "width": 60, "height": 60})
    seen = np.asarray(Image.open(BytesIO(shot)).convert("RGB")).astype(int)
    assert np.ptp(seen, axis=2).max() <= 2
    page.locator("body").press("p")
    expect(page.get_by_text("Channel: light")).to_be_hidden()


def test_the_whole_piece_is_cropped_and_turned_and_copies_stay_linked(plain: Bench, page: Page) -> None:
    plain.add("Deep twirl")
    page.get_by_role("button", name="Whole piece").click()
    before = plain.picture()
    page.get_by_role("button", name="Crop and turn").click()
    spot = plain.place()
    plain.drag(plain.knob("Box, corner 2"), (spot["x"] + 0.75 * spot["width"], spot["y"] + 0.25 * spot["height"]))
    box = plain.saved()["frame"]["box"]
    assert box["rx"] == pytest.approx(1, abs=0.03)
    assert box["ry"] == pytest.approx(0.5, abs=0.03)
    page.get_by_role("button", name="Done").click()
    rows, cols = before.shape[:2]
    cropped = plain.picture()
    assert cropped.shape[1] / cropped.shape[0] == pytest.approx(box["rx"] / box["ry"], rel=0.02)
    middle = before[rows // 4 : -rows // 4, cols // 4 : -cols // 4]
    assert cropped.mean(axis=(0, 1)) == pytest.approx(middle.mean(axis=(0, 1)), abs=4)
    # Whoever works on a step sees all of the piece.
    plain.choose("Twirl")
    assert plain.picture().shape[1] / plain.picture().shape[0] == pytest.approx(2, rel=0.02)
    page.get_by_role("button", name="Layer Land").click()
    page.get_by_role("button", name="Linked copy").click()
    expect(page.get_by_label("Layer Land copy", exact=True)).to_be_visible()
    page.get_by_role("button", name="Add a step at place 1").click()
    page.get_by_label("Search steps").fill("Grey")
    page.get_by_role("button", name=re.compile("^Grey")).first.click()
    plain.settle()
    layers = plain.saved()["layers"]
    assert [[step["kind"] for step in layer["steps"]] for layer in layers] == [["colour", "twirl"]] * 2
    assert np.ptp(plain.picture(), axis=2).max() < 12
    page.keyboard.press("Control+z")
    assert [[step["kind"] for step in layer["steps"]] for layer in plain.saved()["layers"]] == [["twirl"]] * 2


@pytest.fixture(scope="session")
def heron(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The demo's heron among reeds, drawn small, as a file."""
    path = tmp_path_factory.mktemp("heron") / "heron-small.jpg"
    path.write_bytes(draw_photo(next(scene for scene in SCENES if scene.name == "heron-in-reeds"), 900))
    return path


def test_a_heron_is_cut_out_of_the_reeds_and_belongs_in_a_tunnel(
    blank: Bench, page: Page, ground: Path, heron: Path, address: str, called: str
) -> None:
    api = Api(address)
    photo = api.upload(heron.read_bytes(), "heron-small.jpg")["file_name"]
    page.goto(f"/figure/{photo}")
    picture = page.get_by_alt_text("heron-small", exact=True)
    expect(picture).to_be_visible()
    at = picture.bounding_box()
    assert at is not None

    def over(*places: tuple[float, float]) -> None:
        page.mouse.move(at["x"] + places[0][0] * at["width"], at["y"] + places[0][1] * at["height"])
        page.mouse.down()
        for u, v in places[1:]:
            page.mouse.move(at["x"] + u * at["width"], at["y"] + v * at["height"], steps=3)
        page.mouse.up()

    over((0.41, 0.04), (0.6, 0.5), (0.84, 0.97))
    cut_out = page.get_by_alt_text("The figure as it will be cut out")
    expect(cut_out).to_be_visible()
    # Left and come back to, it is as it was.
    page.reload()
    expect(page.get_by_text("Your earlier outline is back.")).to_be_visible()
    expect(cut_out).to_be_visible()
    # Its legs are too thin to be found: painted over, one right after the other, they come along.
    page.get_by_label("Brush, number").fill("0.008")
    page.get_by_label("Brush, number").press("Enter")
    first = cut_out.get_attribute("src")
    over((0.637, 0.57), (0.638, 0.7))
    over((0.638, 0.68), (0.638, 0.92))
    expect(cut_out).not_to_have_attribute("src", str(first))
    expect(page.locator('.figure-stage[data-busy="no"]')).to_be_visible()
    name = f"Heron {called}"
    page.get_by_label("Name of the figure").fill(name)
    with page.expect_request("**/api/v1/figures") as kept:
        page.get_by_role("button", name="Save to the Shelf").click()
    assert len(kept.value.post_data_json["cut"]["search"]["hints"]) == 2
    expect(page.get_by_role("complementary", name=f"Photo {name}")).to_be_visible()
    # Into a tunnel of something quite blue and dark: there it takes the ground's tone.
    tunnel = ("ring", {"inside": "top", "spread": "depth", "hole": 0.12, "reach": 1.42})
    night = ("tint", {"dark": "#081838", "light": "#2a4a90", "dark_share": 1, "light_share": 1})
    darker = ("tone", {"gamma": 0.5})
    bench = blank.open(api.piece(ground, tunnel, night, darker, called=called))
    page.get_by_role("button", name="+ Layer").click()
    sheet = page.get_by_label("Add a layer")
    sheet.get_by_label("Search photos").fill(name)
    sheet.get_by_role("button", name=f"Layer from {name} cut-out").click()
    bench.settle()
    belonging = bench.picture()
    layer = bench.saved()["layers"][1]
    assert [step["kind"] for step in layer["steps"]] == ["belong", "shadow"]
    page.get_by_role("switch", name="Belong on").click()
    foreign = bench.picture()
    figure = np.abs(belonging - foreign).max(axis=2) > 12
    assert 0.01 < figure.mean() < 0.4
    rows, cols = figure.shape
    below = belonging[round(0.8 * rows) : round(0.92 * rows), round(0.35 * cols) : round(0.65 * cols)].reshape(-1, 3).mean(axis=0)
    far, near = (float(np.abs(one[figure].mean(axis=0) - below) @ LUMA) for one in (foreign, belonging))
    assert near < 0.85 * far
    # The world is turned behind it; the figure stays where it is.
    bench.page.get_by_role("button", name=f"Layer {name}").click()
    before = bench.picture()
    knob = bench.knob("Turn the ring behind")
    spot = bench.place()
    bench.drag(knob, (spot["x"] + 0.5 * spot["width"], spot["y"] + 0.95 * spot["height"]))
    saved = bench.saved()["layers"]
    assert saved[0]["steps"][0]["settings"]["seam"] not in (None, 0)
    assert saved[1]["place"] == layer["place"]
    assert difference(bench.picture(), before) > 5
