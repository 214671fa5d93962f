"""Laying: what a step made, mixed with its input by strength, where, channels and blend."""

from __future__ import annotations

from functools import cached_property

import numpy as np

from ..arrays import Array
from ..pixels.blending import mix
from .nodes import Node, Results, Strips, WhereMask, Work, looking_cost, mask_worker, pixels_of, where_mask
from .picture_step import PictureStep
from .stage_node import StageTrail
from .stages import Stage


class BlendedStep(Strips):
    """A step's result laid over its input.

    What the step made is kept apart from how it is laid: strength, where and blend then change at once.
    """

    def __init__(self, trail: StageTrail, count: int, longer: int, made: Strips) -> None:
        self._stage = trail.stages[count - 1]
        self._key = trail.key(count, longer)
        self._made = made
        self._trail, self._before = trail, (count - 1, longer)
        self.shape = self._stage.after.pixels(longer)
        self.height = made.height

    @property
    def key(self) -> str:
        return self._key

    @cached_property
    def _input(self) -> Strips:
        return self._trail.after(*self._before)

    @cached_property
    def _mask(self) -> WhereMask | None:
        return where_mask(self._stage.steps[0].where, self._stage.after, self.shape)

    @property
    def _masks(self) -> tuple[WhereMask, ...]:
        return () if self._mask is None else (self._mask,)

    @property
    def parts(self) -> tuple[Strips, ...]:
        return (self._input, self._made, *self._masks)

    @property
    def flow_needs(self) -> tuple[Node, ...]:
        return self._made.needs if self._together else ()

    @property
    def flow_parts(self) -> tuple[Strips, ...]:
        return (self._input, *self._masks) if self._together else self.parts

    @property
    def _together(self) -> bool:
        """Whether the step works on the very strip that its result is laid over."""
        return isinstance(self._made, PictureStep) and self._made.flows

    @property
    def cost(self) -> float:
        return 25.0 * pixels_of(self.shape) + looking_cost(self._stage.steps[0].where, self.shape)

    def worker(self, making: Results) -> Work:
        mask = mask_worker(making, self._mask, self._stage.steps[0].where, self._stage.after, self.shape)
        given = making.worker(self._input)
        if isinstance(self._made, PictureStep) and self._together and not making.has(self._made):
            act = self._made.act(making)

            def work_together(top: int, height: int, out: Array | None = None, /) -> Array:
                before = given(top, height)
                return blended_with_input(self._stage, before, act(before, top), mask(top, height, before))

            return work_together
        made = making.worker(self._made)

        def work(top: int, height: int, out: Array | None = None, /) -> Array:
            before = given(top, height)
            return blended_with_input(self._stage, before, made(top, height), mask(top, height, before))

        return work


def blended_with_input(stage: Stage, before: Array, after: Array, where: Array | None) -> Array:
    """Return a strip of what a stage made, laid over the same strip of its input.

    Parameters
    ----------
    stage : Stage
    before, after : float32 array (rows, cols, 4)
        The same strip of the input and of what was made; coded, premultiplied.
    where : float32 array (rows, cols), optional
        0…1.

    Returns
    -------
    float32 array (rows, cols, 4)
    """
    step = stage.steps[0]
    if stage.kind.cuts and where is not None:
        return before * (1 + np.float32(step.strength) * (where - 1))[..., None]
    return mix(before, after, step.strength, step.blend, frozenset(step.channels), where)
