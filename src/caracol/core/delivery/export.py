"""A piece as a file: what every way of delivering it shares, so that the screen, a run and the command line give the same bytes."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import partial
from typing import Any, Literal, cast

from ..arrays import AnyArray
from ..errors import PieceError
from ..io.formats import FORMATS, LAYERED, MAPPED, SUFFIXES, Format, Note, Packing, collect, encode
from ..io.openraster import unnamed_blends, write_openraster
from ..piece.files import dump_piece
from ..piece.model import Piece
from ..pixels.spaces import Space
from ..render import Context, Renderer, aside
from ..render.limits import Limits
from ..render.mapping import coordinate_map, map_file

Kind = Format | Literal["openraster", "map"]
ENCODING = {
    "png": 360.0, "png16": 580.0, "jpeg": 16.0, "webp": 370.0, "avif": 420.0, "tiff": 60.0, "tiff16": 120.0, LAYERED: 400.0, MAPPED: 120.0,
}  # fmt: skip
"""Nanoseconds to write one pixel of a file."""
WRITING = {"png": 12, "png16": 32, "jpeg": 16, "webp": 20, "avif": 24, "tiff": 12, "tiff16": 24, LAYERED: 24, MAPPED: 24}
"""Bytes a pixel that are held while a file is written: the picture, its copy for the writer, and the file."""


@dataclass(frozen=True)
class DeliveryOptions:
    """What a piece is delivered as.

    Parameters
    ----------
    kind : str
        A file format, or `openraster`.
    size : int
        Pixels on the longer side.
    quality : int
        1…100, of formats that lose something.
    space : str
    packing : str
        Of TIFF.
    dpi : float or None
        Dots per inch, said in the file.
    title, author : str
        Said in the file where not empty.
    trail : bool
        Whether the piece travels inside, where the format can hold it.
    """

    kind: Kind
    size: int
    quality: int = 90
    space: Space = "srgb"
    packing: Packing = "deflate"
    dpi: float | None = None
    title: str = ""
    author: str = ""
    trail: bool = True

    @property
    def suffix(self) -> str:
        """Ending of the file's name."""
        return SUFFIXES[self.kind]


@dataclass(frozen=True)
class Delivered:
    """A finished file: its bytes, its picture's width and height, and what could not be kept, in words."""

    content: bytes
    width: int
    height: int
    lost: str = ""


def check_cost(renderer: Renderer, wanted: DeliveryOptions, limits: Limits) -> None:
    """Raise TooLarge where the delivery would take longer, or more memory, than `limits` say."""
    limits.check(renderer.plan(wanted.size), _pixels(renderer, wanted.size) * WRITING[wanted.kind])


def _pixels(renderer: Renderer, size: int) -> int:
    rows, cols = renderer.frame.pixels(size)
    return rows * cols


def deliver(piece: Piece, renderer: Renderer, wanted: DeliveryOptions) -> Delivered:
    """Render a piece and write it as a file: `_delivered`, with what is empty or gone told among what could not be kept."""
    found = _delivered(piece, renderer, wanted)
    return replace(found, lost=" ".join([one for one in (found.lost, *renderer.missing) if one]))


def _delivered(piece: Piece, renderer: Renderer, wanted: DeliveryOptions) -> Delivered:
    """Render a piece and write it as a file.

    Parameters
    ----------
    piece : Piece
        What travels inside; the renderer may have further steps after it, such as a shape.
    renderer : Renderer
    wanted : DeliveryOptions

    Raises
    ------
    PieceError, PictureError, Superseded
    """
    context = renderer.context
    if wanted.kind == MAPPED:
        return _mapped(renderer, wanted)
    note = Note(
        wanted.space, wanted.dpi, wanted.title, wanted.author, dump_piece(piece) if wanted.trail and wanted.kind != LAYERED else None
    )
    bits = 8 if wanted.kind == LAYERED else FORMATS[wanted.kind].bits
    longest = None if wanted.kind == LAYERED else FORMATS[wanted.kind].longest
    if longest is not None and wanted.size > longest:
        raise PieceError(
            [f"size: {wanted.kind} files hold at most {longest} pixels a side, not {wanted.size}; choose PNG or a smaller size"]
        )
    shape, strips = renderer.rows(wanted.size, wanted.space)
    pixels = collect(shape, strips, bits)
    if wanted.kind == LAYERED:
        return _layered(renderer, wanted, pixels, note)
    # A writer may go on long after it was told to stop: it is waited for aside.
    work = partial(encode, pixels, cast(Format, wanted.kind), wanted.quality, note, wanted.packing)
    return Delivered(aside(work, context), shape[1], shape[0])


def _mapped(renderer: Renderer, wanted: DeliveryOptions) -> Delivered:
    found = coordinate_map(renderer.scene.piece, renderer.context, wanted.size, finish=renderer.finish)
    words = f"Not geometry, and so no part of the map: {', '.join(found.left_out)}." if found.left_out else ""
    return Delivered(map_file(found.samples), found.samples.shape[1], found.samples.shape[0], words)


def _layered(renderer: Renderer, wanted: DeliveryOptions, merged: AnyArray, note: Note) -> Delivered:
    sheets: list[Any] = renderer.layers()
    content = write_openraster(sheets, merged, wanted.size, note)
    lost = unnamed_blends(sheets)
    words = f"OpenRaster has no such blend mode, so it was laid plainly: {', '.join(lost)}." if lost else ""
    return Delivered(content, merged.shape[1], merged.shape[0], words)


def renderer_for(piece: Piece, context: Context, wanted: DeliveryOptions, **which: Any) -> tuple[Renderer, DeliveryOptions]:
    """Return a renderer, and what is wanted with a size: the photo's own where it is 0, or 2048 pixels where nothing has one."""
    renderer = Renderer(piece, context, **which)
    return renderer, wanted if wanted.size else replace(wanted, size=renderer.longest or DRAWN_SIZE)


DRAWN_SIZE = 2048
"""Pixels on the longer side of a piece without a photo, when no size is asked for."""
