"""Where: the region a step or a layer acts in, described without pixels."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, sin, tau
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from ..geometry.frame import Frame
from ..kinds.settings import Settings
from ..pixels.arrays import Array
from ..pixels.blending import LUMA
from ..pixels.draws import draw, spread
from .outlines import polygon_depth, stroke_cover

Join = Literal["add", "subtract", "intersect"]
Coordinate = Annotated[float, Field(ge=-20, le=20)]
Radius = Annotated[float, Field(ge=0, le=20)]
Turn = Annotated[float, Field(ge=-4, le=4)]
Share = Annotated[float, Field(ge=0, le=1)]
Point = tuple[Coordinate, Coordinate]


@dataclass(frozen=True)
class Strip:
    """What a shape sees of the strip it is asked about: points in units, the width of an edge and of a pixel, the picture there."""

    x: Array
    y: Array
    soft: float
    pixel: float
    picture: Array | None


def _edge(depth: Array, soft: float) -> Array:
    """Turn depths inside (units, negative outside) into 0…1: half at the outline, `soft` wide."""
    return np.asarray(np.clip(depth / np.float32(soft) + np.float32(0.5), 0, 1), np.float32)


class _Shape(Settings):
    join: Join = "add"

    def cover(self, strip: Strip) -> Array:
        """Return 0…1 for each pixel of the strip."""
        raise NotImplementedError


class _Upright(_Shape):
    """A shape with a centre, half axes and a turn."""

    x: Coordinate = 0
    y: Coordinate = 0
    rx: Radius = 0.5
    ry: Radius = 0.5
    turn: Turn = 0

    def local(self, strip: Strip) -> tuple[Array, Array]:
        """Return the strip's points about the centre, turned back."""
        c, s = np.float32(cos(tau * self.turn)), np.float32(sin(tau * self.turn))
        dx, dy = strip.x - np.float32(self.x), strip.y - np.float32(self.y)
        return dx * c + dy * s, dy * c - dx * s


class Ellipse(_Upright):
    """An ellipse by its centre, half axes in units, and turn."""

    kind: Literal["ellipse"] = "ellipse"

    def cover(self, strip: Strip) -> Array:
        rx, ry = np.float32(max(self.rx, 1e-6)), np.float32(max(self.ry, 1e-6))
        dx, dy = self.local(strip)
        dx, dy = dx / rx, dy / ry
        q = np.sqrt(dx * dx + dy * dy)
        slope = np.sqrt((dx / rx) ** 2 + (dy / ry) ** 2) / np.maximum(q, np.float32(1e-6))
        return _edge((1 - q) / np.maximum(slope, np.float32(1e-6)), strip.soft)


class Rectangle(_Upright):
    """A rectangle by its centre, half sides in units, and turn."""

    kind: Literal["rectangle"] = "rectangle"

    def cover(self, strip: Strip) -> Array:
        dx, dy = self.local(strip)
        return _edge(np.minimum(np.float32(self.rx) - np.abs(dx), np.float32(self.ry) - np.abs(dy)), strip.soft)


class Polygon(_Shape):
    """A closed outline by its corners; where it crosses itself, every other part is inside."""

    kind: Literal["polygon"] = "polygon"
    points: tuple[Point, ...] = Field(((-0.5, -0.5), (0.5, -0.5), (0.0, 0.5)), min_length=3, max_length=500)

    def cover(self, strip: Strip) -> Array:
        return _edge(polygon_depth(strip.x, strip.y, np.array(self.points, np.float32), strip.soft), strip.soft)


class Bands(_Shape):
    """Parallel bands: how far apart (units), how thick (share of that), how soft, where to, how uneven."""

    kind: Literal["bands"] = "bands"
    spacing: float = Field(0.3, ge=0.01, le=20)
    thickness: Share = 0.5
    softness: Share = 0
    heading: Turn = 0
    offset: Coordinate = 0
    unevenness: Share = 0
    seed: int = Field(1, ge=0, le=999_999)

    def cover(self, strip: Strip) -> Array:
        along = strip.x * np.float32(sin(tau * self.heading)) - strip.y * np.float32(cos(tau * self.heading))
        place = (along - np.float32(self.offset)) / np.float32(self.spacing)
        total = np.zeros(place.shape, np.float32)
        soft = max(strip.soft / self.spacing, self.softness * 0.5)
        for number in range(int(np.floor(place.min())) - 1, int(np.ceil(place.max())) + 2):
            middle = number + 0.5 * self.unevenness * spread(self.seed, number + 4096, 0)
            half = self.thickness / 2 * (1 + self.unevenness * (2 * draw(self.seed, number + 4096, 1) - 1))
            total = np.maximum(total, _edge(np.float32(half) - np.abs(place - np.float32(middle)), soft))
        return total


class LinearFade(_Shape):
    """From nothing to all along a heading; half at (x, y), and as long as twice the reach."""

    kind: Literal["linear"] = "linear"
    x: Coordinate = 0
    y: Coordinate = 0
    heading: Turn = 0.5
    reach: float = Field(0.5, ge=0.001, le=20)

    def cover(self, strip: Strip) -> Array:
        dx, dy = strip.x - np.float32(self.x), strip.y - np.float32(self.y)
        along = dx * np.float32(sin(tau * self.heading)) - dy * np.float32(cos(tau * self.heading))
        return _smooth(along / np.float32(self.reach) * np.float32(0.5) + np.float32(0.5))


class RadialFade(_Shape):
    """All within the inner radius, nothing beyond the outer."""

    kind: Literal["radial"] = "radial"
    x: Coordinate = 0
    y: Coordinate = 0
    inner: Radius = 0.2
    outer: Radius = 0.9

    def cover(self, strip: Strip) -> Array:
        rad = np.hypot(strip.x - np.float32(self.x), strip.y - np.float32(self.y))
        wide = max(abs(self.outer - self.inner), strip.pixel)
        share = (np.float32(self.outer) - rad) / np.float32(wide)
        return _smooth(share if self.outer >= self.inner else (rad - np.float32(self.outer)) / np.float32(wide))


class Stroke(_Shape):
    """A painted stroke: its points, its radius in units, and how hard its edge is (1 hard, 0 soft to the middle)."""

    kind: Literal["stroke"] = "stroke"
    points: tuple[Point, ...] = Field(min_length=1, max_length=2000)
    radius: float = Field(0.1, ge=0.001, le=4)
    hardness: Share = 0.5

    def cover(self, strip: Strip) -> Array:
        soft = max(strip.soft, self.radius * (1 - self.hardness))
        return stroke_cover(strip.x, strip.y, np.array(self.points, np.float32), self.radius, soft)


class LightRange(_Shape):
    """Where the picture's luma lies between two values, fading over `softness` at both ends."""

    kind: Literal["light"] = "light"
    low: Share = 0.5
    high: Share = 1
    softness: Share = 0.1

    def cover(self, strip: Strip) -> Array:
        straight = _straight(strip)
        luma = straight @ LUMA
        soft = np.float32(max(self.softness, 1 / 512))
        return np.minimum(_smooth((luma - np.float32(self.low)) / soft + 1), _smooth((np.float32(self.high) - luma) / soft + 1))


class HueRange(_Shape):
    """Where the picture's hue (turns: 0 red, 1/3 green, 2/3 blue) is near one; greys count as little as they have colour."""

    kind: Literal["hue"] = "hue"
    centre: Turn = 0
    width: Share = 0.15
    softness: Share = 0.08

    def cover(self, strip: Strip) -> Array:
        rgb = _straight(strip)
        high, chroma = rgb.max(axis=-1), np.ptp(rgb, axis=-1)
        safe = np.maximum(chroma, np.float32(1e-6))
        r, g, b = rgb[..., 0], rgb[..., 1], rgb[..., 2]
        sixth = np.where(high == r, ((g - b) / safe) % 6, np.where(high == g, (b - r) / safe + 2, (r - g) / safe + 4))
        off = np.abs((sixth / 6 - self.centre + 0.5) % 1 - 0.5)
        soft = max(self.softness, 1 / 512)
        return _smooth((self.width / 2 - off) / soft + 1) * np.clip(chroma * 8, 0, 1)


def _smooth(share: Array) -> Array:
    share = np.clip(share, 0, 1)
    return np.asarray(share * share * (3 - 2 * share), np.float32)


def _straight(strip: Strip) -> Array:
    if strip.picture is None:
        raise ValueError("a range of light or hue needs the picture it looks at")
    return strip.picture[..., :3] / np.maximum(strip.picture[..., 3:], np.float32(1e-6))


Shape = Annotated[
    Ellipse | Rectangle | Polygon | Bands | LinearFade | RadialFade | Stroke | LightRange | HueRange, Field(discriminator="kind")
]


class Where(Settings):
    """Shapes joined in order, feathered, then perhaps turned inside out."""

    shapes: tuple[Shape, ...] = Field((), max_length=500)
    feather: float = Field(0, ge=0, le=4)
    invert: bool = False

    @property
    def looks_at_picture(self) -> bool:
        """Whether it has a range of light or hue."""
        return any(isinstance(shape, LightRange | HueRange) for shape in self.shapes)

    def mask(self, frame: Frame, rows: int, cols: int, top: int = 0, count: int | None = None, picture: Array | None = None) -> Array:
        """Return 0…1 for the pixels of a strip. An edge is one pixel soft, or as soft as the feather (centred on the outline).

        Parameters
        ----------
        picture : float32 array (count, cols, 4), optional
            The strip that ranges of light and hue look at.
        """
        x, y = frame.grid(rows, cols, top, count)
        pixel = 2 * frame.half_w / cols
        strip = Strip(x=x, y=y, soft=max(self.feather, pixel), pixel=pixel, picture=picture)
        total = np.zeros(x.shape, np.float32)
        for shape in self.shapes:
            part = shape.cover(strip)
            if shape.join == "add":
                total = np.maximum(total, part)
            elif shape.join == "subtract":
                total = np.minimum(total, 1 - part)
            else:
                total = np.minimum(total, part)
        return 1 - total if self.invert else total
