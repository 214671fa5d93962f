"""Where: the region a step or a layer acts in, described without pixels."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, sin, tau
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field

from ..arrays import Array
from ..geometry.frame import Frame
from ..kinds.settings import Settings, number, seed
from ..pixels.blending import LUMA
from ..pixels.draws import draw, spread
from .outlines import polygon_depth, stroke_cover

Join = Literal["add", "subtract", "intersect"]
Coordinate = Annotated[float, Field(ge=-20, le=20)]
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


def _across() -> Any:
    return number(0, -20, 20, label="Across", unit="units", step=0.005, shown=(-4, 4), help="Its middle, right positive.")


def _down() -> Any:
    return number(0, -20, 20, label="Down", unit="units", step=0.005, shown=(-4, 4), help="Its middle, down positive.")


def _length(default: float, label: str, help: str, low: float = 0, shown: tuple[float, float] = (0, 4)) -> Any:
    return number(default, low, 20, label=label, unit="units", step=0.005, shown=shown, help=help)


def _turn(default: float, label: str, help: str) -> Any:
    return number(default, -4, 4, label=label, unit="turns", step=0.0025, shown=(-1, 1), help=help)


def _share(default: float, label: str, help: str) -> Any:
    return number(default, 0, 1, label=label, unit="share", step=0.005, help=help)


class _Shape(Settings):
    label: ClassVar[str]
    drawn: ClassVar[bool] = False
    """Whether it is drawn with the pointer; else it is put down whole."""

    join: Join = "add"

    @property
    def effort(self) -> float:
        """Nanoseconds of one core for a point, roughly, at worst."""
        return 15.0

    def cover(self, strip: Strip) -> Array:
        """Return 0…1 for each pixel of the strip."""
        raise NotImplementedError


class _Upright(_Shape):
    """A shape with a centre, half axes and a turn."""

    drawn: ClassVar[bool] = True

    x: float = _across()
    y: float = _down()
    rx: float = _length(0.5, "Half width", "From the middle to the side.", shown=(0.01, 4))
    ry: float = _length(0.5, "Half height", "From the middle to the top.", shown=(0.01, 4))
    turn: float = _turn(0, "Turn", "Clockwise positive.")

    def local(self, strip: Strip) -> tuple[Array, Array]:
        """Return the strip's points about the centre, turned back."""
        c, s = np.float32(cos(tau * self.turn)), np.float32(sin(tau * self.turn))
        dx, dy = strip.x - np.float32(self.x), strip.y - np.float32(self.y)
        return dx * c + dy * s, dy * c - dx * s


class Ellipse(_Upright):
    """An ellipse by its centre, half axes in units, and turn."""

    label: ClassVar[str] = "Ellipse"

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

    label: ClassVar[str] = "Rectangle"

    kind: Literal["rectangle"] = "rectangle"

    def cover(self, strip: Strip) -> Array:
        dx, dy = self.local(strip)
        return _edge(np.minimum(np.float32(self.rx) - np.abs(dx), np.float32(self.ry) - np.abs(dy)), strip.soft)


class Polygon(_Shape):
    """A closed outline by its corners; where it crosses itself, every other part is inside."""

    label: ClassVar[str] = "Lasso"
    drawn: ClassVar[bool] = True

    kind: Literal["polygon"] = "polygon"
    points: tuple[Point, ...] = Field(((-0.5, -0.5), (0.5, -0.5), (0.0, 0.5)), min_length=3, max_length=500)

    @property
    def effort(self) -> float:
        return 5.0 + 2.5 * len(self.points)

    def cover(self, strip: Strip) -> Array:
        return _edge(polygon_depth(strip.x, strip.y, np.array(self.points, np.float32), strip.soft), strip.soft)


class Bands(_Shape):
    """Parallel bands: how far apart (units), how thick (share of that), how soft, where to, how uneven."""

    label: ClassVar[str] = "Bands"

    kind: Literal["bands"] = "bands"
    spacing: float = _length(0.3, "Spacing", "From one band to the next.", low=0.01, shown=(0.01, 2))
    thickness: float = _share(0.5, "Thickness", "How much of the spacing a band fills.")
    softness: float = _share(0, "Softness", "How softly a band begins and ends.")
    heading: float = _turn(0, "Direction", "Across the bands, clockwise from the top.")
    offset: float = number(
        0, -20, 20, label="Offset", unit="units", step=0.005, shown=(-2, 2), help="Moves all bands along their direction."
    )
    unevenness: float = _share(0, "Unevenness", "How much bands differ in place and thickness.")
    seed: int = seed(help="Another number gives another random result.")

    def cover(self, strip: Strip) -> Array:
        along = strip.x * np.float32(sin(tau * self.heading)) - strip.y * np.float32(cos(tau * self.heading))
        place = (along - np.float32(self.offset)) / np.float32(self.spacing)
        total = np.zeros(place.shape, np.float32)
        soft = max(strip.soft / self.spacing, self.softness * 0.5)
        for band in range(int(np.floor(place.min())) - 1, int(np.ceil(place.max())) + 2):
            middle = band + 0.5 * self.unevenness * spread(self.seed, band + 4096, 0)
            half = self.thickness / 2 * (1 + self.unevenness * (2 * draw(self.seed, band + 4096, 1) - 1))
            total = np.maximum(total, _edge(np.float32(half) - np.abs(place - np.float32(middle)), soft))
        return total


class LinearFade(_Shape):
    """From nothing to all along a heading; half at (x, y), and as long as twice the reach."""

    label: ClassVar[str] = "Fade"

    kind: Literal["linear"] = "linear"
    x: float = _across()
    y: float = _down()
    heading: float = _turn(0.5, "Direction", "Direction of the fade, clockwise from the top.")
    reach: float = _length(0.5, "Half width", "Half the width of the fade.", low=0.001, shown=(0.01, 4))

    def cover(self, strip: Strip) -> Array:
        dx, dy = strip.x - np.float32(self.x), strip.y - np.float32(self.y)
        along = dx * np.float32(sin(tau * self.heading)) - dy * np.float32(cos(tau * self.heading))
        return _smooth(along / np.float32(self.reach) * np.float32(0.5) + np.float32(0.5))


class RadialFade(_Shape):
    """All within the inner radius, nothing beyond the outer."""

    label: ClassVar[str] = "Round fade"

    kind: Literal["radial"] = "radial"
    x: float = _across()
    y: float = _down()
    inner: float = _length(0.2, "Inner", "Fully inside up to here.")
    outer: float = _length(0.9, "Outer", "Fully outside from here on.")

    def cover(self, strip: Strip) -> Array:
        rad = np.hypot(strip.x - np.float32(self.x), strip.y - np.float32(self.y))
        wide = max(abs(self.outer - self.inner), strip.pixel)
        share = (np.float32(self.outer) - rad) / np.float32(wide)
        return _smooth(share if self.outer >= self.inner else (rad - np.float32(self.outer)) / np.float32(wide))


class Stroke(_Shape):
    """A painted stroke: its points, its radius in units, and how hard its edge is (1 hard, 0 soft to the middle)."""

    label: ClassVar[str] = "Painted"
    drawn: ClassVar[bool] = True

    kind: Literal["stroke"] = "stroke"
    points: tuple[Point, ...] = Field(min_length=1, max_length=2000)
    radius: float = number(
        0.12, 0.001, 4, label="Radius", unit="units", step=0.005, shown=(0.01, 0.8), help="From the stroke's middle to its edge."
    )
    hardness: float = _share(0.5, "Hardness", "1 has a hard edge, 0 fades from the middle.")

    @property
    def effort(self) -> float:
        # Each part of the line is measured in the box that it can reach; the frame has at least 4 square units.
        across, down = np.abs(np.diff(np.array(self.points, np.float32), axis=0)).T + np.float32(2 * self.radius)
        return 5.0 + 2.0 * float(np.minimum(across * down / 4, 1).sum())

    def cover(self, strip: Strip) -> Array:
        soft = max(strip.soft, self.radius * (1 - self.hardness))
        return stroke_cover(strip.x, strip.y, np.array(self.points, np.float32), self.radius, soft)


class LightRange(_Shape):
    """Where the picture's luma lies between two values, fading over `softness` at both ends."""

    label: ClassVar[str] = "By brightness"

    kind: Literal["light"] = "light"
    low: float = _share(0.5, "From", "The darkest tone in the area.")
    high: float = _share(1, "To", "The lightest tone in the area.")
    softness: float = _share(0.1, "Softness", "How soft the ends of the range are.")

    def cover(self, strip: Strip) -> Array:
        straight = _straight(strip)
        luma = straight @ LUMA
        soft = np.float32(max(self.softness, 1 / 512))
        return np.minimum(_smooth((luma - np.float32(self.low)) / soft + 1), _smooth((np.float32(self.high) - luma) / soft + 1))


class HueRange(_Shape):
    """Where the picture's hue (turns: 0 red, 1/3 green, 2/3 blue) is near one; greys count as little as they have colour."""

    label: ClassVar[str] = "By hue"

    kind: Literal["hue"] = "hue"
    centre: float = number(0, -4, 4, label="Hue", unit="turns", step=0.0025, shown=(0, 1), help="0° red, 120° green, 240° blue.")
    width: float = _share(0.15, "Width", "How much of the colour circle is in the area.")
    softness: float = _share(0.08, "Softness", "How soft the ends of the range are.")

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


SHAPES: tuple[type[_Shape], ...] = (Rectangle, Ellipse, Polygon, Stroke, Bands, LinearFade, RadialFade, LightRange, HueRange)
Shape = Annotated[
    Ellipse | Rectangle | Polygon | Bands | LinearFade | RadialFade | Stroke | LightRange | HueRange, Field(discriminator="kind")
]


class Where(Settings):
    """Shapes joined in order, feathered, then perhaps turned inside out."""

    shapes: tuple[Shape, ...] = Field((), max_length=500)
    feather: float = number(0, 0, 4, label="Feather", unit="units", step=0.005, shown=(0, 1), help="How wide the edges fade, in units.")
    invert: bool = False

    @property
    def effort(self) -> float:
        """Nanoseconds of one core for a point, roughly, at worst."""
        return 10.0 + sum(shape.effort for shape in self.shapes)

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
            if shape.join == "add" and total.min() >= 1:
                continue
            part = shape.cover(strip)
            if shape.join == "add":
                total = np.maximum(total, part)
            elif shape.join == "subtract":
                total = np.minimum(total, 1 - part)
            else:
                total = np.minimum(total, part)
        return 1 - total if self.invert else total
