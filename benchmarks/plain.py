"""The plain way to do it: a NumPy map and `cv2.remap`, and a supersampled reference. What ours is measured against, in the same run."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np

from caracol.core.geometry.edges import apply_edge
from caracol.core.geometry.frame import Frame
from caracol.core.kinds.kind import BendKind
from caracol.core.pixels.light import coded_to_linear, linear_to_coded


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


def pull_map(
    kind: BendKind, settings: dict[str, Any], size: int, rows: int, cols: int, dx: float = 0.5, dy: float = 0.5, **known: Any
) -> tuple[np.ndarray, np.ndarray]:
    """Return the map of any bend on a square frame: the kind's own rule, at one point per pixel."""
    chosen = kind.settings(**settings)
    before = Frame(cols / rows)
    after = kind.frame_after(before, chosen)
    out_rows, out_cols = after.pixels(size)
    x, y = np.meshgrid((np.arange(out_cols) + dx) * 2 / out_cols - 1, (np.arange(out_rows) + dy) * 2 / out_rows - 1)
    x, y = (x * after.half_w).astype(np.float32), (y * after.half_h).astype(np.float32)
    values = {name: getattr(chosen, name) for name in type(chosen).model_fields}
    px, py = kind.pull(x, y, before, after, chosen, **known)
    apply_edge(px, py, before, "mirror" if values.get("edge") in ("beyond", "mirror") else values.get("edge", "stretch"))
    u, v = before.to_shares(px, py)
    return (u * cols - 0.5).astype(np.float32), (v * rows - 0.5).astype(np.float32)


def pull_reference(kind: BendKind, settings: dict[str, Any], photo: np.ndarray, size: int, parts: int = 6, **known: Any) -> np.ndarray:
    """Return a bend averaged over parts × parts readings a pixel in linear light, coded 0…1."""
    linear = coded_to_linear(photo / np.float32(255))
    total: Any = 0.0
    for i in range(parts):
        for j in range(parts):
            maps = pull_map(kind, settings, size, *photo.shape[:2], dx=(i + 0.5) / parts, dy=(j + 0.5) / parts, **known)
            total = total + cv2.remap(linear, *maps, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REFLECT)
    return linear_to_coded(total / parts**2)
