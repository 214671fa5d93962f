"""Figures cut out with a soft edge and without the colours of what was behind.

References
----------
K. He, J. Sun and X. Tang, Guided Image Filtering (2010): how hair is told from what is behind it.
"""

from __future__ import annotations

from math import ceil

import cv2
import numpy as np

from ..arrays import Array
from .soften import softened

HAIR_EPS = 2e-4
SURE = 0.98


def _guided(guide: Array, wanted: Array, radius: int, eps: float) -> Array:
    """Return `wanted` (rows, cols) led along the edges of `guide` (rows, cols, 3), channel by channel of a linear model."""
    size = (2 * radius + 1,) * 2

    def mean(values: Array) -> Array:
        return np.asarray(cv2.blur(values, size, borderType=cv2.BORDER_REPLICATE))

    centre, target = mean(guide), mean(wanted)
    cover = mean(guide * wanted[..., None]) - centre * target[..., None]
    (r, g, b), (x, y, z) = np.moveaxis(guide, -1, 0), np.moveaxis(centre, -1, 0)
    rr, gg, bb = (mean(p * p) - q * q + np.float32(eps) for p, q in ((r, x), (g, y), (b, z)))
    rg, rb, gb = (mean(p * q) - s * t for p, q, s, t in ((r, g, x, y), (r, b, x, z), (g, b, y, z)))
    # The inverse of the symmetric matrix of their spread, by its cofactors.
    c00, c01, c02 = gg * bb - gb * gb, rb * gb - rg * bb, rg * gb - rb * gg
    c11, c12, c22 = rr * bb - rb * rb, rg * rb - rr * gb, rr * gg - rg * rg
    whole = rr * c00 + rg * c01 + rb * c02
    u, v, w = np.moveaxis(cover, -1, 0)
    slope = np.stack([c00 * u + c01 * v + c02 * w, c01 * u + c11 * v + c12 * w, c02 * u + c12 * v + c22 * w], axis=-1) / whole[..., None]
    level = target - (slope * centre).sum(axis=-1)
    return np.asarray((mean(slope.astype(np.float32)) * guide).sum(axis=-1) + mean(level.astype(np.float32)), np.float32)


def haired(straight: Array, alpha: Array, radius: float) -> Array:
    """Return an alpha that follows hair and fine edges within `radius` pixels of its own edge.

    Parameters
    ----------
    straight : float32 array (rows, cols, 3)
        Coded colours of the photo.
    alpha : float32 array (rows, cols)
        0…1.
    radius : float
        Pixels; below one nothing is done.
    """
    if radius < 1:
        return alpha
    near = np.ones((2 * ceil(radius) + 1,) * 2, np.uint8)
    band = (cv2.dilate(alpha, near) > 0.5) & (cv2.erode(alpha, near) < 0.5)
    if not band.any():
        return alpha
    rows, cols = np.flatnonzero(band.any(axis=1)), np.flatnonzero(band.any(axis=0))
    part = slice(max(rows[0] - 2, 0), rows[-1] + 3), slice(max(cols[0] - 2, 0), cols[-1] + 3)
    led = _guided(np.ascontiguousarray(straight[part]), np.ascontiguousarray(alpha[part]), max(2, ceil(radius)), HAIR_EPS)
    # What a linear model leaves grey is told apart once more.
    led = np.clip((led - 0.12) / 0.76, 0, 1)
    out = alpha.copy()
    out[part] = np.where(band[part], led, alpha[part])
    return out


def unfringed(straight: Array, alpha: Array, share: float, reach: float) -> Array:
    """Return colours without what shines in from behind: near the edge, those of the figure within.

    Parameters
    ----------
    straight : float32 array (rows, cols, 3)
    alpha : float32 array (rows, cols)
    share : float
        0…1; 0 leaves them.
    reach : float
        How wide the edge is that is looked after, in pixels.
    """
    if share <= 0:
        return straight
    reach = max(reach, 1.5)
    sure = (cv2.erode((alpha >= SURE).astype(np.float32), np.ones((2 * round(reach) + 1,) * 2, np.uint8))).astype(np.float32)
    inner = np.zeros_like(straight)
    known = np.zeros(alpha.shape, bool)
    # Nearer sure colours count first; what has none near, such as a bill, is its own colour all through.
    for sigma in (reach, 2.5 * reach):
        sums = softened(np.concatenate([straight * sure[..., None], sure[..., None]], axis=-1), sigma, sigma)
        free = ~known & (sums[..., 3] > 0.02)
        inner[free] = sums[free][:, :3] / sums[free][:, 3:]
        known |= free
    edge = np.clip(1.5 - 1.5 * softened(alpha[..., None], reach / 2, reach / 2).reshape(alpha.shape), 0, 1) * known * np.float32(share)
    return np.asarray(straight + edge[..., None] * (inner - straight), np.float32)


def cut_figure(picture: Array, alpha: Array, hair: float, fringe: float, reach: float) -> Array:
    """Return a figure on nothing, premultiplied.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        The photo, coded, premultiplied.
    alpha : float32 array (rows, cols)
        Its outline, filled, 0…1.
    hair : float
        Within so many pixels of the edge it follows hair.
    fringe : float
        0…1: how much of what shines in from behind is taken away.
    reach : float
        How wide the edge is, in pixels.
    """
    straight = np.ascontiguousarray(picture[..., :3] / np.maximum(picture[..., 3:], 1e-6))
    alpha = haired(straight, alpha, hair) * picture[..., 3]
    colours = np.clip(unfringed(straight, alpha, fringe, reach), 0, 1)
    return np.asarray(np.concatenate([colours * alpha[..., None], alpha[..., None]], axis=-1), np.float32)
