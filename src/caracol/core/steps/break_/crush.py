"""Crush: too few bits, blocks pressed too hard, rows of a file gone wrong."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np

from ...arrays import Array
from ...kinds.kind import RasterKind, Start
from ...kinds.settings import Settings, number
from ...kinds.settings import seed as any_draw
from ...pixels.draws import draw, spread
from ...pixels.raster import Raster
from ...pixels.soften import softened


class CrushSettings(Settings):
    """How hard each of the three acts."""

    bits: float = number(8, 1, 8, label="Bits", unit="count", step=0.5, help="Bits per channel; 8 leaves it unchanged.")
    dither: float = number(
        0,
        0,
        1,
        label="Dither",
        idle=(({"bits": [8]}, "All eight bits are there."),),
        unit="share",
        help="Breaks the steps up with a fine pattern.",
    )
    press: float = number(
        0.6, 0, 1, label="Compression", unit="share", help="How strongly blocks of eight pixels are compressed; 0 is off."
    )
    times: int = number(
        1,
        1,
        12,
        label="Times",
        idle=(({"press": [0]}, "Pressed is 0."),),
        unit="count",
        step=1,
        help="How often it is compressed, each time one pixel further.",
    )
    rows: float = number(0.1, 0, 1, label="Broken rows", unit="share", help="How many rows of blocks are broken.")
    slip: float = number(
        0.1,
        0,
        1,
        label="Slip",
        idle=(({"rows": [0]}, "Wrong rows is 0."),),
        unit="share",
        help="How far broken rows slip sideways.",
    )
    drift: float = number(
        0.15,
        0,
        1,
        label="Colour drift",
        idle=(({"rows": [0]}, "Wrong rows is 0."),),
        unit="share",
        help="How far the colours of broken rows drift.",
    )
    lines: int = number(
        480, 60, 2160, label="Resolution", unit="count", step=20, help="Resolution of the effect: lines along the shorter side."
    )
    seed: int = any_draw()


_BAYER = np.array([[0, 8, 2, 10], [12, 4, 14, 6], [3, 11, 1, 9], [15, 7, 13, 5]], np.float32) / 16 - np.float32(15 / 32)


def quantised(rgb: Array, bits: float, dither: float) -> Array:
    """Return values 0…1 rounded to 2^bits even steps, the first 0 and the last 1; dithered by Bayer's pattern of four.

    Parameters
    ----------
    rgb : float32 array (rows, cols, 3)
        Coded 0…1.
    bits : float
        1…8; whole steps between powers of two.
    dither : float
        0…1.

    Returns
    -------
    float32 array (rows, cols, 3)

    References
    ----------
    B. E. Bayer, An Optimum Method for Two-Level Rendition of Continuous-Tone Pictures, ICC (1973).
    """
    steps = np.float32(round(2**bits) - 1)
    rows, cols = rgb.shape[:2]
    pattern = np.tile(_BAYER, (-(-rows // 4), -(-cols // 4)))[:rows, :cols, None] * np.float32(dither)
    return np.asarray(np.clip(np.rint(rgb * steps + pattern), 0, steps) / steps, np.float32)


def pressed(rgb: Array, press: float, times: int) -> Array:
    """Return coded values after going through JPEG `times` times, the blocks lying one pixel further each time.

    Parameters
    ----------
    rgb : float32 array (rows, cols, 3)
        Coded 0…1.
    press : float
        0…1, how strongly.
    times : int

    Returns
    -------
    float32 array (rows, cols, 3)

    References
    ----------
    ITU-T T.81 (JPEG).
    """
    quality = round(2 + 58 * (1 - press) ** 2)
    pixels: Any = np.rint(np.clip(rgb, 0, 1) * 255).astype(np.uint8)[..., ::-1]
    for n in range(times):
        moved = np.roll(pixels, (-n, -n), axis=(0, 1))
        _, data = cv2.imencode(".jpg", moved, [cv2.IMWRITE_JPEG_QUALITY, quality])
        back: Any = cv2.imdecode(data, cv2.IMREAD_COLOR)
        pixels = np.roll(back, (n, n), axis=(0, 1))
    return pixels[..., ::-1].astype(np.float32) / np.float32(255)


def _corrupt(rgb: Array, s: CrushSettings) -> Array:
    """Return the picture with rows of blocks gone wrong, in spells: from where one begins, the rest of the row slips and drifts."""
    rows, cols = rgb.shape[:2]
    out = rgb.copy()
    block, spell = 8, 0.0
    slip, tint = 0, np.zeros(3, np.float32)
    for n, top in enumerate(range(0, rows, block)):
        if draw(s.seed, 1, n) < s.rows * 0.5:
            spell = 1 + 4 * draw(s.seed, 2, n) * s.rows
            slip = round(spread(s.seed, 3, n) * s.slip * cols / block) * block
            tint = np.array([spread(s.seed, 4, n, k) for k in range(3)], np.float32) * np.float32(s.drift)
        if spell <= 0:
            continue
        spell -= 1
        part = slice(top, min(top + block, rows))
        begin = int(draw(s.seed, 5, n) * cols * 0.6) // block * block
        out[part, begin:] = np.clip(np.roll(rgb[part], slip, axis=1)[:, begin:] + tint, 0, 1)
    return out


def _coloured_on(picture: Array, rgb: Array) -> Array:
    """Return colours in which what is transparent goes on in the colours round it, so that no black runs in where blocks or rows cross its edge."""
    sigma = max(2.0, min(picture.shape[:2]) / 16)
    wide = softened(picture, sigma, sigma) + np.float32(1e-4) * picture.mean(axis=(0, 1), dtype=np.float32)
    around = wide[..., :3] / np.maximum(wide[..., 3:], np.float32(1e-7))
    return np.asarray(np.where(picture[..., 3:] < 0.5, around, rgb), np.float32)


def crush(picture: Array, raster: Raster, s: CrushSettings) -> Array:
    """Return the raster with wrong rows, then pressed, then with its bits cut; alpha stays."""
    alpha = picture[..., 3:]
    rgb = picture[..., :3] / np.maximum(alpha, np.float32(1 / 512))
    if alpha.min() < 0.5:
        rgb = _coloured_on(picture, rgb)
    if s.rows and (s.slip or s.drift):
        rgb = _corrupt(rgb, s)
    if s.press:
        rgb = pressed(rgb, s.press, s.times)
    if s.bits < 8:
        rgb = quantised(rgb, s.bits, s.dither)
    return np.concatenate([np.clip(rgb, 0, 1) * alpha, alpha], axis=-1).astype(np.float32)


CRUSH = RasterKind(
    key="crush",
    label="Crush",
    family="break",
    purpose="Compresses the picture until it breaks.",
    words=("compression", "artefacts", "corruption", "bits", "databend", "posterise", "glitch"),
    settings=CrushSettings,
    starts=(
        Start("Damaged file", {}, words=("jpeg artefacts", "jpeg artifacts", "compression artifacts")),
        Start("Pressed too hard", {"press": 0.8, "rows": 0}),
        Start(
            "Few bits",
            {"bits": 1.5, "dither": 0.8, "press": 0, "rows": 0, "lines": 240},
            words=("dither", "8 bit", "8-bit", "bit depth", "indexed colour"),
        ),
        Start("Broken file", {"rows": 0.3, "slip": 0.25, "drift": 0.22}, words=("corruption", "databend", "databending")),
        Start("Copied often", {"press": 0.85, "times": 10, "rows": 0, "lines": 240}),
    ),
    neutral={"bits": 8, "press": 0, "rows": 0},
    crisp=True,
    work=crush,
)
