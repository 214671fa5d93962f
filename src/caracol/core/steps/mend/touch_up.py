"""Touch-up: stored strokes that clone, heal, fill in, colour or erase, replayed at any size."""

from __future__ import annotations

from collections.abc import Container, Iterator
from functools import cached_property
from math import cos, sin, tau
from typing import Annotated, Any, ClassVar, Literal, Self, cast

import cv2
import numpy as np
from pydantic import ConfigDict, FailFast, Field, model_validator

from ...arrays import AnyArray, Array
from ...geometry.frame import Frame
from ...geometry.lines import FARTHEST, GRAIN, fault_of, unpacked
from ...geometry.rows import Rows
from ...kinds.kind import PictureKind, Start
from ...kinds.settings import Settings, strokes
from ...pixels.box import Box
from ...pixels.colours import rgb_of
from ...pixels.filling import find_offsets
from ...pixels.strokes import lay_over, line_cover, membrane_over, outline_cover, patch_around, shown_at, to_pixels

MOST_STROKES = 2000
MOST_POINTS = 4000
MOST_CORNERS = 2000
CELLS = 28
"""A hole that is filled in is looked at with so many cells to its smaller side, or as many as its look has pixels."""
ROUND = 2.5
"""What fills a hole is looked for so many times its smaller side round it."""
SAME_THING = 0.06
"""Where what fills a hole differs more from what lies round it, that is no matter of tone."""
GROWN = 12
"""A picture with so many strokes fewer is looked for to go on from."""

Mode = Literal["clone", "heal", "fill-in", "colour", "erase"]
Length = Annotated[float, Field(ge=-20, le=20)]
Pressure = Annotated[float, Field(ge=0, le=1)]
Way = Annotated[int, Field(ge=-2 * FARTHEST * GRAIN, le=2 * FARTHEST * GRAIN)]


class StrokeSource(Settings):
    """Where clone and heal take their texture from: the colour at p comes from p + (dx, dy), turned and scaled about a point."""

    dx: Length = 0
    dy: Length = 0
    turn: float = Field(0, ge=-4, le=4)
    scale: float = Field(1, ge=0.05, le=20)
    about: tuple[Length, Length] | None = None


class Stroke(Settings):
    """One stroke of a brush, or a patch by its outline.

    `line` are its points as whole numbers (`geometry.lines`: hundred-thousandths of a unit, each by how far it lies from the one before);
    `pressure` has one share for each of them, or nothing where all were made fully. `outline` is the edge of a patch, written likewise; its
    softness is the part of the radius that is not hard.
    """

    model_config = ConfigDict(ignored_types=(cached_property,))

    mode: Mode
    line: Annotated[tuple[Way, ...], FailFast()] = Field((), max_length=2 * MOST_POINTS)
    pressure: Annotated[tuple[Pressure, ...], FailFast()] = Field((), max_length=MOST_POINTS)
    outline: Annotated[tuple[Way, ...], FailFast()] = Field((), max_length=2 * MOST_CORNERS)
    radius: float = Field(0.05, ge=0.0005, le=4)
    hardness: float = Field(0.5, ge=0, le=1)
    opacity: float = Field(1, ge=0, le=1)
    colour: str | None = Field(None, pattern=r"^#[0-9a-fA-F]{6}$")
    source: StrokeSource = StrokeSource()
    on: bool = True

    @model_validator(mode="after")
    def _is_drawn(self) -> Self:
        if bool(self.line) == bool(self.outline):
            raise ValueError("a stroke has either a line or an outline; give one of them")
        for name, ways in (("line", self.line), ("outline", self.outline)):
            if fault := fault_of(ways):
                raise ValueError(f"{name} {fault}")
        if self.outline and len(self.outline) < 6:
            raise ValueError(f"an outline has three points at least, not {len(self.outline) // 2}")
        if self.pressure and len(self.pressure) != len(self.line) // 2:
            raise ValueError(f"a line of {len(self.line) // 2} points has as many pressures or none, not {len(self.pressure)}")
        if self.mode == "colour" and self.colour is None:
            raise ValueError("a stroke of mode colour needs a colour, such as #d0b080")
        return self

    @cached_property
    def points(self) -> Array:
        """Its points, or those of its outline: float32 array (n, 3) of x and y in units, and pressure."""
        found = np.ones((len(self.line or self.outline) // 2, 3), np.float32)
        found[:, :2] = unpacked(self.line or self.outline)
        if self.pressure:
            found[:, 2] = self.pressure
        return found

    @cached_property
    def described_once(self) -> str:
        """All of its fields, for keys: there may be very many strokes, and one more changes none of the others."""
        return self.model_dump_json()

    def source_of(self, x: float, y: float) -> tuple[float, float]:
        """Return where the colour of a point comes from, in units."""
        s = self.source
        (ax, ay), c, d = self.middle, cos(tau * s.turn) / s.scale, sin(tau * s.turn) / s.scale
        return ax + s.dx + (x - ax) * c + (y - ay) * d, ay + s.dy - (x - ax) * d + (y - ay) * c

    @property
    def middle(self) -> tuple[float, float]:
        """The point that its source is turned and scaled about."""
        return self.source.about or (float(self.points[0, 0]), float(self.points[0, 1]))


class TouchUpSettings(Settings):
    """The strokes, in the order they were made."""

    described_by_parts: ClassVar[bool] = True

    strokes: tuple[Stroke, ...] = strokes(most=MOST_STROKES, label="Strokes", help="Painted one after the other.")


class StrokeCanvas:
    """A picture that strokes are replayed on."""

    def __init__(self, picture: Array, frame: Frame, origin: Array) -> None:
        self.picture = picture
        self.origin = origin
        self.frame = frame
        self.rows, self.cols = picture.shape[:2]
        self.per_unit = self.cols / 2 / frame.half_w

    def touches(self, stroke: Stroke) -> Box:
        """Return the pixels a stroke may change."""
        given = stroke.points
        col, row = to_pixels(self.frame, self.rows, self.cols, given[:, 0], given[:, 1])
        return patch_around(col, row, stroke.radius * self.per_unit + 1, self.rows, self.cols)

    def source_of(self, stroke: Stroke, patch: Box) -> Box:
        """Return the pixels that a stroke reads to change those of a patch."""
        corners = [(col, row) for col in (patch.left, patch.right) for row in (patch.top, patch.bottom)]
        x, y = self.frame.from_shares(*(np.array([corner[k] / n for corner in corners]) for k, n in ((0, self.cols), (1, self.rows))))
        there = [stroke.source_of(float(px), float(py)) for px, py in zip(x, y, strict=True)]
        col, row = to_pixels(self.frame, self.rows, self.cols, np.array([p[0] for p in there]), np.array([p[1] for p in there]))
        return patch_around(col, row, 4, self.rows, self.cols)

    def cover(self, stroke: Stroke) -> tuple[Box, Array]:
        """Return the pixels a stroke touches, and how much."""
        radius = stroke.radius * self.per_unit
        given = stroke.points
        col, row = to_pixels(self.frame, self.rows, self.cols, given[:, 0], given[:, 1])
        if stroke.outline:
            soft = radius * (1 - stroke.hardness)
            patch = patch_around(col, row, soft + 1, self.rows, self.cols)
            return patch, np.zeros((0, 0), np.float32) if patch.is_empty else outline_cover(col, row, soft, patch)
        patch = patch_around(col, row, radius + 1, self.rows, self.cols)
        line = np.stack([col, row, given[:, 2]], axis=1)
        return patch, np.zeros((0, 0), np.float32) if patch.is_empty else line_cover(line, radius, stroke.hardness, patch)

    def read(self, stroke: Stroke, patch: Box) -> Array:
        """Return what a stroke's source shows in a patch; beyond the picture its outermost pixels go on."""
        s = stroke.source
        (ax, ay), (c, d) = stroke.middle, (cos(tau * s.turn) / s.scale, sin(tau * s.turn) / s.scale)
        x, y = self.frame.axes(self.rows, self.cols, range(patch.top, patch.bottom), range(patch.left, patch.right))
        x, y = x[None] - np.float32(ax), y[:, None] - np.float32(ay)
        from_x = np.float32(ax + s.dx) + x * np.float32(c) + y * np.float32(d)
        from_y = np.float32(ay + s.dy) - x * np.float32(d) + y * np.float32(c)
        col, row = to_pixels(self.frame, self.rows, self.cols, from_x, from_y)
        source = self.picture
        if s.scale < 1:
            # What is shown smaller is softened first, or its finest lines would flicker.
            near = patch_around(col.ravel(), row.ravel(), 4, self.rows, self.cols)
            if near.is_empty:
                return shown_at(source, col, row)
            source = cv2.GaussianBlur(near.of(source), (0, 0), 0.45 * (1 / s.scale - 1) + 0.01, borderType=cv2.BORDER_REPLICATE)
            col, row = col - np.float32(near.left), row - np.float32(near.top)
        return shown_at(source, col, row)

    def lay(self, stroke: Stroke, offsets: AnyArray | None) -> None:
        """Lay one stroke on the picture."""
        patch, cover = self.cover(stroke)
        if patch.is_empty:
            return
        under = patch.of(self.picture)
        if stroke.mode == "erase":
            over = patch.of(self.origin)
        elif stroke.mode == "colour":
            rgb = rgb_of(str(stroke.colour))
            over = np.empty(under.shape, np.float32)
            over[...] = [*rgb, 1]
        elif stroke.mode == "clone":
            over = self.read(stroke, patch)
        elif stroke.mode == "heal":
            over = self.healed(self.read(stroke, patch), patch, cover, stroke)
        else:
            over = self.healed(self.filled(stroke, patch, offsets), patch, cover, stroke)
        lay_over(under, over, cover, stroke.opacity)

    def healed(self, over: Array, patch: Box, cover: Array, stroke: Stroke) -> Array:
        """Return a patch in the tones of what lies round the stroke: with the smoothest change that makes both agree there."""
        under = patch.of(self.picture)
        difference = under[..., :3] - over[..., :3]
        outside = np.float32(1) - np.clip(cover * 12, 0, 1)
        outside *= np.minimum(under[..., 3], over[..., 3])
        if stroke.mode == "fill-in":
            # What the edge of the hole cuts through is another thing than what was found, not another tone of it.
            outside *= np.exp(-((np.abs(difference).mean(axis=2) / np.float32(SAME_THING)) ** 2))
        change = membrane_over(difference, outside, stroke.radius * self.per_unit / 6)
        over[..., :3] += change * over[..., 3:]
        return over

    def raster(self, stroke: Stroke) -> tuple[Box, float]:
        """Return the surroundings in which a fill-in looks for patches, and how many pixels a cell of its raster is wide."""
        given = stroke.points
        col, row = to_pixels(self.frame, self.rows, self.cols, given[:, 0], given[:, 1])
        inside = patch_around(col, row, stroke.radius * self.per_unit if stroke.line else 0.0, self.rows, self.cols)
        smaller = max(2.0, min(inside.shape)) if not inside.is_empty else 2.0
        return patch_around(col, row, stroke.radius * self.per_unit + ROUND * smaller, self.rows, self.cols), max(1.0, smaller / CELLS)

    def offsets(self, stroke: Stroke) -> AnyArray | None:
        """Return where the cells of a fill-in's raster are filled from, in units, (rows, cols, 2): to the right and down."""
        near, cell = self.raster(stroke)
        patch, cover = self.cover(stroke)
        if near.is_empty or patch.is_empty:
            return None
        whole = np.zeros((self.rows, self.cols), np.float32)
        patch.of(whole)[...] = cover
        shape = max(2, round(near.shape[1] / cell)), max(2, round(near.shape[0] / cell))
        picture = cv2.resize(near.of(self.picture)[..., :3], shape, interpolation=cv2.INTER_AREA)
        hole = cv2.resize(near.of(whole), shape, interpolation=cv2.INTER_AREA) > 0.02
        found = find_offsets(np.asarray(picture, np.float32), hole)
        if found is None:
            return None
        step = np.array([near.shape[1] / shape[0], near.shape[0] / shape[1]]) / self.per_unit
        return (found[..., ::-1] * step).astype(np.float32)

    def filled(self, stroke: Stroke, patch: Box, offsets: AnyArray | None) -> Array:
        """Return what fills a patch: each pixel the mean of what its four nearest cells lead to; as it is where nothing was found."""
        under = patch.of(self.picture)
        near, _ = self.raster(stroke)
        if offsets is None or near.is_empty:
            return under.copy()
        rows, cols = offsets.shape[:2]
        down, across = (np.arange(patch.top, patch.bottom) + 0.5, np.arange(patch.left, patch.right) + 0.5)
        at_row = ((down - near.top) / near.shape[0] * rows - 0.5).astype(np.float32)[:, None]
        at_col = ((across - near.left) / near.shape[1] * cols - 0.5).astype(np.float32)[None]
        out = np.zeros(under.shape, np.float32)
        first_row, first_col = np.floor(at_row).astype(int), np.floor(at_col).astype(int)
        row, col = (down - 0.5).astype(np.float32)[:, None], (across - 0.5).astype(np.float32)[None]
        for dr in (0, 1):
            for dc in (0, 1):
                share = (1 - np.abs(at_row - (first_row + dr))) * (1 - np.abs(at_col - (first_col + dc)))
                way = offsets[np.clip(first_row + dr, 0, rows - 1), np.clip(first_col + dc, 0, cols - 1)] * np.float32(self.per_unit)
                out += share[..., None] * shown_at(self.picture, col + way[..., 0], row + way[..., 1])
        return out


def _replayed(
    picture: Array, frame: Frame, origin: Array, some: tuple[Stroke, ...], fills: dict[int, AnyArray | None], first: int = 0
) -> Array:
    canvas = StrokeCanvas(picture.copy(), frame, origin)
    for index, stroke in enumerate(some[first:], first):
        if stroke.on:
            canvas.lay(stroke, fills.get(index))
    return canvas.picture


def measure_fills(picture: Array, s: TouchUpSettings, known: dict[str, Any] | None = None) -> dict[str, Any]:
    """Find what fills each hole: `fills` has the offsets (units) of a fill-in by its number among the strokes; of fewer strokes they are `known`."""
    frame = Frame(picture.shape[1] / picture.shape[0])
    last = max((n for n, stroke in enumerate(s.strokes) if stroke.on and stroke.mode == "fill-in"), default=-1)
    fills: dict[int, AnyArray | None] = dict((known or {}).get("fills", {}))
    if last < 0 or last in fills:
        return {"fills": fills}
    canvas = StrokeCanvas(picture.copy(), frame, picture)
    for index in _seen_by_fills(canvas, s.strokes[: last + 1], fills):
        stroke = s.strokes[index]
        if stroke.mode == "fill-in" and index not in fills:
            fills[index] = canvas.offsets(stroke)
        canvas.lay(stroke, fills.get(index))
    return {"fills": fills}


def _seen_by_fills(canvas: StrokeCanvas, some: tuple[Stroke, ...], known: Container[int]) -> list[int]:
    """Return, in order, which strokes what fills a hole depends on: those in its surroundings, and what these take from other places.

    Holes that are `known` already count like other strokes.
    """
    wanted: list[int] = []
    looked_at: list[Box] = []
    for index in range(len(some) - 1, -1, -1):
        stroke = some[index]
        if not stroke.on:
            continue
        touches = canvas.touches(stroke)
        sought = stroke.mode == "fill-in" and index not in known
        if not sought and not any(touches.meets(patch) for patch in looked_at):
            continue
        wanted.append(index)
        if stroke.mode == "fill-in":
            looked_at.append(canvas.raster(stroke)[0])
        elif stroke.mode in ("clone", "heal"):
            # A healed place takes its tone from all round it, not only where it is looked at.
            looked_at += [canvas.source_of(stroke, touches), touches]
    return wanted[::-1]


def has_holes(s: TouchUpSettings) -> bool:
    """Whether anything is filled in, for which the picture must be looked at."""
    return any(stroke.on and stroke.mode == "fill-in" for stroke in s.strokes)


def touch_up(picture: Array, rows: Rows, measured: dict[str, Any], s: TouchUpSettings) -> Array:
    """Return the picture with all strokes laid on it, one after the other.

    Where `measured` has `done`, the picture has so many of them already, and `origin` is what it was before the first.
    """
    origin = cast(Array, measured.get("origin", picture))
    return _replayed(picture, rows.frame, origin, s.strokes, measured.get("fills", {}), measured.get("done", 0))


def fewer_strokes(s: TouchUpSettings) -> Iterator[tuple[TouchUpSettings, int]]:
    """Yield the settings with one stroke fewer, two fewer …, and how many they still have."""
    for count in range(len(s.strokes) - 1, max(len(s.strokes) - GROWN, 0), -1):
        yield s.model_copy(update={"strokes": s.strokes[:count]}), count


def _count(s: Any) -> float:
    return 0.2 + 0.02 * len(s.strokes)


TOUCH_UP = PictureKind(
    key="touch-up",
    label="Touch-up",
    family="mend",
    purpose="Mends by hand: strokes that clone, heal, fill in, colour or erase.",
    words=("clone", "heal", "patch", "stamp", "retouch", "repair", "brush", "inpaint", "remove"),
    settings=TouchUpSettings,
    handles=("strokes",),
    starts=(Start("By hand", {}, words=("spot removal", "remove object", "clone brush")),),
    neutral={"strokes": ()},
    by_hand=True,
    turns=_count,
    apply=touch_up,
    local=False,
    room=0.3,
    measure=measure_fills,
    measure_size=1024,
    decides=True,
    measures=has_holes,
    fewer=fewer_strokes,
)
