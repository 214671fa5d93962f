"""What is said of an export beforehand, and what travels in its file."""

from __future__ import annotations

import io
import zipfile
from typing import Any

import numpy as np
import pytest
import tifffile
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from tests.core.render.test_space import WIDE

from .conftest import Api, png
from .test_exports import ask, content

EVERYTHING = {"dpi": 200, "title": "Marsh", "author": "Ana", "space": "display-p3"}


def opened(api: Api, file: bytes, name: str = "file.png") -> Any:
    return api.client.post("/api/v1/pieces/imports", {"file": SimpleUploadedFile(name, file)})


@pytest.mark.parametrize("kind", ["png", "png16", "jpeg", "webp", "avif", "tiff", "tiff16"])
def test_a_delivered_file_opens_its_piece_and_gives_the_same_bytes(api: Api, kind: str) -> None:
    piece = api.piece()
    file = content(api, ask(api, piece, format=kind, shape="typed", ratio=1.5, **EVERYTHING))
    assert Image.open(io.BytesIO(file)).size == (160, 107)
    again = opened(api, file, "marsh, planet.png")
    assert again.status_code == 201
    assert again.json()["document"] == piece["document"]
    assert content(api, ask(api, again.json(), format=kind, shape="typed", ratio=1.5, **EVERYTHING)) == file


def test_a_piece_is_left_out_where_it_is_not_wanted(api: Api) -> None:
    answer = opened(api, content(api, ask(api, api.piece(), trail=False)), "bare.png")
    assert answer.status_code == 422
    assert "bare.png: there is no piece in this file" in str(answer.json())
    assert opened(api, b"no picture", "x.png").status_code == 422


def test_openraster_is_delivered_with_what_it_cannot_say(api: Api) -> None:
    piece = api.piece(start="plain")
    fill = {"id": "top", "name": "Top", "source": {"kind": "fill"}, "blend": "exclusion", "opacity": 0.5}
    piece["document"]["layers"].append(fill)
    saved = api.send("put", f"pieces/{piece['id']}", {"revision": 1, "name": "Two", "document": piece["document"]})
    assert saved.status_code == 200
    export = ask(api, piece, format="openraster")
    file = content(api, export)
    assert export["file_name"].endswith(".ora")
    assert zipfile.ZipFile(io.BytesIO(file)).namelist()[0] == "mimetype"
    (done,) = api.rows(f"pieces/{piece['id']}/exports")
    assert done["message"] == "OpenRaster has no such blend mode, so it was laid plainly: Top (exclusion)."


@pytest.mark.parametrize("kind", ["png", "jpeg", "webp", "avif", "tiff16", "openraster"])
def test_an_estimate_is_near(api: Api, kind: str) -> None:
    piece = api.piece()
    options = {"size": 1000, "format": kind, "quality": 80}
    said = api.send("post", "export-estimates", {"document": piece["document"], "options": options}).json()
    file = content(api, ask(api, piece, **options))
    assert (said["width"], said["height"]) == (1000, 1000)
    assert len(file) / 1.6 < said["size_bytes"] < len(file) * 1.6


def test_the_honest_size_is_the_photos_own_where_nothing_is_moved(api: Api) -> None:
    piece = api.piece(start="plain")
    said = api.send("post", "export-estimates", {"document": piece["document"], "options": {"size": 2048}}).json()
    assert said["honest"] == pytest.approx(256, abs=3)
    # Softness is shown where it is: everywhere beyond that size, nowhere up to it.
    for size, share in ((200, 0.0), (512, 1.0)):
        answer = api.send("post", "previews/softness", {"document": piece["document"], "size": size})
        assert float((np.asarray(Image.open(io.BytesIO(answer.content)))[..., 3] > 0).mean()) == share
    square = api.send("post", "export-estimates", {"document": piece["document"], "options": {"size": 2048, "shape": "square"}}).json()
    assert square["honest"] == pytest.approx(128, abs=3)


def test_that_a_piece_has_colours_beyond_sRGB_is_told(api: Api) -> None:
    photo = api.upload(WIDE, "wide.png").json()
    layer = {"id": "land", "source": {"kind": "photo", "photo": photo["file_name"]}, "steps": []}
    options = {"format": "png", "size": 48}

    def told(**more: Any) -> bool:
        document = {"caracol": 3, "layers": [layer | more]}
        return bool(api.send("post", "export-estimates", {"document": document, "options": options}).json()["wide"])

    assert told()
    assert not told(visible=False)


def test_names_on_the_shelf_are_distinct(api: Api) -> None:
    names = [api.piece()["name"] for _ in range(3)]
    assert names == ["marsh 1, planet", "marsh 1, planet 2", "marsh 1, planet 3"]
    assert [api.upload(png(seed), "dusk.png").json()["name"] for seed in (2, 3)] == ["dusk", "dusk 2"]


def test_a_coordinate_map_is_delivered_in_the_shape_that_is_asked_for(api: Api) -> None:
    piece = api.piece(start="plain")
    piece["document"]["layers"][0]["steps"] = [{"id": "t", "kind": "tone", "settings": {"contrast": 0.2}}]
    api.send("put", f"pieces/{piece['id']}", {"revision": 1, "name": piece["name"], "document": piece["document"]})
    options = {"format": "map", "size": 64, "shape": "square"}
    said = api.send("post", "export-estimates", {"document": piece["document"], "options": options}).json()
    assert (said["width"], said["height"]) == (64, 64)
    export = ask(api, piece, **options)
    assert export["file_name"].endswith("-01.map.tif")
    samples = tifffile.imread(io.BytesIO(content(api, export)))
    assert (samples.shape, samples.dtype) == ((64, 64, 3), np.uint16)
    # The square in the middle of a photo of 2 : 1 begins a quarter across.
    assert samples[0, 0, 0] == pytest.approx(65535 * (0.25 + 0.5 * 0.5 / 64), abs=2)
    (done,) = api.rows(f"pieces/{piece['id']}/exports")
    assert done["message"] == "Not geometry, and so no part of the map: Tone."
