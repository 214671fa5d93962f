"""What the API answers about what a piece can be made of: the catalogue."""

from __future__ import annotations

from typing import Any, Literal

from ninja import Schema
from pydantic import Field

from ....core.kinds.kind import Handle, Role
from ....core.pixels.blending import Blend
from .common import StepSettings
from .pieces import StartOut


class AutoOut(Schema):
    """What a setting is when it is left out, and when."""

    when: dict[str, Any] = Field(default_factory=dict)
    value: float


class IdleOut(Schema):
    """Values of other settings with which a setting has no effect, and why."""

    when: dict[str, list[str]]
    why: str


class SettingOut(Schema):
    """One setting as the catalogue publishes it."""

    name: str
    label: str
    widget: Literal[
        "number",
        "switch",
        "choice",
        "seed",
        "colour",
        "colours",
        "text",
        "formula",
        "knobs",
        "curve",
        "corners",
        "outline",
        "pulls",
        "tones",
        "stops",
        "bars",
        "strokes",
        "keys",
        "photo",
        "layer",
    ]
    unit: str | None
    type: Literal[
        "number",
        "integer",
        "choice",
        "boolean",
        "string",
        "curve",
        "corners",
        "outline",
        "knobs",
        "bars",
        "keys",
        "pulls",
        "strokes",
        "tones",
        "stops",
        "colours",
        "photo",
        "layer",
    ]
    choices: list[str] | None
    minimum: float | None
    maximum: float | None
    step: float | None
    default: float | bool | str | list[list[float]] | list[dict[str, Any]] | dict[str, Any] | None
    auto: list[AutoOut] | None
    when: dict[str, list[str]] | None
    idle: list[IdleOut]
    fine: bool
    nullable: bool
    help: str


class KindStartOut(Schema):
    """A starting point of a kind."""

    name: str
    words: list[str]
    settings: StepSettings
    after: Role | None = None
    """What a step before it must be to others, so that it says something."""


class BondOut(Schema):
    """What two numbers must be to each other: the second larger by `by` at least, or neither more than `by` times the other."""

    sort: Literal["order", "proportion"]
    first: str
    second: str
    by: float
    why: str


class KindOut(Schema):
    """One kind of step."""

    key: str
    label: str
    family: Literal["prepare", "mend", "bend", "break", "finish"]
    purpose: str
    words: list[str]
    geometric: bool
    respects_keep: bool
    by_hand: bool
    role: Role | None
    plain: bool
    """Whether it is offered at its defaults."""
    follows: bool
    """Whether settings left to it are taken from the steps before it."""
    grounded: bool
    """Whether it looks at what lies under its layer."""
    guide_layer: str | None
    """The setting that may name a layer below, which it then looks at."""
    cuts: bool
    shows: bool
    tells: bool
    reshapes: str
    handles: list[Handle]
    starts: list[KindStartOut]
    settings: list[SettingOut]
    bonds: list[BondOut]


class SourceOut(Schema):
    """One drawn source of a layer."""

    key: Literal["fill", "shape", "pattern", "lettering"]
    label: str
    purpose: str
    looks: list[KindStartOut]
    settings: list[SettingOut]


class FormulaWordsOut(Schema):
    """The words of the formula language that are not knobs."""

    functions: list[str]
    constants: list[str]
    variables: list[str]


class RunStepOut(Schema):
    """One step of a starting point of several steps."""

    kind: str
    settings: StepSettings


class SeveralOut(Schema):
    """A starting point of several steps."""

    name: str
    words: list[str]
    purpose: str
    steps: list[RunStepOut]


class MissingOut(Schema):
    """Something looked for among the steps that is none: kinds that go some of the way, and where it is found instead, if it is."""

    label: str
    words: list[str]
    near: list[str]
    told: str


class ShapeOut(Schema):
    """A shape of a where."""

    key: str
    label: str
    drawn: bool
    settings: list[SettingOut]


class CatalogueOut(Schema):
    """The one list of everything a piece is made of."""

    kinds: list[KindOut]
    sources: list[SourceOut]
    shapes: list[ShapeOut]
    where: list[SettingOut]
    place: list[SettingOut]
    box: list[SettingOut]
    box_bonds: list[BondOut]
    most_layers: int
    most_steps: int
    tile: list[SettingOut]
    keep: list[SettingOut]
    formula: FormulaWordsOut
    blends: list[Blend]
    starts: list[StartOut]
    several: list[SeveralOut]
    figure: list[RunStepOut]
    """The steps that a figure begins with."""
    missing: list[MissingOut]
    upload_bytes: int
    """How large a photo's file may be."""
