"""Documents are of version 2 of the format: pieces, versions, exports, recipes, runs, and what undo goes back to.

A step that was saved by the page names every setting that its kind had then. So one that names all older settings of its kind and none of
those that came later was saved before they were there, and gets the values that do what it did. Files say nothing of the sort, and are never
guessed at.
"""

from __future__ import annotations

import json
import zlib
from typing import Any

from django.db import migrations

from caracol.core.piece.migrations import migrate_v1, with_steps

LATER: dict[str, tuple[frozenset[str], dict[str, Any]]] = {
    "lens": (frozenset({"form", "amount", "x", "y", "reach", "only", "edge"}), {"cover": False}),
    "mosaic": (frozenset({"pitch", "gap", "stretch"}), {"offset": 0, "keep_light": 0}),
    "scan-lines": (
        frozenset({"pitch", "thickness", "softness", "dark", "bright", "interlace", "band", "band_at"}),
        {"keep_light": 0},
    ),
    "tube": (
        frozenset({"mask", "pitch", "beam", "spread", "floor", "depth", "bloom", "reach", "gain", "glass"}),
        {"keep_light": 0},
    ),
}
"""Settings that a kind had, and what those that came later are where it has only them."""


def as_it_was(settings: dict[str, Any], kind: str | None = None) -> dict[str, Any]:
    """Return settings with those that came later; without a kind, of whichever kind they are."""
    for key, (earlier, later) in LATER.items():
        if kind in (None, key) and earlier <= set(settings) and not set(later) & set(settings):
            return settings | later
    return settings


def _step(step: dict[str, Any]) -> dict[str, Any]:
    settings = step.get("settings")
    return {**step, "settings": as_it_was(settings, step["kind"])} if isinstance(settings, dict) else step


def document_of(document: Any) -> Any:
    """Return a document as it is written in version 2."""
    older = isinstance(document, dict) and document.get("caracol") == 1
    return migrate_v1(with_steps(document, _step)) if older else document


def _walked(value: Any) -> Any:
    """Return what a history holds as version 2 has it, wherever in it settings and documents lie."""
    if isinstance(value, list):
        return [_walked(one) for one in value]
    if not isinstance(value, dict):
        return value
    found = as_it_was({name: _walked(one) for name, one in value.items()})
    return {**found, "caracol": 2} if found.get("caracol") == 1 else found


def raise_version(apps: Any, schema_editor: Any) -> None:
    for model, fields in {"Piece": ["document"], "Version": ["document"], "Export": ["document"], "Recipe": ["data"], "Run": ["recipe"]}.items():
        for row in apps.get_model("studio", model).objects.all().iterator():
            changed = {name: document_of(getattr(row, name)) for name in fields}
            if any(value != getattr(row, name) for name, value in changed.items()):
                type(row).objects.filter(pk=row.pk).update(**changed)
    for row in apps.get_model("studio", "PieceHistory").objects.all().iterator():
        states = json.loads(zlib.decompress(row.states))
        walked = _walked(states)
        if walked != states:
            type(row).objects.filter(pk=row.pk).update(states=zlib.compress(json.dumps(walked).encode()))


class Migration(migrations.Migration):
    dependencies = (("studio", "0011_many_machines"),)
    operations = (migrations.RunPython(raise_version, migrations.RunPython.noop),)
