"""Requests and responses of the API."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field

Name = Annotated[str, Field(min_length=1, max_length=200, pattern=r"\S")]
StartKey = Literal["planet", "sky-well", "tunnel", "inside-out", "plain"]


class ErrorBody(Schema):
    """What went wrong: a stable code, a sentence for the user, and one line per fault."""

    code: str
    message: str
    faults: list[str]


class ErrorOut(Schema):
    """The one shape of all errors."""

    error: ErrorBody


FAULTS: dict[int, type[Schema]] = {400: ErrorOut, 404: ErrorOut, 422: ErrorOut}
"""What every operation may answer when a request is wrong."""


class StaleOut(Schema):
    """A refused save, and what is kept instead."""

    error: ErrorBody
    current: PieceOut


class UseOut(Schema):
    use: str
    verdict: Literal["good", "fair", "poor"]
    reasons: list[str]


class ReadingOut(Schema):
    """What Caracol sees in a photo."""

    width: int
    height: int
    ratio: float
    tilt: float | None
    tilt_degrees: float | None
    horizon: float | None
    agreement: float
    sky_share: float
    sky_plainness: float
    surround: str
    surround_plainness: float
    uses: list[UseOut]
    words: str


class PhotoOut(Schema):
    id: UUID
    name: str
    file_name: str
    width: int
    height: int
    preview: str
    reading: ReadingOut
    notes: list[str]
    added_at: datetime
    deleted: bool
    new: bool = True


class PhotoPatch(Schema):
    name: Name


class StartOut(Schema):
    key: StartKey
    label: str
    purpose: str


class PieceStartIn(Schema):
    """Start from a photo, or from a piece file's contents."""

    photo: UUID | None = None
    start: StartKey = "plain"
    name: Name | None = None
    document: dict[str, Any] | None = None


class PieceIn(Schema):
    revision: Annotated[int, Field(ge=1)]
    name: Name
    document: dict[str, Any]


class PieceOut(Schema):
    id: UUID
    name: str
    document: dict[str, Any]
    revision: int
    created_at: datetime
    changed_at: datetime


class PieceRow(Schema):
    """A piece in the list: without its document."""

    id: UUID
    name: str
    revision: int
    steps: int
    photo: str | None
    changed_at: datetime


class LookIn(Schema):
    """Ask for a look.

    `bench` and `turn` let newer requests of one place on the screen overtake older ones.
    """

    document: dict[str, Any]
    size: Annotated[int, Field(ge=16, le=4096)]
    upto: Annotated[int, Field(ge=0, le=1000)] | None = None
    draft: bool = False
    bench: Annotated[str, Field(max_length=80)] = ""
    turn: Annotated[int, Field(ge=0)] = 0


class ExportIn(Schema):
    size: Annotated[int, Field(ge=16, le=16384)] = 2048
    shape: Literal["own", "square", "4:5", "9:16", "16:9"] = "own"
    format: Literal["png", "png16", "jpeg", "webp"] = "jpeg"
    quality: Annotated[int, Field(ge=1, le=100)] = 90


class ExportOut(Schema):
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


class AutoOut(Schema):
    when: dict[str, Any] = Field(default_factory=dict)
    value: float


class SettingOut(Schema):
    """One setting as the catalogue publishes it."""

    name: str
    label: str
    unit: str
    type: Literal["number", "integer", "choice", "boolean", "string", "curve", "corners"]
    choices: list[str] | None
    minimum: float | None
    maximum: float | None
    step: float | None
    default: float | bool | str | list[list[float]] | None
    auto: list[AutoOut] | None
    when: dict[str, list[str]] | None
    nullable: bool
    help: str


class KindStartOut(Schema):
    name: str
    settings: dict[str, Any]


class KindOut(Schema):
    """One kind of step."""

    key: str
    label: str
    family: Literal["prepare", "mend", "bend", "break", "finish"]
    purpose: str
    geometric: bool
    handles: list[str]
    starts: list[KindStartOut]
    settings: list[SettingOut]


class RunStepOut(Schema):
    kind: str
    settings: dict[str, Any]


class RunOut(Schema):
    """A starting point of several steps."""

    name: str
    purpose: str
    steps: list[RunStepOut]


class CatalogueOut(Schema):
    kinds: list[KindOut]
    starts: list[StartOut]
    runs: list[RunOut]


StaleOut.model_rebuild()
