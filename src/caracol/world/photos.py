"""The demo world: which photos there are, and how they are drawn and written."""

from __future__ import annotations

import io
import zlib
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from .scenes import clock, crystal, cutouts, heron, kelp, marsh, pier, reeds, ridge, tiles, village, yard


@dataclass(frozen=True)
class Scene:
    """One photo, cut-out or texture of the demo world."""

    name: str
    draw: Callable[[np.random.Generator, int], NDArray[np.uint8]]
    cols: int
    suffix: str = "jpg"

    @property
    def file_name(self) -> str:
        """What it is called on the Shelf."""
        return f"{self.name}.{self.suffix}"


# The Shelf shows the last one first.
SCENES = (
    Scene("salt-dust", cutouts.draw_dust, 2400),
    Scene("tape-bars", cutouts.draw_bars, 2400),
    Scene("paper-boat", cutouts.draw_boat, 1500, "png"),
    Scene("heron", cutouts.draw_heron, 1400, "png"),
    Scene("heron-in-reeds", heron.draw, 3000),
    Scene("pier-globe", pier.draw, 3200),
    Scene("salt-crystal", crystal.draw, 3000),
    Scene("kelp-garden", kelp.draw, 3600),
    Scene("reed-bed", reeds.draw, 3600),
    Scene("station-clock", clock.draw, 2800),
    Scene("rail-yard-night", yard.draw, 3400),
    Scene("observatory-ridge-night", ridge.draw, 4200),
    Scene("tile-wall", tiles.draw, 3300),
    Scene("stilt-village-noon", village.draw, 4000),
    Scene("salt-marsh-dusk", marsh.draw, 4500),
)


def draw_photo(scene: Scene, cols: int | None = None) -> bytes:
    """Draw one photo and return its file, JPEG, or PNG where it is transparent; always the same for the same width."""
    rng = np.random.default_rng(zlib.crc32(scene.name.encode()))
    out = io.BytesIO()
    image = Image.fromarray(scene.draw(rng, cols or scene.cols))
    if scene.suffix == "png":
        image.save(out, "PNG")
    else:
        image.save(out, "JPEG", quality=93, subsampling=0)
    return out.getvalue()


def draw_missing(folder: Path) -> None:
    """Draw into a folder those of the demo's photos that are not there, on all cores."""
    folder.mkdir(parents=True, exist_ok=True)
    missing = [scene for scene in SCENES if not (folder / scene.file_name).exists()]
    with ProcessPoolExecutor() as pool:
        for scene, content in zip(missing, pool.map(draw_photo, missing), strict=True):
            (folder / scene.file_name).write_bytes(content)
