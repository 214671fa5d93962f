"""Strokes: pixels worked out by hand, order, sizes, and what they cost others."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from caracol.core.arrays import Array
from caracol.core.errors import PieceError
from caracol.core.geometry.lines import packed
from caracol.core.piece.files import check_piece
from caracol.core.pixels.box import Box
from caracol.core.pixels.filling import find_offsets
from caracol.core.pixels.strokes import line_cover, membrane_over
from caracol.core.render import Context, Renderer, render
from caracol.core.render.analyses import repeats_of
from caracol.core.steps.mend.stroke_analyses import find_heal_source
from caracol.core.steps.mend.touch_up import Stroke
from tests.pictures import STROKES, OnePhoto, detailed, document, halved, opaque, piece, psnr

DOT: dict[str, Any] = {"mode": "colour", "line": packed([[0, 0]]), "radius": 0.2, "hardness": 1, "colour": "#ff0000"}
PHOTO = OnePhoto(detailed())


def touched(*strokes: dict[str, Any], size: int = 200, photo: OnePhoto = PHOTO, before: tuple[Any, ...] = ()) -> Array:
    return render(piece(*before, ("touch-up", {"strokes": list(strokes)})), size, photo)


def test_a_dot_by_hand() -> None:
    """In a frame of 200 by 100 pixels a unit is 50 of them: a dot of 0.2 is full to 9.5 pixels from the middle, and nothing from 10.5 on."""
    photo = OnePhoto(opaque(np.full((100, 200, 3), 0.25, np.float32)))
    result = touched(DOT, photo=photo)
    away = np.hypot(*np.meshgrid(np.arange(200) - 99.5, np.arange(100) - 49.5))
    assert np.abs(result[away < 9.4][:, :3] - (1, 0, 0)).max() < 1e-6
    assert np.abs(result[away > 10.6][:, :3] - 0.25).max() < 2e-5
    half = touched({**DOT, "opacity": 0.5}, photo=photo)
    assert half[50, 100, :3] == pytest.approx((0.625, 0.125, 0.125), abs=2e-5)


def test_cover_is_the_largest_pressure_times_profile() -> None:
    line = np.array([[10, 10, 1.0], [30, 10, 0.5]], np.float32)
    cover = line_cover(line, 6, 0.5, Box(0, 21, 0, 41))
    assert cover[10, 10] == pytest.approx(1)
    assert cover[10, 20] == pytest.approx(0.75)
    assert cover[10, 30] == pytest.approx(0.5)
    assert cover[16, 10] == pytest.approx(0, abs=1e-6)
    assert line_cover(np.array([[20, 10, 1]], np.float32), 6, 0.5, Box(0, 21, 0, 41))[10, 24] == pytest.approx(
        1 - ((4 - 3) / 3) ** 2 * (3 - 2 * (4 - 3) / 3), abs=1e-5
    )
    twice = line_cover(np.array([[10, 10, 0.5], [30, 10, 0.5], [10, 10, 0.5]], np.float32), 6, 0.5, Box(0, 21, 0, 41))
    assert twice.max() == pytest.approx(0.5)


def test_a_clone_shows_what_lies_where_its_source_says() -> None:
    """The colour at p comes from p + (dx, dy): a dot 0.5 units to the right is shown at the middle."""
    grey = np.full((100, 200, 3), 0.2, np.float32)
    grey[45:55, 120:130] = 0.9
    result = touched({**DOT, "mode": "clone", "source": {"dx": 0.5, "dy": 0}}, photo=OnePhoto(opaque(grey)))
    assert result[47:53, 97:103, 0].min() > 0.89
    assert result[47:53, 122:128, 0].min() > 0.89
    assert result[50, 107, 0] == pytest.approx(0.2, abs=0.01)


def test_a_source_turned_about_a_ring_brings_what_was_at_another_angle() -> None:
    """About the middle, a quarter turn clockwise brings what stood on top to the right."""
    grey = np.full((200, 200, 3), 0.2, np.float32)
    grey[40:60, 98:102] = 0.9
    stroke = {**DOT, "mode": "clone", "line": packed([[0.5, 0]]), "source": {"turn": 0.25, "about": [0, 0]}}
    result = touched(stroke, photo=OnePhoto(opaque(grey)))
    assert result[99:101, 142:158, 0].min() > 0.85
    assert result[95, 150, 0] == pytest.approx(0.2, abs=0.02)
    beside = np.full((200, 200, 3), 0.2, np.float32)
    beside[40:60, 105:115] = 0.9
    turned = touched(stroke, photo=OnePhoto(opaque(beside)))
    assert turned[106:114, 142:158, 0].min() > 0.85
    assert turned[86:94, 142:158, 0].max() < 0.25
    larger = touched({**stroke, "source": {"turn": 0.25, "about": [0, 0], "scale": 1.25}}, photo=OnePhoto(opaque(grey)))
    assert larger[99:101, 153:158, 0].min() > 0.85
    assert larger[100, 145, 0] == pytest.approx(0.2, abs=0.05)
    assert larger[102, 150, 0] > result[102, 150, 0]


def test_heal_takes_texture_from_there_and_tone_from_here() -> None:
    rng = np.random.default_rng(2)
    v, u = np.mgrid[0:200, 0:400].astype(np.float32) / 200
    rows = 0.2 + 0.2 * u + 0.1 * v
    grain = cv2.GaussianBlur(rng.normal(0, 0.05, rows.shape).astype(np.float32), (0, 0), 1)
    rows[:, 200:] += grain[:, 200:]
    stroke = {**DOT, "mode": "heal", "line": packed([[-1, 0]]), "radius": 0.3, "source": {"dx": 1.6, "dy": 0}}
    result = touched(stroke, size=400, photo=OnePhoto(opaque(np.repeat(rows[..., None], 3, axis=2))))[..., 0]
    inside = np.hypot(*np.meshgrid(np.arange(400) - 99.5, np.arange(200) - 99.5)) < 24
    tone = cv2.GaussianBlur(result, (0, 0), 8)
    assert np.abs(tone - cv2.GaussianBlur(rows, (0, 0), 8))[inside].max() < 0.02
    assert (result - tone)[inside].std() > 0.6 * grain[:, 200:].std()


def test_fill_in_goes_on_with_what_lies_round_the_hole() -> None:
    """Stripes with a blot: filled in they are stripes again, in step, and the blot is gone at every size."""
    v, u = np.mgrid[0:256, 0:512].astype(np.float32)
    stripes = 0.5 + 0.3 * np.sin(2 * np.pi * (u + v) / 32)
    blotted = stripes.copy()
    blotted[np.hypot(u - 256, v - 128) < 22] = 1
    photo = OnePhoto(opaque(np.repeat(blotted[..., None], 3, axis=2)))
    result = touched({"mode": "fill-in", "line": packed([[0, 0]]), "radius": 0.24, "hardness": 0.8}, size=512, photo=photo)[..., 0]
    inside = np.hypot(u - 256, v - 128) < 22
    assert np.abs(result - stripes)[inside].mean() < 0.06
    assert np.abs(blotted - stripes)[inside].mean() > 0.4


def two_surfaces() -> Array:
    """Red enamel with fine grain on the left of a line, and planks with dark joints and much stronger grain on the right."""
    rng = np.random.default_rng(5)
    v, u = np.mgrid[0:300, 0:600].astype(np.float32)
    grain = cv2.GaussianBlur(rng.normal(0, 1, u.shape).astype(np.float32), (0, 0), 1.5)
    enamel = np.stack([0.7 + 0.02 * grain, 0.15 + 0.02 * grain, 0.1 + 0.02 * grain], axis=2)
    planks = np.stack([0.6 + 0.25 * grain, 0.4 + 0.2 * grain, 0.2 + 0.15 * grain], axis=2)
    planks[(v % 150) < 4] = 0.05
    return opaque(np.clip(np.where((u < 330)[..., None], enamel, planks), 0, 1).astype(np.float32))


def test_a_hole_in_one_surface_is_filled_from_no_other() -> None:
    """A round of enamel on planks, with a hole in it: there are many more planks, and none of them is taken."""
    rng = np.random.default_rng(5)
    v, u = np.mgrid[0:84, 0:84].astype(np.float32)
    grain = cv2.GaussianBlur(rng.normal(0, 1, u.shape).astype(np.float32), (0, 0), 1)[..., None]
    enamel = np.float32([0.8, 0.25, 0.1]) + 0.02 * grain
    planks = np.float32([0.7, 0.42, 0.2]) + np.float32([0.12, 0.1, 0.08]) * grain
    away = np.hypot(u - 42, v - 42)
    hole = away < 14
    found = find_offsets(np.clip(np.where((away < 27)[..., None], enamel, planks), 0, 1).astype(np.float32), hole)
    assert found is not None
    sources = np.argwhere(hole) + found[hole]
    assert np.hypot(*(sources - 42).T).max() < 27


def test_where_the_edge_of_a_hole_shows_what_is_nowhere_else_the_rest_fills_it() -> None:
    picture = np.full((80, 80, 3), 0.8, np.float32)
    picture[26:54, 26:54] = (0.1, 0.2, 0.9)
    hole = np.zeros((80, 80), bool)
    hole[30:50, 30:50] = True
    found = find_offsets(picture, hole)
    assert found is not None
    assert np.abs(found[40, 40]).max() > 10


def test_texture_is_found_near_by_on_the_same_surface_and_without_an_edge() -> None:
    picture = two_surfaces()
    for x, y in ((-0.3, 0.0), (0.6, 0.25), (-0.8, 0.3)):
        stroke = Stroke(mode="heal", line=packed([[x, y]]), radius=0.1)
        source = find_heal_source(picture, stroke)
        assert source is not None
        assert np.hypot(source.dx, source.dy) > 0.18
        # The whole disc lies on its side of the line, and clear of the planks' joints.
        col, row = 300 + 300 * (x + source.dx), 150 + 300 * (y + source.dy)
        assert (col + 30 < 330) if x < 0 else (col - 30 > 330)
        if x > 0:
            assert (row - 30) % 150 >= 4
            assert (row - 30) // 150 == (row + 30) // 150


def test_what_heals_has_the_colour_of_the_place_and_no_edge_in_it() -> None:
    """A band of sand, spotted beside the stroke and clean far to the right, in plain grey: neither the near grey nor the near spots are taken."""
    v, u = np.mgrid[0:300, 0:900].astype(np.float32)
    picture = np.full((300, 900, 3), 0.45, np.float32)
    picture[95:205] = (0.75, 0.65, 0.45)
    for col in (112, 152):
        picture[np.hypot(v - 150, u - col) < 12] = 0.2
    source = find_heal_source(opaque(picture), Stroke(mode="heal", line=packed([[-2.7, 0]]), radius=0.2))
    assert source is not None
    col, row = 450 + 150 * (-2.7 + source.dx), 150 + 150 * source.dy
    assert abs(row - 150) < 25
    assert col - 25 > 152 + 12


def test_where_nothing_is_left_round_a_stroke_no_texture_is_found() -> None:
    picture = opaque(np.full((100, 200, 3), 0.5, np.float32))
    assert find_heal_source(picture, Stroke(mode="heal", line=packed([[0, 0]]), radius=3)) is None
    assert find_heal_source(picture, Stroke(mode="heal", line=packed([[5, 5]]), radius=0.1)) is None


def test_nothing_to_fill_with_leaves_the_hole() -> None:
    assert find_offsets(np.zeros((12, 12, 3), np.float32), np.ones((12, 12), bool)) is None
    assert find_offsets(np.zeros((12, 12, 3), np.float32), np.zeros((12, 12), bool)) is None


def test_a_membrane_is_harmonic_over_the_hole() -> None:
    """What is known on both sides of a slit is carried over it in a straight line."""
    x = np.broadcast_to(np.linspace(0, 1, 80, dtype=np.float32), (40, 80))
    known = np.ones((40, 80), np.float32)
    known[:, 30:50] = 0
    field = membrane_over(np.repeat(x[..., None], 3, axis=2), known, 1)
    assert np.abs(field[..., 0] - x).max() < 0.02


def test_erase_gives_back_what_the_step_got() -> None:
    over = touched(DOT, {**DOT, "mode": "erase", "radius": 0.4})
    assert np.abs(over - touched({**DOT, "on": False}, {**DOT, "opacity": 0})).max() < 1e-6


def test_strokes_are_laid_in_order_each_on_what_the_last_left() -> None:
    blue = {**DOT, "colour": "#0000ff", "radius": 0.1}
    moved = {**DOT, "mode": "clone", "line": packed([[0.8, 0]]), "source": {"dx": -0.8, "dy": 0}}
    result = touched(DOT, blue, moved)
    assert result[50, 100, :3] == pytest.approx((0, 0, 1), abs=1e-5)
    assert result[50, 140, :3] == pytest.approx((0, 0, 1), abs=1e-3)
    assert touched(blue, DOT, moved)[50, 140, :3] == pytest.approx((1, 0, 0), abs=1e-3)


def test_the_same_at_1024_and_4096() -> None:
    photo = OnePhoto(detailed(2048, 4096, 5))
    small, large = touched(*STROKES, size=1024, photo=photo), touched(*STROKES, size=4096, photo=photo)
    assert psnr(small, halved(large, small.shape[:2])) > 36


def test_a_removed_stroke_gives_back_the_bytes() -> None:
    context = Context(PHOTO)

    def shown(*strokes: dict[str, Any]) -> bytes:
        return Renderer(piece(("touch-up", {"strokes": list(strokes)})), context).picture(300).tobytes()

    first = shown(*STROKES[:3])
    more = shown(*STROKES)
    assert more != first
    assert shown(*STROKES[:3]) == first
    assert more == touched(*STROKES, size=300).tobytes()


def test_one_stroke_more_is_laid_on_what_is_there(monkeypatch: pytest.MonkeyPatch) -> None:
    from caracol.core.steps.mend import touch_up

    laid: list[str] = []
    lay = touch_up.StrokeCanvas.lay
    monkeypatch.setattr(
        touch_up.StrokeCanvas, "lay", lambda canvas, stroke, offsets: laid.append(stroke.mode) or lay(canvas, stroke, offsets)
    )
    context = Context(PHOTO)
    several = [DOT, {**DOT, "mode": "clone"}, {**DOT, "mode": "erase"}]
    for count in (2, 3):
        Renderer(piece(("touch-up", {"strokes": several[:count]})), context).picture(100)
    assert laid == ["colour", "clone", "erase"]
    for count in (1, 2):
        laid.clear()
        data = document(("touch-up", {"strokes": several[:count]}))
        data["layers"][0]["steps"][0]["strength"] = 0.5
        Renderer(check_piece(data), context).picture(100)
    assert laid == ["clone"]


@settings(max_examples=20, deadline=None)
@given(data=st.data())
def test_an_earlier_step_may_change_and_strokes_stay(data: st.DataObject) -> None:
    """The strokes of a changed picture are those of the changed picture: laid by hand on it, they give the same bytes."""
    some = data.draw(st.lists(st.sampled_from(STROKES), min_size=1, max_size=4))
    gamma = data.draw(st.floats(0.6, 0.95) | st.floats(1.05, 1.6))
    brighter = touched(*some, size=160, before=(("tone", {"gamma": gamma}),))
    assert np.isfinite(brighter).all()
    assert np.array_equal(brighter, touched(*some, size=160, before=(("tone", {"gamma": gamma}),)))
    assert not np.array_equal(brighter, touched(*some, size=160))


@pytest.mark.parametrize(
    ("stroke", "fault"),
    [
        ({"mode": "clone"}, "either a line or an outline"),
        ({"mode": "clone", "line": packed([[0, 0]]), "outline": packed([[0, 0], [1, 0], [0, 1]])}, "either a line or an outline"),
        ({"mode": "heal", "outline": packed([[0, 0], [1, 0]])}, "three points at least, not 2"),
        ({"mode": "colour", "line": packed([[0, 0]])}, "needs a colour"),
        ({"mode": "smudge", "line": packed([[0, 0]])}, "strokes"),
        ({"mode": "heal", "line": [0, 0], "pressure": [2]}, "less than or equal to 1"),
        ({"mode": "heal", "line": [0, 0], "pressure": [1, 1]}, "a line of 1 points has as many pressures or none, not 2"),
        ({"mode": "heal", "line": [0, 0, 1]}, "line has 3 numbers; each point has two"),
        ({"mode": "heal", "line": [1_500_000, 0, 1_500_000, 0]}, "line leads more than 20 units from the middle"),
        ({"mode": "heal", "points": [[0, 0, 1]]}, "points: unknown field"),
        ({"mode": "heal", "line": packed([[0, 0]]), "radius": 0}, "radius"),
    ],
)
def test_strokes_that_are_none_are_refused(stroke: dict[str, Any], fault: str) -> None:
    with pytest.raises(PieceError, match=fault):
        piece(("touch-up", {"strokes": [stroke]}))


def test_strokes_beyond_the_picture_and_tiny_ones_do_no_harm() -> None:
    far = [
        {**DOT, "line": packed([[15, 15]])}, {**DOT, "mode": "fill-in", "line": packed([[0.99 * 2, 0.99]]), "radius": 0.0006},
        {**DOT, "mode": "clone", "source": {"dx": 18, "dy": -18, "scale": 0.05}}, {**DOT, "mode": "heal", "radius": 4},
        {"mode": "fill-in", "outline": packed([[-15, -15], [15, -15], [15, 15], [-15, 15]])},
    ]  # fmt: skip
    for stroke in far:
        assert np.isfinite(touched(stroke, size=64)).all()


def test_doubles_are_pointed_out_and_plain_places_are_not() -> None:
    context = Context(PHOTO)
    clone = {"mode": "clone", "line": packed([[-1, 0]]), "radius": 0.2, "hardness": 1, "source": {"dx": 1.2, "dy": 0.1}}
    asked = piece(("touch-up", {"strokes": [clone, {**DOT, "line": packed([[1, 0.5]])}]}))
    [double] = repeats_of(asked, context, "land", "s1")
    assert double.likeness > 0.95
    assert (double.from_x - double.x, double.from_y - double.y) == pytest.approx((1.2, 0.1), abs=1e-4)
    assert abs(double.x + 1) < 0.2
    assert repeats_of(piece(("touch-up", {"strokes": [{**clone, "mode": "fill-in"}]})), context, "land", "s1") == []
    plain = Context(OnePhoto(opaque(np.full((100, 200, 3), 0.5, np.float32))))
    assert repeats_of(piece(("touch-up", {"strokes": [clone]})), plain, "land", "s1") == []
    with pytest.raises(PieceError, match="has no strokes"):
        repeats_of(piece(("tone", {"gamma": 2})), context, "land", "s1")


@settings(max_examples=15, deadline=None)
@given(data=st.data())
def test_what_fills_a_hole_depends_on_strokes_it_sees_and_on_no_others(data: st.DataObject) -> None:
    """The same offsets as when all strokes before it are replayed."""
    from caracol.core.geometry.frame import Frame
    from caracol.core.steps.mend.touch_up import Stroke, StrokeCanvas, TouchUpSettings, measure_fills

    places = st.tuples(st.floats(-1.9, 1.9), st.floats(-0.9, 0.9))
    some = [
        {
            **DOT,
            "mode": mode,
            "line": packed([[*data.draw(places)]]),
            "radius": 0.1,
            "source": {"dx": data.draw(st.floats(-1, 1)), "turn": 0.1},
        }
        for mode in data.draw(st.lists(st.sampled_from(["clone", "heal", "colour", "erase", "fill-in"]), max_size=8))
    ]
    hole = {"mode": "fill-in", "line": packed([[*data.draw(places)]]), "radius": 0.08}
    picture = detailed(100, 200)
    strokes = TouchUpSettings(strokes=tuple(Stroke(**one) for one in [*some, hole]))
    fills = measure_fills(picture, strokes)["fills"]
    canvas = StrokeCanvas(picture.copy(), Frame(2.0), picture)
    for index, stroke in enumerate(strokes.strokes):
        offsets = canvas.offsets(stroke) if stroke.mode == "fill-in" else None
        if offsets is not None:
            assert np.array_equal(fills[index], offsets)
        canvas.lay(stroke, offsets)


def test_holes_that_are_known_are_not_looked_at_again(monkeypatch: pytest.MonkeyPatch) -> None:
    from caracol.core.steps.mend import touch_up

    looked: list[int] = []
    find = touch_up.find_offsets
    monkeypatch.setattr(touch_up, "find_offsets", lambda picture, hole: looked.append(1) or find(picture, hole))
    holes = [{"mode": "fill-in", "line": packed([[x, 0]]), "radius": 0.1} for x in (-1.2, 0, 0.3, 1.2)]
    context = Context(PHOTO)
    for count in (1, 2, 3, 4):
        last = Renderer(piece(("touch-up", {"strokes": holes[:count]})), context).picture(200)
    assert len(looked) == 4
    assert np.array_equal(last, touched(*holes))
