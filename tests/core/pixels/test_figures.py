"""Figures found in a box, cut out with a soft edge, without the colour of what was behind."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from caracol.core.errors import PictureError
from caracol.core.geometry.frame import Frame
from caracol.core.piece.cutting import Cut, Search, bounds_of, cut_out, doubtful_of, look_for
from caracol.core.pixels.figures import cut_figure, haired, unfringed
from caracol.core.pixels.finding import _heard, _View, propose_outline
from caracol.core.pixels.pyramid import Pyramid, pyramid_of
from tests.pictures import detailed, opaque

GREEN, RED = np.array([0.25, 0.45, 0.2], np.float32), np.array([0.7, 0.25, 0.2], np.float32)


def scene(stalk: bool = False) -> tuple[np.ndarray, np.ndarray]:
    """A reddish bird of an ellipse with a hole, among greens; and where it is. With a thin stalk for a leg."""
    rng = np.random.default_rng(3)
    rows, cols = 240, 360
    texture = cv2.GaussianBlur(rng.random((rows, cols)).astype(np.float32), (0, 0), 2)[..., None] - 0.5
    mask = np.zeros((rows, cols), np.uint8)
    cv2.ellipse(mask, (170, 100), (70, 48), 0, 0, 360, 1, -1)
    cv2.ellipse(mask, (180, 95), (16, 12), 0, 0, 360, 0, -1)
    if stalk:
        cv2.line(mask, (165, 140), (160, 215), 1, 5)
    picture = np.where(mask[..., None] > 0, RED, GREEN) + texture * 0.5
    return opaque(np.clip(cv2.GaussianBlur(picture.astype(np.float32), (0, 0), 0.8), 0, 1)), mask


def overlap(outline: np.ndarray, mask: np.ndarray) -> float:
    return float((outline & mask).sum() / (outline | mask).sum())


def filled(pyramid: Pyramid, search: Search) -> np.ndarray:
    found = look_for(pyramid, search, feather=0)
    return (found.mask(pyramid.frame, pyramid.rows, pyramid.cols) > 0.5).astype(np.uint8)


BOX = (-0.95, -0.75, 0.7, 0.35)


def test_a_figure_is_found_in_a_rough_box() -> None:
    picture, mask = scene()
    outlines, holes = propose_outline(picture, Frame(1.5), BOX)
    assert (len(outlines), len(holes)) == (1, 0)
    assert overlap(filled(pyramid_of(picture), Search(box=BOX)), mask) > 0.9
    # Whichever corner the box was begun at.
    assert overlap(filled(pyramid_of(picture), Search(box=(0.7, 0.35, -0.95, -0.75))), mask) > 0.9
    # What is seen through it is taken away by a stroke, whole.
    through = {"points": ((0.0, -0.21),), "radius": 0.06, "add": False}
    assert overlap(filled(pyramid_of(picture), Search.model_validate({"box": BOX, "hints": [through]})), mask) > 0.95


def test_strokes_lead_the_search_and_are_heard_near_them_alone() -> None:
    picture, mask = scene(stalk=True)
    pyramid = pyramid_of(picture)
    box = (-0.95, -0.75, 0.7, 0.95)
    leg = {"points": ((-0.12, 0.25), (-0.165, 0.75)), "radius": 0.015}
    added = filled(pyramid, Search.model_validate({"box": box, "hints": [leg]}))
    assert overlap(added[150:210, 140:190], mask[150:210, 140:190]) > 0.6
    # Taking away a part of the body leaves the rest of it.
    off = {"points": ((-0.6, -0.15),), "radius": 0.08, "add": False}
    less = filled(pyramid, Search.model_validate({"box": box, "hints": [leg, off]}))
    assert less[102, 108] == 0
    assert overlap(less[60:140, 150:240], mask[60:140, 150:240]) > 0.85


def test_a_stroke_brings_nothing_along_from_afar() -> None:
    """Legs in a pond as blue as they are: strokes over them make no figure of the pond, nor of what lies between them."""
    picture, _ = scene()
    picture[150:225, :, :3] = np.array([0.2, 0.3, 0.6], np.float32) + (picture[150:225, :, :3] - GREEN) * 0.15
    legs = [{"points": ((x, 0.3), (x, 0.8)), "radius": 0.012} for x in (-0.125, 0.125)]
    found = filled(pyramid_of(picture), Search.model_validate({"box": (-1.2, -0.75, 1.2, 0.95), "hints": legs}))
    assert found[180, 165] == found[180, 195] == 1
    assert found[165:205, 174:186].max() == 0
    assert found[150:].sum() < 2500


def somebody() -> tuple[np.ndarray, np.ndarray]:
    """A head over a suit as dark as one half of the wall behind it; the suit ends with the picture."""
    rng = np.random.default_rng(9)
    rows, cols = 300, 240
    wall = np.where(np.arange(cols)[None, :, None] < 90, 0.2, 0.55) * np.array([1, 1, 1.15]) * np.ones((rows, cols, 1))
    head, suit = np.zeros((rows, cols), np.uint8), np.zeros((rows, cols), np.uint8)
    cv2.ellipse(head, (125, 80), (38, 50), 0, 0, 360, 1, -1)
    cv2.ellipse(suit, (125, 300), (100, 170), 0, 180, 360, 1, -1)
    picture = np.where(suit[..., None] > 0, np.array([0.19, 0.19, 0.22]), wall)
    picture = np.where(head[..., None] > 0, np.array([0.8, 0.62, 0.5]), picture)
    picture += 0.06 * cv2.GaussianBlur(rng.standard_normal((rows, cols)), (0, 0), 1)[..., None]
    return opaque(np.clip(cv2.GaussianBlur(picture.astype(np.float32), (0, 0), 0.8), 0, 1)), head | suit


def test_the_whole_of_somebody_is_found_not_the_brightest_part() -> None:
    """The figure that fills its box is the right one: a head alone, 0.18 of this one, would stop short of the sides."""
    picture, mask = somebody()
    assert overlap(filled(pyramid_of(picture), Search(box=(-0.9, -1.1, 0.95, 1.25))), mask) > 0.88


def test_a_plain_figure_on_a_pattern_of_its_own_colours_is_found() -> None:
    """Tiles of three greys, and before them a plain figure of the middle one: by colour there is nothing to tell."""
    rng = np.random.default_rng(3)
    tiles = np.kron(rng.choice([0.35, 0.55, 0.75], size=(31, 46)), np.ones((8, 8)))[:240, :360]
    mask = np.zeros((240, 360), np.uint8)
    cv2.ellipse(mask, (180, 120), (80, 60), 0, 0, 360, 1, -1)
    picture = np.where(mask > 0, 0.55, tiles)[..., None].repeat(3, axis=2) + 0.01 * rng.standard_normal((240, 360, 1))
    soft = cv2.GaussianBlur(picture.astype(np.float32), (0, 0), 0.7)
    assert overlap(filled(pyramid_of(opaque(np.clip(soft, 0, 1))), Search(box=(-0.8, -0.6, 0.8, 0.6))), mask) > 0.85


def test_a_stroke_brings_what_is_like_what_it_lies_on() -> None:
    """A wide stroke along a thin leg in rippled water: a few pixels of water beside it come along, and not all that is near."""
    rng = np.random.default_rng(3)
    ripples = cv2.GaussianBlur(rng.standard_normal((240, 360)).astype(np.float32), (0, 0), 9, sigmaY=2)
    body, leg = np.zeros((240, 360), np.uint8), np.zeros((240, 360), np.uint8)
    cv2.ellipse(body, (180, 80), (70, 40), 0, 0, 360, 1, -1)
    for x in (165, 195):
        cv2.line(leg, (x, 115), (x - 3, 215), 1, 6)
    picture = np.where(leg[..., None] > 0, np.float32([0.1, 0.09, 0.08]), np.float32([0.12, 0.3, 0.32]) + 0.72 * ripples[..., None])
    picture = cv2.GaussianBlur(np.where(body[..., None] > 0, np.float32([0.75, 0.7, 0.65]), picture), (0, 0), 0.7)
    stroke = {"points": ((-0.125, 0.0), (-0.15, 0.78)), "radius": 0.04}
    found = filled(pyramid_of(opaque(np.clip(picture, 0, 1))), Search.model_validate({"box": (-0.65, -0.4, 0.65, 0.85), "hints": [stroke]}))
    below = np.s_[140:205, 140:220]
    assert (found[below] & leg[below]).sum() > 800
    assert (found[below] & (1 - leg[below])).sum() < 600


def test_each_stroke_changes_only_its_own_way() -> None:
    """What was found anew has less on the left and more on the right of a stroke that adds: only the right counts, and the other way round."""
    view = _View(np.full((40, 60, 3), 128, np.uint8), np.ones((40, 60), bool), (0, 0, 60, 40), (20.0, 20.0))
    rough, found = np.zeros((40, 60), np.float32), np.zeros((40, 60), np.float32)
    rough[10:30, 10:30], found[10:30, 30:50] = 1, 1
    place = (0.0, 0.0, 3.0, 2.0)
    more = _heard(rough, found, [(((1.5, 0.6), (1.5, 1.4)), 0.1, True)], view, place)
    less = _heard(rough, found, [(((1.5, 0.6), (1.5, 1.4)), 0.1, False)], view, place)
    assert (more >= rough).all()
    assert (less <= rough).all()
    assert more.sum() > rough.sum() > less.sum()


def test_where_a_figure_stops_short_of_its_box_is_told() -> None:
    picture, _ = scene(stalk=True)
    pyramid = pyramid_of(picture)
    snug, low = Search(box=(-0.72, -0.62, 0.55, 0.3)), Search(box=(-0.72, -0.62, 0.55, 0.98))
    assert doubtful_of(look_for(pyramid, snug), snug, pyramid.frame) == []
    body = look_for(pyramid, snug)
    [(left, top, right, bottom)] = doubtful_of(body, low, pyramid.frame)
    assert (left, right, bottom) == (-0.72, 0.55, 0.98)
    assert 0.2 < top < 0.4
    # A side that the picture cuts is none.
    below = Search(box=(-0.72, -0.62, 0.55, 3.0))
    assert doubtful_of(body, below, pyramid.frame)[0][3] == 1.0


def test_strokes_change_only_their_own_way() -> None:
    """A stroke that adds takes nothing away, and the other way round."""
    picture, _ = scene(stalk=True)
    pyramid, box = pyramid_of(picture), (-0.95, -0.75, 0.7, 0.95)
    rough = filled(pyramid, Search(box=box))
    add = {"points": ((-0.12, 0.25), (-0.165, 0.75)), "radius": 0.03}
    more = filled(pyramid, Search.model_validate({"box": box, "hints": [add]}))
    less = filled(pyramid, Search.model_validate({"box": box, "hints": [{"points": ((-0.6, -0.15),), "radius": 0.08, "add": False}]}))
    edge = cv2.dilate(rough, np.ones((5, 5), np.uint8)) - cv2.erode(rough, np.ones((5, 5), np.uint8))
    edge[150:] = 1  # the stalk, of which a part by itself may be too small to count
    assert not ((more < rough) & (edge == 0)).any()
    assert not ((less > rough) & (edge == 0)).any()
    assert (more > rough).any()
    assert (less < rough).any()


@pytest.mark.parametrize("size", [5, 6, 8, 11])
def test_a_box_of_a_few_pixels_is_looked_in_as_well(size: int) -> None:
    """Of so few there may be too little to learn from; it is then no figure, and no fault."""
    picture = np.full((40, 60, 3), 0.4, np.float32)
    picture[20 - size // 4 : 20 + size // 4 + 1, 28:33] = 0.9
    half = size / 40
    outlines, _ = propose_outline(opaque(picture), Frame(1.5), (-half, -half, half, half), [(((0.0, 0.0),), 0.01, True)])
    assert all(len(line) >= 3 for line in outlines)


def test_where_nothing_stands_out_that_is_said() -> None:
    flat = pyramid_of(opaque(np.full((80, 120, 3), 0.4, np.float32)))
    with pytest.raises(PictureError, match="Nothing in this box"):
        look_for(flat, Search(box=(0.1, 0.1, 0.101, 0.101)))
    with pytest.raises(PictureError, match="outline holds nothing"):
        bounds_of(Cut.model_validate({"photo": "a", "outline": {"shapes": []}}), Frame(1.5))


def disc(rows: int, cols: int, radius: float, soft: float) -> np.ndarray:
    y, x = np.mgrid[:rows, :cols]
    return np.clip((radius - np.hypot(x - cols / 2, y - rows / 2)) / soft + 0.5, 0, 1).astype(np.float32)


def test_what_shines_in_from_behind_is_taken_away() -> None:
    true = disc(120, 120, 40, 6)
    picture = RED * true[..., None] + np.array([0.1, 0.9, 0.1], np.float32) * (1 - true[..., None])
    edge = (true > 0.2) & (true < 0.8)
    assert np.abs(unfringed(picture, true, 1, 4)[edge] - RED).max() < 0.12
    assert np.abs(picture[edge] - RED).max() > 0.3
    assert np.array_equal(unfringed(picture, true, 0, 4), picture)
    half = unfringed(picture, true, 0.5, 4)
    assert 0.1 < np.abs(half[edge] - RED).max() < np.abs(picture[edge] - RED).max()
    # The middle keeps its own.
    assert np.array_equal(unfringed(picture, true, 1, 4)[60, 60], picture[60, 60])


def test_hair_is_followed_within_its_reach() -> None:
    true = disc(120, 120, 30, 1)
    for k in range(12):
        at = (int(60 + 44 * np.cos(k)), int(60 + 44 * np.sin(k)))
        cv2.line(true, (60, 60), at, 1.0, 1, cv2.LINE_AA)
    picture = RED * true[..., None] + GREEN * (1 - true[..., None])
    rough = disc(120, 120, 32, 2)
    led = haired(picture, rough, 14)
    ring = np.abs(np.hypot(*np.mgrid[-60:60, -60:60]) - 40) < 3
    assert np.abs(led - true)[ring].mean() < 0.5 * np.abs(rough - true)[ring].mean()
    assert np.array_equal(haired(picture, rough, 0.5), rough)
    assert led[2, 2] == 0
    assert led[60, 60] == 1


def test_a_cut_out_has_room_and_nothing_of_its_photo() -> None:
    picture, mask = scene()
    pyramid = pyramid_of(picture)
    search = Search(box=BOX)
    cut = Cut(photo="p", outline=look_for(pyramid, search), search=search)
    left, top, right, bottom = bounds_of(cut, pyramid.frame)
    figure = cut_out(pyramid, cut)
    high, wide = figure.shape[:2]
    assert wide / high == pytest.approx((right - left) / (bottom - top), rel=0.02)
    alpha = figure[..., 3]
    assert alpha[: high // 8].max() == alpha[:, : wide // 10].max() == 0
    assert abs(alpha.sum() - float(mask.sum())) < 0.1 * mask.sum()
    assert (figure[..., :3] <= figure[..., 3:] + 1e-6).all()
    shown = figure[alpha > 0.9]
    assert shown[:, 0].mean() > shown[:, 1].mean() + 0.3
    # No larger than it is asked for, and never larger than the photo.
    assert max(cut_out(pyramid, cut, 100).shape[:2]) == 100
    again = Cut.model_validate(cut.model_dump(mode="json"))
    assert np.array_equal(cut_out(pyramid, again), figure)


def test_a_transparent_photo_stays_so() -> None:
    picture = opaque(np.full((20, 20, 3), 0.5, np.float32)) * np.float32(0.5)
    figure = cut_figure(picture, np.ones((20, 20), np.float32), 0, 1, 2)
    assert figure[10, 10] == pytest.approx([0.25, 0.25, 0.25, 0.5])


@pytest.mark.parametrize("is_figure", [True, False])
def test_strokes_over_all_of_the_box_say_what_all_of_it_is(is_figure: bool) -> None:
    """There was nothing left to learn from, and the search ended in a fault."""
    picture = detailed(60, 90)
    outlines, _ = propose_outline(picture, Frame(1.5), (-0.9, -0.6, 0.9, 0.6), [(((-1.5, 0.0), (1.5, 0.0)), 2.0, is_figure)])
    assert bool(outlines) == is_figure


@pytest.mark.parametrize("box", [(2.0, -0.5, 3.0, 0.5), (-3.0, -0.5, -1.5, 0.5), (-0.5, 1.0, 0.5, 2.0), (-0.5, -3.0, 0.5, -1.0)])
def test_beside_the_picture_there_is_no_figure(box: tuple[float, float, float, float]) -> None:
    assert propose_outline(detailed(60, 90), Frame(1.5), box) == ([], [])
