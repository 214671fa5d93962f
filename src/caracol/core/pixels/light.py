"""Between sRGB-coded values and linear light, fast and both ways.

References
----------
IEC 61966-2-1 (sRGB), the piecewise transfer function.
"""

from __future__ import annotations

import numba as nb
import numpy as np

from ..arrays import Array, Texels

FULL = 65535.0


def coded_to_linear(values: Array) -> Array:
    """Decode sRGB values 0…1 into linear light 0…1.

    Parameters
    ----------
    values : float32 array
        Any shape.

    Returns
    -------
    float32 array

    References
    ----------
    IEC 61966-2-1 (sRGB).
    """
    values = np.asarray(values, np.float64)
    return np.where(values <= 0.04045, values / 12.92, ((np.maximum(values, 0) + 0.055) / 1.055) ** 2.4).astype(np.float32)


def linear_to_coded(values: Array) -> Array:
    """Code linear light 0…1 as sRGB values 0…1.

    Parameters
    ----------
    values : float32 array
        Any shape.

    Returns
    -------
    float32 array

    References
    ----------
    IEC 61966-2-1 (sRGB).
    """
    values = np.asarray(values, np.float64)
    return np.where(values <= 0.0031308, values * 12.92, 1.055 * np.maximum(values, 0) ** (1 / 2.4) - 0.055).astype(np.float32)


_STEPS = 4096
TO_CODED: Array = linear_to_coded(np.arange(65536) / FULL)
"""sRGB code of each 16-bit linear value."""
TO_LINEAR: Array = coded_to_linear(np.arange(_STEPS + 2, dtype=np.float32) / _STEPS)
"""Linear light at `_STEPS` even codes, to be interpolated between."""


@nb.njit(nogil=True, cache=True)
def _encode(picture, table, out):  # type: ignore[no-untyped-def]
    rows, cols, _ = picture.shape
    steps = len(table) - 2
    for r in range(rows):
        for c in range(cols):
            alpha = min(max(picture[r, c, 3], 0.0), 1.0)
            out[r, c, 3] = np.uint16(alpha * 65535.0 + 0.5)
            for k in range(3):
                code = picture[r, c, k] / alpha if alpha > 0.0 else 0.0
                place = min(max(code, 0.0), 1.0) * steps
                i = int(place)
                part = place - i
                linear = table[i] + (table[i + 1] - table[i]) * part
                out[r, c, k] = np.uint16(linear * alpha * 65535.0 + 0.5)


def to_texels(picture: Array) -> Texels:
    """Turn a coded premultiplied float picture into 16-bit linear premultiplied texels.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        0…1.

    Returns
    -------
    uint16 array (rows, cols, 4)
    """
    out = np.empty(picture.shape, np.uint16)
    _encode(picture, TO_LINEAR, out)
    return out


@nb.njit(nogil=True, cache=True)
def _decode(texels, table, out):  # type: ignore[no-untyped-def]
    rows, cols, _ = texels.shape
    for r in range(rows):
        for c in range(cols):
            alpha = texels[r, c, 3]
            if alpha == 65535:
                for k in range(3):
                    out[r, c, k] = table[texels[r, c, k]]
                out[r, c, 3] = 1.0
            else:
                share = alpha / 65535.0
                for k in range(3):
                    out[r, c, k] = 0.0
                    if alpha > 0:
                        out[r, c, k] = table[min(int(texels[r, c, k] / share + 0.5), 65535)] * share
                out[r, c, 3] = share


def from_texels(texels: Texels) -> Array:
    """Turn 16-bit linear premultiplied texels into a coded premultiplied float picture.

    Parameters
    ----------
    texels : uint16 array (rows, cols, 4)

    Returns
    -------
    float32 array (rows, cols, 4)
        0…1.
    """
    out = np.empty(texels.shape, np.float32)
    _decode(texels, TO_CODED, out)
    return out


def linear_of(picture: Array) -> Array:
    """Return a coded premultiplied picture in linear light 0…1, premultiplied.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)

    Returns
    -------
    float32 array (rows, cols, 4)
    """
    return np.asarray(to_texels(picture) * np.float32(1 / FULL), np.float32)


def coded_of(linear: Array) -> Array:
    """Return a linear premultiplied picture, 0…1, coded again.

    Parameters
    ----------
    linear : float32 array (rows, cols, 4)

    Returns
    -------
    float32 array (rows, cols, 4)
    """
    return from_texels(np.asarray(np.clip(linear, 0, 1) * np.float32(FULL) + np.float32(0.5), np.uint16))
