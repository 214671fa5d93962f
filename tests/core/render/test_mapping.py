"""The coordinate map: applied by a plain remap it gives the picture that Caracol renders."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np
import pytest

from caracol.core.errors import PieceError
from caracol.core.piece.files import check_piece
from caracol.core.render import Context, render
from caracol.core.render.mapping import coordinate_map, folded, honest_size, soft_at
from tests.pictures import OnePhoto, detailed, piece, psnr, smooth

PHOTO = smooth(600, 1200)
SIZE = 600


def applied(samples: np.ndarray, photo: np.ndarray, wraps: bool = False) -> np.ndarray:
    """What another tool does with the map: nothing of ours but the file's numbers."""
    rows, cols = photo.shape[:2]
    u, v = (samples[..., k].astype(np.float32) / 65535 for k in (0, 1))
    # A plain remap knows one border for both ways: round the back, a photo is given a few columns of its other end.
    room = 8 if wraps else 0
    wide = np.concatenate([photo[:, cols - room :], photo, photo[:, :room]], axis=1)
    made = cv2.remap(wide, u * cols - 0.5 + room, v * rows - 0.5, cv2.INTER_CUBIC, borderMode=cv2.BORDER_REFLECT)
    return made * (samples[..., 2:] / np.float32(65535))


@pytest.mark.parametrize(
    "steps",
    [
        [("twirl", {"turns": 0.4})],
        [("refit", {"ratio": 1}), ("wave", {}), ("turn", {"angle": 0.1})],
        [("ring", {"inside": "bottom", "spread": "even", "reach": 1.2})],
        [("displace", {"amount": 0.3})],
        [("kaleidoscope", {"seek": True, "sectors": 5})],
        [("twirl", {"turns": 0.2}), ("colour", {"warmth": 0}), ("pinch", {}), ("displace", {"amount": -0.2})],
        [("lens", {"form": "barrel", "edge": "empty"})],
    ],
)
def test_a_plain_remap_gives_the_picture(steps: list[tuple[str, dict[str, Any]]]) -> None:
    photos = OnePhoto(PHOTO)
    found = coordinate_map(piece(*steps), Context(photos), SIZE)
    made = render(piece(*steps), SIZE, photos)
    assert found.samples.shape == (*made.shape[:2], 3)
    assert psnr(applied(found.samples, PHOTO, wraps=steps[0][0] == "ring"), made) >= 38


def test_the_map_of_a_photo_by_itself() -> None:
    """Four by two points: their middles lie at eighths and quarters of the photo."""
    found = coordinate_map(piece(), Context(OnePhoto(PHOTO)), 4)
    assert found.samples[0, :, 0].tolist() == [round(65535 * (k + 0.5) / 4) for k in range(4)]
    assert found.samples[:, 0, 1].tolist() == [round(65535 * 0.25), round(65535 * 0.75)]
    assert (found.samples[..., 2] == 65535).all()
    assert (found.photo, found.left_out) == ("p.png", ())


def test_what_is_no_geometry_is_left_out_and_named() -> None:
    bent = ("twirl", {"turns": 0.4})
    half = {"id": "h", "kind": "pinch", "settings": {}, "strength": 0.5}
    context = Context(OnePhoto(PHOTO))
    found = coordinate_map(piece(bent, ("tone", {"contrast": 0.3}), half), context, 64)
    assert found.left_out == ("Tone", "Pinch")
    assert (found.samples == coordinate_map(piece(bent), context, 64).samples).all()


def test_place_and_box_are_geometry() -> None:
    layers = [
        {"id": "a", "source": {"kind": "photo", "photo": "p.png"}},
        {"id": "b", "source": {"kind": "photo", "photo": "p.png"}, "place": {"scale": 0.5, "x": 0.5}},
    ]
    box = {"x": 0.5, "y": 0, "rx": 1, "ry": 0.5}
    whole = check_piece({"caracol": 1, "layers": layers, "frame": {"box": box}})
    context = Context(OnePhoto(PHOTO))
    upper = coordinate_map(whole, context, 80, "b").samples
    assert upper.shape == (40, 80, 3)
    assert (upper[..., 2] == 65535).all()
    assert upper[20, 0, 0] == pytest.approx(65535 * 0.5 / 80, abs=2)
    lower = coordinate_map(whole, context, 80).samples
    assert lower[20, 0, 0] == pytest.approx(65535 * (0.375 + 0.25 / 80), abs=300)


def test_layers_that_are_not_seen_by_themselves_are_refused() -> None:
    group = {"id": "g", "layers": [{"id": "a", "source": {"kind": "photo", "photo": "p.png"}}]}
    with pytest.raises(PieceError, match="lies in one"):
        coordinate_map(check_piece({"caracol": 1, "layers": [group]}), Context(OnePhoto(PHOTO)), 64, "a")
    with pytest.raises(PieceError, match="size"):
        coordinate_map(piece(), Context(OnePhoto(PHOTO)), 10**6)


def test_folding() -> None:
    at = np.float32([-3.5, -2, -1.5, 0, 1, 2, 2.5, 6])
    assert folded(at, 2, wraps=True) == pytest.approx([0.5, -2, -1.5, 0, 1, -2, -1.5, -2])
    assert folded(at, 2, wraps=False) == pytest.approx([-0.5, -2, -1.5, 0, 1, 2, 1.5, -2])


def test_a_picture_is_sharp_by_its_area() -> None:
    """Squashed to half its height, 100 × 100 pixels lie on N × N / 2 of a picture: one each where N is the root of two times as long."""
    photo = OnePhoto(detailed(100, 100, 2))
    assert honest_size(piece(), Context(photo)) == pytest.approx(100, abs=1)
    squashed = piece(("refit", {"ratio": 2, "how": "squash"}))
    assert honest_size(squashed, Context(photo)) == pytest.approx(100 * 2**0.5, abs=1.5)
    assert not soft_at(squashed, Context(photo), 130).any()
    assert soft_at(squashed, Context(photo), 150).all()


def test_four_fifths_are_sharp_at_the_honest_size() -> None:
    photo, tunnel = OnePhoto(detailed(100, 300, 2)), piece(("ring", {"spread": "depth", "inside": "top", "hole": 0.13, "reach": 1.42}))
    size = honest_size(tunnel, Context(photo))
    assert size is not None
    assert soft_at(tunnel, Context(photo), size).mean() == pytest.approx(0.2, abs=0.02)
