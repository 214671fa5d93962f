"""A plan carried out, with what it has made, how far it is, and its ear for the stop signal."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import Any

import numpy as np

from ..arrays import Array
from .context import Context, aside
from .nodes import Node, Strips, Work
from .plan import Plan, plan_streamed, plan_whole, whole_needs

LONG = 2e8
"""Work of more nanoseconds is done aside, so that a stop is heard even while it asks for none."""


class Execution:
    """What one render has made so far."""

    def __init__(self, context: Context, plan: Plan) -> None:
        context.limits.check(plan)
        self.context = context
        self._plan = plan
        self._values = dict(plan.found)
        self._uses = plan.uses()
        self._total = max(plan.cost, 1.0)
        self._done = 0.0
        self._told = 0.0

    def __getitem__(self, node: Node) -> Any:
        return self._values[node.key]

    def has(self, node: Node) -> bool:
        """Whether a node is there, whole."""
        return node.key in self._values

    def worker(self, node: Strips) -> Work:
        """Return what gives strips of a node: of the whole where it is there, else computed."""
        if node.key not in self._values:
            return node.worker(self)
        whole = self._values[node.key]
        return lambda top, height, out=None, /: whole[top : top + height]

    def gather(self, node: Strips) -> Array:
        """Return a node whole, its strips computed side by side."""
        out = np.empty((*node.shape, *node.channels), np.float32)
        work = node.worker(self)

        def place(top: int, height: int) -> Array:
            part = out[top : top + height]
            strip = work(top, height, part)
            if strip is not part:
                part[...] = strip
            return part

        for top, strip in self.context.strips(node.shape[0], place, node.height):
            self.tell(node.cost, (top + len(strip)) / node.shape[0])
        return out

    def tell(self, cost: float, share: float) -> None:
        """Say that `share` of something that costs so much is done, on top of all that was done before."""
        now = min(1.0, (self._done + cost * share) / self._total)
        if now > self._told:
            self._told = now
            self.context.progress(now)

    def make_all(self) -> None:
        """Make everything that the plan holds whole."""
        for node in self._plan.order:
            self.context.check()
            cache = self.context.cache
            self._values[node.key] = cache.get(node.key, partial(self._made, node)) if node.kept else self._made(node)
            self._done += node.cost
            self.tell(0, 0)
            self._let_go(node)

    def _made(self, node: Node) -> Any:
        if node.cost < LONG or (isinstance(node, Strips) and node.flows):
            return node.make(self)
        return aside(partial(node.make, self), self.context)

    def _let_go(self, node: Node) -> None:
        """Forget what nobody will ask for any more."""
        for need in whole_needs(node):
            self._uses[need.key] -= 1
            if not self._uses[need.key]:
                self._values.pop(need.key, None)

    def flow(self, node: Strips, first: int, end: int) -> Iterator[tuple[int, Array]]:
        """Yield (top, strip) of the result's rows from `first` up to `end`, computed side by side a few ahead of the reader."""
        self.make_all()
        if node.key in self._values:
            yield first, self._values[node.key][first:end]
            return
        # Where a strip costs something for every part painted: as few as keep all cores busy and memory bounded.
        height = max(part.height for part in self._plan.flowing)
        cost = self._plan.flowing_cost
        # Strips lie where they lie in the whole: how well torn points are read again depends on how many there are in a strip.
        begin, stop = first // height * height, min(-(-end // height) * height, node.shape[0])
        for top, strip in self.context.strips(stop, node.worker(self), height, begin):
            self.tell(cost, (top + len(strip) - begin) / (stop - begin))
            yield max(top, first), strip[max(first - top, 0) : end - top]


def whole(node: Node, context: Context) -> Any:
    """Return what a node makes, whole."""
    making = Execution(context, plan_whole(node, context.cache))
    making.make_all()
    return making[node]


def streamed(node: Strips, context: Context, first: int = 0, end: int | None = None) -> Iterator[tuple[int, Array]]:
    """Return (top, strip) of a node's rows, from the top down; nothing is computed before the first is asked for."""
    rows = node.shape[0]
    end = rows if end is None else end
    return Execution(context, plan_streamed(node, context.cache, (end - first) / rows)).flow(node, first, end)
