"""Grain: the unevenness of film, from a seed."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

import cv2
import numpy as np

from ...arrays import Array
from ...blending import LUMA
from ...draws import draw
from ...kinds import PictureKind, Rows, Start
from ...settings import Settings, number
from ...settings import seed as any_draw


class GrainSettings(Settings):
    """How much, how coarse, how coloured."""

    amount: float = number(0.12, 0, 1, label="Amount", unit="share", help="How far values are pushed about; 1 is a deviation of a quarter.")
    size: float = number(1.2, 0.5, 12, label="Size", unit="factor", step=0.1, help="Of the grains, in lines of the working raster.")
    colour: float = number(0.25, 0, 1, label="Colour", unit="share", help="0 is grey grain, 1 is grain of its own in each channel.")
    darks: float = number(0.6, 0, 1, label="In the darks", unit="share", help="How much of it stays in the deepest and lightest places.")
    lines: int = number(1080, 240, 4320, label="Lines", unit="count", step=60, help="Lines of the working raster along the shorter side.")
    seed: int = any_draw()


@lru_cache(maxsize=2)
def _raw(rows: int, cols: int, seed: int) -> Array:
    """Return unblurred grain on the working raster, (rows, cols, 4): three channels and the grey one."""
    # Sums of two even draws, from raw bits of PCG64, whose stream no later NumPy will change.
    bits: Any = np.random.PCG64(int(draw(seed, 0) * 2**53)).random_raw(rows * cols * 2)
    parts = bits.view(np.uint16).reshape(rows, cols, 8)
    total = parts[..., :4].astype(np.float32)
    total += parts[..., 4:]
    return np.asarray(total / 65535 - 1, np.float32)


@lru_cache(maxsize=6)
def _raster(rows: int, cols: int, size: float, seed: int) -> Array:
    """Return grain of deviation about 1 on the working raster."""
    grain: Any = _raw(rows, cols, seed)
    if size > 1:
        grain = cv2.GaussianBlur(grain, (0, 0), 0.42 * size)
    return np.asarray(grain / np.float32(grain[::7, ::7].std()), np.float32)


def grain(
    picture: Array, rows: Rows, measured: dict[str, Any], *, amount: float, size: float, colour: float, darks: float, lines: int, seed: int
) -> Array:
    """Return the picture with grain added to its coded values; scaled from the working raster, so that every size has the same."""
    frame = rows.frame
    tall, wide = round(lines * frame.half_h), round(lines * frame.half_w)
    height, width = picture.shape[:2]
    shrinks = height <= tall
    found = cv2.resize(_raster(tall, wide, size, seed), (width, height), interpolation=cv2.INTER_AREA if shrinks else cv2.INTER_LINEAR)
    push = found[..., 3:] + (found[..., :3] - found[..., 3:]) * np.float32(colour)
    push /= np.float32(((1 - colour) ** 2 + colour**2) ** 0.5)  # two mixed draws are calmer than one
    alpha = picture[..., 3:]
    luma = (picture[..., :3] @ LUMA)[..., None]
    weight = np.float32(darks) + np.float32(1 - darks) * 4 * luma * np.clip(1 - luma, 0, 1)
    rgb = picture[..., :3] + push * np.float32(amount * 0.25) * weight * alpha
    return np.concatenate([np.clip(rgb, 0, alpha), alpha], axis=-1).astype(np.float32)


GRAIN = PictureKind(
    key="grain",
    label="Grain",
    family="break",
    purpose="Adds the grain of film.",
    settings=GrainSettings,
    starts=(
        Start("Film", {}),
        Start("Pushed film", {"amount": 0.4, "size": 1.8}),
        Start("Coloured noise", {"amount": 0.35, "colour": 1, "size": 1}),
    ),
    neutral={"amount": 0},
    apply=grain,
    local=False,
)
