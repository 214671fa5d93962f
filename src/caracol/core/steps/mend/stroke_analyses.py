"""What strokes of a touch-up are looked over for: where one that heals takes its texture from, and where they show."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot

import cv2
import numpy as np

from ...arrays import Array
from ...geometry.frame import Frame
from ...pixels.healing import find_source
from .touch_up import Stroke, StrokeCanvas, StrokeSource, TouchUpSettings

ALIKE = 0.9
"""Places are doubles whose pixels go up and down together so far (a correlation)."""
PLAIN = 0.02
"""What varies less than this (a deviation, coded) catches no eye."""


def find_heal_source(picture: Array, stroke: Stroke) -> StrokeSource | None:
    """Return where a stroke that heals takes its texture from by itself: near it, of the same surface, and without an edge.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        With all strokes before this one.
    stroke : Stroke

    Returns
    -------
    StrokeSource, or None
        None where the stroke lies beyond the picture, or leaves no room for a source.
    """
    canvas = StrokeCanvas(picture, Frame(picture.shape[1] / picture.shape[0]), picture)
    patch, cover = canvas.cover(stroke)
    if patch.is_empty:
        return None
    whole = np.zeros(picture.shape[:2], np.float32)
    patch.of(whole)[...] = cover
    way = find_source(picture[..., :3], whole)
    return None if way is None else StrokeSource(dx=round(way[0] / canvas.per_unit, 5), dy=round(way[1] / canvas.per_unit, 5))


@dataclass(frozen=True)
class Repeat:
    """A place that shows the same as another, so that the eye catches it; in units, and how alike they are, 0…1."""

    x: float
    y: float
    from_x: float
    from_y: float
    radius: float
    likeness: float


def find_repeats(picture: Array, s: TouchUpSettings) -> list[Repeat]:
    """Return where strokes betray themselves: their texture stands in the finished picture twice, and is not plain.

    Parameters
    ----------
    picture : float32 array (rows, cols, 4)
        After all strokes.
    s : TouchUpSettings

    Returns
    -------
    list of Repeat
        The plainest to see first, one for a stroke at most.
    """
    canvas = StrokeCanvas(picture, Frame(picture.shape[1] / picture.shape[0]), picture)
    found = [
        double
        for stroke in s.strokes
        if stroke.on and stroke.mode in ("clone", "heal")
        for double in [_repeat_of(canvas, stroke)]
        if double
    ]
    return sorted(found, key=lambda double: -double.likeness)


def _repeat_of(canvas: StrokeCanvas, stroke: Stroke) -> Repeat | None:
    patch, cover = canvas.cover(stroke)
    if patch.is_empty or min(patch.shape) < 5:
        return None
    here, there = patch.of(canvas.picture)[..., :3].mean(axis=2), canvas.read(stroke, patch)[..., :3].mean(axis=2)
    wide = max(2.0, 0.35 * stroke.radius * canvas.per_unit)

    def mean(values: Array) -> Array:
        return np.asarray(cv2.GaussianBlur(values, (0, 0), wide), np.float32)

    a, b = here - mean(here), there - mean(there)
    spread = np.sqrt(mean(a * a) * mean(b * b))
    like = np.where((cover > 0.5) & (spread > PLAIN**2), mean(a * b) / np.maximum(spread, 1e-9), 0)
    row, col = np.unravel_index(int(like.argmax()), like.shape)
    if like[row, col] < ALIKE:
        return None
    x, y = canvas.frame.axes(
        canvas.rows,
        canvas.cols,
        range(patch.top + int(row), patch.top + int(row) + 1),
        range(patch.left + int(col), patch.left + int(col) + 1),
    )
    from_x, from_y = stroke.source_of(float(x[0]), float(y[0]))
    # A place that shows itself is no double.
    if hypot(from_x - float(x[0]), from_y - float(y[0])) < stroke.radius / 4:
        return None
    return Repeat(float(x[0]), float(y[0]), from_x, from_y, stroke.radius, float(like[row, col]))
