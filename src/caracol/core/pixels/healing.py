"""Where a healed place may take its texture from: near it, of the same surface, and without an edge."""

from __future__ import annotations

import cv2
import numpy as np

from ..arrays import AnyArray, Array

CELLS = 20
"""A stroke is looked at with so many cells to its smaller side."""
MOST = 320
"""The surroundings have at most so many cells to a side."""
FAR = 3.0
"""A source is looked for so many times the stroke's smaller side round it."""
SOFT = 1.2
"""Edges are looked for on a picture softened so far (cells): texture has none then."""
TONE = 0.08
"""Surfaces whose colours differ so much at their borders (coded, 0…1) are others."""
EDGE = 0.02
"""A step from cell to cell so large is an edge."""
NEARER = 0.15
"""What a source costs that lies as far away as is looked."""


def find_source(picture: Array, cover: Array) -> tuple[float, float] | None:
    """Return how far from a stroke the best texture for it lies, to the right and down, in pixels.

    Parameters
    ----------
    picture : float32 array (rows, cols, 3)
        Coded, 0…1.
    cover : float32 array (rows, cols)
        How much the stroke covers of each pixel, 0…1.

    Returns
    -------
    tuple of float, or None
        None where the stroke covers nothing, or leaves no room for a source.

    Notes
    -----
    Every place of the stroke's shape that it does not cover itself is judged by three costs, and the least is taken: how much what lies
    round it differs from what lies round the stroke (mean square over TONE²), how much edge it holds more than the stroke's own surroundings
    (mean square over EDGE²), and how far away it is.
    """
    there = np.argwhere(cover > 0.02)
    if not len(there):
        return None
    (top, left), (bottom, right) = there.min(axis=0), there.max(axis=0) + 1
    smaller = max(3, min(bottom - top, right - left))
    room = round(FAR * smaller)
    near = slice(max(0, top - room), bottom + room), slice(max(0, left - room), right + room)
    high, wide = cover[near].shape
    cell = max(1.0, smaller / CELLS, max(high, wide) / MOST)
    shape = max(8, round(wide / cell)), max(8, round(high / cell))
    seen = np.asarray(cv2.resize(picture[near], shape, interpolation=cv2.INTER_AREA), np.float32)
    hole = cv2.resize(cover[near], shape, interpolation=cv2.INTER_AREA) > 0.02
    found = _best_way(seen, hole)
    return None if found is None else (found[0] * wide / shape[0], found[1] * high / shape[1])


def _best_way(seen: Array, hole: AnyArray) -> tuple[int, int] | None:
    rows, cols = np.flatnonzero(hole.any(axis=1)), np.flatnonzero(hole.any(axis=0))
    if not len(rows):
        return None
    rim = 3
    top, left = int(rows[0]) - rim, int(cols[0]) - rim
    held = np.pad(hole, rim).astype(np.uint8)[top + rim : int(rows[-1]) + 2 * rim + 1 + rim, left + rim : int(cols[-1]) + 2 * rim + 1 + rim]
    if held.shape[0] >= hole.shape[0] or held.shape[1] >= hole.shape[1]:
        return None
    wider = cv2.dilate(held, np.ones((2 * rim + 1, 2 * rim + 1), np.uint8))
    ring = ((wider > 0) & (held == 0)).astype(np.float32)
    under = cv2.copyMakeBorder(seen, rim, rim, rim, rim, cv2.BORDER_REPLICATE)
    patch = np.ascontiguousarray(under[top + rim : top + rim + held.shape[0], left + rim : left + rim + held.shape[1]])
    edge = _edges(seen)
    tone = cv2.matchTemplate(seen, patch, cv2.TM_SQDIFF, mask=np.repeat(ring[..., None], 3, axis=2)) / max(3 * float(ring.sum()), 1)
    own = cv2.copyMakeBorder(edge, rim, rim, rim, rim, cv2.BORDER_REPLICATE)
    typical = float((own[top + rim : top + rim + held.shape[0], left + rim : left + rim + held.shape[1]] * ring).sum() / max(ring.sum(), 1))
    whole = wider.astype(np.float32)
    more = np.maximum(edge - typical, 0)
    edges = cv2.matchTemplate(more, whole, cv2.TM_CCORR) / max(float(whole.sum()), 1)
    blocked = cv2.matchTemplate(hole.astype(np.float32), held.astype(np.float32), cv2.TM_CCORR) > 0.5
    down, across = np.mgrid[0 : tone.shape[0], 0 : tone.shape[1]]
    away = np.hypot(down - top, across - left) / np.hypot(*hole.shape)
    cost = tone / TONE**2 + edges / EDGE**2 + NEARER * away
    cost[blocked] = np.inf
    row, col = np.unravel_index(int(cost.argmin()), cost.shape)
    return None if not np.isfinite(cost[row, col]) else (int(col) - left, int(row) - top)


def _edges(seen: Array) -> Array:
    """Return the square of the step from cell to cell, (rows, cols), of what is left when texture is softened away."""
    soft = cv2.GaussianBlur(seen, (0, 0), SOFT)
    across, down = (cv2.Sobel(soft, cv2.CV_32F, *way, scale=1 / 8) for way in ((1, 0), (0, 1)))
    return np.asarray((across**2 + down**2).max(axis=2), np.float32)
