"""Pixel sort against a slow reading of its rule in plain Python."""

from __future__ import annotations

import itertools
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from caracol.core.arrays import Array
from caracol.core.geometry.frame import Frame
from caracol.core.geometry.rows import Rows
from caracol.core.pixels.ordering import going_round, polar_lines, straight_lines
from caracol.core.pixels.raster import Raster
from caracol.core.render import render
from caracol.core.steps.break_.pixel_sort import PixelSortSettings, pixel_sort, runs_shown
from tests.pictures import OnePhoto, detailed, opaque, piece


def sorted_by(picture: Array, keep: Array | None = None, **given_: Any) -> Array:
    rows, cols = picture.shape[:2]
    return pixel_sort(picture, Raster(Rows(Frame(cols / rows), rows, cols), keep), PixelSortSettings(**given_))


def light(pixel: Array) -> np.float32:
    r, g, b = (np.float32(v) for v in pixel[:3])
    return np.float32(np.float32(0.2126) * r + np.float32(0.7152) * g + np.float32(0.0722) * b)


def slowly(line: list[Array], low: float, high: float, falling: bool) -> list[Array]:
    """Order one line as the rule says: longest stretches within the thresholds, each stably."""
    out: list[Array] = []
    run: list[Array] = []
    for pixel in [*line, None]:
        if pixel is not None and np.float32(low) <= light(pixel) <= np.float32(high):
            run.append(pixel)
            continue
        # Python's sort is stable, also in reverse.
        out += sorted(run, key=light, reverse=falling)
        run = []
        if pixel is not None:
            out.append(pixel)
    return out


@settings(max_examples=60, deadline=None)
@given(
    seed=st.integers(0, 10_000),
    shape=st.tuples(st.integers(1, 12), st.integers(1, 40)),
    levels=st.sampled_from([2, 5, 40, 5000]),
    low=st.floats(0, 0.6),
    span=st.floats(0, 1),
    way=st.sampled_from([0.0, 0.25, 0.5, 0.75]),
    order=st.sampled_from(["rising", "falling"]),
)
def test_sorted_as_the_slow_reference(
    seed: int, shape: tuple[int, int], levels: int, low: float, span: float, way: float, order: str
) -> None:
    rng = np.random.default_rng(seed)
    picture = opaque((rng.integers(0, levels, (*shape, 3)) / max(levels - 1, 1)).astype(np.float32))
    high = min(1.0, low + span)
    found = sorted_by(picture, heading=way, low=low, high=high, order=order)
    turned = {0.25: picture, 0.75: picture[:, ::-1], 0.5: picture.transpose(1, 0, 2), 0.0: picture.transpose(1, 0, 2)[:, ::-1]}[way]
    expected = np.array([slowly(list(line), low, high, order == "falling") for line in turned])
    back = {0.25: expected, 0.75: expected[:, ::-1], 0.5: expected.transpose(1, 0, 2), 0.0: expected[:, ::-1].transpose(1, 0, 2)}[way]
    assert np.array_equal(found, back)


@pytest.mark.parametrize("order", ["rising", "falling"])
@pytest.mark.parametrize("length", [6, 20, 300, 5000])
def test_equal_keys_keep_their_order(length: int, order: str) -> None:
    """The key is red; green says where a pixel came from."""
    red = np.random.default_rng(length).integers(1, 4, length) / 4
    green = np.arange(length) / length
    picture = opaque(np.stack([red, green, green], axis=-1)[None].astype(np.float32))
    found = sorted_by(picture, heading=0.25, key="red", low=0, high=1, order=order)[0]
    expected = sorted(picture[0], key=lambda pixel: float(pixel[0]), reverse=order == "falling")
    assert np.array_equal(found, np.array(expected))


@settings(max_examples=25, deadline=None)
@given(seed=st.integers(0, 999), heading=st.floats(-1, 1), along=st.sampled_from(["heading", "round", "outwards"]), jitter=st.floats(0, 1))
def test_pixels_only_change_places(seed: int, heading: float, along: str, jitter: float) -> None:
    picture = detailed(30, 46, seed)
    found = sorted_by(picture, heading=heading, along=along, x=0.2, jitter=jitter, seed=seed, longest=0.7, shortest=0.05, breaks=0.5)
    flat = np.sort(np.ascontiguousarray(picture).view([("", np.float32)] * 4).ravel())
    assert np.array_equal(np.sort(np.ascontiguousarray(found).view([("", np.float32)] * 4).ravel()), flat)


def test_every_pixel_lies_on_one_line() -> None:
    for lines in (
        straight_lines(17, 23, 0.13),
        straight_lines(17, 23, 0.9),
        polar_lines(17, 23, 4, 9, "round"),
        polar_lines(17, 23, 30, -2, "outwards"),
    ):
        assert lines.flat is not None
        assert np.array_equal(np.sort(lines.flat), np.arange(17 * 23))
        assert lines.starts[0] == 0
        assert lines.starts[-1] == 17 * 23


def test_slanting_lines_go_one_pixel_at_a_time() -> None:
    lines = straight_lines(40, 60, 0.4)
    assert lines.flat is not None
    for a, b in zip(lines.starts[:-1], lines.starts[1:], strict=True):
        row, col = np.divmod(lines.flat[a:b], 60)
        assert (np.diff(row) == 1).all()
        assert (np.abs(np.diff(col)) <= 1).all()


def test_longest_runs_edges_and_kept_places_cut_runs() -> None:
    ramp = np.linspace(0.9, 0.3, 80, dtype=np.float32)
    picture = opaque(np.repeat(ramp[None, :, None], 3, axis=2).repeat(4, axis=0))
    whole = sorted_by(picture, heading=0.25, low=0, high=1)
    assert np.allclose(whole[0, :, 0], ramp[::-1])
    # Forty pixels are a quarter of the four units of this frame's width: runs of ten are half a unit here.
    cut = sorted_by(picture, heading=0.25, low=0, high=1, longest=0.5, shortest=0.5)
    assert (np.sign(np.diff(cut[0, :, 0])) < 0).sum() >= 7
    kept = np.zeros((4, 80), np.float32)
    kept[:, 30:50] = 1
    held = sorted_by(picture, kept, heading=0.25, low=0, high=1)
    assert np.array_equal(held[:, 31:50], picture[:, 31:50])
    assert not np.array_equal(held[:, :30], picture[:, :30])
    step = picture.copy()
    step[:, 40:, :3] *= 0.4
    broken = sorted_by(step, heading=0.25, low=0, high=1, breaks=0.8)
    assert np.allclose(broken[0, :40, 0], ramp[:40][::-1], atol=1e-6)


def test_runs_are_shown_where_they_are() -> None:
    row = np.array([0.1, 0.5, 0.6, 0.1, 0.7, 0.5, 0.4, 0.95], np.float32)
    picture = opaque(np.repeat(row[None, :, None], 3, axis=2))
    shown = runs_shown(picture, Raster(Rows(Frame(8.0), 1, 8)), PixelSortSettings(heading=0.25, low=0.3, high=0.8))[0]
    assert np.array_equal(shown > 0, [False, True, True, False, True, True, True, False])
    assert shown[1] != shown[4]


def test_what_is_not_sorted_keeps_its_detail_at_every_size() -> None:
    photo = OnePhoto(detailed(400, 800))
    before, after = (render(piece(*steps), 800, photo) for steps in ((), (("pixel-sort", {"low": 0.6, "high": 0.7, "lines": 100}),)))
    same = (before == after).all(axis=-1)
    assert 0.2 < same.mean() < 0.98


def test_orbits_are_not_cut_where_they_begin() -> None:
    """A bright stretch across the top of a dark ring is one run: it is sorted as a whole, and nothing dark lies between its halves."""
    size = 121
    y, x = np.mgrid[0:size, 0:size] - size // 2
    ang = (np.arctan2(x, -y) / (2 * np.pi)) % 1
    off = (ang + 0.5) % 1 - 0.5  # 0 at the top, clockwise positive
    bright = np.abs(off) < 0.15
    # Brightest at its clockwise end already, so that the sorted run is the picture itself, if it is one run.
    grey = np.where(bright, 0.5 + off, 0.05).astype(np.float32)
    picture = opaque(np.repeat(grey[..., None], 3, axis=2))
    found = sorted_by(picture, along="round", low=0.3, high=0.9, lines=0)
    ring = np.abs(np.hypot(x, y) - 40) < 8
    assert np.abs(found - picture)[ring].max() < 0.02
    backwards = sorted_by(picture, along="round", low=0.3, high=0.9, lines=0, order="falling")[..., 0]
    at = {share: backwards[ring & (np.abs(off - share) < 0.01)].mean() for share in (-0.13, -0.03, 0.03, 0.13)}
    assert at[-0.13] > at[-0.03] > at[0.03] > at[0.13]


def test_a_closed_run_begins_with_what_comes_first() -> None:
    rng = np.random.default_rng(2)
    picture = opaque(rng.uniform(0.3, 0.7, (41, 41, 3)).astype(np.float32))
    pixels, lines = picture.reshape(-1, 4), polar_lines(41, 41, 20.5, 20.5, "round")
    assert lines.flat is not None
    turned = going_round(lines, pixels[lines.flat], 0, 0, 1, falling=False)
    assert turned.flat is not None
    for a, b in itertools.pairwise(turned.starts):
        assert sorted(turned.flat[a:b]) == sorted(lines.flat[a:b])
        keys = [light(pixels[at]) for at in turned.flat[a:b]]
        assert keys[0] == min(keys)
