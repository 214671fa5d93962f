"""Lines as they are stored: whole numbers, each point by how far it lies from the one before."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

import numpy as np

from ..arrays import AnyArray

GRAIN = 100_000
"""Parts of a unit: a 25th of a pixel at 8192 of them."""
FARTHEST = 20
"""Units from the middle at most."""


def packed(points: Iterable[Sequence[float]]) -> list[int]:
    """Return points (x, y, … in units) as whole numbers: x and y of the first, then how far right and down each next one lies.

    Examples
    --------
    >>> packed([(0.5, -0.25), (0.50001, 0.0)])
    [50000, -25000, 1, 25000]
    """
    grains = np.array([[round(float(part) * GRAIN) for part in point[:2]] for point in points], np.int64).reshape(-1, 2)
    return [int(way) for way in np.diff(grains, axis=0, prepend=0).ravel()]


def unpacked(line: Sequence[int]) -> AnyArray:
    """Return what `packed` was given, float64 array (n, 2) in units."""
    return np.cumsum(np.array(line, np.int64).reshape(-1, 2), axis=0) / GRAIN


def fault_of(line: Sequence[int]) -> str:
    """Return what keeps whole numbers from being a line, or nothing."""
    if len(line) % 2:
        return f"has {len(line)} numbers; each point has two"
    if len(line) and float(np.abs(unpacked(line)).max()) > FARTHEST:
        return f"leads more than {FARTHEST} units from the middle"
    return ""
