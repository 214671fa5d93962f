"""Everything a piece is made of, as data: the one list that panels, documents and tests read."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from ..catalogue.describe import describe_all, describe_bonds, describe_settings, describe_source
from ..catalogue.missing import MISSING
from ..catalogue.registry import SOURCES
from .keep import KeepArea
from .model import MOST_LAYERS, MOST_STEPS, PhotoSource, PieceBox, Place
from .starts import FIGURE, PRESET_CHAINS
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
        "box": describe_settings(PieceBox),
        "box_bonds": describe_bonds(PieceBox),
        "most_layers": MOST_LAYERS,
        "most_steps": MOST_STEPS,
        "tile": describe_settings(PhotoSource),
        "keep": describe_settings(KeepArea),
        "several": [
            {
                "name": one.name,
                "purpose": one.purpose,
                "words": list(one.words),
                "steps": [{"kind": kind, "settings": s} for kind, s in one.steps],
            }
            for one in PRESET_CHAINS
        ],
        "figure": [{"kind": kind, "settings": s} for kind, s in FIGURE],
        "missing": [asdict(missing) for missing in MISSING],
    }
