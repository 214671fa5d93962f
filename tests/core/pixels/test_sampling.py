"""The sampler against references computed the slow way."""

from __future__ import annotations

import cv2
import numpy as np

from caracol.core.arrays import Array
from caracol.core.pixels.light import coded_to_linear, from_texels, linear_to_coded, to_texels
from caracol.core.pixels.raster import doubled
from caracol.core.render import render
from tests.pictures import OnePhoto, detailed, opaque, piece, psnr, smooth


def ring_reference(photo: Array, size: int, parts: int = 8) -> Array:
    """Average parts × parts readings per pixel in linear light; inside bottom, even."""
    linear = coded_to_linear(photo[..., :3])
    rows, cols = linear.shape[:2]
    total = np.zeros((size, size, 3))
    for i in range(parts):
        for j in range(parts):
            x = (np.arange(size) + (i + 0.5) / parts) * 2 / size - 1
            y = (np.arange(size) + (j + 0.5) / parts) * 2 / size - 1
            px, py = np.meshgrid(x, y)
            u = np.mod(np.arctan2(px, -py) / (2 * np.pi) - 0.5, 1)
            v = np.clip(1 - np.hypot(px, py), 0, 1)
            total += cv2.remap(
                linear,
                (u * cols - 0.5).astype(np.float32),
                (v * rows - 0.5).astype(np.float32),
                cv2.INTER_LINEAR,
                borderMode=cv2.BORDER_REPLICATE,
            )
    return linear_to_coded(total / parts**2)


def test_ring_is_close_to_a_supersampled_one() -> None:
    result = render(piece(("ring", {})), 256, OnePhoto(detailed()))[..., :3]
    assert psnr(result, ring_reference(detailed(), 256)) > 38


def test_no_hairline_at_the_seam_nor_at_the_centre() -> None:
    """On a photo that joins, neighbours across the seam ray and round the centre differ no more than elsewhere."""
    result = render(piece(("ring", {})), 512, OnePhoto(smooth()))[..., :3]
    across = np.abs(np.diff(result, axis=1)).max(axis=2)
    seam = across[300:500, 255]
    beside = across[300:500, 235:275]
    assert seam.max() < 1.5 * np.median(beside) + 0.004


def test_the_centre_is_calm() -> None:
    """Round the centre a whole row of the photo meets in a few pixels: each must be its part of the average, not a chance reading."""
    result = render(piece(("ring", {})), 256, OnePhoto(detailed()))[..., :3]
    ground = coded_to_linear(detailed()[-4:, :, :3])
    for quarter, pixel in enumerate((result[127, 127], result[127, 128], result[128, 128], result[128, 127])):
        first = (quarter * 256 + 256) % 1024  # the left upper pixel begins a quarter after the seam, which points down
        expected = linear_to_coded(ground[:, first : first + 256].mean(axis=(0, 1)))
        assert np.abs(pixel - expected).max() < 0.05


def test_seam_of_a_cropped_photo_is_smooth_edged() -> None:
    """Where left and right differ, the join is an edge, but an antialiased one: some pixels lie between both."""
    photo = np.zeros((64, 128, 3), np.float32)
    photo[:, 64:] = 1
    result = render(piece(("crop", {"left": 0.25, "right": 0.75}), ("ring", {"seam": 0.52})), 256, OnePhoto(opaque(photo)))[..., 0]
    lower = result[180:240]
    between = ((lower > 0.05) & (lower < 0.95)).sum(axis=1)
    assert (between >= 1).mean() > 0.7
    assert between.max() < 6


def test_transparent_edges_are_smooth() -> None:
    result = render(piece(("turn", {"angle": 0.03, "edge": "empty"})), 128, OnePhoto(opaque(np.ones((128, 128, 3), np.float32))))
    alpha = result[..., 3]
    assert ((alpha > 0.05) & (alpha < 0.95)).sum() > 100
    assert np.allclose(result[..., 0], alpha, atol=1e-3)


def test_averaging_is_done_in_linear_light() -> None:
    """A fine chequer of black and white shrinks to the grey of half the light, not of half the code."""
    chequer = np.indices((256, 512)).sum(axis=0) % 2
    result = render(
        piece(("refit", {"ratio": 1, "how": "squash"})), 32, OnePhoto(opaque(np.repeat(chequer[..., None], 3, 2).astype(np.float32)))
    )
    assert np.abs(result[..., :3] - linear_to_coded(np.float32(0.5))).max() < 0.02


def test_texels_round_trip() -> None:
    codes = np.linspace(0, 1, 256, dtype=np.float32)
    picture = opaque(np.repeat(codes[None, :, None], 3, axis=2))
    assert np.abs(from_texels(to_texels(picture)) - picture).max() < 1 / 510


def test_an_enlarged_edge_stays_an_edge() -> None:
    photo = np.zeros((8, 8, 3), np.float32)
    photo[:, 4:] = 1
    result = render(piece(("crop", {"left": 0.25, "right": 0.75})), 256, OnePhoto(opaque(photo)))[128, :, 0]
    assert result[40] < 0.02
    assert result[-40] > 0.98
    assert np.all(np.diff(result[96:160]) > -0.01)


def test_doubling_is_the_librarys_and_the_same_in_strips() -> None:
    rng = np.random.default_rng(21)
    picture = np.float32(rng.random((19, 23, 4)))
    picture[..., :3] *= picture[..., 3:]
    wanted = np.clip(cv2.resize(picture, None, fx=2, fy=2, interpolation=cv2.INTER_CUBIC), 0, 1)
    wanted[..., :3] = np.minimum(wanted[..., :3], wanted[..., 3:])
    assert np.abs(doubled(picture, 0, 38) - wanted).max() < 1e-6
    for top, height in ((0, 7), (7, 20), (37, 1)):
        assert np.array_equal(doubled(picture, top, height), doubled(picture, 0, 38)[top : top + height])
