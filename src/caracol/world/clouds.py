"""Heaped clouds, marched through: what a sky of them looks like along every ray."""

from __future__ import annotations

from typing import Any

import cv2
import numba as nb
import numpy as np
from numpy.typing import NDArray

from .brushes import tileable

Plane = NDArray[Any]
BASE, TOP = 900.0, 2300.0
"""Heights between which clouds stand, in metres."""
FARTHEST = 24_000.0


@nb.njit(inline="always")
def _read(texture, x, y):  # type: ignore[no-untyped-def]
    size = texture.shape[0]
    x, y = (x - np.floor(x)) * size, (y - np.floor(y)) * size
    i, j = int(x) % size, int(y) % size
    k, m = (i + 1) % size, (j + 1) % size
    u, v = x - int(x), y - int(y)
    return (texture[j, i] * (1 - u) + texture[j, k] * u) * (1 - v) + (texture[m, i] * (1 - u) + texture[m, k] * u) * v


@nb.njit(inline="always")
def _dense(x, y, z, heaps, wisps, thin):  # type: ignore[no-untyped-def]
    """How dense the air is at a place in metres: heaps stand on a level base, their tops follow a noise, their edges another."""
    s = (y - BASE) / (TOP - BASE)
    if s <= 0 or s >= 1:
        return 0.0
    body = _read(heaps, x / 9000, z / 9000) - thin
    if body < -0.6:
        return 0.0
    edge = 0.55 * _read(wisps, x / 1900 + y / 2600, z / 1900 - y / 3300) + 0.22 * _read(wisps, x / 520 - y / 700, z / 520 + y / 610)
    return min(max((body + 0.55 * edge - 1.9 * s**1.3) * 1.6, 0.0), 1.0) * min(s / 0.05, 1.0)


@nb.njit(cache=True, nogil=True)
def _march(ways, heaps, wisps, sun, thin, jitter, out):  # type: ignore[no-untyped-def]
    for n in range(len(ways)):
        rise = ways[n, 1]
        if rise < 0.02:
            out[n, 0] = out[n, 1] = 0
            continue
        first, last = BASE / rise, min(TOP / rise, FARTHEST)
        if first > FARTHEST:
            out[n, 0] = out[n, 1] = 0
            continue
        steps = 44
        size = (last - first) / steps
        clear, light = 1.0, 0.0
        for k in range(steps):
            t = first + (k + jitter[n]) * size
            x, y, z = ways[n, 0] * t, rise * t, ways[n, 2] * t
            d = _dense(x, y, z, heaps, wisps, thin)
            if d <= 0.004:
                continue
            shadow, reach = 0.0, 45.0
            for m in range(6):
                shadow += _dense(x + sun[0] * reach, y + sun[1] * reach, z + sun[2] * reach, heaps, wisps, thin) * (30.0 + 30.0 * m)
                reach += 60.0 + 45.0 * m
            s = (y - BASE) / (TOP - BASE)
            here = 0.95 * np.exp(-shadow * 0.012) + 0.16 * np.exp(-shadow * 0.003) + 0.2 + 0.3 * min(s * 2.2, 1.0)
            part = 1 - np.exp(-d * size * 0.011)
            light += clear * part * here
            clear *= 1 - part
            if clear < 0.01:
                break
        out[n, 0] = 1 - clear
        out[n, 1] = light / max(1 - clear, 1e-3)


def clouds(
    rng: np.random.Generator, ways: Plane, shape: tuple[int, int], sun: Plane, thin: float = 0.35, step: int = 3
) -> tuple[Plane, Plane]:
    """Return how much of each ray clouds cover, and how light they are there (about 0.3 to 1.4), both (rows, cols).

    Parameters
    ----------
    ways : array (rows · cols, 3)
        Directions.
    sun : array (3,)
        Direction to the sun.
    thin : float
        How rare clouds are: 0 half the sky, 1 hardly any.
    step : int
        Rays are marched at every so many pixels.
    """
    rows, cols = shape
    heaps, wisps = tileable(rng, 1024, 5, 5, 0.5), tileable(rng, 512, 4, 7, 0.6)
    few = np.ascontiguousarray(ways.reshape(rows, cols, 3)[::step, ::step].reshape(-1, 3), dtype=np.float64)
    out = np.empty((len(few), 2))
    _march(few, heaps.astype(np.float64), wisps.astype(np.float64), np.asarray(sun, np.float64), thin, rng.random(len(few)), out)
    small = out.reshape(-(-rows // step), -(-cols // step), 2).astype(np.float32)
    small = cv2.GaussianBlur(small, (0, 0), 0.7)
    return tuple(cv2.resize(small[..., k], (cols, rows), interpolation=cv2.INTER_CUBIC) for k in (0, 1))  # type: ignore[return-value]
