"""A box that is delivered, and a crop at any depth of a trail, is the picture there: as sharp as the whole rendered large and cut."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings

from caracol.core.catalogue.registry import KINDS
from caracol.core.errors import PieceError
from caracol.core.kinds.kind import Kind
from caracol.core.piece.files import check_piece
from caracol.core.render import Context, Renderer, render
from tests.documents import Document, documents
from tests.pictures import OnePhoto, TwoPhotos, detailed, psnr

LONGER = 280
PHOTO = OnePhoto(detailed(200, 400, 3))
PHOTOS = TwoPhotos(detailed(200, 400, 1), detailed(300, 240, 2))
AS_SHARP = 40
FEW: dict[str, dict[str, Any]] = {"melt": {"rounds": 4, "lines": 240}, "brushwork": {"length": 0.02, "lines": 240}}
"""Settings with which slow kinds do as much as shows it."""


def cut(rows: int, cols: int) -> tuple[int, int, int, int]:
    """Return a box of whole pixels off the middle: top, left, height, width."""
    return int(rows * 0.3), int(cols * 0.35), max(2, int(rows * 0.3) // 2 * 2), max(2, int(cols * 0.25) // 2 * 2)


def box_of(ratio: tuple[float, float], rows: int, cols: int) -> dict[str, float]:
    top, left, high, wide = cut(rows, cols)
    half_w, half_h = ratio
    return {
        "x": ((left + wide / 2) / cols * 2 - 1) * half_w,
        "y": ((top + high / 2) / rows * 2 - 1) * half_h,
        "rx": wide / cols * half_w,
        "ry": high / rows * half_h,
    }


def test_a_box_of_the_photo_is_the_photo_there() -> None:
    """At exactly one to one: nothing may be softer."""
    document = {"caracol": 1, "layers": [{"id": "a", "source": {"kind": "photo", "photo": "p"}}]}
    frame = Renderer(check_piece(document), Context(PHOTO)).frame
    rows, cols = frame.pixels(LONGER)
    top, left, high, wide = cut(rows, cols)
    boxed = {**document, "frame": {"box": box_of((frame.half_w, frame.half_h), rows, cols)}}
    seen = render(check_piece(boxed), max(high, wide), PHOTO)
    assert psnr(seen, render(check_piece(document), LONGER, PHOTO)[top : top + high, left : left + wide]) > 60


@pytest.mark.parametrize("kind", KINDS, ids=lambda kind: kind.key)
def test_a_crop_after_a_step_is_the_picture_there(kind: Kind) -> None:
    """What works on a raster of its own, or finds out about its whole input, is the same whatever of it is seen."""
    step = {"id": "s", "kind": kind.key, "settings": (dict(kind.starts[0].settings) if kind.starts else {}) | FEW.get(kind.key, {})}
    layer = {"id": "a", "source": {"kind": "photo", "photo": "p"}, "steps": [step, {"id": "m", "kind": "centre"}]}
    whole = render(check_piece({"caracol": 1, "layers": [layer]}), LONGER, PHOTO)
    rows, cols = whole.shape[:2]
    top, left, high, wide = cut(rows, cols)
    shares = {"left": left / cols, "top": top / rows, "right": (left + wide) / cols, "bottom": (top + high) / rows}
    cropped = {**layer, "steps": [*layer["steps"], {"id": "c", "kind": "crop", "settings": shares}]}
    seen = render(check_piece({"caracol": 1, "layers": [cropped]}), max(high, wide), PHOTO)
    assert psnr(seen, whole[top : top + high, left : left + wide]) > AS_SHARP


@pytest.mark.slow
@settings(max_examples=4, deadline=None, suppress_health_check=list(HealthCheck), derandomize=True)
@given(document=documents())
def test_a_box_of_any_piece_is_the_picture_there(document: Document) -> None:
    try:
        piece = check_piece(document)
    except PieceError:
        return
    frame = Renderer(piece, Context(PHOTOS)).frame
    rows, cols = frame.pixels(LONGER)
    top, left, high, wide = cut(rows, cols)
    boxed: dict[str, Any] = {**document, "frame": {**document["frame"], "box": box_of((frame.half_w, frame.half_h), rows, cols)}}
    whole = render(piece, LONGER, PHOTOS)[top : top + high, left : left + wide]
    seen = render(check_piece(boxed), max(high, wide), PHOTOS)
    assert seen.shape == whole.shape
    assert psnr(seen, whole) > AS_SHARP
