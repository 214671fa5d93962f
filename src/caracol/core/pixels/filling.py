"""Filling a hole with what lies elsewhere: patches that continue what is round it, found from coarse to fine."""

from __future__ import annotations

import cv2
import numba as nb
import numpy as np

from ..arrays import AnyArray, Array

HALF = 3
"""Patches are 2·HALF + 1 cells wide."""
LEVELS = 4
ROUNDS = (8, 6, 4, 3)
"""How often patches are looked for and laid, from the coarsest level up."""
SMALLEST = 20
"""A level's shorter side has at least so many cells."""
BINS = 12
"""Surfaces are told apart by colours in so many steps a channel."""
RARE = 0.004
"""A colour that fewer cells of the hole's edge have than this share is none of its surfaces."""
SAME = 0.9
"""So much of a patch has colours of the hole's edge, if it is of the same surface."""
ENOUGH = 0.5
"""Of a hole's cells, at least so many patches are needed to fill it with."""


@nb.njit(inline="always")
def _draw(state):  # type: ignore[no-untyped-def]
    # A linear congruence (Knuth's MMIX): the same hole is always filled alike.
    return state * np.uint64(6364136223846793005) + np.uint64(1442695040888963407)


@nb.njit(nogil=True, fastmath=True, cache=True)
def _distance(picture, r, c, sr, sc, best):  # type: ignore[no-untyped-def]
    rows, cols, _ = picture.shape
    total = np.float32(0)
    for dr in range(-HALF, HALF + 1):
        ar, br = min(max(r + dr, 0), rows - 1), sr + dr
        for dc in range(-HALF, HALF + 1):
            ac, bc = min(max(c + dc, 0), cols - 1), sc + dc
            for k in range(3):
                step = picture[ar, ac, k] - picture[br, bc, k]
                total += step * step
        if total >= best:
            return best
    return total


@nb.njit(nogil=True, fastmath=True, cache=True)
def _seek(picture, cells, whole, at, near, costs, rounds, seed):  # type: ignore[no-untyped-def]
    """One round of PatchMatch for each cell of the hole: from its neighbours, then at random ever nearer."""
    rows, cols, _ = picture.shape
    state = np.uint64(seed)
    wide = max(rows, cols)
    for turn in range(rounds):
        back = turn % 2 == 1
        step = 1 if back else -1
        for n in range(len(cells)):
            i = len(cells) - 1 - n if back else n
            r, c = cells[i, 0], cells[i, 1]
            costs[i] = _distance(picture, r, c, near[i, 0], near[i, 1], np.float32(1e9))
            for way in range(2):
                nr, nc = (r + step, c) if way == 0 else (r, c + step)
                if nr < 0 or nc < 0 or nr >= rows or nc >= cols or at[nr, nc] < 0:
                    continue
                j = at[nr, nc]
                sr, sc = near[j, 0] - (nr - r), near[j, 1] - (nc - c)
                if sr < HALF or sc < HALF or sr >= rows - HALF or sc >= cols - HALF or not whole[sr, sc]:
                    continue
                found = _distance(picture, r, c, sr, sc, costs[i])
                if found < costs[i]:
                    costs[i], near[i, 0], near[i, 1] = found, sr, sc
            reach = wide
            while reach >= 1:
                state = _draw(state)
                sr = near[i, 0] + np.int64(state >> np.uint64(33)) % (2 * reach + 1) - reach
                state = _draw(state)
                sc = near[i, 1] + np.int64(state >> np.uint64(33)) % (2 * reach + 1) - reach
                reach //= 2
                if sr < HALF or sc < HALF or sr >= rows - HALF or sc >= cols - HALF or not whole[sr, sc]:
                    continue
                found = _distance(picture, r, c, sr, sc, costs[i])
                if found < costs[i]:
                    costs[i], near[i, 0], near[i, 1] = found, sr, sc


@nb.njit(nogil=True, fastmath=True, cache=True)
def _lay(picture, cells, at, near, costs):  # type: ignore[no-untyped-def]
    """Give each cell of the hole the mean of what all patches over it show there, better ones counting more."""
    rows, cols, _ = picture.shape
    spread = np.float32(0)
    for i in range(len(cells)):
        spread += costs[i]
    spread = max(spread / np.float32(len(cells)), np.float32(1e-6))
    out = np.empty((len(cells), 3), np.float32)
    for i in range(len(cells)):
        r, c = cells[i, 0], cells[i, 1]
        total = np.float32(0)
        red, green, blue = np.float32(0), np.float32(0), np.float32(0)
        for dr in range(-HALF, HALF + 1):
            for dc in range(-HALF, HALF + 1):
                qr, qc = r + dr, c + dc
                if qr < 0 or qc < 0 or qr >= rows or qc >= cols or at[qr, qc] < 0:
                    continue
                j = at[qr, qc]
                weight = np.exp(-np.float32(2) * costs[j] / spread) + np.float32(1e-4)
                sr, sc = near[j, 0] - dr, near[j, 1] - dc
                total += weight
                red += weight * picture[sr, sc, 0]
                green += weight * picture[sr, sc, 1]
                blue += weight * picture[sr, sc, 2]
        out[i, 0], out[i, 1], out[i, 2] = red / total, green / total, blue / total
    for i in range(len(cells)):
        for k in range(3):
            picture[cells[i, 0], cells[i, 1], k] = out[i, k]


def _whole_patches(hole: AnyArray) -> AnyArray:
    """Return the middles of patches that lie inside and have nothing of the hole."""
    free = cv2.erode(
        (~hole).astype(np.uint8), np.ones((2 * HALF + 1, 2 * HALF + 1), np.uint8), borderType=cv2.BORDER_CONSTANT, borderValue=0
    )
    free[:HALF] = free[-HALF:] = 0
    free[:, :HALF] = free[:, -HALF:] = 0
    return free > 0


def _of_the_same_surface(picture: Array, gap: AnyArray, whole: AnyArray) -> AnyArray:
    """Return which middles of patches show what lies at the edge of the hole; all of them, where that is too little to fill it with.

    Colours are counted in a cube of BINS to a side, each with its neighbours, along the hole's edge; a patch is of those surfaces where
    nearly all of its cells have such a colour.
    """
    wide = np.ones((2 * HALF + 1, 2 * HALF + 1), np.uint8)
    edge = (cv2.dilate(gap.astype(np.uint8), wide) > 0) & ~gap
    bins = np.clip((picture * BINS).astype(np.int64), 0, BINS - 1)
    counts = np.zeros((BINS,) * 3, np.float32)
    np.add.at(counts, tuple(bins[edge].T), 1)
    for axis in range(3):
        padded = np.pad(counts, [(int(n == axis),) * 2 for n in range(3)])
        counts = sum(np.take(padded, range(k, k + BINS), axis) for k in range(3))  # type: ignore[assignment]
    seen = counts[tuple(np.moveaxis(bins, 2, 0))] > RARE * edge.sum()
    share = cv2.boxFilter(seen.astype(np.float32), -1, wide.shape, borderType=cv2.BORDER_REPLICATE)
    same = whole & (share >= SAME)
    return same if same.sum() >= ENOUGH * gap.sum() else whole


def find_offsets(picture: Array, hole: AnyArray) -> AnyArray | None:
    """Return for each cell of a hole where what fills it lies, as (rows, columns) to go from it; 0 outside of the hole.

    What fills it shows the surfaces that lie at the hole's edge, and no others, where there is enough of them.

    Parameters
    ----------
    picture : float32 array (rows, cols, 3)
        What lies in the hole is not looked at.
    hole : bool array (rows, cols)

    Returns
    -------
    int64 array (rows, cols, 2), or None
        None where there is no hole, or nothing to fill it with.

    References
    ----------
    C. Barnes and others, PatchMatch, SIGGRAPH (2009). Y. Wexler, E. Shechtman, M. Irani, Space-Time Completion of Video, PAMI 29 (2007).
    """
    if not hole.any() or not _whole_patches(hole).any():
        return None
    steps = [0]
    while len(steps) < LEVELS and min(hole.shape) >> (len(steps)) >= SMALLEST:
        steps.append(len(steps))
    near: AnyArray | None = None
    filled = cv2.inpaint(np.rint(np.clip(picture, 0, 1) * 255).astype(np.uint8), hole.astype(np.uint8), 3, cv2.INPAINT_TELEA)
    known = np.where(hole[..., None], filled.astype(np.float32) / 255, picture).astype(np.float32)
    before: AnyArray | None = None
    for level in reversed(steps):
        small, gap = _smaller(known, hole, level)
        whole = _whole_patches(gap)
        if not whole.any():
            continue
        cells = np.argwhere(gap)
        at = np.full(gap.shape, -1, np.int64)
        at[gap] = np.arange(len(cells))
        whole = _of_the_same_surface(small, gap, whole)
        free = np.argwhere(whole)
        near = free[(np.arange(len(cells)) * 7919) % len(free)].copy()
        if before is not None:
            near = _finer(before, cells, near, whole)
            small = _read(small, cells, near)
        costs = np.zeros(len(cells), np.float32)
        for turn in range(ROUNDS[LEVELS - 1 - level]):
            _seek(small, cells, whole, at, near, costs, 2, 1 + turn + 101 * level)
            _lay(small, cells, at, near, costs)
        before = np.zeros((*gap.shape, 2), np.int64)
        before[gap] = near - cells
    return before


def _smaller(picture: Array, hole: AnyArray, level: int) -> tuple[Array, AnyArray]:
    """Return a picture and its hole at a half, a quarter … of the size."""
    if not level:
        return picture.copy(), hole
    rows, cols = (max(1, n >> level) for n in hole.shape)
    gap = cv2.resize(hole.astype(np.float32), (cols, rows), interpolation=cv2.INTER_AREA) > 0.01
    return np.asarray(cv2.resize(picture, (cols, rows), interpolation=cv2.INTER_AREA), np.float32), gap


def _finer(before: AnyArray, cells: AnyArray, near: AnyArray, whole: AnyArray) -> AnyArray:
    """Return where cells are filled from by what was found at half the size; those for which that is no whole patch keep what they had."""
    rows, cols = whole.shape
    above = np.stack([cells[:, 0] * before.shape[0] // rows, cells[:, 1] * before.shape[1] // cols], axis=1)
    wanted = cells + 2 * before[above[:, 0], above[:, 1]]
    wanted = np.clip(wanted, 0, [rows - 1, cols - 1])
    good = whole[wanted[:, 0], wanted[:, 1]] & before[above[:, 0], above[:, 1]].any(axis=1)
    return np.where(good[:, None], wanted, near)


def _read(picture: Array, cells: AnyArray, near: AnyArray) -> Array:
    picture[cells[:, 0], cells[:, 1]] = picture[near[:, 0], near[:, 1]]
    return picture
