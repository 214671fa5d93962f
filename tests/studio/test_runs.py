"""Runs over the API: every photo done once, alone in its faults; paused, cancelled, retried, taken up again."""

from __future__ import annotations

import io
import zipfile
from datetime import timedelta
from typing import Any

import numpy as np
import pytest
from django.utils import timezone
from PIL import Image

from caracol.core.render.cache import Cache
from caracol.studio import media, run_work, runs
from caracol.studio.models import Photo, Run, RunPhoto
from caracol.studio.photos import SHELF
from caracol.studio.sweeping import sweep_files

from .conftest import Api
from .test_recipes import kept


@pytest.fixture
def queued(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """Keep work back instead of doing it at once; returns the runs that were handed out."""
    waiting: list[str] = []
    monkeypatch.setattr("caracol.studio.runs.work_on_run", type("Task", (), {"enqueue": staticmethod(waiting.append)}))
    return waiting


@pytest.fixture
def here(monkeypatch: pytest.MonkeyPatch) -> None:
    """Work in this thread: other threads do not see a test's transaction."""
    monkeypatch.setattr(run_work, "CORES", 1)


def asked(api: Api, count: int = 3, **more: Any) -> dict[str, Any]:
    photos = [api.photo(seed)["file_name"] for seed in range(2, 2 + count)]
    body = {"recipe": kept(api)["id"], "photos": photos, "dials": {"Turn": 0.7}, "options": {"size": 64, "format": "png"}, **more}
    answer = api.send("post", "runs", body)
    assert answer.status_code == 201, answer.content
    return dict(answer.json())


def state(api: Api, run: dict[str, Any]) -> dict[str, Any]:
    return dict(api.get(f"runs/{run['id']}").json())


def photos(api: Api, run: dict[str, Any]) -> list[dict[str, Any]]:
    return api.rows(f"runs/{run['id']}/photos")


@pytest.mark.usefixtures("here")
def test_every_file_is_what_an_export_would_be(api: Api, queued: list[str]) -> None:
    run = asked(api)
    assert (run["waiting"], run["share"]) == (3, 0)
    assert run_work.work(queued[0]) is False
    done = state(api, run)
    assert (done["state"], done["done"], done["share"]) == ("done", 3, 1)
    rows = photos(api, run)
    assert [row["file_name"] for row in rows] == [f"marsh {k}-whirl.png" for k in (2, 3, 4)]
    assert [row["times"] for row in rows] == [1, 1, 1]
    archive = zipfile.ZipFile(io.BytesIO(b"".join(api.get(f"runs/{run['id']}/zip").streaming_content)))
    assert archive.testzip() is None
    assert archive.namelist() == [row["file_name"] for row in rows]
    file = b"".join(api.get(f"runs/{run['id']}/photos/2/file").streaming_content)
    assert archive.read(rows[1]["file_name"]) == file
    pieces = api.send(
        "post", f"recipes/{api.rows('recipes')[0]['id']}/pieces", {"photos": [rows[1]["photo"]], "dials": {"Turn": 0.7}}
    ).json()
    export = api.send("post", f"pieces/{pieces[0]['id']}/exports", {"size": 64, "format": "png"}).json()
    from caracol.studio import delivery

    delivery.work(export["id"])
    assert b"".join(api.get(f"exports/{export['id']}/file").streaming_content) == file
    sheet = Image.open(io.BytesIO(api.get(f"runs/{run['id']}/sheet").content))
    assert sheet.width > 600
    small = Image.open(io.BytesIO(b"".join(api.get(f"runs/{run['id']}/photos/1/picture").streaming_content)))
    assert max(small.size) == run_work.SMALL


@pytest.mark.usefixtures("here")
def test_a_bad_photo_fails_alone_and_is_retried(api: Api, queued: list[str], monkeypatch: pytest.MonkeyPatch) -> None:
    run = asked(api)
    monkeypatch.setattr(SHELF, "_pyramids", Cache(1 << 20))
    photo = Photo.objects.get(file_name=photos(api, run)[1]["photo"])
    path = media.path_of(f"photos/{photo.digest[:2]}/{photo.digest}{photo.suffix}")
    content = path.read_bytes()
    path.unlink()
    run_work.work(queued[0])
    done = state(api, run)
    assert (done["state"], done["done"], done["failed"], done["share"]) == ("done", 2, 1, 1)
    failed = photos(api, run)[1]
    assert failed["message"]
    path.write_bytes(content)
    assert api.send("post", f"runs/{run['id']}/retry").json()["state"] == "working"
    run_work.work(queued[1])
    assert state(api, run)["done"] == 3
    assert [row["times"] for row in photos(api, run)] == [1, 2, 1]


@pytest.mark.usefixtures("here")
def test_pausing_cancelling_and_going_on(api: Api, queued: list[str], monkeypatch: pytest.MonkeyPatch) -> None:
    run = asked(api)
    monkeypatch.setattr(run_work, "SLICE", 0.0)
    assert run_work.work(queued[0]) is True
    monkeypatch.setattr(run_work, "SLICE", 8.0)
    assert api.send("post", f"runs/{run['id']}/pause").json()["state"] == "paused"
    assert run_work.work(queued[0]) is False
    assert state(api, run)["done"] == 0
    api.send("post", f"runs/{run['id']}/on")
    assert len(queued) == 2
    honest = run_work._do

    def then_cancel(photo: RunPhoto) -> None:
        honest(photo)
        api.send("post", f"runs/{run['id']}/cancel")

    monkeypatch.setattr(run_work, "_do", then_cancel)
    run_work.work(queued[1])
    over = state(api, run)
    assert (over["state"], over["done"], over["cancelled"]) == ("cancelled", 1, 2)


@pytest.mark.usefixtures("here")
def test_what_a_dead_worker_had_in_hand_is_taken_up_and_its_word_counts_no_more(api: Api, queued: list[str]) -> None:
    run = asked(api, 2)
    taken = run_work._take(run["id"])
    assert taken is not None
    assert runs.requeue(everything=False) == 1, "the run is handed out"
    assert photos(api, run)[0]["state"] == "working", "its worker was just heard of"
    RunPhoto.objects.filter(id=taken.id).update(heard_at=timezone.now() - timedelta(minutes=2))
    run_work.work(queued[-1])
    rows = photos(api, run)
    assert [(row["state"], row["times"]) for row in rows] == [("done", 2), ("done", 1)]
    # The first worker was not dead after all: what it has made is dropped.
    before = rows[0]["size_bytes"]
    run_work._do(taken)
    assert photos(api, run)[0]["size_bytes"] == before
    assert photos(api, run)[0]["times"] == 2


@pytest.mark.usefixtures("here")
def test_after_a_restart_everything_goes_on(api: Api, queued: list[str]) -> None:
    run = asked(api, 2)
    run_work._take(run["id"])
    assert runs.requeue() == 1
    run_work.work(queued[-1])
    assert state(api, run)["done"] == 2


@pytest.mark.usefixtures("here")
def test_its_files_are_not_swept(api: Api, queued: list[str]) -> None:
    run = asked(api, 1)
    run_work.work(queued[0])
    sweep_files(timezone.now().timestamp() + 60)
    assert api.get(f"runs/{run['id']}/photos/1/file").status_code == 200
    assert api.get(f"runs/{run['id']}/photos/1/picture").status_code == 200


def test_two_hands_take_no_photo_twice(api: Api, queued: list[str], monkeypatch: pytest.MonkeyPatch) -> None:
    """Between one hand's look and its grasp another takes the very photo that it has seen."""
    run = asked(api, 3)
    honest = timezone.now
    others: list[int] = []

    def first_the_other() -> Any:
        monkeypatch.setattr("caracol.studio.run_work.timezone.now", honest)
        if others:
            return honest()
        RunPhoto.objects.filter(number=1).update(state="working", times=1, heard_at=honest())
        others.append(1)
        return honest()

    looked = iter([honest(), None])

    def now() -> Any:
        return next(looked) or first_the_other()

    monkeypatch.setattr("caracol.studio.run_work.timezone.now", now)
    taken = [run_work._take(run["id"]) for _ in range(3)]
    assert others == [1]
    assert [photo.number if photo else None for photo in taken] == [2, 3, None]
    assert [row["times"] for row in photos(api, run)] == [1, 1, 1]


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"pattern": "{artist}"}, "only {photo}, {recipe}, {number} are filled in"),
        ({"pattern": "../{photo}"}, "no plain file name"),
        ({"dials": {"Speed": 1}}, "has no dial 'Speed'"),
        ({"photos": ["gone.png"]}, "is not on the Shelf"),
        ({"options": {"format": "bmp"}}, "format"),
    ],
)
def test_what_is_asked_wrongly_begins_nothing(api: Api, queued: list[str], change: dict[str, Any], says: str) -> None:
    body = {"recipe": kept(api)["id"], "photos": [api.photo()["file_name"]], "options": {"size": 64}, **change}
    answer = api.send("post", "runs", body)
    assert answer.status_code in (404, 422)
    assert says in str(answer.json())
    assert not queued
    assert not Run.objects.exists()


def test_names_of_one_run_are_distinct(api: Api, queued: list[str]) -> None:
    run = asked(api, 3, pattern="Evening {recipe}")
    assert [row["file_name"] for row in photos(api, run)] == ["Evening whirl.png", "Evening whirl-2.png", "Evening whirl-3.png"]
    assert np.unique([row["number"] for row in photos(api, run)]).tolist() == [1, 2, 3]
