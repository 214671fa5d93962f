"""Smooth noise that is the same for a seed on every machine, for compiled kernels.

References
----------
The integer mix is the finaliser of MurmurHash3 (Appleby, public domain); the noise is value noise on a square lattice.
"""

from __future__ import annotations

import numba as nb
import numpy as np

_ONE, _TWO, _THREE = np.float32(1), np.float32(2), np.float32(3)
_STEP = np.float32(2**-24)


@nb.njit(inline="always")
def lattice(ix, iy, seed):  # type: ignore[no-untyped-def]
    """Return the value 0…1 of a lattice point, from whole numbers.

    Parameters
    ----------
    ix, iy, seed : int

    Returns
    -------
    float32
        0…1.
    """
    h = np.uint32(np.uint32(ix) * np.uint32(0x27D4EB2D))
    h = np.uint32(h ^ np.uint32(np.uint32(iy) * np.uint32(0x165667B1)))
    h = np.uint32(h ^ np.uint32(np.uint32(seed) * np.uint32(0x9E3779B1)))
    h = np.uint32(np.uint32(h ^ np.uint32(h >> np.uint32(16))) * np.uint32(0x85EBCA6B))
    h = np.uint32(np.uint32(h ^ np.uint32(h >> np.uint32(13))) * np.uint32(0xC2B2AE35))
    h = np.uint32(h ^ np.uint32(h >> np.uint32(16)))
    return np.float32(np.uint32(h >> np.uint32(8))) * _STEP


@nb.njit(inline="always")
def noise_at(x, y, seed):  # type: ignore[no-untyped-def]
    """Return smooth noise -1…1 at a point; its features are about one wide.

    Parameters
    ----------
    x, y : float32
        Any unit.
    seed : int

    Returns
    -------
    float32
        -1…1.

    Notes
    -----
    Values of the lattice, mixed by 3t² - 2t³ between its lines.
    """
    x0, y0 = np.floor(x), np.floor(y)
    tx, ty = x - x0, y - y0
    tx, ty = tx * tx * (_THREE - _TWO * tx), ty * ty * (_THREE - _TWO * ty)
    ix, iy = np.int32(x0), np.int32(y0)
    top = lattice(ix, iy, seed) * (_ONE - tx) + lattice(ix + 1, iy, seed) * tx
    low = lattice(ix, iy + 1, seed) * (_ONE - tx) + lattice(ix + 1, iy + 1, seed) * tx
    return (top + (low - top) * ty) * _TWO - _ONE
