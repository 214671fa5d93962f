"""Bend chains: neighbouring plain geometric steps as one rule for coordinates."""

from __future__ import annotations

from collections.abc import Callable
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

STRETCHED = 10
"""Of all places, so many percent may be stretched more than the picture below is sized for."""
CRUSHED = 90
"""So many percent of all places are crushed less than what a larger picture could still show."""
SMEARED = 0.02
"""Of what is drawn out so much more one way than the other, nothing can be sharper."""
JUDGED = 1024
"""Pixels of an output at which it is judged how much it shows."""


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
            # What a rule leaves out is nothing, whatever is done with what lies beyond the frame.
            left_out = x >= OUTSIDE if link.kind.leaves_out else None
            outside = apply_edge(x, y, link.before, link.kind.edge(link.step.settings))
            if left_out is not None:
                outside = left_out if outside is None else outside | left_out
            if outside is not None:
                gone = outside if gone is None else gone | outside
        if gone is not None:
            x[gone] = OUTSIDE
            y[gone] = OUTSIDE
        return x, y

    def longer_needed(self, longer: int) -> float:
        """Return how many pixels the longer side of the picture below should have for an output of `longer` pixels.

        As many as keep what is stretched most as sharp as it can be. What a guided step will find is not known yet: it is taken to leave
        everything where it is.
        """
        footprint = self._footprints(longer, np.minimum)
        if footprint is None or not len(footprint):
            return float(longer)
        return float(2 * max(self.before.half_w, self.before.half_h) / np.percentile(footprint, STRETCHED))

    def longer_shown(self, longest: float) -> float:
        """Return at how many pixels on its longer side an output shows all that an input of `longest` pixels holds.

        Larger ones are only softer. What is crushed to nothing does not count.
        """
        footprint = self._footprints(JUDGED, np.maximum)
        if footprint is None or not len(footprint):
            return longest
        pixel = 2 * max(self.before.half_w, self.before.half_h) / longest
        return float(JUDGED * np.percentile(footprint, CRUSHED) / pixel)

    def _footprints(self, longer: int, of: Callable[[Array, Array], Array]) -> Array | None:
        """Return the shorter or longer ways, in units of the input, between neighbouring pixels of a coarse grid of an output of `longer` pixels.

        None where nothing is moved.
        """
        moved = self._moved(longer)
        if moved is None:
            return None
        (across, down), step = moved
        footprint = of(np.hypot(*across), np.hypot(*down))
        spread = np.hypot(*across) ** 2 + np.hypot(*down) ** 2
        # Where a whole line of the output shows one point, as beyond the rim of a ring, there is nothing that could be sharper.
        plain = np.abs(across[0] * down[1] - across[1] * down[0]) > SMEARED * spread
        return np.asarray(footprint[(footprint > step * 1e-3) & (footprint < 1e3) & plain])

    def _moved(self, longer: int) -> tuple[tuple[tuple[Array, Array], tuple[Array, Array]], np.float32] | None:
        """Return how far an input point goes, (x, y), for one pixel across and one down, on a coarse grid; and how long that pixel is."""
        plain = Chain(tuple(link for link in self.links if not link.asks or link.guide is not None))
        if not plain.links:
            return None
        step = np.float32(2 * max(self.after.half_w, self.after.half_h) / longer)
        x, y = self.after.grid(24, 24)
        x0, y0 = plain(x, y)
        ways = [plain(x + np.float32(dx), y + np.float32(dy)) for dx, dy in ((step, 0), (0, step))]
        return ((ways[0][0] - x0, ways[0][1] - y0), (ways[1][0] - x0, ways[1][1] - y0)), step

    def only_scales(self, longer: int) -> bool:
        """Whether each pixel of an output reads one of an input of the size needed, upright: a box that is cut out, a layer that is made smaller."""
        moved = self._moved(longer)
        if moved is None:
            return False
        (across, down), _ = moved
        seen = (np.abs(across[0]) < 1e3) & (np.abs(down[1]) < 1e3)
        usual = float(np.median(np.abs(across[0][seen]))) if seen.any() else 0.0
        apart = (np.abs(across[0]) - usual, np.abs(down[1]) - usual, across[1], down[0])
        return usual > 0 and all(float(np.abs(one[seen]).max()) < 0.002 * usual for one in apart)


def link_of(step: Step, before: Frame, after: Frame) -> Link:
    """Return the link of a geometric step."""
    return Link(cast(BendKind, step.definition), step, before, after)
