"""Looks: pictures of pieces for the screen, the newest request first."""

from __future__ import annotations

import threading
from collections.abc import Callable
from dataclasses import dataclass
from hashlib import sha256
from io import BytesIO
from typing import Any

import cv2
import numpy as np
from django.conf import settings
from PIL import Image

from ..core.errors import PieceError
from ..core.io.formats import collect, encode, on_paper, to_integers
from ..core.kinds.kind import RasterKind, Rows
from ..core.kinds.settings import as_arguments
from ..core.piece.model import Piece, check_piece, dump_piece
from ..core.pixels.arrays import Array
from ..core.pixels.blending import MODES
from ..core.pixels.masks import on_raster
from ..core.pixels.raster import Raster
from ..core.pixels.sampling import DRAFT, FULL
from ..core.reading.reading import LOOK as READ_SIZE
from ..core.reading.reading import Reading, read_look
from ..core.render import Context, Renderer
from ..core.render.cache import Cache
from ..core.steps.break_.slices import LOOK as BARS_LOOK
from ..core.steps.break_.slices import Bar, SlicesSettings, draw_bars
from . import media
from .models import Photo
from .photos import SHELF, add_photo, to_jpeg
from .traffic import TRAFFIC

VEIL = (232, 97, 63)
"""The tint that shows a where."""
EVERY_COLOUR = [cv2.IMWRITE_JPEG_SAMPLING_FACTOR, cv2.IMWRITE_JPEG_SAMPLING_FACTOR_444]
"""Colours at every pixel: shared by four, they run into each other on small pictures of fine stripes."""
CACHE = Cache(settings.PICTURE_CACHE)


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


def encode_look(picture: object, draft: bool) -> tuple[bytes, str]:
    """Return (file, media type): JPEG, or fast PNG where the picture is transparent."""
    pixels = to_integers(picture)  # type: ignore[arg-type]
    if pixels[..., 3].min() == 255:
        _, data = cv2.imencode(
            ".jpg", cv2.cvtColor(pixels, cv2.COLOR_RGBA2BGR), [cv2.IMWRITE_JPEG_QUALITY, 85 if draft else 97, *EVERY_COLOUR]
        )
        return data.tobytes(), "image/jpeg"
    out = BytesIO()
    Image.fromarray(pixels).save(out, "PNG", compress_level=1)
    return out.getvalue(), "image/png"


@dataclass(frozen=True)
class Look:
    """A rendered look as a file."""

    data: bytes
    kind: str
    rows: int
    cols: int
    missing: tuple[str, ...]


def look(piece: Piece, size: int, upto: int | None, layer: str | None, draft: bool, stop: Callable[[], bool]) -> Look:
    """Render a look; a layer whose photo is gone is shown as a placeholder, and told in `missing`.

    Raises
    ------
    Overtaken
        A newer request of the same bench came.
    """
    quality = DRAFT if draft else FULL
    with TRAFFIC.served():
        renderer = Renderer(piece, Context(SHELF, cache=CACHE, quality=quality, stop=stop, lenient=True), upto, layer)
        picture = renderer.picture(size)
        data, kind = encode_look(picture, draft)
    return Look(data, kind, picture.shape[0], picture.shape[1], tuple(renderer.missing))


def blend_sheet(document: dict[str, Any], layer: str, step: str | None, size: int) -> tuple[bytes, tuple[int, int]]:
    """Return every blend mode of one layer, group or step below each other, in the order of `MODES`, and the (rows, cols) of each.

    What is laid and what it is laid over is the same for all modes and comes from the cache; only the laying is done for each.
    """
    pictures = []
    for mode in MODES:
        piece = check_piece(with_blend(document, layer, step, mode))
        picture = Renderer(piece, Context(SHELF, cache=CACHE, quality=DRAFT, lenient=True)).picture(size)
        pictures.append(on_paper(to_integers(picture)))
    out = BytesIO()
    Image.fromarray(np.concatenate(pictures)).save(out, "JPEG", quality=88, subsampling=0)
    return out.getvalue(), pictures[0].shape[:2]


def with_blend(document: dict[str, Any], layer: str, step: str | None, mode: str) -> dict[str, Any]:
    """Return the document with the blend mode of a layer, group or step changed.

    Raises
    ------
    PieceError
        The document has none of this id.
    """

    found = False

    def changed(entry: dict[str, Any]) -> dict[str, Any]:
        nonlocal found
        if entry.get("id") != layer:
            return {**entry, "layers": [changed(one) for one in entry["layers"]]} if "layers" in entry else entry
        if step is None:
            found = True
            return {**entry, "blend": mode}
        found = any(one.get("id") == step for one in entry.get("steps", []))
        return {**entry, "steps": [{**one, "blend": mode} if one.get("id") == step else one for one in entry.get("steps", [])]}

    made = {**document, "layers": [changed(one) for one in dump_piece(check_piece(document))["layers"]]}
    if not found:
        raise PieceError([f"layer: the piece has no layer {layer!r}" + (f" with a step {step!r}" if step else "")])
    return made


def veil(piece: Piece, layer: str, step: str | None, size: int) -> bytes:
    """Return a where as a transparent PNG: a tint as strong as the where is."""
    return _tinted(Renderer(piece, Context(SHELF, cache=CACHE, quality=DRAFT, lenient=True)).mask(layer, step, size))


def bars_of(piece: Piece, layer: str, step: str, again: int | None) -> list[Bar]:
    """Return the bars of a slices step; with a seed, drawn again from it with the locked ones kept.

    Raises
    ------
    PieceError
        The piece has no such step, or it is no slices step.
    """
    found, one, _, _ = Renderer(piece, Context(SHELF, cache=CACHE, lenient=True)).measured(layer, step, BARS_LOOK)
    if not isinstance(one.settings, SlicesSettings):
        raise PieceError([f"step: {step!r} is of kind {one.kind}, which has no bars"])
    if again is None:
        return list(found["bars"])
    locked = [bar for bar in found["bars"] if bar.locked]
    return draw_bars(one.settings.model_copy(update={"seed": again, "bars": None}), found["profile"], locked)


def runs_veil(piece: Piece, layer: str, step: str, size: int) -> bytes:
    """Return what a step acts on as a transparent PNG.

    Raises
    ------
    PieceError
        The piece has no such step, or its kind has nothing to show.
    """
    renderer = Renderer(piece, Context(SHELF, cache=CACHE, quality=DRAFT, lenient=True))
    _, one, picture, frame = renderer.measured(layer, step, size)
    kind = one.definition
    if not isinstance(kind, RasterKind) or kind.show is None:
        raise PieceError([f"step: {step!r} is of kind {one.kind}, which has no runs to show"])
    rows, cols = picture.shape[:2]
    index = [s.id for s in piece.find(layer).steps].index(step)
    kept, _ = renderer.kept(layer, index)
    return _tinted(kind.show(picture, Raster(Rows(frame, rows, cols), on_raster(kept, rows, cols)), **as_arguments(one.settings)))


def _tinted(mask: Array) -> bytes:
    pixels = np.empty((*mask.shape, 4), np.uint8)
    pixels[..., :3] = VEIL
    pixels[..., 3] = mask * 120 + 0.5
    out = BytesIO()
    Image.fromarray(pixels).save(out, "PNG", compress_level=1)
    return out.getvalue()


def keep_stage(piece: Piece, upto: int | None, layer: str | None, name: str, size: int) -> Photo:
    """Put a stage of a piece on the Shelf as a picture of its own, with its transparency."""
    shape, strips = Renderer(piece, Context(SHELF), upto, layer).rows(size)
    photo, _ = add_photo(encode(collect(shape, strips), "png", 0), f"{name}.png")
    return photo


def read_piece(piece: Piece, upto: int | None, layer: str | None = None) -> Reading:
    """Read a stage of a piece, as a photo is read; its width and height are those of the look."""
    picture = Renderer(piece, Context(SHELF, cache=CACHE, lenient=True), upto, layer).picture(READ_SIZE)
    return read_look(picture, picture.shape[1], picture.shape[0])


def thumbnail(piece: Piece, size: int) -> bytes:
    """Return a small JPEG of a piece, kept on disk by what it shows."""
    name = sha256(f"{dump_piece(piece)}{size}{FULL}".encode()).hexdigest()
    path = media.path_of(f"looks/{name[:2]}/{name}.jpg")
    if not path.exists():
        # At full quality: a draft may show colours that the piece does not have, and this is what the piece is known by.
        picture = Renderer(piece, Context(SHELF, cache=CACHE, lenient=True)).picture(size)
        media.put(f"looks/{name[:2]}/{name}.jpg", to_jpeg(picture))
    return path.read_bytes()
