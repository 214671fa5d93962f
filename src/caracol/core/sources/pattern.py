"""Pattern: waves, rings, cells, plasma or stripes, drawn from a seed.

References
----------
Cells: Worley, A Cellular Texture Basis Function (1996), distance to the nearest of one point a square. Plasma: octaves of value noise.
"""

from __future__ import annotations

from math import cos, sin, tau
from typing import Any, ClassVar, Literal

import numba as nb
import numpy as np

from ..arrays import Array
from ..geometry.rows import Rows
from ..kinds.settings import choice, colour, number
from ..kinds.settings import seed as seed_setting
from ..pixels.draws import draw
from ..pixels.noise import lattice, noise_at
from .drawn import COLOUR_HELP, DrawnSource, coloured, ratio_setting, rgb

LINED = ["waves", "stripes"]
OCTAVES = 6


class PatternSource(DrawnSource):
    """Something regular enough to be bent."""

    label: ClassVar[str] = "Pattern"
    purpose: ClassVar[str] = "Waves, rings, cells, plasma or stripes."
    looks: ClassVar = (
        ("Waves", {}),
        ("Rings", {"form": "rings", "first": "#2b1537", "second": "#c2456b", "third": "#f7d7a8", "size": 0.35}),
        ("Cells", {"form": "cells", "first": "#f4efe0", "second": "#4f8a8b", "third": "#12262b", "size": 0.28}),
        ("Plasma", {"form": "plasma", "first": "#171a3a", "second": "#b04a5a", "third": "#ffd98a", "size": 0.8}),
        ("Stripes", {"form": "stripes", "first": "#203040", "second": "#e8613f", "third": "#f3ead8", "size": 0.2, "softness": 0.3}),
    )

    kind: Literal["pattern"] = "pattern"
    form: Literal["waves", "rings", "cells", "plasma", "stripes"] = choice("waves", label="Form", help="What is drawn.")
    first: str = colour("#0e2a33", label="First", help=COLOUR_HELP)
    second: str = colour("#d98c5f", label="Second", help=COLOUR_HELP)
    third: str = colour("#f6ead2", label="Third", help=COLOUR_HELP)
    size: float = number(0.3, 0.03, 4, label="Size", unit="units", help="Length of a wave, width of a ring, cell or pair of stripes.")
    x: float = number(0, -4, 4, label="Centre x", unit="units", help="Middle of the rings, right positive.", when={"form": ["rings"]})
    y: float = number(0, -4, 4, label="Centre y", unit="units", help="Middle of the rings, down positive.", when={"form": ["rings"]})
    heading: float = number(
        0.1,
        -1,
        1,
        label="Direction",
        unit="turns",
        step=0.0025,
        help="Across the stripes or waves, clockwise from the top.",
        when={"form": list(LINED)},
    )
    softness: float = number(0.9, 0, 1, label="Softness", unit="share", help="0 has hard edges between colours, 100 % has soft ones.")
    seed: int = seed_setting()
    ratio: float = ratio_setting()

    def _value(self, x: Array, y: Array) -> tuple[Array, float]:
        """Return values 0…1, and about how much they change per unit."""
        if self.form == "plasma":
            return _plasma(x / np.float32(self.size), y / np.float32(self.size), self.seed), 2 / self.size
        if self.form == "cells":
            return _cells(x / np.float32(self.size), y / np.float32(self.size), self.seed), 1.4 / self.size
        if self.form == "rings":
            phase = np.hypot(x - self.x, y - self.y) / self.size + draw(self.seed, 0)
        else:
            phase = (x * sin(tau * self.heading) - y * cos(tau * self.heading)) / self.size + draw(self.seed, 0)
        if self.form == "waves":
            lean = self.heading + 0.25 + 0.1 * draw(self.seed, 1)
            across = (x * sin(tau * lean) - y * cos(tau * lean)) / self.size
            phase = phase + 0.35 * np.sin(tau * (across * 0.5 + draw(self.seed, 2)))
        return 0.5 + 0.5 * np.sin(tau * phase), 3 / self.size

    def paint(self, rows: Rows, prepared: Any = None) -> Array:
        x, y = rows.grid()
        value, change = self._value(x, y)
        pixel = 2 * rows.frame.half_w / rows.cols
        # The step between two colours is as wide as asked, but never narrower than a pixel.
        soft = np.float32(max(self.softness, change * pixel))
        stage = np.asarray(value, np.float32) * 2
        low = np.clip((stage - 0.5) / soft + 0.5, 0, 1)
        high = np.clip((stage - 1.5) / soft + 0.5, 0, 1)
        return coloured((low + high) / 2, rgb(self.first), rgb(self.second), rgb(self.third))


@nb.njit(nogil=True, cache=True)
def _fill_plasma(x, y, seed, out):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        total, weight, scale = np.float32(0), np.float32(0.5), np.float32(1)
        for octave in range(OCTAVES):
            total += weight * noise_at(x[i] * scale, y[i] * scale, seed + octave)
            weight *= np.float32(0.5)
            scale *= np.float32(2)
        out[i] = min(max(np.float32(0.5) + np.float32(0.75) * total, np.float32(0)), np.float32(1))


@nb.njit(nogil=True, cache=True)
def _fill_cells(x, y, seed, out):  # type: ignore[no-untyped-def]
    for i in range(x.size):
        ix, iy = np.int32(np.floor(x[i])), np.int32(np.floor(y[i]))
        near = np.float32(9)
        for dy in range(-1, 2):
            for dx in range(-1, 2):
                px = np.float32(ix + dx) + lattice(ix + dx, iy + dy, seed)
                py = np.float32(iy + dy) + lattice(ix + dx, iy + dy, seed + 77)
                near = min(near, np.float32((px - x[i]) ** 2 + (py - y[i]) ** 2))
        out[i] = min(np.sqrt(near), np.float32(1))


def _plasma(x: Array, y: Array, seed: int) -> Array:
    out = np.empty(x.shape, np.float32)
    _fill_plasma(x.ravel(), y.ravel(), seed, out.ravel())
    return out


def _cells(x: Array, y: Array, seed: int) -> Array:
    out = np.empty(x.shape, np.float32)
    _fill_cells(x.ravel(), y.ravel(), seed, out.ravel())
    return out
