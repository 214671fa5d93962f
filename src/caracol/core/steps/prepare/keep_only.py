"""Keep only: outside its where, nothing is left."""

from __future__ import annotations

from typing import Any

from ...arrays import Array
from ...geometry.rows import Rows
from ...kinds.kind import PictureKind
from ...kinds.settings import Settings


class KeepOnlySettings(Settings):
    """Its where says it all."""


def keep_only(picture: Array, rows: Rows, measured: dict[str, Any], s: Settings) -> Array:
    """Return the picture; the render multiplies it, alpha included, by the step's where."""
    return picture.copy()


KEEP_ONLY = PictureKind(
    key="keep-only",
    label="Keep only",
    family="prepare",
    purpose="Keeps an area of the layer; the rest becomes transparent.",
    words=("mask", "cut out", "isolate", "extract", "remove background", "select"),
    settings=KeepOnlySettings,
    cuts=True,
    apply=keep_only,
)
