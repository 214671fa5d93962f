"""Blend modes by the W3C text's formulas, channels, and where."""

from __future__ import annotations

import numpy as np
import pytest

from caracol.core.blending import MODES, blended, mix, on_channels
from caracol.core.frame import Frame
from caracol.core.where import Where

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


@pytest.mark.parametrize("mode", MODES)
def test_modes_follow_the_text(mode: str) -> None:
    for alpha_b in (0.0, 0.4, 1.0):
        for alpha_s in (0.3, 1.0):
            for b in VALUES:
                for s in VALUES:
                    backdrop = np.float32([[[b * alpha_b] * 3 + [alpha_b]]])
                    source = np.float32([[[s * alpha_s] * 3 + [alpha_s]]])
                    known = b if alpha_b else 0.0
                    expected = ((1 - alpha_b) * s + alpha_b * by_the_text(mode, known, s)) * alpha_s
                    assert blended(backdrop, source, mode)[0, 0, 0] == pytest.approx(expected, abs=2e-5)


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
