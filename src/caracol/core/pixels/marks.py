"""Marks: many small dots and strokes with soft outlines, laid over each other."""

from __future__ import annotations

import numba as nb
import numpy as np

from ..arrays import Array


@nb.njit(nogil=True, fastmath=True, cache=True)
def lay_marks(ends: Array, reach: Array, shades: Array, first: int, last: int, out: Array) -> None:  # pragma: no cover
    """Lay marks over rows `first` … `last` of a picture, in their order.

    Parameters
    ----------
    ends : float32 array (n, 4)
        Both ends of each mark as x, y, x, y in pixels, whole numbers in pixels' middles; the same point twice makes a dot.
    reach : float32 array (n,)
        Half of each mark's width, pixels.
    shades : float32 array (n, 3)
        Coded colours.
    out : float32 array (rows, cols, 4)
        Coded, premultiplied; written into. A pixel whose middle lies on an outline is half covered.
    """
    cols = out.shape[1]
    half, one, zero = np.float32(0.5), np.float32(1), np.float32(0)
    for k in range(len(ends)):
        x0, y0, x1, y1, far = ends[k, 0], ends[k, 1], ends[k, 2], ends[k, 3], reach[k] + half
        top, bottom = max(first, int(np.ceil(min(y0, y1) - far))), min(last, int(np.floor(max(y0, y1) + far)) + 1)
        left, right = max(0, int(np.ceil(min(x0, x1) - far))), min(cols, int(np.floor(max(x0, x1) + far)) + 1)
        dx, dy = x1 - x0, y1 - y0
        outer, inner = far * far, max(zero, far - one) ** 2
        length = dx * dx + dy * dy
        for r in range(top, bottom):
            for c in range(left, right):
                px, py = np.float32(c) - x0, np.float32(r) - y0
                if length > zero:
                    along = min(one, max(zero, (px * dx + py * dy) / length))
                    px, py = px - along * dx, py - along * dy
                away = px * px + py * py
                if away < outer:
                    cover = one if away <= inner else far - np.sqrt(away)
                    for n in range(3):
                        out[r, c, n] += (shades[k, n] - out[r, c, n]) * cover
                    out[r, c, 3] += (one - out[r, c, 3]) * cover
