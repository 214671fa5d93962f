"""Deliveries."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field

from ...queue import behind_of
from .common import Document


class ExportIn(Schema):
    """What to export a piece as."""

    size: Annotated[int, Field(ge=16, le=16384)] = 2048
    shape: Literal["own", "square", "4:5", "9:16", "16:9", "typed"] = "own"
    ratio: Annotated[float, Field(ge=0.05, le=20)] = 1.0
    """Width ÷ height of a typed shape."""
    format: Literal["png", "png16", "jpeg", "webp", "avif", "tiff", "tiff16", "openraster", "map"] = "jpeg"
    quality: Annotated[int, Field(ge=1, le=100)] = 90
    space: Literal["srgb", "display-p3"] = "srgb"
    packing: Literal["lzw", "deflate"] = "deflate"
    """How a TIFF is made smaller."""
    dpi: Annotated[float, Field(ge=1, le=10000)] | None = None
    title: Annotated[str, Field(max_length=200)] = ""
    author: Annotated[str, Field(max_length=200)] = ""
    trail: bool = True
    """Whether the piece travels inside the file."""


class EstimateIn(Schema):
    """What is asked of an export before it is made."""

    document: Document
    options: ExportIn


class EstimateOut(Schema):
    """What an export would be: its pixels, about its bytes, and the longer side up to which the photo has a pixel for each (null without a photo)."""

    width: int
    height: int
    size_bytes: int
    honest: int | None
    wide: bool
    """Whether the piece has colours that sRGB has not: a file in sRGB has the nearest in their place."""


class ExportOut(Schema):
    """An export, or how far the work on it is."""

    id: UUID
    number: int
    file_name: str
    options: ExportIn
    state: Literal["waiting", "working", "done", "failed", "cancelled"]
    share: float
    message: str
    size_bytes: int
    width: int
    height: int
    asked_at: datetime
    behind: str
    """What it waits for, in words; empty where it does not wait."""

    @staticmethod
    def resolve_behind(export: Any) -> str:
        """What is done before it."""
        return behind_of(export)
