"""The demo world: which photos there are, and how they are drawn and written."""

from __future__ import annotations

import io
import zlib
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from .scenes import crystal, kelp, marsh, reeds, tiles, village


@dataclass(frozen=True)
class Scene:
    """One photo of the demo world."""

    name: str
    draw: Callable[[np.random.Generator, int], NDArray[np.uint8]]
    cols: int


# The Shelf shows the last one first.
SCENES = (
    Scene("salt-crystal", crystal.draw, 3000),
    Scene("kelp-garden", kelp.draw, 3600),
    Scene("reed-bed", reeds.draw, 3600),
    Scene("tile-wall", tiles.draw, 3300),
    Scene("stilt-village-noon", village.draw, 4000),
    Scene("salt-marsh-dusk", marsh.draw, 4500),
)


def draw_photo(scene: Scene, cols: int | None = None) -> bytes:
    """Draw one photo and return it as JPEG; always the same for the same width."""
    rng = np.random.default_rng(zlib.crc32(scene.name.encode()))
    out = io.BytesIO()
    Image.fromarray(scene.draw(rng, cols or scene.cols)).save(out, "JPEG", quality=93, subsampling=0)
    return out.getvalue()
