"""Kinds that have got another key: older files, pieces, versions and what undo goes back to are read with it."""

from __future__ import annotations

import importlib
import json
import zlib
from typing import Any

import pytest
from django.apps import apps

from caracol.core.piece.files import check_piece
from caracol.studio.models import Piece, PieceHistory, Version

SEAM = {"level_off": True, "crossfade": True, "width": 0.05}
OLD = {"id": "s", "kind": "spin-blur", "settings": {"turns": 0.1}}
LAND = {"id": "land", "source": {"kind": "fill"}, "steps": [OLD, {"id": "t", "kind": "tone", "settings": {}}]}
DOCUMENT: dict[str, Any] = {"caracol": 1, "layers": [LAND, {"id": "g", "layers": [{**LAND, "id": "up"}], "steps": [OLD]}]}


def test_an_older_file_is_lifted() -> None:
    piece = check_piece(DOCUMENT)
    assert [step.kind for entry in piece.entries() for step in entry.steps] == ["wheel-blur", "tone", "wheel-blur", "wheel-blur", "tone"]
    assert DOCUMENT["layers"][0]["steps"][0]["kind"] == "spin-blur"


@pytest.mark.parametrize(
    ("kind", "added"),
    [("scan-lines", ("keep_light",)), ("mosaic", ("offset", "keep_light")), ("tube", ("keep_light",)), ("lens", ("cover",))],
)
def test_a_step_saved_before_a_setting_was_there_looks_as_it_did(kind: str, added: tuple[str, ...], db: None) -> None:
    """In the database alone: its steps name all settings that there were. A file that leaves one out has its default."""
    today = check_piece({"caracol": 1, "layers": [{"id": "a", "steps": [{"id": "s", "kind": kind}]}]}).layer.steps[0].settings.model_dump()
    older = {name: value for name, value in today.items() if name not in added}

    def document(written: dict[str, Any]) -> dict[str, Any]:
        land = {"id": "land", "source": {"kind": "fill"}, "steps": [{"id": "s", "kind": kind, "settings": written}]}
        return {"caracol": 1, "layers": [land]}

    def settings(one: dict[str, Any]) -> dict[str, Any]:
        return check_piece(one).layer.steps[0].settings.model_dump()

    assert settings(document(older)) == today
    rows = [Piece.objects.create(name=str(n), document=document(written)) for n, written in enumerate((older, today, {}))]
    packed = {"table": [older, {"id": "s", "settings": {"@": 0}}], "past": [{"document": {"caracol": 1}}], "future": []}
    PieceHistory.objects.create(piece=rows[0], revision=1, states=zlib.compress(json.dumps(packed).encode()))
    for name in ("0012_version_two", "0013_version_three"):
        importlib.import_module(f"caracol.studio.migrations.{name}").raise_version(apps, None)
    for row in rows:
        row.refresh_from_db()
        assert row.document["caracol"] == 3
    found = [settings(row.document) for row in rows]
    assert [found[0][name] for name in added] == [0] * len(added)
    assert found[1] == found[2] == today
    kept = json.loads(zlib.decompress(PieceHistory.objects.get(piece=rows[0]).states))
    assert kept == {"table": [found[0], {"id": "s", "settings": {"@": 0}}], "past": [{"document": {"caracol": 3}}], "future": []}


def test_what_is_kept_is_lifted_once(db: None) -> None:
    piece = Piece.objects.create(name="old", document=DOCUMENT)
    version = Version.objects.create(piece=piece, name="v", document=DOCUMENT)
    packed = {"table": [OLD, "spin-blur"], "past": [{"name": "spin-blur", "document": {"@": 0}, "done": "add spin-blur"}], "future": []}
    PieceHistory.objects.create(piece=piece, revision=1, states=zlib.compress(json.dumps(packed).encode()))
    importlib.import_module("caracol.studio.migrations.0006_wheel_blur").rename(apps, None)
    for row in (piece, version):
        row.refresh_from_db()
        assert "spin-blur" not in json.dumps(row.document)
    kept = json.loads(zlib.decompress(PieceHistory.objects.get(piece=piece).states))
    assert kept["table"] == [{**OLD, "kind": "wheel-blur"}, "spin-blur"]
    assert kept["past"] == packed["past"]


def test_a_seams_crossfade_was_a_switch(db: None) -> None:
    step = {"id": "s", "kind": "close-seam", "settings": SEAM}
    document = {"caracol": 1, "layers": [{"id": "land", "source": {"kind": "fill"}, "steps": [step]}]}
    assert check_piece(document).layer.steps[0].settings.model_dump()["method"] == "crossfade"
    piece = Piece.objects.create(name="old", document=document)
    packed = {"table": [{**SEAM, "crossfade": False}, {"id": "s", "settings": {"@": 0}}], "past": [], "future": []}
    PieceHistory.objects.create(piece=piece, revision=1, states=zlib.compress(json.dumps(packed).encode()))
    importlib.import_module("caracol.studio.migrations.0007_ways_to_close").lift(apps, None)
    piece.refresh_from_db()
    assert piece.document["layers"][0]["steps"][0]["settings"] == {"method": "crossfade", "level_off": True, "width": 0.05}
    kept = json.loads(zlib.decompress(PieceHistory.objects.get(piece=piece).states))
    assert kept["table"] == [{"method": "none", "level_off": True, "width": 0.05}, {"id": "s", "settings": {"@": 0}}]


def test_lines_of_strokes_became_whole_numbers(db: None) -> None:
    """In a piece, and in what undo goes back to: there lists are named by their place, and a stroke may share its points with an outline."""
    stroke = {"mode": "erase", "points": [[0.5, 0.25, 1], [0.5, 0.5, 0.5]], "outline": [], "radius": 0.1}
    step = {"id": "s", "kind": "touch-up", "settings": {"strokes": [stroke]}}
    document = {"caracol": 2, "layers": [{"id": "a", "source": {"kind": "fill"}, "steps": [step]}]}
    piece = Piece.objects.create(name="old", document=document)
    at = lambda place: {"@": place}  # noqa: E731
    table: list[Any] = [
        [0.5, 0.25, 1], [0.5, 0.5, 0.5], [at(0), at(1)], [], {**stroke, "points": at(2), "outline": at(3)}, [at(4)], {"strokes": at(5)},
        {"caracol": 2, "layers": at(3)}, {"kind": "polygon", "points": at(2)},
    ]  # fmt: skip
    packed = {
        "table": table,
        "past": [{"name": "old", "document": at(7), "done": "add"}],
        "future": [{"name": "n", "document": at(8), "done": ""}],
    }
    PieceHistory.objects.create(piece=piece, revision=1, states=zlib.compress(json.dumps(packed).encode()))
    importlib.import_module("caracol.studio.migrations.0013_version_three").raise_version(apps, None)
    piece.refresh_from_db()
    since = {"mode": "erase", "line": [50000, 25000, 0, 25000], "pressure": [1, 0.5], "outline": [], "radius": 0.1}
    assert piece.document["layers"][0]["steps"][0]["settings"]["strokes"] == [since]
    assert piece.document["caracol"] == 3
    check_piece(piece.document)
    kept = json.loads(zlib.decompress(PieceHistory.objects.get(piece=piece).states))

    def whole(value: Any) -> Any:
        if isinstance(value, dict) and "@" in value:
            return whole(kept["table"][value["@"]])
        if isinstance(value, list):
            return [whole(one) for one in value]
        return {name: whole(one) for name, one in value.items()} if isinstance(value, dict) else value

    assert {"strokes": [since]} in [whole(entry) for entry in kept["table"]]
    assert whole(kept["past"][0]["document"]) == {"caracol": 3, "layers": []}
    assert whole(kept["future"][0]["document"]) == {"kind": "polygon", "points": [[0.5, 0.25, 1], [0.5, 0.5, 0.5]]}
    # Every entry names earlier ones alone.
    assert all(f'"@": {n}' not in json.dumps(kept["table"][: n + 1]) for n in range(len(kept["table"])))


def test_a_piece_of_the_first_version_goes_through_both(db: None) -> None:
    """One migration lifts it to the second version and no further: the next must still find it."""
    stroke = {"mode": "erase", "points": [[0.5, 0.25, 1]], "outline": [], "radius": 0.1}
    step = {"id": "s", "kind": "touch-up", "settings": {"strokes": [stroke]}}
    piece = Piece.objects.create(name="old", document={"caracol": 1, "layers": [{"id": "a", "source": {"kind": "fill"}, "steps": [step]}]})
    for name, version in (("0012_version_two", 2), ("0013_version_three", 3)):
        importlib.import_module(f"caracol.studio.migrations.{name}").raise_version(apps, None)
        piece.refresh_from_db()
        assert piece.document["caracol"] == version
    assert check_piece(piece.document).layer.steps[0].settings.strokes[0].line == (50000, 25000)  # type: ignore[attr-defined]
