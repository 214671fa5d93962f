"""Gradients kept, palettes, lost tones, histograms told, and figures cut out of photos, through the API."""

from __future__ import annotations

import io
from typing import Any

import cv2
import numpy as np
import pytest
from PIL import Image

from caracol.studio.models import Photo

from .conftest import Api, png

STOPS = [{"at": 0, "colour": "#101020"}, {"at": 1, "colour": "#ffeedd"}]


def document(photo: str, *steps: tuple[str, dict[str, Any]]) -> dict[str, Any]:
    trail = [{"id": f"s{n}", "kind": kind, "settings": settings} for n, (kind, settings) in enumerate(steps, 1)]
    return {"caracol": 1, "layers": [{"id": "land", "source": {"kind": "photo", "photo": photo}, "steps": trail}]}


def test_a_gradient_is_kept_renamed_deleted_and_restored(api: Api) -> None:
    kept = api.send("post", "gradients", {"name": " Low tide ", "stops": STOPS}).json()
    assert (kept["name"], kept["stops"]) == ("Low tide", STOPS)
    path = f"gradients/{kept['id']}"
    assert api.send("patch", path, {"name": "High tide"}).json()["name"] == "High tide"
    api.send("delete", path)
    assert api.rows("gradients") == []
    api.send("post", f"{path}/restore")
    assert [one["name"] for one in api.rows("gradients")] == ["High tide"]


@pytest.mark.parametrize("stops", [[], STOPS[:1], [{"at": 2, "colour": "#101020"}, STOPS[1]], [{"at": 0, "colour": "black"}, STOPS[1]]])
def test_what_is_no_gradient_is_not_kept(api: Api, stops: list[dict[str, Any]]) -> None:
    assert api.send("post", "gradients", {"name": "Broken", "stops": stops}).status_code == 422
    assert api.rows("gradients") == []


def test_a_palette_is_of_the_finished_piece(api: Api) -> None:
    name = api.photo()["file_name"]
    inked = document(name, ("threshold", {"dark": "#102040", "light": "#f0e0c0"}))
    found = api.send("post", "analyses/palettes", {"document": inked}).json()["colours"]
    dark, light = ([int(code[n : n + 2], 16) for n in (1, 3, 5)] for code in (found[0], found[-1]))
    assert dark == pytest.approx([0x10, 0x20, 0x40], abs=2)
    assert light == pytest.approx([0xF0, 0xE0, 0xC0], abs=2)


def test_a_step_tells_the_tones_of_its_input(api: Api) -> None:
    trail = document(api.photo()["file_name"], ("colour", {"saturation": -1}), ("curves", {}))
    told = api.send("post", "analyses/steps", {"document": trail, "layer": "land", "step": "s2"}).json()["found"]
    assert set(told["histogram"]) == {"red", "green", "blue", "light", "middle"}
    assert told["histogram"]["red"] == told["histogram"]["blue"]


def test_lost_tones_are_shown_in_two_colours(api: Api) -> None:
    trail = document(api.photo()["file_name"], ("tone", {"black": 0.4, "white": 0.6}))
    answer = api.send("post", "previews/clipping", {"document": trail, "layer": "land", "step": "s1", "size": 128})
    shown = np.asarray(Image.open(io.BytesIO(answer.content)))
    colours = {tuple(one) for one in shown.reshape(-1, 4)}
    assert {(40, 120, 220, 230), (232, 60, 50, 230)} <= colours
    none = api.send(
        "post", "previews/clipping", {"document": document(api.photo()["file_name"], ("tone", {})), "layer": "land", "step": "s1"}
    )
    assert np.asarray(Image.open(io.BytesIO(none.content))).max() == 0
    gone = api.send("post", "previews/clipping", {"document": trail, "layer": "land", "step": "s7"})
    assert gone.status_code == 422


def bird() -> bytes:
    """A red disc on green, as a file."""
    picture = np.full((200, 300, 3), (60, 110, 50), np.uint8)
    picture = np.clip(picture + np.random.default_rng(2).normal(0, 6, picture.shape), 0, 255).astype(np.uint8)
    cv2.circle(picture, (150, 100), 50, (190, 60, 50), -1, cv2.LINE_AA)
    out = io.BytesIO()
    Image.fromarray(picture).save(out, "PNG")
    return out.getvalue()


BOX = {"box": [-0.7, -0.7, 0.7, 0.7]}


@pytest.fixture
def cut(api: Api) -> dict[str, Any]:
    photo = api.upload(bird(), "bird.png").json()["file_name"]
    outline = api.send("post", "figures/outlines", {"photo": photo, "search": BOX}).json()["outline"]
    return {"photo": photo, "outline": outline, "hair": 0.004, "fringe": 1, "search": BOX}


def pixels_of(name: str) -> np.ndarray:
    from caracol.studio.photos import SHELF

    return SHELF.pyramid(name).picture(200)


def test_a_figure_is_outlined_shown_kept_and_corrected(api: Api, cut: dict[str, Any]) -> None:
    shown = np.asarray(Image.open(io.BytesIO(api.send("post", "figures/previews", cut).content)))
    assert shown.shape == (200, 300, 4)
    assert shown[100, 150, 3] == 255
    assert shown[10, 10, 3] == 0
    kept = api.send("post", "figures", {"name": "Bird", "cut": cut}).json()
    assert (kept["name"], kept["file_name"], kept["transparent"]) == ("Bird", "Bird.png", True)
    assert kept["cut"]["photo"] == cut["photo"]
    assert kept["cut"]["search"]["box"] == BOX["box"]
    before = pixels_of("Bird.png")
    assert before[100, 100, 3] == 1
    # Half of it is painted away: the same cut-out, wherever it stands, is another picture now.
    off = {"kind": "polygon", "points": [[0, -1], [1, -1], [1, 1], [0, 1]], "join": "subtract"}
    half = {**cut, "outline": {**cut["outline"], "shapes": [*cut["outline"]["shapes"], off]}}
    piece = document("Bird.png")
    look = api.send("post", "previews", {"document": piece, "size": 100}).content
    corrected = api.send("put", f"figures/{kept['id']}", {"cut": half}).json()
    assert (corrected["id"], corrected["file_name"]) == (kept["id"], "Bird.png")
    assert corrected["preview"] != kept["preview"]
    after = pixels_of("Bird.png")
    assert 0.3 < after[..., 3].mean() / after[..., 3].size * before[..., 3].size / before[..., 3].mean() * after.size / before.size < 1.2
    assert api.send("post", "previews", {"document": piece, "size": 100}).content != look
    assert Photo.objects.get(id=kept["id"]).cut["outline"]["shapes"][-1]["join"] == "subtract"


def test_a_figure_is_corrected_in_the_photo_it_was_cut_out_of_alone(api: Api, cut: dict[str, Any]) -> None:
    """Cut out of itself it lost its source."""
    kept = api.send("post", "figures", {"name": "Bird", "cut": cut}).json()
    other = api.photo(7)["file_name"]
    for photo in (kept["file_name"], other):
        answer = api.send("put", f"figures/{kept['id']}", {"cut": {**cut, "photo": photo}})
        assert answer.status_code == 422
        assert answer.json()["error"]["message"].startswith(f"“Bird” was cut out of {cut['photo']}, and is corrected there")
    assert Photo.objects.get(id=kept["id"]).cut["photo"] == cut["photo"]
    assert api.get(f"photos?file_name={kept['file_name']}").json()["items"][0]["width"] == kept["width"]


def test_an_outline_is_made_of_shapes(api: Api, cut: dict[str, Any]) -> None:
    """A range of light ended in a fault without a name."""
    light = {"shapes": [{"kind": "light", "low": 0.2, "high": 0.8}], "feather": 0, "invert": False}
    for path in ("figures", "figures/previews"):
        body = {**cut, "outline": light}
        answer = api.send("post", path, {"name": "Light", "cut": body} if path == "figures" else body)
        assert (answer.status_code, "an outline is made of shapes" in answer.json()["error"]["message"]) == (422, True)


def test_what_cannot_be_cut_out_is_said(api: Api, cut: dict[str, Any]) -> None:
    empty = {**cut, "outline": {"shapes": [], "feather": 0, "invert": False}}
    answer = api.send("post", "figures", {"name": "Nothing", "cut": empty})
    assert answer.status_code in (415, 422)
    assert "outline holds nothing" in answer.json()["error"]["message"]
    gone = api.send("post", "figures/outlines", {"photo": "gone.png", "search": BOX})
    assert gone.status_code in (404, 410, 422)
    assert "gone.png" in gone.json()["error"]["message"]
    flat = io.BytesIO()
    Image.new("RGB", (120, 80), (90, 90, 90)).save(flat, "PNG")
    name = api.upload(flat.getvalue(), "flat.png").json()["file_name"]
    nothing = api.send("post", "figures/outlines", {"photo": name, "search": {"box": [0.1, 0.1, 0.1001, 0.1001]}})
    assert "Nothing in this box" in nothing.json()["error"]["message"]
    strange = {**cut, "outline": {"shapes": [{"kind": "blob"}]}}
    assert api.send("post", "figures", {"name": "Strange", "cut": strange}).status_code == 422
    assert not Photo.objects.filter(name__in=["Nothing", "Strange"]).exists()
    # A photo is no figure: it is not overwritten by one.
    photo = Photo.objects.get(file_name=cut["photo"])
    refused = api.send("put", f"figures/{photo.id}", {"cut": cut})
    assert "not a figure" in refused.json()["error"]["message"]
    assert Photo.objects.get(id=photo.id).digest == photo.digest


def test_photos_that_are_no_figures_have_no_cut(api: Api) -> None:
    assert api.upload(png(3), "plain.png").json()["cut"] is None
