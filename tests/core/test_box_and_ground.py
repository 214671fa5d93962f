"""What of a piece is delivered, layers of one link, and steps that look at what lies under their layer."""

from __future__ import annotations

import json
from typing import Any

import numpy as np
import pytest

from caracol.core.arrays import Array
from caracol.core.errors import PieceError
from caracol.core.geometry.frame import Frame
from caracol.core.kinds.kind import Beneath
from caracol.core.piece.files import check_piece
from caracol.core.piece.model import Piece
from caracol.core.pixels.pyramid import Pyramid, pyramid_of
from caracol.core.render import Context, Renderer, render
from caracol.core.render.analyses import step_analysis_of
from tests.pictures import OnePhoto, detailed, opaque, piece, psnr

LUMA = np.array([0.2126, 0.7152, 0.0722])


def boxed(box: dict[str, Any], *steps: Any) -> Piece:
    data = piece(*steps).model_dump(mode="json")
    return check_piece({**data, "frame": {"ratio": None, "box": box}})


def test_a_box_delivers_what_lies_in_it() -> None:
    photo = OnePhoto(detailed(200, 400))
    whole = render(piece(), 400, photo)
    # The right half's middle: from 0 to 2 across, from -1 to 1 down, is a square of 200 pixels.
    part = render(boxed({"x": 1, "y": 0, "rx": 1, "ry": 1}), 200, photo)
    assert part.shape == (200, 200, 4)
    assert psnr(part, whole[:, 200:]) > 45
    smaller = render(boxed({"x": 0.5, "y": 0.25, "rx": 0.5, "ry": 0.25}), 100, photo)
    assert psnr(smaller, whole[100:150, 200:300]) > 42


def test_a_turned_box_turns_what_is_in_it_the_other_way() -> None:
    photo = OnePhoto(detailed(200, 200))
    whole = render(piece(), 200, photo)
    turned = render(boxed({"rx": 1, "ry": 1, "turn": 0.25}), 200, photo)
    assert psnr(turned, np.rot90(whole, 1)) > 40
    # What lies beyond the piece is nothing.
    assert render(boxed({"rx": 1.5, "ry": 1.5}), 150, photo)[:20, :, 3].max() == 0


def test_a_box_counts_for_the_finished_piece_alone() -> None:
    photo = OnePhoto(detailed(100, 200))
    trail = boxed({"rx": 0.5, "ry": 0.5}, ("twirl", {}))
    assert Renderer(trail, Context(photo)).frame.ratio == 1
    assert Renderer(trail, Context(photo), upto=1).frame.ratio == 2
    rows = Renderer(trail, Context(photo)).rows(64)
    assert rows[0] == (64, 64)


@pytest.mark.parametrize("box", [{"rx": 2, "ry": 0.02}, {"rx": 0}, {"turn": 3}, {"width": 1}])
def test_boxes_that_are_none_are_refused(box: dict[str, Any]) -> None:
    with pytest.raises(PieceError, match=r"frame\.box"):
        boxed(box)


def test_a_link_changes_no_picture() -> None:
    photo = OnePhoto(detailed(60, 120))
    data = piece(("twirl", {})).model_dump(mode="json")
    linked = {**data, "layers": [{**data["layers"][0], "link": "a"}]}
    assert Renderer(check_piece(linked), Context(photo)).digest == Renderer(check_piece(data), Context(photo)).digest


class Photos:
    """A figure on nothing, and a ground that is dark blue at the left and light amber at the right."""

    def __init__(self) -> None:
        figure = np.zeros((120, 80, 4), np.float32)
        figure[20:110, 25:55] = (0.55, 0.5, 0.5, 1)
        figure[20:110:6, 25:55, :3] *= 0.8
        ground = opaque(np.zeros((200, 400, 3), np.float32))
        across = np.linspace(0, 1, 400, dtype=np.float32)[None, :, None]
        ground[..., :3] = np.array([0.05, 0.1, 0.3]) + across * np.array([0.9, 0.65, 0.2], np.float32)
        self._pyramids = {"figure.png": pyramid_of(figure), "ground.png": pyramid_of(ground)}

    def pyramid(self, name: str) -> Pyramid:
        return self._pyramids[name]

    def digest(self, name: str) -> str:
        return name


def scene(x: float, settings: dict[str, Any] | None, **place: Any) -> Piece:
    steps = [] if settings is None else [{"id": "b", "kind": "belong", "settings": settings}]
    spot = {"x": x, "y": 0.2, "scale": 0.6, "turn": 0, "flip": False, **place}
    return check_piece(
        {"caracol": 1, "layers": [
            {"id": "land", "source": {"kind": "photo", "photo": "ground.png"}},
            {"id": "bird", "source": {"kind": "cut-out", "photo": "figure.png", "fit": "contain"}, "place": spot, "steps": steps},
        ]}
    )  # fmt: skip


def seen(trail: Piece) -> tuple[Array, Array]:
    """Return the figure's mean colour in the finished piece, and where it is seen."""
    alone = render(trail, 400, Photos(), layer="bird")
    return alone[..., :3].sum(axis=(0, 1)) / alone[..., 3].sum(), alone


ONLY_TONE = {"tone": 1, "colour": 0, "contrast": 0, "shade": 0}
ONLY_COLOUR = {"tone": 0, "colour": 1, "contrast": 0, "shade": 0}


def test_a_figure_takes_the_tone_of_the_ground_at_its_feet() -> None:
    before = seen(scene(-1.6, None))[0]
    dark, light = seen(scene(-1.6, ONLY_TONE))[0], seen(scene(1.7, ONLY_TONE))[0]
    assert dark @ LUMA < 0.7 * (before @ LUMA) < before @ LUMA < light @ LUMA
    half = seen(scene(-1.6, {**ONLY_TONE, "tone": 0.5}))[0]
    assert dark @ LUMA < half @ LUMA < before @ LUMA
    told = step_analysis_of(scene(-1.6, ONLY_TONE), Context(Photos()), "bird", "b")
    assert told["ground"] < "#40"
    # The scene is lightest at its right: light comes from there, whichever way the figure looks.
    assert told["light"] == pytest.approx(0.25, abs=0.04)
    assert step_analysis_of(scene(-1.6, ONLY_TONE, flip=True), Context(Photos()), "bird", "b")["light"] == pytest.approx(0.75, abs=0.04)


def test_a_figure_takes_the_colour_of_the_ground_and_keeps_its_own_light_or_not() -> None:
    blue, amber = seen(scene(-1.6, ONLY_COLOUR))[0], seen(scene(1.7, ONLY_COLOUR))[0]
    before = seen(scene(-1.6, None))[0]
    assert blue[2] - blue[0] > before[2] - before[0] + 0.015
    assert amber[0] - amber[2] > before[0] - before[2] + 0.1
    chosen = seen(scene(-1.6, {**ONLY_COLOUR, "ground": "#c02020"}))[0]
    assert chosen[0] > chosen[2] + 0.2


class Water(Photos):
    """A white figure with a black hem on blue water, over which white clouds stand in white light; or all of it in amber light."""

    def __init__(self, amber: bool = False) -> None:
        super().__init__()
        figure = np.zeros((120, 80, 4), np.float32)
        figure[20:110, 25:55] = (0.92, 0.92, 0.92, 1)
        figure[80:110, 25:55] = (0.01, 0.01, 0.01, 1)
        ground = opaque(np.full((200, 400, 3), (0.1, 0.45, 0.6), np.float32))
        ground[20:60, 40:360, :3] = 0.95
        if amber:
            ground[..., :3] *= np.float32([1, 0.85, 0.6])
        self._pyramids = {"figure.png": pyramid_of(figure), "ground.png": pyramid_of(ground)}

    def digest(self, name: str) -> str:
        return f"{name} {self._pyramids[name].rows} {self._pyramids[name].picture(64).sum()}"


def on_water(settings: dict[str, Any] | None, amber: bool = False) -> tuple[Array, Array]:
    """Return the mean colours of the figure's white and of its hem in the finished piece."""
    alone = render(scene(0.0, settings), 400, Water(amber), layer="bird")
    rows = np.flatnonzero((alone[..., 3] > 0.99).any(axis=1))
    white, hem = (alone[part][..., :3].sum(axis=(0, 1)) / alone[part][..., 3].sum() for part in (rows[2:20], rows[-10:-2]))
    return white, hem


def test_light_gives_its_colour_and_not_the_ground_its_own() -> None:
    """White on blue water stays white where light is white, and takes amber light; left as it begins, it keeps most of its contrast, and black stays black."""
    white, _ = on_water({**ONLY_COLOUR})
    assert np.ptp(white) < 0.05
    white, _ = on_water({**ONLY_COLOUR}, amber=True)
    assert white[0] - white[2] > 0.15
    before, hem = on_water(None)
    white, black = on_water({})
    water = np.array([0.1, 0.45, 0.6])
    assert (white - water) @ LUMA > 0.6 * ((before - water) @ LUMA)
    assert np.abs(black - hem).max() < 0.03
    assert np.abs(on_water({"tone": 0, "colour": 0, "contrast": 1, "shade": 0})[1] - hem).max() < 0.05


def test_the_side_away_from_the_light_is_darker() -> None:
    alone = seen(scene(-1.6, {"tone": 0, "colour": 0, "contrast": 0, "shade": 1}))[1]
    row = alone[alone.shape[0] // 2]
    inside = np.flatnonzero(row[:, 3] > 0.9)
    assert row[inside[3], 0] < 0.8 * row[inside[-4], 0]
    other = seen(scene(-1.6, {"tone": 0, "colour": 0, "contrast": 0, "shade": 1, "light": 0.75}))[1]
    row = other[other.shape[0] // 2]
    assert row[inside[3], 0] > row[inside[-4], 0]


def test_what_lies_under_a_figure_is_part_of_its_key() -> None:
    """Moved over other ground, turned, or with another ground below, it is what it would be without anything kept."""
    context = Context(Photos())
    before = scene(-1.6, ONLY_TONE).model_dump(mode="json")
    first = Renderer(check_piece(before), context).picture(300)
    moved = json.loads(json.dumps(before))
    moved["layers"][1]["place"]["x"] = 1.7
    lighter = json.loads(json.dumps(before))
    lighter["layers"][0]["steps"] = [{"id": "t", "kind": "tone", "settings": {"gamma": 3}}]
    for data in (moved, lighter):
        warm = Renderer(check_piece(data), context).picture(300)
        assert np.array_equal(warm, Renderer(check_piece(data), Context(Photos())).picture(300))
        assert not np.array_equal(warm, first)


def test_a_figure_belongs_as_it_is_after_the_steps_before() -> None:
    """What is measured is the step's own input, however many steps could be done in one pass with it."""
    before = scene(-1.6, ONLY_TONE).model_dump(mode="json")
    own = before["layers"][1]["steps"][0]
    alone = seen(check_piece(before))[0] @ LUMA
    darker = {"id": "d", "kind": "tone", "settings": {"gamma": 0.5}}
    before["layers"][1]["steps"] = [darker, own]
    # Darkened first, it is led to the same ground.
    assert seen(check_piece(before))[0] @ LUMA == pytest.approx(alone, rel=0.12)
    before["layers"][1]["steps"] = [own, darker]
    assert seen(check_piece(before))[0] @ LUMA < 0.8 * alone


def test_the_same_figure_twice_belongs_where_each_stands() -> None:
    both = scene(-1.6, ONLY_TONE).model_dump(mode="json")
    other = json.loads(json.dumps(both["layers"][1]))
    both["layers"].append({**other, "id": "second", "place": {**other["place"], "x": 1.7}})
    right = scene(1.7, ONLY_TONE)
    together, alone = render(check_piece(both), 400, Photos()), render(right, 400, Photos())
    assert psnr(together[:, 250:], alone[:, 250:]) > 45


def test_belong_on_the_lowest_layer_does_nothing() -> None:
    photo = OnePhoto(detailed(60, 120))
    assert np.array_equal(render(piece(("belong", {})), 120, photo), render(piece(), 120, photo))


def test_points_and_ways_between_layer_and_piece() -> None:
    beneath = Beneath(np.zeros((4, 4, 4), np.float32), Frame(1.0), x=0.5, y=-0.5, scale=2, turn=0.25, flip=True)
    # Flipped, doubled, a quarter clockwise, moved.
    assert beneath.on_piece(0.1, 0.2) == pytest.approx((0.5 - 0.4, -0.5 - 0.2))
    assert beneath.way_in_layer(0, -1) == pytest.approx((1, 0), abs=1e-9)
