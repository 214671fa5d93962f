"""The recipe book and try-ons."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime
from typing import Annotated, Any
from uuid import UUID

from ninja import Schema
from pydantic import Field

from .common import Document, Name, Slots
from .photos import thumbnail_of


class DialData(Schema):
    """A dial of a recipe: its name, the settings that it turns (layer, step, setting), and from where to where."""

    name: Annotated[str, Field(min_length=1, max_length=60)]
    settings: Annotated[list[Annotated[list[str], Field(min_length=3, max_length=3)]], Field(min_length=1, max_length=50)]
    low: float
    high: float
    value: float


class SlotData(Schema):
    """A layer whose photo is chosen when a recipe is used."""

    layer: Annotated[str, Field(max_length=64)]
    label: Annotated[str, Field(max_length=200)] = ""


Tags = Annotated[list[Annotated[str, Field(min_length=1, max_length=40)]], Field(max_length=20)]


class RecipeKeepIn(Schema):
    """A piece to be kept as a recipe: all its layers, or the trail of one; `slots` null leaves every photo open."""

    document: Document
    name: Name
    tags: Tags = Field(default_factory=list)
    dials: Annotated[list[DialData], Field(max_length=24)] = Field(default_factory=list)
    layer: str | None = None
    slots: Annotated[list[SlotData], Field(max_length=100)] | None = None


class RecipeFileIn(Schema):
    """A recipe file's contents; `name` is taken where it has none."""

    data: dict[str, Any]
    name: Name = "Recipe"


class RecipeIn(Schema):
    """What can be changed of a recipe in the book."""

    name: Name
    tags: Tags
    dials: Annotated[list[DialData], Field(max_length=24)]
    slots: Annotated[list[SlotData], Field(max_length=100)]


class RecipeOut(Schema):
    """A recipe of the book; `ours` where it came with Caracol, `faults` where this release cannot read it."""

    id: UUID
    name: str
    tags: list[str]
    ours: bool
    dials: list[DialData]
    slots: list[SlotData]
    cut_outs: list[str]
    """Those of its slots (layers) that want a transparent picture."""
    steps: list[str]
    """The kinds of its steps, from the lowest layer up."""
    changed_at: datetime
    faults: list[str]

    @staticmethod
    def resolve_ours(row: Any) -> bool:
        """Those that came with Caracol have a key."""
        return bool(row.key)

    @staticmethod
    def resolve_dials(row: Any) -> Any:
        """None where it cannot be read."""
        recipe = row.read
        return [] if recipe is None else [dial.model_dump() for dial in recipe.dials]

    @staticmethod
    def resolve_slots(row: Any) -> Any:
        """Every layer whose photo is open, named or not."""
        recipe = row.read
        return [] if recipe is None else [slot.model_dump() for slot in recipe.openings]

    @staticmethod
    def resolve_cut_outs(row: Any) -> Any:
        """None where it cannot be read."""
        recipe = row.read
        return [] if recipe is None else [layer.id for layer in recipe.open_layers() if layer.source.kind == "cut-out"]

    @staticmethod
    def resolve_steps(row: Any) -> Any:
        """Those that are off are left out."""
        recipe = row.read
        return [] if recipe is None else [step.kind for entry in recipe.entries() for step in entry.steps if step.on]


class RecipeFillIn(Schema):
    """Photos by layer (file names), and dials by name."""

    photos: dict[str, str]
    dials: dict[str, float] = Field(default_factory=dict)


class RecipePiecesIn(Schema):
    """Photos by file name, each to become a piece, and dials by name."""

    photos: Annotated[list[str], Field(min_length=1, max_length=200)]
    dials: dict[str, float] = Field(default_factory=dict)
    slots: Slots = Field(default_factory=dict)


class FilledOut(Schema):
    """The piece that a recipe makes."""

    document: Document


class TryOut(Schema):
    """A recipe on a photo, and how well the two suit each other: 2 good, 1 fair, 0 poor, and why."""

    recipe: UUID
    recipe_name: str
    photo: str
    photo_name: str
    thumbnail: str
    """Where the photo's own small picture lies."""
    ratio: float
    worth: int
    reason: str


def tries_out(found: Iterable[Any]) -> list[TryOut]:
    """Return tries as they are answered."""
    return [
        TryOut(
            recipe=one.recipe.id, recipe_name=one.recipe.name, photo=one.photo.file_name, photo_name=one.photo.name, thumbnail=thumbnail_of(one.photo),
            ratio=one.photo.width / max(1, one.photo.height), worth=one.fit.worth, reason=one.fit.reason,
        )
        for one in found
    ]  # fmt: skip
