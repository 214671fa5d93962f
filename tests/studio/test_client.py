"""A client that knows nothing but the API's description does a whole job, from a photo to files."""

from __future__ import annotations

import io
import json
import zipfile
from typing import Any
from urllib.parse import urlencode

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from PIL import Image

from caracol.studio.api.app import api as published
from caracol.studio.jobs import run_export, work_on_run

from .conftest import png

DESCRIPTION = published.get_openapi_schema(path_prefix="/api/v1/")
OPERATIONS = {
    operation["operationId"]: (method, path, operation)
    for path, methods in DESCRIPTION["paths"].items()
    for method, operation in methods.items()
}
PICTURES = {"image/jpeg", "image/png"}


class Described:
    """Calls operations by their names: method, address and parameters are what the description says; so must the answer be."""

    def __init__(self) -> None:
        self.client = Client()

    def __call__(self, name: str, body: Any = None, file: Any = None, **given: Any) -> Any:
        method, path, operation = OPERATIONS[name]
        kinds = {one["name"]: one["in"] for one in operation.get("parameters", [])}
        query = {one: value for one, value in given.items() if kinds[one] == "query"}
        address = path.format(**{one: value for one, value in given.items() if kinds[one] == "path"})
        address += f"?{urlencode(query)}" if query else ""
        taken = operation.get("requestBody", {}).get("content", {})
        if file is not None:
            assert "multipart/form-data" in taken
            answer = self.client.post(address, {"file": file})
        else:
            assert (body is None) or ("application/json" in taken)
            answer = self.client.generic(method.upper(), address, json.dumps(body) if body is not None else b"", "application/json")
        said = operation["responses"].get(answer.status_code)
        assert said is not None, (name, answer.status_code, answer.content)
        assert answer.status_code < 300, (name, answer.content)
        kind = answer["Content-Type"].split(";")[0]
        assert kind in said.get("content", {}), (name, kind)
        content = b"".join(answer.streaming_content) if answer.streaming else answer.content
        return json.loads(content) if kind == "application/json" else content


@pytest.mark.django_db(transaction=True)
def test_a_whole_job_by_the_description_alone() -> None:
    call = Described()
    photo = call("add_photo", file=SimpleUploadedFile("marsh.png", png(3)))
    assert call("get_photo", photo_id=photo["id"])["file_name"] == photo["file_name"]
    assert Image.open(io.BytesIO(call("get_photo_preview", photo_id=photo["id"]))).format == "JPEG"
    kinds = {kind["key"] for kind in call("get_catalogue")["kinds"]}
    assert {"ring", "twirl"} <= kinds
    piece = call("start_piece", {"photo": photo["id"], "start": "planet"})
    document = piece["document"]
    document["layers"][0]["steps"].append({"id": "t", "kind": "twirl", "settings": {"turns": 0.2}})
    shown = Image.open(io.BytesIO(call("render_preview", {"document": document, "size": 64})))
    assert max(shown.size) == 64
    saved = call("save_piece", {"revision": piece["revision"], "name": "Wound", "document": document}, piece_id=piece["id"])
    assert call("get_piece", piece_id=piece["id"])["revision"] == saved["revision"]
    version = call("add_version", {"name": "First"}, piece_id=piece["id"])
    assert call("get_version", version_id=version["id"])["document"] == saved["document"]
    export = call("start_export", {"size": 64, "format": "png"}, piece_id=piece["id"])
    run_export.func(export["id"])
    assert call("get_export", export_id=export["id"])["state"] == "done"
    picture = call("get_export_file", export_id=export["id"])
    assert max(Image.open(io.BytesIO(picture)).size) == 64
    again = call("import_piece", file=SimpleUploadedFile("wound.png", picture))
    assert again["document"]["layers"][0]["steps"] == saved["document"]["layers"][0]["steps"]
    recipe = call("add_recipe", {"document": saved["document"], "name": "Wound planet", "tags": [], "dials": []})
    tried = call("list_try_ons_of_photo", photo_id=photo["id"])
    assert [one["recipe"] for one in tried] == [recipe["id"]]
    run = call("start_run", {"recipe": recipe["id"], "photos": [photo["file_name"]], "options": {"size": 64, "format": "jpeg"}})
    work_on_run.func(run["id"])
    assert call("get_run", run_id=run["id"])["done"] == 1
    [name] = zipfile.ZipFile(io.BytesIO(call("get_run_archive", run_id=run["id"]))).namelist()
    assert name.endswith(".jpg")


def test_every_operation_says_something() -> None:
    """A summary that is no function's name, a sentence, and for every answer of 200 what it holds."""
    for name, (_, path, operation) in OPERATIONS.items():
        assert path.startswith("/api/v1/")
        assert len(operation["summary"].split()) >= 2, name
        assert len(operation.get("description", "").split()) >= 3, name
        good = [said for status, said in operation["responses"].items() if int(status) < 300]
        assert good, name
        assert all(said.get("content") for said in good), name
    pictures = [
        name for name, (_, _, operation) in OPERATIONS.items() if PICTURES & set(operation["responses"].get(200, {}).get("content", {}))
    ]
    assert len(pictures) >= 14


@pytest.mark.django_db
def test_addresses_from_before_the_version_lead_on() -> None:
    """For what one may have kept, a file's address; writing is not led on."""
    answer = Client().get("/api/photos?search=tide")
    assert (answer.status_code, answer["Location"]) == (302, "/api/v1/photos?search=tide")
    assert Client().post("/api/pieces", b"{}", content_type="application/json").status_code == 405
