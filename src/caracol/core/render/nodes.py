"""Nodes: what a render consists of, each with what it needs, what it costs and how it is made (docs/render.md)."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Any, Protocol

import numpy as np

from ..arrays import Array
from ..geometry.frame import Frame
from ..piece.where import Where
from ..pixels.drafts import coded_of
from ..pixels.pyramid import pyramid_of
from . import keys
from .context import STRIP, Context


class Work(Protocol):
    """Computes a strip of rows; into `out` where that is given, or else into memory of its own."""

    def __call__(self, top: int, height: int, out: Array | None = None, /) -> Array: ...


class Results(Protocol):
    """What has been made so far, as nodes see it while they are made (`execution.Execution`)."""

    context: Context

    def __getitem__(self, node: Node, /) -> Any: ...

    def has(self, node: Node, /) -> bool: ...

    def worker(self, node: Strips, /) -> Work: ...

    def gather(self, node: Strips, /) -> Array: ...

    def tell(self, cost: float, share: float, /) -> None: ...


class Node:
    """Something that is computed. It holds no pixels: they are the making's and the cache's.

    Nodes of the same key are the same, whoever asks for them.
    """

    kept = True
    """Whether the cache keeps it."""

    @property
    def key(self) -> str:
        """What it is kept under."""
        raise NotImplementedError

    @property
    def needs(self) -> tuple[Node, ...]:
        """What must be there, whole, before it can be made."""
        return ()

    @property
    def cost(self) -> float:
        """What making it costs besides what it needs: nanoseconds of one core, roughly."""
        return 0.0

    @property
    def size(self) -> int:
        """How large it is, in bytes; 0 where that is next to nothing, or where somebody else holds it."""
        return 0

    @property
    def room(self) -> int:
        """How many bytes are needed besides while it is made, roughly."""
        return 0

    @property
    def name(self) -> str:
        """What an artist calls it."""
        return "the picture"

    def make(self, making: Results) -> Any:
        """Return it, made from what it needs; something with `nbytes` where it is kept."""
        raise NotImplementedError


class Strips(Node):
    """A picture, (rows, cols, 4), or a mask, (rows, cols): a node that may be computed strip by strip."""

    shape: tuple[int, int]
    channels: tuple[int, ...] = (4,)
    height = STRIP
    """How many rows to compute at a time."""
    flows = True
    """Whether a strip can be computed without the others."""

    @property
    def size(self) -> int:
        return 4 * pixels_of(self.shape) * (self.channels[0] if self.channels else 1)

    @property
    def parts(self) -> tuple[Strips, ...]:
        """What its strips are made from, strip by strip: there whole when it is made whole."""
        return ()

    @property
    def flow_needs(self) -> tuple[Node, ...]:
        """What must be there, whole, before its strips can flow."""
        return self.needs

    @property
    def flow_parts(self) -> tuple[Strips, ...]:
        """What flows along with it, strip by strip."""
        return self.parts

    def worker(self, making: Results) -> Work:
        """Return what computes its strips, in any thread."""
        raise NotImplementedError

    def make(self, making: Results) -> Array:
        return making.gather(self)


def pixels_of(shape: tuple[int, int]) -> int:
    """Return how many pixels there are."""
    return shape[0] * shape[1]


class PyramidOf(Node):
    """The pyramid of a picture."""

    def __init__(self, picture: Strips) -> None:
        self._picture = picture

    @cached_property
    def key(self) -> str:
        return keys.pyramid(self._picture.key)

    @property
    def needs(self) -> tuple[Node, ...]:
        return (self._picture,)

    @property
    def cost(self) -> float:
        return 12.0 * pixels_of(self._picture.shape)

    @property
    def size(self) -> int:
        return 11 * pixels_of(self._picture.shape)  # four channels of two bytes, and a third more for the smaller levels

    def make(self, making: Results) -> Any:
        return pyramid_of(making[self._picture])


class CodedOf(Node):
    """The levels of a pyramid that drafts read, from twice the size that is needed downwards."""

    def __init__(self, pyramid: Node, longer: int, frame: Frame) -> None:
        self._pyramid = pyramid
        self._longer = 2 * longer
        self._pixels = pixels_of(frame.pixels(self._longer))

    @cached_property
    def key(self) -> str:
        return keys.coded(self._pyramid.key, self._longer)

    @property
    def needs(self) -> tuple[Node, ...]:
        return (self._pyramid,)

    @property
    def cost(self) -> float:
        return 8.0 * self._pixels

    @property
    def size(self) -> int:
        return 22 * self._pixels  # four bytes and a third more, at up to twice the size on a side, and again with their edges

    def make(self, making: Results) -> Any:
        return coded_of(making[self._pyramid], self._longer)


@dataclass(frozen=True)
class Box:
    """Something prepared, or nothing."""

    value: Any

    @property
    def nbytes(self) -> int:
        return 0 if self.value is None else int(self.value.nbytes)


class Prepared(Node):
    """What all strips of something share and no picture is needed for, in a box."""

    def __init__(self, key: str, make: Callable[[], Any], size: int = 0, name: str = "the picture") -> None:
        self._key = key
        self._make = make
        self._size = size
        self._name = name

    @property
    def name(self) -> str:
        return self._name

    @property
    def size(self) -> int:
        return self._size

    @property
    def room(self) -> int:
        return self._size

    @property
    def cost(self) -> float:
        return 4.0 * self._size

    @property
    def key(self) -> str:
        return self._key

    def make(self, making: Results) -> Box:
        return Box(self._make())


class Nothing(Strips):
    """A transparent picture."""

    kept = False

    def __init__(self, shape: tuple[int, int]) -> None:
        self.shape = shape

    @cached_property
    def key(self) -> str:
        return keys.source("nothing", self.shape)

    def worker(self, making: Results) -> Work:
        cols = self.shape[1]

        def work(top: int, height: int, out: Array | None = None, /) -> Array:
            if out is None:
                return np.zeros((height, cols, 4), np.float32)
            out[...] = 0
            return out

        return work


class WhereMask(Strips):
    """A where that looks at no picture, 0…1."""

    channels = ()

    def __init__(self, where: Where, frame: Frame, shape: tuple[int, int]) -> None:
        self._where = where
        self._frame = frame
        self.shape = shape

    @cached_property
    def key(self) -> str:
        return keys.where(self._where, self._frame, self.shape)

    @property
    def cost(self) -> float:
        return self._where.effort * pixels_of(self.shape)

    @property
    def name(self) -> str:
        return "a where"

    def worker(self, making: Results) -> Work:
        def work(top: int, height: int, out: Array | None = None, /) -> Array:
            return self._where.mask(self._frame, *self.shape, top, height)

        return work


def looking_cost(where: Where | None, shape: tuple[int, int]) -> float:
    """Return what a where costs that must look at each picture anew, where it is such a one."""
    return 0.0 if where is None or not where.looks_at_picture else where.effort * pixels_of(shape)


def where_mask(where: Where | None, frame: Frame, shape: tuple[int, int]) -> WhereMask | None:
    """Return the node of a where's mask; None for everywhere, and where it must look at each picture anew."""
    return None if where is None or where.looks_at_picture else WhereMask(where, frame, shape)


Mask = Callable[[int, int, Array], Array | None]


def mask_worker(making: Results, node: WhereMask | None, where: Where | None, frame: Frame, shape: tuple[int, int]) -> Mask:
    """Return what gives the strip of a where, by (top, height, the picture's strip); None for everywhere."""
    if where is None:
        return lambda top, height, picture: None
    if node is None:
        return lambda top, height, picture: where.mask(frame, *shape, top, height, picture)
    whole = making.worker(node)
    return lambda top, height, picture: whole(top, height)
