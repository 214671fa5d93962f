"""How far a photo's horizon leans."""

from __future__ import annotations

from dataclasses import dataclass
from math import tan, tau

import cv2
import numpy as np

from ..arrays import Array

WIDEST = 12 / 360
"""Leans beyond this many turns are not looked for."""
CLEAR = 2.5
"""A horizon counts when its row stands out this many times from the others."""
STRAIGHT = 0.7
"""A line this strong all along is the horizon itself; a weaker one runs through hills, and their ridge is traced."""
MOST_MENDED = 1.0 / 360
STEEPEST = 2
"""Rows by which a ridge may rise or fall from one column to the next."""
FAINT = 0.015
"""A step of this much light from one row to the next already counts most of the way."""


@dataclass(frozen=True)
class Horizon:
    """The line on which ground and sky meet.

    Parameters
    ----------
    tilt : float
        In turns, clockwise positive: the right end lies lower.
    height : float
        Where it crosses the middle of the photo, as a share of the height from the top.
    clearness : float
        How much it stands out from other edges; `CLEAR` and above is sure.
    """

    tilt: float
    height: float
    clearness: float


def _steps_down(grey: Array) -> Array:
    """Return how much lighter each pixel's lower neighbour is, compressed so that a weak edge all along counts more than a strong tower."""
    soft = cv2.GaussianBlur(grey, (0, 0), 1.0)
    return np.asarray(np.tanh(cv2.Sobel(soft, cv2.CV_32F, 0, 1, ksize=3) / 8 / FAINT), np.float32)


def _sheared(steps: Array, tilt: float) -> Array:
    """Return the steps with every column moved so that a line of this tilt lies level."""
    rows, cols = steps.shape
    across = np.arange(cols, dtype=np.float32) + 0.5 - cols / 2
    row = np.arange(rows, dtype=np.float32)[:, None] + (across * tan(tau * tilt)).astype(np.float32)
    col = np.ascontiguousarray(np.broadcast_to(np.arange(cols, dtype=np.float32), steps.shape))
    return np.asarray(cv2.remap(steps, col, row, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE))


def _profiles(steps: Array, tilts: Array) -> Array:
    """Return for each tilt the mean of each row after the rows are sheared level; (tilts, rows)."""
    return np.array([_sheared(steps, float(tilt)).mean(axis=1) for tilt in tilts])


def _goes_through(level: Array, row: int) -> bool:
    """Whether the step in this row is there all along: in at least three quarters of sixteen parts of the width, the same way."""
    near = level[max(0, row - 2) : row + 3]
    parts = np.array([part.mean() for part in np.array_split(near, 16, axis=1)])
    way = np.sign(parts.sum())
    return bool((way * parts > 0.06).mean() >= 0.75)


def _sharpness(steps: Array, tilts: Array) -> tuple[Array, Array]:
    """Return for each tilt the strongest row, and which it is."""
    profiles = np.abs(_profiles(steps, tilts))
    margin = max(3, profiles.shape[1] // 12)
    inner = profiles[:, margin:-margin]
    return inner.max(axis=1), inner.argmax(axis=1) + margin


def _ridge(level: Array, row: int) -> Array:
    """Return for each column of a levelled look how far below `row` its step lies, by the best path through a band (dynamic programming).

    Between columns the path moves `STEEPEST` rows at most.
    """
    half = max(4, level.shape[0] // 10)
    band = level[max(0, row - half) : row + half + 1]
    way = np.sign(level[max(0, row - 2) : row + 3].sum()) or 1.0
    gain = np.maximum(band * way, 0)
    rows, cols = gain.shape
    total = gain[:, 0].copy()
    came = np.zeros((cols, rows), np.int64)
    at = np.arange(rows)
    for col in range(1, cols):
        padded = np.pad(total, STEEPEST, constant_values=-np.inf)
        near = np.lib.stride_tricks.sliding_window_view(padded, 2 * STEEPEST + 1) - 0.05 * np.abs(np.arange(-STEEPEST, STEEPEST + 1))
        move = near.argmax(axis=1)
        came[col] = np.clip(at + move - STEEPEST, 0, rows - 1)
        total = near[at, move] + gain[:, col]
    path = np.empty(cols)
    here = int(total.argmax())
    for col in range(cols - 1, -1, -1):
        path[col] = here
        here = int(came[col, here])
    return path + max(0, row - half) - row


def _lean_of(path: Array) -> float:
    """Return the slope of a path, in rows per column: a straight line that towers and gaps do not pull (Tukey's weights)."""
    across = np.arange(len(path)) - (len(path) - 1) / 2
    weight = np.ones(len(path))
    slope = middle = 0.0
    for _ in range(12):
        middle = float((weight * path).sum() / weight.sum())
        centre = float((weight * across).sum() / weight.sum())
        slope = float((weight * (across - centre) * (path - middle)).sum() / (weight * (across - centre) ** 2).sum())
        off = np.abs(path - middle - slope * (across - centre))
        scale = max(6 * float(np.median(off)), 3.0)
        weight = np.maximum(1 - (off / scale) ** 2, 1e-3) ** 2
    return slope


def find_horizon(grey: Array) -> Horizon | None:
    """Find the lean at which the rows of a photo change most abruptly.

    Parameters
    ----------
    grey : float32 array (rows, cols), 0…1
        A small look, some 500 pixels wide.

    Returns
    -------
    Horizon or None
        None where no row stands out enough to be a horizon.

    Notes
    -----
    For each lean tried the photo's vertical steps are sheared level and averaged along the rows, as in a Radon transform; the true lean
    gathers the horizon's step in one row. Where hills break it, a line through their ridge makes the lean exact.
    """
    if min(grey.shape) < 24:
        return None
    steps = _steps_down(grey)
    coarse = np.linspace(-WIDEST, WIDEST, 73)
    best = coarse[_sharpness(steps, coarse)[0].argmax()]
    gap = coarse[1] - coarse[0]
    fine = np.linspace(best - gap, best + gap, 21)
    strength, where = _sharpness(steps, fine)
    # The middle of the tilts that do nearly as well: steadier on soft horizons than the very best one.
    weight = np.clip(strength - 0.9 * strength.max(), 0, None)
    tilt = float((fine * weight).sum() / weight.sum()) if weight.sum() > 0 else float(best)
    top = int(strength.argmax())
    level = _sheared(steps, tilt)
    profile = np.abs(level.mean(axis=1))
    clearness = float(strength[top] / max(np.percentile(profile, 90), 0.01))
    if clearness < CLEAR or strength[top] < 0.15 or not _goes_through(level, int(where[top])):
        return None
    if strength[top] < STRAIGHT:
        tilt += float(np.clip(np.arctan(_lean_of(_ridge(level, int(where[top])))) / tau, -MOST_MENDED, MOST_MENDED))
    return Horizon(tilt, float((where[top] + 0.5) / grey.shape[0]), clearness)
