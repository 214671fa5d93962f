"""Patchwork: an area shown by patches of the same picture, laid into each other with their contrast kept."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil

import numba as nb
import numpy as np

from ..arrays import Array
from ..geometry.frame import Frame
from .box import Box
from .soften import softened
from .strokes import to_pixels

WIDE = 1.15
"""How far a patch reaches from its middle, in spacings."""
BLOCK = 256
"""So many rows are made at a time, to bound memory."""


@dataclass(frozen=True)
class Reading:
    """One patch: at (x, y) the picture is shown as it is at (x + dx, y + dy); its tone is that at (x + tone_dx, y + tone_dy); in units."""

    x: float
    y: float
    dx: float
    dy: float
    tone_dx: float
    tone_dy: float


def lattice(far: float, spacing: float) -> Array:
    """Return the points of a triangular lattice no further than `far` from the middle, (n, 2), the middle first."""
    count = ceil(far / spacing) + 1
    a, b = np.meshgrid(np.arange(-2 * count, 2 * count + 1), np.arange(-2 * count, 2 * count + 1))
    points = np.stack([a + 0.5 * b, b * (3**0.5 / 2)], axis=-1).reshape(-1, 2) * spacing
    away = np.hypot(points[:, 0], points[:, 1])
    return np.asarray(points[np.argsort(away, kind="stable")][: int((away <= far).sum())], np.float32)


def patchwork(
    picture: Array,
    frame: Frame,
    area: Box,
    readings: list[Reading],
    spacing: float,
    keep: float,
    lively: float = 1.0,
    near: Box | None = None,
) -> Array:
    """Return an area shown by patches.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded, premultiplied; beyond it its outermost pixels go on.
    frame : Frame
        Of the picture.
    area : Box
        Which of its pixels are made.
    readings : list of Reading
    spacing : float
        Between the middles of neighbouring patches, units.
    keep : float
        What is coarser than this (a deviation in units) is mixed; what is finer keeps its contrast, as what is mixed of unlike patches would lose it.

    lively : float
        0…1: how much of the contrast that mixing takes is given back.
    near : Box, optional
        All that is read lies in it; the whole picture when left out.

    Returns
    -------
    float32 array
        Of the size of the area; where no patch reaches, as it was.

    References
    ----------
    E. Heitz and F. Neyret, High-Performance By-Example Noise using a Histogram-Preserving Blending Operator, HPG (2018): the blending that keeps
    the variance.
    """
    rows, cols = picture.shape[:2]
    per_unit = cols / 2 / frame.half_w
    near = Box(0, rows, 0, cols) if near is None else near
    source = np.ascontiguousarray(near.of(picture))
    soft = softened(source, keep * per_unit, keep * per_unit)
    given = np.array([(one.x, one.y, one.dx, one.dy, one.tone_dx, one.tone_dy) for one in readings], np.float32).reshape(-1, 6)
    col, row = to_pixels(frame, rows, cols, given[:, 0], given[:, 1])
    places = np.ascontiguousarray(np.column_stack([col - near.left, row - near.top, given[:, 2:] * np.float32(per_unit)]), np.float32)
    out = area.of(picture).copy()
    for top in range(area.top, area.bottom, BLOCK):
        height = min(BLOCK, area.bottom - top)
        sums = np.zeros((height, area.right - area.left, 10), np.float32)
        _lay(source, soft, places, np.float32(spacing * WIDE * per_unit), top - near.top, area.left - near.left, sums)
        _join(sums, np.float32(lively), out[top - area.top : top - area.top + height])
    return out


@nb.njit(inline="always")
def _tap(picture, r, c, k):  # type: ignore[no-untyped-def]
    rows, cols, _ = picture.shape
    return picture[min(max(r, 0), rows - 1), min(max(c, 0), cols - 1), k]


@nb.njit(nogil=True, fastmath=True, cache=True)
def _lay(picture, soft, places, far, top, left, sums):  # type: ignore[no-untyped-def]
    """Add all patches to a block's sums: of weights, their squares, what is coarse (four channels) and what is fine."""
    height, width, _ = sums.shape
    one, half = np.float32(1), np.float32(0.5)
    for n in range(len(places)):
        col, row = places[n, 0], places[n, 1]
        first_row, last_row = max(0, int(np.ceil(row - far)) - top), min(height, int(np.floor(row + far)) + 1 - top)
        first_col, last_col = max(0, int(np.ceil(col - far)) - left), min(width, int(np.floor(col + far)) + 1 - left)
        # All pixels of a patch lie alike between those they are read from: their shares are the same.
        move_c, move_r = int(np.floor(places[n, 2])), int(np.floor(places[n, 3]))
        tc, tr = places[n, 2] - np.float32(move_c), places[n, 3] - np.float32(move_r)
        across = (
            half * tc * (tc * (np.float32(2) - tc) - one),
            one + half * tc * tc * (np.float32(3) * tc - np.float32(5)),
            half * tc * (tc * (np.float32(4) - np.float32(3) * tc) + one),
            half * tc * tc * (tc - one),
        )
        down = (
            half * tr * (tr * (np.float32(2) - tr) - one),
            one + half * tr * tr * (np.float32(3) * tr - np.float32(5)),
            half * tr * (tr * (np.float32(4) - np.float32(3) * tr) + one),
            half * tr * tr * (tr - one),
        )
        tone_c, tone_r = int(np.rint(places[n, 4])), int(np.rint(places[n, 5]))
        mean_c, mean_r = int(np.rint(places[n, 2])), int(np.rint(places[n, 3]))
        for r in range(first_row, last_row):
            for c in range(first_col, last_col):
                dx, dy = np.float32(c + left) - col, np.float32(r + top) - row
                away = one - (dx * dx + dy * dy) / (far * far)
                if away <= np.float32(0):
                    continue
                weight = away * away
                sums[r, c, 0] += weight
                sums[r, c, 1] += weight * weight
                ar, ac = r + top + move_r, c + left + move_c
                inside = ar > 0 and ac > 0 and ar + 2 < len(picture) and ac + 2 < picture.shape[1]
                for k in range(4):
                    sharp = np.float32(0)
                    if inside:
                        for i in range(4):
                            line = np.float32(0)
                            for j in range(4):
                                line += across[j] * picture[ar + i - 1, ac + j - 1, k]
                            sharp += down[i] * line
                    else:
                        sharp = _tap(picture, ar, ac, k)
                    sums[r, c, 2 + k] += weight * _tap(soft, r + top + tone_r, c + left + tone_c, k)
                    sums[r, c, 6 + k] += weight * (sharp - _tap(soft, r + top + mean_r, c + left + mean_c, k))


@nb.njit(nogil=True, fastmath=True, cache=True)
def _join(sums, lively, out):  # type: ignore[no-untyped-def]
    rows, cols, _ = sums.shape
    zero, one = np.float32(0), np.float32(1)
    for r in range(rows):
        for c in range(cols):
            whole = sums[r, c, 0]
            if whole <= np.float32(1e-4):
                continue
            kept = np.sqrt(sums[r, c, 1]) ** lively * whole ** (one - lively)
            alpha = min(max(sums[r, c, 5] / whole + sums[r, c, 9] / kept, zero), one)
            for k in range(3):
                out[r, c, k] = min(max(sums[r, c, 2 + k] / whole + sums[r, c, 6 + k] / kept, zero), alpha)
            out[r, c, 3] = alpha
