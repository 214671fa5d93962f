"""The Shelf through the API."""

from __future__ import annotations

import os
import time
from pathlib import Path
from threading import Event, Thread
from typing import Any

import pytest

from caracol.core.errors import PictureError
from caracol.core.render.cache import Cache
from caracol.studio import media, sandbox
from caracol.studio.decoding import DECODING, MemoryBudget
from caracol.studio.garbage_collection import collect_files
from caracol.studio.models import Photo
from caracol.studio.photos import SHELF, clean_name

from .conftest import Api, file_of, png


def test_upload_is_read_listed_and_previewed(api: Api, pixels: Any) -> None:
    photo = api.photo()
    assert (photo["width"], photo["height"]) == (256, 128)
    assert photo["reading"]["words"]
    assert [p["id"] for p in api.rows("photos")] == [photo["id"]]
    preview = api.client.get(photo["preview"])
    assert pixels(b"".join(preview.streaming_content)).shape == (128, 256, 3)


def test_the_same_file_twice_is_one_photo_and_read_once(api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    first = api.photo()
    read = sandbox.inspect_file
    times: list[str] = []
    monkeypatch.setattr(sandbox, "inspect_file", lambda content, name: times.append(name) or read(content, name))
    again = api.upload(png(), "other name.png").json()
    assert (again["id"], again["new"], times) == (first["id"], False, [])
    # Where its file was lost it is taken in again.
    kept = Photo.objects.get()
    file_of(media.photo_name(kept.digest, kept.suffix)).unlink()
    again = api.upload(png(), "other name.png").json()
    assert (again["id"], again["new"], times) == (first["id"], False, ["other name"])


def test_two_photos_of_one_name_both_keep_theirs(api: Api) -> None:
    names = {api.upload(png(seed), "marsh.png").json()["file_name"] for seed in (1, 2, 3)}
    assert names == {"marsh.png", "marsh-2.png", "marsh-3.png"}


@pytest.mark.parametrize(
    ("name", "kept"),
    [
        ("../../etc/passwd.png", "passwd"),
        ("C:\\photos\\marsh.png", "marsh"),
        ("<script>alert(1)</script>.png", "script-"),
        ("con\x00trol\x1b[31m\u202e.png", "control[31m"),
        ("   ...png", "png"),
        ("日本の湿地.png", "日本の湿地"),
        ("x" * 400 + ".png", "x" * 110),
        ("%2e%2e%2fmarsh.png", "-2e-2e-2fmarsh"),
    ],
)
def test_hostile_names_are_made_harmless(api: Api, name: str, kept: str) -> None:
    assert clean_name(name) == kept
    photo = api.upload(png(), name).json()
    assert "/" not in photo["file_name"]
    assert "\\" not in photo["file_name"]


@pytest.mark.parametrize(
    ("content", "message"),
    [(b"", "is empty"), (b"no picture", "is not a picture that can be read"), (png()[:300], "is damaged or cut short")],
)
def test_what_cannot_be_read_is_refused_and_leaves_nothing(api: Api, content: bytes, message: str) -> None:
    answer = api.upload(content, "marsh.png")
    assert answer.status_code == 422
    error = answer.json()["error"]
    assert error["code"] == "picture"
    assert "marsh" in error["message"]
    assert message in error["message"]
    assert not Photo.objects.exists()


def test_a_wrong_ending_is_noted(api: Api) -> None:
    photo = api.upload(png(), "marsh.jpg").json()
    assert photo["file_name"] == "marsh.png"
    assert photo["notes"] == ["Its name ends with .jpg, but it is a PNG file; it was read as that."]


def test_a_full_disk_is_told_and_leaves_nothing(api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    def full(*_: Any) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    answer = api.upload(png(77), "marsh.png")
    assert answer.status_code == 507
    assert "The disk is full. Free some room" in answer.json()["error"]["message"]
    assert not Photo.objects.exists()
    assert not list(Path(os.environ["CARACOL_VAR"]).rglob(".part-*"))


def test_rename_delete_restore_search(api: Api) -> None:
    photo = api.photo()
    path = f"photos/{photo['id']}"
    assert api.send("patch", path, {"name": "  Low tide "}).json()["name"] == "Low tide"
    assert api.send("patch", path, {"name": "   "}).status_code == 422
    assert len(api.rows("photos?search=low")) == 1
    assert len(api.rows("photos?search=high")) == 0
    assert api.send("delete", path).json()["deleted"] is True
    assert api.rows("photos") == []
    assert api.send("post", f"{path}/restore").json()["deleted"] is False
    assert len(api.rows("photos")) == 1


def test_uploading_a_deleted_photo_brings_it_back(api: Api) -> None:
    photo = api.photo()
    api.send("delete", f"photos/{photo['id']}")
    assert api.photo()["id"] == photo["id"]
    assert len(api.rows("photos")) == 1


def test_lists_come_in_pages(api: Api) -> None:
    reading = api.photo()["reading"]
    Photo.objects.bulk_create(Photo(name=f"p{n}", file_name=f"p{n}.png", width=4, height=3, reading=reading) for n in range(130))
    first = api.get("photos").json()
    assert (len(first["items"]), first["count"]) == (60, 131)
    seen = [photo["file_name"] for page in range(5) for photo in api.get(f"photos?limit=30&offset={30 * page}").json()["items"]]
    assert len(seen) == len(set(seen)) == 131
    assert [photo["name"] for photo in api.rows("photos?file_name=p77.png")] == ["p77"]
    assert api.get("photos?limit=0").status_code == 422


def test_files_are_whole_or_not_there(monkeypatch: pytest.MonkeyPatch) -> None:
    name = media.store("photos", b"contents", ".bin")
    assert file_of(name).read_bytes() == b"contents"
    monkeypatch.setattr(os, "replace", lambda *_: (_ for _ in ()).throw(OSError(5, "broken")))
    with pytest.raises(OSError, match="broken"):
        media.store("photos", b"other contents", ".bin")
    assert len(list(file_of(name).parents[1].rglob("*.bin"))) >= 1
    assert not list(file_of(name).parents[1].rglob(".part-*"))


def test_a_reading_of_another_shape_hides_no_photo(api: Api) -> None:
    good, odd = api.photo(1), api.photo(2)
    Photo.objects.filter(id=odd["id"]).update(reading={"words": "old"})
    rows = {row["id"]: row for row in api.rows("photos")}
    assert rows[good["id"]]["reading"] == good["reading"]
    assert rows[odd["id"]]["reading"]["words"].startswith("not read")
    assert api.send("post", "pieces", {"photo": odd["id"], "start": "planet"}).status_code == 201


def test_a_preview_that_is_gone_is_made_again(api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    photo = Photo.objects.get(id=api.photo()["id"])
    file_of(photo.preview).unlink()
    assert api.get(f"photos/{photo.id}/preview").status_code == 200
    file_of(photo.preview).unlink()
    file_of(media.photo_name(photo.digest, photo.suffix)).unlink()
    monkeypatch.setattr(SHELF, "_pyramids", Cache(1 << 20))
    answer = api.get(f"photos/{photo.id}/preview")
    assert (answer.status_code, answer.json()["error"]["code"]) == (404, "missing-photo")
    api.upload(png(1), "marsh 1.png")


def test_what_is_taken_in_is_decoded_alone(api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    """Its size is not known before."""
    seen = []
    monkeypatch.setattr(sandbox, "inspect_file", lambda *_: seen.append(DECODING.taken) or (_ for _ in ()).throw(PictureError("no")))
    api.upload(png(3), "a.png")
    assert seen == [DECODING.pixels]
    assert DECODING.taken == 0


def test_small_photos_are_decoded_beside_each_other_and_large_ones_alone() -> None:
    room = MemoryBudget(100)
    inside = Event()

    def large() -> None:
        with room.of(400):
            inside.set()

    with room.of(60), room.of(40):
        waiting = Thread(target=large)
        waiting.start()
        assert not inside.wait(0.05)
    assert inside.wait(20)
    waiting.join()
    assert room.taken == 0


def test_photos_are_found_by_what_they_are_good_for(api: Api) -> None:
    from caracol.studio.models import Photo

    for seed, verdict in ((1, "fair"), (2, "poor"), (3, "good")):
        row = Photo.objects.get(id=api.photo(seed)["id"])
        row.reading = {**row.reading, "uses": [{"use": "sky well", "verdict": verdict, "reasons": ["so"]}]}
        row.save()
    assert [row["name"] for row in api.rows("photos?use=sky well")] == ["marsh 3", "marsh 1"]
    assert api.rows("photos?use=tunnel") == []
    assert [row["name"] for row in api.rows("photos?use=sky well&search=marsh 1")] == ["marsh 1"]


def test_what_was_deleted_is_listed_and_brought_back(api: Api) -> None:
    piece = api.piece()
    photo = api.photo(2)
    api.client.delete(f"/api/v1/pieces/{piece['id']}")
    api.client.delete(f"/api/v1/photos/{photo['id']}")
    assert [row["name"] for row in api.rows("pieces?gone=true")] == [piece["name"]]
    assert [row["name"] for row in api.rows("photos?gone=true")] == ["marsh 2"]
    api.send("post", f"photos/{photo['id']}/restore")
    assert api.rows("photos?gone=true") == []


def test_files_may_lie_in_any_storage(api: Api, settings: Any, monkeypatch: pytest.MonkeyPatch, pixels: Any) -> None:
    """No file has a path there: from the photo to the delivered file everything goes through the storage's own words."""
    settings.STORAGES = {**settings.STORAGES, "default": {"BACKEND": "django.core.files.storage.InMemoryStorage"}}
    monkeypatch.setattr(SHELF, "_pyramids", Cache(1 << 20))
    piece = api.piece("planet", 77)
    photo = Photo.objects.get()
    answer = api.get(f"photos/{photo.id}/preview")
    assert pixels(b"".join(answer.streaming_content)).shape == (128, 256, 3)
    export = api.send("post", f"pieces/{piece['id']}/exports", {"size": 64, "format": "png"}).json()
    answer = api.get(f"exports/{export['id']}/file")
    data = b"".join(answer.streaming_content)
    assert (answer["Content-Length"], pixels(data).shape) == (str(len(data)), (64, 64, 3))
    assert api.upload(png(77), "again.png").json()["id"] == str(photo.id), "the same file is found there"
    lost = media.store("exports", b"named by nothing", ".png")
    assert collect_files(time.time() + 60) == 1
    assert (media.exists(lost), media.exists(f"swept/exports/{lost.rsplit('/', 1)[1]}")) == (False, True)
    assert media.exists(media.photo_name(photo.digest, photo.suffix))
