"""A cut-out's memory: which photo it was cut from, along which outline, how soft; so that it can be corrected later."""

from __future__ import annotations

from math import ceil
from typing import Annotated, Self

import cv2
import numpy as np
from pydantic import BaseModel, ConfigDict, Field, model_validator

from ..arrays import Array
from ..errors import PictureError
from ..geometry.frame import Frame
from ..pixels.figures import cut_figure
from ..pixels.finding import propose_outline
from ..pixels.light import from_texels
from ..pixels.pyramid import Pyramid
from .where import Polygon, Where

ROOM = 0.4
"""So much room is left round a figure, of its longer side: for its shadow."""
LONGEST = 3200
"""Pixels on the longer side of a cut-out, at most."""
LOOK = 1400
"""Pixels of the photo's longer side in which an outline is looked for."""
FOUND = 512
Unit = Annotated[float, Field(ge=-20, le=20)]


class Strict(BaseModel):
    """Frozen, finite, no unknown fields."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


class Hint(Strict):
    """A stroke over what is figure, or what is not."""

    points: tuple[tuple[Unit, Unit], ...] = Field(min_length=1, max_length=2000)
    radius: Annotated[float, Field(gt=0, le=2)]
    add: bool = True


class Search(Strict):
    """Where a figure is looked for: a rough box in units (left, top, right, bottom), and strokes."""

    box: tuple[Unit, Unit, Unit, Unit]
    hints: tuple[Hint, ...] = Field((), max_length=200)


class Cut(Strict):
    """How a figure is cut out of a photo.

    Parameters
    ----------
    photo : str
        The photo's name on the Shelf.
    outline : Where
        In the photo's units, with its feather.
    hair : float
        How far from the edge it follows hair, in units.
    fringe : float
        0…1: how much of what shines in from behind is taken away.
    search : Search, optional
        What the outline was proposed from.
    """

    photo: str = Field(max_length=255)
    outline: Where
    hair: Annotated[float, Field(ge=0, le=0.2)] = 0.0
    fringe: Annotated[float, Field(ge=0, le=1)] = 0.8
    search: Search | None = None

    @model_validator(mode="after")
    def _is_drawn(self) -> Self:
        if self.outline.looks_at_picture:
            raise ValueError("an outline is made of shapes; a range of light or colour has none")
        return self


def look_for(pyramid: Pyramid, search: Search, feather: float = 0.004) -> Where:
    """Return the outline of the figure in a rough box, as shapes that are joined.

    Raises
    ------
    PictureError
        Nothing there is told from what lies round it.
    """
    left, top, right, bottom = search.box
    box = min(left, right), min(top, bottom), max(left, right), max(top, bottom)
    picture = pyramid.look(min(LOOK, max(pyramid.rows, pyramid.cols)))
    hints = [(hint.points, hint.radius, hint.add) for hint in search.hints]
    outlines, holes = propose_outline(picture, pyramid.frame, box, hints)
    if not outlines:
        raise PictureError("Nothing in this box differs enough from what is round it. Draw the box a little larger, or outline it by hand.")
    shapes = [{"kind": "polygon", "points": points} for points in outlines]
    shapes += [{"kind": "polygon", "points": points, "join": "subtract"} for points in holes]
    return Where.model_validate({"shapes": shapes, "feather": feather})


SHORT = 0.12
"""A figure that stays so far from a side of its box, as a share of the box, may be missing something there."""


def doubtful_of(outline: Where, search: Search, frame: Frame) -> list[tuple[float, float, float, float]]:
    """Return the parts of a search's box, (left, top, right, bottom) in units, that a figure found in it does not reach.

    Who draws a box draws it so that the figure reaches its sides: legs that are missing lie there.
    """
    box = search.box
    left, right = max(min(box[0], box[2]), -frame.half_w), min(max(box[0], box[2]), frame.half_w)
    top, bottom = max(min(box[1], box[3]), -frame.half_h), min(max(box[1], box[3]), frame.half_h)
    points = [point for shape in outline.shapes if isinstance(shape, Polygon) and shape.join != "subtract" for point in shape.points]
    if not points:
        return []
    across, down = [x for x, _ in points], [y for _, y in points]
    a, b, c, d = min(across), min(down), max(across), max(down)
    wide, high = SHORT * (right - left), SHORT * (bottom - top)
    # Corners belong to the upright strips.
    inner_left, inner_right = (a if a - left > wide else left), (c if right - c > wide else right)
    strips = (
        (a - left > wide, (left, top, a, bottom)), (b - top > high, (inner_left, top, inner_right, b)),
        (right - c > wide, (c, top, right, bottom)), (bottom - d > high, (inner_left, d, inner_right, bottom)),
    )  # fmt: skip
    return [strip for short, strip in strips if short]


def bounds_of(cut: Cut, frame: Frame) -> tuple[float, float, float, float]:
    """Return the box round a figure with room for its shadow, in units; it may lie partly outside the photo.

    Raises
    ------
    PictureError
        The outline holds nothing.
    """
    rows, cols = frame.pixels(FOUND)
    mask = cut.outline.mask(frame, rows, cols) > 0.02
    if not mask.any():
        raise PictureError("The outline holds nothing. Draw a box round the figure, or paint over it.")
    down, across = np.flatnonzero(mask.any(axis=1)), np.flatnonzero(mask.any(axis=0))
    step = 2 * frame.half_w / cols
    left, right = across[0] * step - frame.half_w, (across[-1] + 1) * step - frame.half_w
    top, bottom = down[0] * step - frame.half_h, (down[-1] + 1) * step - frame.half_h
    room = ROOM * max(right - left, bottom - top)
    return left - room, top - room, right + room, bottom + room


def cut_out(pyramid: Pyramid, cut: Cut, longest: int = LONGEST) -> Array:
    """Return a figure with room round it, premultiplied, `longest` pixels at most on the longer side.

    Raises
    ------
    PictureError
        The outline holds nothing.
    """
    frame = pyramid.frame
    left, top, right, bottom = bounds_of(cut, frame)
    share = max(right - left, bottom - top) / (2 * max(frame.half_w, frame.half_h))
    # The photo as large as the cut-out shall be, and no larger than it is.
    longer = min(max(pyramid.rows, pyramid.cols), max(16, round(longest / share)))
    level = pyramid.level(pyramid.level_for(longer))
    rows, cols = level.shape[:2]
    per = cols / 2 / frame.half_w
    x0, y0 = int((left + frame.half_w) * per), int((top + frame.half_h) * per)
    x1, y1 = max(x0 + 2, ceil((right + frame.half_w) * per)), max(y0 + 2, ceil((bottom + frame.half_h) * per))
    inside = slice(max(y0, 0), min(y1, rows)), slice(max(x0, 0), min(x1, cols))
    part = from_texels(np.ascontiguousarray(level[inside]))
    mask = cut.outline.mask(frame, rows, cols, inside[0].start, part.shape[0])[:, inside[1]]
    figure = cut_figure(part, np.ascontiguousarray(mask), cut.hair * per, cut.fringe, max(1.5, cut.outline.feather * per))
    out = np.zeros((y1 - y0, x1 - x0, 4), np.float32)
    out[inside[0].start - y0 : inside[0].stop - y0, inside[1].start - x0 : inside[1].stop - x0] = figure
    by = longest / max(out.shape[:2])
    if by >= 1:
        return out
    return np.asarray(cv2.resize(out, (max(1, round(out.shape[1] * by)), max(1, round(out.shape[0] * by))), interpolation=cv2.INTER_AREA))
