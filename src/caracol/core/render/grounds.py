"""Grounds: what a trail begins with, at any size."""

from __future__ import annotations

from functools import cached_property
from typing import Protocol, Self

import numpy as np

from ..arrays import Array
from ..geometry.frame import Frame
from ..geometry.rows import Rows
from ..pixels.pyramid import Pyramid
from ..sources.drawn import DrawnSource
from . import keys
from .context import Photos
from .nodes import Node, Nothing, Prepared, PyramidOf, Results, Strips, Work, pixels_of


class Ground(Protocol):
    """A picture that steps begin with."""

    @property
    def frame(self) -> Frame:
        """Its frame."""

    @property
    def digest(self) -> str:
        """What identifies its contents."""

    @property
    def longest(self) -> int | None:
        """Pixels on its longer side; None where it is drawn as large as asked."""

    @property
    def shown(self) -> float | None:
        """Pixels on its longer side at which all that is in it is seen; None where there is no end to that."""

    @property
    def holds(self) -> float | None:
        """Pixels on the longer side of the photos in it; None where something in it is drawn."""

    @property
    def settled(self) -> Ground:
        """The same as it is delivered; itself where drafts spare nothing of it."""

    def picture(self, longer: int) -> Strips:
        """Return it with `longer` pixels on its longer side."""

    def pyramid(self, longer: int) -> Node:
        """Return it for sampling, with at least `longer` pixels where it has them."""


class _Alike:
    """A ground that drafts read as it is."""

    @property
    def settled(self) -> Self:
        return self


class Photo(Node):
    """The pyramid of a photo. Who has the photos keeps it."""

    kept = False

    def __init__(self, photos: Photos, name: str, digest: str) -> None:
        self._photos = photos
        self._name = name
        self._digest = digest

    @property
    def key(self) -> str:
        return self._digest

    def make(self, making: Results) -> Pyramid:
        return self._photos.pyramid(self._name)


class PhotoPicture(Strips):
    """A photo at a size; made anew each time, which is as fast as keeping it."""

    kept = False
    flows = False

    def __init__(self, photo: Photo, frame: Frame, longer: int) -> None:
        self._photo = photo
        self._longer = longer
        self.shape = frame.pixels(longer)

    @cached_property
    def key(self) -> str:
        return keys.picture(self._photo.key, self._longer, None)

    @property
    def needs(self) -> tuple[Node, ...]:
        return (self._photo,)

    @property
    def cost(self) -> float:
        return 15.0 * pixels_of(self.shape)

    def make(self, making: Results) -> Array:
        pyramid: Pyramid = making[self._photo]
        return pyramid.picture(self._longer)


class PhotoGround(_Alike):
    """A photo. Only its measures are taken here; it is asked for again when it is read."""

    def __init__(self, photos: Photos, name: str) -> None:
        photo = photos.pyramid(name)
        self.digest = keys.source("photo", photos.digest(name))
        self.frame = photo.frame
        self.longest: int | None = max(photo.rows, photo.cols)
        self.holds: float | None = self.longest
        self.shown: float | None = self.longest
        self._photo = Photo(photos, name, self.digest)

    def picture(self, longer: int) -> Strips:
        return PhotoPicture(self._photo, self.frame, longer)

    def pyramid(self, longer: int) -> Node:
        return self._photo


class DrawnPicture(Strips):
    """A drawn source at a size."""

    height = 128

    def __init__(self, source: DrawnSource, digest: str, longer: int) -> None:
        self._source = source
        self._digest = digest
        self._longer = longer
        self.shape = source.frame.pixels(longer)
        rows = Rows(source.frame, *self.shape)
        self._prepared = Prepared(keys.prepared(digest, self.shape), lambda: source.prepare(rows))

    @cached_property
    def key(self) -> str:
        return keys.picture(self._digest, self._longer, None)

    @property
    def cost(self) -> float:
        return 100.0 * pixels_of(self.shape)

    @property
    def needs(self) -> tuple[Node, ...]:
        return (self._prepared,)

    def worker(self, making: Results) -> Work:
        prepared = making[self._prepared].value

        def work(top: int, height: int, out: Array | None = None, /) -> Array:
            return self._source.paint(Rows(self._source.frame, *self.shape, top, height), prepared)

        return work


class DrawnGround(_Alike):
    """A source that is drawn: nothing is read, and nothing limits its size."""

    longest: int | None = None
    holds: float | None = None
    shown: float | None = None

    def __init__(self, source: DrawnSource) -> None:
        self._source = source
        self.digest = keys.source("drawn", source)
        self.frame = source.frame

    def picture(self, longer: int) -> Strips:
        return DrawnPicture(self._source, self.digest, longer)

    def pyramid(self, longer: int) -> Node:
        return PyramidOf(self.picture(longer))


class EmptyGround(_Alike):
    """A slot without a photo: nothing is seen of it. As the lowest layer it has the frame of what would have been there.

    Parameters
    ----------
    like : Ground, optional
        Whose frame and size it has.
    """

    holds: float | None = 1.0
    shown: float | None = 1.0

    def __init__(self, like: Ground | None) -> None:
        self.frame = Frame(1.5) if like is None else like.frame
        self.longest = None if like is None else like.longest
        self.digest = keys.source("empty", self.frame)

    def picture(self, longer: int) -> Strips:
        return Nothing(self.frame.pixels(longer))

    def pyramid(self, longer: int) -> Node:
        return PyramidOf(self.picture(longer))


class MissingPicture(Strips):
    """Stripes of two greys."""

    kept = False

    def __init__(self, digest: str, frame: Frame, longer: int) -> None:
        self._digest = digest
        self._frame = frame
        self._longer = longer
        self.shape = frame.pixels(longer)

    @cached_property
    def key(self) -> str:
        return keys.picture(self._digest, self._longer, None)

    def worker(self, making: Results) -> Work:
        def work(top: int, height: int, out: Array | None = None, /) -> Array:
            x, y = self._frame.grid(*self.shape, top, height)
            light = np.where(((x + y) * 4) % 1 < 0.5, np.float32(0.42), np.float32(0.5))
            return np.stack([light, light, light, np.ones_like(light)], axis=-1)

        return work


class MissingGround(_Alike):
    """Stands where a photo is gone, so that the rest of the piece can still be seen."""

    frame = Frame(1.5)
    longest: int | None = None
    holds: float | None = None
    shown: float | None = None

    def __init__(self, name: str) -> None:
        self.digest = keys.source("missing", name)

    def picture(self, longer: int) -> Strips:
        return MissingPicture(self.digest, self.frame, longer)

    def pyramid(self, longer: int) -> Node:
        return PyramidOf(self.picture(longer))
