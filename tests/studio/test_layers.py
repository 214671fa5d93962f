"""Layers through the API: looks of them, blend sheets, veils, stages kept on the Shelf, areas, versions, exports."""

from __future__ import annotations

import io
import json
from datetime import timedelta
from typing import Any
from urllib.parse import unquote

import numpy as np
import pytest
from django.utils import timezone
from PIL import Image

from caracol.core.io.formats import collect
from caracol.core.piece.files import check_piece
from caracol.core.pixels.blending import MODES
from caracol.core.render import Context, Renderer
from caracol.studio.models import Photo, Version
from caracol.studio.photos import ShelfPhotos
from tests.pictures import psnr

from .conftest import Api

STAR = {"id": "star", "name": "Star", "source": {"kind": "shape"}, "steps": []}


def layered(api: Api, **star: Any) -> dict[str, Any]:
    """Return a saved piece: a photo with a twirl, and a star over it."""
    piece = api.piece()
    document = piece["document"]
    document["layers"][0]["steps"] = [{"id": "t", "kind": "twirl", "settings": {}}]
    document["layers"].append({**STAR, **star})
    return dict(api.send("put", f"pieces/{piece['id']}", {"revision": 1, "name": "Two", "document": document}).json())


def opened(response: Any) -> np.ndarray:
    return np.asarray(Image.open(io.BytesIO(response.content)))


def test_looks_of_the_piece_and_of_one_layer(api: Api) -> None:
    document = layered(api)["document"]
    whole = opened(api.send("post", "previews", {"document": document, "size": 128}))
    star = opened(api.send("post", "previews", {"document": document, "size": 128, "layer": "star", "upto": 0}))
    assert whole.shape == (64, 128, 3)
    assert star.shape[2] == 4  # alone it is see-through
    assert api.rows("pieces")[0]["layers"] == 2
    wrong = api.send("post", "previews", {"document": document, "size": 64, "layer": "moon", "upto": 0})
    assert (wrong.status_code, "no layer has the id 'moon'" in wrong.json()["error"]["message"]) == (422, True)


def test_a_missing_photo_is_told_and_the_rest_is_shown(api: Api) -> None:
    document = layered(api)["document"]
    document["layers"].append({"id": "lost", "source": {"kind": "photo", "photo": "gone.png"}, "place": {"scale": 0.2}})
    answer = api.send("post", "previews", {"document": document, "size": 64})
    assert answer.status_code == 200
    assert "gone.png" in answer["X-Preview-Missing"]


def test_a_sheet_shows_every_mode(api: Api) -> None:
    document = layered(api)["document"]
    answer = api.send("post", "previews/blend-modes", {"document": document, "layer": "star", "size": 64})
    cols, rows = map(int, answer["X-Preview-Size"].split("x"))
    sheet = opened(answer)
    assert sheet.shape == (rows * len(MODES), cols, 3)
    multiply = list(MODES).index("multiply")
    document["layers"][1]["blend"] = "multiply"
    alone = opened(api.send("post", "previews", {"document": document, "size": 64, "draft": True})).astype(int)
    parts = sheet.reshape(len(MODES), rows, cols, 3).astype(int)
    assert np.abs(parts - alone).mean(axis=(1, 2, 3)).argmin() == multiply
    of_step = api.send("post", "previews/blend-modes", {"document": document, "layer": "land", "step": "t", "size": 32})
    assert of_step.status_code == 200
    assert api.send("post", "previews/blend-modes", {"document": document, "layer": "land", "step": "x", "size": 32}).status_code == 422


def test_a_veil_is_as_strong_as_the_where(api: Api) -> None:
    document = layered(api)["document"]
    document["layers"][0]["steps"][0]["where"] = {"shapes": [{"kind": "rectangle", "x": -1, "rx": 1, "ry": 2}]}
    veil = opened(api.send("post", "previews/area", {"document": document, "layer": "land", "step": "t", "size": 64}))
    assert veil[:, :31, 3].min() > 100
    assert veil[:, 33:, 3].max() == 0
    assert opened(api.send("post", "previews/area", {"document": document, "layer": "star", "size": 64}))[..., 3].min() > 100


def test_the_edge_of_a_where_lies_along_it_alone(api: Api) -> None:
    document = layered(api)["document"]
    document["layers"][0]["steps"][0]["where"] = {"shapes": [{"kind": "rectangle", "x": -1, "rx": 1, "ry": 2}]}
    edge = opened(api.send("post", "previews/area", {"document": document, "layer": "land", "step": "t", "size": 64, "edge": True}))
    assert edge[:, 30:34, 3].max(axis=1).min() == 255
    assert edge[:, :28, 3].max() == edge[:, 36:, 3].max() == 0


def test_a_group_is_looked_at_like_a_layer(api: Api) -> None:
    document = layered(api)["document"]
    star = document["layers"].pop()
    twirl = {"id": "w", "kind": "twirl", "settings": {"turns": 0.3}}
    document["layers"].append({"id": "g", "name": "Group", "layers": [star], "steps": [twirl], "place": {"x": 0.5, "scale": 0.5}})
    api.send("post", "pieces", {"name": "grouped", "document": document})
    row = next(row for row in api.rows("pieces") if row["name"] == "grouped")
    assert (row["layers"], row["steps"]) == (2, 2)
    before, after = (opened(api.send("post", "previews", {"document": document, "layer": "g", "upto": n, "size": 64})) for n in (0, 1))
    assert before.shape == after.shape
    assert not np.array_equal(before, after)
    told = json.loads(unquote(api.send("post", "previews", {"document": document, "size": 64})["X-Preview-Frames"]))
    assert told["layers"]["g"] == pytest.approx(2)


def test_frames_tell_where_layers_lie(api: Api) -> None:
    document = layered(api)["document"]
    document["layers"][1]["steps"] = [{"id": "r", "kind": "ring", "settings": {}}]
    told = json.loads(unquote(api.send("post", "previews", {"document": document, "size": 64})["X-Preview-Frames"]))
    assert told["ratio"] == pytest.approx(2)
    assert told["layers"] == {"land": pytest.approx(2), "star": 1}


def test_a_stage_is_kept_on_the_shelf_with_its_transparency(api: Api) -> None:
    document = layered(api)["document"]
    kept = api.send("post", "photos/from-piece", {"document": document, "layer": "star", "upto": 0, "name": "My star", "size": 256}).json()
    assert (kept["name"], kept["transparent"]) == ("My star", True)
    assert Photo.objects.get(id=kept["id"]).width == 256
    document["layers"][1]["source"] = {"kind": "cut-out", "photo": kept["file_name"], "fit": "tile", "cell": 0.3}
    assert api.send("post", "previews", {"document": document, "size": 64}).status_code == 200


def test_named_areas_of_a_photo(api: Api) -> None:
    photo = api.photo()
    where = {"shapes": [{"kind": "ellipse", "rx": 0.2}]}
    told = api.send("patch", f"photos/{photo['id']}", {"areas": [{"name": "Dial", "where": where}]}).json()
    assert told["name"] == photo["name"]
    assert told["areas"][0]["where"]["shapes"][0]["ry"] == 0.5
    wrong = api.send("patch", f"photos/{photo['id']}", {"areas": [{"name": "Dial", "where": {"shapes": [{"kind": "blob"}]}}]})
    assert wrong.status_code == 422


def test_versions_are_kept_by_name_and_by_themselves(api: Api) -> None:
    piece = layered(api)
    versions = f"pieces/{piece['id']}/versions"
    assert len(api.rows(versions)) == 1  # what the first save changed
    named = api.send("post", versions, {"name": "Good one"}).json()
    document = piece["document"]
    document["layers"][1]["opacity"] = 0.5
    body = {"revision": piece["revision"], "name": "Two", "document": document}
    saved = api.send("put", f"pieces/{piece['id']}", body).json()
    assert len(api.rows(versions)) == 2  # too soon for another
    Version.objects.update(made_at=timezone.now() - timedelta(minutes=10))
    document["layers"][1]["opacity"] = 0.25
    api.send("put", f"pieces/{piece['id']}", {**body, "revision": saved["revision"], "document": document})
    newest = api.rows(versions)[0]
    assert set(newest) == {"id", "name", "made_at"}, "lists carry no documents"
    assert api.get(f"versions/{newest['id']}").json()["document"]["layers"][1]["opacity"] == 0.5
    restored = api.send("post", f"versions/{named['id']}/restore").json()
    assert restored["document"]["layers"][1]["opacity"] == 1
    before = api.rows(versions)[0]["id"]
    assert api.get(f"versions/{before}").json()["document"]["layers"][1]["opacity"] == 0.25
    branched = api.send("post", f"versions/{named['id']}/pieces").json()
    assert branched["name"] == "Two, Good one"
    assert branched["id"] != piece["id"]
    assert api.get(f"versions/{named['id']}/thumbnail").status_code == 200
    api.send("delete", f"versions/{named['id']}")
    assert "Good one" not in [v["name"] for v in api.rows(versions)]
    assert api.send("patch", f"versions/{named['id']}", {"name": "Again"}).json()["name"] == "Again"


def test_a_layered_export_is_cut_to_its_shape(api: Api) -> None:
    from caracol.studio.export_work import work

    piece = layered(api)
    export = api.send("post", f"pieces/{piece['id']}/exports", {"size": 128, "shape": "square", "format": "png"}).json()
    work(export["id"])
    done = next(e for e in api.rows(f"pieces/{piece['id']}/exports") if e["id"] == export["id"])
    assert (done["state"], done["width"], done["height"]) == ("done", 128, 128)


def test_a_layered_export_is_the_cores_own_render_to_the_bit(api: Api) -> None:
    from caracol.studio.export_work import work

    piece = layered(
        api, blend="soft-light", opacity=0.8, place={"scale": 0.6, "turn": 0.1}, where={"shapes": [{"kind": "radial"}], "feather": 0.1}
    )
    export = api.send("post", f"pieces/{piece['id']}/exports", {"size": 160, "format": "png"}).json()
    work(export["id"])
    file = Image.open(io.BytesIO(b"".join(api.get(f"exports/{export['id']}/file").streaming_content)))
    assert np.array_equal(np.asarray(file), collect(*Renderer(check_piece(piece["document"]), Context(ShelfPhotos(1 << 28))).rows(160)))


def test_small_looks_have_their_own_colour_at_every_pixel(api: Api) -> None:
    """Fine stripes: colours shared by four pixels run into each other, and the card shows others than the piece has."""
    stripes = {"kind": "pattern", "form": "stripes", "first": "#203040", "second": "#e8613f", "third": "#f3ead8", "size": 0.2}
    document = {"caracol": 1, "layers": [{"id": "a", "source": stripes}]}
    shown = np.asarray(Image.open(io.BytesIO(api.send("post", "previews", {"document": document, "size": 208, "draft": True}).content)))
    true = collect(*Renderer(check_piece(document), Context(ShelfPhotos(1 << 20))).rows(208))
    assert psnr(shown / 255, true / 255) > 30


def test_photos_of_a_piece_are_looked_up_once(api: Api, django_assert_max_num_queries: Any) -> None:
    photo = api.photo(3)["file_name"]
    ring = [{"id": "r", "kind": "ring", "settings": {}}]
    layers = [{"id": f"l{n}", "source": {"kind": "photo", "photo": photo}, "steps": ring, "opacity": 0.5} for n in range(8)]
    with django_assert_max_num_queries(1):
        assert api.send("post", "previews", {"document": {"caracol": 1, "layers": layers}, "size": 64}).status_code == 200


def test_small_pictures_on_disk_do_not_grow_without_end(api: Api, settings: Any) -> None:
    settings.LOOK_CACHE_FILES = 3
    pieces = [api.piece("plain", seed) for seed in range(1, 6)]
    for piece in pieces:
        assert api.get(f"pieces/{piece['id']}/thumbnail?revision=1").status_code == 200
    assert len(list((settings.VAR / "looks").glob("*/*.jpg"))) <= 3
