"""The Shelf by hand."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, Route, expect

from caracol.core.io.formats import collect, encode
from tests.api import Api
from tests.pictures import detailed

from .bench import Bench


def test_bad_files_each_say_why_and_the_good_one_is_taken(page: Page, photo: Path, var: Path, tmp_path: Path) -> None:
    empty, text, cut = tmp_path / "empty.jpg", tmp_path / "letter.png", tmp_path / "half.png"
    empty.write_bytes(b"")
    text.write_text("dear marsh")
    cut.write_bytes(photo.read_bytes()[:5000])
    Bench(page, var).upload(empty, text, cut, photo)
    alerts = page.get_by_label("Files on their way").get_by_role("alert")
    expect(alerts).to_have_count(3)
    expect(alerts.filter(has_text="empty.jpg")).to_contain_text("is empty (0 bytes)")
    expect(alerts.filter(has_text="letter.png")).to_contain_text("is not a picture that can be read")
    expect(alerts.filter(has_text="half.png")).to_contain_text("is damaged or cut short")
    alerts.filter(has_text="empty.jpg").get_by_role("button", name="Dismiss").click()
    expect(alerts).to_have_count(2)


def test_rename_search_delete_and_undo(page: Page, photo: Path, var: Path) -> None:
    Bench(page, var).upload(photo)
    name = f"Ebb {photo.stem}"
    side = page.get_by_role("complementary")
    side.get_by_role("button", name=re.compile("Rename")).click()
    side.get_by_label("Name of the photo").fill(name)
    page.keyboard.press("Enter")
    held: list[Route] = []
    page.route(re.compile(r"/api/v1/photos\?search=Ebb"), lambda route: held.append(route))
    page.get_by_label("Search photos").fill(name)
    # Until the answer is there, those of before are only looked at.
    grid = page.locator("section[aria-label=Photos] .cards")
    expect(grid).to_have_js_property("inert", True)
    for route in held:
        route.continue_()
    page.unroute(re.compile(r"/api/v1/photos\?search=Ebb"))
    card = page.get_by_role("button", name=re.compile(f"^{name}"))
    expect(card).to_be_visible()
    expect(grid).to_have_js_property("inert", False)
    expect(page.locator("section[aria-label=Photos] .card")).to_have_count(1)
    side.get_by_role("button", name="Delete").click()
    expect(card).to_be_hidden()
    expect(page.get_by_text("No photo found")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(card).to_be_visible()


def test_many_files_at_once(page: Page, var: Path, tmp_path: Path) -> None:
    """Seventy small files: all are taken, the page stays usable."""
    import numpy as np
    from PIL import Image

    rng = np.random.default_rng(11)
    files = []
    for number in range(70):
        path = tmp_path / f"bulk-{number:03d}.png"
        Image.fromarray(rng.integers(0, 255, (8, 16, 3), np.uint8)).save(path)
        files.append(path)
    page.locator("input[type=file]").set_input_files([str(f) for f in files])
    page.get_by_label("Search photos").fill("bulk")
    expect(page.get_by_label("Files on their way")).to_be_hidden(timeout=90_000)
    cards = page.locator("section[aria-label=Photos] .card")
    expect(cards).to_have_count(60)  # the first page
    # The list may be told of the last files while it is scrolled: to its end as it is, until all are there.
    page.wait_for_function(
        """() => {
          const cards = document.querySelectorAll('section[aria-label=Photos] .card');
          cards[cards.length - 1].scrollIntoView();
          return cards.length === 70;
        }"""
    )


@pytest.mark.parametrize(("start", "square"), [("Sky well", True), ("Tunnel", True), ("Inside-out", True), ("Plain", False)])
def test_every_starting_point_gives_a_picture(page: Page, photo: Path, var: Path, start: str, square: bool) -> None:
    bench = Bench(page, var)
    bench.upload(photo)
    bench.start(start)
    shape = bench.picture().shape
    assert (shape[0] == shape[1]) is square


def test_a_broken_piece_file_says_what_is_wrong(page: Page, tmp_path: Path) -> None:
    path = tmp_path / "broken.json"
    path.write_text('{"caracol": 1, "layers": [{"id": "a", "steps": [{"id": "s", "kind": "rign"}]}]}')
    page.locator("input[type=file]").set_input_files(str(path))
    expect(page.get_by_text("broken.json: layers[0].steps[0]: unknown kind 'rign'; did you mean ring")).to_be_visible()


def test_the_page_does_its_job_under_its_own_policy(chromium: Browser, address: str, photo: Path) -> None:
    """Own scripts, own pictures, own styles: nothing that the policy of its answers would refuse."""
    context = chromium.new_context(viewport={"width": 1280, "height": 800}, base_url=address)
    page = context.new_page()
    refused: list[str] = []
    page.on("console", lambda message: refused.append(message.text) if "Content Security Policy" in message.text else None)
    page.goto("/")
    page.locator("input[type=file]").set_input_files(str(photo))
    page.get_by_label("Start a piece").get_by_role("button", name=re.compile("^Planet")).click()
    page.locator('.stage[data-settled="yes"] img').wait_for()
    page.keyboard.press("a")
    expect(page.locator(".finder .find img").first).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Export", exact=True).click()
    with page.expect_download() as download:
        page.get_by_role("button", name="Export JPEG").click()
    assert download.value.path().stat().st_size > 1000
    assert page.locator(".stage img").evaluate("(img) => img.naturalWidth") > 100
    context.close()
    assert refused == []


def test_what_was_taken_away_is_brought_back(page: Page, address: str, photo: Path) -> None:
    api = Api(address)
    piece = api.piece(photo, called="To come back")
    api.call("DELETE", f"pieces/{piece['id']}")
    page.goto("/")
    expect(page.get_by_role("link", name="Open To come back")).to_have_count(0)
    page.wait_for_load_state("networkidle")  # the link is below lists that are still growing
    page.get_by_role("link", name="Recently deleted").click()
    page.get_by_role("button", name="Restore To come back").click()
    expect(page.get_by_text("“To come back” was restored.")).to_be_visible()
    page.get_by_role("link", name="Back to the Shelf").click()
    expect(page.get_by_role("link", name="Open To come back")).to_be_visible()


def test_several_are_picked_taken_away_brought_back_and_tried_with_a_dropped_folder(page: Page, address: str, tmp_path: Path) -> None:
    api = Api(address)
    for seed in range(5):
        api.upload(small(seed), f"flock {seed}.png")
    page.goto("/")
    page.get_by_label("Search photos").fill("flock")
    photos = page.get_by_role("region", name="Photos")
    picks = photos.get_by_role("checkbox", name=re.compile("^Select flock"))
    expect(picks).to_have_count(5)
    photos.get_by_role("checkbox", name="Select flock 3").check()
    photos.get_by_role("checkbox", name="Select flock 1").click(modifiers=["Shift"])
    bar = page.get_by_role("toolbar", name="Selected photos")
    expect(bar.get_by_role("status")).to_have_text("3 photos selected")
    bar.get_by_role("button", name="Delete").click()
    expect(picks).to_have_count(2)
    expect(bar).to_be_hidden()
    page.get_by_role("button", name="Undo").click()
    expect(picks).to_have_count(5)
    photos.get_by_role("checkbox", name="Select flock 2").check()
    photos.get_by_role("checkbox", name="Select flock 4").check()
    # Enter before the answer has come takes none of those that answered to what was typed before.
    held: list[Route] = []
    page.route(re.compile("/api/v1/recipes.*deep"), lambda route: held.append(route))
    bar.get_by_label("Try a recipe on them").fill("deep twirl")
    expect(page.get_by_text("Looking", exact=True)).to_be_visible()
    page.keyboard.press("Enter")
    held[0].continue_()
    page.locator(".ant-select-item-option").first.click()
    expect(page.get_by_role("heading", name="Deep twirl on 2 photos")).to_be_visible()
    sheet = page.get_by_label("Contact sheet")
    expect(sheet.get_by_role("checkbox", checked=True)).to_have_count(2)
    # A folder as a file manager drops it: its pictures are taken, and picked; what is none says so.
    (tmp_path / "walk" / "more").mkdir(parents=True)
    (tmp_path / "walk" / "more" / "flock 7.png").write_bytes(small(7))
    (tmp_path / "walk" / "letter.txt").write_text("dear marsh")
    drop(page, tmp_path / "walk")
    expect(sheet.get_by_role("checkbox", name="Select flock 7", checked=True)).to_be_visible()
    expect(page.get_by_label("Files on their way").get_by_role("alert")).to_contain_text("is not a picture that can be read")
    expect(page.get_by_role("button", name="Export 3 files")).to_be_enabled()
    expect(page.get_by_role("heading", name="Deep twirl on 3 photos")).to_be_visible()


def small(seed: int) -> bytes:
    return encode(collect((60, 100), [(0, detailed(60, 100, 500 + seed))]), "png")


def drop(page: Page, folder: Path) -> None:
    """Let a folder fall onto the middle of the page, as from a file manager."""
    session = page.context.new_cdp_session(page)
    data = {"items": [], "files": [str(folder)], "dragOperationsMask": 1}
    for kind in ("dragEnter", "dragOver", "drop"):
        session.send("Input.dispatchDragEvent", {"type": kind, "x": 400, "y": 500, "data": data})


def test_photos_are_chosen_by_what_they_are_good_for(page: Page, photo: Path, var: Path) -> None:
    Bench(page, var).upload(photo)
    photos = page.get_by_role("region", name="Photos")
    expect(photos.get_by_role("button", name=re.compile(photo.stem))).to_be_visible()
    page.get_by_label("Good for").click()
    page.locator(".ant-select-item-option").filter(has_text="Good for cut-out").click()
    expect(photos.get_by_role("button", name=re.compile(photo.stem))).to_have_count(0)
