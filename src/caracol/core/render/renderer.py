"""Render: from a piece to pixels."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass
from typing import Any, cast

import numpy as np

from ..arrays import Array
from ..errors import MissingPhoto
from ..geometry.frame import Frame
from ..piece.model import Piece, Step
from ..pixels.blending import Blend
from ..pixels.spaces import Space, in_space
from .composite import Composite, PlacedEntry
from .context import Context, Photos
from .execution import streamed, whole
from .plan import Plan, plan_streamed
from .scene import Scene
from .trail import Trail


@dataclass(frozen=True)
class LayerResult:
    """One layer of a piece by itself, or a group with its layers.

    Parameters
    ----------
    name : str
    opacity : float
        0…1, of how it is laid over what is below; its picture is without.
    blend : str
    members : tuple of LayerResult
        What a group holds, the lowest first; nothing in a layer.
    shown : bool
        Whether it is seen in the piece; one that is switched off is as it would be seen.
    """

    name: str
    opacity: float
    blend: Blend
    members: tuple[LayerResult, ...]
    shown: bool
    result: Trail | Composite
    context: Context
    space: Space

    def rows(self, longer: int, space: Space = "srgb") -> tuple[tuple[int, int], Iterator[tuple[int, Array]]]:
        """Return (rows, cols) and an iterator of (top, strip), as `Renderer.rows`."""
        picture = self.result.picture(longer)
        return picture.shape, _strips_in(streamed(picture, self.context), space, self.space)


class Renderer:
    """A piece, or one layer of it up to one of its steps, ready to be computed at any size.

    Parameters
    ----------
    upto : int, optional
        Take only this many steps of the layer, and show it alone, as its trail does: not placed, not laid over anything.
    layer : str, optional
        Which layer's steps `upto` counts; the lowest when left out. Given without `upto`, the layer after all its steps.
    finish : sequence of Step
        Steps after everything, such as an export's shape.
    """

    def __init__(
        self, piece: Piece, context: Context, upto: int | None = None, layer: str | None = None, finish: tuple[Step, ...] = ()
    ) -> None:
        self.context = context
        self.scene = Scene(piece, context)
        self.finish = finish
        self.missing = self.scene.missing
        self.longest = self.scene.longest
        self.result: Trail | Composite
        if layer is not None or upto is not None:
            self.result = self.scene.alone(self.scene.piece.find(layer) if layer else self.scene.piece.layer, upto)
        else:
            self.result = self.scene.finished(finish) if finish or piece.frame.box else self.scene.whole

    @property
    def frame(self) -> Frame:
        """The frame of the result."""
        return self.result.frame

    @property
    def digest(self) -> str:
        """What identifies the result, at any size."""
        return self.result.digest

    def picture(self, longer: int) -> Array:
        """Return the result, (rows, cols, 4), in sRGB, with `longer` pixels on its longer side."""
        return in_space(cast(Array, whole(self.result.picture(longer), self.context)), "srgb", self.scene.space)

    def part(self, longer: int, first: int, end: int) -> Array:
        """Return the rows from `first` up to `end` of what `picture` returns; rows beside them are computed only where something needs all."""
        parts = streamed(self.result.picture(longer), self.context, first, end)
        return in_space(np.concatenate([strip for _, strip in parts]), "srgb", self.scene.space)

    def layers(self) -> list[LayerResult]:
        """Return the layers of the piece, the lowest first, each as it is delivered by itself; those switched off, too.

        One that is switched off and whose photo is gone is left out.
        """
        return self._aparts(self.scene.whole)

    def _aparts(self, composite: Composite) -> list[LayerResult]:
        found = []
        for index in range(len(composite.laid) + 1):
            for make in (make for at, make in composite.unseen if at == index):
                with suppress(MissingPhoto):
                    found.append(self._apart(make()))
            found += [self._apart(one) for one in composite.laid[index : index + 1]]
        return found

    def _apart(self, one: PlacedEntry) -> LayerResult:
        # What a group does to its layers together cannot be told by them: then it is one picture.
        opened = one.inner is not None and one.inner is one.entry and one.sheet.where is None
        members = self._aparts(one.inner) if opened and one.inner else []
        alone = self.scene.apart(one)
        picture: Trail | Composite = self.scene.finished(self.finish, alone) if self.finish or self.scene.piece.frame.box else alone
        return LayerResult(
            one.sheet.name or one.sheet.id,
            one.sheet.opacity,
            one.sheet.blend,
            tuple(members),
            one.sheet.visible,
            picture,
            self.context,
            self.scene.space,
        )

    def plan(self, longer: int) -> Plan:
        """Return what `rows` will do for a size, and what that costs."""
        return plan_streamed(self.result.picture(longer), self.context.cache)

    def rows(self, longer: int, space: Space = "srgb") -> tuple[tuple[int, int], Iterator[tuple[int, Array]]]:
        """Return (rows, cols) and an iterator of (top, strip) in a colour space, that holds whole only what must be."""
        picture = self.result.picture(longer)
        return picture.shape, _strips_in(streamed(picture, self.context), space, self.scene.space)


def _strips_in(strips: Iterator[tuple[int, Array]], space: Space, given: Space) -> Iterator[tuple[int, Array]]:
    return strips if space == given else ((top, in_space(strip, space, given)) for top, strip in strips)


def render(piece: Piece, size: int, photos: Photos, upto: int | None = None, layer: str | None = None, **context: Any) -> Array:
    """Render a piece.

    Parameters
    ----------
    size : int
        Pixels on the longer side, from 1.
    upto, layer
        As for `Renderer`.
    **context
        Further fields of `Context`.

    Returns
    -------
    float32 array of shape (rows, cols, 4)
        sRGB-coded, premultiplied, 0…1.
    """
    return Renderer(piece, Context(photos, **context), upto, layer).picture(size)
