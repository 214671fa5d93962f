"""Test pictures and where they come from. All are drawn here; none is read from a file."""

from __future__ import annotations

from functools import lru_cache
from hashlib import blake2b
from typing import Any

import cv2
import numpy as np

from caracol.core.arrays import Array
from caracol.core.geometry.lines import packed
from caracol.core.piece.files import check_piece
from caracol.core.piece.model import Piece
from caracol.core.pixels.pyramid import Pyramid, pyramid_of

STROKES: list[dict[str, Any]] = [
    {
        "mode": "clone",
        "line": packed([[-1.2, 0.1], [-0.9, 0.3]]),
        "pressure": [1, 0.5],
        "radius": 0.2,
        "source": {"dx": 0.6, "dy": -0.1, "turn": 0.1, "scale": 0.8},
    },
    {"mode": "heal", "line": packed([[0.2, 0.2]]), "radius": 0.25, "hardness": 0.8, "source": {"dx": -0.5, "dy": 0}},
    {"mode": "fill-in", "line": packed([[1.2, -0.3], [1.3, -0.3]]), "radius": 0.15, "hardness": 1},
    {"mode": "colour", "line": packed([[0.8, 0.7]]), "radius": 0.1, "colour": "#ff8000", "opacity": 0.5},
    {"mode": "heal", "outline": packed([[-0.4, -0.8], [0.1, -0.8], [0.0, -0.4]]), "radius": 0.05, "source": {"dx": 0.7, "dy": 0.1}},
    {"mode": "erase", "line": packed([[-1.0, 0.25]]), "radius": 0.08},
]
"""Strokes of every mode, on a picture twice as wide as high."""


@lru_cache
def detailed(rows: int = 512, cols: int = 1024, seed: int = 1) -> Array:
    """Return an opaque coloured picture with detail of every size."""
    rng = np.random.default_rng(seed)
    total = np.zeros((rows, cols, 3), np.float32)
    for cell in (4, 16, 64, 256):
        small = rng.standard_normal((max(2, rows // cell), max(2, cols // cell), 3)).astype(np.float32)
        total += cv2.resize(small, (cols, rows), interpolation=cv2.INTER_CUBIC) * 0.09
    return opaque(np.clip(total + 0.5, 0, 1))


@lru_cache
def smooth(rows: int = 512, cols: int = 1024) -> Array:
    """Return an opaque picture of gentle waves that is continuous round the back."""
    v, u = np.mgrid[0:rows, 0:cols].astype(np.float32)
    u, v = (u + 0.5) / cols, (v + 0.5) / rows
    waves = [np.sin(2 * np.pi * (k * u + 0.2 * k)) * 0.2 * np.cos(np.pi * v * k) + 0.25 + 0.5 * v for k in (1, 2, 3)]
    return opaque(np.clip(np.stack(waves, axis=-1), 0, 1))


def opaque(rgb: Array) -> Array:
    """Add full alpha."""
    return np.concatenate([rgb, np.ones((*rgb.shape[:2], 1), np.float32)], axis=-1).astype(np.float32)


def psnr(a: Array, b: Array) -> float:
    """Return the peak signal-to-noise ratio of two pictures in 0…1, in dB; 120 where they are equal."""
    return float(-10 * np.log10(max(1e-12, np.mean((np.asarray(a, np.float64) - b) ** 2))))


def halved(picture: Array, size: tuple[int, int]) -> Array:
    """Scale down by areas to (rows, cols)."""
    return np.asarray(cv2.resize(picture, size[::-1], interpolation=cv2.INTER_AREA))


class OnePhoto:
    """A source of photos that gives one picture under every name."""

    def __init__(self, picture: Array) -> None:
        self._pyramid = pyramid_of(picture)
        self._digest = blake2b(picture.tobytes(), digest_size=16).hexdigest()

    def pyramid(self, name: str) -> Pyramid:
        return self._pyramid

    def digest(self, name: str) -> str:
        return self._digest


class TwoPhotos:
    """Two photos of different shapes, a.png and b.png."""

    def __init__(self, a: Array, b: Array) -> None:
        self._photos = {"a.png": OnePhoto(a), "b.png": OnePhoto(b)}

    def pyramid(self, name: str) -> Pyramid:
        return self._photos[name].pyramid(name)

    def digest(self, name: str) -> str:
        return self._photos[name].digest(name)


def piece(*steps: tuple[str, dict[str, Any]] | dict[str, Any], photo: str | None = "p.png") -> Piece:
    """Return a piece; a step is (kind, settings), or the whole step without its id."""
    return check_piece(document(*steps, photo=photo))


def document(*steps: tuple[str, dict[str, Any]] | dict[str, Any], photo: str | None = "p.png") -> dict[str, Any]:
    """Return a piece's JSON, steps as in `piece`."""
    trail = []
    for number, step in enumerate(steps, 1):
        whole = {"kind": step[0], "settings": step[1]} if isinstance(step, tuple) else step
        trail.append({"id": f"s{number}", **whole})
    return {"caracol": 3, "layers": [{"id": "land", "source": {"kind": "photo", "photo": photo}, "steps": trail}]}
