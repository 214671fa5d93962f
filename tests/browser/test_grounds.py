"""Where a trail begins: what a photo's reading advises, and grounds that need no photo."""

from __future__ import annotations

import re
from pathlib import Path

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from .bench import Bench, difference


@pytest.fixture
def leaning(tmp_path: Path) -> Path:
    """Return a photo whose horizon tilted by by 3°, with a foreign strip at its right edge."""
    rng = np.random.default_rng(3)
    y, x = np.mgrid[0:400, 0:900].astype(np.float32)
    ground = y > 210 + (x - 450) * np.tan(np.radians(3))
    picture = np.where(
        ground[..., None], 70 + 20 * rng.standard_normal((400, 900, 3)), (150 + y[..., None] / 8) * np.float32([0.8, 0.9, 1])
    )
    picture[:, 780:] *= np.float32([0.35, 0.3, 0.2])
    path = tmp_path / "leaning-shore.png"
    Image.fromarray(np.clip(picture, 0, 255).astype(np.uint8)).save(path)
    return path


def test_level_it_and_best_loop_in_one_click(page: Page, leaning: Path, var: Path) -> None:
    bench = Bench(page, var)
    bench.upload(leaning)
    expect(page.get_by_role("complementary", name="Photo leaning-shore")).to_contain_text("horizon tilted by 3.0°")
    bench.start("Plain")
    page.get_by_role("button", name="The photo").click()
    page.get_by_role("button", name=re.compile("^Level it tilted by 3.0°")).click()
    assert bench.settings("level")["angle"] == pytest.approx(-3 / 360, abs=0.3 / 360)
    page.get_by_role("button", name="The photo").click()
    loop = page.get_by_role("button", name=re.compile("^Trim to"))
    share = int(re.findall(r"Trim to (\d+) %", loop.inner_text())[0]) / 100
    loop.click()
    crop = bench.settings("crop")
    assert crop["right"] < 0.87
    assert crop["right"] - crop["left"] >= 0.6 - 1e-6
    assert crop["right"] - crop["left"] == pytest.approx(share, abs=0.006)
    page.get_by_role("button", name="The whole piece", exact=True).click()
    finished = bench.picture()
    assert np.abs(finished[:, :4].mean(axis=1) - finished[:, -4:].mean(axis=1)).mean() < 25


def test_a_pattern_is_bent_and_recoloured(page: Page, var: Path) -> None:
    bench = Bench(page, var)
    page.get_by_role("button", name="Start from rings").click()
    bench.settle()
    bench.add("Deep twirl")
    plain = bench.picture()
    # What is drawn is seen in the piece while it is changed.
    page.get_by_role("button", name="The pattern").click()
    assert difference(bench.picture(), plain) < 1
    page.get_by_role("button", name="Stripes", exact=True).click()
    assert bench.saved()["layers"][0]["source"]["form"] == "stripes"
    assert difference(bench.picture(), plain) > 10
    page.keyboard.press("Control+z")
    assert bench.saved()["layers"][0]["source"]["form"] == "rings"
    assert difference(bench.picture(), plain) < 1
