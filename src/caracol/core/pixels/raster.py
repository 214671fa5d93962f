"""What steps on a raster see besides their input: its place, what is kept, what they remember, other photos."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Protocol, TypeVar

import cv2
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
    photo : callable (name) -> Pyramid
        Another photo.
    come : callable (share)
        To be told now and then how much is done, 0…1; raises `Overtaken` when the work is not wanted any more.
    """

    rows: Rows
    keep: Array | None = None
    remember: Remember = _make
    recall: Callable[[object], Any] = _nothing
    in_parts: Callable[[int, Callable[[int, int], None]], None] = _alone
    photo: Callable[[str], Pyramid] = _no_photo
    come: Callable[[float], None] = _come

    def pixels(self, units: float) -> float:
        """Return a length given in units, in pixels of the raster."""
        return units * self.rows.cols / 2 / self.rows.frame.half_w


def scaled(picture: Array, rows: int, cols: int) -> Array:
    """Return a raster's picture or mask with (rows, cols) pixels: averaged by areas, or enlarged smoothly.

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
    out = cv2.resize(picture, (cols, rows), interpolation=cv2.INTER_AREA if shrinks else cv2.INTER_CUBIC)
    if not shrinks:
        # Cubic enlarging overshoots; premultiplied colours may not exceed their alpha.
        np.clip(out, 0, 1, out=out)
        if out.ndim == 3:
            np.minimum(out[..., :3], out[..., 3:], out=out[..., :3])
    return np.asarray(out, np.float32)
