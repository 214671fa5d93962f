"""The artist's own formulas and gradients."""

from __future__ import annotations

from typing import Annotated
from uuid import UUID

from ninja import Schema
from pydantic import Field

from .common import Name, StepSettings


class FormulaIn(Schema):
    """A formula for the book: the settings of a formula step."""

    name: Name
    settings: StepSettings


class FormulaPatch(Schema):
    """A formula's new name."""

    name: Name


class FormulaOut(Schema):
    """A formula of the artist's own book."""

    id: UUID
    name: str
    settings: StepSettings


class StopOut(Schema):
    """A stop of a gradient: its place, 0…1, and its colour."""

    at: Annotated[float, Field(ge=0, le=1)]
    colour: Annotated[str, Field(pattern=r"^#[0-9a-fA-F]{6}$")]


class GradientIn(Schema):
    """A gradient for the book."""

    name: Name
    stops: Annotated[list[StopOut], Field(min_length=2, max_length=32)]


class GradientPatch(Schema):
    """A gradient's new name."""

    name: Name


class GradientOut(Schema):
    """A gradient of the artist's own book."""

    id: UUID
    name: str
    stops: list[StopOut]


class FormulaCheckIn(Schema):
    """The two lines of a formula."""

    lines: Annotated[list[Annotated[str, Field(max_length=2000)]], Field(max_length=2)]


class FormulaFaultOut(Schema):
    """Where a line cannot be read; lines count from 0, columns from 1."""

    line: int
    column: int
    length: int
    message: str


class FormulaCheckOut(Schema):
    """What is wrong with a formula, and its knobs."""

    faults: list[FormulaFaultOut]
    knobs: list[str]
