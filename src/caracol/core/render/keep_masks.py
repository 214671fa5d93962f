"""Keep areas pulled through a trail: how much is kept after each of its stages."""

from __future__ import annotations

from dataclasses import replace
from functools import cached_property

from ..arrays import Array
from ..piece.keep import keep_mask
from ..pixels.masks import SIZE
from . import keys
from .chain import Chain
from .nodes import Node, Results
from .stage_node import StageTrail


def respecting(chain: Chain, mask: Array) -> Chain:
    """Return the chain with each step that respects keep areas told how much is kept where it acts."""
    links = []
    for link in chain.links:
        links.append(replace(link, keep=mask) if link.kind.respects_keep else link)
        mask = links[-1].carry(mask)
    return Chain(tuple(links))


class KeepMask(Node):
    """How much is kept after the first `count` stages of a trail, 0…1, (rows, cols) in the frame there."""

    def __init__(self, trail: StageTrail, count: int) -> None:
        self._trail = trail
        # Only bends move it: after any other stage it is the mask before.
        while count and trail.stages[count - 1].chain is None:
            count -= 1
        self._count = count

    @cached_property
    def key(self) -> str:
        bends = tuple(stage.chain for stage in self._trail.stages[: self._count] if stage.chain)
        return keys.keep_mask(self._trail.ground.digest, self._trail.keep, bends)

    @property
    def needs(self) -> tuple[Node, ...]:
        if self._count:
            return (KeepMask(self._trail, self._count - 1),)
        looks = any(area.where.looks_at_picture for area in self._trail.keep)
        return (self._trail.ground.picture(SIZE),) if looks else ()

    @property
    def cost(self) -> float:
        return 200.0 * SIZE * SIZE

    def make(self, making: Results) -> Array:
        if not self._count:
            picture = making[self.needs[0]] if self.needs else None
            return keep_mask(self._trail.keep, self._trail.ground.frame, picture)
        mask: Array = making[self.needs[0]]
        chain = self._trail.stages[self._count - 1].chain
        assert chain is not None
        for link in respecting(chain, mask).links if any(link.kind.respects_keep for link in chain.links) else chain.links:
            mask = link.carry(mask)
        return mask
