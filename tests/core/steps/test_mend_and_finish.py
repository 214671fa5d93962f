"""Close seam, rim, tone."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from caracol.core.geometry.frame import Frame
from caracol.core.pixels.joining import drift_of, least_path, membrane, usual_steps, visibility
from caracol.core.render import render
from caracol.core.steps.mend.close_seam import CloseSeamSettings, measure_join
from tests.pictures import OnePhoto, detailed, opaque, piece, smooth


def leaning(drop: float, tone: float) -> np.ndarray:
    """A horizon that lies `drop` of the height lower at the right, the right side lighter by `tone`."""
    v, u = np.mgrid[0:200, 0:600].astype(np.float32)
    u, v = (u + 0.5) / 600, (v + 0.5) / 200
    line = 0.5 + drop * (u - 0.5)
    ground = 1 / (1 + np.exp(-(v - line) * 60))
    grey = 0.25 + 0.4 * ground + tone * (u - 0.5)
    return opaque(np.repeat(grey[..., None], 3, axis=2))


def test_level_off_measures_drop_and_tone() -> None:
    found = drift_of(np.roll(leaning(0.04, 0.1), 300, axis=1)[:, 252:348], 200)
    assert float(found.drop[100]) == pytest.approx(0.04, abs=0.006)
    assert np.median(found.tone[:, 0]) == pytest.approx(0.09, abs=0.02)


@pytest.mark.parametrize("way", ["auto", "cut", "blend", "crossfade"])
@pytest.mark.parametrize(("drop", "tone"), [(0.04, 0.0), (0.0, 0.15), (-0.05, -0.1)])
def test_both_edges_meet(drop: float, tone: float, way: str) -> None:
    photo = OnePhoto(leaning(drop, tone))
    before = render(piece(), 600, photo)
    after = render(piece(("close-seam", {"method": way})), 600, photo)
    step = np.abs(after[:, 0, 0] - after[:, -1, 0])
    assert step.max() < 0.03
    assert step.max() < np.abs(before[:, 0, 0] - before[:, -1, 0]).max() / 3


def test_level_off_alone_brings_both_sides_nearer() -> None:
    """Heights and tones are led together, not apart, each side by half."""
    for drop, tone in ((0.05, 0.0), (0.0, 0.2)):
        photo = OnePhoto(leaning(drop, tone))
        apart = [np.abs(one[:, 0, 0] - one[:, -1, 0]).mean() for one in (
            render(piece(), 600, photo), render(piece(("close-seam", {"method": "none"})), 600, photo)
        )]  # fmt: skip
        assert apart[1] < 0.4 * apart[0]


@pytest.mark.parametrize("shape", [(1, 8), (8, 1), (1, 1), (2, 3)])
def test_a_join_of_next_to_nothing_is_closed(shape: tuple[int, int]) -> None:
    few = opaque(np.random.default_rng(1).random((*shape, 3), np.float32))
    with np.errstate(divide="raise", invalid="raise"):
        assert np.isfinite(render(piece(("close-seam", {})), 64, OnePhoto(few))).all()


def test_a_sky_is_levelled_over_a_quarter_of_the_width_and_what_stands_before_it_is_not() -> None:
    """From white to blue within a band the join of a sky would be a band of its own."""
    sky = opaque(np.linspace((0.9, 0.92, 0.95), (0.4, 0.6, 0.85), 600, dtype=np.float32)[None].repeat(300, axis=0).copy())
    sky[150:, :, :3] = np.random.default_rng(1).random((150, 600, 1), np.float32) * 0.5
    photo = OnePhoto(sky)
    after = render(piece(("close-seam", {"width": 0.05})), 600, photo)
    rolled = np.roll(after, 300, axis=1)[40:100, :, :3].mean(axis=0)
    assert np.abs(np.diff(rolled, axis=0)).max() < 0.006, "no column of the sky steps aside"
    assert np.array_equal(after[:, 151:449], render(piece(), 600, photo)[:, 151:449])
    # Below, where the edges are busy, only the band itself is touched.
    assert np.abs(after - sky)[200:, 60:540].max() < 0.004


@pytest.mark.parametrize("way", ["cut", "blend", "crossfade"])
@pytest.mark.parametrize("along", ["edges", "ray"])
def test_a_closed_seam_leaves_the_rest_to_the_bit(way: str, along: str) -> None:
    photo = OnePhoto(leaning(0.04, 0.1))
    settings = {"method": way, "width": 0.1, "along": along, "level_off": along == "ray"}
    before, after = render(piece(), 600, photo), render(piece(("close-seam", settings)), 600, photo)
    changed = np.abs(after - before).max(axis=2) > 0
    rows, cols = changed.shape
    far = np.ones_like(changed)
    if along == "edges":
        far[:, :60] = far[:, -60:] = False
    else:
        x, y = Frame(cols / rows).grid(rows, cols)
        far = np.abs((np.arctan2(x, -y) / (2 * np.pi)) % 1 - 0.5) > 0.1
    assert not changed[far].any()
    assert changed[~far].mean() > 0.3


def test_each_side_shows_nothing_but_itself() -> None:
    """No twin of an object that lies near an edge, and nothing half seen through: a cut has every pixel from one side."""
    grey = np.zeros((120, 600), np.float32) + 0.3
    grey[40:60, 30:45] = 1.0
    wide = render(
        piece(("close-seam", {"method": "cut", "width": 0.1, "level_off": False})), 600, OnePhoto(opaque(np.repeat(grey[..., None], 3, 2)))
    )
    assert np.abs(wide[:, 540:, 0] - 0.3).max() < 0.02
    assert wide[45:55, :60, 0].max() > 0.95


def test_the_cut_goes_where_it_is_pulled() -> None:
    left, right = np.full((90, 60, 3), 0.2, np.float32), np.full((90, 60, 3), 0.8, np.float32)
    first, second = (np.concatenate([side, np.ones((90, 60, 1), np.float32)], axis=2) for side in (left, right))
    pulled = least_path(first, second, ((0.5, 0.3),))
    assert abs(least_path(first, second)[45]) < 0.02
    assert pulled[45] == pytest.approx(0.3, abs=0.02)


def test_a_membrane_is_harmonic() -> None:
    """Half of the step at the join, nothing a band away, and in between the mean of its neighbours."""
    step = np.cumsum(np.random.default_rng(3).normal(0, 0.02, (64, 3)), axis=0).astype(np.float32)
    field = membrane(step, 24)
    assert np.allclose(field[:, 0], step / 2, atol=1e-5)
    inside = field[8:-8, 8:-1]
    mean = (field[7:-9, 8:-1] + field[9:-7, 8:-1] + field[8:-8, 7:-2] + field[8:-8, 9:]) / 4
    assert np.abs(inside - mean).max() < 2e-4
    assert np.abs(field[:, -1]).max() < np.abs(step).max() / 20


def test_what_is_seen_of_a_join_by_hand() -> None:
    """A ramp of nine steps of a tenth, whose ends meet with 0.9, of which an eye takes 0.35: against 0.1 and the hundredth that hides anywhere."""
    ramp = opaque(np.repeat(np.repeat(np.linspace(0, 0.9, 10, dtype=np.float32)[None], 4, 0)[..., None], 3, 2))
    found = measure_join(ramp, CloseSeamSettings(method="none", level_off=False, width=0.2))
    assert found["before"] == found["closing"].before == pytest.approx(0.35 / 0.11, abs=1e-3)


def sky_and_roof() -> np.ndarray:
    """One sky all over; at the right edge a dark roof with a sharp outline stands before its lower half."""
    rng = np.random.default_rng(4)
    photo = np.full((200, 600, 3), (0.5, 0.7, 0.9), np.float32) + 0.004 * rng.standard_normal((200, 600, 3)).astype(np.float32)
    photo[100:, 480:] = 0.15 + 0.02 * rng.standard_normal((100, 120, 3))
    return opaque(np.clip(photo, 0, 1).astype(np.float32))


@pytest.mark.parametrize("way", ["cut", "blend"])
def test_a_roof_that_meets_a_sky_is_cut_and_has_no_ghost(way: str) -> None:
    """Every pixel of a closed join is roof or sky; were their difference spread over the band, hundreds would lie between."""
    photo = OnePhoto(sky_and_roof())
    closed = render(piece(("close-seam", {"method": way, "width": 0.1})), 600, photo)
    rolled = np.roll(closed, 300, axis=1)[110:190, 200:400, 2]
    between = (rolled > 0.3) & (rolled < 0.8)
    assert between.sum() <= 3 * 80, "an outline, no more than three pixels a row"
    assert (rolled < 0.3).any(axis=1).all()
    assert (rolled > 0.8).any(axis=1).all()


def test_one_surface_in_another_light_is_levelled_not_cut() -> None:
    rng = np.random.default_rng(5)
    grain = 0.01 * rng.standard_normal((200, 600, 3)).astype(np.float32)
    photo = OnePhoto(opaque(np.clip(np.linspace(0.48, 0.52, 600, dtype=np.float32)[None, :, None] + grain, 0, 1)))
    for way in ("cut", "blend"):
        rolled = np.roll(render(piece(("close-seam", {"method": way, "width": 0.1, "level_off": False})), 600, photo), 300, axis=1)
        tones = rolled[:, 240:360, 0].mean(axis=0)
        assert np.abs(np.diff(tones)).max() < 0.006


def test_an_eye_finds_a_cut_along_an_outline_least_and_what_is_mixed_more() -> None:
    """And a way that mixes two things half and half is never taken unasked."""
    rng = np.random.default_rng(6)
    leaves = cv2.GaussianBlur(rng.standard_normal((200, 600)).astype(np.float32), (0, 0), 2) * 0.8 + 0.5
    leaves[80:, :300] *= 0.3
    photo = opaque(np.clip(np.repeat(leaves[..., None], 3, axis=2), 0, 1))
    found = {way: measure_join(photo, CloseSeamSettings(method=way))["closing"] for way in ("auto", "cut", "blend", "crossfade", "none")}  # type: ignore[arg-type]
    assert found["cut"].after < found["crossfade"].after < found["none"].after
    assert found["cut"].after < found["blend"].after < found["none"].after
    assert found["auto"].way in ("cut", "blend")
    assert found["auto"].after == min(found["cut"].after, found["blend"].after)


def test_an_unseen_join_is_left_alone() -> None:
    v, u = np.mgrid[0:200, 0:600].astype(np.float32)
    waves = 0.5 + 0.2 * np.cos(2 * np.pi * 5 * (u + 0.5) / 600) + 0.2 * np.cos(2 * np.pi * 9 * (u + 0.5) / 600) * v / 200
    photo = OnePhoto(opaque(np.repeat(waves[..., None], 3, axis=2)))
    joined = render(piece(("close-seam", {})), 600, photo)
    assert np.array_equal(joined, render(piece(), 600, photo))


@settings(max_examples=25, deadline=None)
@given(seed=st.integers(0, 10_000), left=st.floats(0, 0.4), width=st.floats(0.04, 0.3))
def test_no_step_is_left_whatever_the_photo(seed: int, left: float, width: float) -> None:
    """Rolled by half, what was the join is less visible than two usual steps, though what is unlike is cut and not levelled."""
    photo = OnePhoto(np.ascontiguousarray(detailed(240, 800, seed)[:, int(left * 800) : int(left * 800) + 420]))
    rolled = np.roll(render(piece(("close-seam", {"width": width})), 420, photo), 210, axis=1)
    assert visibility(rolled[:, 209, :3] - rolled[:, 210, :3], usual_steps(rolled)) < 2.0


def test_rim_takes_the_colour_that_lies_along_the_circle() -> None:
    photo = np.full((100, 100, 3), (0.2, 0.4, 0.8), np.float32)
    photo[45:55] = 1
    result = render(piece(("rim", {"radius": 0.7, "width": 0.1})), 100, OnePhoto(opaque(photo)))
    assert result[0, 0, :3] == pytest.approx((0.2, 0.4, 0.8), abs=0.01)
    assert result[50, 50, 0] > 0.99


def test_rim_into_a_colour_or_into_nothing() -> None:
    photo = OnePhoto(smooth())
    coral = render(piece(("rim", {"radius": 0.5, "width": 0.2, "colour": "#ff8000"})), 200, photo)
    assert coral[50, 0, :3] == pytest.approx((1, 128 / 255, 0), abs=0.005)
    clear = render(piece(("rim", {"radius": 0.5, "width": 0.0, "into": "nothing"})), 200, photo)
    assert clear[50, 0].max() == 0
    assert clear[50, 100, 3] == 1


def test_tone_by_hand() -> None:
    codes = np.array([[0.0, 0.2, 0.5, 0.8, 1.0]], np.float32)
    photo = OnePhoto(opaque(np.repeat(np.repeat(codes, 2, axis=0)[..., None], 3, axis=2)))

    def result(**settings: float) -> list[float]:
        return [round(float(v), 3) for v in render(piece(("tone", settings)), 5, photo)[0, :, 0]]

    assert result(black=0.2, white=0.8) == pytest.approx([0, 0, 0.5, 1, 1], abs=0.002)
    assert result(gamma=2) == pytest.approx([0, 0.447, 0.707, 0.894, 1], abs=0.002)
    assert result(brightness=0.1) == pytest.approx([0.1, 0.3, 0.6, 0.9, 1], abs=0.002)
    assert result(contrast=-0.5) == pytest.approx([0.25, 0.35, 0.5, 0.65, 0.75], abs=0.002)
    assert result(contrast=0.5) == pytest.approx([0, 0, 0.5, 1, 1], abs=0.002)
