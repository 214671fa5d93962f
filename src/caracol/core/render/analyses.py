"""What a screen shows of a piece besides its picture: wheres, kept areas, bars, stretches, and every blend mode at once."""

from __future__ import annotations

from typing import Any

import numpy as np

from ..arrays import Array
from ..errors import PieceError
from ..geometry.frame import Frame
from ..geometry.rows import Rows
from ..piece.files import check_piece, dump_piece
from ..piece.model import Piece, Step
from ..pixels.blending import MODES
from ..pixels.masks import on_raster
from ..pixels.raster import Raster
from ..pixels.spaces import in_space
from ..steps.break_.slices import LOOK, Bar, SlicesSettings, draw_bars
from ..steps.mend.stroke_analyses import Repeat, find_heal_source, find_repeats
from ..steps.mend.touch_up import Stroke, StrokeSource, TouchUpSettings
from .composite import Composite
from .context import Context
from .execution import whole
from .scene import Scene
from .space import converted_to_srgb
from .text_boxes import TextBox, find_text_boxes
from .trail import Trail


def area_mask_of(piece: Piece, context: Context, sheet_id: str, step: str | None, longer: int) -> Array:
    """Return the where of a layer, group or step as 0…1, (rows, cols); ones where it has none.

    A step's is in its layer's frame, as the layer is just before the step; a layer's in the piece's frame.

    Parameters
    ----------
    piece : Piece
    context : Context
    sheet_id : str
        A layer or group, or the layer of the step.
    step : str, optional
    longer : int
        Pixels of the longer side.

    Returns
    -------
    float32 array (rows, cols)
        0…1.
    """
    scene = Scene(piece, context)
    seen: Trail | Composite
    if step is None:
        laid = next((found for found in scene.laid() if found.sheet.id == sheet_id), None)
        if laid is None:
            return np.ones(scene.frame.pixels(longer), np.float32)
        where, frame, picture = laid.sheet.where, scene.frame, laid.entry.picture(longer)
    else:
        found, seen = scene.step(sheet_id, step)
        where, frame, picture = found.where, seen.frame, seen.picture(longer)
    shape = frame.pixels(longer)
    if where is None:
        return np.ones(shape, np.float32)
    return where.mask(frame, *shape, picture=whole(picture, context) if where.looks_at_picture else None)


def keep_mask_of(piece: Piece, context: Context, layer_id: str, upto: int | None) -> tuple[Array | None, Frame]:
    """Return the keep mask of a layer as it lies after the first `upto` steps (all when None), and the frame there."""
    scene = Scene(piece, context)
    trail = scene.alone(scene.piece.find(layer_id), upto)
    node = trail.keep_after(len(trail.stages))
    return None if node is None else whole(node, context), trail.frame


def text_boxes_of(piece: Piece, context: Context) -> list[TextBox]:
    """Return where the words of a piece lie on it, the topmost first."""
    return find_text_boxes(piece, Scene(piece, context).frame)


def measured(piece: Piece, context: Context, layer_id: str, step_id: str, longer: int) -> tuple[dict[str, Any], Step]:
    """Return what a step finds out about its input, and the step."""
    step, before = Scene(piece, context).step(layer_id, step_id)
    node = before.measured(step, len(before.stages), longer)
    return {} if node is None else whole(node, context), step


SURVEYED = 512
"""Pixels on the longer side of the look that an artist is told of."""


def step_analysis_of(piece: Piece, context: Context, layer_id: str, step_id: str) -> dict[str, Any]:
    """Return what a step tells of what it found out about its input; nothing where it tells nothing.

    Raises
    ------
    PieceError
        The piece has no such step.
    """
    scene = Scene(piece, context)
    step, before = scene.step(layer_id, step_id)
    tell, survey = step.definition.tell, step.definition.survey
    told: dict[str, Any] = {}
    if survey is not None:
        told |= survey(whole(before.looked(SURVEYED, len(before.stages), SURVEYED), context), step.settings)
    if tell is not None:
        found, step = measured(piece, context, layer_id, step_id, step.definition.measure_size)
        told |= tell(found, step.settings)
    return converted_to_srgb(told, scene.space)


LOST = 0.5 / 255
"""A value so near to 0 or 1 is black or white in eight bits."""


def clipped_tones_of(piece: Piece, context: Context, layer_id: str, step_id: str, longer: int) -> tuple[Array, Array]:
    """Return where a step loses tones, (rows, cols) each: any channel that it makes black, any that it makes white.

    Raises
    ------
    PieceError
        The piece has no such step.
    """
    scene = Scene(piece, context)
    _, before = scene.step(layer_id, step_id)
    layer = scene.piece.find(layer_id)
    upto = next(index for index, one in enumerate(layer.steps, 1) if one.id == step_id)
    after: Array = whole(scene.alone(layer, upto).picture(longer), context)
    given: Array = whole(before.picture(longer), context)
    if given.shape != after.shape:
        raise PieceError([f"step: {step_id!r} changes the shape of the frame, so that its tones cannot be compared"])
    straight = [one[..., :3] / np.maximum(one[..., 3:], 1e-6) for one in (given, after)]
    seen = (after[..., 3] > LOST)[..., None]
    dark = seen & (straight[1] < LOST) & (straight[0] >= LOST)
    light = seen & (straight[1] > 1 - LOST) & (straight[0] <= 1 - LOST)
    return np.asarray(dark.any(axis=-1)), np.asarray(light.any(axis=-1))


REPEATS_SIZE = 1024


def repeats_of(piece: Piece, context: Context, layer_id: str, step_id: str) -> list[Repeat]:
    """Return where the strokes of a touch-up betray themselves.

    Raises
    ------
    PieceError
        The piece has no such step, or it has no strokes.
    """
    settings, picture = _touched_up(piece, context, layer_id, step_id)
    return find_repeats(picture, settings)


def heal_source_of(piece: Piece, context: Context, layer_id: str, step_id: str, stroke: Stroke) -> StrokeSource:
    """Return where a stroke that heals, made on a touch-up as it is, takes its texture from by itself.

    Raises
    ------
    PieceError
        The piece has no such step, it has no strokes, or no place near the stroke is fit.
    """
    _, picture = _touched_up(piece, context, layer_id, step_id)
    if (source := find_heal_source(picture, stroke)) is None:
        raise PieceError(
            ["stroke: nothing lies round it that texture could be taken from; make it smaller, or press where to take it from"]
        )
    return source


def _touched_up(piece: Piece, context: Context, layer_id: str, step_id: str) -> tuple[TouchUpSettings, Array]:
    scene = Scene(piece, context)
    step, _ = scene.step(layer_id, step_id)
    if not isinstance(step.settings, TouchUpSettings):
        raise PieceError([f"step: {step_id!r} is of kind {step.kind}, which has no strokes"])
    layer = scene.piece.find(layer_id)
    upto = next(index for index, one in enumerate(layer.steps, 1) if one.id == step_id)
    return step.settings, whole(scene.alone(layer, upto).picture(REPEATS_SIZE), context)


def bars_of(piece: Piece, context: Context, layer_id: str, step_id: str, again: int | None = None) -> list[Bar]:
    """Return the bars of a slices step; with a seed, drawn again from it with the locked ones kept.

    Raises
    ------
    PieceError
        The piece has no such step, or it is no slices step.
    """
    found, step = measured(piece, context, layer_id, step_id, LOOK)
    if not isinstance(step.settings, SlicesSettings):
        raise PieceError([f"step: {step_id!r} is of kind {step.kind}, which has no bars"])
    if again is None:
        return list(found["bars"])
    locked = [bar for bar in found["bars"] if bar.locked]
    return draw_bars(step.settings.model_copy(update={"seed": again, "bars": None}), found["profile"], locked)


def sorted_stretches_of(piece: Piece, context: Context, layer_id: str, step_id: str, longer: int) -> Array:
    """Return what a step acts on, 0…1, (rows, cols).

    Raises
    ------
    PieceError
        The piece has no such step, or its kind has nothing to show.
    """
    step, before = Scene(piece, context).step(layer_id, step_id)
    show = getattr(step.definition, "show", None)
    if show is None:
        raise PieceError([f"step: {step_id!r} is of kind {step.kind}, which has no stretches to show"])
    picture: Array = whole(before.picture(longer), context)
    rows, cols = picture.shape[:2]
    node = before.keep_after(len(before.stages))
    kept = None if node is None else on_raster(whole(node, context), rows, cols)
    shown: Array = show(picture, Raster(Rows(before.frame, rows, cols), kept), step.settings)
    return shown


def blended(piece: Piece, context: Context, layer_id: str, step_id: str | None, longer: int) -> list[Array]:
    """Return the piece with every blend mode of one layer, group or step, in the order of `MODES`.

    What is laid and what it is laid over is the same for all modes and comes from the cache; only the laying is done for each.

    Raises
    ------
    PieceError
        The piece has none of this id.
    """
    documents = [_with_blend(piece, layer_id, step_id, mode) for mode in MODES]
    scenes = [Scene(check_piece(document), context) for document in documents]
    return [in_space(whole(scene.whole.picture(longer), context), "srgb", scene.space) for scene in scenes]


def _with_blend(piece: Piece, layer_id: str, step_id: str | None, mode: str) -> dict[str, Any]:
    """Return a piece as data with the blend mode of a layer, group or step changed."""
    data = dump_piece(piece)
    waiting = list(data["layers"])
    while waiting:
        entry = waiting.pop()
        waiting += entry.get("layers", [])
        for sheet in ([entry] if step_id is None else entry.get("steps", [])) if entry["id"] == layer_id else []:
            if step_id in (None, sheet["id"]):
                sheet["blend"] = mode
                return data
    raise PieceError([f"layer: the piece has no layer {layer_id!r}" + (f" with a step {step_id!r}" if step_id else "")])
