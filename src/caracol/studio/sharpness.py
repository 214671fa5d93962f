"""Up to which size a recipe's files of some photos are sharp, found from their measures alone: no photo is read."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np

from ..core.errors import PieceError
from ..core.geometry.frame import Frame
from ..core.piece.recipe import Recipe, with_one_photo
from ..core.pixels.pyramid import Pyramid, pyramid_of
from ..core.render import Context
from ..core.render.mapping import honest_size
from .models import Photo

SOFTER = 1.05
"""A file so many times as large as its photo is good for does not look softer yet."""
GREY = 16


@dataclass(frozen=True, eq=False)
class Measures(Pyramid):
    """A plain picture that has a photo's measures."""

    of: tuple[int, int] = (GREY, GREY)

    @property
    def rows(self) -> int:
        return self.of[0]

    @property
    def cols(self) -> int:
        return self.of[1]

    @property
    def frame(self) -> Frame:
        return Frame(self.of[1] / self.of[0])


@cache
def _measures(rows: int, cols: int) -> Measures:
    plain = pyramid_of(np.full((GREY, GREY, 4), 0.5, np.float32))
    return Measures(plain.block, plain.starts, plain.heights, plain.widths, of=(rows, cols))


class _Sizes:
    """Photos as large as those of the Shelf."""

    def __init__(self, names: set[str]) -> None:
        rows = Photo.objects.filter(file_name__in=names).values_list("file_name", "height", "width")
        self.sizes = {name: (height, width) for name, height, width in rows}

    def pyramid(self, name: str) -> Pyramid:
        return _measures(*self.sizes.get(name, (GREY, GREY)))

    def digest(self, name: str) -> str:
        return "{}x{}".format(*self.sizes.get(name, (GREY, GREY)))


@dataclass(frozen=True)
class Sharpness:
    """How many photos are enlarged at a size, and the largest size at which none is; None where no photo sets a bound."""

    enlarged: int
    sharp: int | None


def sharpness(recipe: Recipe, file_names: Sequence[str], values: Mapping[str, float], slots: Mapping[str, str], size: int) -> Sharpness:
    """Return how many files of a recipe on photos would be softer than their photos at a size.

    Raises
    ------
    PieceError
        As `with_one_photo`.
    """
    photos = _Sizes({*file_names, *slots.values(), *(_named(recipe))})
    known: dict[tuple[int, int], int | None] = {}
    found = []
    for name in file_names:
        measures = photos.sizes.get(name, (GREY, GREY))
        if measures not in known:
            piece = with_one_photo(recipe, name, values, chosen=slots)
            try:
                known[measures] = honest_size(piece, Context(photos))
            except PieceError:  # its lowest layer is hidden or lies in a group: nothing is measured on it
                known[measures] = None
        if (honest := known[measures]) is not None:
            found.append(honest)
    return Sharpness(sum(size > one * SOFTER for one in found), min(found, default=None))


def _named(recipe: Recipe) -> set[str]:
    return {photo for layer in recipe.walk() if (photo := getattr(layer.source, "photo", None))}
