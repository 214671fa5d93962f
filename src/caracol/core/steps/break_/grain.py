"""Grain: the unevenness of film, from a seed."""

from __future__ import annotations

from typing import Any

import cv2
import numba as nb
import numpy as np

from ...arrays import Array
from ...geometry.frame import Frame
from ...geometry.rows import Rows
from ...kinds.kind import PictureKind, Start
from ...kinds.settings import Settings, number
from ...kinds.settings import seed as any_draw
from ...pixels.blending import LUMA
from ...pixels.draws import draw


class GrainSettings(Settings):
    """How much, how coarse, how coloured."""

    amount: float = number(0.2, 0, 1, label="Amount", unit="share", help="How strong the grain is.")
    size: float = number(1.8, 0.5, 12, label="Size", unit="factor", step=0.1, help="Size of a grain, in lines of its resolution.")
    colour: float = number(0.25, 0, 1, label="Colour", unit="share", help="0 is grey grain, 100 % is coloured grain.")
    darks: float = number(0.6, 0, 1, label="In extremes", unit="share", help="How much grain stays in the darkest and lightest places.")
    lines: int = number(
        1080, 240, 4320, label="Resolution", unit="count", step=60, help="Resolution of the grain: lines along the shorter side."
    )
    seed: int = any_draw()


@nb.njit(inline="always")
def _mixed(state):  # type: ignore[no-untyped-def]
    """Return SplitMix64's number for a state: the same on every machine, today and next year."""
    state = (state ^ (state >> np.uint64(30))) * np.uint64(0xBF58476D1CE4E5B9)
    state = (state ^ (state >> np.uint64(27))) * np.uint64(0x94D049BB133111EB)
    return state ^ (state >> np.uint64(31))


@nb.njit(nogil=True, cache=True)
def _fill(seed, out):  # type: ignore[no-untyped-def]
    """Fill with sums of two even draws, -1 … 1: three channels and the grey one."""
    flat = out.reshape(-1, 4)
    low, scale = np.uint64(0xFFFF), np.float32(1 / 65535)
    for i in range(len(flat)):
        at = np.uint64(seed) + np.uint64(2 * i + 1) * np.uint64(0x9E3779B97F4A7C15)
        a, b = _mixed(at), _mixed(at + np.uint64(0x9E3779B97F4A7C15))
        for k in range(4):
            shift = np.uint64(16 * k)
            flat[i, k] = np.float32(((a >> shift) & low) + ((b >> shift) & low)) * scale - np.float32(1)


def grain_raster(frame: Frame, *, lines: int, size: float, seed: int) -> Array:
    """Return grain of deviation about 1 on the working raster, (rows, cols, 4)."""
    grain = np.empty((round(lines * frame.half_h), round(lines * frame.half_w), 4), np.float32)
    _fill(int(draw(seed, 0) * 2**53), grain)
    if size > 1:
        grain = np.asarray(cv2.GaussianBlur(grain, (0, 0), 0.42 * size))
    grain *= np.float32(1) / np.float32(grain[::7, ::7].std())
    return grain


def grain(picture: Array, rows: Rows, measured: dict[str, Any], s: GrainSettings) -> Array:
    """Return the picture with grain added to its coded values; scaled from the working raster, so that every size has the same."""
    raster = measured["prepared"]
    height, width = picture.shape[:2]
    shrinks = height <= len(raster)
    found = cv2.resize(raster, (width, height), interpolation=cv2.INTER_AREA if shrinks else cv2.INTER_LINEAR)
    push = found[..., 3:] + (found[..., :3] - found[..., 3:]) * np.float32(s.colour)
    push /= np.float32(((1 - s.colour) ** 2 + s.colour**2) ** 0.5)  # two mixed draws are calmer than one
    alpha = picture[..., 3:]
    luma = (picture[..., :3] @ LUMA)[..., None]
    weight = np.float32(s.darks) + np.float32(1 - s.darks) * 4 * luma * np.clip(1 - luma, 0, 1)
    rgb = picture[..., :3] + push * np.float32(s.amount * 0.25) * weight * alpha
    return np.concatenate([np.clip(rgb, 0, alpha), alpha], axis=-1).astype(np.float32)


GRAIN = PictureKind(
    key="grain",
    label="Grain",
    family="break",
    purpose="Adds the grain of film.",
    words=("noise", "film", "speckle", "texture", "dust", "sand"),
    settings=GrainSettings,
    starts=(
        Start("Film", {"amount": 0.3, "size": 2.2}, words=("film grain",)),
        Start("Pushed film", {"amount": 0.55, "size": 2.6}),
        Start("Coloured noise", {"amount": 0.8, "colour": 1, "size": 2.4}),
    ),
    neutral={"amount": 0},
    prepare=grain_raster,
    prepared_bytes=lambda frame, s: round(16 * s.lines**2 * frame.half_w * frame.half_h),
    prepare_settings=("lines", "size", "seed"),
    effort=4.0,
    apply=grain,
    local=False,
)
