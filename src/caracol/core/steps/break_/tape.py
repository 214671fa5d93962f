"""Tape: what a worn video tape does to a picture, each fault by itself."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np

from ...arrays import Array
from ...kinds.kind import RasterKind, Start
from ...kinds.settings import Settings, number
from ...kinds.settings import seed as any_draw
from ...pixels.blending import LUMA
from ...pixels.draws import draw, spread
from ...pixels.raster import Raster


class TapeSettings(Settings):
    """How strong each of the faults is."""

    delay: float = number(
        0.06, -0.2, 0.2, label="Colour delay", unit="units", step=0.001, help="How far the colour lags to the right of the light."
    )
    bleed: float = number(0.05, 0, 0.3, label="Colour bleed", unit="units", step=0.002, help="How far colour smears sideways.")
    soft: float = number(0.003, 0, 0.05, label="Softness", unit="units", step=0.0005, help="Blurs the light sideways.")
    wobble: float = number(0.02, 0, 0.3, label="Tracking wobble", unit="units", step=0.001, help="How far rows sway together.")
    jitter: float = number(0.006, 0, 0.1, label="Time jitter", unit="units", step=0.0005, help="How far each line starts early or late.")
    head: float = number(0.1, 0, 0.4, label="Head band", unit="share", step=0.005, help="Height of the torn band at the bottom.")
    tear: float = number(
        0.45, 0, 2, label="Band tear", idle=(({"head": [0]}, "Head band is 0."),), unit="units", help="How far the band is torn sideways."
    )
    drops: float = number(0.4, 0, 1, label="Drop-outs", unit="share", help="How many bright streaks there are.")
    snow: float = number(0.09, 0, 1, label="Snow", unit="share", help="How much noise there is.")
    lines: int = number(540, 120, 2160, label="Resolution", unit="count", step=30, help="Of the tape, along the shorter side.")
    seed: int = any_draw()


def _sway(rows: int, seed: int) -> Array:
    """Return a slow uneven sway of rows, about -1 … 1."""
    v = np.arange(rows) / rows
    total = np.zeros(rows)
    for n in range(5):
        total += spread(seed, 1, n) / (n + 1) * np.sin(2 * np.pi * ((n * 1.7 + 0.6) * v + draw(seed, 2, n)))
    return np.asarray(total, np.float32)


def row_shifts(rows: int, s: TapeSettings) -> Array:
    """Return how far each line goes right, in units.

    Parameters
    ----------
    rows : int
    s : TapeSettings

    Returns
    -------
    float32 array (rows,)
    """
    seed = s.seed
    lines = np.arange(rows)
    v = (lines + 0.5) / rows
    jitter = np.array([spread(seed, 3, int(n)) for n in lines])
    shift = s.wobble * _sway(rows, seed) + s.jitter * jitter
    if s.head > 0:
        into = np.clip((v - (1 - s.head)) / s.head, 0, 1)
        shift = shift + s.tear * into**1.5 * (0.75 + 0.25 * np.array([spread(seed, 4, int(n)) for n in lines]))
    return np.asarray(shift, np.float32)


def shift_rows(picture: Array, shift: Array, border: int = cv2.BORDER_WRAP) -> Array:
    """Return each row moved right by so many pixels, what leaves it coming in again on the other side; read between pixels along a line.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
    shift : float32 array (rows,)
        Pixels, right positive.
    border : int
        OpenCV's rule for what lies beyond the row's ends.

    Returns
    -------
    float32 array (rows, cols, 4)
    """
    cols = np.arange(picture.shape[1], dtype=np.float32)[None, :] - shift[:, None]
    rows = np.repeat(np.arange(picture.shape[0], dtype=np.float32)[:, None], picture.shape[1], axis=1)
    return np.asarray(cv2.remap(picture, np.ascontiguousarray(cols), rows, cv2.INTER_LINEAR, borderMode=border))


def _sideways(picture: Array, sigma: float) -> Array:
    return picture if sigma < 0.2 else np.asarray(cv2.GaussianBlur(picture, (0, 0), sigma, sigmaY=1e-6, borderType=cv2.BORDER_REPLICATE))


def _drop_outs(shape: tuple[int, int], s: TapeSettings) -> Array:
    """Return the streaks, 0…1: bright where the signal goes, thinning out to the right."""
    rows, cols = shape
    out = np.zeros(shape, np.float32)
    count = round(s.drops**1.5 * 60)
    for n in range(count):
        row = int(draw(s.seed, 5, n) ** 0.7 * rows)
        left = int((draw(s.seed, 6, n) * 1.1 - 0.1) * cols)
        length = max(2, int((0.01 + 0.16 * draw(s.seed, 7, n) ** 2) * cols))
        fade = np.linspace(1, 0, length, dtype=np.float32) ** 0.6 * np.float32(0.55 + 0.45 * draw(s.seed, 8, n))
        a, b = max(left, 0), min(left + length, cols)
        if b > a:
            out[min(row, rows - 1), a:b] = np.maximum(out[min(row, rows - 1), a:b], fade[a - left : b - left])
    return out


def tape(picture: Array, raster: Raster, s: TapeSettings) -> Array:
    """Return the raster as the tape gives it back.

    Notes
    -----
    Rows are moved by wobble, jitter and the torn band together; then colour (what is left beside the luma) is blurred sideways and moved
    right by the delay; drop-outs and snow are laid over it.
    """
    rows, cols = picture.shape[:2]
    moved = shift_rows(picture, row_shifts(rows, s) * np.float32(raster.pixels(1))) if s.wobble or s.jitter or s.head else picture
    alpha = moved[..., 3:]
    luma = (moved[..., :3] @ LUMA)[..., None]
    rest = _sideways(moved[..., :3] - luma, raster.pixels(s.bleed))
    if s.delay:
        rest = shift_rows(np.ascontiguousarray(rest), np.full(rows, raster.pixels(s.delay), np.float32), cv2.BORDER_REPLICATE)
    rgb = _sideways(luma, raster.pixels(s.soft)).reshape(luma.shape) + rest
    if s.drops:
        streaks = _drop_outs((rows, cols), s)[..., None]
        rgb = rgb + streaks * (alpha * np.float32(0.94) - rgb)
    if s.snow:
        bits: Any = np.random.PCG64(s.seed).random_raw(-(-rows * cols // 4))
        noise = bits.view(np.uint16)[: rows * cols].reshape(rows, cols, 1).astype(np.float32) / 65535 - np.float32(0.5)
        rgb = rgb + np.float32(s.snow) * noise * alpha
    return np.concatenate([np.clip(rgb, 0, alpha), alpha], axis=-1).astype(np.float32)


QUIET = {"delay": 0, "bleed": 0, "soft": 0, "wobble": 0, "jitter": 0, "head": 0, "drops": 0, "snow": 0}

TAPE = RasterKind(
    key="tape",
    label="Tape",
    family="break",
    purpose="Plays the picture from a worn video tape.",
    words=("video", "analogue", "tracking", "cassette", "worn", "noise", "vhs"),
    settings=TapeSettings,
    starts=(
        Start(
            "Worn tape",
            {"wobble": 0.035, "delay": 0.1, "bleed": 0.1, "soft": 0.006, "head": 0.16, "drops": 0.6, "snow": 0.16},
            words=("vhs", "video tape"),
        ),
        Start("Bad tracking", {"wobble": 0.05, "jitter": 0.008, "head": 0.14, "tear": 0.7, "drops": 0.55, "snow": 0.12}),
        Start("Colour adrift on tape", {**QUIET, "delay": 0.11, "bleed": 0.12, "soft": 0.006}),
        Start("Torn foot", {**QUIET, "head": 0.22, "tear": 0.9, "jitter": 0.003, "snow": 0.04}),
    ),
    neutral=QUIET,
    work=tape,
)
