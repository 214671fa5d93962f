"""Mosaic: the picture in coarse even cells."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np

from ...kinds.kind import PictureKind, Rows, Start
from ...kinds.settings import Settings, number
from ...pixels.arrays import Array
from ...pixels.light import from_texels, to_texels


class MosaicSettings(Settings):
    """How coarse the cells are."""

    pitch: float = number(
        0.04, 0.004, 0.5, label="Cell", unit="share", step=0.001, help="Height of a cell, as a share of the picture's height."
    )
    gap: float = number(0, 0, 0.9, label="Gap", unit="share", help="How much of a cell is dark grouting.")
    stretch: float = number(1, 0.25, 4, label="Stretch", unit="factor", help="Width of a cell by its height.")


def cells_of(rows: Rows, pitch: float, stretch: float) -> tuple[int, int]:
    """Return how many cells there are down and across: whole numbers, as near to the pitch as they come."""
    down = max(1, round(1 / pitch))
    return down, max(1, round(rows.frame.ratio / pitch / stretch))


def _cover(count: int, pixels: int, gap: float) -> Array:
    """Return how much of each pixel along one side lies in a tile and not in the grouting, averaged over the pixel."""
    edge = np.arange(pixels + 1) / pixels * count

    def integral(t: Array) -> Array:
        whole = np.floor(t)
        return np.asarray(whole * (1 - gap) + np.clip(t - whole - gap / 2, 0, 1 - gap))

    return np.asarray(np.diff(integral(edge)) * pixels / count, np.float32)


def mosaic(picture: Array, rows: Rows, measured: dict[str, Any], *, pitch: float, gap: float, stretch: float) -> Array:
    """Return the picture with each cell in its mean colour, averaged in linear light."""
    down, across = cells_of(rows, pitch, stretch)
    height, width = picture.shape[:2]
    cells = from_texels(cv2.resize(to_texels(picture), (across, down), interpolation=cv2.INTER_AREA))
    # Enlarged to whole cells first and then by areas, so that a cell's edge that cuts a pixel is averaged there.
    fine = max(1, -(-2 * height // down)), max(1, -(-2 * width // across))
    tall = np.repeat(np.repeat(cells, fine[0], axis=0), fine[1], axis=1)
    out = cv2.resize(tall, (width, height), interpolation=cv2.INTER_AREA)
    if gap:
        tile = _cover(down, height, gap)[:, None] * _cover(across, width, gap)[None, :]
        out[..., :3] *= tile[..., None]
    return np.asarray(out, np.float32)


MOSAIC = PictureKind(
    key="mosaic",
    label="Mosaic",
    family="break",
    purpose="Shows the picture in coarse cells.",
    settings=MosaicSettings,
    starts=(
        Start("Coarse cells", {}),
        Start("Tiles", {"pitch": 0.03, "gap": 0.12}),
        Start("Bricks", {"pitch": 0.025, "stretch": 2.4}),
    ),
    apply=mosaic,
    local=False,
)
