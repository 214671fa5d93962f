"""Steps that make jumps between values that lie near each other: on the pixels of a raster of their own, so that every size shows one picture."""

from __future__ import annotations

from functools import cached_property, partial
from math import ceil
from typing import cast

import cv2
import numpy as np

from ..arrays import Array
from ..geometry.rows import Rows
from ..kinds.kind import HardKind
from ..pixels.pointwise import Pass
from ..pixels.raster import doubled, scaled
from .context import LARGEST
from .nodes import Node, Results, Strips, Work, pixels_of
from .stage_node import StageNode, StageTrail

WIDEST = 16384
"""The library reads no more columns than that in one go."""


class Hard(StageNode):
    """What such a step makes of its input.

    On its raster every pixel is told apart at four places, and is the mean of them. A smaller picture is that one averaged; a larger one is made
    from the raster's input, enlarged, so that outlines are as sharp as its own pixels. The raster is never finer than all that is in the input.
    """

    def __init__(self, trail: StageTrail, count: int, longer: int) -> None:
        super().__init__(trail, count, longer)
        self._kind = cast(HardKind, self._stage.kind)
        lines, ratio = self._kind.lines(self._step.settings), self._stage.before.ratio
        shown = trail.shown_after[count - 1]
        size = min(LARGEST, round(lines * max(ratio, 1 / ratio)))
        self._size = max(16, size if shown is None else min(size, ceil(shown))) if lines else longer
        self._alone = not lines
        self._smaller = longer < self._size
        self.flows = not self._smaller

    @property
    def needs(self) -> tuple[Node, ...]:
        return tuple(node for node in (self.measured, None if self._alone else self._read) if node is not None)

    @property
    def parts(self) -> tuple[Strips, ...]:
        return (self.input,) if self._alone else ()

    @cached_property
    def _read(self) -> Strips:
        """The step's own raster where a smaller picture is wanted, else its input there."""
        return Hard(self._trail, self._count, self._size) if self._smaller else self._trail.after(self._count - 1, self._size)

    @property
    def cost(self) -> float:
        each = 40.0 * self._kind.burden(self._step.settings)
        return (20.0 if self._smaller else each if self._alone else 3 * each) * pixels_of(self.shape)

    def worker(self, making: Results) -> Work:
        act = Pass(self._kind.ops(self._step.settings, self._stage.after, making[self.measured] if self.measured else {}))
        frame, (rows, cols) = self._stage.after, self.shape
        if self._alone:
            given = making.worker(self.input)
            return lambda top, height, out=None, /: act(given(top, height), Rows(frame, rows, cols, top, height), out)
        raster: Array = making[self._read]

        finer = doubled if self._longer == self._size else partial(_enlarged, rows=2 * rows, cols=2 * cols)

        def work(top: int, height: int, out: Array | None = None, /) -> Array:
            made = act(finer(raster, top=2 * top, height=2 * height), Rows(frame, 2 * rows, 2 * cols, 2 * top, 2 * height))
            return np.asarray(cv2.resize(made, (cols, height), dst=out, interpolation=cv2.INTER_AREA))

        return work

    def make(self, making: Results) -> Array:
        return scaled(making[self._read], *self.shape) if self._smaller else making.gather(self)


def _enlarged(raster: Array, rows: int, cols: int, top: int, height: int) -> Array:
    """Return rows of a raster as it is with (rows, cols) pixels, smoothly between its own."""
    down = (np.arange(top, top + height, dtype=np.float32) + np.float32(0.5)) * np.float32(raster.shape[0] / rows) - np.float32(0.5)
    across = (np.arange(cols, dtype=np.float32) + np.float32(0.5)) * np.float32(raster.shape[1] / cols) - np.float32(0.5)
    out = np.empty((height, cols, 4), np.float32)
    for left in range(0, cols, WIDEST):
        part = across[left : left + WIDEST]
        x, y = np.broadcast_to(part, (height, len(part))), np.broadcast_to(down[:, None], (height, len(part)))
        at = np.ascontiguousarray(x), np.ascontiguousarray(y)
        out[:, left : left + len(part)] = cv2.remap(raster, *at, interpolation=cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE)
    return _kept_within(out)


def _kept_within(enlarged: Array) -> Array:
    """Return a picture that cubic enlarging made too strong in places: 0…1, colours no stronger than their alpha."""
    np.clip(enlarged, 0, 1, out=enlarged)
    np.minimum(enlarged[..., :3], enlarged[..., 3:], out=enlarged[..., :3])
    return enlarged
