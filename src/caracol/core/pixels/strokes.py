"""Strokes: how much of each pixel a brush covers, and a membrane that takes a patch to its surroundings."""

from __future__ import annotations

import cv2
import numba as nb
import numpy as np

from ..arrays import Array
from ..geometry.frame import Frame
from .box import Box

CELLS = 96
"""A membrane is solved on a raster of at most so many cells a side: it is smooth."""


def to_pixels(frame: Frame, rows: int, cols: int, x: Array, y: Array) -> tuple[Array, Array]:
    """Return columns and rows of points in units; whole numbers are pixels' middles."""
    u, v = frame.to_shares(np.asarray(x, np.float32), np.asarray(y, np.float32))
    return (u * cols - np.float32(0.5)).astype(np.float32), (v * rows - np.float32(0.5)).astype(np.float32)


def shown_at(picture: Array, col: Array, row: Array, fine: bool = True) -> Array:
    """Return a picture read at columns and rows (pixels; broadcast together), its outermost pixels going on.

    Parameters
    ----------
    picture : float32 array (rows, cols, channels)
    col, row : array
        Whole numbers are pixels' middles.
    fine : bool
        Between sixteen pixels, or between four: for what is smooth, or shall not overshoot.
    """
    columns, rows = (np.ascontiguousarray(part, np.float32) for part in np.broadcast_arrays(col, row))
    how = cv2.INTER_CUBIC if fine else cv2.INTER_LINEAR
    return np.asarray(cv2.remap(picture, columns, rows, how, borderMode=cv2.BORDER_REPLICATE), np.float32)


def patch_around(col: Array, row: Array, far: float, rows: int, cols: int) -> Box:
    """Return the pixels of a picture no further than `far` pixels from the box of some points."""
    if not len(col):
        return Box(0, 0, 0, 0)
    low = np.floor([row.min() - far, col.min() - far]).astype(int)
    high = np.ceil([row.max() + far, col.max() + far]).astype(int) + 1
    return Box(max(0, int(low[0])), min(rows, int(high[0])), max(0, int(low[1])), min(cols, int(high[1])))


@nb.njit(nogil=True, fastmath=True, cache=True)
def _cover_line(line, inner, outer, top, left, out):  # type: ignore[no-untyped-def]
    rows, cols = out.shape
    zero, one, two, three = np.float32(0), np.float32(1), np.float32(2), np.float32(3)
    for k in range(max(1, len(line) - 1)):
        x0, y0, p0 = line[k, 0], line[k, 1], line[k, 2]
        last = k + 1 if k + 1 < len(line) else k
        x1, y1, p1 = line[last, 0], line[last, 1], line[last, 2]
        dx, dy = x1 - x0, y1 - y0
        length = dx * dx + dy * dy
        first_row, last_row = max(0, int(np.ceil(min(y0, y1) - outer)) - top), min(rows, int(np.floor(max(y0, y1) + outer)) + 1 - top)
        first_col, last_col = max(0, int(np.ceil(min(x0, x1) - outer)) - left), min(cols, int(np.floor(max(x0, x1) + outer)) + 1 - left)
        for r in range(first_row, last_row):
            for c in range(first_col, last_col):
                px, py = np.float32(c + left) - x0, np.float32(r + top) - y0
                along = zero
                if length > zero:
                    along = min(one, max(zero, (px * dx + py * dy) / length))
                    px, py = px - along * dx, py - along * dy
                away = (np.sqrt(px * px + py * py) - inner) / (outer - inner)
                if away < one:
                    away = max(away, zero)
                    cover = (p0 + (p1 - p0) * along) * (one - away * away * (three - two * away))
                    if cover > out[r, c]:
                        out[r, c] = cover


def line_cover(line: Array, radius: float, hardness: float, patch: Box) -> Array:
    """Return how much a brush that is led along a line covers, 0…1, over a patch.

    Parameters
    ----------
    line : float32 array (n, 3)
        Columns, rows (pixels) and pressure 0…1.
    radius : float
        Pixels.
    hardness : float
        The share of the radius that is covered fully; at the radius nothing is. The softest edge is a pixel wide.
    patch : Box

    Returns
    -------
    float32 array
        The largest of all places of the line: one stroke covers a place once.
    """
    out = np.zeros(patch.shape, np.float32)
    inner = min(hardness * radius, radius - 0.5)
    outer = max(radius, inner + 1)
    _cover_line(np.ascontiguousarray(line, np.float32), np.float32(inner), np.float32(outer), patch.top, patch.left, out)
    return out


def outline_cover(col: Array, row: Array, soft: float, patch: Box) -> Array:
    """Return how much of each pixel of a patch lies inside an outline, 0…1; `soft` pixels wide at its edge, which lies in the middle of that."""
    scale = 16
    points = np.stack([(col - patch.left) * scale, (row - patch.top) * scale], axis=1)
    inside = np.zeros(patch.shape, np.uint8)
    cv2.fillPoly(inside, [np.rint(points).astype(np.int32)], 255, lineType=cv2.LINE_AA, shift=4)
    cover = inside.astype(np.float32) / 255
    return np.asarray(cv2.GaussianBlur(cover, (0, 0), soft / 3), np.float32) if soft > 1 else cover


@nb.njit(nogil=True, fastmath=True, cache=True)
def _lay_over(under, over, cover, opacity):  # type: ignore[no-untyped-def]
    rows, cols, _ = under.shape
    zero, one = np.float32(0), np.float32(1)
    for r in range(rows):
        for c in range(cols):
            share = cover[r, c] * opacity
            if share <= zero:
                continue
            alpha = min(max(over[r, c, 3], zero), one)
            rest = one - share
            for k in range(3):
                under[r, c, k] = under[r, c, k] * rest + min(max(over[r, c, k], zero), alpha) * share
            under[r, c, 3] = under[r, c, 3] * rest + alpha * share


def lay_over(under: Array, over: Array, cover: Array, opacity: float) -> None:
    """Mix one picture into another by a cover, in place; what lies beyond what its alpha allows is cut off.

    Parameters
    ----------
    under, over : float32 array (rows, cols, 4)
        Coded, premultiplied; `under` is written into.
    cover : float32 array (rows, cols)
        0…1.
    opacity : float
        0…1.
    """
    _lay_over(under, over, cover, np.float32(opacity))


@nb.njit(nogil=True, fastmath=True, cache=True)
def _relax(field, known, rounds):  # type: ignore[no-untyped-def]
    rows, cols, channels = field.shape
    over = np.float32(1.6)
    for _ in range(rounds):
        for r in range(rows):
            for c in range(cols):
                if known[r, c]:
                    continue
                up, down, left, right = max(r - 1, 0), min(r + 1, rows - 1), max(c - 1, 0), min(c + 1, cols - 1)
                for k in range(channels):
                    mean = np.float32(0.25) * (field[up, c, k] + field[down, c, k] + field[r, left, k] + field[r, right, k])
                    field[r, c, k] += over * (mean - field[r, c, k])


COARSEST = 10
"""A raster with a shorter side of no more cells is solved at once; a larger one begins with what one half as large gives."""
ROUNDS = 14
"""So many rounds of relaxation put that right."""


def _carried(sums: Array, weight: Array) -> Array:
    """Return known means carried over the cells where nothing is known: (rows, cols, 3), from coarse to fine."""
    rows, cols = weight.shape
    there = weight > 0.02
    known = (sums / np.maximum(weight, 1e-6)[..., None]).astype(np.float32)
    if min(rows, cols) <= COARSEST:
        mean = (sums.sum(axis=(0, 1)) / max(float(weight.sum()), 1e-6)).astype(np.float32)
        field = np.ascontiguousarray(np.where(there[..., None], known, mean))
        _relax(field, there, 4 * max(rows, cols))
        return field
    half = (cols + 1) // 2, (rows + 1) // 2
    coarse = _carried(*(np.asarray(cv2.resize(part, half, interpolation=cv2.INTER_AREA), np.float32) for part in (sums, weight)))
    begun = np.asarray(cv2.resize(coarse, (cols, rows), interpolation=cv2.INTER_LINEAR), np.float32)
    field = np.ascontiguousarray(np.where(there[..., None], known, begun))
    _relax(field, there, ROUNDS)
    return field


def membrane_over(difference: Array, known: Array, cell: float) -> Array:
    """Return a difference that is known round a hole carried over it by the smoothest field there is.

    Parameters
    ----------
    difference : float32 array (rows, cols, 3)
    known : float32 array (rows, cols)
        0…1: where it counts.
    cell : float
        How many pixels a cell of the raster is wide that it is solved on.

    Returns
    -------
    float32 array (rows, cols, 3)
        Harmonic where nothing is known (P. Pérez and others, Poisson Image Editing, SIGGRAPH 2003).
    """
    rows, cols = known.shape
    cell = max(cell, max(rows, cols) / CELLS, 1.0)
    small = max(2, round(cols / cell)), max(2, round(rows / cell))
    weight = cv2.resize(known, small, interpolation=cv2.INTER_AREA)
    sums = cv2.resize(difference * known[..., None], small, interpolation=cv2.INTER_AREA)
    if not (weight > 0.02).any():
        return np.zeros(difference.shape, np.float32)
    field = _carried(np.asarray(sums, np.float32), np.asarray(weight, np.float32))
    return np.asarray(cv2.resize(field, (cols, rows), interpolation=cv2.INTER_LINEAR), np.float32)
