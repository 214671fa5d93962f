"""Painting steps: many samplings of the whole input, laid on top of each other."""

from __future__ import annotations

from functools import cached_property
from math import ceil
from typing import TYPE_CHECKING, cast

from ..arrays import Array
from ..geometry.rows import Rows
from ..kinds.kind import PaintKind
from ..pixels.painting import Brush
from .context import CORES, STRIP
from .nodes import Node, Strips, Work, pixels_of
from .run import Run

if TYPE_CHECKING:
    from .trail import Trail


class Painted(Strips):
    """What a painting step makes of its input."""

    def __init__(self, trail: Trail, count: int, longer: int) -> None:
        self._trail = trail
        self._count = count
        self._longer = longer
        self._stage = trail.stages[count - 1]
        self._kind = cast(PaintKind, self._stage.kind)
        self._step = self._stage.steps[0]
        self.shape = self._stage.after.pixels(longer)
        # Each strip costs something for every part painted: as few as keep all cores busy and memory bounded.
        self.height = min(8 * STRIP, max(STRIP, ceil(self.shape[0] / (2 * CORES))))

    @cached_property
    def key(self) -> str:
        return (self._trail.key if self._stage.is_plain else self._trail.unlaid_key)(self._count, self._longer)

    @cached_property
    def _measured(self) -> Node | None:
        return self._trail.measured(self._step, self._count - 1, self._longer)

    @cached_property
    def _keep(self) -> Node | None:
        return self._trail.keep_after(self._count - 1) if self._kind.keeps else None

    @cached_property
    def _source(self) -> Node:
        size = self._trail.size_painted(self._kind.magnifies(self._step.settings) * self._longer, self._count - 1, self._longer)
        return self._trail.pyramid(self._count - 1, size)

    @cached_property
    def _under(self) -> Strips:
        return self._trail.after(self._count - 1, self._longer)

    @property
    def needs(self) -> tuple[Node, ...]:
        return tuple(node for node in (self._measured, self._keep, self._source, self._under) if node is not None)

    @property
    def cost(self) -> float:
        return 260.0 * self._kind.effort * pixels_of(self.shape)

    def worker(self, run: Run) -> Work:
        settings = self._step.settings
        source, under, quality = run[self._source], run[self._under], self._trail.quality
        measured = {} if self._measured is None else run[self._measured]
        kept = None if self._keep is None else run[self._keep]

        def work(top: int, height: int, out: Array | None = None, /) -> Array:
            brush = Brush(source, Rows(self._stage.after, *self.shape, top, height), quality, measured, kept)
            return self._kind.paint(brush, under[top : top + height], settings)

        return work
