"""Whatever the page's edits make of a document, the core takes; and every one of them can be taken back."""

from __future__ import annotations

import json
import os
import subprocess
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, Phase, given, settings

from caracol.core.errors import PieceError
from caracol.core.piece.files import check_piece, dump_piece
from tests.documents import Document, documents, sheets_of

ROOT = Path(__file__).resolve().parents[2]
WEB = ROOT / "web"
EDITS = int(os.environ.get("CARACOL_EDITS", "2000"))
"""Random edits in all; 10,000 before a release."""
EACH = 40
RUN = """
import { readFileSync, writeFileSync } from "node:fs";
import { walks } from "./walk.mjs";
const [, , catalogue, documents, out, count] = process.argv;
const json = (path) => JSON.parse(readFileSync(path, "utf-8"));
writeFileSync(out, JSON.stringify(walks(json(documents), json(catalogue), Number(count))));
"""


def first_documents(count: int) -> list[Document]:
    """Return random documents, always the same ones."""
    found: list[Document] = []

    @settings(
        max_examples=count, derandomize=True, database=None, deadline=None, phases=[Phase.generate], suppress_health_check=list(HealthCheck)
    )
    @given(documents())
    def collect(document: Document) -> None:
        found.append(document)

    collect()
    return found


@pytest.fixture(scope="module")
def walks(tmp_path_factory: pytest.TempPathFactory) -> list[dict[str, Any]]:
    """Return what the page's own edits, bundled as the page has them, make of random documents."""
    there = tmp_path_factory.mktemp("walks")
    bundle = [
        "node",
        "node_modules/rolldown/bin/cli.mjs",
        "src/testing/walk.ts",
        "--format",
        "esm",
        "--platform",
        "node",
        "-d",
        str(there),
        "--entryFileNames",
        "walk.mjs",
    ]
    subprocess.run(bundle, cwd=WEB, check=True, capture_output=True)
    (there / "documents.json").write_text(json.dumps(first_documents(EDITS // EACH)), encoding="utf-8")
    (there / "run.mjs").write_text(RUN, encoding="utf-8")
    files = [str(ROOT / "docs/catalogue.json"), str(there / "documents.json"), str(there / "walks.json")]
    subprocess.run(["node", str(there / "run.mjs"), *files, str(EACH)], check=True, capture_output=True)
    return list(json.loads((there / "walks.json").read_text(encoding="utf-8")))


def test_every_edit_leaves_what_the_core_takes(walks: list[dict[str, Any]]) -> None:
    made = sum(len(walk["edits"]) - walk["refused"] for walk in walks)
    assert made > 0.9 * EDITS  # or it shows little
    for walk in walks:
        for edit, document in zip(walk["edits"], walk["documents"], strict=True):
            try:
                check_piece(document)
            except PieceError as error:
                pytest.fail(f"{json.dumps(edit)} leaves what is refused: {error}")


def test_linked_layers_have_the_same_steps_after_every_edit(walks: list[dict[str, Any]]) -> None:
    linked = 0
    for walk in walks:
        for edit, document in zip(walk["edits"], walk["documents"], strict=True):
            families: dict[str, list[Any]] = {}
            for sheet in sheets_of(document):
                if sheet.get("link"):
                    families.setdefault(sheet["link"], []).append([{**step, "id": None} for step in sheet.get("steps", [])])
            for family in families.values():
                linked += 1
                assert len(family) > 1, f"{json.dumps(edit)} leaves one alone that says it is linked"
                assert all(steps == family[0] for steps in family), json.dumps(edit)
    assert linked > EDITS / 20


def test_undo_goes_back_to_the_letter_and_none_is_hollow(walks: list[dict[str, Any]]) -> None:
    for first, walk in zip(first_documents(EDITS // EACH), walks, strict=True):
        assert walk["undone"] == first
        for before, after in zip(walk["states"], walk["states"][1:], strict=False):
            states = [(state["name"], dump_piece(check_piece(state["document"]))) for state in (before, after)]
            assert states[0] != states[1], f"{before['document']} became {after['document']}"
