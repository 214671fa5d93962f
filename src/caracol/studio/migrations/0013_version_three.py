"""Documents are of version 3 of the format: lines of strokes are whole numbers, in pieces, versions, exports, recipes, runs and histories."""

from __future__ import annotations

import json
import zlib
from typing import Any

from django.db import migrations

from caracol.core.piece.migrations import migrate_v2, stroke_of_v2


def document_of(document: Any) -> Any:
    """Return a document as it is written in version 3."""
    return migrate_v2(document) if isinstance(document, dict) and document.get("caracol") == 2 else document


def history_of(states: Any) -> Any:
    """Return a packed history with its strokes and versions as they are since.

    Its table names entries by their place, `{"@": 3}`, always earlier ones: a stroke's new lists are put before it, and all after it move up.
    """
    if not isinstance(states, dict) or not isinstance(states.get("table"), list):
        return states
    before: list[Any] = states["table"]
    table: list[Any] = []
    places: dict[int, int] = {}

    def moved(value: Any) -> Any:
        if isinstance(value, dict) and "@" in value:
            return {"@": places[value["@"]]}
        return {**value, "caracol": 3} if isinstance(value, dict) and value.get("caracol") == 2 else value

    def put(entry: Any) -> Any:
        table.append(entry)
        return {"@": len(table) - 1}

    def whole(value: Any) -> Any:
        """Return a value of the old table with all that it names."""
        if isinstance(value, dict) and "@" in value:
            value = before[value["@"]]
        return [whole(one) for one in value] if isinstance(value, list) else value

    for place, entry in enumerate(before):
        if isinstance(entry, dict) and {"mode", "points", "outline", "radius"} <= set(entry):
            lists = {name: whole(entry[name]) for name in ("points", "outline")}
            entry = {name: moved(value) for name, value in entry.items() if name not in lists} | {
                name: put(value) if isinstance(value, list) else value for name, value in stroke_of_v2(lists).items()
            }
        elif isinstance(entry, list):
            entry = [moved(value) for value in entry]
        elif isinstance(entry, dict):
            entry = moved({name: moved(value) for name, value in entry.items()})
        places[place] = put(entry)["@"]
    kept = {name: [{**one, "document": moved(one.get("document"))} for one in states.get(name, [])] for name in ("past", "future")}
    return {**states, "table": table, **kept}


def raise_version(apps: Any, schema_editor: Any) -> None:
    for model, field in {"Piece": "document", "Version": "document", "Export": "document", "Recipe": "data", "Run": "recipe"}.items():
        for row in apps.get_model("studio", model).objects.all().iterator():
            changed = document_of(getattr(row, field))
            if changed != getattr(row, field):
                type(row).objects.filter(pk=row.pk).update(**{field: changed})
    for row in apps.get_model("studio", "PieceHistory").objects.all().iterator():
        states = json.loads(zlib.decompress(row.states))
        changed = history_of(states)
        if changed != states:
            type(row).objects.filter(pk=row.pk).update(states=zlib.compress(json.dumps(changed).encode()))


class Migration(migrations.Migration):
    dependencies = (("studio", "0012_version_two"),)
    operations = (migrations.RunPython(raise_version, migrations.RunPython.noop),)
