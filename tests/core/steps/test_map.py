"""The map bend: read by its rule on small maps; and a map that was written from a piece gives that piece's picture again."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest

from caracol.core.catalogue.registry import get_kind
from caracol.core.geometry.frame import Frame
from caracol.core.io.decode import read_photo
from caracol.core.piece.files import check_piece
from caracol.core.pixels.pyramid import Pyramid, build_pyramid, pyramid_of
from caracol.core.pixels.sampling import OUTSIDE
from caracol.core.render import Context, render
from caracol.core.render.mapping import coordinate_map, map_file
from caracol.core.steps.bend.map import MapSettings, map_guide, map_pull
from tests.pictures import OnePhoto, piece, psnr, smooth

FRAME = Frame(2.0)


def pulled(guide: Any, x: Any, y: Any, **settings: Any) -> np.ndarray:
    px, py = map_pull(np.float32(x), np.float32(y), FRAME, FRAME, MapSettings(**{"by": "map"} | settings), np.float32(guide))
    return np.stack([px, py], axis=-1)


def test_points_go_where_red_and_green_say() -> None:
    """A map of one place: a quarter across and three quarters down is x = -1, y = 0.5 in a frame of 2."""
    guide = np.full((4, 8, 3), (0.25, 0.75, 1.0))
    assert pulled(guide, [0.0, 1.5], [0.0, -0.5]) == pytest.approx(np.array([[-1, 0.5], [-1, 0.5]]), abs=1e-6)
    assert pulled(guide, [0.0], [0.0], amount=0.5) == pytest.approx(np.array([[-0.5, 0.25]]), abs=1e-6)
    assert pulled(guide, [0.3], [0.4], amount=0) == pytest.approx(np.array([[0.3, 0.4]]), abs=1e-6)


def test_nothing_is_in_between_over_a_seam() -> None:
    """Where u falls from 1 to 0 a point lies on one side or the other."""
    guide = np.zeros((1, 2, 3))
    guide[0, :, 0], guide[..., 2] = (0.99, 0.01), 1
    near = pulled(guide, [-0.1, 0.1], [0.0, 0.0])[:, 0]
    assert near == pytest.approx([0.98 * 2, -0.98 * 2], abs=1e-5)


def test_what_is_not_covered_is_nothing() -> None:
    guide = np.full((2, 4, 3), (0.5, 0.5, 0.0))
    assert (pulled(guide, [0.0], [0.0]) == OUTSIDE).all()
    assert (pulled(guide, [0.0], [0.0], coverage=False) < 1).all()
    clear = np.zeros((2, 2, 4), np.float32)
    clear[0] = 1
    assert map_guide(clear)[..., 2].tolist() == [[1, 1], [0, 0]]


class Two:
    """A photo and a map."""

    def __init__(self, photo: np.ndarray, map_content: bytes) -> None:
        self._found = {"p.png": pyramid_of(photo), "map.tif": build_pyramid(read_photo(map_content, "map.tif").texels)}

    def pyramid(self, name: str) -> Pyramid:
        return self._found[name]

    def digest(self, name: str) -> str:
        return name


@pytest.mark.parametrize(
    "steps",
    [
        [("twirl", {"turns": 0.4})],
        [("wave", {}), ("pinch", {})],
        [("ring", {"inside": "bottom", "spread": "even", "reach": 1.2, "hole": 0.2})],
    ],
)
def test_a_map_that_was_written_is_read_again(steps: list[tuple[str, dict[str, Any]]], tmp_path: Path) -> None:
    photo = smooth(600, 1200)
    square = [("refit", {"ratio": 1, "how": "squash"})] if steps[0][0] == "ring" else []
    expected = render(piece(*steps), 600, OnePhoto(photo))
    content = map_file(coordinate_map(piece(*steps), Context(OnePhoto(photo)), 600).samples)
    layers = [
        {"id": "map", "source": {"kind": "photo", "photo": "map.tif"}, "visible": False},
        {"id": "land", "source": {"kind": "photo", "photo": "p.png"}},
    ]
    trail = [*square, ("map", {"by": "map"})]
    layers[1]["steps"] = [{"id": f"s{n}", "kind": kind, "settings": settings} for n, (kind, settings) in enumerate(trail)]
    made = render(check_piece({"caracol": 1, "layers": layers, "frame": {"ratio": 1.0 if square else 2.0}}), 600, Two(photo, content))
    assert made.shape == expected.shape
    assert psnr(made, expected) >= 36


def test_the_kind_is_looked_for_as_the_trade_does() -> None:
    assert "uv map" in get_kind("map").words
