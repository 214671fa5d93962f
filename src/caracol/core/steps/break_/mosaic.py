"""Mosaic: the picture in coarse even cells."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np

from ...arrays import Array
from ...geometry.rows import Rows
from ...kinds.kind import PictureKind, Start
from ...kinds.settings import Settings, number
from ...pixels.light import from_texels, to_texels


class MosaicSettings(Settings):
    """How coarse the cells are."""

    pitch: float = number(
        0.04, 0.004, 0.5, label="Cell", unit="share", step=0.001, help="Height of a cell, as a share of the picture's height."
    )
    gap: float = number(0, 0, 0.9, label="Gap", unit="share", help="How much of a cell is dark grouting.")
    stretch: float = number(1, 0.25, 4, label="Stretch", unit="factor", help="Width of a cell by its height.")


STRIP = 128


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


def _enlarged(cells: Array, pixels: int, first: int, count: int) -> Array:
    """Return `count` rows, from row `first` of `pixels`, of cells (n, …) enlarged; a row that a cell's edge cuts is the average."""
    if len(cells) > pixels:
        shrunk = cv2.resize(cells.reshape(len(cells), -1), (cells[0].size, pixels), interpolation=cv2.INTER_AREA)
        return np.asarray(shrunk[first : first + count].reshape(-1, *cells.shape[1:]))
    edge = np.arange(first, first + count) / pixels * len(cells)
    cell = np.minimum(edge.astype(np.int64), len(cells) - 1)
    share = np.minimum((cell + 1 - edge) * pixels / len(cells), 1).astype(np.float32).reshape(-1, *[1] * (cells.ndim - 1))
    return np.asarray(cells[cell] * share + cells[np.minimum(cell + 1, len(cells) - 1)] * (1 - share))


def mosaic(picture: Array, rows: Rows, measured: dict[str, Any], s: MosaicSettings) -> Array:
    """Return the picture with each cell in its mean colour, averaged in linear light."""
    down, across = cells_of(rows, s.pitch, s.stretch)
    height, width = picture.shape[:2]
    cells = from_texels(cv2.resize(to_texels(picture), (across, down), interpolation=cv2.INTER_AREA))
    lines = np.ascontiguousarray(_enlarged(cells.transpose(1, 0, 2), width, 0, width).transpose(1, 0, 2))
    inked = [_cover(count, pixels, s.gap) for count, pixels in ((down, height), (across, width))]
    out = np.empty_like(picture)
    for top in range(0, height, STRIP):
        part = out[top : top + STRIP]
        part[...] = _enlarged(lines, height, top, len(part))
        if s.gap:
            part[..., :3] *= (inked[0][top : top + STRIP, None] * inked[1])[..., None]
    return out


MOSAIC = PictureKind(
    key="mosaic",
    label="Mosaic",
    family="break",
    purpose="Shows the picture in coarse cells.",
    words=("pixelate", "blocks", "tiles", "pixels", "coarse", "low resolution"),
    settings=MosaicSettings,
    starts=(
        Start("Coarse cells", {}),
        Start("Tiles", {"pitch": 0.03, "gap": 0.12}),
        Start("Bricks", {"pitch": 0.025, "stretch": 2.4}),
    ),
    effort=4.0,
    apply=mosaic,
    local=False,
)
