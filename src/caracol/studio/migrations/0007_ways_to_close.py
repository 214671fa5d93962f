"""A close seam has ways, where its crossfade was a switch: in pieces, versions, exports, and in what undo goes back to."""

from __future__ import annotations

import json
import zlib
from typing import Any

from django.db import migrations

from caracol.core.piece.migrations import seam_settings


def _walked(value: Any) -> Any:
    """Return what a history holds with settings of the older sort brought up to date, wherever they lie in it."""
    if isinstance(value, list):
        return [_walked(one) for one in value]
    if not isinstance(value, dict):
        return value
    found = {name: _walked(one) for name, one in value.items()}
    return seam_settings(found) if {"crossfade", "level_off"} <= set(found) else found


def lift(apps: Any, schema_editor: Any) -> None:
    for model in ("Piece", "Version", "Export"):
        for row in apps.get_model("studio", model).objects.all().iterator():
            document = _walked(row.document)
            if document != row.document:
                type(row).objects.filter(pk=row.pk).update(document=document)
    for row in apps.get_model("studio", "PieceHistory").objects.all().iterator():
        states = json.loads(zlib.decompress(row.states))
        walked = _walked(states)
        if walked != states:
            type(row).objects.filter(pk=row.pk).update(states=zlib.compress(json.dumps(walked).encode()))


class Migration(migrations.Migration):
    dependencies = (("studio", "0006_wheel_blur"),)
    operations = (migrations.RunPython(lift, migrations.RunPython.noop),)
