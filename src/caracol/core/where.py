"""Where: the region a step acts in, described without pixels."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from .arrays import Array
from .frame import Frame
from .settings import Settings

Join = Literal["add", "subtract", "intersect"]
Coordinate = Annotated[float, Field(ge=-20, le=20)]
Radius = Annotated[float, Field(ge=0, le=20)]


class Ellipse(Settings):
    """An ellipse by its centre and half axes, in units."""

    kind: Literal["ellipse"] = "ellipse"
    x: Coordinate = 0
    y: Coordinate = 0
    rx: Radius = 0.5
    ry: Radius = 0.5
    join: Join = "add"

    def depth(self, x: Array, y: Array) -> Array:
        """Return how far inside points lie, about in units; negative outside."""
        rx, ry = max(self.rx, 1e-6), max(self.ry, 1e-6)
        dx, dy = (x - self.x) / rx, (y - self.y) / ry
        q = np.sqrt(dx * dx + dy * dy)
        slope = np.sqrt((dx / rx) ** 2 + (dy / ry) ** 2) / np.maximum(q, 1e-6)
        return np.asarray((1 - q) / np.maximum(slope, 1e-6), np.float32)


class Rectangle(Settings):
    """An upright rectangle by its centre and half sides, in units."""

    kind: Literal["rectangle"] = "rectangle"
    x: Coordinate = 0
    y: Coordinate = 0
    rx: Radius = 0.5
    ry: Radius = 0.5
    join: Join = "add"

    def depth(self, x: Array, y: Array) -> Array:
        """Return how far inside points lie, in units; negative outside."""
        return np.asarray(np.minimum(self.rx - np.abs(x - self.x), self.ry - np.abs(y - self.y)), np.float32)


Shape = Annotated[Ellipse | Rectangle, Field(discriminator="kind")]


class Where(Settings):
    """Shapes joined in order, then feathered, then perhaps turned inside out."""

    shapes: tuple[Shape, ...] = Field((), max_length=500)
    feather: float = Field(0, ge=0, le=4)
    invert: bool = False

    def mask(self, frame: Frame, rows: int, cols: int, top: int = 0, count: int | None = None) -> Array:
        """Return 0…1 for the pixels of a strip. An edge is one pixel soft, or as soft as the feather (centred on the outline)."""
        x, y = frame.grid(rows, cols, top, count)
        soft = max(self.feather, 2 * frame.half_w / cols)
        total = np.zeros(x.shape, np.float32)
        for shape in self.shapes:
            part = np.clip(shape.depth(x, y) / soft + 0.5, 0, 1)
            if shape.join == "add":
                total = np.maximum(total, part)
            elif shape.join == "subtract":
                total = np.minimum(total, 1 - part)
            else:
                total = np.minimum(total, part)
        return 1 - total if self.invert else total
