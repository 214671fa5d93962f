"""The profiles of the colour spaces that files are delivered in."""

from __future__ import annotations

import struct
from functools import cache

import numpy as np
from PIL import ImageCms

from ..pixels.spaces import BRADFORD, D50, D65, Space, to_xyz, xyz_of

MADE = struct.pack(">6H", 2026, 1, 1, 0, 0, 0)
"""When profiles say that they were made."""


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
