"""The plain way to do it: a NumPy map and `cv2.remap`, and a supersampled reference. What ours is measured against, in the same run."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np

from caracol.core.light import coded_to_linear, linear_to_coded


def detailed_photo(rows: int, cols: int) -> np.ndarray:
    """Return an 8-bit RGB photo with detail at every size down to single pixels."""
    rng = np.random.default_rng(1)
    total = np.zeros((rows, cols, 3), np.float32)
    for cell in (4, 8, 16, 64, 256):
        small = rng.standard_normal((rows // cell + 1, cols // cell + 1, 3)).astype(np.float32)
        total += cv2.resize(small, (cols, rows), interpolation=cv2.INTER_CUBIC) * np.float32(0.02 * np.sqrt(cell))
    total += 0.5 + rng.standard_normal((rows, cols, 1)).astype(np.float32) * 0.03
    return (np.clip(total, 0, 1) * 255 + 0.5).astype(np.uint8)


def ring_map(size: int, rows: int, cols: int, dx: float = 0.5, dy: float = 0.5) -> tuple[np.ndarray, np.ndarray]:
    """Return the map of an even ring, inside bottom, as one writes it in NumPy."""
    x, y = np.meshgrid((np.arange(size) + dx) * 2 / size - 1, (np.arange(size) + dy) * 2 / size - 1)
    u = np.mod(np.arctan2(x, -y) / (2 * np.pi) - 0.5, 1)
    v = np.clip(1 - np.hypot(x, y), 0, 1)
    return (u * cols - 0.5).astype(np.float32), (v * rows - 0.5).astype(np.float32)


def remap(photo: np.ndarray, size: int, **where: Any) -> np.ndarray:
    """Return the ring as `cv2.remap` linear gives it."""
    return cv2.remap(photo, *ring_map(size, *photo.shape[:2], **where), cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)


def reference(photo: np.ndarray, size: int, parts: int = 8) -> np.ndarray:
    """Return the ring averaged over parts × parts readings a pixel in linear light, coded 0…1."""
    linear = coded_to_linear(photo / np.float32(255))
    total = np.zeros((size, size, 3))
    for i in range(parts):
        for j in range(parts):
            total += remap(linear, size, dx=(i + 0.5) / parts, dy=(j + 0.5) / parts)
    return linear_to_coded(total / parts**2)
