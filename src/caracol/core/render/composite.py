"""Layers put together, from the lowest up; what lies below each is a picture of its own."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Protocol

from ..arrays import Array
from ..geometry.frame import Frame
from ..piece.model import Sheet
from ..pixels.blending import lay
from ..render.quality import FULL, Quality
from . import keys
from .nodes import Node, Nothing, PyramidOf, Results, Strips, WhereMask, Work, looking_cost, mask_worker, pixels_of, where_mask


class Entry(Protocol):
    """What can be laid: a trail, or a group's composite. Its picture has the piece's frame."""

    @property
    def settled(self) -> Entry:
        """The same as it is delivered, where this is a draft."""

    @property
    def digest(self) -> str:
        """What identifies it at any size."""

    @property
    def shown(self) -> float | None:
        """Pixels on its longer side at which all that is in it is seen; None where there is no end to that."""

    @property
    def holds(self) -> float | None:
        """Pixels on the longer side of the photos in it; None where something in it is drawn."""

    def picture(self, longer: int) -> Strips:
        """Return it with `longer` pixels on its longer side."""


@dataclass(frozen=True)
class PlacedEntry:
    """An entry and how it is laid over what is below."""

    entry: Entry
    sheet: Sheet
    inner: Composite | None = None
    """What a group is before its own steps."""
    even: PlacedEntry | None = None
    """The same where it is read at another size than its own by something above it; None where that is no other."""

    @property
    def evened(self) -> PlacedEntry:
        """The same as what lies above reads it."""
        return self if self.even is None else self.even

    @property
    def settled(self) -> PlacedEntry:
        """The same as it is delivered."""
        inner, even = self.inner and self.inner.settled, self.even and self.even.settled
        return PlacedEntry(self.entry.settled, self.sheet, inner, even)

    @cached_property
    def digest(self) -> str:
        """What identifies both."""
        return keys.laid(self.entry.digest, self.sheet)


class Over(Strips):
    """An entry laid over what is below it."""

    def __init__(self, key: str, below: Strips, above: Strips, sheet: Sheet, frame: Frame) -> None:
        self._key = key
        self._below = below
        self._above = above
        self._sheet = sheet
        self._frame = frame
        self.shape = below.shape

    @property
    def key(self) -> str:
        return self._key

    @cached_property
    def _mask(self) -> WhereMask | None:
        return where_mask(self._sheet.where, self._frame, self.shape)

    @property
    def parts(self) -> tuple[Strips, ...]:
        return (self._below, self._above) if self._mask is None else (self._below, self._above, self._mask)

    @property
    def cost(self) -> float:
        return 25.0 * pixels_of(self.shape) + looking_cost(self._sheet.where, self.shape)

    def worker(self, making: Results) -> Work:
        mask = mask_worker(making, self._mask, self._sheet.where, self._frame, self.shape)
        below, above = making.worker(self._below), making.worker(self._above)

        def work(top: int, height: int, out: Array | None = None, /) -> Array:
            strip = above(top, height)
            return lay(below(top, height), strip, self._sheet.opacity, self._sheet.blend, mask(top, height, strip))

        return work


class Composite:
    """Entries laid over each other on nothing, in one frame.

    Parameters
    ----------
    unseen : list of (int, callable), optional
        Entries of which nothing is seen: how many of `laid` lie below each, and what makes it as it would be laid.
    """

    def __init__(
        self, frame: Frame, laid: list[PlacedEntry], quality: Quality, unseen: list[tuple[int, Callable[[], PlacedEntry]]] | None = None
    ) -> None:
        self.frame = frame
        self.laid = laid
        self.unseen = unseen or []
        self._quality = quality
        self._pictures: dict[int, Strips] = {}

    @property
    def digest(self) -> str:
        """What identifies the result at any size."""
        return keys.composite(self.frame, (laid.digest for laid in self.laid))

    @cached_property
    def shown(self) -> float | None:
        """Pixels on its longer side at which all that is in it is seen; None where there is no end to that."""
        return _largest([one.entry.shown for one in self.laid])

    @cached_property
    def holds(self) -> float | None:
        """Pixels on the longer side of the photos in it; None where something in it is drawn."""
        return _largest([one.entry.holds for one in self.laid])

    @cached_property
    def evened(self) -> Composite:
        """The same as what lies above reads it (`Trail.even`)."""
        laid = [one.evened for one in self.laid]
        alike = all(one is even for one, even in zip(self.laid, laid, strict=True))
        return self if alike else Composite(self.frame, laid, self._quality)

    @cached_property
    def settled(self) -> Composite:
        """The same as it is delivered, where this is a draft."""
        return self if self._quality == FULL else Composite(self.frame, [one.settled for one in self.laid], FULL)

    def picture(self, longer: int) -> Strips:
        """Return the result with `longer` pixels on its longer side."""
        if longer not in self._pictures:
            self._pictures[longer] = self._picture(longer)
        return self._pictures[longer]

    def _picture(self, longer: int) -> Strips:
        picture: Strips = Nothing(self.frame.pixels(longer))
        for index, one in enumerate(self.laid):
            above = one.entry.picture(longer)
            if index == 0 and one.sheet.is_plain:
                picture = above
                continue
            so_far = keys.composite(self.frame, (laid.digest for laid in self.laid[: index + 1]))
            picture = Over(keys.picture(so_far, longer, self._quality), picture, above, one.sheet, self.frame)
        return picture


def _largest(sizes: list[float | None]) -> float | None:
    known = [size for size in sizes if size is not None]
    return max(known, default=1.0) if len(known) == len(sizes) else None


class BelowGround:
    """What lies under a layer, as its ground."""

    longest: int | None = None

    def __init__(self, below: Composite) -> None:
        self._below = below
        self.shown = below.shown
        self.holds = below.holds
        self.frame = below.frame
        self.digest = keys.source("below", below.digest)

    @property
    def settled(self) -> BelowGround:
        settled = self._below.settled
        return self if settled is self._below else BelowGround(settled)

    def picture(self, longer: int) -> Strips:
        return self._below.picture(longer)

    def pyramid(self, longer: int) -> Node:
        return PyramidOf(self.picture(longer))
