"""The ring's exact rules, point by point."""

from __future__ import annotations

from math import atan, log, pi, tau
from typing import Any

import numpy as np
import pytest

from caracol.core.geometry.frame import Frame
from caracol.core.render import render
from caracol.core.steps.bend.ring import RingSettings, ring_pull
from tests.pictures import OnePhoto, opaque, piece

BEFORE, AFTER = Frame(2.5), Frame(1.0)


def shares(rad: float, ang: float, **settings: Any) -> tuple[float, float]:
    """Return (u, v) the ring reads at a polar point."""
    chosen = RingSettings(**settings)
    x, y = np.float32([rad * np.sin(tau * ang)]), np.float32([-rad * np.cos(tau * ang)])
    px, py = ring_pull(x, y, BEFORE, AFTER, chosen)
    u, v = BEFORE.to_shares(px, py)
    return float(u[0]), float(v[0])


@pytest.mark.parametrize("rad", [0.2, 0.5, 0.9])
@pytest.mark.parametrize("ang", [0.05, 0.3, 0.62, 0.97])
@pytest.mark.parametrize(
    ("spread", "share"),
    [
        ("even", lambda rad: rad),
        ("shape", lambda rad: 1 + 2.5 * log(rad) / tau),
        ("depth", lambda rad: (1 / 0.1 - 1 / rad) / (1 / 0.1 - 1)),
        ("globe", lambda rad: 2 * atan(rad) / pi),
    ],
)
def test_rules_of_the_four_spreads(rad: float, ang: float, spread: str, share: Any) -> None:
    t = share(rad)
    assert shares(rad, ang, spread=spread) == pytest.approx(((ang - 0.5) % 1, 1 - t), abs=2e-5)
    assert shares(rad, ang, spread=spread, inside="top") == pytest.approx(((0 - ang) % 1, t), abs=2e-5)


def test_hole_reach_seam_and_centre() -> None:
    assert shares(0.6, 0.25, hole=0.2, reach=1.4, seam=0.1) == pytest.approx((0.15, 1 - 0.4 / 1.2), abs=1e-5)
    assert shares(0.0, 0.0, x=0.0, y=0.5) == pytest.approx((0.5, 0.5), abs=1e-5)


def test_the_middle_of_the_photo_stands_upright() -> None:
    """A red left and a blue right half, ground dark: with the bottom inside the photo's middle is on top, left of it red."""
    photo = np.zeros((100, 200, 3), np.float32)
    photo[:50, :100, 0] = photo[:50, 100:, 2] = 1
    planet = render(piece(("ring", {})), 101, OnePhoto(opaque(photo)))
    assert planet[5, 40, 0] > 0.9
    assert planet[5, 60, 2] > 0.9
    well = render(piece(("ring", {"inside": "top"})), 101, OnePhoto(opaque(photo)))
    assert well[70, 45, 0] > 0.9
    assert well[70, 56, 2] > 0.9


def test_amount_nought_is_the_flat_picture_in_the_new_frame() -> None:
    photo = OnePhoto(opaque(np.random.default_rng(3).random((60, 120, 3)).astype(np.float32)))
    flat = render(piece(("ring", {"amount": 0, "edge": "empty"})), 120, photo)
    contained = render(piece(("refit", {"ratio": 1, "how": "contain", "edge": "empty"})), 120, photo)
    assert np.abs(flat - contained).max() < 2e-3


def test_fold_keeps_the_hole_within_the_lower_part() -> None:
    for rad in (0.001, 0.01, 0.03, 0.05):
        _, v = shares(rad, 0.3, spread="shape", fold=0.2)
        assert 0.8 - 1e-5 <= v <= 1 + 1e-5
    assert shares(0.9, 0.3, spread="shape", fold=0.2) == shares(0.9, 0.3, spread="shape")
