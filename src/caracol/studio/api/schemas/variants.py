"""Variants of documents."""

from __future__ import annotations

from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field

from .common import Document


class VariantsIn(Schema):
    """Ask for variants of a document: other seeds, or settings within a spread, in all steps or the chosen ones."""

    document: Document
    seed: Annotated[int, Field(ge=0, le=999_999)]
    spread: Annotated[float, Field(ge=0, le=1)] = 0.25
    vary: Literal["seeds", "settings", "both"] = "both"
    steps: Annotated[list[Annotated[str, Field(max_length=64)]], Field(max_length=400)] | None = None
    count: Annotated[int, Field(ge=1, le=24)] = 12


class VariantOut(Schema):
    """One variant, and what differs in it, in words."""

    document: Document
    changes: list[str]


class VariantsOut(Schema):
    """Variants of a document."""

    variants: list[VariantOut]
