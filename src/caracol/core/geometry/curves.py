"""Smooth curves through points, that never swing beyond them.

References
----------
Fritsch and Butland, A Method for Constructing Local Monotone Piecewise Cubic Interpolants (1984): the slopes at inner points.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ..arrays import Array

SIZE = 2048


def _slopes(x: Array, y: Array) -> Array:
    """Return the slope at each point: the weighted harmonic mean of its neighbours' where they agree in sign, else 0."""
    gap = np.diff(x)
    steep = np.diff(y) / gap
    slope = np.zeros_like(y)
    slope[0], slope[-1] = steep[0], steep[-1]
    a, b = steep[:-1], steep[1:]
    w1, w2 = 2 * gap[1:] + gap[:-1], gap[1:] + 2 * gap[:-1]
    same = a * b > 0
    slope[1:-1][same] = ((w1 + w2) / (w1 / np.where(same, a, 1) + w2 / np.where(same, b, 1)))[same]
    return slope


def curve_table(points: Sequence[tuple[float, float]], smooth: bool) -> Array:
    """Return `SIZE` values of the curve through the points at even places 0…1; level beyond the first and the last.

    Points may come in any order; of two at one place the later counts.

    Parameters
    ----------
    points : sequence of (in, out)
        Places 0…1 and any values; in any order.
    smooth : bool
        Monotone cubics through the points, or straight lines.

    Returns
    -------
    float32 array (SIZE,)
        Values at even places from 0 to 1.

    References
    ----------
    F. N. Fritsch and R. E. Carlson, Monotone Piecewise Cubic Interpolation, SIAM J. Numer. Anal. 17 (1980).

    Examples
    --------
    >>> curve_table([(0.0, 0.0), (1.0, 2.0)], smooth=False)[[0, -1]].tolist()
    [0.0, 2.0]
    """
    known = sorted({place: value for place, value in points}.items())
    x, y = np.array([p for p, _ in known], np.float64), np.array([v for _, v in known], np.float64)
    at = np.linspace(0, 1, SIZE)
    if len(x) < 3 or not smooth:
        return np.interp(at, x, y).astype(np.float32)
    slope = _slopes(x, y)
    k = np.clip(np.searchsorted(x, at, side="right") - 1, 0, len(x) - 2)
    gap = x[k + 1] - x[k]
    t = np.clip((at - x[k]) / gap, 0, 1)
    h00, h10 = (1 + 2 * t) * (1 - t) ** 2, t * (1 - t) ** 2
    h01, h11 = t * t * (3 - 2 * t), t * t * (t - 1)
    return (h00 * y[k] + h10 * gap * slope[k] + h01 * y[k + 1] + h11 * gap * slope[k + 1]).astype(np.float32)
