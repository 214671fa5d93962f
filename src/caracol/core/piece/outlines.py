"""Depths inside outlines and covers of strokes, for strips of points on an even grid.

Notes
-----
Only points within reach of an edge are measured exactly: a lasso of a hundred corners costs little where it is not.
"""

from __future__ import annotations

import numba as nb
import numpy as np

from ..arrays import Array


@nb.njit(nogil=True, fastmath=True, cache=True)
def _polygon(x, y, points, reach, out):  # type: ignore[no-untyped-def]
    rows, cols = x.shape
    count = points.shape[0]
    left, right = points[:, 0].min() - reach, points[:, 0].max() + reach
    top, bottom = points[:, 1].min() - reach, points[:, 1].max() + reach
    far = reach * reach
    for r in range(rows):
        for c in range(cols):
            px, py = x[r, c], y[r, c]
            if px < left or px > right or py < top or py > bottom:
                out[r, c] = -reach
                continue
            near = far
            inside = False
            j = count - 1
            for i in range(count):
                ax, ay, bx, by = points[j, 0], points[j, 1], points[i, 0], points[i, 1]
                if (ay > py) != (by > py) and px < (bx - ax) * (py - ay) / (by - ay) + ax:
                    inside = not inside
                ex, ey = bx - ax, by - ay
                length = ex * ex + ey * ey
                t = ((px - ax) * ex + (py - ay) * ey) / length if length > 0 else np.float32(0)
                t = min(max(t, np.float32(0)), np.float32(1))
                dx, dy = px - ax - t * ex, py - ay - t * ey
                near = min(near, dx * dx + dy * dy)
                j = i
            out[r, c] = np.sqrt(near) if inside else -np.sqrt(near)


def polygon_depth(x: Array, y: Array, points: Array, reach: float) -> Array:
    """Return how far inside a polygon points lie, in units, negative outside; nothing beyond `reach` is told apart.

    Parameters
    ----------
    points : float32 array (n, 2)
    """
    out = np.empty(x.shape, np.float32)
    _polygon(x, y, np.ascontiguousarray(points, np.float32), np.float32(reach), out)
    return out


@nb.njit(nogil=True, fastmath=True, cache=True)
def _stroke(x, y, points, radius, soft, out):  # type: ignore[no-untyped-def]
    rows, cols = x.shape
    half = np.float32(0.5)
    reach = radius + half * soft
    step_x = x[0, 1] - x[0, 0] if cols > 1 else np.float32(1)
    step_y = y[1, 0] - y[0, 0] if rows > 1 else np.float32(1)
    last = max(points.shape[0] - 1, 1)
    full = np.zeros(rows, np.bool_)  # rows that are covered from end to end: nothing can be added there
    for i in range(last):
        ax, ay = points[i, 0], points[i, 1]
        k = min(i + 1, points.shape[0] - 1)
        bx, by = points[k, 0], points[k, 1]
        c0 = max(int(np.floor((min(ax, bx) - reach - x[0, 0]) / step_x)), 0)
        c1 = min(int(np.ceil((max(ax, bx) + reach - x[0, 0]) / step_x)) + 1, cols)
        r0 = max(int(np.floor((min(ay, by) - reach - y[0, 0]) / step_y)), 0)
        r1 = min(int(np.ceil((max(ay, by) + reach - y[0, 0]) / step_y)) + 1, rows)
        ex, ey = bx - ax, by - ay
        length = ex * ex + ey * ey
        for r in range(r0, r1):
            if full[r]:
                continue
            least = np.float32(1)
            for c in range(c0, c1):
                px, py = x[r, c] - ax, y[r, c] - ay
                t = (px * ex + py * ey) / length if length > 0 else np.float32(0)
                t = min(max(t, np.float32(0)), np.float32(1))
                dx, dy = px - t * ex, py - t * ey
                cover = (radius - np.sqrt(dx * dx + dy * dy)) / soft + half
                cover = min(max(cover, np.float32(0)), np.float32(1))
                out[r, c] = max(out[r, c], cover)
                least = min(least, out[r, c])
            full[r] = c0 == 0 and c1 == cols and least >= np.float32(1)


def stroke_cover(x: Array, y: Array, points: Array, radius: float, soft: float) -> Array:
    """Return how much a stroke along `points` (n, 2) covers, 0…1; its edge, at the radius, is `soft` units wide.

    Parameters
    ----------
    x, y : float32 array
        Points in units, of one shape.
    points : float32 array (n, 2)
        The line drawn, in units.
    radius, soft : float
        Units.

    Returns
    -------
    float32 array
        In the shape of `x`.
    """
    out = np.zeros(x.shape, np.float32)
    _stroke(x, y, np.ascontiguousarray(points, np.float32), np.float32(radius), np.float32(soft), out)
    return out
