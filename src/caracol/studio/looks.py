"""Looks: pictures of pieces for the screen, the newest request first."""

from __future__ import annotations

import threading
from collections.abc import Callable
from hashlib import sha256
from io import BytesIO

import cv2
from django.conf import settings
from PIL import Image

from ..core.cache import Cache
from ..core.formats import to_integers
from ..core.piece import Piece, dump_piece
from ..core.render import Context, Renderer
from ..core.sampling import DRAFT, FULL
from . import media
from .photos import SHELF, to_jpeg

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
        _, data = cv2.imencode(".jpg", cv2.cvtColor(pixels, cv2.COLOR_RGBA2BGR), [cv2.IMWRITE_JPEG_QUALITY, 85 if draft else 93])
        return data.tobytes(), "image/jpeg"
    out = BytesIO()
    Image.fromarray(pixels).save(out, "PNG", compress_level=1)
    return out.getvalue(), "image/png"


def look(piece: Piece, size: int, upto: int | None, draft: bool, stop: Callable[[], bool]) -> tuple[bytes, str, tuple[int, int]]:
    """Render a look; returns (file, media type, (rows, cols)).

    Raises
    ------
    Overtaken
        A newer request of the same bench came.
    """
    renderer = Renderer(piece, Context(SHELF, cache=CACHE, quality=DRAFT if draft else FULL, stop=stop), upto)
    picture = renderer.picture(size)
    data, kind = encode_look(picture, draft)
    return data, kind, picture.shape[:2]


def thumbnail(piece: Piece, size: int) -> bytes:
    """Return a small JPEG of a piece, kept on disk by what it shows."""
    name = sha256(f"{dump_piece(piece)}{size}".encode()).hexdigest()
    path = media.path_of(f"looks/{name[:2]}/{name}.jpg")
    if not path.exists():
        picture = Renderer(piece, Context(SHELF, cache=CACHE, quality=DRAFT)).picture(size)
        media.put(f"looks/{name[:2]}/{name}.jpg", to_jpeg(picture))
    return path.read_bytes()
