"""Bend chains: neighbouring plain geometric steps as one rule for coordinates."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import cast

import numpy as np

from ..arrays import Array
from ..geometry.edges import apply_edge
from ..geometry.frame import Frame
from ..kinds.kind import BendKind
from ..piece.model import Step
from ..pixels.masks import SIZE, kept_at
from ..pixels.sampling import OUTSIDE


@dataclass(frozen=True)
class Link:
    """One geometric step between its two frames."""

    kind: BendKind
    step: Step
    before: Frame
    after: Frame
    guide: Array | None = None
    keep: Array | None = None

    @property
    def asks(self) -> bool:
        """Whether its rule must know of its input picture."""
        return self.kind.asks(self.step.settings)

    def pull(self, x: Array, y: Array) -> tuple[Array, Array]:
        """Return input points of output points by the step's own rule, moved less where more is kept."""
        known = {} if self.guide is None else {"guide": self.guide}
        px, py = self.kind.pull(x, y, self.before, self.after, self.step.settings, **known)
        if self.keep is None:
            return px, py
        free = 1 - kept_at(self.keep, self.before, x, y)
        return x + free * (px - x), y + free * (py - y)

    def carry(self, mask: Array) -> Array:
        """Return a keep mask of the frame before as it lies in the frame after."""
        if self.asks:
            return mask  # what it needs to know of the picture is not known here, and such a step keeps the frame
        rows, cols = self.after.pixels(SIZE)
        px, py = Chain((self,))(*self.after.grid(rows, cols))
        return np.where(px < OUTSIDE, kept_at(mask, self.before, px, py), np.float32(0))


@dataclass(frozen=True)
class Chain:
    """Links from the picture outwards; callable as a `Rule` of the sampler."""

    links: tuple[Link, ...]

    @property
    def before(self) -> Frame:
        return self.links[0].before

    @property
    def after(self) -> Frame:
        return self.links[-1].after

    def guided(self, guide: Array) -> Chain:
        """Return the chain with what its first step must know of the picture below."""
        return Chain((replace(self.links[0], guide=guide), *self.links[1:]))

    @property
    def wrap(self) -> tuple[bool, bool]:
        """Whether the picture below goes on round the back, across and down."""
        first = self.links[0]
        across, down = first.kind.wrap(first.step.settings)
        tiled = first.kind.edge(first.step.settings) == "tile"
        return across or tiled, down or tiled

    def __call__(self, x: Array, y: Array) -> tuple[Array, Array]:
        """Return source points in units of `before`; `OUTSIDE` where a rule leaves nothing.

        Points may still lie outside `before`: the sampler mirrors them, on texels, so that no fold troubles its footprints.
        """
        gone = None
        for link in reversed(self.links):
            x, y = link.pull(x, y)
            x, y = np.ascontiguousarray(x, np.float32), np.ascontiguousarray(y, np.float32)
            outside = apply_edge(x, y, link.before, link.kind.edge(link.step.settings))
            if outside is not None:
                gone = outside if gone is None else gone | outside
        if gone is not None:
            x[gone] = OUTSIDE
            y[gone] = OUTSIDE
        return x, y

    def longer_needed(self, longer: int) -> float:
        """Return how many pixels the longer side of the picture below should have for an output of `longer` pixels.

        The footprints of a coarse grid of output pixels are measured; the densest quarter decides. What a guided step will find is not
        known yet: it is taken to leave everything where it is.
        """
        plain = Chain(tuple(link for link in self.links if not link.asks or link.guide is not None))
        if not plain.links:
            return float(longer)
        step = np.float32(2 * max(self.after.half_w, self.after.half_h) / longer)
        x, y = self.after.grid(24, 24)
        x0, y0 = plain(x, y)
        lengths = []
        for dx, dy in ((step, 0), (0, step)):
            x1, y1 = plain(x + np.float32(dx), y + np.float32(dy))
            lengths.append(np.hypot(x1 - x0, y1 - y0))
        footprint = np.minimum(*lengths)
        moving = footprint[(footprint > step * 1e-3) & (footprint < 1e3)]
        if not len(moving):
            return float(longer)
        return float(2 * max(self.before.half_w, self.before.half_h) / np.percentile(moving, 25))


def link_of(step: Step, before: Frame, after: Frame) -> Link:
    """Return the link of a geometric step."""
    return Link(cast(BendKind, step.definition), step, before, after)
