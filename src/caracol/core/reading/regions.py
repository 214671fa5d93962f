"""What a photo's edges, sky and surround are like."""

from __future__ import annotations

import cv2
import numpy as np

from ..arrays import AnyArray, Array
from ..pixels.blending import LUMA


def edge_agreement(picture: Array) -> float:
    """Return 0…100: how well the left and the right edge of a photo would join.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded.

    Returns
    -------
    float
        0…100.

    Notes
    -----
    The two outermost strips (one hundredth of the width) are compared row by row after the better of small shifts up or down (3 % of
    the height): half the score is tone (mean distance of the colours), half is detail (mean distance of the steps along the edge).
    """
    rows, cols = picture.shape[:2]
    wide = max(1, cols // 100)
    left, right = picture[:, :wide, :3].mean(axis=1), picture[:, -wide:, :3].mean(axis=1)
    reach = min(max(1, rows * 3 // 100), rows - 1)
    best = np.inf
    for shift in range(-reach, reach + 1):
        a, b = left[max(0, shift) : rows + min(0, shift)], right[max(0, -shift) : rows - max(0, shift)]
        tone = np.abs(a - b).mean()
        detail = np.abs(np.diff(a, axis=0) - np.diff(b, axis=0)).mean() if len(a) > 1 else 0.0
        best = min(best, float(tone + 2 * detail))
    return float(100 * np.exp(-6 * best))


def _calm_from_the_top(picture: Array) -> AnyArray:
    """Return which pixels of a small look are reached from the top edge, straight down, without crossing an edge."""
    grey = picture[..., :3].mean(axis=2)
    soft = cv2.GaussianBlur(grey, (0, 0), 1.5)
    slope = np.hypot(cv2.Sobel(soft, cv2.CV_32F, 1, 0, ksize=3), cv2.Sobel(soft, cv2.CV_32F, 0, 1, ksize=3))
    return np.minimum.accumulate((slope < 0.14).astype(np.uint8), axis=0) > 0


def sky_of(picture: Array, horizon: float | None) -> tuple[float, float]:
    """Return the share of the photo that is sky, and how plain it is (0 busy … 1 quite plain).

    Sky is what lies over the horizon, where there is one (as a share of the height); else what is calm from the top edge down.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded.
    horizon : float, optional
        As a share of the height.

    Returns
    -------
    share, plainness : float
        0…1.
    """
    mask = _calm_from_the_top(picture)
    if horizon is not None:
        mask = np.zeros(picture.shape[:2], bool)
        mask[: round(horizon * len(mask))] = True
    share = float(mask.mean())
    if share < 0.02:
        return share, 0.0
    smooth = cv2.GaussianBlur(picture[..., :3], (0, 0), max(2.0, picture.shape[0] / 20))
    rough = float(np.abs(picture[..., :3] - smooth).mean(axis=2)[mask].mean())
    return share, float(np.exp(-25 * rough))


def crush_of_edges(picture: Array) -> tuple[float, float]:
    """Return how much would be crushed to a star in the middle of a ring: how much columns differ in the top and the bottom twelfth, 0…1.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded.

    Returns
    -------
    top, bottom : float
        The deviation along a row, finest texture left out, in the mean of the rows.
    """
    rows = picture.shape[0]
    band = max(1, rows // 12)
    small = cv2.GaussianBlur(picture[..., :3], (0, 0), 1.5)
    top, bottom = (float(part.std(axis=1).mean()) for part in (small[:band], small[rows - band :]))
    return top, bottom


def surround_of(picture: Array) -> tuple[str, float]:
    """Return the colour of the outermost twelfth of the photo as `#rrggbb`, and how plain it is (0…1).

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded.

    Returns
    -------
    colour : str
    plainness : float
        0…1.
    """
    rows, cols = picture.shape[:2]
    band = max(1, min(rows, cols) // 12)
    border = np.concatenate(
        [picture[:band].reshape(-1, 4), picture[-band:].reshape(-1, 4), picture[:, :band].reshape(-1, 4), picture[:, -band:].reshape(-1, 4)]
    )
    middle = np.median(border[:, :3], axis=0)
    plain = float(np.exp(-8 * np.abs(border[:, :3] - middle).mean()))
    return "#" + "".join(f"{round(float(np.clip(c, 0, 1)) * 255):02x}" for c in middle), plain


def spreads_of(picture: Array) -> tuple[float, float, float, float]:
    """Return (darkness, tone spread, hue spread, detail) of a small look, each 0…1.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded.

    Returns
    -------
    tuple of float

    Notes
    -----
    Darkness: 1 - mean luma. Tone spread: from the 5th to the 95th percentile of the luma. Hue spread: how evenly colour is dealt round
    the circle of hues, entropy of 24 parts weighted by chroma, times how much chroma there is. Detail: mean step of the luma between
    neighbours, 0.08 and more counting as 1.
    """
    rgb = picture[..., :3]
    luma = rgb @ LUMA
    low, high = np.percentile(luma, (5, 95))
    hsv = cv2.cvtColor(np.ascontiguousarray(np.clip(rgb, 0, 1)), cv2.COLOR_RGB2HSV)
    chroma = rgb.max(axis=2) - rgb.min(axis=2)
    dealt, _ = np.histogram(hsv[..., 0], bins=24, range=(0, 360), weights=chroma)
    share = dealt / max(float(dealt.sum()), 1e-9)
    entropy = float(-(share * np.log(np.maximum(share, 1e-9))).sum() / np.log(24))
    steps = np.abs(np.diff(luma, axis=0)).mean() + np.abs(np.diff(luma, axis=1)).mean() if min(luma.shape) > 1 else 0.0
    return float(1 - luma.mean()), float(high - low), entropy * min(1.0, float(chroma.mean()) / 0.12), min(1.0, float(steps) / 0.08)
