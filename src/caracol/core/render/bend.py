"""Bends: a chain of rules read through the sampler."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property
from math import ceil
from typing import Any, cast

import numpy as np

from ..arrays import Array
from ..pixels.sampling import sample_strip
from .chain import Chain
from .context import CORES, STRIP
from .keep_masks import respecting
from .measuring import Guide
from .nodes import Node, Results, Work, pixels_of
from .stage_node import StageNode, StageTrail

SAMPLING = 120.0, 50.0
"""Nanoseconds of a pixel that is read: at full quality, and for a draft."""
RULE = 30.0
"""Nanoseconds of a point that goes through one plain rule."""


class BendChainNode(StageNode):
    """What a bend chain makes of its input."""

    def __init__(self, trail: StageTrail, count: int, longer: int) -> None:
        super().__init__(trail, count, longer)
        self._chain = cast(Chain, self._stage.chain)
        if trail.quality.coded:
            # A draft is soon done: as few strips as keep all cores busy, as each of them asks for much besides pixels.
            self.height = min(4 * STRIP, max(STRIP, ceil(self.shape[0] / CORES)))

    @cached_property
    def _guide(self) -> Guide | None:
        return None if not self._chain.links[0].asks else Guide(self._trail, self._count - 1, self._longer)

    @cached_property
    def _source(self) -> Node:
        size = self._trail.size_below(self._chain, self._count - 1, self._longer)
        return self.trail_at(size).source(self._count - 1, size)

    @property
    def needs(self) -> tuple[Node, ...]:
        return (*self.looks_at, self._source)

    @property
    def cost(self) -> float:
        rules = RULE * sum(link.kind.burden(link.step.settings) for link in self._chain.links)
        return (SAMPLING[1 if self._trail.quality.coded else 0] + rules) * pixels_of(self.shape)

    @property
    def looks_at(self) -> tuple[Node, ...]:
        """What must be known before its rule is."""
        return tuple(node for node in (self._guide, self.keep) if node is not None)

    def rule(self, found: Callable[[Node], Any]) -> Chain:
        """Return where its points come from; `found` gives what it looks at."""
        chain = self._chain if self._guide is None else self._chain.guided(found(self._guide))
        return chain if self.keep is None else respecting(chain, found(self.keep))

    def worker(self, making: Results) -> Work:
        chain = self.rule(making.__getitem__)
        source, frame, (rows, cols) = making[self._source], self._stage.after, self.shape

        def work(top: int, height: int, out: Array | None = None, /) -> Array:
            filled = np.empty((height, cols, 4), np.float32) if out is None else out
            x, y = frame.grid(rows, cols, top, height, halo=1)
            sample_strip(source, chain.wrap, chain, x, y, filled)
            return filled

        return work
