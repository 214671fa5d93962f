"""Strips of rows, and where their pixels lie."""

from __future__ import annotations

from dataclasses import dataclass

from ..arrays import Array
from .frame import Frame


@dataclass(frozen=True)
class Rows:
    """Which rows of which picture a strip holds."""

    frame: Frame
    rows: int
    cols: int
    top: int = 0
    count: int | None = None

    def grid(self) -> tuple[Array, Array]:
        """Return x and y of the strip's pixel centres, in units."""
        return self.frame.grid(self.rows, self.cols, self.top, self.count)
