"""What happens to points that leave a frame, worked out by hand."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from caracol.core.geometry.edges import Edge, apply_edge
from caracol.core.geometry.frame import Frame

WIDE = Frame(2.0)  # from -2 to 2 across, -1 to 1 down


def led(edge: Edge, *points: tuple[float, float]) -> list[tuple[float, float]]:
    x, y = (np.array(values, np.float32) for values in zip(*points, strict=True))
    apply_edge(x, y, WIDE, edge)
    return [(round(float(a), 4), round(float(b), 4)) for a, b in zip(x, y, strict=True)]


def test_inside_nothing_happens() -> None:
    points = [(0.0, 0.0), (-1.9, 0.9), (1.9, -0.9)]
    for edge in ("tile", "mirror", "stretch", "empty", "beyond"):
        assert led(edge, *points) == points


def test_tile_comes_in_again_at_the_other_side() -> None:
    assert led("tile", (2.5, 0), (-2.5, 0), (0, 1.25), (0, -1.25), (6.5, 0)) == [(-1.5, 0), (1.5, 0), (0, -0.75), (0, 0.75), (-1.5, 0)]


def test_mirror_goes_back_the_way_it_came_and_forth_again() -> None:
    assert led("mirror", (2.5, 0), (-2.5, 0), (0, 1.25), (6.5, 0), (8.5, 0)) == [(1.5, 0), (-1.5, 0), (0, 0.75), (-1.5, 0), (0.5, 0)]


def test_stretch_stays_at_the_border_on_both_axes() -> None:
    assert led("stretch", (2.5, 0.5), (-9, 3), (1, -1.01)) == [(2, 0.5), (-2, 1), (1, -1)]


def test_empty_tells_what_is_outside_and_moves_nothing() -> None:
    x, y = np.float32([0, 2, 2.1, 0, -2.1]), np.float32([0, 1, 0, -1.1, 5])
    outside = apply_edge(x, y, WIDE, "empty")
    assert outside is not None
    assert outside.tolist() == [False, False, True, True, True]
    assert x.tolist() == pytest.approx([0, 2, 2.1, 0, -2.1])


def test_beyond_lets_points_go() -> None:
    assert led("beyond", (7, -7)) == [(7, -7)]


@given(st.floats(-50, 50), st.floats(-50, 50), st.sampled_from(["tile", "mirror", "stretch"]))
def test_folded_points_lie_inside_and_stay_when_folded_again(px: float, py: float, edge: Edge) -> None:
    x, y = np.float32([px]), np.float32([py])
    assert apply_edge(x, y, WIDE, edge) is None
    assert abs(x[0]) <= 2 + 1e-4
    assert abs(y[0]) <= 1 + 1e-4
    again_x, again_y = x.copy(), y.copy()
    apply_edge(again_x, again_y, WIDE, edge)
    assert (again_x[0], again_y[0]) == (pytest.approx(x[0], abs=1e-4), pytest.approx(y[0], abs=1e-4))


@given(st.floats(-20, 20))
def test_a_mirror_is_even_about_its_border(beyond: float) -> None:
    there, back = np.float32([2 + beyond]), np.float32([2 - beyond])
    for values in (there, back):
        apply_edge(values, np.zeros(1, np.float32), WIDE, "mirror")
    assert there[0] == pytest.approx(back[0], abs=1e-4)
