"""The open form of documents, by which the web is typed, against the documents the core writes."""

from __future__ import annotations

from typing import Any

import jsonschema_rs
import pytest
from hypothesis import given, settings

from caracol.core.catalogue.registry import KINDS, SOURCES
from caracol.core.piece.files import check_piece, dump_piece
from caracol.core.piece.form import document_form
from tests.documents import documents

FORM = document_form()
VALIDATOR = jsonschema_rs.validator_for({"$ref": "#/$defs/Document", "$defs": FORM})


def errors(document: dict[str, Any]) -> list[str]:
    """Return what the form says against a document as the core writes it."""
    return [str(error) for error in VALIDATOR.iter_errors(dump_piece(check_piece(document)))]


@settings(max_examples=60, deadline=None)
@given(documents())
def test_what_the_core_writes_has_the_form(document: dict[str, Any]) -> None:
    assert errors(document) == []


@pytest.mark.parametrize("kind", KINDS, ids=lambda kind: kind.key)
def test_every_start_of_every_kind_has_the_form(kind: Any) -> None:
    for number, start in enumerate(({}, *(start.settings for start in kind.starts))):
        step = {"id": f"s{number}", "kind": kind.key, "settings": dict(start)}
        below = {"id": "below", "source": {"kind": "photo", "photo": "a.png"}}
        assert errors({"caracol": 1, "layers": [below, {"id": "land", "steps": [step]}]}) == []


def test_every_look_of_every_drawn_source_has_the_form() -> None:
    for source in SOURCES:
        for _, look in source.looks:
            data = {"kind": source.model_fields["kind"].default, **look}
            assert errors({"caracol": 1, "layers": [{"id": "land", "source": data}]}) == []


@pytest.mark.parametrize(
    "change",
    [{"caracol": "1"}, {"layers": []}, {"layers": [{"id": "a", "source": {"kind": "photo"}, "steps": [{"id": "s", "kind": "ring"}]}]}],
    ids=["version", "no layers", "a step without settings"],
)
def test_what_is_no_document_has_not(change: dict[str, Any]) -> None:
    whole = dump_piece(check_piece({"caracol": 1, "layers": [{"id": "a"}]}))
    assert VALIDATOR.is_valid(whole)
    assert not VALIDATOR.is_valid({**whole, **change})
