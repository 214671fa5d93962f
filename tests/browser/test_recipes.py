"""A recipe's life, by hand: kept with dials, tried on photos, used on another piece; and files that open their piece again."""

from __future__ import annotations

import base64
import io
import re
import zipfile
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw
from playwright.sync_api import Download, Locator, Page, expect

from caracol.core.io.formats import collect
from tests.api import Api
from tests.pictures import detailed

from .bench import Bench, difference

SHOWN = """async (image) => {
  const bytes = new Uint8Array(await (await fetch(image.src)).arrayBuffer());
  return btoa(Array.from(bytes, (b) => String.fromCharCode(b)).join(''));
}"""


def shown(image: Locator) -> np.ndarray:
    """Return the pixels of a picture on the page."""
    return np.asarray(Image.open(io.BytesIO(base64.b64decode(image.evaluate(SHOWN)))).convert("RGB")).astype(int)


def leave_open(page: Page, *labels: str) -> None:
    """Leave settings of the piece open as dials."""
    box = page.get_by_label("Dials")
    for label in labels:
        box.fill(label)
        page.locator(".ant-select-item-option").filter(has_text=re.compile(f"^{label}$")).first.click()
    page.keyboard.press("Escape")


def run_on_four(page: Page, sheet: Locator) -> None:
    """Run the recipe on four of the photos, and look into the ZIP that is downloaded."""
    for seed in (20, 21, 22, 23):
        sheet.get_by_label(f"Select six {seed}").check()
    page.get_by_label("Longer side of the files").fill("160")
    page.get_by_label("Longer side of the files").press("Enter")
    page.get_by_label("Format").get_by_text("PNG", exact=True).click()
    shown_there = shown(sheet.get_by_role("listitem").filter(has_text="six 21").locator("img.there"))
    page.get_by_role("button", name="Export 4 files").click()
    expect(page.get_by_role("status").filter(has_text="4 of 4 done")).to_be_visible()
    expect(page.get_by_label("Photos of the run").locator("img")).to_have_count(4)
    with page.expect_download() as download:
        page.get_by_role("link", name="All 4 files as a ZIP").click()
    archive = zipfile.ZipFile(download.value.path())
    assert sorted(archive.namelist()) == [f"six {seed}-whirlpool-of-six.png" for seed in (20, 21, 22, 23)]
    file = Image.open(io.BytesIO(archive.read("six 21-whirlpool-of-six.png"))).convert("RGB")
    assert max(file.size) == 160
    there = Image.fromarray(shown_there.astype(np.uint8)).resize(file.size, Image.Resampling.BOX)
    assert difference(np.asarray(file).astype(int), np.asarray(there).astype(int)) < 6


def test_a_recipe_with_two_dials_is_kept_tried_on_six_photos_and_made(page: Page, address: str, var: Path, photo: Path) -> None:
    api = Api(address)
    for seed in range(20, 26):
        out = io.BytesIO()
        Image.fromarray(collect((120, 200), [(0, detailed(120, 200, seed))])).save(out, "PNG")
        api.upload(out.getvalue(), f"six {seed}.png")
    piece = api.piece(photo, ("twirl", {"turns": 0.2, "reach": 1.2}), ("tone", {"contrast": 0.1}))
    bench = Bench(page, var).open(piece)
    page.get_by_role("button", name="Recipes", exact=True).click()
    panel = page.get_by_role("complementary", name="Recipes")
    panel.get_by_label("Name of the new recipe").fill("Whirlpool of six")
    leave_open(page, "Turns", "Contrast")
    panel.get_by_role("button", name="Save recipe").click()
    expect(page.get_by_text("“Whirlpool of six” was saved.")).to_be_visible()
    page.get_by_role("link", name="Shelf", exact=True).click()
    page.get_by_role("link", name="Recipes", exact=True).click()
    page.get_by_role("button", name=re.compile("^Whirlpool of six")).first.click()
    page.get_by_role("button", name="Try it on your photos").click()
    sheet = page.get_by_label("Contact sheet")
    item = sheet.get_by_role("listitem").filter(has_text="six 21")
    item.scroll_into_view_if_needed()
    image = item.locator("img.there")
    before = shown(image)
    page.get_by_label("Turns, number").fill("1.4")
    page.get_by_label("Turns, number").press("Enter")
    page.wait_for_function("(image) => image.src.includes('1.4') && image.complete", arg=image.element_handle())
    after = shown(image)
    assert difference(before, after) > 6
    for name in ("six 21", "six 24"):
        sheet.get_by_label(f"Select {name}").check()
    page.get_by_role("button", name="Make 2 pieces").click()
    expect(page.get_by_text("2 pieces are on the Shelf")).to_be_visible()
    run_on_four(page, sheet)
    made = {row["name"]: row for row in api.call("GET", "pieces?limit=10")["items"]}
    bench.open(made["six 21, whirlpool of six"])
    assert bench.settings("twirl")["turns"] == 1.4
    stage = Image.fromarray(bench.picture().astype(np.uint8)).resize(after.shape[1::-1], Image.Resampling.BOX)
    assert difference(np.asarray(stage).astype(int), after) < 4


def test_a_recipe_takes_a_pieces_place_with_one_undo_and_again_by_a_key(page: Page, address: str, var: Path, photo: Path) -> None:
    bench = Bench(page, var).open(Api(address).piece(photo, ("tone", {"contrast": 0.1}), called="To be taken"))
    before = bench.picture()
    page.get_by_role("button", name="Recipes", exact=True).click()
    page.get_by_label("Search recipes").fill("deep twirl")
    page.get_by_role("button", name=re.compile("^Deep twirl")).click()
    page.get_by_role("button", name="Compare").click()
    expect(page.locator(".stage").get_by_text("Deep twirl")).to_be_visible()
    page.get_by_role("button", name="Use it").click()
    expect(page.get_by_role("button", name=re.compile("^Step 2, Twirl$"))).to_be_visible()
    twirled = bench.picture()
    assert difference(twirled, before) > 6
    page.get_by_role("button", name="Undo", exact=True).click()
    assert difference(bench.picture(), before) < 1
    page.locator("body").press("b")
    expect(page.get_by_role("button", name=re.compile("^Step 2, Twirl$"))).to_be_visible()
    assert difference(bench.picture(), twirled) < 1


def test_a_delivered_file_opens_its_piece(page: Page, address: str, var: Path, photo: Path, tmp_path: Path) -> None:
    bench = Bench(page, var).open(Api(address).piece(photo, ("twirl", {"turns": 0.4}), called="Delivered"))
    seen = bench.picture()
    page.get_by_role("button", name="Export", exact=True).click()
    page.get_by_label("Format").get_by_text("TIFF", exact=True).click()
    page.get_by_label("Bits per channel").get_by_text("16").click()
    page.get_by_label("Longer side in pixels").fill("500")
    page.get_by_label("Longer side in pixels").press("Enter")
    page.get_by_role("button", name="Add another size").click()
    page.get_by_role("radio", name="Square post").click()
    expect(page.get_by_role("status").filter(has_text="1080 × 1080 px")).to_be_visible()
    page.get_by_label("Longer side in pixels").fill("300")
    page.get_by_label("Longer side in pixels").press("Enter")
    downloads: list[Download] = []
    page.on("download", lambda download: downloads.append(download))
    page.get_by_role("button", name="Export 2 files").click()
    expect(page.get_by_role("link", name=re.compile("Download"))).to_have_count(2)
    while len(downloads) < 2:
        page.wait_for_event("download")
    files = [tmp_path / download.suggested_filename for download in downloads]
    for download, path in zip(downloads, files, strict=True):
        download.save_as(path)
    sizes = sorted(Image.open(path).size for path in files)
    assert sizes[0] == (300, 300)
    page.get_by_role("link", name="Shelf", exact=True).click()
    page.locator("input[type=file]").set_input_files(next(path for path in files if Image.open(path).size != (300, 300)))
    expect(page).to_have_url(re.compile("/bench/"))
    assert bench.settings("twirl")["turns"] == 0.4
    expect(page.get_by_text("was opened")).to_be_visible()
    page.reload()  # as large as at first: the size of the last export is forgotten
    assert difference(bench.picture(), seen) < 1


def test_several_recipes_picked_on_one_photo_all_become_pieces(page: Page, address: str, photo: Path) -> None:
    api = Api(address)
    row = api.upload(photo.read_bytes(), photo.name)
    page.goto(f"/recipes/on/{row['id']}")
    sheet = page.get_by_label("Contact sheet")
    for name in ("Deep twirl", "Comb"):
        sheet.get_by_role("checkbox", name=f"Select {name}", exact=True).check()
    before = api.call("GET", "pieces")["count"]
    page.get_by_role("button", name="Make 2 pieces").click()
    expect(sheet.get_by_role("checkbox", checked=True)).to_have_count(0)
    pieces = api.call("GET", "pieces")
    assert pieces["count"] == before + 2
    made = [api.call("GET", f"pieces/{piece['id']}")["document"]["layers"][0] for piece in pieces["items"][:2]]
    assert {layer["source"]["photo"] for layer in made} == {row["file_name"]}
    assert made[0]["steps"] != made[1]["steps"]


def test_a_figure_is_chosen_for_all_photos_of_a_try(page: Page, address: str, photo: Path) -> None:
    api = Api(address)
    land = api.upload(photo.read_bytes(), "figure-ground.png")["file_name"]
    for name, colour in (("red disc", (220, 40, 30)), ("blue disc", (30, 60, 220))):
        disc = Image.new("RGBA", (60, 60))
        ImageDraw.Draw(disc).ellipse((5, 5, 55, 55), fill=(*colour, 255))
        out = io.BytesIO()
        disc.save(out, "PNG")
        api.upload(out.getvalue(), f"{name}.png")
    recipe = api.call("GET", "recipes?search=planet%20in%20fog")["items"][0]["id"]
    page.goto(f"/recipes/{recipe}/try")
    one = page.get_by_label("Contact sheet").get_by_role("listitem").filter(has_text="figure-ground")
    one.scroll_into_view_if_needed()
    expect(one.locator("img.there")).to_be_visible()
    page.get_by_label("Photo for Cut-out").fill("blue")
    with page.expect_response(lambda answer: "slots" in answer.url and land in answer.url):
        page.locator(".ant-select-item-option").filter(has_text="blue disc").click()
    picture = shown(one.locator("img.there"))
    blue = (picture[..., 2] > 150) & (picture[..., 0] < 110) & (picture[..., 2] - picture[..., 0] > 90)
    assert blue.sum() > 300
    one.get_by_role("checkbox").check()
    page.get_by_role("button", name="Make a piece").click()
    expect(page).to_have_url(re.compile("/bench/"))
    layers = api.call("GET", f"pieces/{page.url.rsplit('/', 1)[1]}")["document"]["layers"]
    assert [layer["source"]["photo"] for layer in layers if layer["source"].get("photo")] == [land, "blue disc.png"]
