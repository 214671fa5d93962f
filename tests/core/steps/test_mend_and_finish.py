"""Close seam, rim, tone."""

from __future__ import annotations

import numpy as np
import pytest

from caracol.core.render import render
from caracol.core.steps.mend.close_seam import CloseSeamSettings, measure_join
from tests.pictures import OnePhoto, opaque, piece, smooth


def leaning(drop: float, tone: float) -> np.ndarray:
    """A horizon that lies `drop` of the height lower at the right, the right side lighter by `tone`."""
    v, u = np.mgrid[0:200, 0:600].astype(np.float32)
    u, v = (u + 0.5) / 600, (v + 0.5) / 200
    line = 0.5 + drop * (u - 0.5)
    ground = 1 / (1 + np.exp(-(v - line) * 60))
    grey = 0.25 + 0.4 * ground + tone * (u - 0.5)
    return opaque(np.repeat(grey[..., None], 3, axis=2))


def test_level_off_measures_drop_and_tone() -> None:
    found = measure_join(leaning(0.04, 0.1), CloseSeamSettings(level_off=True, crossfade=True, width=0.06))
    assert found["drop"] == pytest.approx(0.04, abs=0.003)
    assert np.median(found["tone"]) == pytest.approx(0.1, abs=0.01)


@pytest.mark.parametrize(("drop", "tone"), [(0.04, 0.0), (0.0, 0.15), (-0.05, -0.1)])
def test_both_edges_meet(drop: float, tone: float) -> None:
    photo = OnePhoto(leaning(drop, tone))
    before = render(piece(), 600, photo)
    after = render(piece(("close-seam", {})), 600, photo)
    step = np.abs(after[:, 0, 0] - after[:, -1, 0])
    assert step.max() < 0.02
    assert step.max() < np.abs(before[:, 0, 0] - before[:, -1, 0]).max() / 4


def test_crossfade_leaves_the_rest_to_the_bit() -> None:
    photo = OnePhoto(leaning(0.04, 0.1))
    before, after = render(piece(), 600, photo), render(piece(("close-seam", {"level_off": False, "width": 0.1})), 600, photo)
    assert np.array_equal(after[:, 60:-60], before[:, 60:-60])
    assert not np.array_equal(after[:, :60], before[:, :60])


def test_rim_takes_the_colour_that_lies_along_the_circle() -> None:
    photo = np.full((100, 100, 3), (0.2, 0.4, 0.8), np.float32)
    photo[45:55] = 1
    result = render(piece(("rim", {"radius": 0.7, "width": 0.1})), 100, OnePhoto(opaque(photo)))
    assert result[0, 0, :3] == pytest.approx((0.2, 0.4, 0.8), abs=0.01)
    assert result[50, 50, 0] > 0.99


def test_rim_into_a_colour_or_into_nothing() -> None:
    photo = OnePhoto(smooth())
    coral = render(piece(("rim", {"radius": 0.5, "width": 0.2, "colour": "#ff8000"})), 200, photo)
    assert coral[50, 0, :3] == pytest.approx((1, 128 / 255, 0), abs=0.005)
    clear = render(piece(("rim", {"radius": 0.5, "width": 0.0, "into": "nothing"})), 200, photo)
    assert clear[50, 0].max() == 0
    assert clear[50, 100, 3] == 1


def test_tone_by_hand() -> None:
    codes = np.array([[0.0, 0.2, 0.5, 0.8, 1.0]], np.float32)
    photo = OnePhoto(opaque(np.repeat(np.repeat(codes, 2, axis=0)[..., None], 3, axis=2)))

    def result(**settings: float) -> list[float]:
        return [round(float(v), 3) for v in render(piece(("tone", settings)), 5, photo)[0, :, 0]]

    assert result(black=0.2, white=0.8) == pytest.approx([0, 0, 0.5, 1, 1], abs=0.002)
    assert result(gamma=2) == pytest.approx([0, 0.447, 0.707, 0.894, 1], abs=0.002)
    assert result(brightness=0.1) == pytest.approx([0.1, 0.3, 0.6, 0.9, 1], abs=0.002)
    assert result(contrast=-0.5) == pytest.approx([0.25, 0.35, 0.5, 0.65, 0.75], abs=0.002)
    assert result(contrast=0.5) == pytest.approx([0, 0, 0.5, 1, 1], abs=0.002)
