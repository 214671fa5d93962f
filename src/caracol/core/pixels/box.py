"""A part of a picture, or of a strip of one."""

from __future__ import annotations

from dataclasses import dataclass

from ..arrays import Array


@dataclass(frozen=True)
class Box:
    """Rows and columns from a picture's, or a strip's, own corner; ends excluded."""

    top: int
    bottom: int
    left: int
    right: int

    @property
    def is_empty(self) -> bool:
        return self.bottom <= self.top or self.right <= self.left

    @property
    def shape(self) -> tuple[int, int]:
        """Its rows and columns."""
        return self.bottom - self.top, self.right - self.left

    def meets(self, other: Box) -> bool:
        """Whether it has a pixel in common with another."""
        return self.top < other.bottom and other.top < self.bottom and self.left < other.right and other.left < self.right

    def of(self, picture: Array) -> Array:
        """Return this part of a picture as a view."""
        return picture[self.top : self.bottom, self.left : self.right]
