"""Keep areas: parts of a photo whose features must stay recognisable, and how much of them is kept anywhere on a picture."""

from __future__ import annotations

from collections.abc import Callable

import cv2
import numba as nb
import numpy as np
from pydantic import Field

from ..geometry.frame import Frame
from ..kinds.settings import Settings
from ..pixels.arrays import Array
from .where import Where

SIZE = 384
"""Keep masks are this many pixels on their longer side: they are smooth."""
SOFT = 0.04
"""How softly every keep area ends at least, in units: the deviation of a Gaussian."""


class KeepArea(Settings):
    """A region of a photo, in the photo's units, and how much is kept there: 1 moves nothing, 0.5 half as far as elsewhere."""

    name: str = Field("", max_length=200)
    weight: float = Field(1, ge=0, le=1)
    where: Where


def keep_mask(areas: tuple[KeepArea, ...], frame: Frame, look: Callable[[int], Array]) -> Array:
    """Return how much is kept, 0…1, (rows, cols), with `SIZE` pixels on the longer side; of overlapping areas the stronger counts.

    Parameters
    ----------
    look : callable (longer) -> picture
        The photo, for areas that are ranges of light or hue.
    """
    rows, cols = frame.pixels(SIZE)
    total = np.zeros((rows, cols), np.float32)
    for area in areas:
        picture = look(SIZE) if area.where.looks_at_picture else None
        cover = area.where.mask(frame, rows, cols, picture=picture)
        total = np.maximum(total, cover * np.float32(area.weight))
    return np.asarray(cv2.GaussianBlur(total, (0, 0), SOFT * cols / 2 / frame.half_w, borderType=cv2.BORDER_REPLICATE))


@nb.njit(nogil=True, fastmath=True, cache=True)
def _read(mask, x, y, half_w, half_h, out):  # type: ignore[no-untyped-def]
    rows, cols = mask.shape
    half, one = np.float32(0.5), np.float32(1)
    kx, ky = np.float32(cols) * half / half_w, np.float32(rows) * half / half_h
    for i in range(x.size):
        gx = min(max((x[i] + half_w) * kx - half, np.float32(0)), np.float32(cols) - one)
        gy = min(max((y[i] + half_h) * ky - half, np.float32(0)), np.float32(rows) - one)
        col, row = min(int(gx), cols - 2), min(int(gy), rows - 2)
        tx, ty = gx - np.float32(col), gy - np.float32(row)
        upper = mask[row, col] * (one - tx) + mask[row, col + 1] * tx
        lower = mask[row + 1, col] * (one - tx) + mask[row + 1, col + 1] * tx
        out[i] = upper * (one - ty) + lower * ty


def kept_at(mask: Array, frame: Frame, x: Array, y: Array) -> Array:
    """Return how much is kept at points (units of `frame`), in the shape of `x`; outside, as at the nearest edge."""
    out = np.empty(x.shape, np.float32)
    _read(
        mask, np.ascontiguousarray(x, np.float32).ravel(), np.ascontiguousarray(y, np.float32).ravel(),
        np.float32(frame.half_w), np.float32(frame.half_h), out.ravel(),
    )  # fmt: skip
    return out


def on_raster(mask: Array | None, rows: int, cols: int) -> Array | None:
    """Return a keep mask with (rows, cols) pixels; None stays None."""
    return None if mask is None else np.asarray(cv2.resize(mask, (cols, rows), interpolation=cv2.INTER_LINEAR))


def outline_of(mask: Array, frame: Frame, level: float = 0.25) -> list[list[tuple[float, float]]]:
    """Return the closed outlines of where more than `level` is kept, in units."""
    cols = mask.shape[1]
    padded = cv2.copyMakeBorder((mask > level).astype(np.uint8), 1, 1, 1, 1, cv2.BORDER_CONSTANT)
    found, _ = cv2.findContours(padded, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_TC89_L1)
    scale = 2 * frame.half_w / cols
    return [[((float(c) - 0.5) * scale - frame.half_w, (float(r) - 0.5) * scale - frame.half_h) for c, r in line[:, 0]] for line in found]
