"""Previews: pictures of pieces for the screen, and pictures to lay over them."""

from __future__ import annotations

from dataclasses import dataclass
from hashlib import sha256
from io import BytesIO
from math import ceil, floor
from typing import NamedTuple

import cv2
import numpy as np
from PIL import Image

from ..core.arrays import AnyArray, Array
from ..core.errors import TooLarge
from ..core.io.formats import collect, encode, on_paper, to_integers, to_jpeg
from ..core.piece.files import dump_piece
from ..core.piece.model import Piece
from ..core.render import Context, Renderer
from ..core.render.analyses import area_mask_of, blended, clipped_tones_of, sorted_stretches_of
from ..core.render.mapping import soft_at
from ..core.render.quality import DRAFT, FULL
from . import thumbnails
from .load import LOAD
from .models import Photo
from .photos import SHELF, add_photo
from .rendering import LIMITS, Stop, never, screen_context

TINT = (232, 97, 63)
"""The tint that shows an area."""
SOFT_TINT = 120
"""How much the tint over what is soft covers, of 255."""
OUTLINE = (20, 24, 26, 140)
CLIPPED_DARK, CLIPPED_LIGHT = (40, 120, 220, 230), (232, 60, 50, 230)
"""What shows where a step clips dark and light tones."""
EDGE = [cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size)) for size in (5, 3)]
"""A line of the tint within a dark one."""
THUMBNAIL = 320
"""Pixels of the pictures by which the Shelf shows pieces."""
SOFTEST = 1024
"""A preview of more pixels may come smaller than asked, where it would cost too much."""
LARGEST_PART = 4096 * 4096
"""Pixels of the rows that a part of a preview lies in."""
EVERY_COLOUR = [cv2.IMWRITE_JPEG_SAMPLING_FACTOR, cv2.IMWRITE_JPEG_SAMPLING_FACTOR_444]
"""Colours at every pixel: shared by four, they run into each other on small pictures of fine stripes."""


def encode_preview(picture: Array, draft: bool) -> tuple[bytes, str]:
    """Return (file, media type): JPEG, or fast PNG where the picture is transparent."""
    opaque = draft and picture[..., 3].min() >= 1
    # Nothing to be divided by: eight times as fast.
    pixels = cv2.convertScaleAbs(picture, alpha=255) if opaque else to_integers(picture)
    if opaque or pixels[..., 3].min() == 255:
        _, data = cv2.imencode(
            ".jpg", cv2.cvtColor(pixels, cv2.COLOR_RGBA2BGR), [cv2.IMWRITE_JPEG_QUALITY, 85 if draft else 97, *EVERY_COLOUR]
        )
        return data.tobytes(), "image/jpeg"
    out = BytesIO()
    Image.fromarray(pixels).save(out, "PNG", compress_level=1)
    return out.getvalue(), "image/png"


@dataclass(frozen=True)
class Part:
    """A part of a picture, in shares of its width and height, 0…1."""

    left: float
    top: float
    right: float
    bottom: float

    def pixels(self, rows: int, cols: int) -> Box:
        """Return the pixels of a picture that lie in it, if only partly; one at least."""
        left, top = min(floor(self.left * cols), cols - 1), min(floor(self.top * rows), rows - 1)
        return Box(left, top, max(ceil(self.right * cols), left + 1), max(ceil(self.bottom * rows), top + 1))


class Box(NamedTuple):
    """Pixels of a picture: columns `left` … `right`, rows `top` … `bottom`, the last of each not among them."""

    left: int
    top: int
    right: int
    bottom: int


@dataclass(frozen=True)
class PreviewRequest:
    """What a preview shall show of a piece: all of it, or one layer after `upto` of its steps; the whole picture, or a part of it.

    `size` is the longer side of the whole picture in pixels.
    """

    size: int
    upto: int | None = None
    layer: str | None = None
    draft: bool = False
    part: Part | None = None


@dataclass(frozen=True)
class Preview:
    """A rendered preview as a file, and the (rows, cols) of the whole picture; which pixels of it the file shows."""

    data: bytes
    kind: str
    rows: int
    cols: int
    box: Box
    missing: tuple[str, ...]
    ratio: float
    """Of the whole piece's frame, whatever of it is shown."""
    ratios: dict[str, float]
    """Of every layer's frame, before it is placed, so that handles find their place."""


def preview(piece: Piece, wanted: PreviewRequest, stop: Stop) -> Preview:
    """Render a preview; a layer whose photo is gone is shown as a placeholder, and told in `missing`.

    Raises
    ------
    Superseded
        A newer request of the same bench came.
    """
    quality = DRAFT if wanted.draft else FULL
    with LOAD.served():
        renderer = Renderer(piece, screen_context(stop, quality), wanted.upto, wanted.layer)
        picture, (rows, cols), box = _affordable(renderer, wanted)
        data, kind = encode_preview(picture, wanted.draft)
    scene = renderer.scene
    return Preview(data, kind, rows, cols, box, tuple(renderer.missing), scene.frame.ratio, scene.ratios())


def _affordable(renderer: Renderer, wanted: PreviewRequest) -> tuple[Array, tuple[int, int], Box]:
    """Return what is wanted, the (rows, cols) of the whole picture, and the part's pixels.

    Where that would cost too much, it is made at a half or a quarter of the size: softer is better than none.
    """
    size = wanted.size
    while True:
        shape = renderer.frame.pixels(size)
        try:
            if wanted.part is None:
                return renderer.picture(size), shape, Box(0, 0, shape[1], shape[0])
            box = wanted.part.pixels(*shape)
            if (box.bottom - box.top) * shape[1] > LARGEST_PART:
                raise TooLarge("This part of the picture has too many pixels for a preview. Ask for a smaller size, or less of it.")
            return renderer.part(size, box.top, box.bottom)[:, box.left : box.right], shape, box
        except TooLarge:
            if size <= SOFTEST:
                raise
            size //= 2


def blend_sheet(piece: Piece, layer: str, step: str | None, size: int, stop: Stop = never) -> tuple[bytes, tuple[int, int]]:
    """Return every blend mode of one layer, group or step below each other, in the catalogue's order, and the (rows, cols) of each."""
    pictures = [on_paper(to_integers(picture)) for picture in blended(piece, screen_context(stop, DRAFT), layer, step, size)]
    out = BytesIO()
    Image.fromarray(np.concatenate(pictures)).save(out, "JPEG", quality=88, subsampling=0)
    return out.getvalue(), pictures[0].shape[:2]


def area_overlay(piece: Piece, layer: str, step: str | None, size: int, edge: bool, stop: Stop = never) -> bytes:
    """Return an area as a transparent PNG: a tint as strong as the area is, or a line along where it is half as strong as it can be."""
    mask = area_mask_of(piece, screen_context(stop, DRAFT), layer, step, size)
    return _edged(mask) if edge else _tinted(mask)


def sorted_overlay(piece: Piece, layer: str, step: str, size: int, stop: Stop = never) -> bytes:
    """Return what a step acts on as a transparent PNG."""
    return _tinted(sorted_stretches_of(piece, screen_context(stop, DRAFT), layer, step, size))


def clipping_overlay(piece: Piece, layer: str, step: str, size: int, stop: Stop = never) -> bytes:
    """Return where a step loses dark and light tones as a transparent PNG, each in a colour of its own."""
    dark, light = clipped_tones_of(piece, screen_context(stop), layer, step, size)
    pixels = np.zeros((*dark.shape, 4), np.uint8)
    pixels[dark] = CLIPPED_DARK
    pixels[light] = CLIPPED_LIGHT
    return _png(pixels)


def softness_overlay(piece: Piece, size: int, stop: Stop = never) -> bytes:
    """Return where a delivery of `size` pixels would be soft as a small transparent PNG, to be laid over the whole piece."""
    soft = soft_at(piece, screen_context(stop), size)
    pixels = np.zeros((*soft.shape, 4), np.uint8)
    pixels[soft] = (*TINT, SOFT_TINT)
    return _png(pixels)


def _edged(mask: Array) -> bytes:
    inside = (mask >= 0.5).astype(np.uint8)
    wide, narrow = (cv2.dilate(inside, disc) - cv2.erode(inside, disc) for disc in EDGE)
    pixels = np.zeros((*mask.shape, 4), np.uint8)
    pixels[wide > 0] = OUTLINE
    pixels[narrow > 0] = (*TINT, 255)
    return _png(pixels)


def _tinted(mask: Array) -> bytes:
    pixels = np.empty((*mask.shape, 4), np.uint8)
    pixels[..., :3] = TINT
    pixels[..., 3] = mask * 120 + 0.5
    return _png(pixels)


def _png(pixels: AnyArray) -> bytes:
    out = BytesIO()
    Image.fromarray(pixels).save(out, "PNG", compress_level=1)
    return out.getvalue()


def add_stage_to_shelf(piece: Piece, upto: int | None, layer: str | None, name: str, size: int, stop: Stop = never) -> Photo:
    """Put a stage of a piece on the Shelf as a picture of its own, with its transparency."""
    shape, strips = Renderer(piece, Context(SHELF.once(), stop=stop, limits=LIMITS), upto, layer).rows(size)
    photo, _ = add_photo(encode(collect(shape, strips), "png", 0), f"{name}.png")
    return photo


def kept_thumbnail(piece: Piece, size: int) -> bytes | None:
    """Return the small JPEG of a piece that is kept on disk by what it shows; None where there is none yet."""
    return thumbnails.kept(_named(piece, size))


def thumbnail(piece: Piece, size: int, stop: Stop = never) -> bytes:
    """Return a small JPEG of a piece, and keep it."""
    # At full quality: a draft may show colours that the piece does not have, and this is what the piece is known by.
    data = to_jpeg(Renderer(piece, screen_context(stop)).picture(size))
    thumbnails.keep(_named(piece, size), data)
    return data


def _named(piece: Piece, size: int) -> str:
    return sha256(f"{dump_piece(piece)}{size}{FULL}".encode()).hexdigest()
