"""Steps on pictures: pixel by pixel, or on the whole picture."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property, partial
from typing import TYPE_CHECKING, cast

from ..arrays import Array
from ..geometry.rows import Rows
from ..kinds.kind import PictureKind
from . import keys
from .nodes import Node, Prepared, Strips, Work, pixels_of
from .run import Run
from .staged import Staged

if TYPE_CHECKING:
    from .trail import Trail


class Worked(Staged):
    """What a step on pictures makes of its input."""

    def __init__(self, trail: Trail, count: int, longer: int) -> None:
        super().__init__(trail, count, longer)
        self._kind = cast(PictureKind, self._stage.kind)
        self.flows = self._kind.is_local(self._step.settings)

    @cached_property
    def _prepared(self) -> Prepared | None:
        prepare = self._kind.prepare
        if prepare is None:
            return None
        chosen = {name: getattr(self._step.settings, name) for name in self._kind.prepare_settings}
        count = self._kind.prepared_bytes
        size = 0 if count is None else count(self._stage.after, self._step.settings)
        return Prepared(
            keys.prepared(self._kind, (self._stage.after, chosen)), partial(prepare, self._stage.after, **chosen), size, self.name
        )

    @property
    def needs(self) -> tuple[Node, ...]:
        return tuple(node for node in (self.measured, self._prepared) if node is not None)

    @property
    def parts(self) -> tuple[Strips, ...]:
        return (self.input,)

    @property
    def cost(self) -> float:
        return 40.0 * self._kind.burden(self._step.settings) * pixels_of(self.shape)

    @property
    def room(self) -> int:
        return 0 if self.flows else int(self._kind.room * self.size)

    def act(self, run: Run, done: int = 0) -> Callable[[Array, int], Array]:
        """Return what makes a strip of the result, by the same strip of the input and its top; or of what has the first things done already."""
        settings = self._step.settings
        measured = {} if self.measured is None else run[self.measured]
        if self._prepared is not None:
            measured = {**measured, "prepared": run[self._prepared].value}
        if done:
            measured = {**measured, "done": done, "origin": run[self.input]}
        return lambda strip, top: self._kind.apply(strip, Rows(self._stage.after, *self.shape, top, len(strip)), measured, settings)

    def worker(self, run: Run) -> Work:
        act, given = self.act(run), run.worker(self.input)
        return lambda top, height, out=None, /: act(given(top, height), top)

    def make(self, run: Run) -> Array:
        if self.flows:
            return run.gather(self)
        begun = self._begun(run)
        return self.act(run, begun[1] if begun else 0)(begun[0] if begun else run[self.input], 0)

    def _begun(self, run: Run) -> tuple[Array, int] | None:
        """Return the picture with only the first things the step does, where the cache has one, and how many they are."""
        fewer = self._kind.fewer
        for settings, count in () if fewer is None else fewer(self._step.settings):
            key = self._trail.key_with(self._count, self._longer, self._step.model_copy(update={"settings": settings}))
            found = run.context.cache.peek(key)
            if found is not None:
                return found, count
        return None
