"""Where words lie is told from their outline: what is told is held against the ink that is drawn."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from caracol.core.piece.files import check_piece
from caracol.core.piece.model import Piece, Place
from caracol.core.render import Context, render
from caracol.core.render.analyses import text_boxes_of
from tests.pictures import OnePhoto, detailed

PHOTO = OnePhoto(detailed(64, 128))
CONTEXT = Context(PHOTO)
PLACES: list[tuple[dict[str, Any], dict[str, Any], list[str]]] = [
    ({"size": 0.3}, {}, []),
    ({"size": 0.3, "x": 1.2}, {}, ["right"]),
    ({"size": 0.3, "y": -0.85}, {}, ["top"]),
    ({"size": 0.7, "spacing": 0.4}, {}, ["left", "right"]),
    ({"size": 0.2, "turn": 0.2, "x": -1.4}, {}, ["left"]),
    ({"size": 0.3}, {"y": 0.8}, ["bottom"]),
    ({"size": 0.3, "x": 0.6}, {"flip": True, "x": -0.6}, ["left"]),
    ({"size": 0.22, "round": 0.7, "turn": 0.1}, {}, []),
    ({"size": 0.22, "round": -0.8, "y": -0.4}, {}, []),
    ({"size": 0.22, "round": -0.8, "y": 0.4}, {}, ["bottom"]),
    ({"size": 0.1, "round": 0.9}, {}, ["top"]),
]


def lettered(source: dict[str, Any], place: dict[str, Any], steps: list[dict[str, Any]] | None = None, ratio: float = 1.5) -> Piece:
    ground = {"id": "ground", "source": {"kind": "fill", "form": "plain", "first": "#000000", "ratio": ratio}, "steps": []}
    source = {"kind": "lettering", "text": "Low tide\nHigh", "ratio": 1.5, "colour": "#ffffff"} | source
    words = {"id": "words", "source": source, "steps": steps or [], "place": {**Place().model_dump(), **place}}
    return check_piece({"caracol": 3, "layers": [ground, words]})


@pytest.mark.parametrize(("source", "place", "past"), PLACES)
def test_the_box_is_that_of_the_ink_and_sides_are_named_where_ink_is_lost(
    source: dict[str, Any], place: dict[str, Any], past: list[str]
) -> None:
    piece = lettered(source, place)
    (told,) = text_boxes_of(piece, CONTEXT)
    ink = render(piece, 900, PHOTO)[..., 0] > 0.5
    edges = {"left": ink[:, 0], "top": ink[0], "right": ink[:, -1], "bottom": ink[-1]}
    assert list(told.past) == past == [side for side, line in edges.items() if line.any()]
    rows, cols = (np.flatnonzero(ink.any(axis=axis)) for axis in (1, 0))
    seen = np.array([cols[0], rows[0], cols[-1] + 1, rows[-1] + 1]) / 300 - [1.5, 1, 1.5, 1]
    whole = [side not in past for side in ("left", "top", "right", "bottom")]
    assert np.abs(np.array(told.box) - seen)[whole].max() < 0.02


@pytest.mark.parametrize(("source", "place"), [(s, p) for s, p, past in PLACES if past])
def test_words_made_to_fit_do(source: dict[str, Any], place: dict[str, Any]) -> None:
    """The size that is offered fits, and twice that would not, where any does."""
    (told,) = text_boxes_of(lettered(source, place), CONTEXT)
    if told.fitting is None:
        return
    fitted, larger = (text_boxes_of(lettered(source | {"size": told.fitting * more}, place), CONTEXT)[0] for more in (1, 2))
    assert fitted.past == ()
    assert larger.past != ()


def test_what_covers_a_narrower_piece_is_measured_against_the_piece() -> None:
    """A layer of 3:2 on a piece of 1:2 shows its middle third."""
    assert text_boxes_of(lettered({"size": 0.3}, {}), CONTEXT)[0].past == ()
    assert text_boxes_of(lettered({"size": 0.3}, {}, ratio=0.5), CONTEXT)[0].past == ("left", "right")


def test_words_longer_than_their_circle_are_told_and_made_to_fit() -> None:
    """A turn of the circle holds so much and no more."""
    (told,) = text_boxes_of(lettered({"text": "From tide to tide and back", "size": 0.2, "round": 0.35}, {}), CONTEXT)
    assert told.past == ("circle",)
    assert told.fitting is not None
    (fitted,) = text_boxes_of(lettered({"text": "From tide to tide and back", "size": told.fitting, "round": 0.35}, {}), CONTEXT)
    assert fitted.past == ()


def test_behind_a_bend_only_their_own_frame_counts() -> None:
    """Where a bend takes them is not followed."""
    bend = [{"id": "w", "kind": "twirl", "settings": {}}]
    assert text_boxes_of(lettered({"size": 0.3}, {"y": 1.0}, bend), CONTEXT)[0].past == ()
    assert text_boxes_of(lettered({"size": 0.3, "y": 1.0}, {}, bend), CONTEXT)[0].past == ("bottom",)


def test_blank_and_hidden_words_are_not_told() -> None:
    """There is nothing to see of them."""
    assert text_boxes_of(lettered({"text": " \n "}, {}), CONTEXT) == []
    piece = lettered({}, {})
    hidden = piece.model_copy(update={"layers": (piece.layers[0], piece.layers[1].model_copy(update={"visible": False}))})
    assert text_boxes_of(hidden, CONTEXT) == []
