"""The middle and the rim of a ring: what changes and what does not, and what is read where."""

from __future__ import annotations

import numpy as np
import pytest

from caracol.core.arrays import Array
from caracol.core.geometry.frame import Frame
from caracol.core.pixels.box import Box
from caracol.core.pixels.patchwork import Reading, lattice, patchwork
from caracol.core.render import Context, render
from caracol.core.render.analyses import step_analysis_of
from caracol.core.steps.mend.centre import crush_of
from tests.pictures import OnePhoto, detailed, halved, opaque, piece, psnr

WAYS = ("unpinch", "texture", "fill", "soften")


def star(waves: int = 24, size: int = 300) -> Array:
    """Rays from the middle, as a crushed row makes them."""
    x, y = Frame(1.0).grid(size, size)
    grey = 0.5 + 0.4 * np.sin(waves * np.arctan2(x, -y))
    return opaque(np.repeat(grey[..., None].astype(np.float32), 3, axis=2))


@pytest.mark.parametrize("way", WAYS)
def test_only_the_middle_changes(way: str) -> None:
    photo = OnePhoto(star())
    before = render(piece(), 300, photo)
    after = render(piece(("centre", {"method": way, "radius": 0.3, "x": 0.1})), 300, photo)
    x, y = Frame(1.0).grid(300, 300)
    changed = np.abs(after - before).max(axis=2) > 0
    away = np.hypot(x - 0.1, y)
    assert not changed[away > 0.31].any()
    assert changed[away < 0.2].mean() > 0.9


def test_waves_to_a_turn_are_counted() -> None:
    assert crush_of(star(24), 0, 0, 0.5) == pytest.approx(24, abs=1)
    assert crush_of(star(6), 0, 0, 0.5) == pytest.approx(6, abs=0.5)
    assert crush_of(opaque(np.full((50, 50, 3), 0.5, np.float32)), 0, 0, 0.5) == 0


def test_unpinched_there_are_fewer_waves_and_as_much_contrast() -> None:
    photo = OnePhoto(star(40))
    told = step_analysis_of(piece(("centre", {"radius": 0.4})), Context(photo), "land", "s1")
    assert told["before"] > 35
    assert told["after"] < 0.6 * told["before"]
    x, y = Frame(1.0).grid(300, 300)
    inside = np.hypot(x, y) < 0.15
    after = render(piece(("centre", {"radius": 0.4})), 300, photo)
    assert after[inside][:, 0].std() > 0.5 * 0.4 / 2**0.5


def test_softened_a_wave_is_dimmed_as_the_formula_says() -> None:
    """A wave of n to a turn at distance d by exp(-½ (n·along / 2d)²): in the middle of a full cover."""
    photo = OnePhoto(star(8, 600))
    after = render(piece(("centre", {"method": "soften", "radius": 0.9, "soft": 0.1, "angular": 0.1, "radial": 0})), 600, photo)
    x, y = Frame(1.0).grid(600, 600)
    at = np.abs(np.hypot(x, y) - 0.4) < 0.01
    assert after[at][:, 0].std() == pytest.approx(0.4 / 2**0.5 * np.exp(-0.5 * (8 * 0.05 / 0.4) ** 2), rel=0.06)


def test_plain_middle_has_the_colour_round_it() -> None:
    x, y = Frame(1.0).grid(200, 200)
    grey = np.where(np.hypot(x, y) < 0.2, 1, 0.3 + 0.1 * x)[..., None].astype(np.float32)
    after = render(piece(("centre", {"method": "fill", "radius": 0.4, "soft": 0.3})), 200, OnePhoto(opaque(np.repeat(grey, 3, axis=2))))
    assert np.abs(after[..., 0] - (0.3 + 0.1 * x))[np.hypot(x, y) < 0.25].max() < 0.02


def test_the_centre_follows_the_ring_before_it() -> None:
    ring = ("ring", {"x": 0.3, "y": -0.2})
    photo = OnePhoto(detailed())
    own = render(piece(ring, ("centre", {"x": 0.3, "y": -0.2})), 200, photo)
    assert np.array_equal(own, render(piece(ring, ("centre", {})), 200, photo))
    assert not np.array_equal(own, render(piece(ring, ("centre", {"x": 0, "y": 0})), 200, photo))


def test_a_lattice_has_its_middle_first_and_is_even() -> None:
    points = lattice(1.0, 0.25)
    assert tuple(points[0]) == (0, 0)
    away = np.hypot(*(points[:, None] - points[None]).transpose(2, 0, 1)) + 9 * np.eye(len(points))
    assert away.min(axis=1) == pytest.approx(0.25, abs=1e-5)
    assert len(points) == pytest.approx(np.pi / (0.25**2 * 3**0.5 / 2), rel=0.1)


def test_patches_that_stay_in_place_change_nothing_but_contrast_where_they_meet() -> None:
    picture = detailed(96, 96)
    here = [Reading(float(x), float(y), 0, 0, 0, 0) for x, y in lattice(2.0, 0.5)]
    one = patchwork(picture, Frame(1.0), Box(0, 96, 0, 96), [Reading(0, 0, 0, 0, 0, 0)], 0.5, 0.1)
    there = np.hypot(*Frame(1.0).grid(96, 96)) < 0.5
    assert np.abs(one - picture)[there].max() < 0.02
    several = patchwork(picture, Frame(1.0), Box(0, 96, 0, 96), here, 0.5, 0.1)
    assert np.corrcoef(several[..., 0].ravel(), picture[..., 0].ravel())[0, 1] > 0.95


@pytest.mark.parametrize("into", ["colour", "gradient", "sky", "nothing"])
def test_inside_the_rim_all_stays(into: str) -> None:
    photo = OnePhoto(detailed(256, 256))
    before, after = render(piece(), 256, photo), render(piece(("rim", {"into": into, "radius": 0.6, "width": 0.2})), 256, photo)
    x, y = Frame(1.0).grid(256, 256)
    away = np.hypot(x, y)
    assert np.abs(after - before)[away < 0.59].max() < 1e-6
    assert np.abs(after - before)[away > 0.85].mean() > 0.02


def test_a_rim_into_the_sky_has_the_colour_of_the_sky_and_not_of_the_glow() -> None:
    x, y = Frame(1.0).grid(256, 256)
    away = np.hypot(x, y)[..., None]
    ground, glow, sky = (np.float32(colour) for colour in ([0.2, 0.2, 0.1], [0.95, 0.6, 0.4], [0.3, 0.45, 0.8]))
    planet = np.where(away < 0.5, ground, np.where(away < 0.95, glow, sky)).astype(np.float32)
    after = render(piece(("rim", {"radius": 0.85, "width": 0.2})), 256, OnePhoto(opaque(planet)))
    assert after[2, 2, :3] == pytest.approx(sky, abs=0.02)


def test_a_gradient_ends_in_its_colour_at_the_corners() -> None:
    after = render(
        piece(("rim", {"into": "gradient", "radius": 0.4, "width": 0.1, "colour": "#ff0000", "outer": "#0000ff"})),
        200,
        OnePhoto(detailed(200, 200)),
    )
    assert after[0, 0, :3] == pytest.approx((0, 0, 1), abs=0.02)
    half = 0.4 + (2**0.5 - 0.4) / 2
    col = round((half + 1) / 2 * 200 - 0.5)
    assert col > 160
    middle = after[100, 199, :3]
    share = (0.995 - 0.4) / (2**0.5 - 0.4)
    assert middle == pytest.approx((1 - share, 0, share), abs=0.02)


def test_a_wider_sky_has_texture_and_no_streaks() -> None:
    """A picture whose rim is drawn out to streaks: outside they are gone, what varies goes on varying both ways."""
    x, y = Frame(1.0).grid(400, 400)
    base = detailed(400, 400)
    ang, rad = np.arctan2(x, -y), np.hypot(x, y)
    near = np.minimum(rad, 0.6)
    col, row = ((near * np.sin(ang) + 1) / 2 * 400).astype(int), ((1 - near * np.cos(ang)) / 2 * 400).astype(int)
    streaked = base[np.clip(row, 0, 399), np.clip(col, 0, 399)]
    after = render(piece(("rim", {"into": "sky", "radius": 0.58, "width": 0.05})), 400, OnePhoto(streaked))
    outside = (rad > 0.75) & (rad < 0.95)
    across = np.abs(np.sin(ang) * np.gradient(streaked[..., 0], axis=1) - np.cos(ang) * np.gradient(streaked[..., 0], axis=0))[
        outside
    ].mean()
    mended = np.abs(np.sin(ang) * np.gradient(after[..., 0], axis=1) - np.cos(ang) * np.gradient(after[..., 0], axis=0))[outside].mean()
    usual = np.abs(np.gradient(base[..., 0], axis=1))[outside].mean()
    assert across < 0.6 * usual
    assert mended > 0.6 * usual


def test_the_border_is_darker_or_glows() -> None:
    grey = OnePhoto(opaque(np.full((200, 200, 3), 0.5, np.float32)))
    settings = {"radius": 0.6, "width": 0.1, "colour": "#808080"}
    rows = [render(piece(("rim", {**settings, "border": border})), 200, grey)[100, 164, 0] for border in ("dark", "even", "glow")]
    assert rows[0] < 0.35
    assert rows[1] == pytest.approx(0.5, abs=0.01)
    assert rows[2] > 0.6


def test_the_colour_that_is_used_is_told() -> None:
    photo = OnePhoto(opaque(np.broadcast_to(np.array([0.2, 0.4, 0.8], np.float32), (64, 64, 3))))
    assert step_analysis_of(piece(("rim", {})), Context(photo), "land", "s1") == {"colour": "#3366cc"}
    assert step_analysis_of(piece(("rim", {"colour": "#ffeedd"})), Context(photo), "land", "s1") == {"colour": "#ffeedd"}


@pytest.mark.parametrize("step", [("centre", {"method": way}) for way in WAYS] + [("rim", {"into": "sky", "radius": 0.7})])
def test_on_a_ring_it_is_the_same_at_every_size(step: tuple[str, dict[str, object]]) -> None:
    photo = OnePhoto(detailed(512, 1024))
    trail = piece(("ring", {"spread": "shape", "reach": 1.2}), step)
    small, large = render(trail, 400, photo), render(trail, 1200, photo)
    assert psnr(small, halved(large, small.shape[:2])) > 33


@pytest.mark.parametrize(("reach", "x"), [(0.8, 0.0), (1.5, 0.0), (0.6, 0.3)])
def test_left_to_it_the_rim_goes_with_the_ring(reach: float, x: float) -> None:
    """Nothing of the radial streaks beyond the reach is seen, wherever the ring is; what is set by hand stays."""
    ring = ("ring", {"spread": "shape", "reach": reach, "x": x})
    free = ("rim", {"x": None, "y": None, "radius": None, "width": None, "colour": "#204060"})
    photo = OnePhoto(detailed(128, 512, 3))
    after = render(piece(ring, free), 300, photo)
    col, row = Frame(1.0).grid(300, 300)
    beyond = np.hypot(col - x, row) > reach
    if beyond.any():
        assert np.ptp(after[beyond][:, :3], axis=0).max() < 0.01
    inside = np.hypot(col - x, row) < 0.65 * reach
    assert (after[inside] == render(piece(ring), 300, photo)[inside]).all()
    own = render(piece(ring, ("rim", free[1] | {"radius": 0.4, "width": 0.1})), 300, photo)
    assert np.ptp(own[np.hypot(col - x, row) > 0.52][:, :3], axis=0).max() < 0.01


def test_left_to_it_the_middle_goes_with_the_hole_of_the_ring() -> None:
    """A ring of a picture three times as wide as high has a hole of reach·exp(-τ / 3), over which the middle is grown by a quarter."""
    photo = OnePhoto(detailed(128, 384, 3))
    col, row = Frame(1.0).grid(300, 300)
    for reach in (0.9, 1.8):
        ring = ("ring", {"spread": "shape", "reach": reach})
        changed = np.abs(render(piece(ring, ("centre", {"radius": None})), 300, photo) - render(piece(ring), 300, photo)).max(axis=2) > 0
        assert np.hypot(col, row)[changed].max() == pytest.approx(1.25 * reach * np.exp(-2 * np.pi / 3), abs=0.03)


def test_without_a_ring_they_are_as_they_come() -> None:
    photo = OnePhoto(detailed(96, 96, 3))
    for kind, free in (("centre", ("radius",)), ("rim", ("x", "y", "radius", "width"))):
        assert (render(piece((kind, dict.fromkeys(free))), 96, photo) == render(piece((kind, {})), 96, photo)).all()
