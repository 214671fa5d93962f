"""A trail: one layer's ground and stages, as nodes at any size."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property
from math import ceil, log2
from typing import Protocol

from ..errors import PieceError
from ..geometry.frame import Frame
from ..kinds.kind import Way
from ..piece.keep import KeepArea
from ..piece.model import Place, Step
from . import keys
from .bend import BendChainNode
from .blended_step import BlendedStep
from .chain import Chain
from .context import LARGEST, Context
from .grounds import Ground
from .hard import Hard
from .keep_masks import KeepMask
from .measuring import Measured, Resized, UnderLook
from .nodes import CodedOf, Node, PyramidOf, Strips
from .paint import Painted
from .picture_step import PictureStep
from .quality import FULL, Quality
from .raster import Rastered
from .stages import Stage

RUNNERS: dict[Way, Callable[[Trail, int, int], Strips]] = {
    "bend": BendChainNode,
    "paint": Painted,
    "picture": PictureStep,
    "hard": Hard,
    "raster": Rastered,
}
"""What makes the picture of a stage, by how its kind is run: of a trail, after so many stages, at a size."""
MOST_HELD = 1 << 26
"""Pixels of the largest picture that a bend reads: a gigabyte, and as much again for its pyramid."""
MOST_DRAWN = MOST_HELD // 2
MOST_MADE = 1 << 23
"""Pixels of what steps made of something drawn, where it is read larger than it is asked for: it has no photo's end of detail to stop at."""
Others = Callable[[str], "Trail"]
"""Finds the trail of another layer, by its id."""


class Below(Protocol):
    """What can lie under a layer: what is put together so far."""

    @property
    def frame(self) -> Frame:
        """The piece's."""

    @property
    def digest(self) -> str:
        """What identifies it at any size."""

    @property
    def settled(self) -> Below:
        """The same as it is delivered."""

    def picture(self, longer: int) -> Strips:
        """Return it with `longer` pixels on its longer side."""


@dataclass(frozen=True)
class Under:
    """What lies under a layer, and how the layer lies on it."""

    below: Below
    place: Place
    contain: bool

    @cached_property
    def digest(self) -> str:
        """What identifies all of it."""
        return keys.under(self.below.digest, self.place, self.contain)

    def look(self, size: int, longer: int, layer: Frame, quality: Quality) -> UnderLook:
        """Return a look of `size` pixels of it, for a layer that has this frame; drafts look at the picture at hand."""
        if quality.apart or longer <= size:
            look = self.below.picture(size if quality.apart else longer)
        else:
            look = Resized(self.below.picture(longer), self.below.frame.pixels(size))
        return UnderLook(look, self.below.frame, layer, self.place, self.contain)


def _no_others(layer: str) -> Trail:
    raise PieceError([f"layer: no layer has the id {layer!r}"])


class Trail:
    """The stages of one layer up to one step. It computes nothing: it says what would be computed.

    Parameters
    ----------
    even : bool
        Whether its stages read pictures no larger than what they make, unless they only scale. What is read at two sizes, as it is and
        larger, is even where it is larger: else every stage and every layer would double what those below it cost.
    """

    def __init__(
        self,
        ground: Ground,
        stages: list[Stage],
        context: Context,
        keep: tuple[KeepArea, ...] = (),
        others: Others | None = None,
        under: Under | None = None,
        even: bool = False,
    ) -> None:
        self._context = context
        self.even = even
        self.quality = context.quality
        self.photos = context.photos
        self.ground = ground
        self.keep = keep
        self.stages = stages
        self._others = others or _no_others
        self.under = under
        self._pictures: dict[tuple[int, int], Strips] = {}

    @property
    def digest(self) -> str:
        """What identifies the result, at any size."""
        return self.digests[-1]

    @property
    def frame(self) -> Frame:
        """The frame of the result."""
        return self.frame_after(len(self.stages))

    @cached_property
    def evened(self) -> Trail:
        """The same, even."""
        return self if self.even else Trail(self.ground, self.stages, self._context, self.keep, self._others, self.under, even=True)

    @cached_property
    def digests(self) -> list[str]:
        """What identifies the ground, and the result after each stage, at any size."""
        found = [keys.source("even", self.ground.digest) if self.even else self.ground.digest]
        for stage in self.stages:
            found.append(self.digest_after(found[-1], stage))
        return found

    @cached_property
    def settled(self) -> Trail:
        """The same as it is delivered, where this is a draft."""
        if self.quality == FULL:
            return self
        under = None if self.under is None else replace(self.under, below=self.under.below.settled)
        context = replace(self._context, quality=FULL)
        return Trail(self.ground.settled, self.stages, context, self.keep, lambda layer: self._others(layer).settled, under, self.even)

    def digest_after(self, before: str, stage: Stage) -> str:
        """Return what identifies the result of one more stage after what `before` identifies."""
        return keys.after(before, stage, self.respected(stage), self.looked_at_digest(stage), self.photos)

    def frame_after(self, count: int) -> Frame:
        """Return the frame after the first `count` stages."""
        return self.stages[count - 1].after if count else self.ground.frame

    def respected(self, stage: Stage) -> tuple[KeepArea, ...] | None:
        """Return the keep areas where a stage respects them."""
        return self.keep if self.keep and any(kind.respects_keep for kind in stage.kinds) else None

    def looked_at(self, stage: Stage) -> Trail | None:
        """Return the trail of the layer that a guided step looks at in place of its own input."""
        link = stage.chain.links[0] if stage.chain else None
        named = getattr(link.step.settings, link.kind.guide_layer) if link and link.kind.guide_layer else None
        return None if named is None else self._others(named)

    def looked_at_digest(self, stage: Stage) -> str | None:
        """Return what identifies that layer, or what lies under this one where a stage looks at that."""
        if self.under is not None and any(kind.grounded for kind in stage.kinds):
            return self.under.digest
        other = self.looked_at(stage)
        return None if other is None else other.digest

    def key(self, count: int, longer: int) -> str:
        """Return the key of the picture after the first `count` stages."""
        return keys.picture(self.digests[count], longer, self.quality)

    def unlaid_key(self, count: int, longer: int) -> str:
        """Return the key of what a stage makes before it is laid over its input."""
        stage = self.stages[count - 1]
        what = keys.unlaid(self.digests[count - 1], stage, self.respected(stage), self.looked_at_digest(stage), self.photos)
        return keys.picture(what, longer, self.quality)

    def key_with(self, count: int, longer: int, step: Step) -> str:
        """Return the key of what stage `count` would make with another step in place of its own, as its runner keeps it."""
        stage = replace(self.stages[count - 1], steps=(step,))
        identify = keys.after if stage.is_plain else keys.unlaid
        what = identify(self.digests[count - 1], stage, self.respected(stage), self.looked_at_digest(stage), self.photos)
        return keys.picture(what, longer, self.quality)

    def picture(self, longer: int) -> Strips:
        """Return the result with `longer` pixels on its longer side."""
        return self.after(len(self.stages), longer)

    def after(self, count: int, longer: int) -> Strips:
        """Return the picture after the first `count` stages."""
        if longer > LARGEST:
            raise PieceError([f"size: {longer} is more than the {LARGEST} pixels allowed; ask for less"])
        if (count, longer) not in self._pictures:
            self._pictures[count, longer] = self._after(count, longer)
        return self._pictures[count, longer]

    def _after(self, count: int, longer: int) -> Strips:
        if count == 0:
            return self.ground.picture(longer)
        stage = self.stages[count - 1]
        made = RUNNERS[stage.kind.way](self, count, longer)
        return made if stage.is_plain else BlendedStep(self, count, longer, made)

    def pyramid(self, count: int, longer: int) -> Node:
        """Return the pyramid of the picture after the first `count` stages."""
        return self.ground.pyramid(longer) if count == 0 else PyramidOf(self.after(count, longer))

    def source(self, count: int, longer: int) -> Node:
        """Return the picture after the first `count` stages, for sampling: a pyramid, for drafts its coded levels."""
        pyramid = self.pyramid(count, longer)
        return CodedOf(pyramid, longer, self.frame_after(count)) if self.quality.coded else pyramid

    def keep_after(self, count: int) -> Node | None:
        """Return how much is kept after the first `count` stages, 0…1, (rows, cols) in the frame there; None without keep areas."""
        return KeepMask(self, count) if self.keep else None

    def looked(self, size: int, count: int, longer: int) -> Strips:
        """Return the look of the first `count` stages, of `size` pixels, that a step is measured on."""
        if self.ground.longest is not None and not any(stage.chain for stage in self.stages[:count]):
            size = min(size, self.ground.longest)
        if self.quality.apart or longer <= size:
            return self.after(count, size if self.quality.apart else longer)
        return Resized(self.after(count, longer), self.frame_after(count).pixels(size))

    def measured(self, step: Step, count: int, longer: int) -> Measured | None:
        """Return what a step finds out about the picture after the first `count` stages; None where it asks for nothing."""
        if step.definition.measure is None or not step.definition.measures(step.settings):
            return None
        kind = step.definition
        seen = self.settled if kind.decides else self
        look = seen.looked(kind.measure_size, count, longer)
        if not kind.grounded or seen.under is None:
            return Measured(step, look)
        return Measured(step, look, seen.under.look(kind.measure_size, longer, self.frame_after(count), seen.quality))

    def size_below(self, chain: Chain, count: int, longer: int) -> int:
        """Choose the size of the picture a chain reads: what it needs, and no more than shows all that is in it."""
        return self._size_for(chain.longer_needed(longer), count, longer, chain.only_scales(longer))

    def size_painted(self, wanted: float, count: int, longer: int) -> int:
        """Choose the size of the input that a painting step reads.

        Parts that are not moved show the input as large as the output. Where another size of it would be another picture (drafts measure
        on the picture at hand and have smaller rasters; a raster of every pixel is as large as its picture), moved parts must too.
        """
        every = any(stage.kind.takes_every_pixel(stage.steps[0].settings) for stage in self.stages[:count])
        return longer if every or not self.quality.apart else self._size_for(wanted, count, longer)

    def _size_for(self, wanted: float, count: int, longer: int, exact: bool = False) -> int:
        wanted *= self.quality.detail
        # Read pixel by pixel, a picture is what it is at that very size; else sizes are few, so that they are found again.
        needed = wanted if exact and self.quality.apart else 2 ** (ceil(2 * log2(max(wanted, 16))) / 2)
        shown = self.shown_after[count]
        ratio = self.frame_after(count).ratio
        # What is drawn has no end of detail; a photo's is worth more room.
        if shown is not None:
            most = min(ceil(shown), _longest_of(MOST_HELD, ratio))
        elif exact or not count:
            most = _longest_of(MOST_DRAWN, ratio)
        else:
            most = max(longer, _longest_of(MOST_MADE, ratio))
        if self.even and (shown is None or not exact):
            most = min(most, longer)
        return max(16, min(round(needed), most, LARGEST))

    @property
    def shown(self) -> float | None:
        """Pixels on its longer side at which the result shows all that is in it; None where there is no end to that."""
        return self.shown_after[-1]

    @cached_property
    def shown_after(self) -> list[float | None]:
        """The same of the ground, and of the result after each stage. What lays smaller copies down shows no end of detail.

        What one bend presses together may need a larger picture than the photos have; what many do one after the other needs no more: there
        is nothing between the photos' pixels.
        """
        found = [self.ground.shown]
        for stage in self.stages:
            before = found[-1]
            if stage.kind.way == "paint":
                found.append(None)
            elif before is None or stage.chain is None:
                found.append(before)
            else:
                holds = self.ground.holds or before
                found.append(min(stage.chain.longer_shown(before), max(before, stage.chain.longer_shown(holds))))
        return found

    @property
    def holds(self) -> float | None:
        """Pixels on its longer side that the photos in it hold; None where something in it is drawn."""
        return self.ground.holds


def _longest_of(pixels: int, ratio: float) -> int:
    """Return the longer side of a picture of so many pixels."""
    return int((pixels * max(ratio, 1 / ratio)) ** 0.5)
