"""Everything a piece is made of, as data: the one list that panels, documents and tests read."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from ..kinds.catalogue import SOURCES
from ..kinds.describe import describe_all, describe_settings, describe_source
from ..kinds.missing import MISSING
from .keep import KeepArea
from .model import PhotoSource, Place
from .starts import SEVERAL
from .where import SHAPES, Where


def describe_shapes() -> list[dict[str, Any]]:
    """Return the shapes of a where: their settings with ranges and defaults, and whether they are drawn with the pointer."""
    return [
        {
            "key": shape.model_fields["kind"].default,
            "label": shape.label,
            "drawn": shape.drawn,
            "settings": describe_settings(shape),
        }
        for shape in SHAPES
    ]


def describe_everything() -> dict[str, Any]:
    """Return kinds, drawn sources, shapes, and the numbers of wheres, places, tiled photos and keep areas."""
    return {
        "kinds": describe_all(),
        "sources": [describe_source(source) for source in SOURCES],
        "shapes": describe_shapes(),
        "where": describe_settings(Where),
        "place": describe_settings(Place),
        "tile": describe_settings(PhotoSource),
        "keep": describe_settings(KeepArea),
        "several": [
            {
                "name": one.name,
                "purpose": one.purpose,
                "words": list(one.words),
                "steps": [{"kind": kind, "settings": s} for kind, s in one.steps],
            }
            for one in SEVERAL
        ],
        "missing": [asdict(missing) for missing in MISSING],
    }
