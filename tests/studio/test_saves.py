"""Saves that arrive twice, histories kept with pieces, pieces this release cannot read."""

from __future__ import annotations

import json
import random
import re
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import call_command

from caracol.core.bounds import SPACED
from caracol.core.io.formats import Note, encode
from caracol.core.piece.files import check_piece
from caracol.studio import versions
from caracol.studio.models import Piece, Version

from .conftest import Api

OLDER = sorted((Path(__file__).parent / "older").glob("*.json"))


def save(api: Api, piece: dict[str, Any], revision: int, name: str, **more: Any) -> Any:
    body = {"revision": revision, "name": name, "document": piece["document"], **more}
    return api.send("put", f"pieces/{piece['id']}", body)


def test_the_same_save_sent_twice_is_one_save(api: Api) -> None:
    """Its answer got lost, so the page sends it again: no second revision, and no false “changed elsewhere”."""
    piece = api.piece("plain")
    first, again = (save(api, piece, 1, "Mine", token="one").json() for _ in range(2))
    assert (first["revision"], again["revision"]) == (2, 2)
    assert again["save_token"] == "one"
    assert save(api, piece, 1, "Other", token="two").status_code == 409
    assert save(api, piece, 1, "Other").status_code == 409
    assert save(api, piece, 2, "Next", token="two").json()["revision"] == 3
    assert save(api, piece, 1, "Mine", token="one").status_code == 409  # another save came after it


def test_an_empty_token_is_no_token(api: Api) -> None:
    piece = api.piece("plain")
    save(api, piece, 1, "Mine")
    assert save(api, piece, 1, "Mine").status_code == 409


def test_a_history_is_kept_with_the_revision_it_belongs_to(api: Api) -> None:
    piece = api.piece("plain")
    path = f"pieces/{piece['id']}/history"
    assert api.get(path).json() == {"revision": 0, "history": None}
    packed = json.dumps({"table": [{"a": 1}], "past": [{"name": "x", "document": {"@": 0}, "done": "ö"}], "future": []})
    save(api, piece, 1, "Mine")
    assert api.send("put", path, {"revision": 2, "history": packed}).json() == {"revision": 2}
    assert api.get(path).json() == {"revision": 2, "history": packed}
    save(api, piece, 2, "Elsewhere")
    assert api.get(path).json()["revision"] == 2  # of no use any more: the piece is at 3
    # One that comes late, of an earlier revision, takes nothing away.
    assert api.send("put", path, {"revision": 1, "history": "{}"}).json() == {"revision": 2}
    assert api.get(path).json()["history"] == packed
    assert api.send("put", path, {"revision": 3, "history": "{}"}).json() == {"revision": 3}


def stroked(*lines: list[int]) -> dict[str, Any]:
    """Return a document with a stroke along each line, in layers of at most two thousand."""
    made = [{"mode": "erase", "line": line, "radius": 0.001} for line in lines]
    steps = [{"id": "s", "kind": "touch-up", "settings": {"strokes": made[start : start + 2000]}} for start in range(0, len(made), 2000)]
    return {"caracol": 3, "layers": [{"id": f"l{n}", "source": {"kind": "fill"}, "steps": [step]} for n, step in enumerate(steps)]}


def test_a_piece_of_eight_megabytes_is_kept_delivered_and_opened_again(api: Api) -> None:
    piece = api.piece("plain")
    rng = random.Random(3)
    ways = [[rng.randrange(-9999, 9999) for _ in range(340)] for _ in range(2000)]
    document = stroked(*([*line, *(-way for way in line)] for line in ways))
    assert len(json.dumps(document)) > 8_000_000
    kept = save(api, piece | {"document": document}, 1, "Large").json()
    assert kept["revision"] == 2
    # In a JPEG, where it travels in many segments.
    content = encode(np.zeros((8, 8, 3), np.uint8), "jpeg", note=Note(trail=kept["document"]))
    opened = api.client.post("/api/v1/pieces/imports", {"file": SimpleUploadedFile("large.jpg", content)})
    assert (opened.status_code, opened.json().get("document")) == (201, kept["document"])
    file = api.get(f"pieces/{piece['id']}/file").content
    assert len(file) < SPACED
    assert check_piece(json.loads(file)) == check_piece(document)


def test_a_piece_that_could_not_be_opened_again_is_not_kept(api: Api) -> None:
    piece = api.piece("plain")
    line = [1_999_999, 1_999_999, -1_999_999, -1_999_999] * 100
    answer = save(api, piece | {"document": stroked(*[line] * 4000)}, 1, "Too large")
    assert answer.status_code == 422
    assert re.search(r"it takes 1\d\.\d MB; at most 12 MB are kept", answer.json()["error"]["message"])
    assert api.get(f"pieces/{piece['id']}").json()["revision"] == 1


def test_a_list_looks_into_a_document_once(api: Api, django_assert_num_queries: Any) -> None:
    """Eight pieces of 7 MB made every list take five seconds."""
    piece = api.piece("plain")
    assert [(row["steps"], row["layers"], row["photo"]) for row in api.rows("pieces")] == [(0, 1, "marsh 1.png")]
    with django_assert_num_queries(2):  # how many there are, and their rows: no document
        assert api.rows("pieces")[0]["layers"] == 1
    twice = {**piece["document"], "layers": [*piece["document"]["layers"], {"id": "b", "source": {"kind": "fill"}}]}
    assert save(api, piece | {"document": twice}, 1, "Two").status_code == 200
    assert api.rows("pieces")[0]["layers"] == 2


def broken(api: Api, document: Any) -> str:
    piece = api.piece("plain")
    Piece.objects.filter(id=piece["id"]).update(document=document, name="Broken")
    return str(piece["id"])


@pytest.mark.parametrize(
    "document",
    [
        {"caracol": 1, "layers": [{"id": "a", "source": {"kind": "photo", "photo": "p"}, "steps": [{"id": "s", "kind": "gone"}]}]},
        {"caracol": 9, "layers": []},
        {"caracol": 1},
        {"caracol": 1, "layers": "none"},
        {"caracol": 1, "layers": [3, {"id": "g", "layers": [None]}]},
        [],
        "text",
    ],
    ids=["kind", "newer", "empty", "words", "odd", "list", "text"],
)
def test_one_unreadable_piece_hides_no_other(api: Api, document: Any) -> None:
    good = api.piece("plain", seed=2)
    bad = broken(api, document)
    call_command("prepare")
    rows = {row["id"]: row for row in api.rows("pieces")}
    assert set(rows) == {good["id"], bad}
    assert rows[good["id"]]["faults"] == []
    assert rows[bad]["faults"]
    assert json.loads(api.get(f"pieces/{bad}/file").content) == document
    assert api.send("delete", f"pieces/{bad}").status_code == 200
    assert [row["id"] for row in api.rows("pieces")] == [good["id"]]


def test_an_unreadable_piece_says_why_when_it_is_opened_and_a_save_mends_it(api: Api) -> None:
    bad = broken(api, {"caracol": 1, "layers": [{"id": "a", "steps": [{"id": "s", "kind": "rign"}]}]})
    opened = api.get(f"pieces/{bad}").json()
    assert opened["faults"] == ["layers[0].steps[0]: unknown kind 'rign'; did you mean ring or unring or rim?"]
    call_command("prepare")
    assert opened["document"] is None
    document = api.get(f"pieces/{bad}/file").json()
    document["layers"][0]["steps"][0]["kind"] = "ring"
    assert save(api, {**opened, "document": document}, 1, "Mended").status_code == 200
    assert api.rows("pieces")[0]["faults"] == []


def test_a_save_that_comes_before_a_restore_is_kept_as_a_version(api: Api) -> None:
    """The version was looked up before the save: what was saved meanwhile must not be overwritten unseen."""
    piece = api.piece("plain")
    version = versions.add(Piece.objects.get(id=piece["id"]), "Before")
    stale = Version.objects.select_related("piece").get(id=version.id)
    piece["document"]["layers"][0]["name"] = "Saved meanwhile"
    assert save(api, piece, 1, "Mine").status_code == 200
    restored = versions.restore(stale)
    assert restored.revision == 3
    assert restored.name == "Mine"
    names = [v.document["layers"][0]["name"] for v in Version.objects.filter(piece_id=piece["id"])]
    assert "Saved meanwhile" in names


@pytest.mark.parametrize("path", OLDER, ids=lambda path: path.stem)
def test_pieces_of_older_releases_open(api: Api, path: Path) -> None:
    """Files as release 0.1 writes them, for every later one: each must be taken in, and lose nothing of what it says."""
    document = json.loads(path.read_text(encoding="utf-8"))
    made = api.send("post", "pieces", {"name": path.stem, "document": document})
    assert made.status_code == 201, made.content
    opened = check_piece(made.json()["document"])
    steps = [step["kind"] for layer in document["layers"] for step in layer.get("steps", [])]
    assert [step.kind for layer in opened.walk() for step in layer.steps][: len(steps)] == steps


def test_there_are_files_of_older_releases() -> None:
    assert len(OLDER) >= 4
