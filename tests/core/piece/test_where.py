"""Where: each shape worked out by hand, joined in order, the same at every size."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from caracol.core.arrays import Array
from caracol.core.geometry.frame import Frame
from caracol.core.piece.where import Where
from tests.pictures import halved, opaque, psnr

SQUARE = Frame(1.0)


def mask(*shapes: dict[str, Any], size: int = 200, frame: Frame = SQUARE, picture: Array | None = None, **more: Any) -> Array:
    return Where.model_validate({"shapes": shapes, **more}).mask(frame, *frame.pixels(size), picture=picture)


def area(found: Array) -> float:
    return float(found.mean() * 4)


SHAPES: list[dict[str, Any]] = [
    {"kind": "rectangle", "x": 0.2, "rx": 0.3, "ry": 0.5, "turn": 0.1},
    {"kind": "ellipse", "rx": 0.7, "ry": 0.3, "turn": 0.2},
    {"kind": "polygon", "points": [[-0.6, -0.5], [0.7, -0.2], [0.1, 0.6]]},
    {"kind": "stroke", "points": [[-0.5, -0.5], [0.3, 0.1], [0.6, -0.4]], "radius": 0.15, "hardness": 1},
    {"kind": "bands", "spacing": 0.4, "thickness": 0.5, "heading": 0.1},
    {"kind": "linear", "heading": 0.25, "reach": 0.5},
    {"kind": "radial", "inner": 0.2, "outer": 0.8},
]


@pytest.mark.parametrize("shape", SHAPES, ids=lambda s: s["kind"])
def test_same_at_every_size_and_in_strips(shape: dict[str, Any]) -> None:
    small, large = mask(shape, size=100), mask(shape, size=400)
    assert psnr(small, halved(large, (100, 100))) > 38
    where = Where.model_validate({"shapes": [shape], "feather": 0.1})
    whole = where.mask(SQUARE, 100, 100)
    strips = [where.mask(SQUARE, 100, 100, top, 25) for top in range(0, 100, 25)]
    assert np.allclose(whole, np.concatenate(strips), atol=1e-5)


@pytest.mark.parametrize(
    ("shape", "expected"),
    [
        (SHAPES[0], 0.6 * 1.0),
        (SHAPES[1], np.pi * 0.7 * 0.3),
        (SHAPES[2], abs((0.7 + 0.6) * (0.6 + 0.5) - (0.1 + 0.6) * (-0.2 + 0.5)) / 2),
        ({"kind": "stroke", "points": [[-0.5, 0], [0.5, 0]], "radius": 0.2, "hardness": 1}, 0.4 + np.pi * 0.04),
        ({"kind": "stroke", "points": [[0, 0]], "radius": 0.3, "hardness": 1}, np.pi * 0.09),
        ({"kind": "bands", "spacing": 0.4, "thickness": 0.5, "offset": 0.1}, 2),
    ],
)
def test_areas(shape: dict[str, Any], expected: float) -> None:
    assert area(mask(shape)) == pytest.approx(expected, rel=0.02)


def test_fades_run_where_they_say() -> None:
    fade = mask({"kind": "linear", "heading": 0.25, "reach": 0.5}, size=400)
    assert fade[200, 200] == pytest.approx(0.5, abs=0.01)
    assert fade[200, 90] == 0
    assert fade[200, 310] == 1
    round_fade = mask({"kind": "radial", "inner": 0.2, "outer": 0.8}, size=400)
    assert round_fade[200, 230] == 1
    assert round_fade[200, 300] == pytest.approx(0.5, abs=0.01)
    assert round_fade[200, 365] == 0


def test_joined_in_order_feathered_and_inverted() -> None:
    box, hole = {"kind": "rectangle", "rx": 0.8, "ry": 0.8}, {"kind": "ellipse", "rx": 0.4, "ry": 0.4}
    assert area(mask(box, {**hole, "join": "subtract"})) == pytest.approx(2.56 - np.pi * 0.16, rel=0.01)
    assert area(mask(box, {**hole, "join": "intersect"})) == pytest.approx(np.pi * 0.16, rel=0.01)
    assert area(mask({**hole, "join": "subtract"}, box)) == pytest.approx(2.56, rel=0.01)
    assert np.allclose(mask(box, invert=True), 1 - mask(box))
    soft = mask(box, feather=0.4)
    assert soft[100, 180] == pytest.approx(0.5, abs=0.05)
    assert soft[100, 190] == pytest.approx(0.25, abs=0.05)


def test_an_erased_stroke_takes_away_what_was_painted() -> None:
    paint = {"kind": "stroke", "points": [[-0.5, 0], [0.5, 0]], "radius": 0.2, "hardness": 1}
    erase = {"kind": "stroke", "points": [[0, -0.5], [0, 0.5]], "radius": 0.1, "hardness": 1, "join": "subtract"}
    found = mask(paint, erase)
    assert found[100, 100] == 0
    assert found[100, 60] == 1


def test_ranges_look_at_the_picture() -> None:
    ramp = opaque(np.repeat(np.linspace(0, 1, 100, dtype=np.float32)[None, :, None], 3, axis=2).repeat(20, axis=0))
    light = Where.model_validate({"shapes": [{"kind": "light", "low": 0.5, "high": 0.8, "softness": 0.05}]}).mask(
        Frame(5), 20, 100, picture=ramp
    )
    assert light[0, 65] == 1
    assert light[0, 40] == light[0, 90] == 0
    colours = opaque(np.float32([[[0.9, 0.1, 0.1], [0.1, 0.9, 0.1], [0.1, 0.1, 0.9], [0.5, 0.5, 0.5]]]))
    for centre, hit in ((0, 0), (1 / 3, 1), (2 / 3, 2)):
        found = Where.model_validate({"shapes": [{"kind": "hue", "centre": centre}]}).mask(Frame(4), 1, 4, picture=colours)
        assert [bool(v > 0.9) for v in found[0]] == [n == hit for n in range(4)]
        assert found[0, 3] == 0
    with pytest.raises(ValueError, match="needs the picture"):
        mask({"kind": "light"})


def test_uneven_bands_differ_and_repeat() -> None:
    def bands(seed: int) -> bytes:
        return mask({"kind": "bands", "unevenness": 0.8, "seed": seed}).tobytes()

    assert bands(1) == bands(1) != bands(2)


def test_two_hundred_shapes_stay_usable() -> None:
    many = [{"kind": "ellipse", "x": n / 100 - 1, "y": (n % 14) / 7 - 1, "rx": 0.05, "ry": 0.05} for n in range(200)]
    assert 0 < area(mask(*many)) < 4
