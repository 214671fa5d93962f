"""Looks: pictures of pieces for the screen, the newest request first."""

from __future__ import annotations

import logging
import threading
from collections.abc import Callable
from dataclasses import dataclass
from hashlib import sha256
from io import BytesIO
from math import ceil, floor
from typing import Any, NamedTuple

import cv2
import numpy as np
from django.conf import settings
from PIL import Image

from ..core.arrays import AnyArray, Array
from ..core.errors import TooLarge
from ..core.io.formats import collect, encode, on_paper, to_integers, to_jpeg
from ..core.piece.files import dump_piece
from ..core.piece.model import Piece
from ..core.pixels.masks import outline_of
from ..core.reading.palette import palette_of
from ..core.reading.reading import LOOK as READ_SIZE
from ..core.reading.reading import Reading, read_look
from ..core.render import Context, Renderer
from ..core.render.cache import Cache
from ..core.render.identities import Identities, identities_of
from ..core.render.limits import Limits
from ..core.render.mapping import soft_at
from ..core.render.quality import DRAFT, FULL, Quality
from ..core.render.shown import bars_of, blended, clipped_of, doubles_of, heal_source_of, kept_of, runs_of, told_of, where_of, wordings_of
from ..core.render.wording import Wording
from ..core.steps.break_.slices import Bar
from ..core.steps.mend.touch_up import Double, Stroke, StrokeSource
from . import thumbnails
from .models import Photo
from .photos import SHELF, add_photo
from .traffic import TRAFFIC

log = logging.getLogger(__name__)
VEIL = (232, 97, 63)
"""The tint that shows a where."""
SOFT_SHOWN = 120
"""How much a veil over what is soft covers, of 255."""
DARK = (20, 24, 26, 140)
LOST_DARK, LOST_LIGHT = (40, 120, 220, 230), (232, 60, 50, 230)
"""What shows where a step loses dark and light tones."""
PALETTE = 256
"""Pixels of the longer side of the look that a palette is found in."""
EDGE = [cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size)) for size in (5, 3)]
"""A line of the tint within a dark one."""
THUMBNAIL = 320
"""Pixels of the pictures by which the Shelf shows pieces."""
SOFTEST = 1024
"""A look of more pixels may come smaller than asked, where it would cost too much."""
LARGEST_PART = 4096 * 4096
"""Pixels of the rows that a part of a look lies in."""
EVERY_COLOUR = [cv2.IMWRITE_JPEG_SAMPLING_FACTOR, cv2.IMWRITE_JPEG_SAMPLING_FACTOR_444]
"""Colours at every pixel: shared by four, they run into each other on small pictures of fine stripes."""
Stop = Callable[[], bool]
"""Says whether a picture is not wanted any more."""
CACHE = Cache(settings.PICTURE_CACHE)
LIMITS = Limits(settings.LOOK_SECONDS, settings.WORK_BYTES)


class Queue:
    """Remembers the newest request of each bench; older ones are told to stop."""

    def __init__(self) -> None:
        self._newest: dict[str, int] = {}
        self._lock = threading.Lock()

    def enter(self, bench: str, turn: int) -> Callable[[], bool]:
        """Announce request number `turn` of a bench; return the stop signal for it."""
        with self._lock:
            if len(self._newest) > 1000:
                self._newest.clear()
            self._newest[bench] = max(turn, self._newest.get(bench, turn))
        return lambda: self._newest.get(bench, turn) > turn


QUEUE = Queue()


def never() -> bool:
    """Go on to the end."""
    return False


def encode_look(picture: Array, draft: bool) -> tuple[bytes, str]:
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
class Wanted:
    """What a look shall show of a piece: all of it, or one layer after `upto` of its steps; the whole picture, or a part of it.

    `size` is the longer side of the whole picture in pixels.
    """

    size: int
    upto: int | None = None
    layer: str | None = None
    draft: bool = False
    part: Part | None = None


@dataclass(frozen=True)
class Look:
    """A rendered look as a file, and the (rows, cols) of the whole picture; which pixels of it the file shows."""

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


def look(piece: Piece, wanted: Wanted, stop: Stop) -> Look:
    """Render a look; a layer whose photo is gone is shown as a placeholder, and told in `missing`.

    Raises
    ------
    Overtaken
        A newer request of the same bench came.
    """
    quality = DRAFT if wanted.draft else FULL
    with TRAFFIC.served():
        renderer = Renderer(piece, _screen(stop, quality), wanted.upto, wanted.layer)
        picture, (rows, cols), box = _affordable(renderer, wanted)
        data, kind = encode_look(picture, wanted.draft)
    scene = renderer.scene
    return Look(data, kind, rows, cols, box, tuple(renderer.missing), scene.frame.ratio, scene.ratios())


def _affordable(renderer: Renderer, wanted: Wanted) -> tuple[Array, tuple[int, int], Box]:
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
                raise TooLarge("This part of the picture has too many pixels for a look. Ask for a smaller size, or less of it.")
            return renderer.part(size, box.top, box.bottom)[:, box.left : box.right], shape, box
        except TooLarge:
            if size <= SOFTEST:
                raise
            size //= 2


def _screen(stop: Stop, quality: Quality = FULL) -> Context:
    """Return what looks are rendered with."""
    photos = SHELF.lately() if quality.coded else SHELF.once()
    return Context(photos, cache=CACHE, quality=quality, stop=stop, lenient=True, limits=LIMITS)


def stages(piece: Piece) -> Identities:
    """Return what identifies every stage of a piece: what screens keep pictures and answers by."""
    return identities_of(piece, Context(SHELF.once(), lenient=True))


def blend_sheet(piece: Piece, layer: str, step: str | None, size: int, stop: Stop = never) -> tuple[bytes, tuple[int, int]]:
    """Return every blend mode of one layer, group or step below each other, in the catalogue's order, and the (rows, cols) of each."""
    pictures = [on_paper(to_integers(picture)) for picture in blended(piece, _screen(stop, DRAFT), layer, step, size)]
    out = BytesIO()
    Image.fromarray(np.concatenate(pictures)).save(out, "JPEG", quality=88, subsampling=0)
    return out.getvalue(), pictures[0].shape[:2]


def veil(piece: Piece, layer: str, step: str | None, size: int, edge: bool, stop: Stop = never) -> bytes:
    """Return a where as a transparent PNG: a tint as strong as the where is, or a line along where it is half as strong as it can be."""
    mask = where_of(piece, _screen(stop, DRAFT), layer, step, size)
    return _edged(mask) if edge else _tinted(mask)


def told(piece: Piece, layer: str, step: str, stop: Stop = never) -> dict[str, Any]:
    """Return what a step tells of what it found out about its input."""
    return told_of(piece, _screen(stop), layer, step)


def doubles(piece: Piece, layer: str, step: str, stop: Stop = never) -> list[Double]:
    """Return where the strokes of a touch-up betray themselves."""
    return doubles_of(piece, _screen(stop), layer, step)


def heal_source(piece: Piece, layer: str, step: str, stroke: Stroke, stop: Stop = never) -> StrokeSource:
    """Return where a stroke that heals takes its texture from by itself."""
    return heal_source_of(piece, _screen(stop), layer, step, stroke)


def bars(piece: Piece, layer: str, step: str, again: int | None, stop: Stop = never) -> list[Bar]:
    """Return the bars of a slices step, as they lie, or with a seed drawn again around the locked ones."""
    return bars_of(piece, _screen(stop), layer, step, again)


def stretches_veil(piece: Piece, layer: str, step: str, size: int, stop: Stop = never) -> bytes:
    """Return what a step acts on as a transparent PNG."""
    return _tinted(runs_of(piece, _screen(stop, DRAFT), layer, step, size))


def clipped_veil(piece: Piece, layer: str, step: str, size: int, stop: Stop = never) -> bytes:
    """Return where a step loses dark and light tones as a transparent PNG, each in a colour of its own."""
    dark, light = clipped_of(piece, _screen(stop), layer, step, size)
    pixels = np.zeros((*dark.shape, 4), np.uint8)
    pixels[dark] = LOST_DARK
    pixels[light] = LOST_LIGHT
    return _png(pixels)


def soft_veil(piece: Piece, size: int, stop: Stop = never) -> bytes:
    """Return where a delivery of `size` pixels would be soft as a small transparent PNG, to be laid over the whole piece."""
    soft = soft_at(piece, _screen(stop), size)
    pixels = np.zeros((*soft.shape, 4), np.uint8)
    pixels[soft] = (*VEIL, SOFT_SHOWN)
    return _png(pixels)


def palette(piece: Piece, stop: Stop = never) -> list[str]:
    """Return the colours that the finished piece consists of."""
    return palette_of(Renderer(piece, _screen(stop)).picture(PALETTE))


def kept_outlines(piece: Piece, layer: str, upto: int | None, stop: Stop = never) -> list[list[tuple[float, float]]]:
    """Return the outlines of a layer's keep areas as they lie at a stage."""
    mask, frame = kept_of(piece, _screen(stop), layer, upto)
    return [] if mask is None else outline_of(mask, frame)


def wordings(piece: Piece, stop: Stop = never) -> list[Wording]:
    """Return where the words of a piece lie on it."""
    return wordings_of(piece, _screen(stop))


def _edged(mask: Array) -> bytes:
    inside = (mask >= 0.5).astype(np.uint8)
    wide, narrow = (cv2.dilate(inside, disc) - cv2.erode(inside, disc) for disc in EDGE)
    pixels = np.zeros((*mask.shape, 4), np.uint8)
    pixels[wide > 0] = DARK
    pixels[narrow > 0] = (*VEIL, 255)
    return _png(pixels)


def _tinted(mask: Array) -> bytes:
    pixels = np.empty((*mask.shape, 4), np.uint8)
    pixels[..., :3] = VEIL
    pixels[..., 3] = mask * 120 + 0.5
    return _png(pixels)


def _png(pixels: AnyArray) -> bytes:
    out = BytesIO()
    Image.fromarray(pixels).save(out, "PNG", compress_level=1)
    return out.getvalue()


def shelve_stage(piece: Piece, upto: int | None, layer: str | None, name: str, size: int, stop: Stop = never) -> Photo:
    """Put a stage of a piece on the Shelf as a picture of its own, with its transparency."""
    shape, strips = Renderer(piece, Context(SHELF.once(), stop=stop, limits=LIMITS), upto, layer).rows(size)
    photo, _ = add_photo(encode(collect(shape, strips), "png", 0), f"{name}.png")
    return photo


def read_piece(piece: Piece, upto: int | None, layer: str | None = None, stop: Stop = never) -> Reading:
    """Read a stage of a piece, as a photo is read; its width and height are those of the look."""
    picture = Renderer(piece, _screen(stop), upto, layer).picture(READ_SIZE)
    return read_look(picture, picture.shape[1], picture.shape[0])


def kept_thumbnail(piece: Piece, size: int) -> bytes | None:
    """Return the small JPEG of a piece that is kept on disk by what it shows; None where there is none yet."""
    return thumbnails.kept(_named(piece, size))


def thumbnail(piece: Piece, size: int, stop: Stop = never) -> bytes:
    """Return a small JPEG of a piece, and keep it."""
    # At full quality: a draft may show colours that the piece does not have, and this is what the piece is known by.
    data = to_jpeg(Renderer(piece, _screen(stop)).picture(size))
    thumbnails.keep(_named(piece, size), data)
    return data


def _named(piece: Piece, size: int) -> str:
    return sha256(f"{dump_piece(piece)}{size}{FULL}".encode()).hexdigest()
