"""Steps that work pixel by pixel: hand-computed small pictures, neutral settings called directly, round trips, one pass for many."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.interpolate import PchipInterpolator

from caracol.core.catalogue.registry import KINDS, get_kind
from caracol.core.errors import PieceError
from caracol.core.geometry.frame import Frame
from caracol.core.geometry.rows import Rows
from caracol.core.kinds.kind import PixelKind, Start
from caracol.core.piece.files import check_piece
from caracol.core.pixels.histogram import BINS, auto_tone, tones_of
from caracol.core.pixels.kept_light import mean_light
from caracol.core.pixels.pointwise import Pass
from caracol.core.reading.palette import palette_of
from caracol.core.render import Context, Renderer, render
from caracol.core.render.analyses import clipped_tones_of, step_analysis_of
from caracol.core.steps.finish.gradient_map import in_own_light
from tests.core.rules import worked
from tests.pictures import OnePhoto, detailed, opaque, piece

LUMA = np.array([0.2126, 0.7152, 0.0722])
PIXELWISE = [kind for kind in KINDS if isinstance(kind, PixelKind)]
RNG = np.random.default_rng(16)
COLOURS = opaque(RNG.random((24, 40, 3)).astype(np.float32))
GREYS = opaque(np.repeat(np.linspace(0, 1, 101, dtype=np.float32)[None, :, None], 3, axis=2).repeat(4, axis=0))


def made(key: str, picture: np.ndarray = COLOURS, **chosen: Any) -> np.ndarray:
    return worked(get_kind(key), chosen, picture)


def pixel(*rgb: float) -> np.ndarray:
    return opaque(np.array([[rgb]], np.float32))


@pytest.mark.parametrize("kind", PIXELWISE, ids=lambda kind: kind.key)
def test_half_transparent_colours_are_treated_as_they_are(kind: PixelKind) -> None:
    """Colours under half an alpha become what they become without, and alpha stays."""
    for start in kind.starts:
        whole = worked(kind, dict(start.settings), COLOURS)
        half = worked(kind, dict(start.settings), COLOURS * np.float32(0.5))
        assert np.abs(half - whole / 2).max() < 1e-4, start.name


@pytest.mark.parametrize("kind", [kind for kind in PIXELWISE if kind.neutral], ids=lambda kind: kind.key)
def test_neutral_settings_called_directly_leave_every_value(kind: PixelKind) -> None:
    assert kind.neutral is not None
    assert np.abs(worked(kind, dict(kind.neutral), COLOURS) - COLOURS).max() < 2e-6


def test_curves_are_the_library_s_monotone_cubics() -> None:
    points = ((0.0, 0.1), (0.3, 0.2), (0.6, 0.8), (1.0, 0.9))
    red = ((0.1, 0.0), (0.5, 0.7), (0.9, 1.0))
    result = made("curves", GREYS, all=points, red=red)[0]
    first = PchipInterpolator(*zip(*points, strict=True))(GREYS[0, :, 0])
    assert np.abs(result[:, 1] - first).max() < 1e-4
    then = PchipInterpolator(*zip(*red, strict=True))(np.clip(first, 0.1, 0.9))
    assert np.abs(result[:, 0] - then).max() < 1e-3
    # Level before the first point and after the last.
    assert made("curves", GREYS, all=((0.25, 0.3), (0.75, 0.6)))[0, [0, 20, 80, 100], 0] == pytest.approx([0.3, 0.3, 0.6, 0.6], abs=1e-5)


def test_a_curve_and_its_inverse_are_no_curve() -> None:
    bent = ((0.0, 0.0), (0.3, 0.45), (0.7, 0.8), (1.0, 1.0))
    there = made("curves", all=bent)
    table = PchipInterpolator(*zip(*bent, strict=True))(np.linspace(0, 1, 400))
    at = np.linspace(0, 1, 15)
    inverse = tuple((float(a), float(b)) for a, b in zip(at, np.interp(at, table, np.linspace(0, 1, 400)), strict=True))
    assert np.abs(made("curves", there, all=inverse) - COLOURS).max() < 4e-3


def test_a_curve_for_light_moves_light_and_leaves_hue() -> None:
    before = pixel(0.5, 0.3, 0.2)
    result = made("curves", before, light=((0, 0), (float(before[0, 0, :3] @ LUMA), 0.5), (1, 1)))[0, 0, :3]
    assert result @ LUMA == pytest.approx(0.5, abs=2e-3)
    assert result - result.mean() == pytest.approx(before[0, 0, :3] - before[0, 0, :3].mean(), abs=2e-3)


@pytest.mark.parametrize("points", [[[0.5, 0], [0.5, 1]], [[0.6, 0], [0.2, 1]], [[0, 0]], [[0, 0], [1, 1.2]]])
def test_curves_that_do_not_go_from_left_to_right_are_refused(points: list[list[float]]) -> None:
    with pytest.raises(PieceError, match=r"layers\[0\]\.steps\[0\]\.settings\.blue"):
        piece(("curves", {"blue": points}))


@given(hue=st.floats(-0.5, 0.5), saturation=st.floats(-1, 1), vividness=st.floats(-1, 1))
@settings(max_examples=40, deadline=None)
def test_a_neutral_grey_stays_neutral(hue: float, saturation: float, vividness: float) -> None:
    result = made("colour", GREYS, hue=hue, saturation=saturation, vividness=vividness)
    assert np.abs(result - GREYS).max() < 1e-5


def test_hue_turned_there_and_back() -> None:
    muted = opaque((0.5 + (COLOURS[..., :3] - 0.5) * 0.2).astype(np.float32))
    there = made("colour", muted, hue=0.3)
    assert np.abs(there - muted).max() > 0.05
    assert np.abs(made("colour", there, hue=-0.3) - muted).max() < 1e-5
    # All the way round is where it was, and the light never moves.
    assert np.abs(made("colour", made("colour", muted, hue=0.5), hue=0.5) - muted).max() < 1e-5
    assert np.abs(there[..., :3] @ LUMA - muted[..., :3] @ LUMA).max() < 1e-5


def test_saturation_minus_one_is_the_key_light() -> None:
    result = made("colour", saturation=-1)
    assert np.abs(result[..., :3] - (COLOURS[..., :3] @ LUMA)[..., None]).max() < 1e-5
    doubled = made("colour", pixel(0.5, 0.45, 0.4), saturation=0.5)[0, 0, :3]
    light = float(np.array([0.5, 0.45, 0.4]) @ LUMA)
    assert doubled == pytest.approx(light + 2 * (np.array([0.5, 0.45, 0.4]) - light), abs=1e-5)


def test_vividness_spares_skin_and_what_is_strong_already() -> None:
    def gain(*rgb: float) -> float:
        after = made("colour", pixel(*rgb), vividness=0.6)[0, 0, :3]
        return float(np.ptp(after) / np.ptp(rgb)) - 1

    assert gain(0.4, 0.5, 0.6) > 0.5
    assert gain(0.6, 0.48, 0.4) < 0.45 * gain(0.4, 0.5, 0.6)  # skin
    assert gain(0.1, 0.35, 0.8) < 0.6 * gain(0.4, 0.5, 0.6)
    assert made("colour", pixel(0.4, 0.5, 0.6), vividness=-0.6)[0, 0, 0] > 0.42


def test_warmth_goes_to_amber_and_to_blue_and_keeps_the_light() -> None:
    for warmth, warmer in ((0.5, True), (-0.5, False)):
        result = made("colour", pixel(0.5, 0.5, 0.5), warmth=warmth)[0, 0, :3]
        assert bool(result[0] > 0.5 > result[2]) is warmer
        assert result @ LUMA == pytest.approx(0.5, abs=1e-5)


def test_grey_is_mixed_by_hue() -> None:
    red, orange = pixel(0.8, 0.2, 0.2), pixel(0.8, 0.5, 0.2)
    light = float(red[0, 0, :3] @ LUMA)
    assert made("colour", red, grey=1)[0, 0, :3] == pytest.approx([light] * 3, abs=1e-5)
    assert made("colour", red, grey=1, grey_red=0.5)[0, 0, 0] == pytest.approx(light + 0.5 * 0.6, abs=1e-5)
    # Half red, half yellow: each counts for its part.
    mixed = made("colour", orange, grey=1, grey_red=0.5, grey_yellow=-0.2)[0, 0, 0]
    assert mixed == pytest.approx(float(orange[0, 0, :3] @ LUMA) + 0.5 * 0.3 - 0.2 * 0.3, abs=1e-5)
    half = made("colour", red, grey=0.5)[0, 0, :3]
    assert half == pytest.approx((red[0, 0, :3] + light) / 2, abs=1e-5)


def test_a_tint_leaves_light_where_it_is() -> None:
    result = made("tint", GREYS, dark_share=1, light_share=1, dark="#203a80", light="#e0a040")
    assert np.abs(result[..., :3] @ LUMA - GREYS[..., 0]).max() < 2e-3
    assert result[0, 20, 2] > result[0, 20, 0] + 0.1
    assert result[0, 80, 0] > result[0, 80, 2] + 0.1
    assert np.abs(made("tint", dark_share=0, light_share=0) - COLOURS).max() < 2e-6


def test_a_gradient_map_goes_by_the_key_light_in_straight_lines() -> None:
    stops = [
        {"at": 0.2, "colour": "#000000"},
        {"at": 0.6, "colour": "#ff8000"},
        {"at": 0.6, "colour": "#0000ff"},
        {"at": 1, "colour": "#ffffff"},
    ]
    result = made("gradient-map", GREYS, stops=stops)[0, :, :3]
    assert result[10] == pytest.approx([0, 0, 0], abs=1e-6)
    assert result[40] == pytest.approx([0.5, 0.25, 0], abs=2e-3)
    assert result[80] == pytest.approx([0.5, 0.5, 1], abs=2e-3)
    # Of two stops at one place one ends what is below, the other begins what is above.
    assert result[59, 0] > 0.9
    assert result[61, 2] > 0.9
    coloured = made("gradient-map", pixel(1, 0, 0), stops=[{"at": 0, "colour": "#000000"}, {"at": 1, "colour": "#ffffff"}])
    assert coloured[0, 0, :3] == pytest.approx([0.2126] * 3, abs=1e-3)


KEPT = [start for start in get_kind("gradient-map").starts if "dark" not in start.name.lower()]


@pytest.mark.parametrize("start", KEPT, ids=lambda start: start.name)
def test_gradients_keep_the_light_of_a_photo(start: Start) -> None:
    # Greys, most of them in the darks, as photos have them.
    photo = opaque((GREYS[..., :3] ** 1.4).astype(np.float32))
    assert 0.85 < mean_light(made("gradient-map", photo, **start.settings)) / mean_light(photo) < 1.18


def test_stops_in_their_own_light_keep_it() -> None:
    result = made("gradient-map", GREYS, stops=in_own_light("#000000", "#b0506a", "#ffffff"))
    assert np.abs(result[..., :3] @ LUMA - GREYS[..., 0]).max() < 3e-3


def test_stops_of_strong_colours_lie_between_their_luma_and_their_light() -> None:
    black, strong, white = in_own_light("#000000", "#ff0000", "#ffffff", bright=0.5)
    assert (black["at"], white["at"]) == (0, 1)
    assert strong["at"] == pytest.approx((0.2126 + 0.6126) / 2, abs=2e-3)  # a third of the light, coded: 0.6126


def test_dither_is_fine_even_and_repeatable() -> None:
    flat = opaque(np.full((64, 64, 3), 0.5, np.float32))
    stops = [{"at": 0, "colour": "#000000"}, {"at": 1, "colour": "#ffffff"}]
    first = made("gradient-map", flat, stops=stops, dither=1)
    assert 0.005 < first[..., 0].std() < 0.03
    assert first[..., 0].mean() == pytest.approx(0.5, abs=2e-3)
    assert np.array_equal(first, made("gradient-map", flat, stops=stops, dither=1))


def test_threshold_is_light_at_the_level_and_above() -> None:
    result = made("threshold", GREYS, level=0.4)[0, :, 0]
    assert np.array_equal(result, (np.arange(101) >= 40).astype(np.float32))
    inked = made("threshold", GREYS, level=0.4, dark="#102030", light="#f0e0d0")[0]
    assert inked[0, :3] * 255 == pytest.approx([16, 32, 48], abs=0.01)
    assert inked[100, :3] * 255 == pytest.approx([240, 224, 208], abs=0.01)
    soft = made("threshold", GREYS, level=0.5, soft=0.4)[0, :, 0]
    assert soft[[29, 50, 71]] == pytest.approx([0, 0.5, 1], abs=0.01)


@given(levels=st.integers(2, 64))
@settings(max_examples=20, deadline=None)
def test_posterise_rounds_to_even_steps(levels: int) -> None:
    result = made("posterise", levels=levels, of="channels", fit=False)
    steps = levels - 1
    assert np.abs(result[..., :3] - np.floor(COLOURS[..., :3] * steps + 0.5) / steps).max() < 1e-5
    assert np.abs(made("posterise", result, levels=levels, of="channels", fit=False) - result).max() < 1e-5


@pytest.mark.parametrize("key", ["threshold", "posterise"])
def test_hard_tones_are_delivered_as_large_as_anything(key: str) -> None:
    """Wider than the library reads in one go, and of more lines than there may be."""
    photo = OnePhoto(detailed(64, 1024))
    renderer = Renderer(piece((key, {"lines": 60})), Context(photo))
    (_, cols), strips = renderer.rows(20000)
    _, strip = next(strips)
    assert strip.shape[1] == cols == 20000
    assert np.abs(strip[:, 16000:17000] - np.roll(strip, 1, axis=1)[:, 16000:17000]).mean() < 0.05, "no step where the parts meet"
    drawn = {
        "id": "a",
        "source": {"kind": "pattern", "form": "plasma", "ratio": 10},
        "steps": [{"id": "t", "kind": key, "settings": {"lines": 4320}}],
    }
    assert Renderer(check_piece({"caracol": 3, "layers": [drawn]}), Context(photo)).plan(64).cost > 0


def test_posterised_light_keeps_colour() -> None:
    before = pixel(0.5, 0.4, 0.3)
    result = made("posterise", before, levels=5, of="light", fit=False)[0, 0, :3]
    assert result @ LUMA == pytest.approx(0.5, abs=1e-5)
    assert result[0] - result[1] == pytest.approx(0.1, abs=1e-5)


def test_light_is_full_inside_and_shade_outside() -> None:
    grey = opaque(np.full((100, 200, 3), 0.3, np.float32))
    result = made("light", grey, reach=0.5, soft=0.2, inside=1, outside=-1, warmth=0)[..., 0]
    gain = 2 ** (1 / 2.2)
    assert result[50, 100] == pytest.approx(0.3 * gain / (1 + (gain - 1) * 0.3), abs=1e-4)
    assert result[5, 5] == pytest.approx(0.3 / gain, abs=1e-4)
    # Half way at the reach: 0.5 units, 25 pixels from the middle.
    assert result[50, 100 + 25] == pytest.approx(result[50 + 25, 100], abs=2e-3)
    assert result[5, 5] < result[50, 125] < result[50, 100]
    # Twice as long along its turn: a quarter turn lies across.
    long = made("light", grey, reach=0.4, squash=2, turn=0.25, soft=0.1, inside=1, outside=-1, warmth=0)[..., 0]
    assert long[50, 130] > 0.35
    assert long[80, 100] < 0.25
    assert made("light", opaque(np.ones((8, 8, 3), np.float32)), inside=4).max() <= 1


def test_light_from_a_side_falls_from_there() -> None:
    grey = opaque(np.full((100, 100, 3), 0.4, np.float32))
    right = made("light", grey, form="side", turn=0.25, reach=0.5, inside=1, outside=-1)[50, :, 0]
    assert (np.diff(right) >= -1e-6).all()
    assert right[-1] > 0.45 > 0.35 > right[0]
    up = made("light", grey, form="side", turn=0, reach=0.5, inside=1, outside=-1)[:, 50, 0]
    assert up[0] > up[-1]
    warm = made("light", grey, warmth=0.8, shade_warmth=-0.8, inside=0, outside=0, reach=0.4, soft=0.1)
    assert warm[50, 50, 0] > warm[50, 50, 2] + 0.1
    assert warm[2, 2, 2] > warm[2, 2, 0] + 0.1


def test_fog_is_clear_here_and_thick_there() -> None:
    grey = opaque(np.full((100, 200, 3), 0.2, np.float32))
    fog = {"banks": 0, "colour": "#ffffff", "density": 0.5}
    by_height = made("fog", grey, **fog, clear=-0.5, dense=0.5)[:, 100, 0]
    assert by_height[[10, 50, 90]] == pytest.approx([0.2, 0.406, 0.6], abs=2e-3)
    by_radius = made("fog", grey, **fog, by="radius", clear=0.8, dense=0.2)[..., 0]
    assert by_radius[50, 100] == pytest.approx(0.6, abs=2e-3)
    assert by_radius[50, 185] == pytest.approx(0.2, abs=2e-3)
    line = made("fog", grey, **fog, by="line", clear_x=-1, clear_y=0, dense_x=1, dense_y=0)[50, :, 0]
    assert line[[40, 100, 160]] == pytest.approx([0.2, 0.4, 0.6], abs=1e-2)
    uneven = made("fog", grey, **{**fog, "banks": 1}, seed=3)[..., 0]
    assert uneven[60].std() > 0.01
    assert not np.array_equal(uneven, made("fog", grey, **{**fog, "banks": 1}, seed=4)[..., 0])


def test_fog_follows_the_ring_before_it() -> None:
    photo = OnePhoto(detailed(200, 400))
    fog = ("fog", {"by": "radius", "density": 1, "banks": 0, "colour": "#ffffff", "clear": 0.5, "dense": 0.3})
    result = render(piece(("ring", {"x": 0.5, "y": 0}), fog), 200, photo)
    assert result[100, 150, :3].min() > 0.99
    assert result[100, 40, :3].min() < 0.9


def test_sharpen_never_swings_beyond_what_is_there() -> None:
    edge = opaque(np.repeat(np.repeat(np.array([0.3] * 50 + [0.7] * 50, np.float32)[None, :, None], 3, axis=2), 100, axis=0))
    blurred = np.ascontiguousarray(cv2.GaussianBlur(edge, (0, 0), 2.0))
    sharp = made("sharpen", blurred, radius=0.04, amount=2, threshold=0)[50, :, 0]
    assert sharp.min() >= 0.3 - 1e-5
    assert sharp.max() <= 0.7 + 1e-5
    assert np.diff(sharp).max() > 1.3 * np.diff(blurred[50, :, 0]).max()
    assert made("sharpen", blurred, radius=0.04, amount=2, threshold=0, halo=1)[50, :, 0].max() > 0.72
    grain = opaque(0.5 + RNG.uniform(-0.01, 0.01, (64, 64, 1)).astype(np.float32).repeat(3, axis=2))
    assert np.array_equal(made("sharpen", grain, radius=0.04, threshold=0.03), grain)


def figure() -> np.ndarray:
    """A square of 40 pixels that stands on row 80 of 120."""
    picture = np.zeros((120, 120, 4), np.float32)
    picture[40:80, 40:80] = (0.8, 0.6, 0.4, 1)
    return picture


def test_a_shadow_on_the_ground_lies_from_the_feet() -> None:
    before = figure()
    right = made("shadow", before, heading=0.125, length=1, soft=0, fade=0, dark=0.5)
    assert np.array_equal(right[40:80, 40:80], before[40:80, 40:80])
    alpha = right[..., 3]
    assert alpha[90:].max() == 0
    # A point h above the feet falls h·sin aside and h·cos·0.45 away.
    h, at = 20, 2**-0.5
    assert alpha[round(80 - h * at * 0.45), round(79 + h * at - 3)] == pytest.approx(0.5, abs=0.02)
    assert alpha[79, 30] == 0
    before_it = made("shadow", before, heading=0.5, length=1, soft=0, fade=0, dark=0.5)[..., 3]
    assert before_it[85, 60] == pytest.approx(0.5, abs=0.02)
    assert before_it[38, 60] == 0
    lifted = made("shadow", before, heading=0.5, length=1, soft=0, fade=0, dark=0.5, feet=0.6)[..., 3]
    assert lifted[104, 60] > 0.4


def test_a_shadow_is_dark_and_sharp_at_the_feet_and_faint_at_its_end() -> None:
    """Of a figure on a leg two pixels wide, with a shadow much softer than that."""
    wader = np.zeros((200, 200, 4), np.float32)
    wader[40:100, 70:130] = wader[100:180, 99:101] = 1
    alpha = made("shadow", wader, heading=0.1, length=1, soft=0.06, fade=0.6, dark=1)[..., 3]
    # Just above the feet the leg's own shadow lies beside it, nearly as dark as any.
    assert alpha[176, 103:112].max() > 0.7
    # The body's, far off, is soft and fainter.
    assert 0.2 < alpha[125:155, 150:195].max() < 0.75


def test_other_shadows() -> None:
    before = figure()
    behind = made("shadow", before, form="behind", heading=0.25, distance=0.2, soft=0, dark=0.6)
    assert behind[60, 85, 3] == pytest.approx(0.6, abs=0.01)
    assert behind[60, 35, 3] == 0
    inner = made("shadow", before, form="inner", heading=0.25, distance=0.2, soft=0, dark=0.5, colour="#000000")
    assert inner[60, 42, 0] == pytest.approx(0.4, abs=0.01)
    assert np.array_equal(inner[60, 60], before[60, 60])
    assert np.array_equal(inner[..., 3], before[..., 3])
    relief = made("shadow", before, form="relief", heading=0.25, distance=0.1, soft=0, dark=0.5)
    assert relief[60, 41, 0] < 0.6 < 0.8 < relief[60, 78, 0]


def test_many_steps_in_one_pass_are_what_they_are_one_by_one() -> None:
    photo = OnePhoto(detailed(200, 400))
    trail: list[tuple[str, dict[str, Any]]] = [
        ("tone", {"gamma": 1.2}), ("curves", {"all": [[0, 0], [0.4, 0.5], [1, 1]]}), ("colour", {"hue": 0.2, "vividness": 0.4}),
        ("tint", {}), ("light", {}), ("fog", {"seed": 3}), ("fog", {"by": "line", "seed": 5}), ("gradient-map", {"dither": 0.5}),
        ("posterise", {"levels": 9, "lines": 0, "fit": False}),
    ]  # fmt: skip
    together = render(piece(*trail), 300, photo)
    apart = render(piece(), 300, photo)
    for key, chosen in trail:
        apart = worked(get_kind(key), chosen, apart)
    # Where a value lies at the edge of a step, the last place of a float decides.
    assert (np.abs(together - apart).max(axis=-1) > 1e-3).mean() < 0.002
    # Partly, they are laid one over the other.
    partly = render(piece(*({"kind": key, "settings": chosen, "strength": 0.9999999} for key, chosen in trail)), 300, photo)
    assert (np.abs(together - partly).max(axis=-1) > 1e-3).mean() < 0.002


def test_a_pass_asks_where_its_strip_lies() -> None:
    kind = get_kind("light")
    assert isinstance(kind, PixelKind)
    ops = list(kind.ops(kind.settings(), Frame(2.0), {}))
    picture = detailed(120, 240)
    whole = Pass(ops)(picture, Rows(Frame(2.0), 120, 240))
    part = Pass(ops)(picture[40:70], Rows(Frame(2.0), 120, 240, 40, 30))
    assert np.array_equal(part, whole[40:70])


def test_histogram_auto_and_level_are_told() -> None:
    flat = opaque(np.full((40, 80, 3), 0.25, np.float32))
    found = tones_of(flat)
    assert found["light"][int(0.25 * BINS)] == 1
    assert sum(found["red"]) == 1
    ramp = opaque(np.repeat(np.linspace(0.2, 0.6, 400, dtype=np.float32)[None, :, None], 3, axis=2).repeat(8, axis=0))
    auto = auto_tone(ramp)
    assert auto["black"] == pytest.approx(0.2, abs=0.01)
    assert auto["white"] == pytest.approx(0.6, abs=0.01)
    told = step_analysis_of(piece(("tone", {"gamma": 3}), ("threshold", {})), Context(OnePhoto(ramp)), "land", "s1")
    assert told["auto"] == auto
    # A later step is told of what the earlier ones made.
    later = step_analysis_of(piece(("tone", {"gamma": 3}), ("threshold", {})), Context(OnePhoto(ramp)), "land", "s2")
    assert later["level"] == pytest.approx(0.4 ** (1 / 3), abs=0.01)
    assert later["auto"] == {"level": None, "light_share": 0.5}
    assert tones_of(np.zeros((4, 4, 4), np.float32))["middle"] == 0.5


def test_tones_that_a_step_loses_are_shown() -> None:
    ramp = opaque(np.repeat(np.linspace(0, 1, 200, dtype=np.float32)[None, :, None], 3, axis=2).repeat(100, axis=0))
    dark, light = clipped_tones_of(piece(("tone", {"black": 0.2, "white": 0.7})), Context(OnePhoto(ramp)), "land", "s1", 200)
    # What was black or white before is not lost by the step.
    assert dark[50, [0, 20, 60, 180]].tolist() == [False, True, False, False]
    assert light[50, [20, 130, 160, 199]].tolist() == [False, False, True, False]


def test_a_palette_is_the_few_colours_of_a_picture() -> None:
    picture = np.zeros((60, 90, 4), np.float32)
    picture[:, :30] = (0.1, 0.2, 0.4, 1)
    picture[:, 30:60] = (230 / 255, 0.4, 0.2, 1)
    found = palette_of(picture)
    assert found == ["#1a3366", "#e66633"]
    assert palette_of(np.zeros((8, 8, 4), np.float32)) == []
    many = palette_of(detailed(100, 200))
    assert 3 <= len(many) <= 8
    assert many == palette_of(detailed(100, 200))


@pytest.mark.parametrize(
    "chosen",
    [{"hue": 30 / 360}, {"hue": 205 / 360, "meet": "darken"}, {"tints": ["#ff7a5c", "#0b86a8"]}, {"tints": ["#203040", "#a07050", "#50c060"], "meet": "darken", "tint": 0.7}],
)  # fmt: skip
def test_ghosts_leave_greys_in_which_they_agree_neutral(chosen: dict[str, Any]) -> None:
    result = made("ghosts", GREYS.repeat(10, axis=0), **chosen, apart=0)
    assert np.abs(result - GREYS.repeat(10, axis=0)).max() < 2e-3


def test_a_ghost_that_stands_alone_has_its_very_tint() -> None:
    dark = opaque(np.zeros((100, 300, 3), np.float32))
    dark[:, 140:160, :3] = 1
    result = made("ghosts", dark, tints=["#ff8040", "#2060c0"], apart=0.8, heading=0.25, edge="stretch", colour=0, depth=0)
    assert result[50, 150 - 20, :3] * 255 == pytest.approx([255, 128, 64], abs=2)
    assert result[50, 150 + 20, :3] * 255 == pytest.approx([32, 96, 192], abs=2)
    with pytest.raises(PieceError, match="tints"):
        piece(("ghosts", {"tints": ["#ffffff"]}))


def test_plates_are_joined_with_the_picture_below_them() -> None:
    dark = opaque(np.full((100, 200, 3), 0.2, np.float32))
    dark[:, 90:110, 0] = 0.8
    moved = {"red_x": 0.5, "edge": "stretch"}
    assert made("channel-split", dark, **moved)[50, 100, 0] == pytest.approx(0.2, abs=1e-3)
    for join, here, there in (("lighten", 0.8, 0.8), ("screen", 1 - 0.2 * 0.8, 1 - 0.2 * 0.8), ("difference", 0.6, 0.6)):
        result = made("channel-split", dark, **moved, join=join)[50, :, 0]
        assert result[100] == pytest.approx(here, abs=1e-3), join
        assert result[125] == pytest.approx(there, abs=1e-3), join


def test_plates_leave_no_streaks_at_the_rim() -> None:
    result = made("channel-split", detailed(100, 200), red_x=0.4)
    rim = result[:, :30, 0]
    assert np.abs(np.diff(rim, axis=1)).mean() > 0.3 * np.abs(np.diff(detailed(100, 200)[:, 60:90, 0], axis=1)).mean()
