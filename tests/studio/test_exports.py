"""Exports: numbered, shaped, cancelled, taken up again after a crash, and true to the core."""

from __future__ import annotations

import io
import threading
from typing import Any

import numpy as np
import pytest
from PIL import Image

from caracol.core.delivery import export as delivering
from caracol.core.io.formats import collect
from caracol.core.piece.files import check_piece
from caracol.core.render import Context, Renderer
from caracol.studio import export_work, exports
from caracol.studio.models import Export, Piece, Run, RunPhoto
from caracol.studio.photos import ShelfPhotos
from caracol.studio.queue import behind_of

from .conftest import Api


def ask(api: Api, piece: dict[str, Any], **options: Any) -> dict[str, Any]:
    answer = api.send("post", f"pieces/{piece['id']}/exports", {"size": 160, "format": "png", **options})
    assert answer.status_code == 201, answer.content
    return dict(answer.json())


def content(api: Api, export: dict[str, Any]) -> bytes:
    """Do the work as the worker would, and download the file."""
    export_work.work(export["id"])
    answer = api.get(f"exports/{export['id']}/file")
    assert answer.status_code == 200
    return b"".join(answer.streaming_content)


@pytest.fixture
def queued(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """Keep jobs back instead of doing them at once; returns the ids asked for."""
    waiting: list[str] = []
    monkeypatch.setattr("caracol.studio.exports.run_export", type("Task", (), {"enqueue": staticmethod(waiting.append)}))
    return waiting


def test_an_export_is_what_the_core_renders(api: Api) -> None:
    piece = api.piece()
    export = ask(api, piece)
    file = Image.open(io.BytesIO(content(api, export)))
    done = api.rows(f"pieces/{piece['id']}/exports")[0]
    assert (done["state"], done["share"], done["width"]) == ("done", 1, 160)
    assert np.array_equal(np.asarray(file), collect(*Renderer(check_piece(piece["document"]), Context(ShelfPhotos(1 << 28))).rows(160)))


@pytest.mark.parametrize(
    ("shape", "size"), [("own", (160, 160)), ("square", (160, 160)), ("4:5", (128, 160)), ("9:16", (90, 160)), ("16:9", (160, 90))]
)
def test_shapes_by_name(api: Api, shape: str, size: tuple[int, int]) -> None:
    assert Image.open(io.BytesIO(content(api, ask(api, api.piece(), shape=shape)))).size == size


@pytest.mark.parametrize(("kind", "suffix"), [("png", "png"), ("png16", "png"), ("jpeg", "jpg"), ("webp", "webp")])
def test_names_are_numbered(api: Api, kind: str, suffix: str) -> None:
    piece = api.piece()
    assert [ask(api, piece, format=kind)["file_name"] for _ in range(2)] == [f"marsh-1-planet-01.{suffix}", f"marsh-1-planet-02.{suffix}"]


def test_a_waiting_export_can_be_cancelled_and_is_not_done(api: Api, queued: list[str]) -> None:
    export = ask(api, api.piece())
    assert export["state"] == "waiting"
    assert api.send("post", f"exports/{export['id']}/cancel").json()["state"] == "cancelled"
    export_work.work(queued[0])
    assert Export.objects.get().state == "cancelled"
    assert api.get(f"exports/{export['id']}/file").status_code == 404


def test_a_running_export_stops_at_the_next_strip(api: Api, queued: list[str], monkeypatch: pytest.MonkeyPatch) -> None:
    ask(api, api.piece(), size=1024)
    monkeypatch.setattr(export_work, "PAUSE", 0.0)
    seen: list[float] = []

    class Watch(export_work.Watch):
        def progress(self, share: float) -> None:
            seen.append(share)
            if len(seen) == 2:
                exports.cancel(Export.objects.get())
            super().progress(share)

    monkeypatch.setattr(export_work, "Watch", Watch)
    export_work.work(queued[0])
    assert Export.objects.get().state == "cancelled"
    assert len(seen) < 10


def test_what_a_killed_worker_left_is_taken_up_again(api: Api, queued: list[str]) -> None:
    ask(api, api.piece())
    Export.objects.update(state="working", share=0.4)
    assert exports.requeue() == 1
    assert len(queued) == 2
    export_work.work(queued[1])
    assert Export.objects.get().state == "done"


def test_a_fault_ends_in_words_on_the_export(api: Api, queued: list[str]) -> None:
    ask(api, api.piece(), size=16384, format="webp")
    row = Export.objects.get()
    row.document["layers"][0]["source"]["photo"] = "gone.png"
    row.save()
    export_work.work(queued[0])
    failed = Export.objects.get()
    assert failed.state == "failed"
    assert failed.message == "The photo “gone.png” is not on the Shelf any more. Put it there again, or start from another."


def test_an_export_keeps_the_piece_as_it_was_when_asked(api: Api, queued: list[str]) -> None:
    piece = api.piece("plain")
    ask(api, piece)
    piece["document"]["layers"][0]["steps"] = [{"id": "a", "kind": "ring", "settings": {}}]
    api.send("put", f"pieces/{piece['id']}", {"revision": 1, "name": "x", "document": piece["document"]})
    export_work.work(queued[0])
    assert (Export.objects.get().width, Export.objects.get().height) == (160, 80)


@pytest.mark.parametrize("options", [{"size": 5}, {"size": 99999}, {"format": "bmp"}, {"quality": 0}, {"shape": "round"}])
def test_absurd_options_are_refused(api: Api, options: dict[str, Any]) -> None:
    piece = api.piece()
    assert api.send("post", f"pieces/{piece['id']}/exports", options).status_code == 422


def test_an_unforeseen_fault_does_not_leave_it_working_for_ever(api: Api, queued: list[str], monkeypatch: pytest.MonkeyPatch) -> None:
    ask(api, api.piece())

    def broken(*_: Any) -> None:
        raise MemoryError("no room")

    monkeypatch.setattr(delivering, "collect", broken)
    with pytest.raises(MemoryError, match="no room"):
        export_work.work(queued[0])
    failed = Export.objects.get()
    assert failed.state == "failed"
    assert "the worker's log has it" in failed.message


def test_one_taken_but_not_begun_when_the_worker_died_is_asked_for_again(api: Api, queued: list[str]) -> None:
    ask(api, api.piece())
    assert exports.requeue() == 1
    for job in queued:
        export_work.work(job)
    assert (len(queued), Export.objects.get().state) == (2, "done")


@pytest.mark.parametrize(("shape", "ratio"), [("9:16", 9 / 16), ("16:9", 16 / 9), ("square", 1.0)])
def test_a_shape_is_cut_after_a_layers_where(api: Api, shape: str, ratio: float) -> None:
    """The where lies on the piece's frame: the export is the middle of what is shown, not the where laid on the cut picture."""
    piece = api.piece("plain")
    piece["document"]["layers"][0]["where"] = {"shapes": [{"kind": "ellipse", "x": -0.4, "rx": 0.7, "ry": 0.8}], "feather": 0.1}
    assert api.send("put", f"pieces/{piece['id']}", {"revision": 1, "name": "x", "document": piece["document"]}).status_code == 200
    file = np.asarray(Image.open(io.BytesIO(content(api, ask(api, piece, shape=shape, size=256)))).convert("RGBA")).astype(float)
    shown = collect(*Renderer(check_piece(piece["document"]), Context(ShelfPhotos(1 << 28))).rows(512 if ratio < 2 else 256))
    rows, cols = shown.shape[:2]
    wide, high = min(cols, round(rows * ratio)), min(rows, round(cols / ratio))
    middle = shown[(rows - high) // 2 : (rows + high) // 2, (cols - wide) // 2 : (cols + wide) // 2]
    if middle.shape[2] == 3:
        middle = np.dstack([middle, np.full(middle.shape[:2], 255)])
    as_large = np.asarray(Image.fromarray(middle.astype(np.uint8)).resize(file.shape[1::-1], Image.Resampling.BOX)).astype(float)
    assert np.abs(as_large[..., 3] - file[..., 3]).mean() < 2


def test_work_that_never_tells_how_far_it_is_hears_the_cancel(api: Api, queued: list[str], monkeypatch: pytest.MonkeyPatch) -> None:
    export = ask(api, api.piece())
    Export.objects.filter(id=export["id"]).update(state=Export.State.WORKING)
    monkeypatch.setattr(export_work, "PAUSE", 0.0)
    watch = export_work.Watch(Export.objects.all())
    assert not watch.stop()
    exports.cancel(Export.objects.get())
    assert watch.stop()


def test_files_of_two_pieces_of_one_name_are_told_apart(api: Api) -> None:
    first, second = api.piece("plain"), api.piece("plain")
    Piece.objects.filter(id=second["id"]).update(name=first["name"])
    names = [ask(api, piece)["file_name"] for piece in (first, second, first, second)]
    assert len(set(names)) == 4
    assert names[0] == "marsh-1-plain-01.png"
    assert names[2] == "marsh-1-plain-02.png"
    assert names[1].startswith("marsh-1-plain-b-01")


def test_progress_rises_over_rendering_and_writing(api: Api, queued: list[str], monkeypatch: pytest.MonkeyPatch) -> None:
    """What the database is told, from the first look to the end: it never falls, and is whole only when the file is there."""
    ask(api, api.piece(), size=1024, format="png")
    monkeypatch.setattr(export_work, "PAUSE", 0.0)
    told: list[float] = []
    honest = export_work.Watch._look

    def look(self: Any) -> None:
        honest(self)
        if threading.get_ident() == self.thread:
            told.append(Export.objects.get().share)

    monkeypatch.setattr(export_work.Watch, "_look", look)
    export_work.work(queued[0])
    assert told == sorted(told)
    assert 0 <= told[0] < told[-1] < 1, "writing the file has a share of its own"
    assert Export.objects.get().share == 1


def test_a_cancel_is_heard_while_the_file_is_written(api: Api, queued: list[str], monkeypatch: pytest.MonkeyPatch) -> None:
    ask(api, api.piece(), size=256)
    monkeypatch.setattr(export_work, "PAUSE", 0.0)
    written = threading.Event()

    def slow(*_: Any) -> bytes:
        assert written.wait(20)
        return b""

    honest = delivering.aside

    def cancelled(make: Any, context: Any) -> Any:
        exports.cancel(Export.objects.get())
        return honest(make, context)

    monkeypatch.setattr(delivering, "encode", slow)
    monkeypatch.setattr(delivering, "aside", cancelled)
    export_work.work(queued[0])
    written.set()
    assert Export.objects.get().state == "cancelled"


def test_what_waits_says_behind_what(api: Api) -> None:
    piece = api.piece()
    first, second, third = (ask(api, piece) for _ in range(3))
    Export.objects.filter(id=first["id"]).update(state="working")
    Export.objects.filter(id__in=(second["id"], third["id"])).update(state="waiting")

    def told() -> list[str]:
        rows = {row["id"]: row["behind"] for row in api.rows(f"pieces/{piece['id']}/exports")}
        return [rows[one["id"]] for one in (first, second, third)]

    assert told() == ["", "1 export", "2 exports"]
    run = Run.objects.create(name="Whirlpool", recipe={}, options={"size": 100, "format": "png"})
    RunPhoto.objects.create(run=run, number=1, photo="a.png", file_name="a.png", state="waiting")
    assert told() == ["", "1 export and the run “Whirlpool”", "2 exports and the run “Whirlpool”"]
    assert behind_of(run) == "3 exports"
    api.send("post", f"exports/{first['id']}/cancel")
    assert told()[2] == "1 export and the run “Whirlpool”"
    RunPhoto.objects.filter(run=run).update(state="working")
    assert behind_of(Run.objects.get(id=run.id)) == ""
