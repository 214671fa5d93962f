"""Mending by hand: strokes, patches, the pulled cut, the second copy."""

from __future__ import annotations

import re
from pathlib import Path

import numpy as np
from playwright.sync_api import Page, expect

from tests.api import Api

from .bench import Bench, difference


def spot(bench: Bench, u: float, v: float) -> tuple[float, float]:
    """Return where a place of the picture, in shares, is on the page."""
    at = bench.place()
    return at["x"] + u * at["width"], at["y"] + v * at["height"]


def stroke(bench: Bench, *places: tuple[float, float]) -> None:
    """Draw a line over places of the picture."""
    mouse = bench.page.mouse
    mouse.move(*spot(bench, *places[0]))
    mouse.down()
    for place in places[1:]:
        mouse.move(*spot(bench, *place), steps=3)
    mouse.up()


def part(picture: np.ndarray, u: float, v: float, half: int = 6) -> np.ndarray:
    """Return the pixels round a place."""
    rows, cols = picture.shape[:2]
    row, col = round(v * rows), round(u * cols)
    return picture[row - half : row + half, col - half : col + half]


def join_of(picture: np.ndarray, v: float) -> float:
    """Return how far the two middle columns are apart round a height."""
    rows, cols = picture.shape[:2]
    near = slice(round((v - 0.03) * rows), round((v + 0.03) * rows))
    return float(np.abs(picture[near, cols // 2] - picture[near, cols // 2 - 1]).mean())


def test_a_seam_is_cloned_over_a_patch_dragged_and_both_undone(blank: Bench, page: Page, ground: Path, address: str, called: str) -> None:
    plain = blank.open(Api(address).piece(ground, ("wrap-shift", {"across": 0.5}), called=called))
    plain.add("By hand", 2)
    before = plain.picture()
    # The first press takes the source; the stroke goes over the seam, and shows what lay there.
    page.mouse.click(*spot(plain, 0.75, 0.4))
    stroke(plain, (0.45, 0.4), (0.55, 0.4))
    expect(page.get_by_role("list", name="Strokes made").get_by_role("listitem")).to_have_count(1)
    cloned = plain.picture()
    assert join_of(cloned, 0.4) < 0.5 * join_of(before, 0.4)
    assert join_of(cloned, 0.7) > 0.9 * join_of(before, 0.7)
    assert difference(part(cloned, 0.5, 0.4), part(before, 0.8, 0.4)) < 8
    assert difference(part(cloned, 0.1, 0.8), part(before, 0.1, 0.8)) < 0.5
    [made] = plain.settings("touch-up")["strokes"]
    assert made["mode"] == "clone"
    assert abs(made["source"]["dx"] - 0.3 * 2 * 2) < 0.03
    # A patch: outlined, then dragged to where better texture is.
    page.get_by_role("button", name="Heal", exact=True).click()
    page.get_by_label("Outline areas").click()
    stroke(plain, (0.5, 0.6), (0.6, 0.6), (0.6, 0.8), (0.5, 0.8), (0.5, 0.62))
    stroke(plain, (0.55, 0.7), (0.8, 0.7))
    expect(page.get_by_role("list", name="Strokes made").get_by_role("listitem")).to_have_count(2)
    patched = plain.picture()
    texture = [part(one, u, 0.7, 10) - part(one, u, 0.7, 10).mean(axis=(0, 1)) for one, u in ((patched, 0.55), (before, 0.8))]
    assert np.corrcoef(texture[0].ravel(), texture[1].ravel())[0, 1] > 0.8
    assert difference(part(patched, 0.3, 0.9), part(before, 0.3, 0.9)) < 0.5
    # Doubles are pointed out on request.
    page.get_by_role("button", name="Show repeats").click()
    expect(page.locator(".handles .double")).to_have_count(2)
    page.get_by_role("button", name="Hide repeats").click()
    # Each is one undo.
    page.keyboard.press("Control+z")
    assert difference(plain.picture(), cloned) < 0.5
    page.keyboard.press("Control+z")
    assert difference(plain.picture(), before) < 0.5


def test_a_blot_is_healed_without_a_source(blank: Bench, page: Page, ground: Path, address: str, called: str) -> None:
    opened = blank.open(Api(address).piece(ground, called=called))
    opened.add("By hand", 1)
    before = opened.picture()
    page.get_by_role("button", name="Colour", exact=True).first.click()
    page.get_by_role("button", name="Add a dab in the middle").click()
    blotted = opened.picture()
    page.get_by_role("button", name="1 · Colour").click()
    page.get_by_role("button", name="Heal", exact=True).click()
    expect(page.get_by_label("Strokes", exact=True)).to_contain_text("Paint over what should go")
    stroke(opened, (0.46, 0.5), (0.54, 0.5))
    expect(page.get_by_role("list", name="Strokes made").get_by_role("listitem")).to_have_count(2)
    healed = opened.picture()
    assert opened.settings("touch-up")["strokes"][1]["source"] != {"dx": 0, "dy": 0, "turn": 0, "scale": 1, "about": None}
    # The blot is of one colour; healed, the place has the tone and the texture of what lies round it.
    assert part(blotted, 0.5, 0.5).std(axis=(0, 1)).max() < 1
    assert part(healed, 0.5, 0.5).std(axis=(0, 1)).min() > 8
    tone = [part(one, 0.5, 0.5, 60).mean(axis=(0, 1)) for one in (healed, before)]
    assert np.abs(tone[0] - tone[1]).max() < 12
    page.keyboard.press("Control+z")
    assert difference(opened.picture(), blotted) < 0.5


def test_strokes_are_listed_hidden_moved_by_keyboard_and_survive_an_earlier_change(plain: Bench, page: Page) -> None:
    plain.add("By hand", 1)
    before = plain.picture()
    page.get_by_role("button", name="Colour", exact=True).first.click()
    page.get_by_role("button", name="Add a dab in the middle").click()
    dabbed = plain.picture()
    assert difference(part(dabbed, 0.5, 0.5, 3), part(before, 0.5, 0.5, 3)) > 5
    knob = plain.knob("Stroke, move")
    knob.focus()
    for _ in range(6):
        page.keyboard.press("Shift+ArrowRight")
    moved = plain.picture()
    assert difference(part(moved, 0.5, 0.5, 3), part(before, 0.5, 0.5, 3)) < 1
    assert plain.settings("touch-up")["strokes"][0]["line"][0] > 25_000
    page.get_by_label("Stroke 1 shown").click()
    assert difference(plain.picture(), before) < 0.5
    page.get_by_label("Stroke 1 shown").click()
    plain.add("Clearer", 1)
    assert len(plain.settings("touch-up")["strokes"]) == 1
    plain.choose("Touch-up")
    page.get_by_role("button", name="1 · Colour").click()
    page.get_by_role("button", name="Delete stroke 1").click()
    assert plain.settings("touch-up")["strokes"] == []


def test_the_cut_is_pulled_where_it_crosses_something_dear(plain: Bench, page: Page) -> None:
    plain.add("Along a cut", 1)
    expect(page.get_by_label("Join visible").get_by_role("status")).to_contain_text(re.compile(r"\d → now [01]\.\d.*by a cut"))
    page.get_by_label("Show the join in the middle").click()
    before = plain.picture()
    cut = page.locator(".seam-cut path").last
    expect(cut).to_be_visible()
    line = cut.get_attribute("d") or ""
    stage = page.locator(".stage").bounding_box()
    assert stage is not None
    [x, y] = re.findall(r"[ML]([\d.]+) ([\d.]+)", line)[16]
    x, y = stage["x"] + float(x), stage["y"] + float(y)
    width = plain.place()["width"]
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 0.02 * width, y, steps=2)
    page.mouse.move(x + 0.04 * width, y, steps=2)
    page.mouse.up()
    expect(page.get_by_text("1 point pulled")).to_be_visible()
    pulled = plain.picture()
    assert difference(pulled, before) > 0.2
    far = pulled.shape[1] // 8
    assert difference(pulled[:, :far], before[:, :far]) < 0.5
    [[v, at]] = plain.settings("close-seam")["pulls"]
    assert abs(v - 0.5) < 0.05
    assert at > 0.1
    page.keyboard.press("Control+z")
    assert difference(plain.picture(), before) < 0.5


def test_a_second_copy_is_painted_in_over_the_seam(bench: Bench, page: Page) -> None:
    before = bench.picture()
    bench.choose("Ring")
    page.get_by_role("button", name="Cover the seam with a turned copy").click()
    bench.settle()
    assert difference(bench.picture(), before) > 1
    page.get_by_role("button", name=re.compile("^Layer Over the seam")).click()
    page.get_by_role("button", name="Hide all, then paint").click()
    assert difference(bench.picture(), before) < 0.5
    stroke(bench, (0.5, 0.7), (0.5, 0.9))
    after = bench.picture()
    assert difference(part(after, 0.5, 0.8), part(before, 0.5, 0.8)) > 2
    assert difference(part(after, 0.2, 0.3), part(before, 0.2, 0.3)) < 0.5
    # It is live: a change of the ring reaches it too.
    page.get_by_role("button", name=re.compile("^Layer Land")).click()
    bench.choose("Ring")
    page.get_by_label("Size, number").fill("1.1")
    page.keyboard.press("Enter")
    shrunk = bench.picture()
    assert difference(shrunk, after) > 2
    layers = bench.saved()["layers"]
    assert layers[1]["source"]["kind"] == "below"


def test_the_best_loop_stands_beside_the_plain_way_and_keeps_the_worlds_size(
    page: Page, blank: Bench, tmp_path: Path, address: str
) -> None:
    from PIL import Image

    from caracol.core.io.formats import collect
    from tests.pictures import detailed

    # Its edges agree where it is cut: the same columns stand again further on.
    pixels = collect((400, 900), [(0, detailed(400, 900, 11))])
    pixels[:, 700:] = pixels[::-1, 200:0:-1]
    pixels[:, 640:700] = pixels[:, 40:100]
    path = tmp_path / "loops.png"
    Image.fromarray(pixels).save(path)
    photo = Api(address).upload(path.read_bytes(), path.name)
    loop = photo["reading"]["loop"]
    assert loop is not None
    page.goto("/")
    page.get_by_role("button", name=re.compile("^loops")).first.click()
    start = page.get_by_role("button", name=re.compile("^Trim to.*Planet from part"))
    expect(start).to_contain_text(f"Trim to {round((loop['right'] - loop['left']) * 100)} %")
    start.click()
    blank.settle()
    assert blank.settings("crop")["left"] == round(loop["left"], 5)
    assert blank.settings("ring")["reach"] > 1.5
