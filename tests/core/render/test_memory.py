"""What lasts after a render is in the cache, whose bytes are counted, and nowhere else."""

from __future__ import annotations

import gc
import tracemalloc

import pytest

from caracol.core.catalogue.registry import KINDS
from caracol.core.kinds.kind import Kind, RasterKind
from caracol.core.piece.files import check_piece
from caracol.core.piece.model import Piece
from caracol.core.render import render
from caracol.core.render.cache import Cache
from tests.pictures import OnePhoto, detailed, piece

PHOTO = OnePhoto(detailed(64, 128))
WORDS = {"caracol": 1, "layers": [{"id": "a", "source": {"kind": "lettering", "text": "Marea"}}]}


def what_lasts(asked: Piece, again: Piece) -> int:
    """Return the bytes that rendering `again` leaves behind, after `asked` has loaded what is loaded once."""
    render(asked, 200, PHOTO, cache=Cache(0))
    tracemalloc.start()
    try:
        render(again, 200, PHOTO, cache=Cache(0))
        gc.collect()
        return tracemalloc.get_traced_memory()[0]
    finally:
        tracemalloc.stop()


@pytest.mark.slow
@pytest.mark.parametrize("kind", [kind for kind in KINDS if kind.key != "brushwork"], ids=lambda kind: kind.key)
def test_no_kind_keeps_pictures_of_its_own(kind: Kind) -> None:
    settings = dict(kind.starts[0].settings) if kind.starts else {}
    if isinstance(kind, RasterKind):
        settings["lines"] = 240  # a raster as large as there is costs ten times as much and shows no more
    other = {"seed": 77} if "seed" in kind.settings.model_fields else {}
    assert what_lasts(piece((kind.key, settings)), piece((kind.key, settings | other))) < 400_000


def test_lettering_keeps_no_pictures_of_its_own() -> None:
    other = {**WORDS, "layers": [{"id": "a", "source": {"kind": "lettering", "text": "Feria"}}]}
    assert what_lasts(check_piece(WORDS), check_piece(other)) < 400_000
