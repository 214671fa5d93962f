"""Shapes that an export may be cut to."""

from __future__ import annotations

from typing import Any

from ..piece.files import check_piece
from ..piece.model import Step

SHAPES: dict[str, float | None] = {"own": None, "square": 1.0, "4:5": 0.8, "9:16": 9 / 16, "16:9": 16 / 9}
TYPED = "typed"


def ratio_of(options: dict[str, Any]) -> float | None:
    """Return width ÷ height that is asked for; None where it stays as it is. Exports of earlier releases name no shape, or no ratio."""
    shape = options.get("shape", "own")
    return float(options["ratio"]) if shape == TYPED else SHAPES[shape]


def shaped(document: dict[str, Any], ratio: float | None) -> dict[str, Any]:
    """Return the document with a last step that brings it to a ratio, cut about the centre; a layered one is cut by `finish` instead."""
    if ratio is None or is_layered(document):
        return document
    layer = {**document["layers"][0], "steps": [*document["layers"][0]["steps"], _shape_step(ratio)]}
    return {**document, "layers": [layer]}


def _shape_step(ratio: float) -> dict[str, Any]:
    return {"id": "export-shape", "kind": "refit", "settings": {"ratio": ratio, "how": "cover"}}


def is_layered(document: dict[str, Any]) -> bool:
    """Whether a document has more than one layer that is just its trail, so that a shape must be cut from what is put together."""
    first = document["layers"][0]
    own = (document.get("frame") or {}).get("ratio") is None
    # A where lies on the piece's frame: cut before it, the layer would be seen through another part of it.
    apart = first.get("place") is not None or first.get("where") is not None
    return len(document["layers"]) > 1 or "layers" in first or apart or not own


def finish_of(document: dict[str, Any], ratio: float | None) -> tuple[Step, ...]:
    """Return the steps that cut a layered piece to a ratio."""
    if ratio is None or not is_layered(document):
        return ()
    return check_piece({"caracol": 3, "layers": [{"id": "shape", "steps": [_shape_step(ratio)]}]}).layer.steps
