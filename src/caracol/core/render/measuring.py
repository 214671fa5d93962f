"""What steps must know of a whole picture before they can begin: measures and guides, found on small looks."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import cv2
import numpy as np

from ..arrays import Array
from ..geometry.frame import Frame
from ..kinds.kind import Beneath
from ..piece.model import Place, Step
from . import keys
from .chain import Link
from .nodes import Node, Results, Strips, pixels_of
from .placing import fit_scale
from .stage_node import StageTrail


class Resized(Strips):
    """A picture scaled down by areas; of the picture at hand, for drafts."""

    kept = False
    flows = False

    def __init__(self, picture: Strips, shape: tuple[int, int]) -> None:
        self._picture = picture
        self.shape = shape

    @cached_property
    def key(self) -> str:
        return keys.resized(self._picture.key, self.shape)

    @property
    def needs(self) -> tuple[Node, ...]:
        return (self._picture,)

    def make(self, making: Results) -> Array:
        return np.asarray(cv2.resize(making[self._picture], self.shape[::-1], interpolation=cv2.INTER_AREA))


class Known(dict[str, Any]):
    """What a step found out, as the cache keeps it."""

    @property
    def nbytes(self) -> int:
        """How large it is, roughly: arrays in it, and in collections in it."""
        waiting, total = list(self.values()), 1024
        while waiting:
            value = waiting.pop()
            total += int(getattr(value, "nbytes", 0))
            waiting += value.values() if isinstance(value, dict) else ()
        return total


@dataclass(frozen=True)
class UnderLook:
    """A look of what lies under a layer, and how the layer lies on it."""

    look: Strips
    frame: Frame
    layer: Frame
    place: Place
    contain: bool

    @property
    def key(self) -> str:
        """What identifies all of it."""
        return keys.under(self.look.key, (self.place, self.layer), self.contain)

    def beneath(self, making: Results) -> Beneath:
        """Return it as a step is given it."""
        scale = fit_scale(self.layer, self.frame, self.contain) * self.place.scale
        place = self.place
        return Beneath(making[self.look], self.frame, place.x, place.y, scale, place.turn, place.flip)


class Measured(Node):
    """What a step finds out about its whole input, by name. Of a step that does one thing after the other it is kept, and gone on from."""

    def __init__(self, step: Step, look: Strips, under: UnderLook | None = None) -> None:
        self._step = step
        self._look = look
        self._under = under
        self._fewer = getattr(step.definition, "fewer", None)
        self.kept = self._fewer is not None

    @cached_property
    def key(self) -> str:
        return keys.measured(self._look.key, self._step.definition, self._step.settings, self._under.key if self._under else None)

    @property
    def needs(self) -> tuple[Node, ...]:
        return (self._look, self._under.look) if self._under else (self._look,)

    @property
    def cost(self) -> float:
        return 50.0 * pixels_of(self._look.shape)

    def make(self, making: Results) -> dict[str, Any]:
        measure = self._step.definition.measure
        assert measure is not None
        if self._step.definition.grounded:
            return measure(making[self._look], self._step.settings, self._under.beneath(making) if self._under else None)
        if self._fewer is None:
            return measure(making[self._look], self._step.settings)
        return Known(measure(making[self._look], self._step.settings, self._begun(making)))

    def _begun(self, making: Results) -> dict[str, Any]:
        """Return what was found out with only the first things the step does, where the cache has it."""
        for settings, _ in self._fewer(self._step.settings):  # type: ignore[misc]
            found = making.context.cache.peek(keys.measured(self._look.key, self._step.definition, settings))
            if found is not None:
                return dict(found)
        return {}


class Guide(Node):
    """What a guided bend must know of its input, or of the layer that it looks at."""

    def __init__(self, trail: StageTrail, count: int, longer: int) -> None:
        """Of the bend that comes after the first `count` stages."""
        stage = trail.stages[count]
        assert stage.chain is not None
        self._link: Link = stage.chain.links[0]
        trail = trail.settled if self._link.kind.decides else trail
        self._other = trail.looked_at(stage)
        seen = trail if self._other is None else self._other
        self._look = seen.looked(self._link.kind.guide_size, len(seen.stages) if self._other else count, longer)
        self._input = trail.key(count, 0 if trail.quality.apart else longer)
        self._chosen = {name: getattr(self._link.step.settings, name) for name in self._link.kind.guide_settings}

    @cached_property
    def key(self) -> str:
        return keys.guide(self._input, None if self._other is None else self._other.digest, self._link.kind, self._chosen)

    @property
    def needs(self) -> tuple[Node, ...]:
        return (self._look,)

    @property
    def cost(self) -> float:
        return 50.0 * pixels_of(self._look.shape)

    def make(self, making: Results) -> Array:
        picture, guide = making[self._look], self._link.kind.guide
        assert guide is not None
        return guide(picture if self._other is None else _covering(picture, self._link.before.ratio), **self._chosen)


def _covering(picture: Array, ratio: float) -> Array:
    """Return the middle of a picture that has a ratio."""
    rows, cols = picture.shape[:2]
    wide, high = min(cols, max(1, round(rows * ratio))), min(rows, max(1, round(cols / ratio)))
    top, left = (rows - high) // 2, (cols - wide) // 2
    return picture[top : top + high, left : left + wide]
