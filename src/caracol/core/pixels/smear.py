"""Averages along short paths: rays from a centre, arcs round it, and the flow of the picture itself."""

from __future__ import annotations

import numba as nb
import numpy as np

from ..arrays import Array
from .light import TO_CODED
from .pyramid import Pyramid
from .vectors import add_four_texels

MOST_TAPS = 40
SPACING = 1.6
"""Taps lie about so many texels apart; on longer paths a smaller level is read."""


@nb.njit(inline="always")
def _near(i, n):  # type: ignore[no-untyped-def]
    if i < 0:
        i = -1 - i
    i = i % (2 * n)
    return 2 * n - 1 - i if i >= n else i


@nb.njit(nogil=True, fastmath=True, cache=True)
def _smear(block, starts, heights, widths, x, y, kx, ky, spin, cx, cy, amount, begin, table, out):  # type: ignore[no-untyped-def]
    """Fill `out`; `x`, `y` are points in units, `kx`, `ky` texels per unit, `begin` where the path begins, in parts of itself."""
    rows, cols = x.shape
    half, one = np.float32(0.5), np.float32(1)
    last = len(starts) - 1
    for r in range(rows):
        for c in range(cols):
            dx, dy = x[r, c] - cx, y[r, c] - cy
            length = np.sqrt(dx * dx + dy * dy) * abs(amount) * kx * (np.float32(2 * np.pi) if spin else one)
            level = 0
            while length > MOST_TAPS * SPACING and level < last:
                length *= half
                level += 1
            n = min(MOST_TAPS, int(length / np.float32(SPACING)) + 1)
            w, h, start = widths[level], heights[level], starts[level]
            gx, gy = np.float32(w) / np.float32(widths[0]) * kx, np.float32(h) / np.float32(heights[0]) * ky
            total = (np.float32(0), np.float32(0), np.float32(0), np.float32(0))
            step = one / np.float32(n)
            t = begin + half * step
            # From tap to tap the arm is turned by the same small angle, or grows by the same length.
            arm = np.float32(2 * np.pi) * amount * t if spin else one + amount * t
            if spin:
                vx, vy = dx * np.cos(arm) - dy * np.sin(arm), dx * np.sin(arm) + dy * np.cos(arm)
                cs, sn = np.cos(np.float32(2 * np.pi) * amount * step), np.sin(np.float32(2 * np.pi) * amount * step)
            else:
                vx, vy = dx * arm, dy * arm
                cs, sn = amount * step * dx, amount * step * dy
            for _ in range(n):
                tx = (cx + vx) * gx + np.float32(w) * half - half
                ty = (cy + vy) * gy + np.float32(h) * half - half
                if spin:
                    vx, vy = vx * cs - vy * sn, vx * sn + vy * cs
                else:
                    vx, vy = vx + cs, vy + sn
                x0, y0 = np.floor(tx), np.floor(ty)
                fx, fy = np.float32(tx - x0), np.float32(ty - y0)
                ix, iy = int(x0), int(y0)
                if 0 <= ix < w - 1 and 0 <= iy < h - 1:
                    p = start + (iy * w + ix) * 4
                    q, s, u = p + 4, p + w * 4, p + w * 4 + 4
                else:
                    top, low = start + _near(iy, h) * w * 4, start + _near(iy + 1, h) * w * 4
                    left, right = _near(ix, w) * 4, _near(ix + 1, w) * 4
                    p, q, s, u = top + left, top + right, low + left, low + right
                w11 = fx * fy
                w01, w10 = fx - w11, fy - w11
                total = add_four_texels(
                    block, np.uintp(p), np.uintp(q), np.uintp(s), np.uintp(u), one - w01 - w10 - w11, w01, w10, w11, total
                )
            t0, t1, t2, t3 = total
            inverse = one / np.float32(n)
            alpha = min(t3 * inverse, np.float32(65535))
            share = alpha / np.float32(65535)
            out[r, c, 3] = share
            for k in range(3):
                value = (t0 if k == 0 else (t1 if k == 1 else t2)) * inverse
                value = min(value / share, np.float32(65535)) if share > 0 else np.float32(0)
                out[r, c, k] = table[int(value + half)] * share


def smear(source: Pyramid, x: Array, y: Array, *, spin: bool, centre: tuple[float, float], amount: float, begin: float) -> Array:
    """Return averages in linear light along rays (`spin` False) or arcs through points.

    Parameters
    ----------
    x, y : float32 arrays (rows, cols)
        Points in units of the source's frame.
    amount : float
        How long a path is: as a share of the distance to the centre, or in turns.
    begin : float
        Where on its path a point lies: 0 at its beginning, -0.5 in its middle, -1 at its end.
    """
    frame = source.frame
    out = np.empty((*x.shape, 4), np.float32)
    kx, ky = np.float32(source.cols / 2 / frame.half_w), np.float32(source.rows / 2 / frame.half_h)
    numbers = (np.float32(centre[0]), np.float32(centre[1]), np.float32(amount), np.float32(begin))
    _smear(source.block, source.starts, source.heights, source.widths, x, y, kx, ky, spin, *numbers, TO_CODED, out)
    return out


@nb.njit(nogil=True, fastmath=True, cache=True)
def smear_along(picture, angle, length, first, last, out):  # type: ignore[no-untyped-def]
    """Fill rows first … last of `out` with averages of `picture` (rows, cols, channels) along lines of flow.

    `angle` (radians, rows, cols) has no sense of direction: each step goes on the way it came. `length` is half a path, in pixels. A
    path's ends count less (Hann). After Cabral and Leedom, Imaging Vector Fields Using Line Integral Convolution (1993).
    """
    rows, cols, channels = picture.shape
    steps = max(1, int(length))
    total = np.empty(channels, np.float32)
    for r in range(first, last):
        for c in range(cols):
            weight = np.float32(1)
            for k in range(channels):
                total[k] = picture[r, c, k]
            for sense in range(2):
                x, y = np.float32(c), np.float32(r)
                vx, vy = np.cos(angle[r, c]), np.sin(angle[r, c])
                if sense:
                    vx, vy = -vx, -vy
                for n in range(1, steps + 1):
                    x += vx
                    y += vy
                    col, row = int(x + np.float32(0.5)), int(y + np.float32(0.5))
                    if col < 0 or row < 0 or col >= cols or row >= rows:
                        break
                    w = np.float32(0.5) + np.float32(0.5) * np.cos(np.float32(np.pi) * np.float32(n) / np.float32(steps + 1))
                    for k in range(channels):
                        total[k] += w * picture[row, col, k]
                    weight += w
                    ax, ay = np.cos(angle[row, col]), np.sin(angle[row, col])
                    if ax * vx + ay * vy < 0:
                        ax, ay = -ax, -ay
                    vx, vy = ax, ay
            for k in range(channels):
                out[r, c, k] = total[k] / weight
