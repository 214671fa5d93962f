"""What an export would be, before it is asked for: its pixels, about how many bytes, and the largest size that the photo is good for."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from math import log
from typing import Any

from ..core.delivery.export import deliver
from ..core.delivery.shapes import finish_of, ratio_of, shaped
from ..core.io.formats import LAYERED, MAPPED
from ..core.piece.files import check_piece, dump_piece
from ..core.piece.model import Piece
from ..core.render import Context, Renderer
from ..core.render.mapping import honest_size
from .export_work import wanted_of
from .photos import SHELF
from .rendering import CACHE

TRIED = 400, 800
"""Sizes at which the file is really written; from how it grows between them, larger ones are told."""
MAP_BYTES = 2
"""Bytes a pixel of a coordinate map takes, about: three channels of 16 bits, smooth, and packed."""


@dataclass(frozen=True)
class Estimate:
    """Width and height in pixels, about how many bytes, the largest honest size on the longer side where there is a photo, and what is lost.

    `wide`: whether the piece has colours that sRGB has not, so that a file in sRGB would lose them.
    """

    width: int
    height: int
    size_bytes: int
    honest: int | None
    wide: bool


def estimate(piece: Piece, options: dict[str, Any], stop: Callable[[], bool]) -> Estimate:
    """Return what an export of a piece would be.

    Notes
    -----
    Files of two small sizes are written, and bytes are taken to grow with a power of the number of pixels. OpenRaster is told by its
    whole picture and as many again as there are layers.
    """
    wanted, ratio, document = wanted_of(options), ratio_of(options), dump_piece(piece)
    # An estimate has the same steps as the export, so that what is known already is taken from the cache.
    context = Context(SHELF.once(), cache=CACHE, stop=stop)
    cut = check_piece(shaped(document, ratio))
    renderer = Renderer(cut, context, finish=finish_of(document, ratio))
    rows, cols = renderer.frame.pixels(wanted.size)
    if wanted.kind == MAPPED:
        return Estimate(cols, rows, rows * cols * MAP_BYTES, honest_size(cut, context), wide=False)
    plain = replace(wanted, kind="png") if wanted.kind == LAYERED else wanted
    found: list[tuple[int, int]] = []
    for size in dict.fromkeys(min(one, wanted.size) for one in TRIED):
        made = deliver(piece, renderer, replace(plain, size=size, trail=False))
        found.append((made.width * made.height, len(made.content)))
    (few, small), (many, large) = found[0], found[-1]
    power = log(large / small) / log(many / few) if many > few else 1.0
    size_bytes = large * (rows * cols / many) ** min(max(power, 0.3), 1.0)
    if wanted.kind == LAYERED:
        size_bytes *= 1 + len(renderer.layers())
    return Estimate(cols, rows, round(size_bytes), honest_size(cut, context), renderer.scene.space != "srgb")
