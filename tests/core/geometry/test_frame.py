"""Frames: units, pixels, shares, and where pixel centres lie."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from caracol.core.geometry.frame import Frame

RATIOS = st.floats(0.05, 20)


def test_pixel_centres_lie_at_half_integers() -> None:
    x, y = Frame(2.0).grid(2, 4)
    assert x[0].tolist() == [-1.5, -0.5, 0.5, 1.5]
    assert y[:, 0].tolist() == [-0.5, 0.5]


def test_a_tall_frame_has_its_unit_across() -> None:
    x, y = Frame(0.5).grid(4, 2)
    assert x[0].tolist() == [-0.5, 0.5]
    assert y[:, 0].tolist() == [-1.5, -0.5, 0.5, 1.5]


def test_strips_and_their_halo_are_parts_of_the_whole() -> None:
    frame = Frame(1.5)
    x, y = frame.grid(20, 30)
    part_x, part_y = frame.grid(20, 30, 6, 4)
    assert np.array_equal(part_x, x[6:10])
    assert np.array_equal(part_y, y[6:10])
    around_x, around_y = frame.grid(20, 30, 6, 4, halo=1)
    assert np.array_equal(around_x[1:-1, 1:-1], part_x)
    assert np.array_equal(around_y[:, 3], frame.grid(20, 30, 5, 6)[1][:, 2])


@pytest.mark.parametrize(("ratio", "size"), [(1, (90, 90)), (2, (45, 90)), (0.5, (90, 45)), (9 / 16, (90, 51)), (500, (1, 90))])
def test_pixels_of_a_ratio(ratio: float, size: tuple[int, int]) -> None:
    assert Frame(ratio).pixels(90) == size


@given(RATIOS, st.floats(-3, 3), st.floats(-3, 3))
def test_shares_and_units_undo_each_other(ratio: float, x: float, y: float) -> None:
    frame = Frame(ratio)
    u, v = frame.to_shares(np.float64(x), np.float64(y))
    back_x, back_y = frame.from_shares(u, v)
    assert (back_x, back_y) == (pytest.approx(x, abs=1e-9), pytest.approx(y, abs=1e-9))


@given(RATIOS)
def test_the_shorter_half_is_one_and_corners_are_the_ends_of_shares(ratio: float) -> None:
    frame = Frame(ratio)
    assert min(frame.half_w, frame.half_h) == 1
    assert frame.half_w / frame.half_h == pytest.approx(ratio)
    assert frame.to_shares(np.float64(-frame.half_w), np.float64(frame.half_h)) == (0, 1)
