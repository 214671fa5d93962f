"""Where the words of a piece lie on it, and whether all of them are seen."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, sin, tau
from typing import Literal

import numpy as np

from ..arrays import AnyArray
from ..geometry.frame import Frame
from ..kinds.kind import BendKind
from ..piece.model import Layer, Piece, Place
from ..sources.lettering import Ink, LetteringSource, find_ink, outline
from .placing import fit_scale

Side = Literal["left", "top", "right", "bottom", "circle"]
SMALLEST = 0.02
HALVINGS = 12
ROOM = 0.97
"""Words that are made to fit keep this much of the way to the frame."""


@dataclass(frozen=True)
class TextBox:
    """The words of one layer.

    Parameters
    ----------
    layer : str
    box : (left, top, right, bottom)
        Upright around them, in units of the piece.
    past : tuple of Side
        Where they run past the frame they are drawn in, or past the piece; "circle" where they are longer than theirs.
    fitting : float, optional
        The largest size at which they would not, in units; None where they do not, or where none would help.
    """

    layer: str
    box: tuple[float, float, float, float]
    past: tuple[Side, ...]
    fitting: float | None


def find_text_boxes(piece: Piece, frame: Frame) -> list[TextBox]:
    """Return where the words of every layer lie, the topmost first. Blank ones, and those that are not shown, are left out.

    Steps that bend are not followed: behind one, only the frame the words are drawn in is measured against.

    Parameters
    ----------
    piece : Piece
    frame : Frame
        Of the piece.

    Returns
    -------
    list of TextBox
    """
    layers = [layer for layer in piece.walk() if isinstance(layer.source, LetteringSource) and not layer.is_idle]
    return [found for layer in reversed(layers) if (found := _wording(layer, frame))]


def _wording(layer: Layer, frame: Frame) -> TextBox | None:
    source = layer.source
    assert isinstance(source, LetteringSource)
    ink = find_ink(source)
    if ink is None:
        return None
    points = outline(source, ink)
    past = _past(layer, source, ink, frame)
    seen = _on_piece(layer, source.frame, points, frame)
    (left, top), (right, bottom) = seen.min(axis=0).tolist(), seen.max(axis=0).tolist()
    return TextBox(layer.id, (left, top, right, bottom), past, _fitting(layer, source, ink, frame) if past else None)


def _past(layer: Layer, source: LetteringSource, ink: Ink, frame: Frame, room: float = 1.0) -> tuple[Side, ...]:
    points = outline(source, ink)
    gone = _beyond(points, source.frame, room)
    if source.round != 0 and source.size * np.ptp(ink.points[:, 0]) > room * tau * abs(source.round):
        gone.add("circle")
    if not any(isinstance(step.definition, BendKind) and not step.is_idle for step in layer.steps):
        gone |= _beyond(_on_piece(layer, source.frame, points, frame), frame, room)
    sides: tuple[Side, ...] = ("left", "top", "right", "bottom", "circle")
    return tuple(side for side in sides if side in gone)


def _beyond(points: AnyArray, frame: Frame, room: float) -> set[Side]:
    (left, top), (right, bottom) = points.min(axis=0), points.max(axis=0)
    half_w, half_h = room * frame.half_w, room * frame.half_h
    told: dict[Side, bool] = {"left": left < -half_w, "top": top < -half_h, "right": right > half_w, "bottom": bottom > half_h}
    return {side for side, is_past in told.items() if is_past}


def _on_piece(layer: Layer, own: Frame, points: AnyArray, frame: Frame) -> AnyArray:
    """Return where points of the layer lie on the piece: the inverse of `placing_pull`."""
    place = layer.place or Place()
    scale = fit_scale(own, frame, contain=False) * place.scale
    across, down = scale * points[:, 0] * (-1 if place.flip else 1), scale * points[:, 1]
    c, s = cos(tau * place.turn), sin(tau * place.turn)
    return np.stack([place.x + across * c - down * s, place.y + down * c + across * s], axis=-1)


def _fitting(layer: Layer, source: LetteringSource, ink: Ink, frame: Frame) -> float | None:
    def fits(size: float) -> bool:
        smaller = source.model_copy(update={"size": size})
        return not _past(layer, smaller, ink, frame, ROOM)

    low, high = SMALLEST, source.size
    if not fits(low):
        return None
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if fits(middle) else (low, middle)
    return float(np.floor(low * 1000) / 1000)
