"""The bending family by its exact rules, point by point, and on small pictures."""

from __future__ import annotations

from math import cos, log, pi, sin, tau
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from caracol.core.catalogue.registry import get_kind
from caracol.core.geometry.curves import curve_table
from caracol.core.geometry.frame import Frame
from caracol.core.kinds.kind import BendKind
from caracol.core.render import render
from caracol.core.steps.bend.kaleidoscope import busiest_ray
from caracol.core.steps.bend.lens import LensSettings, lens_pull
from tests.pictures import OnePhoto, detailed, opaque, piece, psnr

SQUARE = Frame(1.0)


def pull(key: str, x: float, y: float, frame: Frame = SQUARE, /, **settings: Any) -> tuple[float, float]:
    """Return where a kind takes the colour of one point from."""
    kind = get_kind(key)
    assert isinstance(kind, BendKind)
    chosen = kind.settings(**settings)
    px, py = kind.pull(np.float32([x]), np.float32([y]), frame, kind.frame_after(frame, chosen), chosen)
    return float(px[0]), float(py[0])


def at(rad: float, ang: float, x: float = 0, y: float = 0) -> tuple[float, float]:
    return x + rad * sin(tau * ang), y - rad * cos(tau * ang)


@pytest.mark.parametrize(
    ("fall", "share"), [("soft", lambda q: max(0, 1 - q) ** 2), ("even", lambda q: float(q < 1)), ("log", lambda q: -log(q))]
)
@pytest.mark.parametrize(("rad", "ang"), [(0.1, 0.0), (0.5, 0.3), (0.9, 0.75), (1.4, 0.6)])
@pytest.mark.parametrize("turns", [0.3, -2.2])
def test_twirl(fall: str, share: Any, rad: float, ang: float, turns: float) -> None:
    expected = at(rad, ang - turns * share(rad / 0.8), 0.2, -0.1)
    assert pull("twirl", *at(rad, ang, 0.2, -0.1), x=0.2, y=-0.1, reach=0.8, turns=turns, fall=fall) == pytest.approx(expected, abs=2e-5)


def test_five_twirls_that_cancel_give_the_photo_back() -> None:
    photo = OnePhoto(detailed())
    for fall in ("soft", "log"):
        trail = piece(*[("twirl", {"turns": turns, "reach": 1.2, "fall": fall, "x": 0.3}) for turns in (0.8, -1.4, 0.5, 0.6, -0.5)])
        assert psnr(render(trail, 1024, photo), detailed()) > 45


def test_twirl_turns_the_content_clockwise() -> None:
    """A white dot above the centre is turned by a quarter to the right."""
    dot = np.zeros((101, 101, 3), np.float32)
    dot[20:31, 45:56] = 1
    result = render(piece(("twirl", {"turns": 0.25, "fall": "even", "reach": 0.9})), 101, OnePhoto(opaque(dot)))[..., 0]
    assert result[50, 75] > 0.95
    assert result[25, 50] < 0.05


@pytest.mark.parametrize("amount", [-1, -0.4, 0.3, 1])
def test_pinch(amount: float) -> None:
    q = 0.3 / 0.8
    assert pull("pinch", 0.3, 0, reach=0.8, amount=amount) == pytest.approx((0.8 * q ** (2**-amount), 0), abs=1e-5)
    assert pull("pinch", 0, 0.9, reach=0.8, amount=amount) == pytest.approx((0, 0.9))
    assert (pull("pinch", 0.3, 0, amount=amount)[0] > 0.3) is (amount > 0)


def test_pinch_and_its_opposite_cancel() -> None:
    photo = OnePhoto(detailed())
    assert psnr(render(piece(("pinch", {"amount": 0.6}), ("pinch", {"amount": -0.6})), 1024, photo), detailed()) > 45


@pytest.mark.parametrize(
    ("form", "f"),
    [
        ("round", lambda t: sin(tau * t)),
        ("pointed", lambda t: 1 - 4 * abs((t - 0.25 + 0.5) % 1 - 0.5)),
        ("stepped", lambda t: 1.0 if t % 1 < 0.5 else -1.0),
    ],
)
@pytest.mark.parametrize("heading", [0.0, 0.1, 0.7])
@pytest.mark.parametrize("cross", [0.0, 0.5])
def test_one_wave(form: str, f: Any, heading: float, cross: float) -> None:
    x, y, length, height, phase = 0.37, -0.21, 0.3, 0.08, 0.13
    d = (sin(tau * heading), -cos(tau * heading))
    n = (-d[1], d[0])
    push = height * f((n[0] * x + n[1] * y) / length + phase)
    side = cross * height * f((d[0] * x + d[1] * y) / length + phase)
    expected = (x - d[0] * push - n[0] * side, y - d[1] * push - n[1] * side)
    found = pull("wave", x, y, heading=heading, length=length, height=height, form=form, cross=cross, phase=phase)
    assert found == pytest.approx(expected, abs=2e-5)


def test_several_waves_differ_by_variety_and_seed() -> None:
    alike = pull("wave", 0.3, 0.1, number=3, variety=0, height=0.05, seed=4)
    assert abs(alike[1] - 0.1) <= 0.15 + 1e-6
    first, again, other = (pull("wave", 0.3, 0.1, number=3, variety=0.8, seed=s) for s in (4, 4, 5))
    assert first == again != other


def test_heading_up_moves_columns_up_and_down() -> None:
    """A level line becomes a sine along x: up where the sine is positive."""
    line = np.zeros((200, 200, 3), np.float32)
    line[98:102] = 1
    result = render(piece(("wave", {"length": 1, "height": 0.3})), 200, OnePhoto(opaque(line)))[..., 0]
    assert result[:, 125].argmax() == pytest.approx(100 - 30, abs=3)
    assert result[:, 175].argmax() == pytest.approx(100 + 30, abs=3)


def test_ripple() -> None:
    q = 0.4 / 1.2
    fade = 1 - q * q * (3 - 2 * q)
    expected = 0.4 - 0.05 * fade * sin(tau * (0.4 / 0.3 - 0.1))
    assert pull("ripple", 0, 0.4, length=0.3, height=0.05, phase=0.1) == pytest.approx((0, expected), abs=1e-5)
    assert pull("ripple", 1.3, 0) == pytest.approx((1.3, 0))


@pytest.mark.parametrize("ang", [0.02, 0.11, 0.3, 0.52, 0.97])
def test_kaleidoscope(ang: float) -> None:
    part = ((ang - 0.05) * 5) % 1
    mirrored = 0.05 + (part if part <= 0.5 else 1 - part) / 5
    assert pull("kaleidoscope", *at(0.6, ang), sectors=5, angle=0.05) == pytest.approx(at(0.6, mirrored), abs=1e-5)
    assert pull("kaleidoscope", *at(0.6, ang), sectors=5, angle=0.05, mirrored=False) == pytest.approx(at(0.6, 0.05 + part / 5), abs=1e-5)


def test_kaleidoscope_is_the_same_in_every_sector() -> None:
    result = render(piece(("refit", {"ratio": 1}), ("kaleidoscope", {"sectors": 4, "seek": False})), 256, OnePhoto(detailed()))
    assert psnr(result, np.rot90(result)) > 40
    assert psnr(result, result[:, ::-1]) > 40


@pytest.mark.parametrize("mirrored", [True, False])
def test_kaleidoscope_finds_the_sector_with_the_most_to_see(mirrored: bool) -> None:
    """Only between a tenth and a fifth of a turn is there anything: squares on grey."""
    picture = np.full((300, 300, 4), 0.5, np.float32)
    picture[..., 3] = 1
    x, y = Frame(1).grid(300, 300)
    turn = np.arctan2(x, -y) / tau % 1
    checks = ((np.arange(300)[:, None] // 12 + np.arange(300) // 12) % 2).astype(bool)
    picture[checks & (turn > 0.1) & (turn < 0.2), :3] = 0.9
    settings = {"sectors": 6, "mirrored": mirrored, "seek": True}
    kind = get_kind("kaleidoscope")
    found = float(busiest_ray(picture, 6, 0, 0, mirrored)[0])
    begun, ended = (0.1, 0.2) if not mirrored else (0.1, 0.2 - 1 / 12)
    assert (ended - 1 / 6 if not mirrored else begun) - 0.02 <= found <= (begun if not mirrored else ended) + 0.02
    made = render(piece(("kaleidoscope", settings)), 300, OnePhoto(picture))
    plain = render(piece(("kaleidoscope", {**settings, "seek": False, "angle": 0.5})), 300, OnePhoto(picture))
    assert (made[..., 0] > 0.7).mean() > 0.2
    assert (plain[..., 0] > 0.7).mean() == 0
    assert kind.survey is not None
    assert kind.survey(picture, kind.settings(**settings)) == {"busiest": pytest.approx(found, abs=1e-3)}


def test_lenses() -> None:
    assert pull("lens", 0.5, 0, form="barrel", amount=0.5, cover=False) == pytest.approx((0.5 * 1.125 / 1.5, 0), abs=1e-5)
    assert pull("lens", 0.5, 0, form="pincushion", amount=0.5, cover=False) == pytest.approx((0.5 * 1.5 / 1.125, 0), abs=1e-5)
    angle = 0.5 * 80 * pi / 180
    assert pull("lens", 0, 0.5, form="fisheye", amount=0.5, cover=False) == pytest.approx((0, np.tan(angle / 2) / np.tan(angle)), abs=1e-5)
    for form in ("barrel", "pincushion", "fisheye"):
        assert pull("lens", 0.6, 0.8, form=form, amount=0.7, cover=False) == pytest.approx((0.6, 0.8), abs=1e-5)
        assert pull("lens", 0.6, 0.9, form=form, amount=0.7, only=True) == pytest.approx((0.6, 0.9))


@pytest.mark.parametrize("form", ["barrel", "pincushion", "fisheye"])
@pytest.mark.parametrize("ratio", [0.5, 1, 3])
@pytest.mark.parametrize("place", [{}, {"x": 0.3, "y": -0.2, "reach": 0.5}])
def test_a_lens_that_covers_shows_nothing_beyond_the_edge(form: str, ratio: float, place: dict[str, float]) -> None:
    frame = Frame(ratio)
    settings = LensSettings(form=form, amount=0.8, **place)
    y, x = np.mgrid[-1:1:41j, -1:1:41j].astype(np.float32)
    from_x, from_y = lens_pull(x * frame.half_w, y * frame.half_h, frame, frame, settings)
    assert np.abs(from_x).max() <= frame.half_w + 1e-3
    assert np.abs(from_y).max() <= frame.half_h + 1e-3


def test_droste_repeats_by_its_inner_share() -> None:
    for winding in (0, 1, -2):
        near, far = pull("droste", 0.5, 0.2, inner=0.4, winding=winding), pull("droste", 0.2, 0.08, inner=0.4, winding=winding)
        if winding == 0:
            assert far == pytest.approx(near, abs=1e-4)
        assert 0.4 - 1e-4 <= np.hypot(*near) <= 1 + 1e-4


def test_droste_has_no_seam() -> None:
    """Just left and just right of the ray downwards, where the angle jumps, the same place is read."""
    for winding in (-1, 0, 1, 2):
        left, right = pull("droste", -1e-4, 0.7, winding=winding, inner=0.3), pull("droste", 1e-4, 0.7, winding=winding, inner=0.3)
        assert left == pytest.approx(right, abs=3e-3)


everywhere = st.floats(-3, 3, width=32)


@settings(deadline=None)
@given(everywhere, everywhere, st.sampled_from(["twirl", "pinch", "wave", "ripple", "kaleidoscope", "lens", "droste"]))
def test_no_point_is_lost(x: float, y: float, key: str) -> None:
    """Whatever the point, the answer is a finite place."""
    for start in get_kind(key).starts:
        assert np.isfinite(pull(key, x, y, **start.settings)).all()


def test_row_bend_moves_rows_right_and_columns_down() -> None:
    curve = ((0.0, 0.0), (0.5, 0.4), (1.0, 0.0))
    assert pull("row-bend", 0.1, 0, curve=curve, smooth=False) == pytest.approx((-0.3, 0), abs=1e-3)
    assert pull("row-bend", 0.1, -0.5, curve=curve, smooth=False, amount=0.5) == pytest.approx((0.0, -0.5), abs=1e-3)
    assert pull("row-bend", 0, 0.2, curve=curve, smooth=False, lines="columns") == pytest.approx((0, -0.2), abs=1e-3)


def test_a_smooth_curve_goes_through_its_points_and_never_beyond() -> None:
    points = [(0.1, 0.0), (0.3, 0.5), (0.5, 0.5), (0.8, -0.2)]
    table = curve_table(points[::-1], smooth=True)
    for place, value in points:
        assert table[round(place * (len(table) - 1))] == pytest.approx(value, abs=3e-3)
    assert table.max() <= 0.5 + 1e-6
    assert table.min() >= -0.2 - 1e-6
    assert table[0] == 0
    assert table[-1] == pytest.approx(-0.2)


def test_place_moves_scales_turns_and_shears_the_content() -> None:
    assert pull("place", 0.5, 0.2, x=0.3, y=-0.1) == pytest.approx((0.2, 0.3), abs=1e-5)
    assert pull("place", 0.5, 0.2, scale=2) == pytest.approx((0.25, 0.1), abs=1e-5)
    assert pull("place", 1, 0, turn=0.25) == pytest.approx((0, -1), abs=1e-5)
    assert pull("place", 0.5, -1, shear=0.5) == pytest.approx((0, -1), abs=1e-5)


def test_place_takes_corners_to_corners() -> None:
    corners = ((0.2, 0.1), (-0.3, 0.2), (0.1, -0.4), (0.0, 0.3))
    frame = Frame(1.5)
    for (x, y), (dx, dy) in zip(((-1.5, -1), (1.5, -1), (1.5, 1), (-1.5, 1)), corners, strict=True):
        assert pull("place", x + dx, y + dy, frame, corners=corners) == pytest.approx((x, y), abs=1e-4)


def test_place_with_corners_in_one_line_is_empty_not_broken() -> None:
    flat = ((0.0, 1.0), (0.0, 1.0), (0.0, -1.0), (0.0, -1.0))
    result = render(piece(("place", {"corners": flat})), 64, OnePhoto(detailed()))
    assert np.isfinite(result).all()
    assert result.max() == 0


def test_mirrored_copies_meet_without_an_edge() -> None:
    """Wherever one goes, the place that is read moves on smoothly; unmirrored it jumps from the inner radius to the outer one."""
    along = np.linspace(0.03, 1.4, 4000)

    def most(mirrored: bool, winding: int) -> float:
        places = np.array([pull("droste", r * 0.6, -r * 0.8, inner=0.3, winding=winding, mirrored=mirrored) for r in along])
        return float((np.hypot(*np.diff(places, axis=0).T) * along[1:] / np.diff(along)).max())

    for winding in (0, 1, -2):
        assert most(True, winding) < 4
        assert most(False, winding) > 20


def test_mirrored_copies_hold_the_same_ring_and_have_no_seam() -> None:
    for winding in (0, 1, 2):
        left, right = (pull("droste", x, 0.7, winding=winding, inner=0.3, mirrored=True) for x in (-1e-4, 1e-4))
        assert left == pytest.approx(right, abs=3e-3)
        assert 0.3 - 1e-4 <= np.hypot(*left) <= 1 + 1e-4
    # Half a copy in, and half a copy out, lie alike far from where they meet.
    inner, outer = (pull("droste", 0, -r, winding=0, inner=0.25, mirrored=True) for r in (0.25 * 0.25**0.5, 0.25 / 0.25**0.5))
    assert inner == pytest.approx(outer, abs=1e-4)
