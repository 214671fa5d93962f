"""Load every compiled kernel once, on tiny pictures; `python -m caracol.studio.warm` compiles what is not compiled yet."""

from __future__ import annotations

import logging
import os
import subprocess
import sys
import time
from collections.abc import Callable, Iterator

import numpy as np

from ..core import kernels
from ..core.catalogue.registry import KINDS
from ..core.errors import CaracolError
from ..core.geometry.frame import Frame
from ..core.geometry.rows import Rows
from ..core.kinds.kind import RasterKind
from ..core.piece.files import check_piece
from ..core.piece.model import Piece
from ..core.pixels.pyramid import Pyramid, pyramid_of
from ..core.pixels.raster import Raster
from ..core.render import render
from ..core.render.quality import DRAFT
from .child_processes import bound

log = logging.getLogger(__name__)
SIZE = 32
LINES = 240
"""Lines of the rasters, the fewest there are: a whole one costs a hundred times as much and loads no more kernels."""
WHOLE = "whole"
"""The file that says that all kernels of a set are there."""
STAND_BACK = "--stand-back"
KIND = 19
"""How far the compiling process stands back from others."""


_PHOTO = {"kind": "photo", "photo": "w"}
_DRAGGED = ({"id": "s", "kind": "ring", "settings": {}}, {"id": "s", "kind": "turn", "settings": {"angle": 0.1}})
"""A bend that is torn nearly everywhere on so small a picture, and one that is smooth."""


class _Tiny:
    """One small picture under every name."""

    def __init__(self) -> None:
        self._pyramid = pyramid_of(np.linspace(0, 1, 24 * 48 * 4, dtype=np.float32).reshape(24, 48, 4))

    def pyramid(self, name: str) -> Pyramid:
        return self._pyramid

    def digest(self, name: str) -> str:
        return "tiny"


_PAINTED = {"shapes": [{"kind": "polygon", "points": [[-1, -1], [1, -1], [0, 1]]}, {"kind": "stroke", "points": [[0, 0], [1, 1]]}]}
_LAYERS = [
    {
        "id": "w",
        "source": {"kind": "photo", "photo": "w", "keep": [{"where": _PAINTED}]},
        "steps": [
            {"id": "a", "kind": "channel-split", "settings": {"red_x": 0.1}, "strength": 0.5, "where": _PAINTED},
            {"id": "b", "kind": "pixel-sort", "settings": {"lines": LINES, "order": "falling"}},
        ],
    },
    {"id": "c", "source": {"kind": "pattern", "form": "cells"}, "opacity": 0.5, "blend": "multiply"},
    {"id": "p", "source": {"kind": "pattern", "form": "plasma"}, "opacity": 0.5},
]
"""What no single step needs: layers, wheres, keep areas, drawn sources."""
_STROKES = [
    {"mode": "clone", "line": [0, 0], "radius": 0.2},
    {"mode": "heal", "line": [50000, 0], "radius": 0.2},
    {"mode": "fill-in", "line": [-50000, 0], "radius": 0.15},
]
"""What is made by hand, of kinds that do nothing before."""


def pieces() -> Iterator[Piece]:
    """Yield a piece for every kind with each of its starting points, one of several layers, and one with strokes."""
    yield check_piece({"caracol": 3, "layers": _LAYERS})
    by_hand = {"id": "t", "kind": "touch-up", "settings": {"strokes": _STROKES}}
    yield check_piece({"caracol": 3, "layers": [{"id": "w", "source": {"kind": "photo", "photo": "w"}, "steps": [by_hand]}]})
    for kind in KINDS:
        small = {"lines": LINES} if isinstance(kind, RasterKind) else {}
        for settings in ({}, *(dict(s.settings) for s in kind.starts)):
            steps = [{"id": "a", "kind": kind.key, "settings": settings | small}]
            yield check_piece({"caracol": 3, "layers": [{"id": "w", "source": {"kind": "photo", "photo": "w"}, "steps": steps}]})


def _at_once() -> None:
    """Wait for nobody."""


def warm(wait: Callable[[], None] = _at_once) -> None:
    """Render every piece of `pieces`, and bends as a drag shows them; `wait` is called before each of them."""
    photos = _Tiny()
    wait()
    for step in _DRAGGED:
        render(check_piece({"caracol": 3, "layers": [{"id": "a", "source": _PHOTO, "steps": [step]}]}), SIZE, photos, quality=DRAFT)
    for piece in pieces():
        wait()
        render(piece, SIZE, photos)
    picture = photos.pyramid("w").picture(SIZE)
    for kind in KINDS:
        if isinstance(kind, RasterKind) and kind.show is not None:
            kind.show(picture, Raster(Rows(Frame(2.0), *picture.shape[:2])), kind.settings())


def warm_process(wait: Callable[[], None]) -> None:
    """Warm this process, one piece at a time while nobody is served. What must be compiled first is compiled by another process."""
    began = time.monotonic()
    try:
        if not (kernels.folder() / WHOLE).exists():
            # The compiler would hold this process's threads; a process of its own that stands back does not.
            subprocess.run([sys.executable, "-m", __name__, STAND_BACK], check=True, preexec_fn=bound())
        warm(wait)
    except (OSError, subprocess.CalledProcessError, CaracolError):
        log.exception("The kernels could not be warmed; the first use of each will wait for the compiler.")
    log.info("warmed in %.1f s", time.monotonic() - began)


if __name__ == "__main__" and STAND_BACK in sys.argv:
    os.nice(KIND)
if __name__ == "__main__" and not (kernels.folder() / WHOLE).exists():
    warm()
    (kernels.folder() / WHOLE).touch()
