"""Starting, dying and being started again; and what the dead leave behind."""

from __future__ import annotations

import errno
import os
import socket
import subprocess
import sys
import time
from pathlib import Path
from typing import Any

import psutil
import pytest
from django.conf import settings as studio
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.core.management import call_command
from django.db import DatabaseError, DataError, OperationalError
from django_tasks.base import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from caracol.studio import media, serve, thumbnails
from caracol.studio.jobs import run_export
from caracol.studio.management.commands import work
from caracol.studio.messages import of_database, of_disk
from caracol.studio.models import Export, Photo
from caracol.studio.serve import PAUSES, Part, Refused, check_folder, check_place

from .conftest import Api, file_of


class Clock:
    """Time that goes on only when told."""

    def __init__(self) -> None:
        self.now = 1000.0

    def __call__(self) -> float:
        return self.now


def die(part: Part) -> None:
    assert part.process is not None
    part.process.wait()
    part.watch()


def test_what_dies_is_started_again_after_longer_and_longer_pauses(monkeypatch: pytest.MonkeyPatch, capsys: Any, tmp_path: Path) -> None:
    clock = Clock()
    monkeypatch.setattr(serve.time, "monotonic", clock)
    mark = tmp_path / "begun"
    begun, again = ([sys.executable, "-c", f"open({str(mark)!r}, 'a').write({letter!r}); raise SystemExit(3)"] for letter in "xy")
    part = Part("worker", begun, again=again)
    part.start()
    waited = []
    for _ in range(len(PAUSES) + 2):
        die(part)
        assert part.again_at is not None
        waited.append(part.again_at - clock.now)
        first = part.process
        clock.now = part.again_at - 0.01
        part.watch()
        assert part.process is first
        clock.now += 0.02
        part.watch()
        assert part.process is not first
    assert waited == pytest.approx([*PAUSES, PAUSES[-1], PAUSES[-1]])
    assert part.process is not None
    part.process.wait()
    assert mark.read_text() == "x" + "y" * len(waited)
    said = capsys.readouterr().err.splitlines()
    assert said[0] == "The worker ended with code 3; it is started again in 0.5 s. Nothing that was saved is lost."
    clock.now += serve.SOUND + 1
    die(part)
    assert part.again_at == clock.now + PAUSES[0]


def test_it_does_not_start_where_it_cannot_work(monkeypatch: pytest.MonkeyPatch) -> None:
    with socket.socket() as other:
        other.bind(("127.0.0.1", 0))
        other.listen()
        port = other.getsockname()[1]
        with pytest.raises(Refused, match=f"port {port} is taken"):
            check_place("127.0.0.1", port)
    check_place("127.0.0.1", port)
    with pytest.raises(Refused, match="CARACOL_HOSTS"):
        check_place("0.0.0.0", port)

    def closed(**_: Any) -> None:
        raise OSError(errno.EROFS, "Read-only file system", "/var/x")

    monkeypatch.setattr(serve.tempfile, "TemporaryFile", closed)
    with pytest.raises(Refused, match=r"its folder cannot be written to.*CARACOL_VAR"):
        check_folder()


def put(name: str, content: bytes) -> str:
    return default_storage.save(name, ContentFile(content))


def test_files_that_nothing_names_are_swept_and_others_stay(api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    photo = Photo.objects.get(id=api.photo()["id"])
    kept = [media.photo_name(photo.digest, photo.suffix), photo.preview]
    swept = [put(f"{folder}/zz/{'0' * 64}.png", b"lost") for folder in ("photos", "previews", "exports")]
    half = file_of("photos/zz/.part-abc")
    half.write_bytes(b"half")
    young = put(f"exports/zz/{'1' * 64}.png", b"its row comes in a moment")
    thumbnails.keep("0" * 64, b"look")
    for path in (*kept, *swept, str(half)):
        os.utime(file_of(path), (1000, 1000))
    call_command("prepare", since=time.time() - 60)
    assert [path for path in (*kept, young) if not file_of(path).exists()] == []
    assert [path for path in (*swept, str(half)) if file_of(path).exists()] == []
    assert thumbnails.kept("0" * 64) == b"look"
    # A database that was lost names nothing: what it named can still be put back.
    assert sorted(path.parent.name for path in file_of("swept").rglob(f"{'0' * 64}.png")) == ["exports", "photos", "previews"]
    for path in file_of("swept").rglob("*.png"):
        os.utime(path)
    monkeypatch.setattr("caracol.studio.garbage_collection.KEPT", -60.0)
    call_command("prepare")
    assert not list(file_of("swept").rglob("*.png"))


def test_the_work_of_a_dead_worker_is_taken_up(api: Api, settings: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    settings.TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend"}}
    settings.MANY = False
    export = api.send("post", f"pieces/{api.piece()['id']}/exports", {"size": 64, "format": "png"}).json()
    Export.objects.filter(id=export["id"]).update(state=Export.State.WORKING, share=0.4)
    DBTaskResult.objects.update(status=TaskResultStatus.RUNNING)
    monkeypatch.setattr(work, "call_command", lambda *_, **__: None)  # it would go on for ever
    call_command("work", worker_died=True)
    assert not DBTaskResult.objects.filter(status=TaskResultStatus.RUNNING).exists()
    assert Export.objects.get(id=export["id"]).state == Export.State.WAITING
    run_export.call(export["id"])
    run_export.call(export["id"])  # asked for twice, done once
    done = Export.objects.get(id=export["id"])
    assert (done.state, done.share) == (Export.State.DONE, 1)
    assert Path(studio.VAR / done.stored).exists()


@pytest.mark.parametrize(
    ("fault", "status", "code", "told"),
    [
        (OSError(errno.ENOSPC, "No space left"), 507, "disk", "The disk is full"),
        (OSError(errno.EROFS, "Read-only file system"), 507, "disk", "cannot be written to"),
        (FileNotFoundError(errno.ENOENT, "No such file"), 404, "not-found", "not there any more"),
        (OperationalError("database or disk is full"), 507, "disk", "The disk is full"),
        (OperationalError("attempt to write a readonly database"), 507, "disk", "cannot be written to"),
        (OperationalError("database is locked"), 503, "busy", "busy"),
        (OperationalError('connection to server at "db", port 5432 failed: Connection refused'), 503, "busy", "does not answer"),
        (DataError("PostgreSQL text fields cannot contain NUL (0x00) bytes"), 422, "invalid", "control character"),
        (DataError("value too long for type character varying(200)"), 422, "invalid", "Shorten it"),
        (OperationalError("no such table: studio_piece"), 503, "not-ready", "make demo"),
        (DatabaseError("odd"), 500, "database", "log"),
    ],
)
def test_faults_of_disk_and_database_have_words(fault: Exception, status: int, code: str, told: str) -> None:
    found = of_disk(fault) if isinstance(fault, OSError) else of_database(fault)  # type: ignore[arg-type]
    assert found[:2] == (status, code)
    assert told in found[2]


@pytest.mark.parametrize(("fault", "status"), [("database or disk is full", 507), ("database is locked", 503)])
def test_a_save_on_a_full_disk_or_a_busy_database_is_told_and_loses_nothing(
    api: Api, monkeypatch: pytest.MonkeyPatch, fault: str, status: int
) -> None:
    piece = api.piece()
    body = {"revision": 1, "name": "Mine", "document": piece["document"]}

    def fail(*_: Any, **__: Any) -> None:
        raise OperationalError(fault)

    with monkeypatch.context() as broken:
        broken.setattr("django.db.models.query.QuerySet.update", fail)
        answer = api.send("put", f"pieces/{piece['id']}", body)
    assert answer.status_code == status
    assert "nothing that was saved is lost" in answer.json()["error"]["message"]
    assert api.send("put", f"pieces/{piece['id']}", body).json()["revision"] == 2


def test_small_pictures_are_shown_on_a_full_disk(api: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    piece = api.piece()

    def full(*_: Any) -> None:
        raise OSError(errno.ENOSPC, "No space left")

    monkeypatch.setattr(thumbnails, "write_whole", full)
    assert api.get(f"pieces/{piece['id']}/thumbnail").content[:2] == b"\xff\xd8"


@pytest.mark.skipif(sys.platform != "linux", reason="only Linux ends a process with its parent")
def test_a_child_ends_with_its_parent_however_that_ended() -> None:
    code = (
        "import subprocess, sys, time; from caracol.studio.child_processes import bound; "
        "child = subprocess.Popen([sys.executable, '-c', 'import time; time.sleep(600)'], preexec_fn=bound()); "
        "print(child.pid, flush=True); time.sleep(600)"
    )
    parent = subprocess.Popen([sys.executable, "-c", code], stdout=subprocess.PIPE, text=True)
    assert parent.stdout is not None
    child = psutil.Process(int(parent.stdout.readline()))
    assert child.is_running()
    parent.kill()
    parent.wait()
    child.wait(timeout=20)
    assert not child.is_running()


def test_tests_have_a_folder_of_their_own() -> None:
    """Whoever sweeps must not sweep the work of the person who runs the tests."""
    assert studio.VAR.name.startswith("caracol-test-")
