"""Crop, level, refit, turn, wrap shift on small pictures worked out by hand."""

from __future__ import annotations

import numpy as np
import pytest

from caracol.core.arrays import Array
from caracol.core.errors import PieceError
from caracol.core.render import render
from caracol.core.steps.prepare.level import upright_box
from tests.pictures import OnePhoto, opaque, piece

STEPS = np.array([[0, 1, 2, 3], [4, 5, 6, 7]], np.float32) / 7
PHOTO = OnePhoto(opaque(np.repeat(STEPS[..., None], 3, axis=2)))


def values(picture: Array) -> list[list[float]]:
    return [[round(float(v) * 7, 1) + 0.0 for v in row] for row in picture[..., 0]]


def test_crop_keeps_its_box() -> None:
    assert values(render(piece(("crop", {"left": 0.5})), 2, PHOTO)) == [[2, 3], [6, 7]]
    assert values(render(piece(("crop", {"top": 0.5})), 4, PHOTO)) == [[4, 5, 6, 7]]


def test_crop_without_room_is_refused() -> None:
    with pytest.raises(PieceError, match=r"layers\[0\]\.steps\[0\]\.settings: the box must keep at least 1%"):
        piece(("crop", {"left": 0.6, "right": 0.5}))


@pytest.mark.parametrize(
    ("settings", "expected"),
    [
        ({"quarters": 1}, [[4, 0], [5, 1], [6, 2], [7, 3]]),
        ({"quarters": 2}, [[7, 6, 5, 4], [3, 2, 1, 0]]),
        ({"quarters": 3}, [[3, 7], [2, 6], [1, 5], [0, 4]]),
        ({"flip_x": True}, [[3, 2, 1, 0], [7, 6, 5, 4]]),
        ({"flip_y": True}, [[4, 5, 6, 7], [0, 1, 2, 3]]),
        ({"flip_x": True, "quarters": 1}, [[7, 3], [6, 2], [5, 1], [4, 0]]),
        ({"angle": 0.5}, [[7, 6, 5, 4], [3, 2, 1, 0]]),
    ],
)
def test_turn_is_clockwise_and_flips_first(settings: dict[str, object], expected: list[list[int]]) -> None:
    assert values(render(piece(("turn", settings)), 4, PHOTO)) == expected


def test_wrap_shift_moves_right_and_down_round_the_back() -> None:
    assert values(render(piece(("wrap-shift", {"across": 0.25})), 4, PHOTO)) == [[3, 0, 1, 2], [7, 4, 5, 6]]
    assert values(render(piece(("wrap-shift", {"down": 0.5})), 4, PHOTO)) == [[4, 5, 6, 7], [0, 1, 2, 3]]


def test_refit_covers_contains_and_squashes() -> None:
    assert values(render(piece(("refit", {"ratio": 1, "how": "cover"})), 2, PHOTO)) == [[1, 2], [5, 6]]
    contained = render(piece(("refit", {"ratio": 1, "how": "contain", "edge": "empty"})), 4, PHOTO)
    assert contained[0, :, 3].max() == 0
    assert values(contained[1:3]) == [[0, 1, 2, 3], [4, 5, 6, 7]]
    assert render(piece(("refit", {"ratio": 0.5, "how": "squash"})), 4, PHOTO).shape == (4, 2, 4)


def test_level_turns_clockwise_and_crops_to_an_upright_box() -> None:
    """A line that falls to the right by 10° lies level after -10°; nothing from outside is seen."""
    y, x = np.mgrid[-1:1:200j, -2:2:400j].astype(np.float32)
    line = (y > np.tan(np.radians(10)) * x).astype(np.float32)
    photo = OnePhoto(opaque(np.repeat(line[..., None], 3, axis=2)))
    result = render(piece(("level", {"angle": -10 / 360})), 300, photo)
    rows = result.shape[0]
    assert result[: rows // 2 - 3, :, 0].max() < 0.05
    assert result[rows // 2 + 3 :, :, 0].min() > 0.95
    assert result[..., 3].min() == 1


def test_upright_box_of_a_square_turned_by_an_eighth() -> None:
    w, h = upright_box(1.0, 0.125)
    assert w == pytest.approx(h)
    assert w == pytest.approx(1 / np.sqrt(2))


def test_level_can_keep_the_frame() -> None:
    assert render(piece(("level", {"angle": 0.02, "corners": "fill"})), 40, PHOTO).shape == (20, 40, 4)
