"""The sampler of drafts: one bilinear read per point, of 8-bit levels chosen by block, at points spread between few that a rule was asked for.

The method, and what it may miss, is in `docs/coordinates.md`. Everything is serial and lets go of the interpreter lock.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from itertools import pairwise

import cv2
import numba as nb
import numpy as np

from ..arrays import AnyArray, Array
from ..geometry.frame import Frame, spanned
from .light import from_texels
from .pyramid import Pyramid

CELL = 4
"""A rule is asked at the corners and the middle of cells of so many points a side."""
BLOCK = 16
"""So many cells across read one level."""
BIAS = np.float32(-0.5)
"""Octaves by which a finer level is read than footprints say: one read of a level is blur enough."""
MISS = np.float32(0.15)
"""How far, in texels, a cell's middle may lie beside what its corners say."""
MOST_TORN = 0.35
"""Where a larger share of cells is torn, all points are asked for."""
PAD = 2
"""Texels around each level, so that reads across its edges need no rule of their own."""
FAR = np.float32(1e8)
NOWHERE = np.float32(-100)

Rule = Callable[[Array, Array], tuple[Array, Array]]


@dataclass(frozen=True, eq=False)
class Coded:
    """Levels of a pyramid as 8-bit coded premultiplied pictures, largest first.

    Parameters
    ----------
    levels : tuple of uint8 arrays (rows, cols, 4)
    rows, cols : int
        Of the pyramid's own largest level, which need not be among them.
    """

    levels: tuple[AnyArray, ...]
    rows: int
    cols: int
    _padded: dict[tuple[bool, bool], tuple[AnyArray, ...]] = field(default_factory=dict)

    @property
    def frame(self) -> Frame:
        return Frame(self.cols / self.rows)

    @property
    def nbytes(self) -> int:
        return 2 * sum(level.nbytes for level in self.levels)

    def padded(self, wrap: tuple[bool, bool]) -> tuple[AnyArray, ...]:
        """Return the levels with `PAD` texels around them, which go on round the back or by mirrors."""
        if wrap not in self._padded:
            across, down = (cv2.BORDER_WRAP if goes_on else cv2.BORDER_REFLECT for goes_on in wrap)
            self._padded[wrap] = tuple(
                cv2.copyMakeBorder(cv2.copyMakeBorder(level, 0, 0, PAD, PAD, across), PAD, PAD, 0, 0, down) for level in self.levels
            )
        return self._padded[wrap]


def coded_of(pyramid: Pyramid, longer: float) -> Coded:
    """Return the levels of a pyramid from the smallest that has `longer` pixels on its longer side, as drafts read them."""
    levels = []
    for index in range(pyramid.level_for(longer), len(pyramid.starts)):
        levels.append(cv2.convertScaleAbs(from_texels(pyramid.level(index)), alpha=255))
    return Coded(tuple(levels), pyramid.rows, pyramid.cols)


@nb.njit(inline="always")
def _near(step, period):  # type: ignore[no-untyped-def]
    """Return a step without whole periods."""
    return step - period * np.rint(step / period)


SMOOTH, TORN, GONE = 0, 1, 2


@nb.njit(nogil=True, fastmath=True, cache=True)
def _survey(nx, ny, mx, my, period_x, period_y, kx, ky, miss, state, spans):  # type: ignore[no-untyped-def]
    """Find for every cell whether its points may be spread between its corners; return how many may not.

    `nx`, `ny` are its corners and `mx`, `my` its middle as the rule moved them, in units of the source; `kx`, `ky` texels per unit.
    `spans` receives, in texels: the first corner; steps from point to point across, down, and their change; log2 of the footprint.
    """
    rows, cols = state.shape
    half, quarter, one, least = np.float32(0.5), np.float32(1 / CELL), np.float32(1), np.float32(1e-3)
    torn = 0
    for i in range(rows):
        for j in range(cols):
            a, b, c, d, e = nx[i, j], nx[i, j + 1], nx[i + 1, j], nx[i + 1, j + 1], mx[i, j]
            gone = (a > FAR) + (b > FAR) + (c > FAR) + (d > FAR) + (e > FAR)
            if gone:
                state[i, j] = GONE if gone == 5 else TORN
                torn += gone < 5
                continue
            x, y = a * kx, ny[i, j] * ky
            ax, ay = _near(b * kx - x, period_x), _near(ny[i, j + 1] * ky - y, period_y)
            bx, by = _near(c * kx - x, period_x), _near(ny[i + 1, j] * ky - y, period_y)
            cx, cy = _near(d * kx - x - ax - bx, period_x), _near(ny[i + 1, j + 1] * ky - y - ay - by, period_y)
            ex = _near(e * kx - x - half * (ax + bx) - half * half * cx, period_x)
            ey = _near(my[i, j] * ky - y - half * (ay + by) - half * half * cy, period_y)
            ux, uy = (ax + half * cx) * quarter, (ay + half * cy) * quarter
            vx, vy = (bx + half * cx) * quarter, (by + half * cy) * quarter
            la, lb = np.sqrt(ux * ux + uy * uy), np.sqrt(vx * vx + vy * vy)
            allowed = miss * max(one, min(la, lb))
            if ex * ex + ey * ey > allowed * allowed:
                state[i, j] = TORN
                torn += 1
                continue
            state[i, j] = SMOOTH
            spans[i, j, 0], spans[i, j, 1] = x, y
            spans[i, j, 2], spans[i, j, 3] = ax * quarter, ay * quarter
            spans[i, j, 4], spans[i, j, 5] = bx * quarter, by * quarter
            spans[i, j, 6], spans[i, j, 7] = cx * quarter * quarter, cy * quarter * quarter
            spans[i, j, 8] = half * (np.log2(max(la, least)) + np.log2(max(lb, least)))
    return torn


@nb.njit(nogil=True, fastmath=True, cache=True)
def _choose(state, spans, octaves, bias, levels):  # type: ignore[no-untyped-def]
    """Choose a level for every block of cells, by the mean footprint of its smooth ones; where it has none, as the block before."""
    rows, cols = state.shape
    last = 0
    for block in range(len(levels)):
        total, count = np.float32(0), 0
        for i in range(rows):
            for j in range(block * BLOCK, min((block + 1) * BLOCK, cols)):
                if state[i, j] == SMOOTH:
                    total += spans[i, j, 8]
                    count += 1
        if count:
            wanted = total / np.float32(count) + bias
            last = 0
            while last < len(octaves) - 1 and abs(octaves[last + 1] - wanted) < abs(octaves[last] - wanted):
                last += 1
        levels[block] = last


@nb.njit(inline="always")
def _put(x, y, width, height, wrap_x, wrap_y, mx, my, r, c):  # type: ignore[no-untyped-def]
    """Write where a point lies in a padded level; `x`, `y` in its texels, 0 at its edge."""
    two, shift = np.float32(2), np.float32(PAD - 0.5)
    if not 0 <= x < width:
        if wrap_x:
            x = x - width * np.floor(x / width)
        else:
            x = x - two * width * np.floor(x / (two * width))
            x = min(x, two * width - x)
    if not 0 <= y < height:
        if wrap_y:
            y = y - height * np.floor(y / height)
        else:
            y = y - two * height * np.floor(y / (two * height))
            y = min(y, two * height - y)
    mx[r, c] = x + shift
    my[r, c] = y + shift


@nb.njit(nogil=True, fastmath=True, cache=True)
def _spread(state, spans, half_cols, half_rows, widths, heights, wrap_x, wrap_y, levels, mx, my):  # type: ignore[no-untyped-def]
    """Write where the points of all smooth cells lie in their levels, and that those that are gone lie nowhere."""
    rows, cols = mx.shape
    half = np.float32(0.5)
    for i in range(state.shape[0]):
        r0, r1 = i * CELL, min((i + 1) * CELL, rows)
        for j in range(state.shape[1]):
            c0, c1 = j * CELL, min((j + 1) * CELL, cols)
            if state[i, j] == GONE:
                mx[r0:r1, c0:c1] = NOWHERE
                my[r0:r1, c0:c1] = NOWHERE
            if state[i, j] != SMOOTH:
                continue
            level = levels[j // BLOCK]
            width, height = np.float32(widths[level]), np.float32(heights[level])
            gx, gy = half * width / half_cols, half * height / half_rows
            x, y = (spans[i, j, 0] + half_cols) * gx, (spans[i, j, 1] + half_rows) * gy
            ux, uy, vx, vy = spans[i, j, 2] * gx, spans[i, j, 3] * gy, spans[i, j, 4] * gx, spans[i, j, 5] * gy
            wx, wy = spans[i, j, 6] * gx, spans[i, j, 7] * gy
            for r in range(r0, r1):
                down = np.float32(r - r0) + half
                lx, ly, sx, sy = x + down * vx, y + down * vy, ux + down * wx, uy + down * wy
                for c in range(c0, c1):
                    across = np.float32(c - c0) + half
                    _put(lx + across * sx, ly + across * sy, width, height, wrap_x, wrap_y, mx, my, r, c)


@nb.njit(nogil=True, fastmath=True, cache=True)
def _scatter(sx, sy, kx, ky, at, half_cols, half_rows, widths, heights, wrap_x, wrap_y, levels, mx, my):  # type: ignore[no-untyped-def]
    """Write where the points of cells lie that were all asked for: `at` are their (row, column), `sx`, `sy` cells below each other."""
    rows, cols = mx.shape
    half = np.float32(0.5)
    for k in range(len(at)):
        row, col = at[k, 0] * CELL, at[k, 1] * CELL
        level = levels[at[k, 1] // BLOCK]
        width, height = np.float32(widths[level]), np.float32(heights[level])
        gx, gy = half * width / half_cols, half * height / half_rows
        for r in range(min(CELL, rows - row)):
            for c in range(min(CELL, cols - col)):
                x, y = sx[k * CELL + r, c], sy[k * CELL + r, c]
                if x < FAR:
                    px, py = (x * kx + half_cols) * gx, (y * ky + half_rows) * gy
                    _put(px, py, width, height, wrap_x, wrap_y, mx, my, row + r, col + c)
                else:
                    mx[row + r, col + c] = NOWHERE
                    my[row + r, col + c] = NOWHERE


@dataclass(frozen=True)
class _Lattice:
    """The cells of an even grid of points: where their corners lie, in units of the output."""

    x: Array
    y: Array
    step_x: np.float32
    step_y: np.float32

    @staticmethod
    def over(x: Array, y: Array) -> _Lattice:
        """Return the cells of a grid that is given with a halo of one point."""
        rows, cols = x.shape[0] - 2, x.shape[1] - 2
        step_x, step_y = (float(x[0, -1]) - float(x[0, 0])) / (cols + 1), (float(y[-1, 0]) - float(y[0, 0])) / (rows + 1)
        across, down = np.arange(-(-cols // CELL) + 1), np.arange(-(-rows // CELL) + 1)
        return _Lattice(
            (x[0, 0] + step_x * (0.5 + CELL * across)).astype(np.float32),
            (y[0, 0] + step_y * (0.5 + CELL * down)).astype(np.float32),
            np.float32(step_x),
            np.float32(step_y),
        )

    def corners(self) -> tuple[Array, Array]:
        return spanned(self.x, self.y)

    def middles(self) -> tuple[Array, Array]:
        half = np.float32(CELL / 2)
        return spanned(self.x[:-1] + half * self.step_x, self.y[:-1] + half * self.step_y)

    def points(self, at: AnyArray) -> tuple[Array, Array]:
        """Return all points of some cells, given by (row, column), below each other."""
        offsets = np.arange(CELL, dtype=np.float32) + np.float32(0.5)
        x = np.empty((len(at), CELL, CELL), np.float32)
        y = np.empty_like(x)
        x[...] = (self.x[at[:, 1], None] + offsets * self.step_x)[:, None, :]
        y[...] = (self.y[at[:, 0], None] + offsets * self.step_y)[:, :, None]
        return x.reshape(-1, CELL), y.reshape(-1, CELL)


def sample_draft(source: Coded, wrap: tuple[bool, bool], rule: Rule, x: Array, y: Array, out: Array) -> None:
    """Fill `out` with the colours that `rule` points to, as a draft.

    Parameters
    ----------
    source : Coded
    wrap : (bool, bool)
        Whether the source goes on round the back across, and down.
    rule : callable
        From output units to source units.
    x, y : float32 arrays of shape (rows + 2, cols + 2)
        An even grid of output points in units with a halo of one.
    out : float32 array of shape (rows, cols, 4)
        Receives sRGB-coded premultiplied colours.
    """
    rows, cols = out.shape[:2]
    if not out.size:
        return
    lattice = _Lattice.over(x, y)
    shape = (len(lattice.y) - 1, len(lattice.x) - 1)
    state, spans = np.empty(shape, np.uint8), np.empty((*shape, 9), np.float32)
    frame = source.frame
    half_cols, half_rows = np.float32(source.cols / 2), np.float32(source.rows / 2)
    kx, ky = half_cols / np.float32(frame.half_w), half_rows / np.float32(frame.half_h)
    none = np.float32(1e15)
    period_x, period_y = np.float32(source.cols) if wrap[0] else none, np.float32(source.rows) if wrap[1] else none
    torn = _survey(*rule(*lattice.corners()), *rule(*lattice.middles()), period_x, period_y, kx, ky, MISS, state, spans)

    sizes = np.array([level.shape[:2] for level in source.levels])
    heights, widths = np.ascontiguousarray(sizes[:, 0]), np.ascontiguousarray(sizes[:, 1])
    levels = np.empty(-(-shape[1] // BLOCK), np.int64)
    _choose(state, spans, np.log2(source.cols / widths).astype(np.float32), BIAS, levels)
    mx, my = np.empty((rows, cols), np.float32), np.empty((rows, cols), np.float32)
    if torn > MOST_TORN * state.size:
        state[...] = TORN
    else:
        _spread(state, spans, half_cols, half_rows, widths, heights, *wrap, levels, mx, my)
    if torn:
        at = np.argwhere(state == TORN)
        _scatter(*rule(*lattice.points(at)), kx, ky, at, half_cols, half_rows, widths, heights, *wrap, levels, mx, my)

    pixels = np.empty((rows, cols, 4), np.uint8)
    padded = source.padded(wrap)
    cuts = [0, *(np.flatnonzero(np.diff(levels)) + 1), len(levels)]
    for first, end in pairwise(cuts):
        part = slice(first * BLOCK * CELL, end * BLOCK * CELL)
        # What lies nowhere reads the border, which is transparent.
        cv2.remap(padded[levels[first]], mx[:, part], my[:, part], cv2.INTER_LINEAR, dst=pixels[:, part], borderMode=cv2.BORDER_CONSTANT)
    np.multiply(pixels, np.float32(1 / 255), out=out)
