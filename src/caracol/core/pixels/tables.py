"""Mapping coded values through a table, straight colours under their alpha."""

from __future__ import annotations

import numba as nb
import numpy as np

from ..arrays import Array

SIZE = 16384
"""Entries of a table, for even values 0…1; read with interpolation."""


@nb.njit(nogil=True, fastmath=True, cache=True)
def _map(picture, table, out):  # type: ignore[no-untyped-def]
    rows, cols, _ = picture.shape
    last = np.float32(table.shape[1] - 1)
    top = np.int32(table.shape[1] - 2)
    for r in range(rows):
        for c in range(cols):
            alpha = picture[r, c, 3]
            scale = last / max(alpha, np.float32(1e-6))
            for k in range(3):
                place = min(max(picture[r, c, k] * scale, np.float32(0)), last)
                i = min(np.int32(place), top)
                part = place - np.float32(i)
                out[r, c, k] = (table[k, i] + (table[k, i + 1] - table[k, i]) * part) * alpha
            out[r, c, 3] = alpha


def map_through(picture: Array, table: Array) -> Array:
    """Return the picture with its straight colour values mapped.

    Parameters
    ----------
    table : float32 array of shape (3, SIZE)
        For R, G and B: the new value for each of `SIZE` even old ones.
    """
    out = np.empty(picture.shape, np.float32)
    _map(np.ascontiguousarray(picture), table, out)
    return out


def even_values() -> Array:
    """Return the old values a table is made for."""
    return np.linspace(0, 1, SIZE, dtype=np.float32)
