"""Previews, and pictures to lay over them."""

from __future__ import annotations

from typing import Annotated, Self

from ninja import Schema
from pydantic import Field, model_validator

from .analyses import StepIn
from .common import LARGEST_WHOLE, Document, Share


class PartIn(Schema):
    """A part of a picture, in shares of its width and height."""

    left: Share
    top: Share
    right: Share
    bottom: Share

    @model_validator(mode="after")
    def _is_some(self) -> Self:
        if self.left >= self.right or self.top >= self.bottom:
            raise ValueError("left must be less than right, and top less than bottom")
        return self


class PreviewIn(Schema):
    """Ask for a preview of the whole piece, or of one layer (the bottom one when left out) after `upto` of its steps.

    `size` is the longer side of the whole picture; with `part`, only that part is made: the way to look at very large ones.
    `bench` and `turn` let newer requests of one place on the screen supersede older ones.
    """

    document: Document
    size: Annotated[int, Field(ge=16, le=16384)]
    part: PartIn | None = None
    upto: Annotated[int, Field(ge=0, le=1000)] | None = None
    layer: Annotated[str, Field(max_length=64)] | None = None
    draft: bool = False
    bench: Annotated[str, Field(max_length=80)] = ""
    turn: Annotated[int, Field(ge=0)] = 0

    @model_validator(mode="after")
    def _is_no_poster(self) -> Self:
        if self.part is None and self.size > LARGEST_WHOLE:
            raise ValueError(f"a whole preview has at most {LARGEST_WHOLE} pixels on its longer side; ask for a part of it")
        return self


class StepOverlayIn(StepIn):
    """Ask for what a step acts on, as a tinted picture."""

    size: Annotated[int, Field(ge=16, le=2048)] = 768


class SoftnessOverlayIn(Schema):
    """Ask for where an export would be softer, at a size of its longer side."""

    document: Document
    size: Annotated[int, Field(ge=16, le=16384)]


class BlendSheetIn(Schema):
    """Ask for every blend mode of a layer, group or step."""

    document: Document
    layer: Annotated[str, Field(max_length=64)]
    step: Annotated[str, Field(max_length=64)] | None = None
    size: Annotated[int, Field(ge=16, le=1024)] = 200


class AreaOverlayIn(BlendSheetIn):
    """An area to be shown, as a tint or as its edge."""

    edge: bool = False
