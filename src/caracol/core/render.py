"""Render: from a piece to pixels, by stages that are cached, in strips that can be stopped."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from math import ceil, log2
from typing import Any, Protocol, cast

import cv2
import numpy as np

from .arrays import Array
from .blending import mix
from .cache import Cache, digest
from .chain import Chain, link_of
from .errors import Overtaken, PieceError
from .frame import Frame
from .kinds import BendKind, PictureKind, Rows
from .piece import Piece, Step
from .pyramid import Pyramid, pyramid_of
from .sampling import FULL, Quality, sample_strip

STRIP = 64
LARGEST = 32768
POOL = ThreadPoolExecutor(os.cpu_count() or 1, thread_name_prefix="strip")
# OpenCV brings threads of its own; strips already use every core.
cv2.setNumThreads(1)


class Photos(Protocol):
    """Where photos come from."""

    def pyramid(self, name: str) -> Pyramid:
        """Return a photo, or raise MissingPhoto or PictureError."""

    def digest(self, name: str) -> str:
        """Return what identifies the photo's contents."""


def _never_stop() -> bool:
    return False


def _no_progress(share: float) -> None:
    return None


@dataclass(frozen=True)
class Context:
    """What is fixed for one render.

    Parameters
    ----------
    stop : callable () -> bool
        Asked before every strip; True ends the render with `Overtaken`.
    progress : callable (share)
        Told 0…1 as strips of the last stage are done.
    """

    photos: Photos
    cache: Cache = field(default_factory=lambda: Cache(1 << 30))
    quality: Quality = FULL
    stop: Callable[[], bool] = _never_stop
    progress: Callable[[float], None] = _no_progress


@dataclass(frozen=True)
class Stage:
    """A run of steps computed together: one bend chain, or one step on pictures."""

    steps: tuple[Step, ...]
    before: Frame
    after: Frame
    chain: Chain | None


def stages_of(piece: Piece, photo: Frame, upto: int | None = None) -> list[Stage]:
    """Split the first `upto` steps of a trail (all when None) into stages; idle steps fall out, plain geometric ones fuse."""
    frames = piece.frames(photo)
    stages: list[Stage] = []
    for index, step in enumerate(piece.layer.steps[:upto]):
        if step.is_idle:
            continue
        before, after = frames[index], frames[index + 1]
        if not isinstance(step.definition, BendKind):
            stages.append(Stage((step,), before, after, None))
            continue
        link = link_of(step, before, after)
        last = stages[-1] if stages else None
        if step.is_plain and last is not None and last.chain is not None and last.steps[-1].is_plain:
            stages[-1] = Stage((*last.steps, step), last.before, after, Chain((*last.chain.links, link)))
        else:
            stages.append(Stage((step,), before, after, Chain((link,))))
    return stages


class Renderer:
    """The stages of one piece up to one step, ready to be computed at any size."""

    def __init__(self, piece: Piece, context: Context, upto: int | None = None) -> None:
        name = piece.layer.source.photo
        if name is None:
            raise PieceError(["layers[0].source.photo: this is a recipe; name a photo to render it"])
        self.context = context
        self.photo = context.photos.pyramid(name)
        self._photo_digest = context.photos.digest(name)
        self.stages = stages_of(piece, self.photo.frame, upto)

    @property
    def frame(self) -> Frame:
        """The frame of the result."""
        return self.stages[-1].after if self.stages else self.photo.frame

    def picture(self, longer: int) -> Array:
        """Return the result, (rows, cols, 4), with `longer` pixels on its longer side."""
        return self._picture(len(self.stages), longer)

    def rows(self, longer: int) -> tuple[tuple[int, int], Iterator[tuple[int, Array]]]:
        """Return (rows, cols) and an iterator of (top, strip) that never holds the whole last stage."""
        shape = self.frame.pixels(longer)
        return shape, self._rows(len(self.stages), longer, keep=False)

    def _key(self, count: int, longer: int) -> str:
        steps = [step.model_dump() for stage in self.stages[:count] for step in stage.steps]
        for step in steps:
            step.pop("id")
        return digest(self._photo_digest, steps, longer, self.context.quality)

    def _picture(self, count: int, longer: int) -> Array:
        if longer > LARGEST:
            raise PieceError([f"size: {longer} is more than the {LARGEST} pixels allowed; ask for less"])
        if count == 0:
            return self.photo.picture(longer)
        stage = self.stages[count - 1]

        def make() -> Array:
            rows, cols = stage.after.pixels(longer)
            out = np.empty((rows, cols, 4), np.float32)
            for top, strip in self._rows(count, longer, into=out):
                if strip.base is not out:
                    out[top : top + len(strip)] = strip
            return out

        return self.context.cache.get(self._key(count, longer), make)

    def _pyramid(self, count: int, longer: int) -> Pyramid:
        if count == 0:
            return self.photo
        return self.context.cache.get("pyramid " + self._key(count, longer), lambda: pyramid_of(self._picture(count, longer)))

    def _size_below(self, chain: Chain, count: int, longer: int) -> int:
        """Choose the size of the picture a chain reads: what it needs, in half octaves, and no more than there is."""
        wanted = chain.longer_needed(longer) * self.context.quality.detail
        needed = 2 ** (ceil(2 * log2(max(wanted, 16))) / 2)
        bent = any(stage.chain for stage in self.stages[:count])
        most = 2 * longer if bent else max(self.photo.rows, self.photo.cols)
        return max(16, min(round(needed), most, LARGEST))

    def _rows(self, count: int, longer: int, keep: bool = True, into: Array | None = None) -> Iterator[tuple[int, Array]]:
        """Compute the first `count` stages strip by strip.

        `keep` caches the pictures between them, else they only pass through; strips may be written straight `into` a whole picture.
        """
        if count == 0:
            picture = self.photo.picture(longer)
            return iter([(0, picture)])
        stage = self.stages[count - 1]
        if stage.chain is not None:
            return self._bent_rows(stage, stage.chain, count, longer, into)
        return self._worked_rows(stage, count, longer, keep)

    def _strips(self, rows: int, work: Callable[[int, int], Array]) -> Iterator[tuple[int, Array]]:
        """Compute strips in the shared pool, a few ahead of the reader, in order."""
        tops = list(range(0, rows, STRIP))
        ahead = 2 * (os.cpu_count() or 1)

        def one(top: int) -> Array:
            if self.context.stop():
                raise Overtaken("the work was overtaken by a newer request")
            return work(top, min(STRIP, rows - top))

        waiting = [POOL.submit(one, top) for top in tops[:ahead]]
        try:
            for index, top in enumerate(tops):
                strip = waiting.pop(0).result()
                if index + ahead < len(tops):
                    waiting.append(POOL.submit(one, tops[index + ahead]))
                self.context.progress((top + len(strip)) / rows)
                yield top, strip
        finally:
            for future in waiting:
                future.cancel()

    def _bent_rows(self, stage: Stage, chain: Chain, count: int, longer: int, into: Array | None) -> Iterator[tuple[int, Array]]:
        source = self._pyramid(count - 1, self._size_below(chain, count - 1, longer))
        rows, cols = stage.after.pixels(longer)
        plain = stage.steps[0].is_plain
        under = None if plain else self._picture(count - 1, longer)

        def work(top: int, height: int) -> Array:
            out = np.empty((height, cols, 4), np.float32) if into is None or not plain else into[top : top + height]
            x, y = stage.after.grid(rows, cols, top, height, halo=1)
            sample_strip(source, chain.wrap, chain, x, y, out, self.context.quality)
            if under is None:
                return out
            return self._mixed(stage, under[top : top + height], out, Rows(stage.after, rows, cols, top, height))

        return self._strips(rows, work)

    def _worked_rows(self, stage: Stage, count: int, longer: int, keep: bool) -> Iterator[tuple[int, Array]]:
        step = stage.steps[0]
        kind = cast(PictureKind, step.definition)
        settings = {name: getattr(step.settings, name) for name in type(step.settings).model_fields}
        measured: dict[str, Any] = {}
        if kind.measure is not None:
            measured = kind.measure(self._to_measure(kind, count - 1, longer), **settings)
        rows, cols = stage.after.pixels(longer)

        def work(before: Array, top: int, height: int) -> Array:
            place = Rows(stage.after, rows, cols, top, height)
            return self._mixed(stage, before, kind.apply(before, place, measured, **settings), place)

        if not kind.local:
            return iter([(0, work(self._picture(count - 1, longer), 0, rows))])
        if not keep:
            return ((top, work(strip, top, len(strip))) for top, strip in self._rows(count - 1, longer, keep))
        whole = self._picture(count - 1, longer)
        return self._strips(rows, lambda top, height: work(whole[top : top + height], top, height))

    def _to_measure(self, kind: PictureKind, count: int, longer: int) -> Array:
        """Return the look of the first `count` stages that a step is measured on."""
        size = kind.measure_size
        if not any(stage.chain for stage in self.stages[:count]):
            size = min(size, max(self.photo.rows, self.photo.cols))
        if self.context.quality.apart or longer <= size:
            return self._picture(count, size if self.context.quality.apart else longer)
        rows, cols = self.stages[count - 1].after.pixels(size) if count else self.photo.frame.pixels(size)
        return np.asarray(cv2.resize(self._picture(count, longer), (cols, rows), interpolation=cv2.INTER_AREA))

    @staticmethod
    def _mixed(stage: Stage, before: Array, after: Array, place: Rows) -> Array:
        step = stage.steps[0]
        if step.is_plain:
            return after
        where = None if step.where is None else step.where.mask(place.frame, place.rows, place.cols, place.top, place.count)
        return mix(before, after, step.strength, step.blend, frozenset(step.channels), where)


def render(piece: Piece, size: int, photos: Photos, upto: int | None = None, **context: Any) -> Array:
    """Render a piece.

    Parameters
    ----------
    size : int
        Pixels on the longer side, from 1.
    upto : int, optional
        How many steps of the trail to take; all when left out.
    **context
        Further fields of `Context`.

    Returns
    -------
    float32 array of shape (rows, cols, 4)
        sRGB-coded, premultiplied, 0…1.
    """
    return Renderer(piece, Context(photos, **context), upto).picture(size)
