"""Steps on pictures: pixel by pixel, or on the whole picture."""

from __future__ import annotations

from functools import cached_property, partial
from itertools import chain
from typing import Any, Protocol, cast

from ..arrays import Array
from ..geometry.rows import Rows
from ..kinds.kind import PictureKind, PixelKind
from ..piece.model import Step
from ..pixels.pointwise import Pass
from . import keys
from .nodes import Node, Prepared, Results, Strips, Work, pixels_of
from .stage_node import StageNode, StageTrail


class Act(Protocol):
    """Makes a strip of the result from the same strip of the input; into `out` where that is given, or else into memory of its own."""

    def __call__(self, strip: Array, top: int, out: Array | None = None, /) -> Array: ...


class PictureStep(StageNode):
    """What a step on pictures makes of its input."""

    def __init__(self, trail: StageTrail, count: int, longer: int) -> None:
        super().__init__(trail, count, longer)
        self._kind = cast(PictureKind, self._stage.kind)
        self.flows = self._kind.is_local(self._step.settings)

    @cached_property
    def _prepared(self) -> tuple[Prepared | None, ...]:
        """What each of its steps can make before any picture is seen."""
        return tuple(self._prepared_for(step) for step in self._stage.steps)

    def _prepared_for(self, step: Step) -> Prepared | None:
        kind = step.definition
        if kind.prepare is None:
            return None
        chosen = {name: getattr(step.settings, name) for name in kind.prepare_settings}
        size = 0 if kind.prepared_bytes is None else kind.prepared_bytes(self._stage.after, step.settings)
        make = partial(kind.prepare, self._stage.after, **chosen)
        return Prepared(keys.prepared(kind, (self._stage.after, chosen)), make, size, kind.label.lower())

    @property
    def needs(self) -> tuple[Node, ...]:
        return tuple(node for node in (self.measured, *self._prepared) if node is not None)

    @property
    def parts(self) -> tuple[Strips, ...]:
        return (self.input,)

    @property
    def cost(self) -> float:
        return 40.0 * sum(step.definition.burden(step.settings) for step in self._stage.steps) * pixels_of(self.shape)

    @property
    def room(self) -> int:
        return 0 if self.flows else int(self._kind.room * self.size)

    def act(self, making: Results, done: int = 0) -> Act:
        """Return what makes a strip of the result by the same strip of the input, or of what has the first things done already."""
        measured = [self._measured(making, prepared) for prepared in self._prepared]
        frame = self._stage.after

        def place(strip: Array, top: int) -> Rows:
            return Rows(frame, *self.shape, top, len(strip))

        if isinstance(self._kind, PixelKind):
            steps = zip(self._stage.steps, measured, strict=True)
            led = Pass(chain.from_iterable(cast(PixelKind, step.definition).ops(step.settings, frame, found) for step, found in steps))
            return lambda strip, top, out=None, /: led(strip, place(strip, top), out)
        found = measured[0] | ({"done": done, "origin": making[self.input]} if done else {})
        return lambda strip, top, out=None, /: self._kind.apply(strip, place(strip, top), found, self._step.settings)

    def _measured(self, making: Results, prepared: Prepared | None) -> dict[str, Any]:
        found: dict[str, Any] = {} if self.measured is None else making[self.measured]
        return found if prepared is None else {**found, "prepared": making[prepared].value}

    def worker(self, making: Results) -> Work:
        act, given = self.act(making), making.worker(self.input)
        return lambda top, height, out=None, /: act(given(top, height), top, out)

    def make(self, making: Results) -> Array:
        if self.flows:
            return making.gather(self)
        begun = self._begun(making)
        return self.act(making, begun[1] if begun else 0)(begun[0] if begun else making[self.input], 0)

    def _begun(self, making: Results) -> tuple[Array, int] | None:
        """Return the picture with only the first things the step does, where the cache has one, and how many they are."""
        fewer = self._kind.fewer
        for settings, count in () if fewer is None else fewer(self._step.settings):
            key = self._trail.key_with(self._count, self._longer, self._step.model_copy(update={"settings": settings}))
            found = making.context.cache.peek(key)
            if found is not None:
                return found, count
        return None
