"""From a photo to an exported planet, with the pointer."""

from __future__ import annotations

import re
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from caracol.core.io.decode import PhotoFolder
from caracol.core.io.formats import collect
from caracol.core.piece.files import check_piece
from caracol.core.render import Context, Renderer

from .bench import Bench


def test_upload_planet_turn_export(page: Page, photo: Path, var: Path, tmp_path: Path) -> None:
    """The job of the product: the exported file is, to the bit, what the core renders from the document as the hand left it."""
    bench = Bench(page, var)
    bench.upload(photo)
    bench.start("Planet")
    bench.choose("Ring")
    before = bench.picture()
    box = bench.place()
    bench.drag(bench.knob("Seam"), (box["x"] + box["width"] * 0.9, box["y"] + box["height"] / 2))
    after = bench.picture()
    seam = bench.settings("ring")["seam"]
    assert seam == pytest.approx(0.25, abs=0.01)
    # From 0.5 to 0.25: the world is turned by a quarter, anticlockwise.
    turned = np.rot90(before)
    assert np.abs(after - turned).mean() < 4
    assert np.abs(after - before).mean() > 12

    page.get_by_role("button", name="Export", exact=True).click()
    page.get_by_label("Format").get_by_text("PNG", exact=True).click()
    page.get_by_label("Longer side in pixels").fill("700")
    page.get_by_label("Longer side in pixels").press("Enter")
    with page.expect_download() as download:
        page.get_by_role("button", name="Export PNG").click()
    file = tmp_path / download.value.suggested_filename
    download.value.save_as(file)
    assert file.name.endswith("-planet-01.png")
    renderer = Renderer(check_piece(bench.saved()), Context(PhotoFolder(photo.parent)))
    assert np.array_equal(np.asarray(Image.open(file)), collect(*renderer.rows(700)))
    expect(page.get_by_role("link", name=re.compile("Download"))).to_be_visible()
    expect(page.get_by_text("700 × 700 ·")).to_be_visible()


def test_what_was_done_is_there_after_reload_and_on_the_shelf(bench: Bench, page: Page) -> None:
    bench.choose("Rim")
    box = bench.place()
    bench.drag(bench.knob("Radius"), (box["x"] + box["width"] * 0.75, box["y"] + box["height"] / 2))
    radius = bench.settings("rim")["radius"]
    assert radius == pytest.approx(0.5, abs=0.03)
    shown = bench.picture()
    page.reload()
    assert np.abs(bench.picture() - shown).max() <= 1
    page.get_by_role("link", name="Shelf", exact=True).click()
    expect(page.get_by_role("link", name=re.compile("^Open photo-")).first).to_be_visible()
