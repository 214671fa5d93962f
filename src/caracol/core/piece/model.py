"""What a piece is: layers, groups and steps."""

from __future__ import annotations

from collections.abc import Iterator
from functools import cached_property
from typing import TYPE_CHECKING, Annotated, Any, ClassVar, Literal, Self, Union, cast

from pydantic import BaseModel, ConfigDict, Discriminator, Field, Tag, create_model, model_validator

from ..catalogue.registry import INDEX, KINDS
from ..errors import PieceError
from ..geometry.frame import Frame
from ..kinds.kind import Kind
from ..kinds.settings import Bond, Settings, number
from ..pixels.blending import Blend, Channel
from ..sources.fill import FillSource
from ..sources.lettering import LetteringSource
from ..sources.pattern import PatternSource
from ..sources.shape import ShapeSource
from .keep import KeepArea
from .where import Where

NARROWEST = 0.05
"""Width ÷ height of a piece lies between this and its inverse."""
MOST_STEPS = 200
MOST_LAYERS = 100
Id = Annotated[str, Field(min_length=1, max_length=64, pattern=r"^[A-Za-z0-9_.:-]+$")]
ALL_CHANNELS: tuple[Channel, ...] = ("r", "g", "b")


class Step(BaseModel):
    """One step of a trail. The models of the single kinds are made from this one and the catalogue."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, ignored_types=(cached_property,))

    id: Id
    kind: str
    on: bool = True
    settings: Settings = Settings()
    strength: float = Field(1.0, ge=0, le=1)
    blend: Blend = "normal"
    channels: tuple[Channel, ...] = Field(ALL_CHANNELS, max_length=5)
    where: Where | None = None

    @property
    def definition(self) -> Kind:
        """The kind this step is of."""
        return INDEX[self.kind]

    @property
    def described_by_parts(self) -> bool:
        """Whether keys describe it field by field, as they do its settings."""
        return self.settings.described_by_parts

    @property
    def is_plain(self) -> bool:
        """Whether the step acts fully and everywhere, so that it may be fused."""
        return self.strength == 1 and self.blend == "normal" and self.where is None and self._everywhere

    @property
    def _everywhere(self) -> bool:
        return set(self.channels) >= {"r", "g", "b"} or set(self.channels) >= {"light", "colour"}

    @property
    def is_idle(self) -> bool:
        """Whether the step gives its input back exactly."""
        empty = self.where is not None and not self.where.shapes and not self.where.invert
        if self.definition.cuts:
            return not self.on or self.strength == 0 or self.where is None
        return not self.on or self.strength == 0 or not self.channels or empty or self.definition.is_neutral(self.settings)

    @model_validator(mode="after")
    def _reshaping_is_whole(self) -> Self:
        if self.definition.cuts and (self.blend != "normal" or not self._everywhere):
            raise ValueError(f"{self.kind} takes no channels and no blend; its area and opacity say what is left")
        if self.definition.reshapes(self.settings) and not self.is_plain:
            raise ValueError(
                f"{self.kind} changes the shape of the frame here, so it cannot act partly: leave out strength, where, channels and blend"
            )
        return self


def _step_model(kind: Kind) -> type[Step]:
    name = "".join(part.title() for part in kind.key.split("-")) + "Step"
    fields: dict[str, Any] = {"kind": (Literal[kind.key], kind.key), "settings": (kind.settings, kind.settings())}
    return cast(type[Step], create_model(name, __base__=Step, **fields))


if TYPE_CHECKING:
    AnyStep = Step
else:
    AnyStep = Annotated[Union[tuple(_step_model(k) for k in KINDS)], Field(discriminator="kind")]  # noqa: UP007


class PhotoSource(Settings):
    """A photo or cut-out by name (None in a recipe), and how it meets the piece's frame.

    `tile` repeats it: `cell` is half the shorter side of one copy, in units of the piece, `x` and `y` the middle of one of them.
    `keep` are the areas that breaking steps move less, in units of the photo.
    """

    kind: Literal["photo", "cut-out"] = "photo"
    photo: str | None = Field(None, max_length=255)
    fit: Literal["cover", "contain", "tile"] = "cover"
    cell: float = number(0.25, 0.01, 4, label="Cell", unit="units", shown=(0.02, 2), help="Half the shorter side of one copy.")
    x: float = number(
        0, -20, 20, label="Across", unit="units", shown=(-4, 4), help="Middle of a copy, right positive, in units of the piece."
    )
    y: float = number(0, -20, 20, label="Down", unit="units", shown=(-4, 4), help="Middle of a copy, down positive, in units of the piece.")
    keep: tuple[KeepArea, ...] = Field((), max_length=50)


class BelowSource(Settings):
    """Everything under this layer so far; live."""

    kind: Literal["below"] = "below"


SOURCE_KINDS = ("photo", "cut-out", "fill", "shape", "pattern", "lettering", "below")
Source = Annotated[PhotoSource | BelowSource | FillSource | ShapeSource | PatternSource | LetteringSource, Field(discriminator="kind")]


class Place(Settings):
    """Where a layer lies on the piece: moved (units), scaled against what its fit gives, turned (clockwise), flipped left to right."""

    x: float = number(0, -20, 20, label="Across", unit="units", shown=(-4, 4), help="Moved right positive, in units of the piece.")
    y: float = number(0, -20, 20, label="Down", unit="units", shown=(-4, 4), help="Moved down positive, in units of the piece.")
    scale: float = number(1, 0.01, 20, label="Scale", unit="factor", shown=(0.05, 6), help="1 is the size its fit gives.")
    turn: float = number(0, -4, 4, label="Turn", unit="turns", step=0.0025, shown=(-1, 1), help="Clockwise positive.")
    flip: bool = False

    @property
    def is_idle(self) -> bool:
        """Whether it leaves the layer where its fit puts it."""
        return self == _UNMOVED


_UNMOVED = Place()


class Sheet(Settings):
    """What layers and groups have alike: a name, a trail, a place on the piece, and how they are laid over what is below."""

    id: Id
    name: str = Field("", max_length=200)
    visible: bool = True
    opacity: float = Field(1, ge=0, le=1)
    blend: Blend = "normal"
    where: Where | None = None
    place: Place | None = None
    link: Id | None = None
    """Layers of one link have the same steps: whoever edits those of one edits those of all."""
    steps: tuple[AnyStep, ...] = Field((), max_length=MOST_STEPS)

    @model_validator(mode="after")
    def _ids_differ(self) -> Self:
        seen: set[str] = set()
        for index, step in enumerate(self.steps):
            if step.id in seen:
                raise ValueError(f"steps[{index}].id: {step.id!r} is taken by an earlier step; every step needs an id of its own")
            seen.add(step.id)
        return self

    def frames(self, ground: Frame) -> list[Frame]:
        """Return the frame of the ground and after each step."""
        frames = [ground]
        for step in self.steps:
            after = getattr(step.definition, "frame_after", None)
            frames.append(frames[-1] if after is None or step.is_idle else after(frames[-1], step.settings))
        return frames

    @property
    def members(self) -> tuple[Layer | Group, ...]:
        """What is put together in it; nothing in a layer."""
        return ()

    @property
    def is_idle(self) -> bool:
        """Whether nothing of it is seen."""
        empty = self.where is not None and not self.where.shapes and not self.where.invert
        return not self.visible or self.opacity == 0 or empty

    @property
    def is_plain(self) -> bool:
        """Whether it is laid down fully and everywhere."""
        return self.opacity == 1 and self.blend == "normal" and self.where is None


class Layer(Sheet):
    """A source and its trail."""

    source: Source = PhotoSource()

    def walk(self) -> Iterator[Layer]:
        """Yield itself, as a group yields its layers."""
        yield self


class Group(Sheet):
    """Layers put together by themselves in the piece's frame, then bent, broken, placed and laid like one."""

    layers: tuple[Entry, ...] = Field(min_length=1, max_length=MOST_LAYERS)

    @property
    def members(self) -> tuple[Layer | Group, ...]:
        return self.layers

    def walk(self) -> Iterator[Layer]:
        """Yield all its layers, from the lowest up."""
        yield from _walk(self.layers)


def _sort_of(value: Any) -> str:
    return "group" if (isinstance(value, dict) and "layers" in value) or isinstance(value, Group) else "layer"


Entry = Annotated[Annotated[Layer, Tag("layer")] | Annotated[Group, Tag("group")], Discriminator(_sort_of)]
Group.model_rebuild()


class PieceBox(Settings):
    """What is delivered of the piece: a box about a centre, turned clockwise; its sides are upright in what is delivered."""

    x: float = number(0, -20, 20, label="Across", unit="units", shown=(-2, 2), help="The middle of the box, right positive.")
    y: float = number(0, -20, 20, label="Down", unit="units", shown=(-2, 2), help="The middle of the box, down positive.")
    rx: float = number(1, 0.02, 20, label="Half width", unit="units", shown=(0.05, 4), help="From the middle to the side.")
    ry: float = number(1, 0.02, 20, label="Half height", unit="units", shown=(0.05, 4), help="From the middle to the top.")
    turn: float = number(
        0, -1, 1, label="Turn", unit="turns", step=0.0025, help="Turns the box clockwise; the picture in it turns the other way."
    )

    bonds: ClassVar = (
        Bond("proportion", "rx", "ry", 1 / NARROWEST, f"a box may be {1 / NARROWEST:g} times as wide as high at most, or as high as wide"),
    )


class PieceFrame(Settings):
    """The piece's frame; a null ratio means the lowest layer's own after its steps. With a box only what lies in it is delivered."""

    ratio: float | None = Field(None, ge=NARROWEST, le=1 / NARROWEST)
    box: PieceBox | None = None


class Piece(Settings):
    """A piece, or a recipe where a photo is left out."""

    caracol: Literal[3]
    frame: PieceFrame = PieceFrame()
    layers: tuple[Entry, ...] = Field(min_length=1, max_length=MOST_LAYERS)

    @property
    def layer(self) -> Layer:
        """The lowest layer."""
        return next(self.walk())

    def walk(self) -> Iterator[Layer]:
        """Yield all layers, those in groups too, from the lowest up."""
        yield from _walk(self.layers)

    def entries(self) -> Iterator[Layer | Group]:
        """Yield all layers and groups, each group before what is in it."""
        yield from _all(self.layers)

    def find(self, layer_id: str) -> Layer | Group:
        """Return the layer or group of this id.

        Raises
        ------
        PieceError
            There is none.
        """
        for entry in _all(self.layers):
            if entry.id == layer_id:
                return entry
        raise PieceError([f"layer: no layer has the id {layer_id!r}; there are {', '.join(entry.id for entry in _all(self.layers))}"])

    @model_validator(mode="after")
    def _fits_together(self) -> Self:
        ids = [entry.id for entry in _all(self.layers)]
        if len(ids) > MOST_LAYERS:
            raise ValueError(f"the piece has {len(ids)} layers and groups; at most {MOST_LAYERS} are taken")
        for index, one in enumerate(ids):
            if one in ids[:index]:
                raise ValueError(f"layers: the id {one!r} is taken twice; every layer and group needs an id of its own")
        below: list[str] = []
        for layer in _laid_order(self.layers):
            for step in layer.steps:
                named = getattr(step.settings, getattr(step.definition, "guide_layer", None) or "", None)
                if named is not None and named not in below:
                    there = f"below it lie {', '.join(below)}" if below else "nothing lies below it"
                    setting = step.definition.guide_layer  # type: ignore[attr-defined]
                    raise ValueError(f"layer {layer.id!r}, step {step.id!r}, settings.{setting}: {named!r} is no layer below; {there}")
            below += [] if layer.members else [layer.id]
        if self.layer.source.kind == "below":
            raise ValueError(f"layers: nothing lies below the bottom layer {self.layer.id!r}, so its source cannot be `below`")
        return self


def _walk(entries: tuple[Layer | Group, ...]) -> Iterator[Layer]:
    for entry in entries:
        yield from entry.walk()


def _all(entries: tuple[Layer | Group, ...]) -> Iterator[Layer | Group]:
    for entry in entries:
        yield entry
        yield from _all(entry.members)


def _laid_order(entries: tuple[Layer | Group, ...]) -> Iterator[Layer | Group]:
    """Yield all entries, each group after what is in it."""
    for entry in entries:
        yield from _laid_order(entry.members)
        yield entry
