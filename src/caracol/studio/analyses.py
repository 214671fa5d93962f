"""Analyses: what a screen asks about a piece besides its picture, as numbers and words."""

from __future__ import annotations

from typing import Any

from ..core.piece.model import Piece
from ..core.pixels.masks import outline_of
from ..core.reading.palette import palette_of
from ..core.reading.reading import LOOK as READ_SIZE
from ..core.reading.reading import Reading, read_look
from ..core.render import Context, Renderer
from ..core.render.analyses import bars_of, heal_source_of, keep_mask_of, repeats_of, step_analysis_of, text_boxes_of
from ..core.render.identities import Identities, identities_of
from ..core.render.text_boxes import TextBox
from ..core.steps.break_.slices import Bar
from ..core.steps.mend.stroke_analyses import Repeat
from ..core.steps.mend.touch_up import Stroke, StrokeSource
from .photos import SHELF
from .rendering import Stop, never, screen_context

PALETTE = 256
"""Pixels of the longer side of the preview that a palette is found in."""


def stage_identities(piece: Piece) -> Identities:
    """Return what identifies every stage of a piece: what screens keep pictures and answers by."""
    return identities_of(piece, Context(SHELF.once(), lenient=True))


def step_analysis(piece: Piece, layer: str, step: str, stop: Stop = never) -> dict[str, Any]:
    """Return what a step tells of what it found out about its input."""
    return step_analysis_of(piece, screen_context(stop), layer, step)


def repeats(piece: Piece, layer: str, step: str, stop: Stop = never) -> list[Repeat]:
    """Return where the strokes of a touch-up betray themselves."""
    return repeats_of(piece, screen_context(stop), layer, step)


def heal_source(piece: Piece, layer: str, step: str, stroke: Stroke, stop: Stop = never) -> StrokeSource:
    """Return where a stroke that heals takes its texture from by itself."""
    return heal_source_of(piece, screen_context(stop), layer, step, stroke)


def bars(piece: Piece, layer: str, step: str, again: int | None, stop: Stop = never) -> list[Bar]:
    """Return the bars of a slices step, as they lie, or with a seed drawn again around the locked ones."""
    return bars_of(piece, screen_context(stop), layer, step, again)


def palette(piece: Piece, stop: Stop = never) -> list[str]:
    """Return the colours that the finished piece consists of."""
    return palette_of(Renderer(piece, screen_context(stop)).picture(PALETTE))


def keep_area_outlines(piece: Piece, layer: str, upto: int | None, stop: Stop = never) -> list[list[tuple[float, float]]]:
    """Return the outlines of a layer's keep areas as they lie at a stage."""
    mask, frame = keep_mask_of(piece, screen_context(stop), layer, upto)
    return [] if mask is None else outline_of(mask, frame)


def text_boxes(piece: Piece, stop: Stop = never) -> list[TextBox]:
    """Return where the words of a piece lie on it."""
    return text_boxes_of(piece, screen_context(stop))


def stage_reading(piece: Piece, upto: int | None, layer: str | None = None, stop: Stop = never) -> Reading:
    """Read a stage of a piece, as a photo is read; its width and height are those of the look."""
    picture = Renderer(piece, screen_context(stop), upto, layer).picture(READ_SIZE)
    return read_look(picture, picture.shape[1], picture.shape[0])
