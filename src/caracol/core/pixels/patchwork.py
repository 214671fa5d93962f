"""Patchwork: an area shown by patches of the same picture, laid into each other with their contrast kept."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil

import numpy as np

from ..arrays import Array
from ..geometry.frame import Frame
from .soften import softened
from .strokes import Patch, patch_around, shown_at, to_pixels

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
    picture: Array, frame: Frame, area: Patch, readings: list[Reading], spacing: float, keep: float, lively: float = 1.0
) -> Array:
    """Return an area shown by patches.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded, premultiplied; beyond it its outermost pixels go on.
    frame : Frame
        Of the picture.
    area : Patch
        Which of its pixels are made.
    readings : list of Reading
    spacing : float
        Between the middles of neighbouring patches, units.
    keep : float
        What is coarser than this (a deviation in units) is mixed; what is finer keeps its contrast, as what is mixed of unlike patches would lose it.

    lively : float
        0…1: how much of the contrast that mixing takes is given back.

    Returns
    -------
    float32 array
        Of the size of the area; where no patch reaches, as it was.

    References
    ----------
    E. Heitz and F. Neyret, High-Performance By-Example Noise using a Histogram-Preserving Blending Operator, HPG (2018): the blending that keeps
    the variance.
    """
    per_unit = picture.shape[1] / 2 / frame.half_w
    soft = softened(picture, keep * per_unit, keep * per_unit)
    out = area.of(picture).copy()
    for top in range(area.top, area.bottom, BLOCK):
        block = Patch(top, min(top + BLOCK, area.bottom), area.left, area.right)
        total, squares = np.zeros(block.shape, np.float32), np.zeros(block.shape, np.float32)
        coarse, fine = np.zeros((*block.shape, 4), np.float32), np.zeros((*block.shape, 4), np.float32)
        for one in readings:
            _lay(picture, soft, frame, block, one, spacing * WIDE * per_unit, total, squares, coarse, fine)
        there = total > 1e-4
        whole = np.maximum(total, 1e-4)[..., None]
        kept = np.sqrt(np.maximum(squares, 1e-8))[..., None] ** lively * whole ** (1 - lively)
        made = coarse / whole + fine / kept
        alpha = np.clip(made[..., 3:], 0, 1)
        made = np.concatenate([np.clip(made[..., :3], 0, alpha), alpha], axis=-1)
        part = out[top - area.top : block.bottom - area.top]
        part[there] = made[there]
    return out


def _lay(picture: Array, soft: Array, frame: Frame, block: Patch, one: Reading, far: float, total: Array, squares: Array, coarse: Array, fine: Array) -> None:  # fmt: skip
    """Add one patch to a block's sums."""
    rows, cols = picture.shape[:2]
    col, row = to_pixels(frame, rows, cols, np.float32([one.x]), np.float32([one.y]))  # type: ignore[arg-type]
    near = patch_around(col, row, far, rows, cols)
    near = Patch(max(near.top, block.top), min(near.bottom, block.bottom), max(near.left, block.left), min(near.right, block.right))
    if near.is_empty:
        return
    down = np.arange(near.top, near.bottom, dtype=np.float32)[:, None]
    across = np.arange(near.left, near.right, dtype=np.float32)[None]
    away = np.clip(1 - ((across - col[0]) ** 2 + (down - row[0]) ** 2) / (far * far), 0, 1)
    weight = away * away
    per_unit = cols / 2 / frame.half_w
    at = across + np.float32(one.dx * per_unit), down + np.float32(one.dy * per_unit)
    sharp, mean = shown_at(picture, *at), shown_at(soft, *at, fine=False)
    tone = shown_at(soft, across + np.float32(one.tone_dx * per_unit), down + np.float32(one.tone_dy * per_unit), fine=False)
    here = np.s_[near.top - block.top : near.bottom - block.top, near.left - block.left : near.right - block.left]
    total[here] += weight
    squares[here] += weight * weight
    coarse[here] += weight[..., None] * tone
    fine[here] += weight[..., None] * (sharp - mean)
