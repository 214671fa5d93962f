"""Steps that follow single pixels, on a raster of their own."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property
from typing import cast

import numpy as np

from ..arrays import Array
from ..errors import MissingPhoto
from ..geometry.rows import Rows
from ..kinds.kind import RasterKind
from ..pixels.masks import on_raster
from ..pixels.pyramid import Pyramid
from ..pixels.raster import Kept, Raster, find_changed, lay_by, scaled
from . import keys
from .context import LARGEST
from .grounds import Photo
from .nodes import Node, Results, Strips, pixels_of
from .stage_node import StageNode, StageTrail


class OnRaster(Strips):
    """What such a step makes of its raster, which may have another size than the picture."""

    flows = False

    def __init__(self, trail: StageTrail, kind: RasterKind, count: int, size: int, finer: float = 1.0) -> None:
        stage = trail.stages[count - 1]
        self._trail = trail
        self._kind = kind
        self._count = count
        self._step = stage.steps[0]
        self._frame = stage.after
        self._longer = size
        self._finer = finer
        self.shape = self._frame.pixels(size)
        named = keys.photos_in(stage.settings, trail.photos)
        self._photos = {name: Photo(trail.photos, name, keys.source("photo", digest)) for name, digest in named if digest is not None}
        self._all_input = keys.raster(trail.key(count - 1, size), kind, trail.respected(stage), named)

    @property
    def name(self) -> str:
        return self._kind.label.lower()

    @cached_property
    def key(self) -> str:
        return keys.remembered(self._all_input, ("whole", self._step.settings))

    @cached_property
    def input(self) -> Strips:
        """The raster before the step."""
        return self._trail.after(self._count - 1, self._longer)

    @cached_property
    def _keep(self) -> Node | None:
        return self._trail.keep_after(self._count - 1) if self._kind.respects_keep else None

    @property
    def needs(self) -> tuple[Node, ...]:
        return (self.input, *self._photos.values(), *([] if self._keep is None else [self._keep]))

    @property
    def cost(self) -> float:
        return 100.0 * self._kind.burden(self._step.settings) * pixels_of(self.shape)

    @property
    def room(self) -> int:
        return 5 * self.size

    def make(self, making: Results) -> Array:
        context = making.context

        def remember(key: object, make: Callable[[], Kept]) -> Kept:
            context.check()
            return context.cache.get(keys.remembered(self._all_input, key), make)

        def come(share: float) -> None:
            context.check()
            making.tell(self.cost, share)

        def photo(name: str) -> Pyramid:
            if name not in self._photos:
                raise MissingPhoto(f"The photo “{name}” is gone. Put it on the Shelf again, or choose another.")
            return cast(Pyramid, making[self._photos[name]])

        raster = Raster(
            rows=Rows(self._frame, *self.shape),
            keep=None if self._keep is None else on_raster(making[self._keep], *self.shape),
            remember=remember,
            recall=lambda key: context.cache.peek(keys.remembered(self._all_input, key)),
            in_parts=context.in_parts,
            finer=self._finer,
            photo=photo,
            come=come,
        )
        return self._kind.work(making[self.input], raster, self._step.settings)


class Rastered(StageNode):
    """What such a step makes of its input: where it changed nothing, the input keeps its full detail."""

    flows = False

    @property
    def room(self) -> int:
        return 2 * self.size if self.kept else 0

    def __init__(self, trail: StageTrail, count: int, longer: int) -> None:
        super().__init__(trail, count, longer)
        kind = cast(RasterKind, self._stage.kind)
        lines = kind.lines(self._step.settings)
        frame = self._stage.after
        own = size = min(LARGEST, round(lines * max(frame.ratio, 1 / frame.ratio))) if lines else longer
        if kind.draft is not None and not trail.quality.apart:
            size = min(size, max(16, round((kind.draft * max(frame.ratio, 1 / frame.ratio)) ** 0.5)))
        self._made = OnRaster(trail, kind, count, size, own / size)
        # Of the same size it is what was made on the raster, which is kept already.
        self.kept = size != longer

    @property
    def needs(self) -> tuple[Node, ...]:
        return (self._made, self._made.input, self.input) if self.kept else (self._made,)

    @property
    def cost(self) -> float:
        return 60.0 * pixels_of(self.shape) if self.kept else 0.0

    def make(self, making: Results) -> Array:
        made: Array = making[self._made]
        if not self.kept:
            return made
        before: Array = making[self._made.input]
        changed = np.empty(made.shape[:2], np.float32)
        making.context.in_parts(len(made), lambda first, last: find_changed(before, made, first, last, changed))
        over = scaled(made, *self.shape, cast(RasterKind, self._stage.kind).crisp)
        if changed.all():
            return over
        under: Array = making[self.input]
        share, out = scaled(changed, *self.shape), np.empty_like(over)
        making.context.in_parts(len(out), lambda first, last: lay_by(under, over, share, first, last, out))
        return out
