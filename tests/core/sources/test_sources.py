"""Drawn sources: the same at every size, bent like photos, refused by path."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from caracol.core.catalogue.describe import describe_source
from caracol.core.catalogue.registry import SOURCES
from caracol.core.errors import PieceError
from caracol.core.piece.files import check_piece
from caracol.core.piece.model import Piece
from caracol.core.render import render
from tests.pictures import OnePhoto, detailed, document, halved, psnr

PHOTO = OnePhoto(detailed(64, 128))
# Hard edges are averaged in linear light here and in coded values by the comparison: stripes get two decibels less.
CASES = [
    pytest.param({"kind": source.model_fields["kind"].default, **settings}, id=name)
    for source in SOURCES
    for name, settings in source.looks
]


def drawn(source: dict[str, Any], *steps: tuple[str, dict[str, Any]]) -> Piece:
    data = document(*steps)
    data["layers"][0]["source"] = source
    return check_piece(data)


@pytest.mark.parametrize("source", CASES)
def test_same_at_every_size(source: dict[str, Any]) -> None:
    small, large = render(drawn(source), 256, PHOTO), render(drawn(source), 1024, PHOTO)
    assert psnr(small, halved(large, small.shape[:2])) > (36 if source.get("form") == "stripes" else 38)
    assert small.max() <= 1
    assert (small[..., :3] <= small[..., 3:] + 1e-6).all()


@pytest.mark.slow
@pytest.mark.parametrize("source", CASES)
def test_bent_alike_at_every_size(source: dict[str, Any]) -> None:
    piece = drawn(source, ("ring", {}), ("twirl", {}))
    small, large = render(piece, 256, PHOTO), render(piece, 1024, PHOTO)
    assert small.shape == (256, 256, 4)
    assert psnr(small, halved(large, small.shape[:2])) > (33 if source.get("form") == "stripes" else 34)


def test_fill_by_hand() -> None:
    plain = render(drawn({"kind": "fill", "form": "plain", "first": "#ff8000", "ratio": 2}), 4, PHOTO)
    assert plain.shape == (2, 4, 4)
    assert np.allclose(plain, [1, 128 / 255, 0, 1])
    line = render(drawn({"kind": "fill", "first": "#000000", "second": "#ffffff", "heading": 0.25, "ratio": 1}), 4, PHOTO)
    assert np.allclose(line[0, :, 0], [0.125, 0.375, 0.625, 0.875], atol=1e-6)
    assert np.allclose(line[0], line[3])


def test_ellipse_covers_its_area() -> None:
    disc = render(drawn({"kind": "shape", "form": "ellipse", "width": 0.5, "height": 0.8, "ratio": 1}), 200, PHOTO)
    assert disc[..., 3].mean() * 4 == pytest.approx(np.pi * 0.5 * 0.8, rel=2e-3)
    assert disc[100, 100, 3] == 1
    assert disc[5, 5].max() == 0


def test_stripes_lie_across_their_heading() -> None:
    stripes = render(drawn({"kind": "pattern", "form": "stripes", "heading": 0.25, "size": 0.5, "ratio": 1}), 64, PHOTO)
    assert np.ptp(stripes, axis=0).max() < 1e-5
    assert np.allclose(stripes[:, :48], stripes[:, 16:], atol=2e-3)


def test_seeds_differ_and_repeat() -> None:
    def plasma(seed: int) -> bytes:
        return render(drawn({"kind": "pattern", "form": "plasma", "seed": seed}), 64, PHOTO).tobytes()

    assert plasma(1) == plasma(1) != plasma(2)


def test_faults_name_their_path() -> None:
    with pytest.raises(PieceError, match=r"layers\[0\]\.source\.size: got 9"):
        drawn({"kind": "pattern", "size": 9})
    with pytest.raises(PieceError, match=r"layers\[0\]\.source: .*photo.*fill"):
        drawn({"kind": "movie"})


@pytest.mark.parametrize("source", SOURCES, ids=lambda s: s.__name__)
def test_catalogue_says_everything(source: Any) -> None:
    told = describe_source(source)
    assert told["purpose"].endswith(".")
    assert {"ratio"} <= {s["name"] for s in told["settings"]}
    assert all(len(s["help"]) > 10 for s in told["settings"])
