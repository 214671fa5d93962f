"""Runs over the API: every photo done once, alone in its faults; paused, cancelled, retried, taken up again."""

from __future__ import annotations

import io
import os
import subprocess
import sys
import zipfile
from datetime import timedelta
from threading import Event
from threading import enumerate as enumerate_threads
from typing import Any
from urllib.parse import quote

import numpy as np
import pytest
from django.utils import timezone
from PIL import Image
from redis.exceptions import RedisError

from caracol.core.render.cache import Cache
from caracol.studio import media, run_work
from caracol.studio.garbage_collection import collect_files
from caracol.studio.heartbeat import heartbeat
from caracol.studio.models import Export, Photo, Run, RunPhoto
from caracol.studio.photos import SHELF
from caracol.studio.requeue import requeue_stale

from .conftest import Api, file_of
from .test_recipes import kept

Handed = tuple[str, int]


@pytest.fixture
def queued(monkeypatch: pytest.MonkeyPatch) -> list[Handed]:
    """Keep work back instead of doing it at once; returns the runs that were handed out, each with its turn."""
    waiting: list[Handed] = []
    enqueue = staticmethod(lambda *what: waiting.append(what))
    monkeypatch.setattr("caracol.studio.runs.work_on_run", type("Task", (), {"enqueue": enqueue}))
    return waiting


def work(handed: Handed) -> int:
    """Do what was handed out as a worker does; return how often it handed the same on to others."""
    on: list[None] = []
    run_work.work(*handed, lambda: on.append(None))
    return len(on)


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
def test_every_file_is_what_an_export_would_be(api: Api, queued: list[Handed]) -> None:
    run = asked(api)
    assert (run["waiting"], run["share"]) == (3, 0)
    assert work(queued[0]) == 1, "with photos left, others were told"
    done = state(api, run)
    assert (done["state"], done["done"], done["share"]) == ("done", 3, 1)
    rows = photos(api, run)
    assert [row["file_name"] for row in rows] == [f"marsh {k}-whirl.png" for k in (2, 3, 4)]
    assert [row["times"] for row in rows] == [1, 1, 1]
    archive = zipfile.ZipFile(io.BytesIO(b"".join(api.get(f"runs/{run['id']}/archive").streaming_content)))
    assert archive.testzip() is None
    assert archive.namelist() == [row["file_name"] for row in rows]
    file = b"".join(api.get(f"runs/{run['id']}/photos/2/file").streaming_content)
    assert archive.read(rows[1]["file_name"]) == file
    pieces = api.send(
        "post", f"recipes/{api.rows('recipes')[0]['id']}/pieces", {"photos": [rows[1]["photo"]], "dials": {"Turn": 0.7}}
    ).json()
    export = api.send("post", f"pieces/{pieces[0]['id']}/exports", {"size": 64, "format": "png"}).json()
    from caracol.studio import export_work

    export_work.work(export["id"])
    assert b"".join(api.get(f"exports/{export['id']}/file").streaming_content) == file
    sheet = Image.open(io.BytesIO(api.get(f"runs/{run['id']}/contact-sheet").content))
    assert sheet.width > 600
    small = Image.open(io.BytesIO(b"".join(api.get(f"runs/{run['id']}/photos/1/preview").streaming_content)))
    assert max(small.size) == run_work.SMALL


@pytest.mark.usefixtures("here")
def test_a_bad_photo_fails_alone_and_is_retried(api: Api, queued: list[Handed], monkeypatch: pytest.MonkeyPatch) -> None:
    run = asked(api)
    monkeypatch.setattr(SHELF, "_pyramids", Cache(1 << 20))
    photo = Photo.objects.get(file_name=photos(api, run)[1]["photo"])
    path = file_of(media.photo_name(photo.digest, photo.suffix))
    content = path.read_bytes()
    path.unlink()
    work(queued[0])
    done = state(api, run)
    assert (done["state"], done["done"], done["failed"], done["share"]) == ("done", 2, 1, 1)
    failed = photos(api, run)[1]
    assert failed["message"]
    path.write_bytes(content)
    assert api.send("post", f"runs/{run['id']}/retry").json()["state"] == "working"
    work(queued[1])
    assert state(api, run)["done"] == 3
    assert [row["times"] for row in photos(api, run)] == [1, 2, 1]


@pytest.mark.usefixtures("here")
def test_pausing_cancelling_and_going_on(api: Api, queued: list[Handed], monkeypatch: pytest.MonkeyPatch) -> None:
    run = asked(api)
    monkeypatch.setattr(run_work, "SLICE", 0.0)
    assert work(queued[0]) == 1
    assert state(api, run)["done"] == 1, "after its slice it lets other work in between"
    monkeypatch.setattr(run_work, "SLICE", 8.0)
    assert api.send("post", f"runs/{run['id']}/pause").json()["state"] == "paused"
    assert work(queued[0]) == 0
    assert state(api, run)["done"] == 1
    api.send("post", f"runs/{run['id']}/resume")
    assert work(queued[0]) == 0, "what was handed out before is worked on no more"
    assert (state(api, run)["done"], len(queued)) == (1, 2)
    honest = run_work._do

    def then_cancel(photo: RunPhoto) -> None:
        honest(photo)
        api.send("post", f"runs/{run['id']}/cancel")

    monkeypatch.setattr(run_work, "_do", then_cancel)
    work(queued[1])
    over = state(api, run)
    assert (over["state"], over["done"], over["cancelled"]) == ("cancelled", 2, 1)


def long_ago() -> Any:
    return timezone.now() - timedelta(minutes=2)


@pytest.mark.usefixtures("here")
def test_what_a_dead_worker_had_in_hand_is_taken_up_and_its_word_counts_no_more(api: Api, queued: list[Handed]) -> None:
    run = asked(api, 2)
    taken = run_work._take(*queued[0])
    assert taken is not None
    assert requeue_stale(everything=False) == (0, 0), "its worker was just heard of"
    assert photos(api, run)[0]["state"] == "working"
    RunPhoto.objects.filter(id=taken.id).update(heard_at=long_ago())
    assert requeue_stale(everything=False) == (0, 1)
    assert work(queued[0]) == 0, "what was handed out before is worked on no more"
    work(queued[-1])
    rows = photos(api, run)
    assert [(row["state"], row["times"]) for row in rows] == [("done", 2), ("done", 1)]
    # The first worker was not dead after all: what it has made is dropped.
    before = rows[0]["size_bytes"]
    run_work._do(taken)
    assert photos(api, run)[0]["size_bytes"] == before
    assert photos(api, run)[0]["times"] == 2


def test_a_run_that_nobody_was_told_of_is_handed_out_again(api: Api, queued: list[Handed]) -> None:
    """A queue that lost what it held, as a server without a disk may."""
    run = asked(api, 1)
    assert requeue_stale(everything=False) == (0, 0)
    Run.objects.update(heard_at=long_ago())
    assert requeue_stale(everything=False) == (0, 1)
    assert [turn for _, turn in queued] == [1, 2]
    assert state(api, run)["waiting"] == 1


def test_a_queue_that_does_not_answer_is_told_later(api: Api, settings: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    settings.REDIS = "redis://nowhere"
    told: list[Handed] = []

    def away(*_: Any) -> None:
        raise RedisError("Connection refused")

    monkeypatch.setattr("caracol.studio.runs.work_on_run", type("Task", (), {"enqueue": staticmethod(away)}))
    run = asked(api, 1)
    assert state(api, run)["state"] == "working"
    monkeypatch.setattr("caracol.studio.runs.work_on_run", type("Task", (), {"enqueue": staticmethod(lambda *what: told.append(what))}))
    Run.objects.update(heard_at=long_ago())
    assert requeue_stale(everything=False) == (0, 1)
    assert told == [(run["id"], 2)]


def test_long_work_gives_signs_of_life(api: Api, queued: list[Handed], settings: Any) -> None:
    settings.SILENT = 0.06
    given = Event()

    class Rows:
        def filter(self, **_: Any) -> Rows:
            return self

        def update(self, **_: Any) -> None:
            given.set()

    with heartbeat(Rows()):  # type: ignore[arg-type]
        assert given.wait(20)
    assert not [thread for thread in enumerate_threads() if thread.name == "heart"]


@pytest.mark.parametrize("heard", [None, long_ago()])
def test_a_silent_export_is_taken_up(api: Api, heard: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("caracol.studio.exports.run_export", type("Task", (), {"enqueue": staticmethod(lambda *_: None)}))
    export = api.send("post", f"pieces/{api.piece()['id']}/exports", {"size": 64, "format": "png"}).json()
    mine = Export.objects.filter(id=export["id"])
    assert requeue_stale(everything=False) == (0, 0), "it waits in the queue"
    mine.update(state="working", heard_at=timezone.now())
    assert requeue_stale(everything=False) == (0, 0)
    mine.update(heard_at=heard)
    assert requeue_stale(everything=False) == (1, 0)
    assert mine.get().state == "waiting"
    assert requeue_stale(everything=False) == (0, 0), "it was just put into the queue"
    mine.update(heard_at=heard)
    assert requeue_stale(everything=False) == (1, 0), "a queue may have lost it"


@pytest.mark.parametrize(
    ("wrong", "says"),
    [
        ({"CARACOL_DATABASE": "mysql://somewhere/caracol"}, "CARACOL_DATABASE is the address of a PostgreSQL database"),
        ({"CARACOL_REDIS": "somewhere:6379"}, "CARACOL_REDIS is the address of a Redis server"),
    ],
)
def test_settings_that_make_no_sense_are_told(wrong: dict[str, str], says: str) -> None:
    command = [sys.executable, "-m", "caracol.studio.serve", "--only", "worker"]
    started = subprocess.run(command, env={**os.environ, **wrong}, capture_output=True, text=True, check=False)
    assert started.returncode == 1
    assert started.stderr.startswith(f"Caracol could not start: {says}")


@pytest.mark.usefixtures("here")
def test_after_a_restart_everything_goes_on(api: Api, queued: list[Handed]) -> None:
    run = asked(api, 2)
    run_work._take(*queued[0])
    assert requeue_stale(everything=True) == (0, 1)
    work(queued[-1])
    assert state(api, run)["done"] == 2


@pytest.mark.usefixtures("here")
def test_its_files_are_not_swept(api: Api, queued: list[Handed]) -> None:
    run = asked(api, 1)
    work(queued[0])
    collect_files(timezone.now().timestamp() + 60)
    assert api.get(f"runs/{run['id']}/photos/1/file").status_code == 200
    assert api.get(f"runs/{run['id']}/photos/1/preview").status_code == 200


def test_two_hands_take_no_photo_twice(api: Api, queued: list[Handed], monkeypatch: pytest.MonkeyPatch) -> None:
    """Between one hand's look and its grasp another takes the very photo that it has seen."""
    run = asked(api, 3)
    honest = timezone.now
    others: list[int] = []

    def after_the_other() -> Any:
        if not others:
            others.append(RunPhoto.objects.filter(number=1).update(state="working", times=1, heard_at=honest()))
        return honest()

    monkeypatch.setattr("caracol.studio.run_work.timezone.now", after_the_other)
    taken = [run_work._take(*queued[0]) for _ in range(3)]
    assert others == [1]
    assert [photo.number if photo else None for photo in taken] == [2, 3, None]
    assert [row["times"] for row in photos(api, run)] == [1, 1, 1]


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"pattern": "{artist}"}, "{artist} is not filled in"),
        ({"pattern": "../{photo}"}, "no plain file name"),
        ({"dials": {"Speed": 1}}, "has no dial 'Speed'"),
        ({"photos": ["gone.png"]}, "is not on the Shelf"),
        ({"options": {"format": "bmp"}}, "format"),
    ],
)
def test_what_is_asked_wrongly_begins_nothing(api: Api, queued: list[Handed], change: dict[str, Any], says: str) -> None:
    body = {"recipe": kept(api)["id"], "photos": [api.photo()["file_name"]], "options": {"size": 64}, **change}
    answer = api.send("post", "runs", body)
    assert answer.status_code in (404, 422)
    assert says in str(answer.json())
    assert not queued
    assert not Run.objects.exists()


def test_names_of_one_run_are_distinct(api: Api, queued: list[Handed]) -> None:
    run = asked(api, 3, pattern="Evening {recipe}")
    assert [row["file_name"] for row in photos(api, run)] == ["Evening whirl.png", "Evening whirl-2.png", "Evening whirl-3.png"]
    assert np.unique([row["number"] for row in photos(api, run)]).tolist() == [1, 2, 3]


def test_downloads_are_named_in_every_script(api: Api, queued: list[Handed]) -> None:
    """A run called 潮だまり was “zip.zip” (RFC 6266, RFC 8187)."""
    run = asked(api, 1)
    Run.objects.filter(id=run["id"]).update(name="潮だまり, früh")
    told = api.get(f"runs/{run['id']}/archive")["Content-Disposition"]
    assert told == f"attachment; filename*=utf-8''{quote('潮だまり-früh.zip')}"
    piece = api.piece("plain")
    api.send("put", f"pieces/{piece['id']}", {"revision": 1, "name": "Before/After v1.2", "document": piece["document"]})
    assert api.get(f"pieces/{piece['id']}/file")["Content-Disposition"] == 'attachment; filename="before-after-v1.2.json"'
    export = api.send("post", f"pieces/{piece['id']}/exports", {"size": 64, "format": "png"}).json()
    assert export["file_name"] == "before-after-v1.2-01.png"


@pytest.mark.parametrize(
    ("dials", "told"), [({"Trun": 0.7}, "has no dial 'Trun'"), ({"Turn": 70}, "70 is not between"), ({"Turn": 10**400}, "valid number")]
)
def test_a_run_whose_dials_are_none_is_not_begun(api: Api, dials: dict[str, float], told: str) -> None:
    recipe = kept(api)["id"]
    body = {"recipe": recipe, "photos": [api.photo(2)["file_name"]], "dials": dials, "options": {"size": 64, "format": "png"}}
    for path in ("runs", f"recipes/{recipe}/pieces"):
        answer = api.send("post", path, body)
        assert (answer.status_code, told in answer.json()["error"]["message"]) == (422, True), answer.content
    assert not Run.objects.exists()


@pytest.mark.parametrize("dials", ["[" * 2000, '{"Turn": 1' + "0" * 400 + "}", '{"Turn": NaN}', '{"Turn": []}', "[1]", '{"Trun": 1}'])
def test_dials_in_an_address_are_read_or_refused(api: Api, dials: str) -> None:
    photo = api.photo(2)["file_name"]
    answer = api.client.get(f"/api/v1/recipes/{kept(api)['id']}/preview", {"photo": photo, "dials": dials, "size": 32})
    assert answer.status_code == 422, answer.content
