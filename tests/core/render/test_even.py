"""What is read at two sizes is even where it is larger: cost grows by addition, and what is seen stays what it was."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import cv2
import numpy as np
import pytest

from caracol.core.piece.files import check_piece
from caracol.core.piece.model import Piece
from caracol.core.render import Context, Renderer
from caracol.core.render.cache import Cache
from caracol.core.render.quality import DRAFT, FULL
from tests.pictures import OnePhoto, detailed, psnr

PHOTO = OnePhoto(detailed(750, 1500))
LAND: dict[str, Any] = {"id": "a", "source": {"kind": "photo", "photo": "p"}}
LENS = {"kind": "lens", "settings": {}}


def layers(count: int) -> list[dict[str, Any]]:
    return [LAND, *({"id": f"l{n}", "source": {"kind": "below"}, "opacity": 0.5, "steps": [{"id": "s", **LENS}]} for n in range(count))]


def steps(count: int) -> list[dict[str, Any]]:
    return [{**LAND, "steps": [{"id": f"s{n}", "strength": 0.5, **LENS} for n in range(count)]}]


def groups(count: int) -> list[dict[str, Any]]:
    entry = LAND
    for n in range(count):
        entry = {"id": f"g{n}", "layers": [entry], "steps": [{"id": "s", "strength": 0.5, **LENS}]}
    return [entry]


def drawn(count: int) -> list[dict[str, Any]]:
    """Bends of something drawn, each read by the next through a step that is no bend."""
    pairs = [one for n in range(count) for one in ({"id": f"s{n}", **LENS}, {"id": f"b{n}", "kind": "tone", "settings": {"contrast": 0.1}})]
    return [{"id": "a", "source": {"kind": "fill"}, "steps": pairs}]


def of(entries: list[dict[str, Any]]) -> Piece:
    return check_piece({"caracol": 3, "layers": entries})


def cost(entries: list[dict[str, Any]], size: int = 384) -> float:
    return Renderer(of(entries), Context(PHOTO)).plan(size).cost


@pytest.mark.parametrize(("made", "few"), [(layers, 6), (steps, 6), (groups, 4), (drawn, 6)])
def test_twice_as_many_cost_about_twice_as_much(made: Callable[[int], list[dict[str, Any]]], few: int) -> None:
    """Twelve such layers were planned at 306 seconds, three times nine."""
    one, two, four = (cost(made(few * times)) for times in (1, 2, 4 if made is not groups else 3))
    assert two < 2.6 * one
    assert four < 2.6 * two
    assert made is drawn or two < 3e9, "twelve of them at 384 pixels are seconds"


def test_what_was_drawn_small_is_read_no_larger_than_a_screen() -> None:
    plan = Renderer(of(drawn(8)), Context(PHOTO)).plan(16)
    assert max(node.shape[0] * node.shape[1] for node in plan.order if hasattr(node, "shape")) <= 1 << 24
    assert plan.cost < 20e9


def smaller(picture: np.ndarray, size: int) -> np.ndarray:
    rows, cols = picture.shape[:2]
    return np.asarray(cv2.resize(picture, (size, round(size * rows / cols)), interpolation=cv2.INTER_AREA))


@pytest.mark.parametrize(("entries", "least"), [(layers(1), 37), (layers(3), 35), (steps(1), 37), (steps(3), 36), (groups(3), 36)])
def test_small_ones_agree_with_large_ones(entries: list[dict[str, Any]], least: float) -> None:
    small, large = (Renderer(of(entries), Context(PHOTO)).picture(size) for size in (320, 1280))
    assert psnr(small, smaller(large, 320)) > least


@pytest.mark.parametrize("quality", [FULL, DRAFT])
@pytest.mark.parametrize("entries", [layers(3), steps(4), groups(3)])
def test_warm_and_cold_are_the_same_bytes_whatever_was_rendered_before(entries: list[dict[str, Any]], quality: Any) -> None:
    """An even picture and one that is not are two, also of one size."""
    piece = of(entries)
    cache = Cache(1 << 28)
    sizes = (64, 90, 128, 181, 256)
    for size in (*sizes, *sizes[::-1]):
        warm = Renderer(piece, Context(PHOTO, cache=cache, quality=quality)).picture(size)
        assert np.array_equal(warm, Renderer(piece, Context(PHOTO, quality=quality)).picture(size))


def test_a_box_of_layers_below_is_as_sharp_as_the_picture() -> None:
    """What is only cut out is read as it is, not evenly: then it would be 36 dB from it."""
    strong = [LAND, {"id": "l", "source": {"kind": "below"}, "steps": [{"id": "s", "kind": "lens", "settings": {"amount": 0.9}}]}]
    box = {"x": 0, "y": 0, "rx": 0.5, "ry": 0.5, "turn": 0}
    part = Renderer(check_piece({"caracol": 3, "layers": strong, "frame": {"ratio": None, "box": box}}), Context(PHOTO)).picture(128)
    whole = Renderer(of(strong), Context(PHOTO)).picture(512)
    assert psnr(part, whole[64:192, 192:320]) > 80


def test_what_many_bends_press_together_needs_no_larger_picture_than_what_one_does() -> None:
    one, many = (
        [step for n in range(count) for step in ({"id": f"s{n}", **LENS}, {"id": f"t{n}", "kind": "sharpen", "settings": {}})]
        for count in (2, 12)
    )
    sizes = [
        max(node.shape[1] for node in Renderer(of([{**LAND, "steps": some}]), Context(PHOTO)).plan(1200).order if hasattr(node, "shape"))
        for some in (one, many)
    ]
    assert sizes[0] == sizes[1] < 1.5 * 1500
