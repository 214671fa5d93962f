"""Gaussian softness of any width, without the cost of a wide kernel."""

from __future__ import annotations

import cv2
import numpy as np

from ..arrays import Array

COARSE = 6.0
"""A deviation of more pixels is computed on a picture that is so much smaller that it is about this many there."""


def fineness(*sigmas: float) -> int:
    """Return by how much a picture may be made smaller before it is softened by these deviations (pixels)."""
    wide = [sigma for sigma in sigmas if sigma > 0.05]
    return max(1, int(min(wide) / COARSE)) if wide else 1


def softened(picture: Array, across: float, down: float) -> Array:
    """Return a picture softened by a Gaussian; beyond the edge its last pixels go on.

    Parameters
    ----------
    picture : float32 array (rows, cols, channels)
    across, down : float
        Its deviations, in pixels.

    Returns
    -------
    float32 array (rows, cols, channels)
    """
    rows, cols = picture.shape[:2]
    fine = fineness(across, down)
    small = picture
    if fine > 1:
        small = cv2.resize(picture, (max(1, cols // fine), max(1, rows // fine)), interpolation=cv2.INTER_AREA)
    sigmas = [max(sigma * n / full, 1e-6) for sigma, n, full in zip((across, down), small.shape[1::-1], (cols, rows), strict=True)]
    soft = cv2.GaussianBlur(small, (0, 0), sigmas[0], sigmaY=sigmas[1], borderType=cv2.BORDER_REPLICATE)
    return np.asarray(cv2.resize(soft, (cols, rows), interpolation=cv2.INTER_LINEAR) if fine > 1 else soft, np.float32)
