"""Painting: pictures sampled from one picture and laid on top of each other, strip by strip."""

from __future__ import annotations

from dataclasses import dataclass, field
from math import ceil, floor
from typing import Any, cast

import numpy as np

from ..arrays import Array
from ..geometry.frame import spanned
from ..geometry.rows import Rows
from .box import Box
from .drafts import Coded
from .masks import kept_at
from .pyramid import Pyramid
from .sampling import OUTSIDE, Rule, sample_strip


@dataclass(frozen=True)
class Brush:
    """What a painting step reads its input with.

    Parameters
    ----------
    source : Pyramid, or Coded for a draft
        The whole input.
    rows : Rows
        The strip that is painted.
    measured : dict
        What the kind's `measure` found.
    keep : float32 array, optional
        The keep mask of the whole picture.
    """

    source: Pyramid | Coded
    rows: Rows
    measured: dict[str, Any] = field(default_factory=dict)
    keep: Array | None = None

    @property
    def pyramid(self) -> Pyramid:
        """The whole input in linear light, for kinds that average."""
        return cast(Pyramid, self.source)

    def easing(self, rule: Rule) -> Rule:
        """Return the rule with every point moved less where more is kept."""
        keep, frame = self.keep, self.rows.frame
        if keep is None:
            return rule

        def eased(x: Array, y: Array) -> tuple[Array, Array]:
            px, py = rule(x, y)
            free = 1 - kept_at(keep, frame, x, y)
            inside = px < OUTSIDE
            return np.where(inside, x + free * (px - x), px), np.where(inside, y + free * (py - y), py)

        return eased

    def box(self, x0: float, x1: float, y0: float, y1: float) -> Box:
        """Return the pixels of the strip that touch a rectangle in units."""
        rows, frame = self.rows, self.rows.frame
        count = rows.rows - rows.top if rows.count is None else rows.count
        left, right = ((x / frame.half_w + 1) / 2 * rows.cols for x in (x0, x1))
        top, bottom = ((y / frame.half_h + 1) / 2 * rows.rows - rows.top for y in (y0, y1))
        # Plain numbers: a painting step asks this for each of many small parts.
        return Box(
            min(max(floor(top), 0), count),
            min(max(ceil(bottom), 0), count),
            min(max(floor(left), 0), rows.cols),
            min(max(ceil(right), 0), rows.cols),
        )

    def grid(self, box: Box, halo: int = 0) -> tuple[Array, Array]:
        """Return x and y of the box's pixel centres, in units."""
        rows, top = self.rows, self.rows.top
        down, across = range(top + box.top - halo, top + box.bottom + halo), range(box.left - halo, box.right + halo)
        return spanned(*rows.frame.axes(rows.rows, rows.cols, down, across))

    def read(self, rule: Rule, box: Box, wrap: tuple[bool, bool] = (False, False)) -> Array:
        """Return the input as `rule` (output units to input units) shows it in the box; mirrored outside, or wrapped."""
        out = np.empty((box.bottom - box.top, box.right - box.left, 4), np.float32)
        x, y = self.grid(box, halo=1)
        sample_strip(self.source, wrap, rule, x, y, out)
        return out


def lay_over(strip: Array, box: Box, picture: Array, cover: Array) -> None:
    """Lay a premultiplied picture, covered 0…1, over the part `box` of `strip`, in place.

    Parameters
    ----------
    strip : float32 array (rows, cols, 4)
        Coded, premultiplied; written into.
    box : Box
        In pixels of the strip.
    picture : float32 array (rows, cols, 4)
        Of the size of the box.
    cover : float32 array (rows, cols)
        0…1.
    """
    under = box.of(strip)
    picture = picture * cover[..., None]
    under *= 1 - picture[..., 3:]
    under += picture
