"""The breaking family, on small pictures worked out by hand."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from caracol.core.arrays import Array
from caracol.core.geometry.frame import Frame
from caracol.core.geometry.rows import Rows
from caracol.core.pixels.blending import LUMA
from caracol.core.pixels.kept_light import lifted, mean_light
from caracol.core.pixels.light import linear_of, linear_to_coded
from caracol.core.pixels.pyramid import Pyramid, pyramid_of
from caracol.core.pixels.raster import Raster
from caracol.core.render import render
from caracol.core.render.cache import Cache
from caracol.core.steps.break_.melt import MeltKey, MeltSettings, melt, pushes
from caracol.core.steps.break_.scan_lines import line_cover
from caracol.core.steps.break_.slices import SlicesSettings, draw_bars
from caracol.core.steps.mend.trim import find_rims
from tests.pictures import OnePhoto, detailed, halved, opaque, piece, psnr

PHOTO = OnePhoto(detailed(400, 800))
GREY = OnePhoto(opaque(np.full((200, 400, 3), 0.5, np.float32)))


def shift_of(moved: Array, still: Array) -> int:
    """Return by how many columns a plane is moved right: where the cross-correlation of its rows has its peak."""
    spectrum = np.fft.rfft(moved - moved.mean(), axis=1) * np.conj(np.fft.rfft(still - still.mean(), axis=1))
    peak = int(np.fft.irfft(spectrum.sum(axis=0), n=moved.shape[1]).argmax())
    return peak - moved.shape[1] if peak > moved.shape[1] // 2 else peak


def test_plates_move_by_their_shift_in_units_and_leave_no_rim() -> None:
    before = render(piece(), 400, PHOTO)
    after = render(piece(("channel-split", {"red_x": -0.1, "blue_y": 0.1, "edge": "stretch"})), 400, PHOTO)
    assert shift_of(after[..., 0], before[..., 0]) == -10  # a hundred pixels are a unit
    assert shift_of(after[..., 2].T, before[..., 2].T) == 10
    assert np.array_equal(after[..., 1], before[..., 1])
    assert after[..., 3].min() == 1
    assert np.allclose(after[:, -5:, 0], after[:, -6:-5, 0], atol=2e-2)  # the last column stretched


def test_a_blurred_plate_is_soft_and_the_others_are_not() -> None:
    before = render(piece(), 400, PHOTO)
    after = render(piece(("channel-split", {"red_x": 0, "green_blur": 0.05})), 400, PHOTO)
    assert after[..., 1].std() < before[..., 1].std() * 0.85
    assert np.array_equal(after[..., 0], before[..., 0])


def test_light_stays_where_only_the_colour_moves() -> None:
    before = render(piece(), 400, PHOTO)
    after = render(piece(("channel-split", {"plates": "light-colour", "colour_x": 0.2})), 400, PHOTO)
    inside = (after[..., :3].min(axis=2) > 0.01) & (after[..., :3].max(axis=2) < 0.99)
    assert np.abs(after[..., :3] @ LUMA - before[..., :3] @ LUMA)[inside].max() < 2e-3
    assert np.abs(after - before).max() > 0.1


def test_lines_lie_at_their_pitch_of_the_height() -> None:
    lines = render(
        piece(("scan-lines", {"pitch": 0.1, "thickness": 0.5, "softness": 0, "dark": 1, "bright": 0, "keep_light": 0})), 400, GREY
    )
    profile = lines[:, 0, 0]
    assert np.allclose(profile.reshape(10, 20), profile[:20], atol=1e-3)  # ten lines in two hundred rows
    assert np.allclose(profile[:20], [0.5] * 5 + [0.0] * 10 + [0.5] * 5, atol=1e-3)


@pytest.mark.parametrize("pitch", [0.004, 0.0071, 0.013])
def test_lines_never_alias(pitch: float) -> None:
    """However small the look, its lines average to what they are worth, everywhere alike."""
    settings = {"pitch": pitch, "thickness": 0.5, "softness": 0.3, "dark": 0.8, "bright": 0, "keep_light": 0}
    for size in (64, 100, 233):
        small = render(piece(("scan-lines", settings)), size, GREY)
        assert small[..., 0].mean() == pytest.approx(0.5 * (1 - 0.8 * 0.5), rel=0.03)
        assert psnr(small, halved(render(piece(("scan-lines", settings)), size * 8, GREY), small.shape[:2])) > 40
    cover = line_cover(np.linspace(0, 50, 999), 1.0, 0.4, 0.5)
    assert np.allclose(cover, 0.4, atol=1e-3)  # pixels of a whole pitch


LIT = OnePhoto((detailed(200, 400) * np.float32([0.6, 0.6, 0.6, 1])).astype(np.float32))


@pytest.mark.parametrize(
    ("kind", "settings"),
    [
        ("scan-lines", {"dark": 0.5, "bright": 0}),
        ("scan-lines", {"pitch": 0.02, "dark": 0.6, "bright": 0.2}),
        ("mosaic", {"gap": 0.15}),
        ("tube", {"depth": 0.6, "beam": 1}),
        ("tube", {"mask": "bars", "beam": 0.6}),
    ],
)
def test_what_lines_and_masks_take_is_given_back(kind: str, settings: dict[str, Any]) -> None:
    before = mean_light(render(piece(), 400, LIT))
    kept, not_kept = (mean_light(render(piece((kind, settings | {"keep_light": keep})), 400, LIT)) for keep in (1, 0))
    assert not_kept < 0.8 * before
    assert 0.85 < kept / before < 1.18


def test_white_stays_white_and_darks_are_lifted_by_the_gain() -> None:
    grey = linear_to_coded(np.array([0.0, 0.01, 0.5, 1.0], np.float32))
    row = np.repeat(grey[None, :, None], 4, axis=2)
    row[..., 3] = 1
    light = linear_of(lifted(row.astype(np.float32), 3.0))[0, :, 0]
    assert light == pytest.approx([0, 0.03 / 1.02, 1.5 / 2, 1], abs=2e-3)
    assert lifted(row, 1.0) is row


def test_bricks_lie_half_aside_in_every_other_row() -> None:
    columns = np.repeat(np.arange(8, dtype=np.float32) / 8, 25)
    photo = OnePhoto(opaque(np.repeat(np.repeat(columns[None, :, None], 100, axis=0), 3, axis=2)))
    wall = render(piece(("mosaic", {"pitch": 0.25, "stretch": 2, "offset": 0.5})), 200, photo)[..., 0]
    joints = [np.flatnonzero(np.abs(np.diff(wall[row])) > 0.03) + 1 for row in (12, 37)]
    assert list(joints[0]) == [50, 100, 150]
    assert list(joints[1]) == [25, 75, 125, 175]


def test_crush_runs_no_black_into_what_is_cut_out() -> None:
    cover = np.zeros((200, 400, 1), np.float32)
    cover[:, 150:250] = 1
    photo = OnePhoto(np.concatenate([np.full((200, 400, 3), 0.8, np.float32), np.ones((200, 400, 1), np.float32)], axis=2) * cover)
    crushed = render(piece(("crush", {"rows": 0.8, "slip": 0.4, "drift": 0, "press": 0.7, "lines": 200})), 400, photo)
    seen = crushed[..., 3] > 0.99
    assert (crushed[..., :3][seen] / crushed[..., 3:][seen]).min() > 0.6


def test_interlace_moves_every_other_line() -> None:
    before = render(piece(), 400, PHOTO)
    after = render(piece(("scan-lines", {"pitch": 0.1, "interlace": 0.1, "dark": 0, "bright": 0})), 400, PHOTO)
    shifts = [shift_of(after[top + 4 : top + 16, :, 0], before[top + 4 : top + 16, :, 0]) for top in range(0, 200, 20)]
    assert sorted(set(shifts)) == [0, 10]
    assert shifts[:4] in ([0, 10, 0, 10], [10, 0, 10, 0])


def test_cells_have_their_mean_in_linear_light() -> None:
    half = np.zeros((40, 80, 3), np.float32)
    half[::2] = 1
    cells = render(piece(("mosaic", {"pitch": 0.5})), 80, OnePhoto(opaque(half)))
    assert np.allclose(cells[..., :3], 0.7354, atol=2e-3)  # half the light, coded
    pattern = render(piece(("mosaic", {"pitch": 0.25})), 80, PHOTO)
    assert np.ptp(pattern[1:9, 1:9], axis=(0, 1)).max() < 1e-5
    assert np.abs(pattern[5, 5] - pattern[5, 15]).max() > 1e-3
    gaps = render(piece(("mosaic", {"pitch": 0.25, "gap": 0.2, "keep_light": 0})), 80, OnePhoto(opaque(np.ones((40, 80, 3), np.float32))))
    assert gaps[..., 0].mean() == pytest.approx(0.64, abs=0.01)


def test_grain_is_even_drawn_by_its_seed_and_the_same_at_every_size() -> None:
    def grained(size: int, **more: float) -> Array:
        return render(piece(("grain", {"amount": 0.5, **more})), size, GREY)

    large = grained(2160)
    assert large[..., :3].mean() == pytest.approx(0.5, abs=2e-3)
    assert large[..., 0].std() == pytest.approx(0.5 * 0.25, rel=0.15)
    assert psnr(grained(540), halved(large, (270, 540))) > 38
    assert grained(128).tobytes() == grained(128).tobytes() != grained(128, seed=9).tobytes()
    grey = grained(256, colour=0)
    assert np.abs(grey[..., 0] - grey[..., 2]).max() < 1e-6


def test_a_bar_shows_what_it_was_cut_from_and_leaves_the_picture_where_it_was() -> None:
    before = render(piece(), 400, PHOTO)
    bar = {"top": 0.25, "height": 0.25, "left": 0.5, "width": 0.25, "shift": 0.1, "drop": 0.5}
    after = render(piece(("slices", {"bars": [bar]})), 400, PHOTO)
    assert np.allclose(after[150:200, 240:340], before[50:100, 200:300], atol=2e-3)
    after[150:200, 240:340] = before[150:200, 240:340]
    assert np.abs(after - before).max() < 2e-2  # nothing else but a pixel's edge
    later = {"top": 0.25, "height": 0.25, "left": 0, "width": 0.25, "shift": 0.6, "drop": 0.5}
    both = render(piece(("slices", {"bars": [bar, later]})), 400, PHOTO)
    assert np.allclose(both[155:195, 245:335], before[55:95, 5:95], atol=2e-3)


def test_a_stretched_bar_is_drawn_wider_about_its_middle() -> None:
    before = render(piece(), 400, PHOTO)
    bar = {"top": 0.25, "height": 0.25, "left": 0.4, "width": 0.2, "stretch": 2}
    after = render(piece(("slices", {"bars": [bar]})), 400, PHOTO)
    assert np.allclose(after[60:90, 120:280:2], before[60:90, 160:240], atol=0.12)
    assert np.array_equal(after[60:90, :118], before[60:90, :118])


def test_drawn_bars_keep_the_locked_ones_and_obey_their_settings() -> None:
    profile = np.zeros(100, np.float32)
    profile[30] = 1
    settings = SlicesSettings(thin=30, wide=0, lean=0, least=0.01, most=0.02, shift=0.1, short=0.5)
    bars = draw_bars(settings, profile)
    assert len(bars) == 30
    assert all(0.009 < bar.height < 0.021 and abs(bar.shift) <= 0.1 for bar in bars)
    assert 5 < sum(bar.width < 1 for bar in bars) < 25
    assert {bar.shift > 0 for bar in bars} == {True, False}
    kept = [bars[3].model_copy(update={"locked": True})]
    again = draw_bars(settings.model_copy(update={"seed": 9}), profile, kept)
    assert len(again) == 30
    assert again[-1] == kept[0]
    assert not set(bar.top for bar in bars) & set(bar.top for bar in again[:-1])
    # A locked thin bar takes no wide one's place.
    both = draw_bars(
        settings.model_copy(update={"wide": 2, "most": 0.02}), profile, [bar.model_copy(update={"locked": True}) for bar in bars[:5]]
    )
    assert sum(bar.height > 0.02 for bar in both) == 2
    assert len(both) == 32
    leaning = draw_bars(settings.model_copy(update={"lean": 1}), profile)
    near = [sum(abs(bar.top - 0.305) < 0.016 for bar in some) for some in (bars, leaning)]
    assert near[1] > near[0] + 4


def test_one_round_of_a_melt_by_hand() -> None:
    """Above the threshold a pixel takes its colour from so far back as its light says; below it stays."""
    row = np.array([0.2, 0.9, 0.8, 0.1, 0.6, 0.6, 0.3, 1.0], np.float32)
    picture = opaque(np.repeat(np.repeat(row[None, :, None], 3, axis=2), 40, axis=0))
    settings = MeltSettings(rounds=1, heading=0.25, push=0.2, threshold=0.5)
    found = melt(picture, Raster(Rows(Frame(0.2), 40, 8)), settings)  # half of eight pixels is a unit: the push is 0.8 of a pixel
    assert np.array_equal(found, found[:1].repeat(40, axis=0))
    back = {1: 0.64, 2: 0.48, 4: 0.16, 5: 0.16, 7: 0.8}
    for col in range(8):
        at = col - back.get(col, 0)
        low, high = row[int(at)], row[min(int(at) + 1, 7)]
        assert min(low, high) - 1e-6 <= found[0, col, 0] <= max(low, high) + 1e-6
    assert found[0, 7, 0] < 0.5 < found[0, 4, 0]
    assert np.array_equal(found[0, [0, 3, 6], 0], row[[0, 3, 6]])


@pytest.mark.parametrize(
    ("join", "expected"),
    [("mix", 0.35), ("lighten", 0.35), ("darken", 0.2), ("screen", 0.2 + 0.5 * (0.6 - 0.2)), ("difference", 0.2 + 0.5 * 0.1)],
)
def test_a_second_picture_is_fed_in_by_its_share_and_way_of_joining(join: str, expected: float) -> None:
    """Nothing flows below the threshold, so that one round feeds once: 0.2 and 0.5, by half."""

    class Two:
        def pyramid(self, name: str) -> Pyramid:
            return pyramid_of(opaque(np.full((60, 60, 3), 0.5 if name == "other.png" else 0.2, np.float32)))

        def digest(self, name: str) -> str:
            return name

    fed = {"rounds": 1, "lines": 240, "threshold": 1, "feed": "other.png", "feed_from": 1, "feed_share": 0.5, "feed_join": join}
    assert render(piece(("melt", fed)), 60, Two())[30, 30, 0] == pytest.approx(expected, abs=2e-3)


def test_a_melt_replays_exactly_and_goes_on_from_where_it_was() -> None:
    keys = [{"round": 5, "heading": 0.25}, {"round": 9, "push": 0.03, "hold": 0.1}]
    photo = OnePhoto(detailed(100, 160))
    whole = render(piece(("melt", {"rounds": 20, "lines": 100, "keys": keys})), 160, photo)
    cache = Cache(1 << 28)
    for rounds in (3, 4, 8, 11, 20):
        played = render(piece(("melt", {"rounds": rounds, "lines": 100, "keys": keys})), 160, photo, cache=cache)
    assert np.array_equal(played, whole)
    assert [push.heading for push in pushes(MeltSettings(rounds=6, keys=tuple(MeltKey(**key) for key in keys)))] == [0.5] * 4 + [0.25] * 2
    # What is set after a round changes nothing before it.
    early = render(piece(("melt", {"rounds": 8, "lines": 100})), 160, photo)
    assert not np.array_equal(early, render(piece(("melt", {"rounds": 8, "lines": 100, "keys": keys})), 160, photo))
    late = [{"round": 9, "push": 0.1}]
    assert np.array_equal(early, render(piece(("melt", {"rounds": 8, "lines": 100, "keys": late})), 160, photo))


def test_a_picture_fed_in_comes_from_its_round_on() -> None:
    photos = {
        "p.png": OnePhoto(opaque(np.full((60, 90, 3), 0.25, np.float32))),
        "q.png": OnePhoto(opaque(np.full((90, 60, 3), 0.75, np.float32))),
    }

    class Both:
        def pyramid(self, name: str) -> Pyramid:
            return photos[name].pyramid(name)

        def digest(self, name: str) -> str:
            return photos[name].digest(name)

    fed = {"feed": "q.png", "feed_from": 5, "feed_share": 0.5, "lines": 60, "push": 0, "hold": 0}
    at = [float(render(piece(("melt", fed | {"rounds": n})), 90, Both())[30, 45, 0]) for n in (4, 5, 6)]
    assert at == pytest.approx([0.25, 0.5, 0.625], abs=2e-3)


def test_a_free_pitch_follows_the_mosaic_before() -> None:
    mosaic = ("mosaic", {"pitch": 0.1})
    follows, set_free = ({"bloom": 0, "glass": 0}, {"bloom": 0, "glass": 0, "pitch": 0.1})
    assert np.array_equal(render(piece(mosaic, ("tube", follows)), 300, PHOTO), render(piece(mosaic, ("tube", set_free)), 300, PHOTO))
    assert not np.array_equal(
        render(piece(mosaic, ("tube", follows)), 300, PHOTO), render(piece(mosaic, ("tube", set_free | {"pitch": 0.05})), 300, PHOTO)
    )
    assert not np.array_equal(render(piece(("tube", follows)), 300, PHOTO), render(piece(("tube", set_free)), 300, PHOTO))


def test_dark_cells_of_a_tube_stay_empty_and_bright_ones_spread() -> None:
    steps = np.repeat(np.array([0.03, 0.3, 0.9], np.float32), 40)
    photo = OnePhoto(opaque(np.repeat(np.repeat(steps[None, :, None], 120, axis=0), 3, axis=2)))
    lit = render(piece(("tube", {"mask": "bars", "pitch": 0.1, "glass": 0, "bloom": 0, "gain": 1, "beam": 0.5})), 480, photo)[..., 0]
    assert lit[:, 40:120].max() == 0
    widths = [(lit[:, col] > lit[:, col].max() / 2).mean() for col in (240, 400)]
    assert widths[1] > widths[0] * 1.1


def test_tape_moves_colour_apart_from_light() -> None:
    before = render(piece(), 400, PHOTO)
    still = {"delay": 0.1, "bleed": 0, "soft": 0, "wobble": 0, "jitter": 0, "head": 0, "drops": 0, "snow": 0, "lines": 200}
    after = render(piece(("tape", still)), 400, PHOTO)
    colour = [picture[..., 0] - picture[..., :3] @ LUMA for picture in (after, before)]
    assert shift_of(colour[0], colour[1]) == 10
    assert np.abs((after - before)[..., :3] @ LUMA).mean() < 0.02
    torn = render(piece(("tape", still | {"delay": 0, "head": 0.25, "tear": 0.5})), 400, PHOTO)
    assert np.allclose(torn[:145], before[:145], atol=1e-6)
    assert np.abs(torn[-20:] - before[-20:]).mean() > 0.03


def test_few_bits_are_few_values() -> None:
    crushed = render(piece(("crush", {"bits": 2, "press": 0, "rows": 0, "lines": 200})), 400, PHOTO)
    assert set(np.unique(np.rint(crushed[..., :3] * 3000))) == {0, 1000, 2000, 3000}
    pressed = render(piece(("crush", {"press": 0.9, "rows": 0, "lines": 200})), 400, PHOTO)
    assert np.abs(pressed - render(piece(), 400, PHOTO)).mean() > 0.02


def test_stipple_darkens_with_the_picture() -> None:
    ramp = np.linspace(0.05, 0.95, 400, dtype=np.float32)
    photo = OnePhoto(opaque(np.repeat(np.repeat(ramp[None, :, None], 200, axis=0), 3, axis=2)))
    dots = render(
        piece(("stipple", {"shade": "ink", "ink": "#000000", "paper": "#ffffff", "lines": 240, "pitch": 0.05, "size": 1})), 400, photo
    )
    light = dots[:, :, 0].mean(axis=0).reshape(4, 100).mean(axis=1)
    assert (np.diff(light) > 0.05).all()


def test_two_ghosts_have_opposite_hues_and_own_colour_comes_back() -> None:
    spot = np.zeros((200, 400, 3), np.float32)
    spot[90:110, 190:210] = 1
    found = render(piece(("ghosts", {"apart": 0.4, "hue": 0, "heading": 0.25, "colour": 0, "depth": 0})), 400, OnePhoto(opaque(spot)))
    assert np.allclose(found[100, 180, :3], (1, 0, 0), atol=0.02)  # the first, red, lies left
    assert np.allclose(found[100, 220, :3], (0, 1, 1), atol=0.02)
    own = render(piece(("ghosts", {"apart": 0.4, "colour": 1, "depth": 1})), 400, PHOTO)
    assert np.allclose(own, render(piece(), 400, PHOTO), atol=2e-3)


@pytest.mark.parametrize("by", ["crop", "fill"])
def test_trim_finds_the_ragged_rim_by_itself(by: str) -> None:
    split = ("channel-split", {"red_x": 0.2, "blue_x": -0.1, "edge": "empty"})
    ragged, trimmed = render(piece(split), 400, PHOTO), render(piece(split, ("trim", {"by": by})), 400, PHOTO)
    left = np.abs(np.diff(ragged[:, :15, 0], axis=1)).mean()
    assert left < 0.005
    steps = np.abs(np.diff(trimmed[:, :15, 0], axis=1)).mean(), np.abs(np.diff(trimmed[:, -15:, 2], axis=1)).mean()
    assert min(steps) > 0.01
    assert trimmed[..., 3].min() == 1


def test_trim_leaves_a_whole_picture_alone() -> None:
    assert np.allclose(render(piece(("trim", {})), 400, PHOTO), render(piece(), 400, PHOTO), atol=2e-3)


@pytest.mark.parametrize("grain", [0.0, 0.004])
def test_trim_takes_no_plain_sky_for_a_streak(grain: float) -> None:
    rng = np.random.default_rng(4)
    y = np.linspace(0, 1, 300, dtype=np.float32)[:, None, None]
    sky = np.broadcast_to(np.float32([0.45, 0.6, 0.85]) + 0.12 * y, (300, 400, 3)) + grain * rng.standard_normal((300, 400, 3))
    photo = np.where(y < 0.5, sky, rng.random((300, 400, 3)))
    assert find_rims(opaque(photo.astype(np.float32))).max() == 0


def test_trim_finds_rows_drawn_out() -> None:
    photo = detailed(300, 400).copy()
    photo[:30] = photo[30]
    left, top, right, bottom = find_rims(photo)[0]
    assert top == pytest.approx(0.1, abs=0.01)
    assert left == right == bottom == 0


def test_blurs_average_in_linear_light_and_leave_even_pictures_even() -> None:
    for step in (("blur", {}), ("zoom-blur", {}), ("wheel-blur", {}), ("brushwork", {"bristle": 0, "lines": 240})):
        assert np.allclose(render(piece(step), 200, GREY), render(piece(), 200, GREY), atol=3e-3), step
    halves = np.zeros((100, 200, 3), np.float32)
    halves[:, 100:] = 1
    soft = render(piece(("blur", {"radius": 0.2, "down": 0})), 200, OnePhoto(opaque(halves)))
    assert soft[50, 99:101, 0].mean() == pytest.approx(0.735, abs=0.02)  # half of the light, coded


def test_zoom_and_spin_smear_along_their_own_ways() -> None:

    def rough(picture: Array, axis: int) -> float:
        # On the level through the middle, right of it: rays run along x, arcs along y.
        return float(np.abs(np.diff(picture[80:120, 320:380, 1], axis=axis)).mean())

    zoomed, spun = render(piece(("zoom-blur", {"amount": 0.3})), 400, PHOTO), render(piece(("wheel-blur", {"turns": 0.06})), 400, PHOTO)
    assert rough(zoomed, 1) < rough(zoomed, 0) / 1.5
    assert rough(spun, 0) < rough(spun, 1) / 1.5
