"""Steps that were spin blurs are wheel blurs: in pieces, versions, exports, and in what undo goes back to."""

from __future__ import annotations

import re
import zlib
from typing import Any

from django.db import migrations

from caracol.core.piece.migrations import RENAMED, with_steps

# A history holds documents as JSON within JSON.
KIND = re.compile(r'(\\*"kind\\*": *\\*")(' + "|".join(RENAMED) + r')(?=\\*")')


def _renamed(step: dict[str, Any]) -> dict[str, Any]:
    return {**step, "kind": RENAMED.get(step["kind"], step["kind"])}


def rename(apps: Any, schema_editor: Any) -> None:
    for model in ("Piece", "Version", "Export"):
        for row in apps.get_model("studio", model).objects.all().iterator():
            document = with_steps(row.document, _renamed) if isinstance(row.document, dict) else row.document
            if document != row.document:
                type(row).objects.filter(pk=row.pk).update(document=document)
    for row in apps.get_model("studio", "PieceHistory").objects.all().iterator():
        text = zlib.decompress(row.states).decode()
        renamed = KIND.sub(lambda found: found[1] + RENAMED[found[2]], text)
        if renamed != text:
            type(row).objects.filter(pk=row.pk).update(states=zlib.compress(renamed.encode()))


class Migration(migrations.Migration):
    dependencies = (("studio", "0005_saves_and_history"),)
    operations = (migrations.RunPython(rename, migrations.RunPython.noop),)
