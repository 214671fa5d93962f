"""What all ways of running a stage share: where the stage stands in its trail, and its input."""

from __future__ import annotations

from functools import cached_property
from typing import Protocol

from ..piece.keep import KeepArea
from ..piece.model import Step
from .chain import Chain
from .context import Photos
from .grounds import Ground
from .nodes import Node, Strips
from .quality import Quality
from .stages import Stage


class StageTrail(Protocol):
    """A trail as the nodes of its stages see it (`trail.Trail`); what each part says stands there."""

    @property
    def digest(self) -> str: ...

    @property
    def ground(self) -> Ground: ...

    @property
    def keep(self) -> tuple[KeepArea, ...]: ...

    @property
    def photos(self) -> Photos: ...

    @property
    def quality(self) -> Quality: ...

    @property
    def stages(self) -> list[Stage]: ...

    @property
    def evened(self) -> StageTrail: ...

    @property
    def settled(self) -> StageTrail: ...

    @property
    def shown_after(self) -> list[float | None]: ...

    def after(self, count: int, longer: int) -> Strips: ...

    def key(self, count: int, longer: int) -> str: ...

    def key_with(self, count: int, longer: int, step: Step) -> str: ...

    def unlaid_key(self, count: int, longer: int) -> str: ...

    def keep_after(self, count: int) -> Node | None: ...

    def looked(self, size: int, count: int, longer: int) -> Strips: ...

    def looked_at(self, stage: Stage) -> StageTrail | None: ...

    def measured(self, step: Step, count: int, longer: int) -> Node | None: ...

    def pyramid(self, count: int, longer: int) -> Node: ...

    def respected(self, stage: Stage) -> tuple[KeepArea, ...] | None: ...

    def size_below(self, chain: Chain, count: int, longer: int) -> int: ...

    def size_painted(self, wanted: float, count: int, longer: int) -> int: ...

    def source(self, count: int, longer: int) -> Node: ...


class StageNode(Strips):
    """What a stage makes of its input, before that is laid over it. Its input is described only when it is asked for."""

    def __init__(self, trail: StageTrail, count: int, longer: int) -> None:
        self._trail = trail
        self._count = count
        self._longer = longer
        self._stage = trail.stages[count - 1]
        self._step = self._stage.steps[0]
        self.shape = self._stage.after.pixels(longer)

    @property
    def name(self) -> str:
        return self._stage.kinds[-1].label.lower()

    @cached_property
    def key(self) -> str:
        return (self._trail.key if self._stage.is_plain else self._trail.unlaid_key)(self._count, self._longer)

    @cached_property
    def input(self) -> Strips:
        """The picture before the stage, of the same size."""
        return self._trail.after(self._count - 1, self._longer)

    def trail_at(self, size: int) -> StageTrail:
        """Return the trail whose picture is read at `size`: where it is read at the stage's own size as well, even from there on."""
        twice = size != self._longer and (not self._stage.is_plain or self._stage.kind.way == "paint")
        return self._trail.evened if twice else self._trail

    @cached_property
    def measured(self) -> Node | None:
        """What its step finds out about its input; None where it asks for nothing."""
        return self._trail.measured(self._step, self._count - 1, self._longer)

    @cached_property
    def keep(self) -> Node | None:
        """How much is kept of its input, where the stage respects that."""
        return self._trail.keep_after(self._count - 1) if self._trail.respected(self._stage) else None
