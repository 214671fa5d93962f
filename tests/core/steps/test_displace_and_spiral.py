"""Displace and spiral repeat, on small pictures worked out by hand."""

from __future__ import annotations

import numpy as np
import pytest

from caracol.core.arrays import Array
from caracol.core.geometry.frame import Frame
from caracol.core.pixels.blending import LUMA
from caracol.core.render import render
from caracol.core.steps.bend.displace import DisplaceSettings, brightness_guide, displace_pull
from caracol.core.steps.bend.spiral_repeat import SpiralRepeatSettings, copies
from tests.pictures import OnePhoto, detailed, opaque, piece, psnr

FRAME = Frame(2.0)


def displaced(guide: Array, **settings: object) -> tuple[Array, Array]:
    x, y = FRAME.grid(6, 12)
    px, py = displace_pull(x, y, FRAME, FRAME, DisplaceSettings(**settings), guide)  # type: ignore[arg-type]
    return px - x, py - y


def test_white_goes_along_the_heading_and_black_against_it() -> None:
    dx, dy = displaced(np.ones((20, 40), np.float32), heading=0, amount=0.3)
    assert np.allclose(dx, 0, atol=1e-6)
    assert np.allclose(dy, 0.3, atol=1e-5)  # content goes up: the colour comes from below
    dx, dy = displaced(np.zeros((20, 40), np.float32), heading=0.25, amount=0.3)
    assert np.allclose(dx, 0.3, atol=1e-5)
    assert np.allclose(dy, 0, atol=1e-6)
    assert np.allclose(displaced(np.full((20, 40), 0.7, np.float32), amount=1, middle=0.7), 0, atol=1e-5)


def test_slope_is_the_gradient_per_unit() -> None:
    ramp = np.broadcast_to((np.arange(40, dtype=np.float32) + 0.5) / 40, (20, 40)).copy()
    dx, dy = displaced(ramp, along="slope", amount=1, softness=0.1)
    assert np.allclose(dx[:, 2:-2], -0.1 * 0.25, atol=1e-5)  # light rises by 1 over 4 units
    assert np.allclose(dy, 0, atol=1e-6)


def test_guide_counts_what_is_not_there_as_the_middle() -> None:
    assert np.allclose(brightness_guide(np.zeros((16, 16, 4), np.float32)), 0.5)
    assert np.allclose(brightness_guide(opaque(np.full((16, 16, 3), 0.8, np.float32))), 0.8, atol=1e-5)


def test_displace_follows_the_picture_before_it() -> None:
    grey = OnePhoto(opaque(np.full((64, 128, 3), 0.5, np.float32)))
    assert psnr(render(piece(("displace", {"amount": 1})), 128, grey), render(piece(), 128, grey)) > 100
    photo = OnePhoto(detailed())
    after_tone = render(piece(("tone", {"brightness": 0.3}), ("displace", {"amount": 0.5})), 128, photo)
    before_tone = render(piece(("displace", {"amount": 0.5}), ("tone", {"brightness": 0.3})), 128, photo)
    assert psnr(after_tone, before_tone) < 35


def test_copies_lie_on_a_logarithmic_spiral() -> None:
    settings = SpiralRepeatSettings(reach=0.8, start=0.25, per_turn=4, turns=2, growth=2, size=0.5, twist=0.1)
    found = copies(settings)
    assert len(found) == 9
    first, quarter, whole = found[0], found[1], found[4]
    assert (first.x, first.y) == pytest.approx((0.8, 0))
    assert first.scale == pytest.approx(0.4)
    assert (quarter.x, quarter.y) == pytest.approx((0, 0.8 * 2**-0.25))  # inwards clockwise: from the right to below
    assert (whole.x, whole.y) == pytest.approx((0.4, 0))
    assert whole.scale == pytest.approx(0.2)
    assert whole.turn == pytest.approx(1.25 + 0.1)
    assert len(copies(settings.model_copy(update={"arms": 3}))) == 27
    assert len(copies(SpiralRepeatSettings(arms=12, per_turn=60, turns=10))) <= 612


def test_copies_stray_by_chance_from_their_seed_and_within_bounds() -> None:
    settings = SpiralRepeatSettings(per_turn=10, turns=3, chance_hue=0.5, chance_light=0.4, chance_size=0.6, chance_turn=0.2, seed=5)
    plain = copies(SpiralRepeatSettings(per_turn=10, turns=3))
    found = copies(settings)
    assert found == copies(settings)
    assert found != copies(settings.model_copy(update={"seed": 6}))
    assert [(one.x, one.y) for one in found] == [(one.x, one.y) for one in plain]
    sizes = [one.scale / other.scale for one, other in zip(found, plain, strict=True)]
    assert 2**-0.6 <= min(sizes) < 0.85 < 1.15 < max(sizes) <= 2**0.6
    assert max(abs(one.hue) for one in found) <= 0.25
    assert max(abs(one.turn - other.turn) for one, other in zip(found, plain, strict=True)) <= 0.1
    assert 2**-0.4 <= min(one.light for one in found) < 1 < max(one.light for one in found) <= 2**0.4
    # The first copies are the same whether or not more follow.
    assert copies(settings.model_copy(update={"turns": 1}))[:8] == found[:8]


def test_one_copy_covers_its_box() -> None:
    red = OnePhoto(opaque(np.broadcast_to(np.float32([0.8, 0.2, 0.1]), (64, 64, 3))))
    one = {"per_turn": 1, "turns": 0.1, "start": 0.25, "reach": 0.5, "size": 0.5, "cut": "whole", "follow": False, "ground": False}
    result = render(piece(("spiral-repeat", one)), 80, red)
    assert result[..., 3].mean() == pytest.approx(0.25**2, rel=1e-3)  # half sides a quarter, in a frame of two by two
    assert np.allclose(result[40, 60], [0.8, 0.2, 0.1, 1], atol=1e-3)
    assert result[40, 40].max() == 0
    round_one = render(piece(("spiral-repeat", {**one, "cut": "round"})), 80, red)
    assert round_one[..., 3].mean() == pytest.approx(np.pi / 4 * 0.25**2, rel=1e-2)


def test_drift_keeps_the_luma_and_light_multiplies_it() -> None:
    teal = np.float32([0.2, 0.5, 0.45])
    photo = OnePhoto(opaque(np.broadcast_to(teal, (64, 64, 3))))
    base = {"per_turn": 2, "turns": 0.5, "reach": 0.5, "size": 0.3, "growth": 1, "cut": "round", "ground": False}
    drifted = render(piece(("spiral-repeat", {**base, "hue": 0.25})), 80, photo)
    below = drifted[60, 40]
    assert below[:3] @ LUMA == pytest.approx(float(teal @ LUMA), abs=2e-3)
    assert np.abs(below[:3] - teal).max() > 0.05
    darker = render(piece(("spiral-repeat", {**base, "light": -0.75})), 80, photo)
    assert np.allclose(darker[60, 40, :3], teal * 0.5, atol=2e-3)  # half a turn inwards: a quarter to the power of a half
