"""Mosaic: the picture in coarse even cells."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np

from ...arrays import Array
from ...geometry.frame import Frame
from ...geometry.rows import Rows
from ...kinds.kind import PictureKind, Start
from ...kinds.settings import Settings, number
from ...pixels.kept_light import lift_of, lifted
from ...pixels.light import from_texels, to_texels
from ...pixels.raster import enlarged_by_areas


class MosaicSettings(Settings):
    """How coarse the cells are."""

    pitch: float = number(
        0.026, 0.004, 0.5, label="Cell", unit="share", step=0.001, help="Height of a cell, as a share of the picture's height."
    )
    gap: float = number(0, 0, 0.9, label="Gap", unit="share", help="How much of a cell is a dark gap.")
    stretch: float = number(1, 0.25, 4, label="Stretch", unit="factor", help="Width of a cell against its height.")
    offset: float = number(0, 0, 0.5, label="Offset", unit="share", step=0.05, help="Shifts every other row, like bricks in a wall.")
    keep_light: float = number(
        1, 0, 1, label="Keep brightness", idle=(({"gap": [0]}, "Gap is 0."),), unit="share",
        help="Makes up for the light the gaps take away; 0 leaves it darker.",
    )  # fmt: skip


STRIP = 128


def cells_of(rows: Rows, pitch: float, stretch: float) -> tuple[int, int]:
    """Return how many cells there are down and across: whole numbers, as near to the pitch as they come."""
    down = max(1, round(1 / pitch))
    return down, max(1, round(rows.frame.ratio / pitch / stretch))


def _cover(count: int, pixels: int, gap: float, offset: float = 0.0) -> Array:
    """Return how much of each pixel along one side lies in a tile and not in the grouting, averaged over the pixel; tiles begin at `offset`."""
    edge = np.arange(pixels + 1) / pixels * count - offset

    def integral(t: Array) -> Array:
        whole = np.floor(t)
        return np.asarray(whole * (1 - gap) + np.clip(t - whole - gap / 2, 0, 1 - gap))

    return np.asarray(np.diff(integral(edge)) * pixels / count, np.float32)


def _enlarged(cells: Array, pixels: int, first: int, count: int, gap: float) -> Array:
    """Return `count` rows, from row `first` of `pixels`, of cells (n, …, 4) enlarged, dark where the grouting lies."""
    if len(cells) > pixels:
        shrunk = cv2.resize(cells.reshape(len(cells), -1), (cells[0].size, pixels), interpolation=cv2.INTER_AREA)
        out = np.asarray(shrunk[first : first + count].reshape(-1, *cells.shape[1:]))
        out[..., :3] *= _cover(len(cells), pixels, gap)[first : first + count].reshape(-1, *[1] * (cells.ndim - 1))
        return out
    return enlarged_by_areas(cells, pixels, first, count, gap)


def _averaged(values: Array, edges: Array, at: Array) -> Array:
    """Return the means, between neighbours of `at`, of values (rows, n, 4) that lie between neighbours of `edges` (n + 1,): exact at any cut."""
    summed = np.concatenate([np.zeros_like(values[:, :1]), np.cumsum(values * np.diff(edges)[:, None], axis=1)], axis=1)
    place = np.clip(np.interp(at, edges, np.arange(len(edges))), 0, len(edges) - 1)
    low = np.minimum(place.astype(np.int64), len(edges) - 2)
    part = (place - low)[:, None]
    cut = summed[:, low] * (1 - part) + summed[:, low + 1] * part
    return np.asarray(np.diff(cut, axis=1) / np.diff(at)[:, None], values.dtype)


def _aside(rows: Array, across: int, offset: float) -> Array:
    """Return rows of texels (n, cols, 4) in cells that begin at `offset` of a cell, averaged in linear light, each as wide as it is, coded."""
    cols = rows.shape[1]
    pixels = np.arange(cols + 1) / cols * across
    cells = np.concatenate([[0.0], np.arange(across) + offset, [float(across)]])
    light = np.rint(_averaged(rows.astype(np.float64), pixels, cells)).astype(rows.dtype)
    return _averaged(from_texels(light), cells, pixels)


def light_taken(picture: Array, s: MosaicSettings) -> dict[str, Any]:
    """Return the gain that gives the picture back the light of what the grouting covers."""
    rows = Rows(Frame(picture.shape[1] / picture.shape[0]), *picture.shape[:2])
    return {"gain": lift_of(picture, lambda given: mosaic(given, rows, {}, s)) ** s.keep_light}


def mosaic(picture: Array, rows: Rows, measured: dict[str, Any], s: MosaicSettings) -> Array:
    """Return the picture with each cell in its mean colour, averaged in linear light."""
    down, across = cells_of(rows, s.pitch, s.stretch)
    height, width = picture.shape[:2]
    light = to_texels(lifted(picture, measured.get("gain", 1.0)))

    cells = from_texels(cv2.resize(light, (across, down), interpolation=cv2.INTER_AREA))
    lines = np.ascontiguousarray(_enlarged(cells.transpose(1, 0, 2), width, 0, width, s.gap).transpose(1, 0, 2))
    if s.offset:
        lines[1::2] = _aside(cv2.resize(light, (width, down), interpolation=cv2.INTER_AREA)[1::2], across, s.offset)
        lines[1::2, :, :3] *= _cover(across, width, s.gap, s.offset)[:, None]
    out = np.empty_like(picture)
    for top in range(0, height, STRIP):
        part = out[top : top + STRIP]
        part[...] = _enlarged(lines, height, top, len(part), s.gap)
    return out


MOSAIC = PictureKind(
    key="mosaic",
    label="Mosaic",
    family="break",
    purpose="Shows the picture in coarse cells.",
    words=("pixelate", "blocks", "tiles", "pixels", "coarse", "low resolution"),
    settings=MosaicSettings,
    starts=(
        Start("Coarse cells", {}, words=("pixelate", "censor", "low resolution")),
        Start("Tiles", {"pitch": 0.04, "gap": 0.14}),
        Start("Bricks", {"pitch": 0.045, "stretch": 2.4, "offset": 0.5, "gap": 0.08}),
    ),
    measure=light_taken,
    measure_size=384,
    measures=lambda s: s.gap > 0 and s.keep_light > 0,
    effort=4.0,
    apply=mosaic,
    local=False,
)
