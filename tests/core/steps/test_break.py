"""The breaking family, on small pictures worked out by hand."""

from __future__ import annotations

import numpy as np
import pytest

from caracol.core.arrays import Array
from caracol.core.blending import LUMA
from caracol.core.render import render
from caracol.core.steps.break_.scan_lines import line_cover
from tests.pictures import OnePhoto, detailed, halved, opaque, piece, psnr

PHOTO = OnePhoto(detailed(400, 800))
GREY = OnePhoto(opaque(np.full((200, 400, 3), 0.5, np.float32)))


def shift_of(moved: Array, still: Array) -> int:
    """Return by how many columns a plane is moved right: where the cross-correlation of its rows has its peak."""
    spectrum = np.fft.rfft(moved - moved.mean(), axis=1) * np.conj(np.fft.rfft(still - still.mean(), axis=1))
    peak = int(np.fft.irfft(spectrum.sum(axis=0), n=moved.shape[1]).argmax())
    return peak - moved.shape[1] if peak > moved.shape[1] // 2 else peak


def test_plates_move_by_their_shift_in_units_and_leave_no_rim() -> None:
    before = render(piece(), 400, PHOTO)
    after = render(piece(("channel-split", {"red_x": -0.1, "blue_y": 0.1})), 400, PHOTO)
    assert shift_of(after[..., 0], before[..., 0]) == -10  # a hundred pixels are a unit
    assert shift_of(after[..., 2].T, before[..., 2].T) == 10
    assert np.array_equal(after[..., 1], before[..., 1])
    assert after[..., 3].min() == 1
    assert np.allclose(after[:, -5:, 0], after[:, -6:-5, 0], atol=2e-2)  # the last column stretched


def test_a_blurred_plate_is_soft_and_the_others_are_not() -> None:
    before = render(piece(), 400, PHOTO)
    after = render(piece(("channel-split", {"green_blur": 0.05})), 400, PHOTO)
    assert after[..., 1].std() < before[..., 1].std() * 0.85
    assert np.array_equal(after[..., 0], before[..., 0])


def test_light_stays_where_only_the_colour_moves() -> None:
    before = render(piece(), 400, PHOTO)
    after = render(piece(("channel-split", {"plates": "light-colour", "colour_x": 0.2})), 400, PHOTO)
    inside = (after[..., :3].min(axis=2) > 0.01) & (after[..., :3].max(axis=2) < 0.99)
    assert np.abs(after[..., :3] @ LUMA - before[..., :3] @ LUMA)[inside].max() < 2e-3
    assert np.abs(after - before).max() > 0.1


def test_lines_lie_at_their_pitch_of_the_height() -> None:
    lines = render(piece(("scan-lines", {"pitch": 0.1, "thickness": 0.5, "softness": 0, "dark": 1, "bright": 0})), 400, GREY)
    profile = lines[:, 0, 0]
    assert np.allclose(profile.reshape(10, 20), profile[:20], atol=1e-3)  # ten lines in two hundred rows
    assert np.allclose(profile[:20], [0.5] * 5 + [0.0] * 10 + [0.5] * 5, atol=1e-3)


@pytest.mark.parametrize("pitch", [0.004, 0.0071, 0.013])
def test_lines_never_alias(pitch: float) -> None:
    """However small the look, its lines average to what they are worth, everywhere alike."""
    settings = {"pitch": pitch, "thickness": 0.5, "softness": 0.3, "dark": 0.8, "bright": 0}
    for size in (64, 100, 233):
        small = render(piece(("scan-lines", settings)), size, GREY)
        assert small[..., 0].mean() == pytest.approx(0.5 * (1 - 0.8 * 0.5), rel=0.03)
        assert psnr(small, halved(render(piece(("scan-lines", settings)), size * 8, GREY), small.shape[:2])) > 40
    cover = line_cover(np.linspace(0, 50, 999), 1.0, 0.4, 0.5)
    assert np.allclose(cover, 0.4, atol=1e-3)  # pixels of a whole pitch


def test_interlace_moves_every_other_line() -> None:
    before = render(piece(), 400, PHOTO)
    after = render(piece(("scan-lines", {"pitch": 0.1, "interlace": 0.1, "dark": 0, "bright": 0})), 400, PHOTO)
    shifts = [shift_of(after[top + 4 : top + 16, :, 0], before[top + 4 : top + 16, :, 0]) for top in range(0, 200, 20)]
    assert sorted(set(shifts)) == [0, 10]
    assert shifts[:4] in ([0, 10, 0, 10], [10, 0, 10, 0])


def test_cells_have_their_mean_in_linear_light() -> None:
    half = np.zeros((40, 80, 3), np.float32)
    half[::2] = 1
    cells = render(piece(("mosaic", {"pitch": 0.5})), 80, OnePhoto(opaque(half)))
    assert np.allclose(cells[..., :3], 0.7354, atol=2e-3)  # half the light, coded
    pattern = render(piece(("mosaic", {"pitch": 0.25})), 80, PHOTO)
    assert np.ptp(pattern[1:9, 1:9], axis=(0, 1)).max() < 1e-5
    assert np.abs(pattern[5, 5] - pattern[5, 15]).max() > 1e-3
    gaps = render(piece(("mosaic", {"pitch": 0.25, "gap": 0.2})), 80, OnePhoto(opaque(np.ones((40, 80, 3), np.float32))))
    assert gaps[..., 0].mean() == pytest.approx(0.64, abs=0.01)


def test_grain_is_even_drawn_by_its_seed_and_the_same_at_every_size() -> None:
    def grained(size: int, **more: float) -> Array:
        return render(piece(("grain", {"amount": 0.5, **more})), size, GREY)

    large = grained(2160)
    assert large[..., :3].mean() == pytest.approx(0.5, abs=2e-3)
    assert large[..., 0].std() == pytest.approx(0.5 * 0.25, rel=0.15)
    assert psnr(grained(540), halved(large, (270, 540))) > 38
    assert grained(128).tobytes() == grained(128).tobytes() != grained(128, seed=9).tobytes()
    grey = grained(256, colour=0)
    assert np.abs(grey[..., 0] - grey[..., 2]).max() < 1e-6
