"""The colour spaces that files are delivered in: sRGB as everything is kept, and Display P3."""

from __future__ import annotations

import struct
from functools import cache
from typing import Literal

import numpy as np
from PIL import ImageCms

from ..arrays import AnyArray, Array
from ..pixels.light import coded_of, linear_of

Space = Literal["srgb", "display-p3"]
D65 = (0.3127, 0.3290)
D50 = (0.9642, 1.0, 0.8249)
"""The white of the profile connection space as ICC.1 writes it: 0000f6d6 00010000 0000d32d; strict readers take no other."""
PRIMARIES: dict[Space, tuple[tuple[float, float], ...]] = {
    "srgb": ((0.64, 0.33), (0.30, 0.60), (0.15, 0.06)),
    "display-p3": ((0.68, 0.32), (0.265, 0.69), (0.15, 0.06)),
}
"""Red, green and blue in CIE x and y (IEC 61966-2-1; SMPTE EG 432-1 with the white of D65)."""
MADE = struct.pack(">6H", 2026, 1, 1, 0, 0, 0)
"""When profiles say that they were made."""
BRADFORD = np.array([[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]])


def xyz_of(x: float, y: float) -> AnyArray:
    """Return CIE XYZ of a chromaticity, Y being 1."""
    return np.array([x / y, 1.0, (1 - x - y) / y])


def to_xyz(space: Space) -> AnyArray:
    """Return the matrix (3, 3) from linear light to CIE XYZ, white being D65."""
    columns = np.stack([xyz_of(*one) for one in PRIMARIES[space]], axis=1)
    return columns * np.linalg.solve(columns, xyz_of(*D65))


def in_space(picture: Array, space: Space) -> Array:
    """Return a picture as the numbers of another space.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        sRGB, coded and premultiplied.
    space : str

    Returns
    -------
    float32 array (rows, cols, 4)
        Coded (both spaces share the curve of IEC 61966-2-1) and premultiplied.
    """
    if space == "srgb":
        return picture
    matrix = np.linalg.solve(to_xyz(space), to_xyz("srgb")).astype(np.float32)
    linear = linear_of(picture)
    moved = np.clip(linear[..., :3] @ matrix.T, 0, 1)
    return coded_of(np.concatenate([moved, linear[..., 3:]], axis=-1))


def _fixed(*values: float) -> bytes:
    return struct.pack(f">{len(values)}i", *(round(value * 65536) for value in values))


def _tag_of_text(text: str) -> bytes:
    data = text.encode("utf-16-be")
    return b"mluc" + struct.pack(">IIIHHII", 0, 1, 12, 0x656E, 0x5553, len(data), 28) + data


@cache
def profile_of(space: Space) -> bytes:
    """Return the ICC profile of a space; Display P3's is put together here (ICC.1:2010, a three-component matrix profile of version 4)."""
    if space == "srgb":
        made = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
        # It would say when it was made, and the same piece would not give the same bytes.
        return made[:24] + MADE + made[36:]
    source, target = BRADFORD @ xyz_of(*D65), BRADFORD @ np.array(D50)
    adapted = np.linalg.inv(BRADFORD) @ np.diag(target / source) @ BRADFORD
    colours = adapted @ to_xyz(space)
    # g, a, b, c, d of function type 3: (a·X + b)^g from d on, c·X below.
    curve = b"para" + struct.pack(">IHH", 0, 3, 0) + _fixed(2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045)
    tags: list[tuple[bytes, bytes]] = [
        (b"desc", _tag_of_text("Display P3")),
        (b"cprt", _tag_of_text("No copyright, use freely")),
        (b"wtpt", b"XYZ \0\0\0\0" + _fixed(*D50)),
        (b"chad", b"sf32\0\0\0\0" + _fixed(*adapted.ravel())),
        *((name, b"XYZ \0\0\0\0" + _fixed(*colours[:, k])) for k, name in enumerate((b"rXYZ", b"gXYZ", b"bXYZ"))),
        *((name, curve) for name in (b"rTRC", b"gTRC", b"bTRC")),
    ]
    start = 128 + 4 + 12 * len(tags)
    table, data = struct.pack(">I", len(tags)), b""
    for name, content in tags:
        table += name + struct.pack(">II", start + len(data), len(content))
        data += content + b"\0" * (-len(content) % 4)
    size = start + len(data)
    header = struct.pack(">I4sI4s4s4s12s4s", size, b"\0\0\0\0", 0x04300000, b"mntr", b"RGB ", b"XYZ ", MADE, b"acsp")
    header += b"\0" * 28 + _fixed(*D50) + b"\0" * 48
    return header + table + data
