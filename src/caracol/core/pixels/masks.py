"""Masks, (rows, cols), 0…1: read at points, brought to rasters, outlined."""

from __future__ import annotations

import cv2
import numba as nb
import numpy as np

from ..arrays import Array
from ..geometry.frame import Frame

SIZE = 384
"""Keep masks are this many pixels on their longer side: they are smooth."""


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
    """Return how much is kept at points (units of `frame`), in the shape of `x`; outside, as at the nearest edge.

    Parameters
    ----------
    mask : float32 array (rows, cols)
        0…1 over the whole frame.
    frame : Frame
    x, y : float32 array

    Returns
    -------
    float32 array
        0…1.
    """
    out = np.empty(x.shape, np.float32)
    _read(
        mask, np.ascontiguousarray(x, np.float32).ravel(), np.ascontiguousarray(y, np.float32).ravel(),
        np.float32(frame.half_w), np.float32(frame.half_h), out.ravel(),
    )  # fmt: skip
    return out


def on_raster(mask: Array | None, rows: int, cols: int) -> Array | None:
    """Return a keep mask with (rows, cols) pixels; None stays None.

    Parameters
    ----------
    mask : float32 array, optional
        0…1.
    rows, cols : int

    Returns
    -------
    float32 array (rows, cols) or None
    """
    return None if mask is None else np.asarray(cv2.resize(mask, (cols, rows), interpolation=cv2.INTER_LINEAR))


def outline_of(mask: Array, frame: Frame, level: float = 0.25) -> list[list[tuple[float, float]]]:
    """Return the closed outlines of where more than `level` is kept, in units.

    Parameters
    ----------
    mask : float32 array (rows, cols)
        0…1 over the whole frame.
    frame : Frame
    level : float
        0…1.

    Returns
    -------
    list of list of (x, y)
    """
    cols = mask.shape[1]
    padded = cv2.copyMakeBorder((mask > level).astype(np.uint8), 1, 1, 1, 1, cv2.BORDER_CONSTANT)
    found, _ = cv2.findContours(padded, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_TC89_L1)
    scale = 2 * frame.half_w / cols
    return [[((float(c) - 0.5) * scale - frame.half_w, (float(r) - 0.5) * scale - frame.half_h) for c, r in line[:, 0]] for line in found]
