"""Pieces, where they start from, and their versions."""

from __future__ import annotations

from datetime import datetime
from threading import Lock
from typing import Annotated, Any, Literal
from uuid import UUID

from cachetools import LRUCache, cached
from ninja import Schema
from pydantic import Field

from ....core.bounds import LARGEST
from .common import Document, DrawnSource, ErrorBody, Name

StartKey = Literal["planet", "sky-well", "tunnel", "inside-out", "plain"]


class StartOut(Schema):
    """A starting point of pieces."""

    key: StartKey
    label: str
    purpose: str
    joins: bool
    """Whether left and right edge meet in it."""


class PieceStartIn(Schema):
    """Start from a photo, from a drawn source, or from a piece file's contents."""

    photo: UUID | None = None
    source: DrawnSource | None = None
    start: StartKey = "plain"
    loop: bool = False
    """Whether the photo is cut first where its edges agree best."""
    name: Name | None = None
    document: Document | None = None


class PieceIn(Schema):
    """A save: the revision it started from, and a token by which the same save sent twice is known."""

    revision: Annotated[int, Field(ge=1)]
    name: Name
    document: Document
    token: Annotated[str, Field(max_length=64)] = ""


class PieceOut(Schema):
    """A piece with its document; none where it cannot be read (`faults` say why, its file gives it as it is)."""

    id: UUID
    name: str
    document: Document | None
    revision: int
    save_token: str
    faults: list[str]
    created_at: datetime
    changed_at: datetime

    @staticmethod
    def resolve_document(piece: Any) -> Any:
        """An unreadable document may be anything at all."""
        return None if piece.faults else piece.document


class HistoryIn(Schema):
    """What was done before and after the state of a revision: the text that the Bench packs it into, which is kept as it is."""

    revision: Annotated[int, Field(ge=1)]
    history: Annotated[str, Field(max_length=LARGEST)]


class HistoryKeptOut(Schema):
    """The revision whose history is kept now."""

    revision: int


class HistoryOut(Schema):
    """What was done to a piece, as the Bench packed it beside `revision`."""

    revision: int
    history: str | None


def layers_in(document: Any, groups: bool = False) -> list[dict[str, Any]]:
    """Return the layers of a document, the lowest first, and its groups where they are asked for, without checking it: one that cannot be read must not hide the others."""
    entries = document.get("layers") if isinstance(document, dict) else None
    found: list[dict[str, Any]] = []
    for entry in entries if isinstance(entries, list) else []:
        if isinstance(entry, dict):
            is_group = "layers" in entry
            found += layers_in(entry, groups) if is_group else []
            found += [entry] if groups or not is_group else []
    return found


class PieceRow(Schema):
    """A piece in the list: without its document. `faults` say why this release cannot read it; there are none where it can."""

    id: UUID
    name: str
    revision: int
    steps: int
    layers: int
    photo: str | None
    faults: list[str]
    changed_at: datetime

    @staticmethod
    def resolve_steps(piece: Any) -> int:
        """Count the steps of all layers and groups."""
        return _counted(piece)[0]

    @staticmethod
    def resolve_layers(piece: Any) -> int:
        """Count the layers."""
        return _counted(piece)[1]

    @staticmethod
    def resolve_photo(piece: Any) -> str | None:
        """Return the photo of the lowest layer by its file's name."""
        return _counted(piece)[2]


def _revision_of(piece: Any) -> tuple[UUID, int]:
    return piece.id, piece.revision


@cached(LRUCache(4096), key=_revision_of, lock=Lock())
def _counted(piece: Any) -> tuple[int, int, str | None]:
    """Return the steps, the layers and the lowest photo of a revision. Its document, which may be large, is looked into once."""
    layers = layers_in(piece.document)
    steps = sum(len(entry["steps"]) for entry in layers_in(piece.document, groups=True) if isinstance(entry.get("steps"), list))
    source = next(iter(layers), {}).get("source")
    photo = source.get("photo") if isinstance(source, dict) else None
    return steps, len(layers), photo if isinstance(photo, str) else None


class VersionIn(Schema):
    """The name of a version."""

    name: Annotated[str, Field(max_length=200)] = ""


class VersionAddIn(VersionIn):
    """A name, and the document that is kept; the saved one when left out."""

    document: Document | None = None


class VersionRow(Schema):
    """A version as the list shows it."""

    id: UUID
    name: str
    made_at: datetime


class VersionOut(VersionRow):
    """A version with its document."""

    document: Document


class DemoOut(Schema):
    """Whether the demo is being loaded, and how many photos it has."""

    loading: bool
    photos: int


class StaleOut(Schema):
    """A refused save, and what is kept instead."""

    error: ErrorBody
    current: PieceOut
