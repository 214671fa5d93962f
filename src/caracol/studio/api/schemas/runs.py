"""Runs."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field

from ...queue import behind_of
from .common import Slots
from .exports import ExportIn


class RunIn(Schema):
    """A recipe on chosen photos (file names), as files."""

    recipe: UUID
    photos: Annotated[list[str], Field(min_length=1, max_length=2000)]
    dials: dict[str, float] = Field(default_factory=dict)
    slots: Slots = Field(default_factory=dict)
    options: ExportIn
    pattern: Annotated[str, Field(min_length=1, max_length=120)] = "{photo}-{recipe}"


class SharpnessIn(Schema):
    """A recipe on chosen photos (file names), at a size on the longer side."""

    recipe: UUID
    photos: Annotated[list[str], Field(min_length=1, max_length=2000)]
    dials: dict[str, float] = Field(default_factory=dict)
    slots: Slots = Field(default_factory=dict)
    size: Annotated[int, Field(ge=16, le=16384)]


class SharpnessOut(Schema):
    """How many of the files would be softer than their photos, and the largest size at which none is; null where nothing sets a bound."""

    enlarged: int
    sharp: int | None


class RunOut(Schema):
    """A run, and how many of its photos are where; `share` of all its work is done, 0…1."""

    id: UUID
    name: str
    state: Literal["working", "paused", "done", "cancelled"]
    asked_at: datetime
    options: ExportIn
    waiting: int
    working: int
    done: int
    failed: int
    cancelled: int
    share: float
    size_bytes: int
    behind: str
    """What it waits for, in words; empty where it does not wait."""

    @staticmethod
    def resolve_behind(run: Any) -> str:
        """What is done before it."""
        return behind_of(run)

    @staticmethod
    def resolve_waiting(run: Any) -> int:
        """Not begun yet."""
        return int(run.told["waiting"])

    @staticmethod
    def resolve_working(run: Any) -> int:
        """In hand."""
        return int(run.told["working"])

    @staticmethod
    def resolve_done(run: Any) -> int:
        """Whose files are there."""
        return int(run.told["done"])

    @staticmethod
    def resolve_failed(run: Any) -> int:
        """Each with its reason."""
        return int(run.told["failed"])

    @staticmethod
    def resolve_cancelled(run: Any) -> int:
        """Given up."""
        return int(run.told["cancelled"])

    @staticmethod
    def resolve_share(run: Any) -> float:
        """Photos in hand count by how far they are."""
        return float(run.told["share"])

    @staticmethod
    def resolve_size_bytes(run: Any) -> int:
        """Of all files."""
        return int(run.told["size_bytes"])


class RunPhotoOut(Schema):
    """One photo of a run."""

    id: int
    number: int
    photo: str
    file_name: str
    state: Literal["waiting", "working", "done", "failed", "cancelled"]
    share: float
    message: str
    size_bytes: int
    width: int
    height: int
    times: int
    """How often it was begun."""
