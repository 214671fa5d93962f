"""Versions of the format: every one that was written is read, by its number; and what is left out has its default in all of them."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from caracol.core.catalogue.describe import describe
from caracol.core.catalogue.registry import KINDS, SOURCES
from caracol.core.errors import PieceError
from caracol.core.kinds.kind import Kind
from caracol.core.piece.files import check_piece, dump_piece, load_piece
from caracol.core.piece.migrations import VERSION
from caracol.core.render import Context
from caracol.core.render.identities import identities_of
from tests.pictures import OnePhoto, detailed

KEPT = Path(__file__).parent / "kept"
PHOTO = OnePhoto(detailed(32, 64))


@pytest.mark.parametrize("version", range(1, VERSION + 1))
def test_a_kept_file_of_every_version_says_what_it_said(version: int) -> None:
    found = load_piece(KEPT / f"version-{version}.json")
    assert dump_piece(found) == dump_piece(load_piece(KEPT / f"version-{VERSION}.json"))
    assert dump_piece(found)["caracol"] == VERSION


def test_what_is_written_is_read_as_it_is() -> None:
    written = dump_piece(load_piece(KEPT / f"version-{VERSION}.json"))
    assert dump_piece(check_piece(json.loads(json.dumps(written)))) == written


@pytest.mark.parametrize("version", [0, -1, "2", True, None, 1.5, [2]])
def test_what_is_no_version_is_refused(version: object) -> None:
    with pytest.raises(PieceError, match=rf"caracol: got .*expected the version of the format, 1 to {VERSION}"):
        check_piece({"caracol": version, "layers": [{"id": "a"}]})


def identity(kind: str, settings: dict[str, Any], version: int = VERSION) -> str:
    layer = {"id": "a", "source": {"kind": "photo", "photo": "p"}, "steps": [{"id": "s", "kind": kind, "settings": settings}]}
    piece = check_piece({"caracol": version, "layers": [{"id": "low", "source": {"kind": "fill"}}, layer]})
    return identities_of(piece, Context(PHOTO)).entries["a"].steps["s"].answer


def other_number(value: Any) -> Any:
    """Return a whole number as a float, and a whole float as an int; anything else as it is."""
    if isinstance(value, bool) or not isinstance(value, int | float) or value != int(value):
        return value
    return float(value) if isinstance(value, int) else int(value)


@pytest.mark.parametrize("kind", KINDS, ids=lambda kind: kind.key)
def test_a_setting_at_its_default_is_as_if_it_were_left_out(kind: Kind) -> None:
    """One by one, all together, all but one, and in each way a number can be written."""
    usual = {setting["name"]: setting["default"] for setting in describe(kind)["settings"]}
    out = identity(kind.key, {})
    for version in range(1, VERSION + 1):
        assert identity(kind.key, usual, version) == out
        assert identity(kind.key, {}, version) == out
    for name, value in usual.items():
        assert identity(kind.key, {name: other_number(value)}) == out, name
        # The earliest files named all settings but those that came later: no version guesses what such a one meant.
        assert identity(kind.key, {one: usual[one] for one in usual if one != name}, 1) == out, name


@pytest.mark.parametrize("source", SOURCES, ids=lambda source: source.model_fields["kind"].default)
def test_a_sources_setting_at_its_default_is_as_if_it_were_left_out(source: Any) -> None:
    def whole(settings: dict[str, Any]) -> str:
        kind = source.model_fields["kind"].default
        piece = check_piece({"caracol": VERSION, "layers": [{"id": "a", "source": {"kind": kind, **settings}}]})
        return identities_of(piece, Context(PHOTO)).whole

    usual = source().model_dump(mode="json")
    assert all(whole({name: value}) == whole({}) == whole(usual) for name, value in usual.items())


def test_what_a_step_has_besides_its_settings_can_be_left_out_too() -> None:
    plain = {"id": "s", "kind": "twirl", "settings": {}}
    full = plain | {"on": True, "strength": 1, "blend": "normal", "channels": ["r", "g", "b"], "where": None}

    def whole(step: dict[str, Any], **sheet: Any) -> str:
        layer = {"id": "a", "source": {"kind": "photo", "photo": "p"}, "steps": [step], **sheet}
        return identities_of(check_piece({"caracol": VERSION, "layers": [layer]}), Context(PHOTO)).whole

    sheet = {"visible": True, "opacity": 1, "blend": "normal", "where": None, "place": None, "link": None}
    assert whole(plain) == whole(full) == whole(full, **sheet) == whole(plain | {"strength": 1.0}, opacity=1.0)
