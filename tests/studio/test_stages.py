"""What identifies stages, over the API: of groups apart, of figures that were corrected; and what versions, runs and wrong methods are answered."""

from __future__ import annotations

import io
from typing import Any

import numpy as np
import pytest
from PIL import Image

from caracol.studio.models import Photo, Piece, Version

from .conftest import Api
from .test_recipes import kept


def stages(api: Api, document: dict[str, Any]) -> dict[str, Any]:
    answer = api.send("post", "analyses/identities", {"document": document})
    assert answer.status_code == 200, answer.content
    return dict(answer.json())


def group(name: str, photo: str) -> dict[str, Any]:
    slices = {"id": "s", "kind": "slices", "settings": {"seed": 1}}
    return {"id": name, "layers": [{"id": f"in-{name}", "source": {"kind": "photo", "photo": photo}}], "steps": [slices]}


def test_bars_of_two_groups_are_asked_for_apart(api: Api) -> None:
    names = [api.photo(seed)["file_name"] for seed in (1, 2)]
    document = {"caracol": 3, "layers": [group("one", names[0]), group("two", names[1])]}
    found = stages(api, document)["entries"]
    assert found["one"]["steps"]["s"]["answer"] != found["two"]["steps"]["s"]["answer"]
    bars = [api.send("post", "analyses/bars", {"document": document, "layer": name, "step": "s"}).json()["bars"] for name in ("one", "two")]
    assert bars[0] != bars[1]
    assert set(found) == {"one", "two", "in-one", "in-two"}


def test_a_photo_that_has_other_contents_is_another_stage(api: Api) -> None:
    """As a figure has that was corrected in place: its name stays."""
    photo = api.photo()
    document = {"caracol": 3, "layers": [{"id": "a", "source": {"kind": "photo", "photo": photo["file_name"]}}]}
    before = stages(api, document)
    other = api.photo(2)
    other_row = Photo.objects.get(id=other["id"])
    Photo.objects.filter(id=other["id"]).delete()
    Photo.objects.filter(id=photo["id"]).update(digest=other_row.digest)
    assert stages(api, document)["whole"] != before["whole"]


def test_a_piece_that_is_none_is_refused_with_its_faults(api: Api) -> None:
    answer = api.send("post", "analyses/identities", {"document": {"caracol": 3, "layers": []}})
    assert answer.status_code == 422
    assert answer.json()["error"]["code"] == "piece"


def test_a_wrong_method_is_answered_like_every_other_error(api: Api) -> None:
    answer = api.client.delete("/api/v1/catalogue")
    assert (answer.status_code, answer.headers["Content-Type"]) == (405, "application/json")
    assert answer.json()["error"]["message"] == "This address does not take DELETE; it takes GET."
    assert answer.headers["Allow"] == "GET"


@pytest.mark.parametrize("what", ["pieces", "restore"])
def test_a_version_that_cannot_be_read_makes_no_piece(api: Api, what: str) -> None:
    piece = api.piece()
    row = Piece.objects.get(id=piece["id"])
    version = Version.objects.create(
        piece=row, name="v", document={"caracol": 3, "layers": [{"id": "a", "steps": [{"id": "s", "kind": "gone"}]}]}
    )
    answer = api.send("post", f"versions/{version.id}/{what}")
    assert answer.status_code == 422
    assert "unknown kind 'gone'" in answer.json()["error"]["message"]
    assert Piece.objects.count() == 1
    row.refresh_from_db()
    assert row.revision == 1


def test_a_run_says_how_many_photos_it_would_enlarge(api: Api) -> None:
    """From their measures alone; the size that is offered enlarges none."""
    small = api.photo()["file_name"]
    out = io.BytesIO()
    Image.fromarray(np.zeros((600, 1200, 3), np.uint8)).save(out, "PNG")
    large = api.upload(out.getvalue(), "large.png").json()["file_name"]
    recipe = kept(api)

    def asked(size: int) -> dict[str, Any]:
        body = {"recipe": recipe["id"], "photos": [small, large], "size": size}
        return dict(api.send("post", "runs/estimates", body).json())

    found = asked(4096)
    assert found["enlarged"] == 2
    assert asked(found["sharp"]) == {"enlarged": 0, "sharp": found["sharp"]}
    assert asked(3 * found["sharp"])["enlarged"] == 1
