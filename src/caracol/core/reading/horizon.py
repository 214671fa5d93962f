"""How far a photo's horizon leans."""

from __future__ import annotations

from dataclasses import dataclass
from math import tan, tau

import cv2
import numpy as np

from ..arrays import Array

WIDEST = 12 / 360
"""Leans beyond this many turns are not looked for."""
CLEAR = 3.0
"""A horizon counts when its edge stands out this many times from the other rows' edges."""


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


def _profiles(grey: Array, tilts: Array) -> Array:
    """Return for each tilt the mean of each row after the rows are sheared level; (tilts, rows)."""
    rows, cols = grey.shape
    across = np.arange(cols, dtype=np.float32) + 0.5 - cols / 2
    base = np.arange(rows, dtype=np.float32)[:, None]
    col = np.broadcast_to(np.arange(cols, dtype=np.float32), grey.shape)
    out = []
    for tilt in tilts:
        row = base + (across * tan(tau * float(tilt))).astype(np.float32)
        out.append(cv2.remap(grey, np.ascontiguousarray(col), row, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE).mean(axis=1))
    return np.array(out)


def _sharpness(grey: Array, tilts: Array) -> tuple[Array, Array]:
    """Return for each tilt the strongest step of the row means, and in which row it lies."""
    profiles = _profiles(grey, tilts)
    steps = np.abs(profiles[:, 2:] - profiles[:, :-2])
    margin = max(2, steps.shape[1] // 12)
    inner = steps[:, margin:-margin]
    return inner.max(axis=1), inner.argmax(axis=1) + margin + 1


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
    For each lean tried the photo is sheared level and its rows averaged, as in a Radon transform; the true lean makes the step between
    two neighbouring row means largest. Refined by a parabola through the best three.
    """
    if min(grey.shape) < 24:
        return None
    grey = cv2.GaussianBlur(grey, (0, 0), 1.0)
    coarse = np.linspace(-WIDEST, WIDEST, 49)
    best = coarse[_sharpness(grey, coarse)[0].argmax()]
    gap = coarse[1] - coarse[0]
    fine = np.linspace(best - gap, best + gap, 21)
    strength, where = _sharpness(grey, fine)
    top = int(strength.argmax())
    tilt = float(fine[top])
    if 0 < top < len(fine) - 1:
        a, b, c = strength[top - 1 : top + 2]
        tilt += float(0.5 * (a - c) / min(a - 2 * b + c, -1e-9) * (fine[1] - fine[0])) if b > min(a, c) else 0.0
    profile = _profiles(grey, np.array([tilt]))[0]
    steps = np.abs(profile[2:] - profile[:-2])
    clearness = float(strength[top] / max(np.percentile(steps, 80), 0.004))
    if clearness < CLEAR or strength[top] < 0.02:
        return None
    return Horizon(tilt, float((where[top] + 0.5) / grey.shape[0]), clearness)
