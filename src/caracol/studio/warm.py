"""Compile (or load from the compiler's cache) every kernel once, on a tiny picture."""

import numpy as np

from ..core.catalogue import KINDS
from ..core.piece import check_piece
from ..core.pyramid import Pyramid, pyramid_of
from ..core.render import render


class _Tiny:
    """One small picture under every name."""

    def __init__(self) -> None:
        self._pyramid = pyramid_of(np.linspace(0, 1, 24 * 48 * 4, dtype=np.float32).reshape(24, 48, 4))

    def pyramid(self, name: str) -> Pyramid:
        return self._pyramid

    def digest(self, name: str) -> str:
        return "tiny"


def warm() -> None:
    """Render every kind with each of its starting points."""
    photos = _Tiny()
    for kind in KINDS:
        for settings in ({}, *(dict(s.settings) for s in kind.starts)):
            steps = [{"id": "a", "kind": kind.key, "settings": settings}]
            render(
                check_piece({"caracol": 1, "layers": [{"id": "w", "source": {"kind": "photo", "photo": "w"}, "steps": steps}]}), 32, photos
            )
