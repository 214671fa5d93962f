"""A picture from a warm cache is the one from a cold cache, to the bit."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from caracol.core.errors import PieceError
from caracol.core.piece.files import check_piece
from caracol.core.render import render
from caracol.core.render.cache import Cache
from caracol.core.render.quality import DRAFT, FULL
from tests.documents import Document, histories
from tests.pictures import TwoPhotos, detailed

PHOTOS = TwoPhotos(detailed(100, 200, 1), detailed(160, 120, 2))


@pytest.mark.slow
@settings(max_examples=15, deadline=None, suppress_health_check=list(HealthCheck), derandomize=True)
@given(states=histories(), looks=st.data())
def test_warm_pictures_are_cold_pictures(states: list[Document], looks: Any) -> None:
    cache, quality = Cache(1 << 28), looks.draw(st.sampled_from([FULL, DRAFT]))
    for state in states:
        try:
            piece = check_piece(state)
        except PieceError:
            continue  # an edit may leave a layer that looks at nothing
        layer = looks.draw(st.sampled_from(list(piece.walk())))
        size, upto = looks.draw(st.sampled_from([48, 48, 64])), looks.draw(st.integers(0, len(layer.steps)))
        for view in ({}, {"layer": layer.id, "upto": upto}):
            warm = render(piece, size, PHOTOS, cache=cache, quality=quality, **view)
            cold = render(piece, size, PHOTOS, quality=quality, **view)
            assert warm.shape == cold.shape
            assert warm.tobytes() == cold.tobytes()
