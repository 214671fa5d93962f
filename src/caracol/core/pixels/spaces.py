"""Colour spaces that pictures are worked and delivered in: sRGB, and Display P3 where a photo's colours reach beyond sRGB."""

from __future__ import annotations

from functools import cache
from typing import Literal

import numpy as np

from ..arrays import AnyArray, Array, Texels
from .colours import rgb_of
from .light import FULL, coded_of, linear_of

Space = Literal["srgb", "display-p3"]
D65 = (0.3127, 0.3290)
D50 = (0.9642, 1.0, 0.8249)
"""The white of the profile connection space as ICC.1 writes it: 0000f6d6 00010000 0000d32d; strict readers take no other."""
PRIMARIES: dict[Space, tuple[tuple[float, float], ...]] = {
    "srgb": ((0.64, 0.33), (0.30, 0.60), (0.15, 0.06)),
    "display-p3": ((0.68, 0.32), (0.265, 0.69), (0.15, 0.06)),
}
"""Red, green and blue in CIE x and y (IEC 61966-2-1; SMPTE EG 432-1 with the white of D65)."""
BRADFORD = np.array([[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]])


def xyz_of(x: float, y: float) -> AnyArray:
    """Return CIE XYZ of a chromaticity, Y being 1."""
    return np.array([x / y, 1.0, (1 - x - y) / y])


def to_xyz(space: Space) -> AnyArray:
    """Return the matrix (3, 3) from linear light to CIE XYZ, white being D65."""
    columns = np.stack([xyz_of(*one) for one in PRIMARIES[space]], axis=1)
    return columns * np.linalg.solve(columns, xyz_of(*D65))


@cache
def matrix_between(given: Space, wanted: Space) -> Array:
    """Return the matrix (3, 3) from the linear light of one space to that of another."""
    return np.asarray(np.linalg.solve(to_xyz(wanted), to_xyz(given)), np.float32)


def in_space(picture: Array, wanted: Space, given: Space = "srgb") -> Array:
    """Return a picture as the numbers of another space.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        Coded and premultiplied, in the space `given`.
    wanted : str

    Returns
    -------
    float32 array (rows, cols, 4)
        Coded (both spaces share the curve of IEC 61966-2-1) and premultiplied; what the space has not is brought to the nearest it has.
    """
    if wanted == given:
        return picture
    linear = linear_of(picture)
    moved = np.clip(linear[..., :3] @ matrix_between(given, wanted).T, 0, 1)
    return coded_of(np.concatenate([moved, linear[..., 3:]], axis=-1))


def texels_in(texels: Texels, wanted: Space, given: Space) -> Texels:
    """Return 16-bit linear premultiplied texels (rows, cols, 4) as those of another space."""
    if wanted == given:
        return texels
    out = np.empty_like(texels)
    matrix = matrix_between(given, wanted).T
    for row in range(0, len(texels), ROWS):
        part = texels[row : row + ROWS]
        cover = part[..., 3:].astype(np.float32)
        out[row : row + ROWS, :, :3] = np.clip(
            part[..., :3].astype(np.float32) @ matrix + np.float32(0.5), 0, np.minimum(cover + 0.5, FULL)
        )
        out[row : row + ROWS, :, 3] = part[..., 3]
    return out


def code_in(code: str, wanted: Space, given: Space = "srgb", digits: Literal[2, 4] = 2) -> str:
    """Return a colour's code as that of another space, with so many digits a part.

    >>> code_in("#ff0000", "display-p3")
    '#ea3323'
    """
    if wanted == given:
        return code
    rgb = np.array([[(*rgb_of(code), 1.0)]], np.float32)
    top = 16**digits - 1
    return "#" + "".join(f"{round(float(part) * top):0{digits}x}" for part in in_space(rgb, wanted, given)[0, 0, :3])


ROWS = 256
"""Rows that are turned at a time."""
