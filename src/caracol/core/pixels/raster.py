"""What steps on a raster see besides their input: its place, what is kept, what they remember, other photos."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Protocol, TypeVar

import cv2
import numba as nb
import numpy as np

from ..arrays import Array
from ..geometry.rows import Rows
from .pyramid import Pyramid

Kept = TypeVar("Kept")


class Remember(Protocol):
    """Keeps intermediate results of one input; the key must say all else that they depend on."""

    def __call__(self, key: object, make: Callable[[], Kept]) -> Kept:
        """Return what is kept under the key, else make it."""


def _nothing(key: object) -> Any:
    return None


def _make(key: object, make: Callable[[], Kept]) -> Kept:
    return make()


def _alone(count: int, work: Callable[[int, int], None]) -> None:
    work(0, count)


def _no_photo(name: str) -> Pyramid:
    raise LookupError(f"there are no photos here, so none is called {name!r}")


def _come(share: float) -> None:
    """Tell nobody, and never stop."""


@dataclass(frozen=True)
class Raster:
    """The raster a step works on.

    Parameters
    ----------
    rows : Rows
        All rows of the raster.
    keep : float32 array (rows, cols), optional
        How much is kept, 0…1.
    remember : Remember
    recall : callable (key) -> what is remembered under the key, or None
    in_parts : callable (count, work)
        Calls work(start, stop) for parts of 0 … count, side by side.
    finer : float
        Pixels of the raster that the settled picture has for one of this: above 1 in drafts of long work.
    photo : callable (name) -> Pyramid
        Another photo.
    come : callable (share)
        To be told now and then how much is done, 0…1; raises `Superseded` when the work is not wanted any more.
    """

    rows: Rows
    keep: Array | None = None
    remember: Remember = _make
    recall: Callable[[object], Any] = _nothing
    in_parts: Callable[[int, Callable[[int, int], None]], None] = _alone
    finer: float = 1.0
    photo: Callable[[str], Pyramid] = _no_photo
    come: Callable[[float], None] = _come

    def pixels(self, units: float) -> float:
        """Return a length given in units, in pixels of the raster."""
        return units * self.rows.cols / 2 / self.rows.frame.half_w


@nb.njit(nogil=True, cache=True)
def find_changed(before: Array, after: Array, first: int, last: int, out: Array) -> None:  # pragma: no cover
    """Fill rows `first` … `last` of `out` (rows, cols) with 1 where two pictures differ, else with 0."""
    for r in range(first, last):
        for c in range(before.shape[1]):
            differs = np.float32(0)
            for k in range(4):
                if before[r, c, k] != after[r, c, k]:
                    differs = np.float32(1)
            out[r, c] = differs


@nb.njit(nogil=True, cache=True)
def lay_by(under: Array, over: Array, share: Array, first: int, last: int, out: Array) -> None:  # pragma: no cover
    """Fill rows `first` … `last` of `out` with `under`, and with so much of `over` as its `share` (rows, cols) says."""
    for r in range(first, last):
        for c in range(under.shape[1]):
            for k in range(4):
                out[r, c, k] = under[r, c, k] + share[r, c] * (over[r, c, k] - under[r, c, k])


def enlarged_by_areas(cells: Array, pixels: int, first: int, count: int, gap: float = 0.0) -> Array:
    """Return rows of cells that stay plain squares: what an edge between two cuts is the mean of both.

    Parameters
    ----------
    cells : float32 array (n, …, 4)
        Premultiplied.
    pixels : int
        Rows that all cells become, `n` or more.
    first, count : int
        Which of them.
    gap : float
        0…1, how much of a cell is black, half on either side; its alpha stays.

    Returns
    -------
    float32 array (count, …, 4)
    """
    each = len(cells) / pixels
    edge = np.arange(first, first + count) * each
    cell = np.minimum(edge.astype(np.int64), len(cells) - 1)
    after = np.minimum(cell + 1, len(cells) - 1)

    def shares(gap: float) -> tuple[Array, Array]:
        here = np.minimum(edge + each, cell + 1 - gap / 2) - np.maximum(edge, cell + gap / 2)
        there = np.minimum(edge + each, cell + 2 - gap / 2) - (cell + 1 + gap / 2)
        one, other = (np.clip(part / each, 0, 1).astype(np.float32).reshape(-1, *[1] * (cells.ndim - 1)) for part in (here, there))
        return one, other

    own, next_one = shares(gap)
    out = cells[cell] * own + cells[after] * next_one
    if gap:
        own, next_one = shares(0.0)
        out[..., 3:] = cells[cell][..., 3:] * own + cells[after][..., 3:] * next_one
    return np.asarray(out)


def scaled(picture: Array, rows: int, cols: int, crisp: bool = False) -> Array:
    """Return a raster's picture or mask with (rows, cols) pixels: averaged by areas, or enlarged smoothly; `crisp` ones keep plain pixels.

    Parameters
    ----------
    picture : float32 array (rows, cols[, 4])
    rows, cols : int
        The size that is wanted.

    Returns
    -------
    float32 array (rows, cols[, 4])
    """
    if picture.shape[:2] == (rows, cols):
        return picture
    shrinks = rows <= picture.shape[0]
    if crisp and not shrinks:
        taller = enlarged_by_areas(picture, rows, 0, rows)
        return np.ascontiguousarray(enlarged_by_areas(taller.swapaxes(0, 1), cols, 0, cols).swapaxes(0, 1))
    out = cv2.resize(picture, (cols, rows), interpolation=cv2.INTER_AREA if shrinks else cv2.INTER_CUBIC)
    if not shrinks:
        # Cubic enlarging overshoots; premultiplied colours may not exceed their alpha.
        np.clip(out, 0, 1, out=out)
        if out.ndim == 3:
            np.minimum(out[..., :3], out[..., 3:], out=out[..., :3])
    return np.asarray(out, np.float32)


def _taps(t: float) -> Array:
    """Return the weights of four pixels for a place t beyond the second, by the cubic convolution that the library enlarges with (a = -3/4)."""
    a = -0.75
    first = ((a * (t + 1) - 5 * a) * (t + 1) + 8 * a) * (t + 1) - 4 * a
    second, third = (((a + 2) * u - (a + 3)) * u * u + 1 for u in (t, 1 - t))
    return np.array([first, second, third, 1 - first - second - third], np.float32)


_BEFORE, _BEYOND = _taps(0.75), _taps(0.25)
"""For the first and the second of the two pixels that one becomes: a quarter before its middle, and a quarter beyond."""


@nb.njit(nogil=True, fastmath=True, cache=True)
def _double(cells, top, out, before, beyond):  # type: ignore[no-untyped-def]
    rows, cols, _ = cells.shape
    line = np.empty((cols + 3, 4), np.float32)
    zero, one = np.float32(0), np.float32(1)
    for r in range(out.shape[0]):
        at = (top + r) // 2
        even = (top + r) % 2 == 0
        w = before if even else beyond
        first = at - 2 if even else at - 1
        a, b = max(0, min(first, rows - 1)), max(0, min(first + 1, rows - 1))
        c, d = max(0, min(first + 2, rows - 1)), max(0, min(first + 3, rows - 1))
        for i in range(cols):
            for k in range(4):
                line[i + 2, k] = w[0] * cells[a, i, k] + w[1] * cells[b, i, k] + w[2] * cells[c, i, k] + w[3] * cells[d, i, k]
        for k in range(4):
            line[0, k] = line[1, k] = line[2, k]
            line[cols + 2, k] = line[cols + 1, k]
        for i in range(cols):
            # Pixel i lies at i + 2 of the line; the last has one copy beyond it, and reads no further.
            last = min(i + 4, cols + 2)
            for half in range(2):
                v = before if half == 0 else beyond
                e = i if half == 0 else i + 1
                f = i + 3 if half == 0 else last
                alpha = v[0] * line[e, 3] + v[1] * line[e + 1, 3] + v[2] * line[e + 2, 3] + v[3] * line[f, 3]
                alpha = min(max(alpha, zero), one)
                for k in range(3):
                    value = v[0] * line[e, k] + v[1] * line[e + 1, k] + v[2] * line[e + 2, k] + v[3] * line[f, k]
                    # Cubic enlarging overshoots; premultiplied colours may not exceed their alpha.
                    out[r, 2 * i + half, k] = min(max(value, zero), alpha)
                out[r, 2 * i + half, 3] = alpha


def doubled(picture: Array, top: int, height: int) -> Array:
    """Return rows of a picture with two pixels for each of its own either way, smoothly between them, as the library's cubic enlarging does.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Premultiplied.
    top, height : int
        Which of the 2·rows rows.

    Returns
    -------
    float32 array (height, 2·cols, 4)
        0…1, colours no stronger than their alpha.
    """
    out = np.empty((height, 2 * picture.shape[1], 4), np.float32)
    _double(np.ascontiguousarray(picture, np.float32), top, out, _BEFORE, _BEYOND)
    return out
