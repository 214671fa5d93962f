"""Where to cut a photo left and right so that its edges look alike."""

from __future__ import annotations

from dataclasses import dataclass
from math import tan, tau

import cv2
import numpy as np

from ..arrays import Array
from .regions import edge_agreement

LEAST_WIDTH = 0.6
"""A loop keeps at least this share of the width."""
WORTH = 3.0
"""A loop that betters the agreement by less than this is not told."""
COLS, ROWS = 300, 96
WIDTH_COUNTS = 0.03
"""How much worse edges may join for the sake of the whole width."""


@dataclass(frozen=True)
class Loop:
    """Two cuts and what they better.

    Parameters
    ----------
    left, right : float
        Shares of the width.
    before, after : float
        Agreement of the edges, 0…100, whole and cut.
    """

    left: float
    right: float
    before: float
    after: float


def level_look(picture: Array, tilt: float | None) -> Array:
    """Return a look with its columns moved so that a horizon of this tilt (turns) lies level.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
    tilt : float, optional
        Turns; positive where the right side lies lower.

    Returns
    -------
    float32 array (rows, cols, 4)
    """
    if not tilt:
        return picture
    slope = tan(tau * tilt)
    matrix = np.array([[1, 0, 0], [slope, 1, -slope * picture.shape[1] / 2]])
    size = (picture.shape[1], picture.shape[0])
    return np.asarray(cv2.warpAffine(picture, matrix, size, flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP, borderMode=cv2.BORDER_REPLICATE))


def _costs(look: Array) -> Array:
    """Return for every pair (left, right) of columns how badly they join: mean distance of tone and of detail, near the cuts."""
    rgb = cv2.GaussianBlur(look[..., :3], (0, 0), sigmaX=1.5, sigmaY=1.0).transpose(1, 0, 2)
    detail = np.diff(rgb, axis=1)
    reach = round((1 - LEAST_WIDTH) * len(rgb))
    costs = np.full((reach + 1, len(rgb)), np.inf, np.float32)
    for left in range(reach + 1):
        first = left + round(LEAST_WIDTH * len(rgb)) - 1
        tone = np.abs(rgb[first:] - rgb[left]).mean(axis=(1, 2))
        costs[left, first:] = tone + 2 * np.abs(detail[first:] - detail[left]).mean(axis=(1, 2))
    return costs


def best_loop(picture: Array, tilt: float | None = None) -> Loop | None:
    """Find the pair of cuts whose edges agree best, or None where nothing much is won.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        A small look.
    tilt : float, optional
        Lean of its horizon in turns; the cuts are for the levelled photo.
    """
    if picture.shape[1] < 40 or picture.shape[0] < 8:
        return None
    look = level_look(picture, tilt)
    cols = min(COLS, look.shape[1])
    small = np.asarray(cv2.resize(look, (cols, min(ROWS, look.shape[0])), interpolation=cv2.INTER_AREA))
    costs = _costs(small)
    kept = (np.arange(cols)[None, :] - np.arange(len(costs))[:, None] + 1) / cols
    left, last = np.unravel_index(int((costs - WIDTH_COUNTS * kept).argmin()), costs.shape)
    before = edge_agreement(look)
    start, end = round(left / cols * look.shape[1]), round((last + 1) / cols * look.shape[1])
    after = edge_agreement(look[:, start:end])
    if after - before < WORTH:
        return None
    return Loop(float(left / cols), float((last + 1) / cols), before, after)
