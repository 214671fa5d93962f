"""Render: from a piece to pixels."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, cast

import numpy as np

from ..errors import MissingPhoto, PieceError
from ..geometry.frame import Frame
from ..piece.keep import KeepArea
from ..piece.model import BelowSource, Group, Layer, PhotoSource, Piece, Step
from ..pixels.arrays import Array
from ..sources.drawn import DrawnSource
from .composite import BelowGround, Composite, Laid
from .context import Context, Photos
from .grounds import DrawnGround, Ground, MissingGround, PhotoGround
from .nodes import Strips
from .placing import placing_link, tiling_link
from .plan import Plan, plan_streamed
from .run import streamed, whole
from .stages import placed, stages_of
from .trail import Trail

__all__ = ["Context", "Photos", "Renderer", "render"]


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
        self.piece = piece
        self.context = context
        self.missing: list[str] = []
        lowest = piece.layer
        self._lenient = context.lenient and len(list(piece.walk())) > 1
        self._lowest = self._ground(lowest, None)
        self.longest = self._lowest.longest
        own = lowest.frames(self._lowest.frame)[-1]
        self._frame = Frame(piece.frame.ratio) if piece.frame.ratio else own
        self._others = _Others(piece, context)
        if layer is not None or upto is not None:
            self._result: Trail | Composite = self._trail_alone(piece.find(layer) if layer else lowest, upto)
            return
        self._result = self._composite(piece.layers, [])
        if finish:
            ending = Layer(id="finish", steps=finish)
            self._result = Trail(BelowGround(self._result), stages_of(ending, self._frame), context)

    @property
    def frame(self) -> Frame:
        """The frame of the result."""
        return self._result.frame

    @property
    def digest(self) -> str:
        """What identifies the result, at any size."""
        return self._result.digest

    def picture(self, longer: int) -> Array:
        """Return the result, (rows, cols, 4), with `longer` pixels on its longer side."""
        return self._whole(self._result.picture(longer))

    def plan(self, longer: int) -> Plan:
        """Return what `rows` will do for a size, and what that costs."""
        return plan_streamed(self._result.picture(longer), self.context.cache)

    def _whole(self, node: Strips) -> Array:
        return cast(Array, whole(node, self.context))

    def rows(self, longer: int) -> tuple[tuple[int, int], Iterator[tuple[int, Array]]]:
        """Return (rows, cols) and an iterator of (top, strip) that holds whole only what must be."""
        picture = self._result.picture(longer)
        return picture.shape, streamed(picture, self.context)

    def frames(self) -> dict[str, list[float]]:
        """Return for each layer the ratios of its frame before its steps and after each of them."""
        found = {}
        for layer in self.piece.walk():
            below = Composite(self._frame, [], self.context.quality)
            ground = BelowGround(below) if isinstance(layer.source, BelowSource) else self._start(layer, [])[0]
            tiled = isinstance(layer.source, PhotoSource) and layer.source.fit == "tile"
            found[layer.id] = [frame.ratio for frame in layer.frames(self._frame if tiled else ground.frame)]
        return found

    def mask(self, sheet_id: str, step: str | None, longer: int) -> Array:
        """Return the where of a layer, group or step as 0…1, (rows, cols); ones where it has none.

        A step's is in its layer's frame, as the layer is just before the step; a layer's in the piece's frame.
        """
        if step is None:
            laid = next((one for one in self._all_laid(self._result) if one.sheet.id == sheet_id), None)
            if laid is None:
                return np.ones(self._frame.pixels(longer), np.float32)
            where, frame, picture = laid.sheet.where, self._frame, self._whole(laid.entry.picture(longer))
        else:
            layer = self.piece.find(sheet_id)
            index = next((n for n, one in enumerate(layer.steps) if one.id == step), None)
            if index is None:
                raise PieceError([f"step: the layer {sheet_id!r} has no step {step!r}"])
            before = self._trail_alone(layer, index)
            where, frame, picture = layer.steps[index].where, before.frame, self._whole(before.picture(longer))
        rows, cols = frame.pixels(longer)
        return np.ones((rows, cols), np.float32) if where is None else where.mask(frame, rows, cols, picture=picture)

    def kept(self, layer_id: str, upto: int | None) -> tuple[Array | None, Frame]:
        """Return the keep mask of a layer as it lies after the first `upto` steps (all when None), and the frame there."""
        trail = self._trail_alone(self.piece.find(layer_id), upto)
        node = trail.keep_after(len(trail.stages))
        return None if node is None else whole(node, self.context), trail.frame

    def measured(self, layer_id: str, step_id: str, longer: int) -> tuple[dict[str, Any], Step, Array, Frame]:
        """Return what a step finds out about its input, the step, and its input at a size with its frame.

        Raises
        ------
        PieceError
            The layer has no such step.
        """
        layer = self.piece.find(layer_id)
        index = next((n for n, one in enumerate(layer.steps) if one.id == step_id), None)
        if index is None:
            raise PieceError([f"step: the layer {layer_id!r} has no step {step_id!r}"])
        before = self._trail_alone(layer, index)
        node = before.measured(layer.steps[index], len(before.stages), longer)
        found = {} if node is None else whole(node, self.context)
        return found, layer.steps[index], self._whole(before.picture(longer)), before.frame

    def _all_laid(self, result: object) -> Iterator[Laid]:
        for one in result.laid if isinstance(result, Composite) else []:
            yield one
            yield from self._all_laid(one.entry)

    def _ground(self, layer: Layer, beneath: list[Laid] | None) -> Ground:
        source = layer.source
        if isinstance(source, DrawnSource):
            return DrawnGround(source)
        if isinstance(source, BelowSource):
            if beneath is None:
                raise PieceError([f"layers: nothing lies beneath the lowest layer {layer.id!r}"])
            return BelowGround(Composite(self._frame, list(beneath), self.context.quality))
        if source.photo is None:
            raise PieceError([f"{self._path(layer)}.source.photo: this is a recipe; name a photo to render it"])
        try:
            return PhotoGround(self.context.photos, source.photo)
        except MissingPhoto as error:
            if not self._lenient:
                raise
            if str(error) not in self.missing:
                self.missing.append(str(error))
            return MissingGround(source.photo)

    def _path(self, layer: Layer) -> str:
        for index, entry in enumerate(self.piece.layers):
            if entry is layer:
                return f"layers[{index}]"
        return f"layer {layer.id!r}"

    def _start(self, layer: Layer, beneath: list[Laid]) -> tuple[Ground, Any]:
        """Return the ground of a layer, and the link that tiles it where it does."""
        ground = self._lowest if layer is self.piece.layer else self._ground(layer, beneath)
        source = layer.source
        tiled = isinstance(source, PhotoSource) and source.fit == "tile"
        return ground, tiling_link(source, ground.frame, self._frame) if tiled else None  # type: ignore[arg-type]

    def _trail(self, layer: Layer, beneath: list[Laid]) -> Trail:
        ground, first = self._start(layer, beneath)
        stages = stages_of(layer, ground.frame, None, first)
        frame = stages[-1].after if stages else ground.frame
        contain = isinstance(layer.source, PhotoSource) and layer.source.fit == "contain"
        keep = _kept(layer)
        return Trail(
            ground,
            placed(stages, placing_link(layer.place, contain, frame, self._frame)),
            self.context,
            keep,
            self._others,
        )

    def _trail_alone(self, layer: Layer, upto: int | None) -> Trail:
        beneath: list[Laid] = []
        if isinstance(layer.source, BelowSource):
            self._composite(self.piece.layers, beneath, until=layer)
        ground, first = self._start(layer, beneath)
        return Trail(ground, stages_of(layer, ground.frame, upto, first), self.context, _kept(layer), self._others)

    def _composite(self, entries: tuple[Layer | Group, ...], beneath: list[Laid], until: Layer | None = None) -> Composite:
        """Put entries together; `beneath` grows by what is laid, and nothing from `until` on is."""
        laid: list[Laid] = []
        for entry in entries:
            if until is not None and (entry is until or (isinstance(entry, Group) and until in entry.walk())):
                if isinstance(entry, Group):
                    self._composite(entry.layers, beneath, until)
                break
            if entry.is_idle:
                continue
            inner = self._composite(entry.layers, list(beneath)) if isinstance(entry, Group) else self._trail(entry, beneath)
            one = Laid(inner, entry)
            laid.append(one)
            beneath.append(one)
        return Composite(self._frame, laid, self.context.quality)


class _Others:
    """Finds the trail of another layer, as it stands alone, once."""

    def __init__(self, piece: Piece, context: Context) -> None:
        self._piece = piece
        self._context = context
        self._found: dict[str, Trail] = {}

    def __call__(self, layer_id: str) -> Trail:
        if layer_id not in self._found:
            renderer = Renderer(self._piece, self._context, layer=layer_id)
            renderer._others._found = self._found
            self._found[layer_id] = cast(Trail, renderer._result)
        return self._found[layer_id]


def _kept(layer: Layer) -> tuple[KeepArea, ...]:
    return layer.source.keep if isinstance(layer.source, PhotoSource) else ()


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
