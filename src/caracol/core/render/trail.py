"""A trail: one layer's ground and steps, as stages that are cached and computed in strips."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import cached_property
from math import ceil, log2
from typing import Any, cast

import cv2
import numpy as np

from ..errors import PieceError
from ..geometry.frame import Frame
from ..kinds.kind import BendKind, Kind, PaintKind, PictureKind, RasterKind, Rows
from ..kinds.settings import Settings
from ..piece.keep import KeepArea, keep_mask, on_raster
from ..piece.model import Layer, Step
from ..pixels.arrays import Array
from ..pixels.blending import mix
from ..pixels.painting import Brush
from ..pixels.pyramid import Pyramid, pyramid_of
from ..pixels.raster import Kept, Raster, scaled
from ..pixels.sampling import sample_strip
from . import keys
from .chain import Chain, Link, link_of
from .context import CORES, LARGEST, STRIP, Context
from .grounds import Ground

Others = Callable[[str], "Trail"]
"""Finds the trail of another layer, by its id."""


@dataclass(frozen=True)
class Stage:
    """A run of steps computed together: one bend chain, or one step on pictures."""

    steps: tuple[Step, ...]
    before: Frame
    after: Frame
    chain: Chain | None

    @property
    def is_plain(self) -> bool:
        """Whether the result stands for itself and is not laid over the input."""
        return self.steps[0].is_plain and not (self.chain is None and self.kind.cuts)

    @property
    def kind(self) -> Kind:
        """The kind of its first step."""
        return self.chain.links[0].kind if self.chain else self.steps[0].definition

    @property
    def settings(self) -> list[Settings]:
        """The settings of all its steps."""
        return [step.settings for step in self.steps]

    @property
    def kinds(self) -> list[Kind]:
        """The kinds of all its steps."""
        return [link.kind for link in self.chain.links] if self.chain else [self.steps[0].definition]


def _joined(stages: list[Stage], link: Link) -> list[Stage]:
    """Return the stages with one more link, fused with the last where both are plain."""
    last = stages[-1] if stages else None
    fuses = link.step.is_plain and link.kind.guide is None
    if fuses and last is not None and last.chain is not None and last.is_plain:
        return [*stages[:-1], Stage((*last.steps, link.step), last.before, link.after, Chain((*last.chain.links, link)))]
    return [*stages, Stage((link.step,), link.before, link.after, Chain((link,)))]


def stages_of(layer: Layer, ground: Frame, upto: int | None = None, first: Link | None = None) -> list[Stage]:
    """Split the first `upto` steps of a layer (all when None) into stages; idle steps fall out, plain geometric ones fuse."""
    stages: list[Stage] = [] if first is None else _joined([], first)
    frames = layer.frames(ground if first is None else first.after)
    for index, step in enumerate(layer.steps[:upto]):
        if step.is_idle:
            continue
        before, after = frames[index], frames[index + 1]
        if step.definition.follow is not None:
            earlier = [(one.kind, one.settings) for one in layer.steps[:index] if not one.is_idle]
            step = step.model_copy(update={"settings": step.definition.follow(step.settings, earlier)})
        if isinstance(step.definition, BendKind):
            stages = _joined(stages, link_of(step, before, after))
        else:
            stages.append(Stage((step,), before, after, None))
    return stages


def placed(stages: list[Stage], link: Link | None) -> list[Stage]:
    """Return the stages with the layer put on the piece."""
    return stages if link is None else _joined(stages, link)


def _covering(picture: Array, frame: Frame) -> Array:
    """Return the middle of a picture that has a frame's ratio."""
    rows, cols = picture.shape[:2]
    wide, high = min(cols, max(1, round(rows * frame.ratio))), min(rows, max(1, round(cols / frame.ratio)))
    top, left = (rows - high) // 2, (cols - wide) // 2
    return picture[top : top + high, left : left + wide]


def _no_others(layer: str) -> Trail:
    raise PieceError([f"layer: no layer has the id {layer!r}"])


class Trail:
    """The stages of one piece up to one step, ready to be computed at any size."""

    def __init__(
        self, ground: Ground, stages: list[Stage], context: Context, keep: tuple[KeepArea, ...] = (), others: Others | None = None
    ) -> None:
        self.context = context
        self.ground = ground
        self.keep = keep
        self.others = others or _no_others
        self.stages = stages
        self._others_found: dict[str, Trail] = {}

    @property
    def digest(self) -> str:
        """What identifies the result, at any size."""
        return self._digest(len(self.stages))

    @property
    def frame(self) -> Frame:
        """The frame of the result."""
        return self.stages[-1].after if self.stages else self.ground.frame

    def picture(self, longer: int) -> Array:
        """Return the result, (rows, cols, 4), with `longer` pixels on its longer side."""
        return self._picture(len(self.stages), longer)

    def rows(self, longer: int) -> tuple[tuple[int, int], Iterator[tuple[int, Array]]]:
        """Return (rows, cols) and an iterator of (top, strip) that never holds the whole last stage."""
        shape = self.frame.pixels(longer)
        return shape, self._rows(len(self.stages), longer, keep=False)

    def _digest(self, count: int) -> str:
        return self._digests[count]

    @cached_property
    def _digests(self) -> list[str]:
        """What identifies the ground, and the result after each stage, at any size."""
        found = [self.ground.digest]
        for stage in self.stages:
            found.append(keys.after(found[-1], stage, self._respected(stage), self._looked_at_digest(stage), self.context.photos))
        return found

    def _respected(self, stage: Stage) -> tuple[KeepArea, ...] | None:
        """Return the keep areas where a stage respects them."""
        return self.keep if self.keep and any(kind.keeps for kind in stage.kinds) else None

    def keep_after(self, count: int) -> Array | None:
        """Return how much is kept after the first `count` stages, 0…1, (rows, cols) in the frame there; None without keep areas."""
        if not self.keep:
            return None

        def make() -> Array:
            if count == 0:
                return keep_mask(self.keep, self.ground.frame, self.ground.picture)
            mask = self.keep_after(count - 1)
            assert mask is not None
            for link in self._keeping(self.stages[count - 1].chain, mask).links if self.stages[count - 1].chain else ():  # type: ignore[arg-type]
                mask = link.carry(mask)
            return mask

        bends = tuple(stage.chain for stage in self.stages[:count] if stage.chain)
        return self.context.cache.get(keys.keep_mask(self.ground.digest, self.keep, bends), make)

    @staticmethod
    def _keeping(chain: Chain, mask: Array | None) -> Chain:
        """Return the chain with each step that heeds keep areas told how much is kept where it acts."""
        if mask is None or not any(link.kind.keeps for link in chain.links):
            return chain
        links = []
        for link in chain.links:
            links.append(replace(link, keep=mask) if link.kind.keeps else link)
            mask = links[-1].carry(mask)
        return Chain(tuple(links))

    def _key(self, count: int, longer: int) -> str:
        return keys.picture(self._digest(count), longer, self.context.quality)

    def _unlaid_key(self, count: int, longer: int) -> str:
        """Return the key of the stage's result before it is laid over its input."""
        stage = self.stages[count - 1]
        what = keys.unlaid(self._digest(count - 1), stage, self._respected(stage), self._looked_at_digest(stage), self.context.photos)
        return keys.picture(what, longer, self.context.quality)

    def _picture(self, count: int, longer: int) -> Array:
        if longer > LARGEST:
            raise PieceError([f"size: {longer} is more than the {LARGEST} pixels allowed; ask for less"])
        if count == 0:
            return self.ground.picture(longer)
        stage = self.stages[count - 1]
        rows, cols = stage.after.pixels(longer)

        def gather(strips: Callable[[Array], Iterator[tuple[int, Array]]]) -> Array:
            out = np.empty((rows, cols, 4), np.float32)
            for top, strip in strips(out):
                if strip.base is not out:
                    out[top : top + len(strip)] = strip
            return out

        def make() -> Array:
            if stage.is_plain:
                return gather(lambda out: self._rows(count, longer, into=out))
            # What the step does is kept apart from how it is laid over: strength, where and blend then change at once.
            raw = self.context.cache.get(
                self._unlaid_key(count, longer), lambda: gather(lambda out: self._rows(count, longer, into=out, raw=True))
            )
            before = self._picture(count - 1, longer)
            mask = self.context.mask(stage.steps[0].where, stage.after, (rows, cols), before)

            def lay(top: int, height: int) -> Array:
                part = slice(top, top + height)
                return self._laid(stage, before[part], raw[part], None if mask is None else mask[part])

            return gather(lambda out: self.context.strips(rows, lay))

        return self.context.cache.get(self._key(count, longer), make)

    def _pyramid(self, count: int, longer: int) -> Pyramid:
        if count == 0:
            return self.ground.pyramid(longer)
        return self.context.cache.get(keys.pyramid(self._key(count, longer)), lambda: pyramid_of(self._picture(count, longer)))

    def _size_below(self, chain: Chain, count: int, longer: int) -> int:
        """Choose the size of the picture a chain reads: what it needs, in half octaves, and no more than there is."""
        return self._size_for(chain.longer_needed(longer), count, longer)

    def _size_painted(self, wanted: float, count: int, longer: int) -> int:
        """Choose the size of the input that a painting step reads.

        Parts that are not moved show the input as large as the output. Where another size of it would be another picture (drafts measure
        on the picture at hand and have smaller rasters; a raster of every pixel is as large as its picture), moved parts must too.
        """
        every = any(isinstance(stage.kind, RasterKind) and not stage.kind.lines(stage.steps[0].settings) for stage in self.stages[:count])
        return longer if every or not self.context.quality.apart else self._size_for(wanted, count, longer)

    def _size_for(self, wanted: float, count: int, longer: int) -> int:
        wanted *= self.context.quality.detail
        needed = 2 ** (ceil(2 * log2(max(wanted, 16))) / 2)
        bent = any(stage.chain for stage in self.stages[:count])
        most = 2 * longer if bent or self.ground.longest is None else self.ground.longest
        return max(16, min(round(needed), most, LARGEST))

    def _rows(
        self, count: int, longer: int, keep: bool = True, into: Array | None = None, raw: bool = False
    ) -> Iterator[tuple[int, Array]]:
        """Compute the first `count` stages strip by strip.

        `keep` caches the pictures between them, else they only pass through; strips may be written straight `into` a whole picture; `raw`
        gives the last stage's result without laying it over its input.
        """
        if count == 0:
            picture = self.ground.picture(longer)
            return iter([(0, picture)])
        stage = self.stages[count - 1]
        if stage.chain is not None:
            return self._bent_rows(stage, stage.chain, count, longer, into, raw or stage.is_plain)
        if isinstance(stage.kind, PaintKind):
            return self._painted_rows(stage, stage.kind, count, longer, raw or stage.is_plain)
        if isinstance(stage.kind, RasterKind):
            return self._rastered_rows(stage, stage.kind, count, longer, raw or stage.is_plain)
        return self._worked_rows(stage, count, longer, keep, raw or stage.is_plain)

    def _guided(self, chain: Chain, count: int, longer: int) -> Chain:
        """Return the chain with its first step's guide, made from the first `count` stages, where it wants one."""
        link = chain.links[0]
        if link.kind.guide is None:
            return chain
        kind, chosen = link.kind, {name: getattr(link.step.settings, name) for name in link.kind.guide_settings}
        other = self._looked_at(self.stages[count])
        size = longer if not self.context.quality.apart else 0

        def make() -> Array:
            seen = self if other is None else other
            picture = seen._to_measure(kind.guide_size, len(seen.stages) if other else count, longer)
            return kind.guide(picture if other is None else _covering(picture, link.before), **chosen)  # type: ignore[misc]

        return chain.guided(
            self.context.cache.get(keys.guide(self._key(count, size), None if other is None else other.digest, kind, chosen), make)
        )

    def _looked_at(self, stage: Stage) -> Trail | None:
        """Return the trail of the layer that a guided step looks at in place of its own input."""
        link = stage.chain.links[0] if stage.chain else None
        named = getattr(link.step.settings, link.kind.guide_layer) if link and link.kind.guide_layer else None
        if named is None:
            return None
        if named not in self._others_found:
            self._others_found[named] = self.others(named)
        return self._others_found[named]

    def _looked_at_digest(self, stage: Stage) -> str | None:
        other = self._looked_at(stage)
        return None if other is None else other.digest

    def _bent_rows(
        self, stage: Stage, chain: Chain, count: int, longer: int, into: Array | None, plain: bool
    ) -> Iterator[tuple[int, Array]]:
        chain = self._keeping(self._guided(chain, count - 1, longer), self.keep_after(count - 1))
        source = self._pyramid(count - 1, self._size_below(chain, count - 1, longer))
        rows, cols = stage.after.pixels(longer)
        under = None if plain else self._picture(count - 1, longer)

        def work(top: int, height: int) -> Array:
            out = np.empty((height, cols, 4), np.float32) if into is None or not plain else into[top : top + height]
            x, y = stage.after.grid(rows, cols, top, height, halo=1)
            sample_strip(source, chain.wrap, chain, x, y, out, self.context.quality)
            if under is None:
                return out
            return self._mixed(stage, under[top : top + height], out, Rows(stage.after, rows, cols, top, height))

        return self.context.strips(rows, work)

    def _painted_rows(self, stage: Stage, kind: PaintKind, count: int, longer: int, plain: bool) -> Iterator[tuple[int, Array]]:
        step = stage.steps[0]
        settings = {name: getattr(step.settings, name) for name in type(step.settings).model_fields}
        source = self._pyramid(count - 1, self._size_painted(kind.magnifies(step.settings) * longer, count - 1, longer))
        whole = self._picture(count - 1, longer)
        rows, cols = stage.after.pixels(longer)
        measured = self._measured(step, count - 1, longer)
        kept = self.keep_after(count - 1) if kind.keeps else None

        def work(top: int, height: int) -> Array:
            place = Rows(stage.after, rows, cols, top, height)
            under = whole[top : top + height]
            painted = kind.paint(Brush(source, place, self.context.quality, measured, kept), under, **settings)
            return painted if plain else self._mixed(stage, under, painted, place)

        # Each strip costs something for every part painted: as few as keep all cores busy and memory bounded.
        return self.context.strips(rows, work, min(8 * STRIP, max(STRIP, ceil(rows / (2 * CORES)))))

    def _worked_rows(self, stage: Stage, count: int, longer: int, keep: bool, plain: bool) -> Iterator[tuple[int, Array]]:
        step = stage.steps[0]
        kind = cast(PictureKind, step.definition)
        settings = {name: getattr(step.settings, name) for name in type(step.settings).model_fields}
        measured = self._measured(step, count - 1, longer)
        rows, cols = stage.after.pixels(longer)

        def work(before: Array, top: int, height: int) -> Array:
            place = Rows(stage.after, rows, cols, top, height)
            worked = kind.apply(before, place, measured, **settings)
            return worked if plain else self._mixed(stage, before, worked, place)

        if not kind.local:
            return iter([(0, work(self._picture(count - 1, longer), 0, rows))])
        if not keep:
            return ((top, work(strip, top, len(strip))) for top, strip in self._rows(count - 1, longer, keep))
        whole = self._picture(count - 1, longer)
        return self.context.strips(rows, lambda top, height: work(whole[top : top + height], top, height))

    def _rastered_rows(self, stage: Stage, kind: RasterKind, count: int, longer: int, plain: bool) -> Iterator[tuple[int, Array]]:
        step = stage.steps[0]
        settings = {name: getattr(step.settings, name) for name in type(step.settings).model_fields}
        rows, cols = stage.after.pixels(longer)
        size = self._raster_size(kind, kind.lines(step.settings), stage.after, longer)
        shape = stage.after.pixels(size)
        source = self._picture(count - 1, size)
        kept = on_raster(self.keep_after(count - 1), *shape) if kind.keeps else None
        from_input = keys.raster(
            self._key(count - 1, size), kind, self._respected(stage), keys.photos_in(stage.settings, self.context.photos)
        )

        def remember(key: object, make: Callable[[], Kept]) -> Kept:
            self.context.check()
            return self.context.cache.get(keys.remembered(from_input, key), make)

        def work() -> Array:
            raster = Raster(
                rows=Rows(stage.after, *shape),
                keep=kept,
                remember=remember,
                recall=lambda key: self.context.cache.peek(keys.remembered(from_input, key)),
                in_parts=self.context.in_parts,
                photo=self.context.photos.pyramid,
                check=self.context.check,
            )
            return kind.work(source, raster, **settings)

        made = remember(("whole", step.settings), work)
        under = source if size == longer else self._picture(count - 1, longer)
        out = made
        if size != longer:
            changed = scaled((made != source).any(axis=-1).astype(np.float32), rows, cols)[..., None]
            out = under + changed * (scaled(made, rows, cols) - under)
        return iter([(0, out if plain else self._mixed(stage, under, out, Rows(stage.after, rows, cols, 0, rows)))])

    def _raster_size(self, kind: RasterKind, lines: int, frame: Frame, longer: int) -> int:
        """Return how many pixels the longer side of a step's raster has."""
        size = min(LARGEST, round(lines * max(frame.ratio, 1 / frame.ratio))) if lines else longer
        return size if self.context.quality.apart else min(size, max(16, round(kind.draft * longer)))

    def _measured(self, step: Step, count: int, longer: int) -> dict[str, Any]:
        measure = step.definition.measure
        if measure is None:
            return {}
        settings = {name: getattr(step.settings, name) for name in type(step.settings).model_fields}
        return measure(self._to_measure(step.definition.measure_size, count, longer), **settings)

    def measure_for(self, step: Step, longer: int) -> dict[str, Any]:
        """Return what a step that would come next finds out about this trail's picture."""
        return self._measured(step, len(self.stages), longer)

    def _to_measure(self, size: int, count: int, longer: int) -> Array:
        """Return the look of the first `count` stages, of `size` pixels, that a step is measured on."""
        if self.ground.longest is not None and not any(stage.chain for stage in self.stages[:count]):
            size = min(size, self.ground.longest)
        if self.context.quality.apart or longer <= size:
            return self._picture(count, size if self.context.quality.apart else longer)
        rows, cols = self.stages[count - 1].after.pixels(size) if count else self.ground.frame.pixels(size)
        return np.asarray(cv2.resize(self._picture(count, longer), (cols, rows), interpolation=cv2.INTER_AREA))

    @staticmethod
    def _mixed(stage: Stage, before: Array, after: Array, place: Rows) -> Array:
        mask = stage.steps[0].where
        where = None if mask is None else mask.mask(place.frame, place.rows, place.cols, place.top, place.count, before)
        return Trail._laid(stage, before, after, where)

    @staticmethod
    def _laid(stage: Stage, before: Array, after: Array, where: Array | None) -> Array:
        step = stage.steps[0]
        if stage.kind.cuts and where is not None:
            return before * (1 + np.float32(step.strength) * (where - 1))[..., None]
        return mix(before, after, step.strength, step.blend, frozenset(step.channels), where)
