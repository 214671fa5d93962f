"""A picture at its size, half of it, a quarter … packed into one block that compiled kernels can walk."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from ..arrays import AnyArray, Array, Texels
from ..geometry.frame import Frame
from .light import from_texels, to_texels
from .spaces import Space, in_space, texels_in


@dataclass(frozen=True, eq=False)
class Pyramid:
    """A mip pyramid of 16-bit linear premultiplied texels.

    Parameters
    ----------
    block : uint16 array, 1-D
        All levels, largest first, each (rows, cols, 4) in row order.
    starts, heights, widths : int64 arrays
        Where each level begins in the block, and its size.
    space : str
        The colour space of its numbers.
    """

    block: Texels
    starts: AnyArray
    heights: AnyArray
    widths: AnyArray
    space: Space = "srgb"

    @property
    def rows(self) -> int:
        return int(self.heights[0])

    @property
    def cols(self) -> int:
        return int(self.widths[0])

    @property
    def frame(self) -> Frame:
        return Frame(self.cols / self.rows)

    @property
    def nbytes(self) -> int:
        return int(self.block.nbytes)

    def level(self, index: int) -> Texels:
        """Return level `index` as a view of shape (rows, cols, 4); beyond the last, the last."""
        index = min(index, len(self.starts) - 1)
        rows, cols, start = int(self.heights[index]), int(self.widths[index]), int(self.starts[index])
        return self.block[start : start + rows * cols * 4].reshape(rows, cols, 4)

    def level_for(self, longer: float) -> int:
        """Return the smallest level whose longer side is still at least `longer` pixels."""
        sizes = np.maximum(self.heights, self.widths)
        return max(0, int(np.count_nonzero(sizes >= longer)) - 1)

    def picture(self, longer: int) -> Array:
        """Return the whole picture scaled by areas to `longer` pixels on its longer side, coded float, as numbers of its own space."""
        rows, cols = self.frame.pixels(longer)
        level = self.level(self.level_for(longer))
        if level.shape[:2] != (rows, cols):
            shrinking = rows <= level.shape[0]
            level = cv2.resize(level, (cols, rows), interpolation=cv2.INTER_AREA if shrinking else cv2.INTER_CUBIC)
        return from_texels(level)

    def look(self, longer: int) -> Array:
        """Return what `picture` does, in sRGB."""
        return in_space(self.picture(longer), "srgb", self.space)

    def as_in(self, space: Space) -> Pyramid:
        """Return the pyramid of the same picture as numbers of another space."""
        return self if space == self.space else build_pyramid(texels_in(self.level(0), space, self.space), space)


def build_pyramid(base: Texels, space: Space = "srgb") -> Pyramid:
    """Build the pyramid of `base` by area averages down to a few texels.

    Parameters
    ----------
    base : uint16 array (rows, cols, 4)
        Linear, premultiplied.
    space : str
        Whose numbers these are.

    Returns
    -------
    Pyramid
        Each level half as large as the one before.

    References
    ----------
    L. Williams, Pyramidal Parametrics, SIGGRAPH (1983).
    """
    rows, cols = base.shape[:2]
    sizes = [(rows, cols)]
    while max(sizes[-1]) > 4:
        rows, cols = (rows + 1) // 2, (cols + 1) // 2
        sizes.append((rows, cols))
    counts = [r * c * 4 for r, c in sizes]
    starts = np.concatenate([[0], np.cumsum(counts)[:-1]]).astype(np.int64)
    block = np.empty(sum(counts), np.uint16)
    previous = base
    for start, count, (r, c) in zip(starts, counts, sizes, strict=True):
        view = block[start : start + count].reshape(r, c, 4)
        view[...] = base if previous is base and (r, c) == base.shape[:2] else cv2.resize(previous, (c, r), interpolation=cv2.INTER_AREA)
        previous = view
    heights, widths = np.array(sizes, np.int64).T.copy()
    return Pyramid(block, starts, heights, widths, space)


def pyramid_of(picture: Array) -> Pyramid:
    """Build the pyramid of a coded float picture.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded, premultiplied, 0…1.

    Returns
    -------
    Pyramid

    Raises
    ------
    TypeError
        Its values are whole numbers, so that 1 would be white.
    ValueError
        It has not four channels.
    """
    if not np.issubdtype(picture.dtype, np.floating):
        raise TypeError(f"a picture of {picture.dtype} values; expected floats from 0 to 1, so divide 8-bit values by 255")
    if picture.ndim != 3 or picture.shape[2] != 4:
        raise ValueError(f"a picture of shape {picture.shape}; expected (rows, cols, 4): red, green, blue and alpha")
    return build_pyramid(to_texels(picture))
