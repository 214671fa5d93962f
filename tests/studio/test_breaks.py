"""Bars, runs, keep areas and rolls through the API, and what may be wrong with them."""

from __future__ import annotations

import io
from typing import Any

import numpy as np
import pytest
from PIL import Image

from caracol.core.piece.files import check_piece

from .conftest import Api

KEEP = {"name": "Dial", "weight": 0.5, "where": {"shapes": [{"kind": "ellipse", "x": 0, "y": 0, "rx": 0.4, "ry": 0.4}]}}


def broken(api: Api, *steps: dict[str, Any]) -> dict[str, Any]:
    """Return a document of a photo with these steps."""
    document = dict(api.piece("plain")["document"])
    document["layers"][0]["steps"] = [{"id": f"s{n}", **step} for n, step in enumerate(steps, 1)]
    return document


def test_bars_are_drawn_and_drawn_again_around_the_locked_ones(api: Api) -> None:
    document = broken(api, {"kind": "slices", "settings": {"seed": 4}})
    asked = {"document": document, "layer": "land", "step": "s1"}
    drawn = api.send("post", "analyses/bars", asked).json()["bars"]
    assert len(drawn) == 26
    assert drawn == api.send("post", "analyses/bars", asked).json()["bars"]
    drawn[5]["locked"] = True
    document["layers"][0]["steps"][0]["settings"]["bars"] = drawn
    assert api.send("post", "analyses/bars", asked).json()["bars"] == drawn
    again = api.send("post", "analyses/bars", {**asked, "again": 77}).json()["bars"]
    assert (len(again), again[-1]) == (26, drawn[5])
    # What was drawn is what is shown: kept bars give the same look as the draw they came from.
    kept, free = (
        api.send("post", "previews", {"document": one, "size": 200}).content
        for one in (
            broken(api, {"kind": "slices", "settings": {"seed": 4, "bars": [bar | {"locked": False} for bar in drawn]}}),
            broken(api, {"kind": "slices", "settings": {"seed": 4}}),
        )
    )
    assert kept == free


@pytest.mark.parametrize(
    ("path", "asked", "says"),
    [
        ("analyses/bars", {"layer": "land", "step": "s2"}, "which has no bars"),
        ("analyses/bars", {"layer": "land", "step": "s9"}, "has no step 's9'"),
        ("previews/sorted", {"layer": "land", "step": "s1"}, "which has no stretches to show"),
        ("previews/sorted", {"layer": "moon", "step": "s1"}, "no layer has the id 'moon'"),
        ("analyses/keep-areas", {"layer": "moon"}, "no layer has the id 'moon'"),
    ],
)
def test_what_is_not_there_is_said(api: Api, path: str, asked: dict[str, Any], says: str) -> None:
    document = broken(api, {"kind": "slices", "settings": {}}, {"kind": "tone", "settings": {}})
    answer = api.send("post", path, {"document": document, **asked})
    assert answer.status_code == 422
    assert says in answer.json()["error"]["message"] + " ".join(answer.json()["error"]["faults"])


def test_runs_are_a_tint_where_they_are(api: Api) -> None:
    document = broken(api, {"kind": "pixel-sort", "settings": {"low": 0.5, "high": 0.6}})
    answer = api.send("post", "previews/sorted", {"document": document, "layer": "land", "step": "s1", "size": 128})
    alpha = np.asarray(Image.open(io.BytesIO(answer.content)))[..., 3]
    assert alpha.shape == (64, 128)
    assert 0.05 < (alpha > 0).mean() < 0.9
    assert len(np.unique(alpha)) == 3  # one run is told from the next


def test_keep_areas_go_with_the_photo_into_new_pieces(api: Api) -> None:
    photo = api.photo()
    changed = api.send("patch", f"photos/{photo['id']}", {"keep": [KEEP]}).json()
    assert changed["keep"][0]["weight"] == 0.5
    assert changed["keep"][0]["where"]["feather"] == 0
    piece = api.send("post", "pieces", {"photo": photo["id"], "start": "planet"}).json()
    assert piece["document"]["layers"][0]["source"]["keep"] == changed["keep"]
    lines = api.send("post", "analyses/keep-areas", {"document": piece["document"], "layer": "land", "upto": 0}).json()["lines"]
    assert len(lines) == 1
    assert np.allclose(np.mean(lines[0], axis=0), 0, atol=0.05)
    assert api.send("post", "analyses/keep-areas", {"document": api.piece("plain", 2)["document"]}).json()["lines"] == []
    wrong = api.send("patch", f"photos/{photo['id']}", {"keep": [{**KEEP, "where": {"shapes": [{"kind": "blob"}]}}]})
    assert wrong.status_code == 422
    assert next(one for one in api.rows("photos") if one["id"] == photo["id"])["keep"] == changed["keep"]


def test_a_roll_is_twelve_pieces_and_one_can_be_kept_as_a_version(api: Api) -> None:
    piece = api.piece("plain")
    document = broken(api, {"kind": "slices", "settings": {}}, {"kind": "grain", "settings": {}})
    answer = api.send("post", "variants", {"document": document, "seed": 5, "steps": ["s1"]}).json()["variants"]
    assert len(answer) == 12
    for variant in answer:
        check_piece(variant["document"])
        assert variant["document"]["layers"][0]["steps"][1] == answer[0]["document"]["layers"][0]["steps"][1]
        assert variant["changes"][0].startswith("Slices: ")
    kept = api.send("post", f"pieces/{piece['id']}/versions", {"name": "Rolled", "document": answer[3]["document"]}).json()
    assert api.get(f"versions/{kept['id']}").json()["document"] == answer[3]["document"]
    assert api.get(f"pieces/{piece['id']}").json()["document"] == piece["document"]
    wrong = api.send("post", f"pieces/{piece['id']}/versions", {"name": "Bad", "document": {"caracol": 1, "layers": []}})
    assert wrong.status_code == 422
    assert len(api.rows(f"pieces/{piece['id']}/versions")) == 1


def test_a_melt_whose_second_picture_is_gone_says_so(api: Api) -> None:
    document = broken(api, {"kind": "melt", "settings": {"rounds": 3, "feed": "gone.png", "feed_from": 2}})
    answer = api.send("post", "previews", {"document": document, "size": 64})
    assert answer.status_code == 404
    assert "gone.png" in answer.json()["error"]["message"]
    early = broken(api, {"kind": "melt", "settings": {"rounds": 3, "feed": "gone.png", "feed_from": 9}})
    assert api.send("post", "previews", {"document": early, "size": 64}).status_code == 200


def test_a_step_tells_what_it_found_out(api: Api) -> None:
    document = broken(api, {"kind": "close-seam", "settings": {"method": "cut"}}, {"kind": "blur", "settings": {}})
    asked = {"document": document, "layer": "land", "step": "s1"}
    told = api.send("post", "analyses/steps", asked).json()["found"]
    assert told["way"] == "cut"
    assert len(told["path"]) == 32
    assert api.send("post", "analyses/steps", {**asked, "step": "s2"}).json()["found"] == {}
    assert api.send("post", "analyses/steps", {**asked, "step": "gone"}).status_code == 422


def test_doubles_of_a_touch_up(api: Api) -> None:
    stroke = {"mode": "clone", "line": [-100_000, 0], "radius": 0.3, "hardness": 1, "source": {"dx": 1.0, "dy": 0}}
    document = broken(api, {"kind": "touch-up", "settings": {"strokes": [stroke]}}, {"kind": "tone", "settings": {}})
    asked = {"document": document, "layer": "land", "step": "s1"}
    found = api.send("post", "analyses/repeats", asked).json()["repeats"]
    assert [round(double["from_x"] - double["x"], 3) for double in found] == [1.0]
    assert api.send("post", "analyses/repeats", {**asked, "step": "s2"}).status_code == 422


def test_a_source_for_a_stroke_that_heals(api: Api) -> None:
    stroke = {"mode": "heal", "line": [0, 0], "radius": 0.1}
    document = broken(api, {"kind": "touch-up", "settings": {}}, {"kind": "tone", "settings": {}})
    asked = {"document": document, "layer": "land", "step": "s1", "stroke": stroke}
    found = api.send("post", "analyses/heal-sources", asked).json()
    assert max(abs(found["dx"]), abs(found["dy"])) >= 0.2
    assert api.send("post", "analyses/heal-sources", {**asked, "step": "s2"}).status_code == 422
    refused = api.send("post", "analyses/heal-sources", {**asked, "stroke": {**stroke, "radius": 4}})
    assert refused.status_code == 422
    assert "make it smaller" in refused.content.decode()
