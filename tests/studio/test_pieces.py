"""Pieces, looks and the shape of errors, through the API."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any
from uuid import uuid4

import numpy as np
import pytest
from scripts.generate_docs import documents

from caracol.core.io.formats import collect
from caracol.core.piece.files import check_piece
from caracol.core.render import Context, Renderer
from caracol.studio import media
from caracol.studio.models import Photo
from caracol.studio.photos import ShelfPhotos
from caracol.studio.rendering import NewestRequests

from .conftest import Api, file_of, png


def test_start_save_and_open_again(api: Api) -> None:
    piece = api.piece()
    document = piece["document"]
    document["layers"][0]["steps"].append({"id": "new", "kind": "tone", "settings": {"gamma": 2}})
    saved = api.send("put", f"pieces/{piece['id']}", {"revision": 1, "name": "Mine", "document": document}).json()
    assert (saved["revision"], saved["name"]) == (2, "Mine")
    opened = api.get(f"pieces/{piece['id']}").json()
    assert opened["document"]["layers"][0]["steps"][-1]["settings"]["gamma"] == 2
    assert api.rows("pieces")[0]["name"] == "Mine"


def test_a_stale_save_is_refused_with_what_is_kept(api: Api) -> None:
    piece = api.piece()
    path, body = f"pieces/{piece['id']}", {"revision": 1, "name": "First tab", "document": piece["document"]}
    assert api.send("put", path, body).status_code == 200
    answer = api.send("put", path, {**body, "name": "Second tab"})
    assert answer.status_code == 409
    assert answer.json()["error"]["code"] == "stale"
    assert (answer.json()["current"]["name"], answer.json()["current"]["revision"]) == ("First tab", 2)
    assert api.get(path).json()["name"] == "First tab"


@pytest.mark.parametrize(
    ("change", "fault"),
    [
        ({"kind": "nope"}, "layers[0].steps[0]: unknown kind 'nope'"),
        ({"settings": {"reach": 99}}, "layers[0].steps[0].settings.reach: got 99"),
        ({"surprise": 1}, "layers[0].steps[0].surprise: unknown field"),
    ],
)
def test_a_broken_document_is_refused_by_path_and_nothing_is_lost(api: Api, change: dict[str, Any], fault: str) -> None:
    piece = api.piece("plain")
    document = json.loads(json.dumps(piece["document"]))
    document["layers"][0]["steps"] = [{"id": "a", "kind": "ring", **change}]
    answer = api.send("put", f"pieces/{piece['id']}", {"revision": 1, "name": "x", "document": document})
    assert answer.status_code == 422
    assert any(f.startswith(fault) for f in answer.json()["error"]["faults"])
    assert api.get(f"pieces/{piece['id']}").json()["revision"] == 1


def test_a_newer_piece_file_is_refused_politely(api: Api) -> None:
    answer = api.send("post", "pieces", {"document": {"caracol": 7}})
    assert answer.status_code == 422
    assert "newer than the 3 known here; open it with a newer Caracol" in answer.json()["error"]["message"]


def test_a_piece_file_comes_out_and_goes_in_again(api: Api) -> None:
    piece = api.piece()
    content = api.get(f"pieces/{piece['id']}/file").content
    again = api.send("post", "pieces", {"document": json.loads(content), "name": "Again"}).json()
    assert again["document"] == piece["document"]


def test_delete_and_restore(api: Api) -> None:
    piece = api.piece()
    api.send("delete", f"pieces/{piece['id']}")
    assert api.rows("pieces") == []
    api.send("post", f"pieces/{piece['id']}/restore")
    assert len(api.rows("pieces")) == 1


def test_a_look_is_what_the_core_renders(api: Api, pixels: Any) -> None:
    piece = api.piece()
    answer = api.send("post", "previews", {"document": piece["document"], "size": 256})
    assert answer["Content-Type"] == "image/jpeg"
    assert answer["X-Preview-Size"] == "256x256"
    expected = collect(*Renderer(check_piece(piece["document"]), Context(ShelfPhotos(1 << 28))).rows(256))
    assert np.abs(pixels(answer.content).astype(int) - expected).mean() < 2
    draft = api.send("post", "previews", {"document": piece["document"], "size": 256, "draft": True})
    assert np.abs(pixels(draft.content).astype(int) - expected).mean() < 6


def test_a_look_of_a_stage_and_of_a_transparent_piece(api: Api) -> None:
    piece = api.piece()
    assert api.send("post", "previews", {"document": piece["document"], "size": 128, "upto": 0})["X-Preview-Size"] == "128x64"
    document = {**piece["document"]}
    document["layers"][0]["steps"] = [{"id": "r", "kind": "rim", "settings": {"into": "nothing"}}]
    assert api.send("post", "previews", {"document": document, "size": 128})["Content-Type"] == "image/png"


def test_a_part_of_a_look_is_that_part_of_the_whole(api: Api, pixels: Any) -> None:
    document = {**api.piece("plain")["document"]}
    document["layers"][0]["steps"] = [{"id": "k", "kind": "kaleidoscope", "settings": {}}, {"id": "r", "kind": "rim", "settings": {}}]
    whole = pixels(api.send("post", "previews", {"document": document, "size": 500}).content).astype(int)
    part = {"left": 0.3, "top": 0.25, "right": 0.61, "bottom": 0.9}
    answer = api.send("post", "previews", {"document": document, "size": 500, "part": part})
    rows = whole.shape[0]
    top, bottom = int(rows * 0.25), int(np.ceil(rows * 0.9))
    assert (answer["X-Preview-Size"], answer["X-Preview-Part"]) == (f"500x{rows}", f"150,{top},305,{bottom}")
    shown = pixels(answer.content).astype(int)
    assert shown.shape == (bottom - top, 155, 3)
    # Both went through JPEG, in blocks that lie elsewhere.
    assert np.abs(shown - whole[top:bottom, 150:305]).mean() < 1.5


def test_very_large_looks_are_looked_at_in_parts(api: Api) -> None:
    document = api.piece("plain")["document"]
    told = api.send("post", "previews", {"document": document, "size": 8192})
    assert told.status_code == 422
    assert "ask for a part of it" in told.json()["error"]["faults"][0]
    part = {"left": 0.5, "top": 0.5, "right": 0.55, "bottom": 0.55}
    assert api.send("post", "previews", {"document": document, "size": 16384, "part": part})["X-Preview-Size"] == "16384x8192"
    # All of it would be 134 megapixels: it comes smaller.
    part = {"left": 0, "top": 0, "right": 1, "bottom": 1}
    assert api.send("post", "previews", {"document": document, "size": 16384, "part": part, "draft": True})["X-Preview-Size"] == "4096x2048"
    part = {"left": 0.5, "top": 0.5, "right": 0.5, "bottom": 0.6}
    assert api.send("post", "previews", {"document": document, "size": 512, "part": part}).status_code == 422


def test_newer_requests_overtake_older_ones() -> None:
    queue = NewestRequests()
    first, other = queue.enter("bench", 1), queue.enter("elsewhere", 1)
    assert not first()
    second = queue.enter("bench", 2)
    late = queue.enter("bench", 1)
    assert (first(), second(), late(), other()) == (True, False, True, False)


def test_an_overtaken_look_is_told_so(api: Api) -> None:
    piece = api.piece(seed=5)
    assert api.send("post", "previews", {"document": piece["document"], "size": 512, "bench": "b", "turn": 9}).status_code == 200
    document = json.loads(json.dumps(piece["document"]))
    document["layers"][0]["steps"][-1]["settings"]["radius"] = 0.5
    answer = api.send("post", "previews", {"document": document, "size": 512, "bench": "b", "turn": 8})
    assert answer.status_code == 409
    assert answer.json()["error"]["code"] == "superseded"


def test_a_photo_that_is_gone_is_named(api: Api) -> None:
    piece = api.piece(seed=9)
    row = Photo.objects.get()
    file_of(media.photo_name(row.digest, row.suffix)).unlink()
    answer = api.send("post", "previews", {"document": piece["document"], "size": 333})
    assert answer.status_code == 404
    assert answer.json()["error"]["message"] == "The file of the photo “marsh 9” is gone from the disk. Put the photo on the Shelf again."
    api.upload(png(9), "marsh 9.png")
    assert api.send("post", "previews", {"document": piece["document"], "size": 333}).status_code == 200


@pytest.mark.parametrize("path", ["pieces/{}", "pieces/{}/exports", "pieces/{}/thumbnail", "photos/{}/preview", "exports/{}/file"])
def test_what_is_not_there_answers_in_the_one_shape(api: Api, path: str) -> None:
    answer = api.get(path.format(uuid4()))
    assert answer.status_code == 404
    assert answer.json()["error"]["code"] == "not-found"


def test_requests_off_the_rules_answer_in_the_one_shape(api: Api) -> None:
    for body in ({}, {"document": {}, "size": 1}, {"document": [], "size": 64}, {"document": {}, "size": "big"}):
        error = api.send("post", "previews", body).json()["error"]
        assert error["code"] in ("invalid", "piece")
        assert error["faults"]


def test_generated_documents_are_current() -> None:
    for name, text in documents().items():
        assert (Path(__file__).parents[2] / "docs" / name).read_text(encoding="utf-8") == text, f"run make docs: {name} is old"
