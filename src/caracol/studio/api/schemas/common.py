"""What all of the API shares: documents, names, errors."""

from __future__ import annotations

from typing import Annotated, Any

from ninja import Schema
from pydantic import Field

PART = "x-caracol"
"""Marks data that the core checks and describes: the API's description refers to the core's own schema of it (`described.py`)."""


def _part(name: str) -> Any:
    return Field(json_schema_extra={PART: name})


Document = Annotated[dict[str, Any], _part("Document")]
Where = Annotated[dict[str, Any], _part("Where")]
DrawnSource = Annotated[dict[str, Any], _part("Source")]
StepSettings = Annotated[dict[str, Any], _part("Settings")]
Name = Annotated[str, Field(min_length=1, max_length=200, pattern=r"\S")]
Share = Annotated[float, Field(ge=0, le=1)]

Slots = dict[Annotated[str, Field(max_length=64)], Annotated[str, Field(max_length=255)]]
"""Photos (file names) that are chosen for some layers of a recipe."""
LARGEST_WHOLE = 4096


class ErrorBody(Schema):
    """What went wrong: a stable code, a sentence for the user, and one line per fault."""

    code: str
    message: str
    faults: list[str]


class ErrorOut(Schema):
    """The one shape of all errors."""

    error: ErrorBody


FAULTS: dict[int, type[Schema]] = {400: ErrorOut, 404: ErrorOut, 414: ErrorOut, 422: ErrorOut}
"""What every operation may answer when a request is wrong."""
