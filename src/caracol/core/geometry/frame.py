"""Frames, and the one place that knows where pixel centres lie."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Array


@dataclass(frozen=True)
class Frame:
    """A rectangle whose shorter side runs from -1 to 1.

    Parameters
    ----------
    ratio : float
        Width ÷ height, above 0.

    Examples
    --------
    >>> Frame(2.0).half_w, Frame(2.0).half_h
    (2.0, 1.0)
    >>> Frame(3.0).pixels(600)
    (200, 600)
    """

    ratio: float

    @property
    def half_w(self) -> float:
        """Half the width in units."""
        return max(self.ratio, 1.0)

    @property
    def half_h(self) -> float:
        """Half the height in units."""
        return max(1.0 / self.ratio, 1.0)

    def pixels(self, longer: int) -> tuple[int, int]:
        """Return (rows, cols) of this frame when its longer side has `longer` pixels; neither is below 1."""
        if self.ratio >= 1:
            return max(1, round(longer / self.ratio)), longer
        return longer, max(1, round(longer * self.ratio))

    def axes(self, rows: int, cols: int, down: range, across: range) -> tuple[Array, Array]:
        """Return x of the middles of some columns and y of those of some rows of a (rows, cols) picture, in units; also outside of it."""
        col = np.arange(across.start, across.stop, dtype=np.float64) + 0.5
        row = np.arange(down.start, down.stop, dtype=np.float64) + 0.5
        return ((2 * col / cols - 1) * self.half_w).astype(np.float32), ((2 * row / rows - 1) * self.half_h).astype(np.float32)

    def grid(self, rows: int, cols: int, top: int = 0, count: int | None = None, halo: int = 0) -> tuple[Array, Array]:
        """Return x and y of the pixel centres of rows `top` … `top + count` of a (rows, cols) picture.

        Parameters
        ----------
        halo : int
            Extra points on all four sides, outside the picture where need be.

        Returns
        -------
        x, y : float32 arrays of shape (count + 2 halo, cols + 2 halo), in units
        """
        count = rows - top if count is None else count
        return spanned(*self.axes(rows, cols, range(top - halo, top + count + halo), range(-halo, cols + halo)))

    def to_shares(self, x: Array, y: Array) -> tuple[Array, Array]:
        """Turn units into shares: u = 0 at the left edge, 1 at the right; v = 0 at the top, 1 at the bottom."""
        return (x / self.half_w + 1) / 2, (y / self.half_h + 1) / 2

    def from_shares(self, u: Array, v: Array) -> tuple[Array, Array]:
        """Turn shares into units."""
        return (2 * u - 1) * self.half_w, (2 * v - 1) * self.half_h


def spanned(x: Array, y: Array) -> tuple[Array, Array]:
    """Return the points of an even grid from its columns' x and its rows' y: two arrays (rows, cols)."""
    px, py = np.empty((2, len(y), len(x)), np.float32)
    px[...] = x
    py[...] = y[:, None]
    return px, py
