"""Blend modes by the W3C text's formulas, channels, and where."""

from __future__ import annotations

import numpy as np
import pytest

from caracol.core.geometry.frame import Frame
from caracol.core.piece.where import Where
from caracol.core.pixels.blending import LUMA, MODES, blended, lay, mix, on_channels

VALUES = np.linspace(0, 1, 6)


def by_the_text(mode: str, b: float, s: float) -> float:
    """One channel, written from the text case by case."""
    if mode == "hard-light":
        return b * 2 * s if s <= 0.5 else by_the_text("screen", b, 2 * s - 1)
    if mode == "overlay":
        return by_the_text("hard-light", s, b)
    if mode == "color-dodge":
        return 0 if b == 0 else 1 if s == 1 else min(1, b / (1 - s))
    if mode == "color-burn":
        return 1 if b == 1 else 0 if s == 0 else 1 - min(1, (1 - b) / s)
    if mode == "soft-light":
        d = ((16 * b - 12) * b + 4) * b if b <= 0.25 else b**0.5
        return b - (1 - 2 * s) * b * (1 - b) if s <= 0.5 else b + (2 * s - 1) * (d - b)
    simple = {
        "normal": s, "multiply": b * s, "screen": b + s - b * s, "darken": min(b, s), "lighten": max(b, s),
        "difference": abs(b - s), "exclusion": b + s - 2 * b * s, "add": min(1, b + s), "subtract": max(0, b - s),
    }  # fmt: skip
    return simple[mode]


def lum(c: list[float]) -> float:
    return 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2]


def set_lum(c: list[float], light: float) -> list[float]:
    d = light - lum(c)
    c = [v + d for v in c]
    middle, low, high = lum(c), min(c), max(c)
    if low < 0:
        c = [middle + (v - middle) * middle / (middle - low) for v in c]
    if high > 1:
        c = [middle + (v - middle) * (1 - middle) / (high - middle) for v in c]
    return c


def set_sat(c: list[float], sat: float) -> list[float]:
    out, order = [0.0, 0.0, 0.0], sorted(range(3), key=lambda k: c[k])
    low, middle, high = order
    if c[high] > c[low]:
        out[middle] = (c[middle] - c[low]) * sat / (c[high] - c[low])
        out[high] = sat
    return out


def colour_by_the_text(mode: str, b: list[float], s: list[float]) -> list[float]:
    """Three channels, written from the text case by case."""
    if mode == "hue":
        return set_lum(set_sat(s, max(b) - min(b)), lum(b))
    if mode == "saturation":
        return set_lum(set_sat(b, max(s) - min(s)), lum(b))
    if mode == "color":
        return set_lum(s, lum(b))
    if mode == "luminosity":
        return set_lum(b, lum(s))
    if mode in ("darker-pixel", "lighter-pixel"):
        luma_b, luma_s = (0.2126 * c[0] + 0.7152 * c[1] + 0.0722 * c[2] for c in (b, s))
        return s if (luma_s < luma_b) == (mode == "darker-pixel") and luma_s != luma_b else b
    if mode == "divide":
        return [0 if x == 0 else 1 if y == 0 else min(1, x / y) for x, y in zip(b, s, strict=True)]
    return [by_the_text(mode, x, y) for x, y in zip(b, s, strict=True)]


@pytest.mark.parametrize("mode", MODES)
def test_modes_follow_the_text(mode: str) -> None:
    rng = np.random.default_rng(6)
    greys = [([b] * 3, [s] * 3) for b in VALUES for s in VALUES]
    colours = [(list(map(float, rng.choice(VALUES, 3))), list(map(float, rng.choice(VALUES, 3)))) for _ in range(60)]
    for alpha_b in (0.0, 0.4, 1.0):
        for alpha_s in (0.3, 1.0):
            for b, s in greys + colours:
                backdrop = np.float32([[[*(np.array(b) * alpha_b), alpha_b]]])
                source = np.float32([[[*(np.array(s) * alpha_s), alpha_s]]])
                known = b if alpha_b else [0.0] * 3
                mixed = np.array(colour_by_the_text(mode, known, s))
                expected = ((1 - alpha_b) * np.array(s) + alpha_b * mixed) * alpha_s
                if mode.endswith("-pixel") and alpha_b in (0.4,) and abs(float(np.dot(np.array(b) - s, LUMA))) < 1e-5:
                    continue  # as light as each other but for rounding: either may be taken
                assert blended(backdrop, source, mode)[0, 0, :3] == pytest.approx(expected, abs=3e-5)


def test_laying_is_the_texts_source_over() -> None:
    backdrop, source = np.float32([[[0.2, 0.1, 0.4, 0.5]]]), np.float32([[[0.3, 0.6, 0.15, 0.75]]])
    for mode in ("normal", "multiply"):
        cb, cs = backdrop[0, 0, :3] / 0.5, source[0, 0, :3] / 0.75
        alpha = 0.75 * 0.8
        colour = 0.5 * cs + 0.5 * (cs if mode == "normal" else cb * cs)
        expected = (1 - alpha) * backdrop[0, 0, :3] + alpha * colour
        result = lay(backdrop, source, 0.8, mode, None)[0, 0]
        assert result[:3] == pytest.approx(expected, abs=1e-6)
        assert result[3] == pytest.approx(alpha + 0.5 * (1 - alpha))
        assert np.allclose(lay(backdrop, source, 1, mode, np.float32([[0.8]]))[0, 0], result, atol=1e-6)


def test_channels_take_only_what_they_name() -> None:
    before, after = np.float32([[[0.1, 0.2, 0.3, 1]]]), np.float32([[[0.9, 0.8, 0.7, 1]]])
    assert on_channels(before, after, frozenset("b"))[0, 0].tolist() == pytest.approx([0.1, 0.2, 0.7, 1])
    luma = np.array([0.2126, 0.7152, 0.0722])
    light = on_channels(before, after, frozenset({"light"}))[0, 0, :3]
    assert light @ luma == pytest.approx(after[0, 0, :3] @ luma, abs=1e-5)
    colour = on_channels(before, after, frozenset({"colour"}))[0, 0, :3]
    assert colour @ luma == pytest.approx(before[0, 0, :3] @ luma, abs=0.05)


def test_mix_is_a_cross_fade_alpha_included() -> None:
    before, after = np.zeros((2, 2, 4), np.float32), np.ones((2, 2, 4), np.float32)
    where = np.float32([[0, 1], [0.5, 0.25]])
    assert mix(before, after, 0.5, "normal", frozenset("rgb"), where)[..., 3].tolist() == [[0, 0.5], [0.25, 0.125]]


def test_where_joins_in_order_feathers_and_inverts() -> None:
    box = {"kind": "rectangle", "rx": 0.5, "ry": 0.5}
    dot = {"kind": "ellipse", "rx": 0.25, "ry": 0.25, "join": "subtract"}
    mask = Where.model_validate({"shapes": [box, dot]}).mask(Frame(1), 101, 101)
    assert (mask[50, 50], mask[50, 30], mask[50, 5]) == (0, 1, 0)
    inverse = Where.model_validate({"shapes": [box, dot], "invert": True}).mask(Frame(1), 101, 101)
    assert np.allclose(mask + inverse, 1)
    soft = Where.model_validate({"shapes": [box], "feather": 0.4}).mask(Frame(1), 101, 101)
    assert soft[50, 25] == pytest.approx(0.5, abs=0.03)
    both = Where.model_validate({"shapes": [box, {**dot, "join": "intersect"}]}).mask(Frame(1), 101, 101)
    assert (both[50, 50], both[50, 30]) == (1, 0)


def test_where_is_free_of_resolution() -> None:
    where = Where.model_validate({"shapes": [{"kind": "ellipse", "x": 0.3, "rx": 0.5, "ry": 0.3}], "feather": 0.1})
    large = where.mask(Frame(1.5), 400, 600)
    small = where.mask(Frame(1.5), 100, 150)
    assert np.abs(large.reshape(100, 4, 150, 4).mean(axis=(1, 3)) - small).max() < 0.06
