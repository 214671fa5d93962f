"""A plan: what a render will compute, in order, and what that costs; found before any of it is done."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from .cache import Cache
from .nodes import Node, Strips

AHEAD = 4
"""So many strips are there at once while a result flows, roughly."""
DEEPEST = 32
"""So many nodes in a row flow together at most; then one is made whole."""


@dataclass(frozen=True)
class Plan:
    """What to do.

    Parameters
    ----------
    order : tuple of Node
        What is made whole, each after what it needs.
    flowing : tuple of Strips
        What is computed strip by strip at the end, from the result downwards; empty when the result is made whole.
    found : dict
        What the cache has of it, by key.
    """

    order: tuple[Node, ...]
    flowing: tuple[Strips, ...]
    found: dict[str, Any]
    share: float = 1.0
    """How much of what flows is wanted: all of it, or a part."""

    @property
    def cost(self) -> float:
        """Return what all of it costs: nanoseconds of one core, roughly."""
        return sum(node.cost for node in self.order) + self.flowing_cost

    @property
    def flowing_cost(self) -> float:
        """Return what is computed strip by strip at the end costs."""
        return self.share * sum(node.cost for node in self.flowing)

    @property
    def peak(self) -> int:
        """Return how much of it is held at one time at most, in bytes, roughly; what the cache has already is not counted."""
        uses = self.uses()
        sizes = {node.key: node.size for node in self.order}
        held = most = 0
        for node in self.order:
            most = max(most, held + node.size + node.room)
            held += node.size
            for need in whole_needs(node):
                uses[need.key] -= 1
                if not uses[need.key]:
                    held -= sizes.get(need.key, 0)
        strips = sum(2 * AHEAD * node.size * min(1.0, node.height / node.shape[0]) + node.room for node in self.flowing)
        return int(max(most, held + strips))

    def uses(self) -> Counter[str]:
        """Return how often each key is asked for while the plan is carried out."""
        found: Counter[str] = Counter()
        for node in self.order:
            found.update(need.key for need in whole_needs(node))
        for node in self.flowing:
            found.update(need.key for need in (*node.flow_needs, *node.flow_parts))
        return found


def whole_needs(node: Node) -> tuple[Node, ...]:
    """Return all that a node made whole is made from."""
    return (*node.needs, *node.parts) if isinstance(node, Strips) else node.needs


def _in_order(goals: Iterable[Node], cache: Cache, found: dict[str, Any]) -> list[Node]:
    """Return what must be made for the goals, each node after what it needs; what the cache has goes to `found`."""
    order: list[Node] = []
    done: set[str] = set()
    # By hand, not by recursion: a trail may have more steps than Python has patience. A node comes up twice, before and after its needs.
    waiting: list[tuple[Node, bool]] = [(goal, False) for goal in goals]
    while waiting:
        node, met = waiting.pop()
        if node.key in done or node.key in found:
            continue
        if met:
            done.add(node.key)
            order.append(node)
            continue
        if node.kept and (kept := cache.find(node.key)) is not None:
            found[node.key] = kept
            continue
        waiting.append((node, True))
        waiting.extend((need, False) for need in whole_needs(node))
    return order


def plan_whole(goal: Node, cache: Cache) -> Plan:
    """Plan a result that is held whole."""
    found: dict[str, Any] = {}
    return Plan(tuple(_in_order([goal], cache, found)), (), found)


def plan_streamed(goal: Strips, cache: Cache, share: float = 1.0) -> Plan:
    """Plan a result, or a share of its rows, that is taken strip by strip, so that as little as possible is held whole.

    Held are inputs of what cannot be done in strips, what is asked for from two sides, and what the cache has anyway.
    """
    whole: set[str] = set()
    while True:
        flowing, held, twice = _flow(goal, whole, cache)
        if not twice <= whole:
            whole |= twice
            continue
        found: dict[str, Any] = {}
        order = _in_order(held, cache, found)
        again = {node.key for node in order} & {node.key for node in flowing}
        if not again:
            return Plan(tuple(order), tuple(flowing), found, share)
        whole |= again


def _flow(goal: Strips, whole: set[str], cache: Cache) -> tuple[list[Strips], list[Node], set[str]]:
    """Return what flows, what it needs whole, and the keys of what is met twice on the way."""
    flowing: list[Strips] = []
    held: list[Node] = []
    met: Counter[str] = Counter()
    waiting = [(goal, 0)]
    while waiting:
        node, depth = waiting.pop()
        met[node.key] += 1
        stays = not node.flows or depth >= DEEPEST or node.key in whole or (node.kept and cache.peek(node.key) is not None)
        if stays:
            held.append(node)
            continue
        if met[node.key] > 1:
            continue
        flowing.append(node)
        held.extend(node.flow_needs)
        waiting.extend((part, depth + 1) for part in node.flow_parts)
    return flowing, held, {key for key, count in met.items() if count > 1} & {node.key for node in flowing if node.kept}
