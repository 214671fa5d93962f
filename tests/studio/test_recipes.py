"""The recipe book over the API: kept, edited, taken in and out, filled, tried."""

from __future__ import annotations

import io
import json
from typing import Any
from urllib.parse import urlencode

import numpy as np
import pytest
from PIL import Image

from caracol.core.piece.builtin_recipes import BUILTIN_RECIPES
from caracol.core.piece.recipe import check_recipe, with_one_photo
from caracol.studio import run_work
from caracol.studio.recipes import load_builtin_recipes

from .conftest import Api


def twirled(api: Api) -> dict[str, Any]:
    piece = api.piece(start="plain")
    piece["document"]["layers"][0]["steps"] = [{"id": "t", "kind": "twirl", "settings": {"turns": 0.2}}]
    return piece


DIAL = {"name": "Turn", "settings": [["land", "t", "turns"]], "low": 0.0, "high": 1.0, "value": 0.2}


def kept(api: Api, **more: Any) -> dict[str, Any]:
    answer = api.send(
        "post", "recipes", {"document": twirled(api)["document"], "name": "Whirl", "tags": ["night"], "dials": [DIAL], **more}
    )
    assert answer.status_code == 201, answer.content
    return dict(answer.json())


def test_a_recipe_is_kept_filled_and_edited(api: Api) -> None:
    recipe = kept(api)
    assert recipe["dials"] == [DIAL]
    assert recipe["slots"] == [{"layer": "land", "label": "Photo"}]
    assert recipe["steps"] == ["twirl"]
    other = api.photo(2)["file_name"]
    made = api.send("post", f"recipes/{recipe['id']}/documents", {"photos": {"land": other}, "dials": {"Turn": 0.9}}).json()["document"]
    assert made["layers"][0]["source"]["photo"] == other
    assert made["layers"][0]["steps"][0]["settings"]["turns"] == 0.9
    changed = {"name": "Deep whirl", "tags": ["day"], "dials": [{**DIAL, "high": 2.0}], "slots": [{"layer": "land", "label": "Any"}]}
    answer = api.send("put", f"recipes/{recipe['id']}", changed).json()
    assert {name: answer[name] for name in changed} == changed
    assert [row["name"] for row in api.rows("recipes?search=deep day")] == ["Deep whirl"]
    assert api.rows("recipes?search=night") == []


def test_a_recipe_goes_out_and_comes_in_as_a_file(api: Api) -> None:
    recipe = kept(api)
    data = json.loads(api.get(f"recipes/{recipe['id']}/file").content)
    assert check_recipe(data).dials[0].name == "Turn"
    again = api.send("post", "recipes/imports", {"data": data}).json()
    assert again["name"] == "Whirl 2"
    assert json.loads(api.get(f"recipes/{again['id']}/file").content) == {**data, "name": "Whirl 2"}
    wrong = api.send("post", "recipes/imports", {"data": {**data, "dials": [{**DIAL, "high": 1e6}]}})
    assert wrong.status_code == 422
    assert "turns takes" in str(wrong.json())


def test_copying_deleting_and_bringing_back(api: Api) -> None:
    recipe = kept(api)
    assert api.send("post", f"recipes/{recipe['id']}/copies").json()["name"] == "Whirl 2"
    api.client.delete(f"/api/v1/recipes/{recipe['id']}")
    assert [row["name"] for row in api.rows("recipes")] == ["Whirl 2"]
    api.send("post", f"recipes/{recipe['id']}/restore")
    assert {row["name"] for row in api.rows("recipes")} == {"Whirl", "Whirl 2"}


def test_a_try_shows_what_the_recipe_makes_of_the_photo(api: Api) -> None:
    recipe, photo = kept(api), api.photo(2)["file_name"]
    address = f"recipes/{recipe['id']}/preview?photo={photo}&size=200"
    plain, turned = (np.asarray(Image.open(io.BytesIO(api.get(address + more).content))) for more in ("", '&dials={"Turn": 0.8}'))
    document = api.send("post", f"recipes/{recipe['id']}/documents", {"photos": {"land": photo}, "dials": {"Turn": 0.8}}).json()["document"]
    look = api.send("post", "previews", {"document": document, "size": 200})
    shown = np.asarray(Image.open(io.BytesIO(look.content)).convert("RGB"), float)
    assert np.abs(turned - shown).mean() < 4
    assert np.abs(plain.astype(float) - turned).mean() > 8
    assert api.get(address + "&dials=7").status_code == 422
    assert api.get(address + '&dials={"Speed": 1}').status_code == 422
    assert api.get(f"recipes/{recipe['id']}/preview?photo=gone.png").status_code in (404, 422)


def test_picked_tries_become_pieces(api: Api) -> None:
    recipe, photos = kept(api), [api.photo(seed)["file_name"] for seed in (2, 3)]
    made = api.send("post", f"recipes/{recipe['id']}/pieces", {"photos": photos, "dials": {"Turn": 0.5}})
    assert made.status_code == 201
    assert [row["name"] for row in made.json()] == ["marsh 2, whirl", "marsh 3, whirl"]
    document = api.get(f"pieces/{made.json()[1]['id']}").json()["document"]
    assert document["layers"][0]["source"]["photo"] == photos[1]
    assert document["layers"][0]["steps"][0]["settings"]["turns"] == 0.5
    assert api.send("post", f"recipes/{recipe['id']}/pieces", {"photos": ["gone.png"]}).status_code == 404


def test_a_photo_chosen_for_a_slot_is_seen_made_and_run(api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(run_work, "CORES", 1)
    document = twirled(api)["document"]
    over = {**document["layers"][0], "id": "over", "name": "Over", "steps": [], "place": {"scale": 0.5}}
    document["layers"].append(over)
    recipe = api.send("post", "recipes", {"document": document, "name": "Two"}).json()
    land, veil = (api.photo(seed)["file_name"] for seed in (2, 3))
    slots = {"over": veil}

    def seen(**asked: str) -> np.ndarray:
        answer = api.get(f"recipes/{recipe['id']}/preview?{urlencode({'photo': land, 'size': 64, **asked})}")
        assert answer.status_code == 200, answer.content
        return np.asarray(Image.open(io.BytesIO(answer.content)).convert("RGB")).astype(int)

    apart = np.abs(seen() - seen(slots=json.dumps(slots)))
    assert apart[12:20, 24:40].mean() > 5, "the layer in the middle shows another photo"
    assert apart[:4].mean() < 1
    (piece,) = api.send("post", f"recipes/{recipe['id']}/pieces", {"photos": [land], "slots": slots}).json()
    made = api.get(f"pieces/{piece['id']}").json()["document"]
    assert [layer["source"]["photo"] for layer in made["layers"]] == [land, veil]
    asked = {"recipe": recipe["id"], "photos": [land], "slots": slots, "options": {"size": 64, "format": "png"}}
    run = api.send("post", "runs", asked).json()
    export = api.send("post", f"pieces/{piece['id']}/exports", {"size": 64, "format": "png"}).json()
    files = (f"runs/{run['id']}/photos/1/file", f"exports/{export['id']}/file")
    assert len({b"".join(api.get(path).streaming_content) for path in files}) == 1
    assert api.send("post", "runs", {**asked, "slots": {"over": "gone.png"}}).status_code == 404
    assert api.send("post", "runs", {**asked, "slots": {"sky": veil}}).status_code == 422
    assert api.get(f"recipes/{recipe['id']}/preview?slots=[1]").status_code == 422


def test_tries_stand_best_first_with_the_reason(api: Api) -> None:
    load_builtin_recipes()
    photo = api.photo(1)
    on_photo = api.get(f"photos/{photo['id']}/try-ons").json()
    assert len(on_photo) == len(BUILTIN_RECIPES)
    assert [one["worth"] for one in on_photo] == sorted((one["worth"] for one in on_photo), reverse=True)
    api.photo(2)
    world = next(row for row in api.rows("recipes?search=planet") if row["ours"] and row["name"] == "Planet")
    tries = api.get(f"recipes/{world['id']}/try-ons").json()
    assert len(tries) == 2
    assert "planet" in tries[0]["reason"]


def test_what_cannot_be_read_hides_nothing(api: Api) -> None:
    from caracol.studio.models import Recipe

    kept(api)
    Recipe.objects.create(name="Of tomorrow", data={"caracol": 99, "layers": []})
    rows = api.rows("recipes")
    assert {row["name"]: bool(row["faults"]) for row in rows} == {"Whirl": False, "Of tomorrow": True}
    assert len(api.get(f"photos/{api.photo()['id']}/try-ons").json()) == 1


@pytest.mark.parametrize("one", BUILTIN_RECIPES, ids=lambda one: one.key)
def test_ours_are_whole(one: Any) -> None:
    """Every dial stands where its settings stand, and every recipe makes a piece with and without a figure."""
    recipe = check_recipe(one.data)
    assert recipe.tags
    for dial in recipe.dials:
        for layer, step, setting in dial.settings:
            found = next(each for each in recipe.find(layer).steps if each.id == step)
            assert getattr(found.settings, setting) == pytest.approx(dial.value)
    for figure in (None, "heron.png"):
        piece = with_one_photo(recipe, "a.jpg", {dial.name: dial.high for dial in recipe.dials}, figure)
        assert figure is None or all(getattr(layer.source, "photo", "") is not None for layer in piece.walk())


def test_ours_stay_deleted(api: Api) -> None:
    assert load_builtin_recipes() == len(BUILTIN_RECIPES)
    gone = api.rows("recipes?search=vortex")[0]
    api.client.delete(f"/api/v1/recipes/{gone['id']}")
    assert load_builtin_recipes() == 0
    assert api.rows("recipes?search=vortex") == []
