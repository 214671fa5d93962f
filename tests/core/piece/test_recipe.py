"""Recipes: kept from a piece, with dials and slots; filled again with photos."""

from __future__ import annotations

import json
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from caracol.core.errors import PieceError
from caracol.core.piece.files import check_piece, dump_piece
from caracol.core.piece.fit import fit_of
from caracol.core.piece.recipe import check_recipe, dump_recipe, filled, kept, with_one_photo
from caracol.core.reading.reading import Reading
from tests.documents import documents

TURN = {"name": "Turn", "settings": [["land", "t", "turns"]], "low": 0, "high": 1, "value": 0.2}


def photo(name: str, **more: Any) -> dict[str, Any]:
    return {"kind": "photo", "photo": name, **more}


def two_layers() -> Any:
    steps = [{"id": "t", "kind": "twirl", "settings": {"turns": 0.2}}, {"id": "k", "kind": "kaleidoscope", "settings": {"sectors": 5}}]
    return check_piece(
        {
            "caracol": 1,
            "layers": [
                {"id": "land", "name": "Land", "source": photo("marsh.jpg"), "steps": steps},
                {"id": "fig", "name": "Figure", "source": photo("heron.png", fit="contain"), "place": {"x": 0.3}, "opacity": 0.5},
            ],
        }
    )


def test_a_kept_piece_filled_with_its_photos_is_the_piece() -> None:
    piece = two_layers()
    recipe = kept(piece, "World", [TURN], ["night"])
    assert [(slot.layer, slot.label) for slot in recipe.slots] == [("land", "Land"), ("fig", "Figure")]
    assert filled(recipe, {"land": "marsh.jpg", "fig": "heron.png"}) == piece
    assert check_recipe(dump_recipe(recipe)) == recipe


def test_only_chosen_photos_are_left_open() -> None:
    recipe = kept(two_layers(), "World", slots={"land": "Any land"})
    assert [(slot.layer, slot.label) for slot in recipe.slots] == [("land", "Any land")]
    made = with_one_photo(recipe, "kelp.jpg")
    assert [layer.source.photo for layer in made.walk()] == ["kelp.jpg", "heron.png"]  # type: ignore[union-attr]


def test_photos_chosen_for_slots_go_into_them() -> None:
    data = dump_piece(two_layers())
    data["layers"][1]["source"]["kind"] = "cut-out"
    recipe = kept(check_piece(data), "World", [TURN])

    def photos(**more: Any) -> list[str]:
        return [layer.source.photo for layer in with_one_photo(recipe, "kelp.jpg", **more).walk()]  # type: ignore[union-attr]

    assert photos() == ["kelp.jpg"], "a cut-out without a figure is not seen"
    assert photos(figure="boat.png") == ["kelp.jpg", "boat.png"]
    assert photos(chosen={"fig": "crab.png"}) == ["kelp.jpg", "crab.png"]
    assert photos(figure="boat.png", chosen={"fig": "crab.png", "land": "reeds.jpg"}) == ["reeds.jpg", "crab.png"]
    with pytest.raises(PieceError, match="slots: World has no slot 'sea'; it has 'land', 'fig'"):
        photos(chosen={"sea": "a.jpg"})


def test_one_trail_alone_is_not_placed() -> None:
    recipe = kept(two_layers(), "Figure", layer="fig")
    (only,) = recipe.layers
    assert (only.id, only.opacity, only.place) == ("fig", 1, None)


def test_dials_set_what_they_turn() -> None:
    dials = [
        {"name": "Both", "settings": [["land", "t", "turns"], ["land", "t", "strength"]], "low": 0, "high": 1, "value": 0.2},
        {"name": "Sectors", "settings": [["land", "k", "sectors"]], "low": 2, "high": 12, "value": 5},
    ]
    recipe = kept(two_layers(), "World", dials, layer="land")
    made = with_one_photo(recipe, "a.jpg", {"Both": 0.75, "Sectors": 7.6})
    twirl, kaleidoscope = made.layer.steps
    assert (twirl.settings.turns, twirl.strength, kaleidoscope.settings.sectors) == (0.75, 0.75, 8)  # type: ignore[attr-defined]


@given(st.floats(0, 1))
def test_any_value_of_a_dial_makes_a_piece(value: float) -> None:
    recipe = kept(two_layers(), "World", [TURN])
    made = with_one_photo(recipe, "a.jpg", {"Turn": value})
    assert check_piece(dump_piece(made)) == made


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"high": 500}, "turns takes"),
        ({"low": 1}, "is not below high"),
        ({"value": 4}, "is not between 0 and 1"),
        ({"settings": [["land", "t", "nothing"]]}, "has no setting 'nothing'"),
        ({"settings": [["land", "t", "fall"]]}, "is no number with a range"),
        ({"settings": [["land", "x", "turns"]]}, "has no step 'x'"),
        ({"settings": [["sea", "t", "turns"]]}, "no layer has the id 'sea'"),
        ({"settings": []}, "at least 1 item"),
    ],
)
def test_a_dial_that_turns_nothing_is_refused(change: dict[str, Any], says: str) -> None:
    with pytest.raises(PieceError, match=says):
        kept(two_layers(), "World", [TURN | change])


def test_two_dials_of_one_name_are_refused() -> None:
    with pytest.raises(PieceError, match="taken twice"):
        kept(two_layers(), "World", [TURN, TURN])


def test_what_a_recipe_lacks_is_said() -> None:
    recipe = kept(two_layers(), "World", [TURN])
    with pytest.raises(PieceError, match="World: no photo for Figure"):
        filled(recipe, {"land": "a.jpg"})
    with pytest.raises(PieceError, match="has no dial 'Speed'; it has 'Turn'"):
        with_one_photo(recipe, "a.jpg", {"Speed": 1})
    with pytest.raises(PieceError, match="dial 'Turn': 2 is not between 0 and 1"):
        with_one_photo(recipe, "a.jpg", {"Turn": 2})
    data = dump_recipe(recipe)
    with pytest.raises(PieceError, match="no photo left open"):
        check_recipe({**data, "slots": [{"layer": "sea", "label": "Sea"}]})


def test_a_piece_without_its_photo_is_a_recipe() -> None:
    recipe = check_recipe({"caracol": 1, "layers": [{"id": "land", "name": "Land", "steps": []}]})
    assert [slot.label for slot in recipe.openings] == ["Land"]
    assert recipe.name == "Recipe"


@pytest.mark.parametrize(
    ("steps", "use"),
    [
        ([("ring", {"inside": "bottom"})], "planet"),
        ([("ring", {"inside": "top", "spread": "even"})], "sky well"),
        ([("ring", {"inside": "top", "spread": "depth"})], "tunnel"),
        ([("unring", {}), ("ring", {})], "inside-out"),
        ([("pixel-sort", {})], "breaking"),
        ([("tone", {})], None),
    ],
)
def test_fit_is_the_readings_verdict_for_what_it_makes(steps: list[tuple[str, dict[str, Any]]], use: str | None) -> None:
    layer = {"id": "a", "steps": [{"id": f"s{n}", "kind": kind, "settings": settings} for n, (kind, settings) in enumerate(steps)]}
    recipe = check_recipe({"caracol": 1, "layers": [layer]})
    reading = Reading.none(200, 100, "")
    found = fit_of(recipe, reading)
    assert found.use == use
    if use is not None:
        good = Reading.from_data({**reading.as_data(), "uses": [{"use": use, "verdict": "good", "reasons": ["so it is"]}]})
        assert fit_of(recipe, good).worth > found.worth
        assert fit_of(recipe, good).reason == f"good for {use}: so it is"


@given(documents())
def test_a_dumped_piece_dumps_to_the_same_text(document: dict[str, Any]) -> None:
    """What travels in a file must not change by being opened."""
    once = dump_piece(check_piece(document))
    assert json.dumps(dump_piece(check_piece(once))) == json.dumps(once)
