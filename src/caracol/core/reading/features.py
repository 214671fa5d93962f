"""What must stay recognisable in a photo: faces, and what the eye goes to.

References
----------
Faces: Viola and Jones (2001), with the cascade that comes with OpenCV. Salient areas: the spectral residual of Hou and Zhang (2007).
"""

from __future__ import annotations

import threading
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any, Literal, cast

import cv2
import numpy as np

from ..arrays import AnyArray, Array

MOST = 6
SMALL = 64
"""Salience is found on a look of this many pixels."""
DIALS = 320
"""Dials are looked for on a look of this many pixels."""
_LOCK = threading.Lock()


@dataclass(frozen=True)
class Feature:
    """A box in shares of the photo, and how much it counts, 0…1."""

    kind: Literal["face", "dial", "lettering", "salient"]
    left: float
    top: float
    width: float
    height: float
    weight: float


@lru_cache(maxsize=1)
def _cascade() -> Any:
    data = cast(Any, cv2).data
    return cv2.CascadeClassifier(str(Path(data.haarcascades) / "haarcascade_frontalface_default.xml"))


def find_faces(grey: AnyArray) -> list[Feature]:
    """Find upright faces in an 8-bit grey look.

    Parameters
    ----------
    grey : uint8 array (rows, cols)

    Returns
    -------
    list of Feature

    References
    ----------
    P. Viola and M. Jones, Rapid Object Detection using a Boosted Cascade of Simple Features, CVPR (2001).
    """
    rows, cols = grey.shape
    least = max(20, min(rows, cols) // 16)
    with _LOCK:  # a cascade keeps state while it looks
        found = _cascade().detectMultiScale(cv2.equalizeHist(grey), scaleFactor=1.1, minNeighbors=6, minSize=(least, least))
    return [Feature("face", x / cols, y / rows, w / cols, h / rows, 1.0) for x, y, w, h in found]


def salience(picture: Array) -> Array:
    """Return how much each part of a small look stands out, 0…1: what its spectrum has beyond the usual.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded.

    Returns
    -------
    float32 array (rows, cols)

    References
    ----------
    X. Hou and L. Zhang, Saliency Detection: A Spectral Residual Approach, CVPR (2007).
    """
    rows, cols = picture.shape[:2]
    scale = SMALL / max(rows, cols)
    size = (max(8, round(cols * scale)), max(8, round(rows * scale)))
    small = cv2.resize(picture[..., :3], size, interpolation=cv2.INTER_AREA)
    total: Any = np.zeros(small.shape[:2])
    for k in range(3):
        spectrum = np.fft.fft2(small[..., k])
        strength = np.log(np.abs(spectrum) + 1e-6)
        residual = strength - cv2.blur(strength, (3, 3))
        total = total + np.abs(np.fft.ifft2(np.exp(residual + 1j * np.angle(spectrum)))) ** 2
    total = cv2.GaussianBlur(total, (0, 0), 2.5)
    # The border stands out in every photo, only because the photo ends there.
    total[[0, -1]] = 0
    total[:, [0, -1]] = 0
    total = (total - total.min()) / max(float(np.ptp(total)), 1e-12)
    return np.asarray(total, np.float32)


def find_salient(picture: Array) -> list[Feature]:
    """Find the areas that stand out most, strongest first.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded.

    Returns
    -------
    list of Feature
    """
    map_ = salience(picture)
    rows, cols = map_.shape
    mask = (map_ > max(0.35, float(map_.mean() + 1.5 * map_.std()))).astype(np.uint8)
    _, labels, stats, _ = cv2.connectedComponentsWithStats(mask)
    found = []
    for number, (x, y, w, h, area) in enumerate(stats[1:], 1):
        if area >= 4 and w * h < 0.5 * rows * cols:
            weight = float(map_[labels == number].max())
            found.append(Feature("salient", x / cols, y / rows, w / cols, h / rows, round(weight, 3)))
    return sorted(found, key=lambda feature: -feature.weight)[:MOST]


def find_dials(grey: AnyArray) -> list[Feature]:
    """Find round faces such as clocks': circles whose rim is sharp nearly all the way round.

    Parameters
    ----------
    grey : uint8 array (rows, cols)

    Returns
    -------
    list of Feature

    References
    ----------
    D. H. Ballard, Generalizing the Hough Transform to Detect Arbitrary Shapes, Pattern Recognition 13 (1981).
    """
    shrink = min(1.0, DIALS / max(grey.shape))
    if shrink < 1:
        # Votes go with the square of the size.
        size = (round(grey.shape[1] * shrink), round(grey.shape[0] * shrink))
        grey = np.asarray(cv2.resize(grey, size, interpolation=cv2.INTER_AREA))
    rows, cols = grey.shape
    soft = cv2.medianBlur(grey, 5)
    least, most = max(10, min(rows, cols) // 14), min(rows, cols) // 2
    votes = round(70 * max(shrink, 0.6))
    found = cv2.HoughCircles(soft, cv2.HOUGH_GRADIENT, 1.5, min(rows, cols) // 4, param1=140, param2=votes, minRadius=least, maxRadius=most)
    if found is None:
        return []
    edges = cv2.dilate(cv2.Canny(soft, 60, 140), np.ones((3, 3), np.uint8))
    out = []
    for x, y, radius in found.reshape(-1, 3)[:MOST]:
        angles = np.linspace(0, 2 * np.pi, 180, endpoint=False)
        c, r = np.rint(x + radius * np.cos(angles)).astype(int), np.rint(y + radius * np.sin(angles)).astype(int)
        inside = (c >= 0) & (r >= 0) & (c < cols) & (r < rows)
        share = float((edges[r[inside], c[inside]] > 0).sum() / 180)
        if share > 0.75:
            left, top = round(float(x - radius) / cols, 5), round(float(y - radius) / rows, 5)
            out.append(Feature("dial", left, top, round(2 * float(radius) / cols, 5), round(2 * float(radius) / rows, 5), round(share, 3)))
    return out


def find_lettering(grey: AnyArray) -> list[Feature]:
    """Find level lines of lettering: dense upright strokes of strong contrast that join to a long flat block, filled evenly.

    Parameters
    ----------
    grey : uint8 array (rows, cols)

    Returns
    -------
    list of Feature
    """
    rows, cols = grey.shape
    strokes = cv2.morphologyEx(grey, cv2.MORPH_GRADIENT, np.ones((3, 3), np.uint8))
    level = max(60, float(np.percentile(strokes, 90)))
    _, hard = cv2.threshold(strokes, level, 255, cv2.THRESH_BINARY)
    joined = cv2.morphologyEx(hard, cv2.MORPH_CLOSE, np.ones((1, max(5, cols // 50)), np.uint8))
    joined = cv2.morphologyEx(joined, cv2.MORPH_OPEN, np.ones((max(3, rows // 90), 3), np.uint8))
    _, labels, stats, _ = cv2.connectedComponentsWithStats(joined)
    out = []
    for number, (x, y, w, h, area) in enumerate(stats[1:], 1):
        if w < 3 * h or h < rows // 50 or h > rows // 4 or w > 0.7 * cols or area < 0.55 * w * h:
            continue
        inside = np.where(labels[y : y + h, x : x + w] == number, hard[y : y + h, x : x + w] > 0, False)
        flips = np.abs(np.diff(inside.astype(np.int8), axis=1)).sum(axis=1).mean() / max(1.0, w / h)
        above, below = strokes[max(0, y - h // 2 - 1) : y, x : x + w], strokes[y + h : y + h + h // 2 + 1, x : x + w]
        around = np.concatenate([above.ravel(), below.ravel()])
        calm = not len(around) or float(np.median(around)) < 0.25 * level
        # A word has several strokes for each height of its letters and stands on calm ground; a fence or a rail has none or far more, leaves go on.
        if 2.2 < flips < 8 and calm:
            out.append(Feature("lettering", x / cols, y / rows, w / cols, h / rows, round(min(1.0, area / (w * h)), 3)))
    return sorted(out, key=lambda feature: -feature.weight * feature.width)[:3]


def find_features(picture: Array) -> tuple[Feature, ...]:
    """Return faces, dials, lettering and salient areas of a small look.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded.

    Returns
    -------
    tuple of Feature
    """
    grey = (np.clip(picture[..., :3].mean(axis=2), 0, 1) * 255).astype(np.uint8)
    if min(grey.shape) < 24:
        return ()
    return (*find_faces(grey), *find_dials(grey), *find_lettering(grey), *find_salient(picture))
