"""Recipes: kept from a piece, with dials and slots; filled again with photos."""

from __future__ import annotations

import json
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from caracol.core.delivery.export import DeliveryOptions, deliver
from caracol.core.errors import PieceError
from caracol.core.piece.files import check_piece, dump_piece
from caracol.core.piece.fit import fit_of
from caracol.core.piece.recipe import Recipe, check_recipe, dump_recipe, filled, kept, with_one_photo
from caracol.core.reading.reading import Reading
from caracol.core.render import Context, Renderer
from tests.documents import documents
from tests.pictures import OnePhoto, detailed

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

    assert photos() == ["kelp.jpg", None], "a cut-out without a figure stays empty"
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


def emptied(*layers: dict[str, Any], dials: tuple[dict[str, Any], ...] = ()) -> Recipe:
    return check_recipe({"caracol": 3, "layers": list(layers), "dials": list(dials)})


LAND: dict[str, Any] = {"id": "land", "source": {"kind": "photo"}, "steps": [{"id": "t", "kind": "tone", "settings": {}}]}
CUT: dict[str, Any] = {"id": "fig", "name": "Figure", "source": {"kind": "cut-out"}, "steps": [{"id": "t", "kind": "tone", "settings": {}}]}
BRIGHT = {"name": "Bright", "settings": [["land", "t", "brightness"], ["fig", "t", "brightness"]], "low": -1, "high": 1, "value": 0}


def test_a_dial_over_an_empty_slot_turns_what_is_there() -> None:
    """With no transparent picture there its layer was taken out, and the dial with it: 0.7 was set and 0 used."""
    recipe = emptied(LAND, CUT, dials=(BRIGHT,))
    piece = with_one_photo(recipe, "kelp.jpg", {"Bright": 0.7})
    assert [step.settings.model_dump()["brightness"] for entry in piece.entries() for step in entry.steps] == [0.7, 0.7]
    with pytest.raises(PieceError, match="has no dial 'Brihgt'"):
        with_one_photo(recipe, "kelp.jpg", {"Brihgt": 0.7})
    with pytest.raises(PieceError, match="7 is not between -1 and 1"):
        with_one_photo(recipe, "kelp.jpg", {"Bright": 7})


@pytest.mark.parametrize(
    "layers",
    [
        (CUT, {"id": "up", "source": {"kind": "below"}}, LAND),
        (LAND, {"id": "g", "layers": [CUT], "steps": [{"id": "m", "kind": "melt", "settings": {}}]}),
    ],
)
def test_an_empty_slot_is_a_layer_of_nothing(layers: tuple[dict[str, Any], ...]) -> None:
    """As the lowest, under a layer of what is below it, and as what another looks at: what the photo shows is seen, and the slot is told."""
    photo = OnePhoto(detailed(40, 80))
    piece = with_one_photo(emptied(*layers), "kelp.jpg")
    renderer = Renderer(piece, Context(photo))
    alone = {"caracol": 3, "layers": [{"id": "a", "source": {"kind": "photo", "photo": "kelp.jpg"}}]}
    assert renderer.frame == Renderer(check_piece(alone), Context(photo)).frame
    assert np.array_equal(renderer.picture(80), Renderer(check_piece(alone), Context(photo)).picture(80))
    assert renderer.missing == ["“Figure” is empty: no picture is chosen for it yet."]
    assert deliver(piece, renderer, DeliveryOptions("png", 80)).lost == renderer.missing[0]


def test_an_empty_slot_may_be_what_another_layer_looks_at() -> None:
    displaced = {**LAND, "steps": [{"id": "d", "kind": "displace", "settings": {"by": "fig", "amount": 0.2}}]}
    piece = with_one_photo(emptied(CUT, displaced), "kelp.jpg")
    picture = Renderer(piece, Context(OnePhoto(detailed(40, 80)))).picture(80)
    assert picture.shape == (40, 80, 4)
    assert picture[..., 3].min() == 1


def test_a_photo_may_not_be_left_out() -> None:
    with pytest.raises(PieceError, match="no photo for land"):
        filled(emptied(LAND, CUT), {"fig": "boat.png"})
    with pytest.raises(PieceError, match="this is a recipe; name a photo to render it"):
        Renderer(check_piece({"caracol": 3, "layers": [LAND]}), Context(OnePhoto(detailed(40, 80)))).picture(80)
