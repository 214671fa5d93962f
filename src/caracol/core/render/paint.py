"""Painting steps: many samplings of the whole input, laid on top of each other."""

from __future__ import annotations

from functools import cached_property
from math import ceil
from typing import cast

from ..arrays import Array
from ..geometry.rows import Rows
from ..kinds.kind import PaintKind
from ..pixels.painting import Brush
from .context import CORES, STRIP
from .nodes import Node, Results, Work, pixels_of
from .stage_node import StageNode, StageTrail


class Painted(StageNode):
    """What a painting step makes of its input."""

    def __init__(self, trail: StageTrail, count: int, longer: int) -> None:
        super().__init__(trail, count, longer)
        self._kind = cast(PaintKind, self._stage.kind)
        # Each strip costs something for every part painted: as few as keep all cores busy and memory bounded.
        strips = CORES if trail.quality.coded else 2 * CORES
        self.height = min(8 * STRIP, max(STRIP, ceil(self.shape[0] / strips)))
        self._halo = ceil(self._kind.reaches(self._step.settings) * self.shape[1] / 2 / self._stage.after.half_w)
        self.height = min(self.shape[0], max(self.height, 2 * self._halo))

    @cached_property
    def _source(self) -> Node:
        size = self._trail.size_painted(self._kind.magnifies(self._step.settings) * self._longer, self._count - 1, self._longer)
        before = self._count - 1
        trail = self.trail_at(size)
        return trail.pyramid(before, size) if self._kind.averages else trail.source(before, size)

    @property
    def needs(self) -> tuple[Node, ...]:
        return tuple(node for node in (self.measured, self.keep, self._source, self.input) if node is not None)

    @property
    def cost(self) -> float:
        return 260.0 * self._kind.burden(self._step.settings) * pixels_of(self.shape)

    @property
    def room(self) -> int:
        return 2 * CORES * 32 * (self.height + 2 * self._halo) * self.shape[1]

    def worker(self, making: Results) -> Work:
        settings = self._step.settings
        source, under = making[self._source], making[self.input]
        measured = {} if self.measured is None else making[self.measured]
        kept = None if self.keep is None else making[self.keep]

        def work(top: int, height: int, out: Array | None = None, /) -> Array:
            brush = Brush(source, Rows(self._stage.after, *self.shape, top, height), measured, kept)
            return self._kind.paint(brush, under[top : top + height], settings)

        return work
