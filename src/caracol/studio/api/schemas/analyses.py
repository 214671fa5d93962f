"""What is found out about documents."""

from __future__ import annotations

from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field, JsonValue

from ....core.steps.mend.touch_up import Stroke
from .common import Document, StepSettings


class DocumentIn(Schema):
    """A document to analyse."""

    document: Document


class StageIn(Schema):
    """A document after its first `upto` steps."""

    document: Document
    upto: Annotated[int, Field(ge=0, le=1000)] | None = None
    layer: Annotated[str, Field(max_length=64)] | None = None


class StepIn(Schema):
    """A step of a layer of a document."""

    document: Document
    layer: Annotated[str, Field(max_length=64)]
    step: Annotated[str, Field(max_length=64)]


class StepAnalysisOut(Schema):
    """What a step found out about its input, as far as an artist is told: what there is depends on its kind."""

    found: dict[str, JsonValue]


class StrokeIn(StepIn):
    """A stroke that is made on a touch-up, and not yet one of its strokes."""

    stroke: Stroke


class RepeatOut(Schema):
    """A place that shows the same as another; in units, and how alike they are, 0…1."""

    x: float
    y: float
    from_x: float
    from_y: float
    radius: float
    likeness: float


class RepeatsOut(Schema):
    """Places that strokes made visibly alike, the most visible first."""

    repeats: list[RepeatOut]


class BarsIn(StepIn):
    """Ask for the bars of a slices step; with `again`, drawn from that seed, the locked ones kept."""

    again: Annotated[int, Field(ge=0, le=999_999)] | None = None


class BarOut(Schema):
    """A bar in shares of the height and width: where it was cut out, and where it went."""

    top: float
    height: float
    drop: float
    left: float
    width: float
    shift: float
    stretch: float
    locked: bool


class BarsOut(Schema):
    """The bars of a slices step, from the top down."""

    bars: list[BarOut]


class PaletteOut(Schema):
    """The colours that the whole piece consists of, from dark to light."""

    colours: list[str]


class KeepAreasOut(Schema):
    """The outlines of keep areas at a stage, closed, in units of the frame there."""

    lines: list[list[tuple[float, float]]]


class TextBoxOut(Schema):
    """The text of one layer: the box around them (left, top, right, bottom), in units of the piece, and where it runs past the frame.

    It may also be longer than its circle. `fitting` is the largest size at which it would not; null where it does not, or where no size would help.
    """

    layer: str
    box: tuple[float, float, float, float]
    past: list[Literal["left", "top", "right", "bottom", "circle"]]
    fitting: float | None


class TextBoxesOut(Schema):
    """The texts of every layer that has some, the topmost first."""

    texts: list[TextBoxOut]


class StepIdentities(Schema):
    """What identifies all that is found out about a step; its where as it is shown; settings that it takes from the steps before it.

    `ring` is the nearest step before it that wraps the picture round a centre.
    """

    answer: str
    where: str | None
    follows: StepSettings
    ring: str | None


class EntryIdentities(Schema):
    """What identifies the stages of a layer or group.

    `after`: its own picture before the first step and after each. `kept`: the outlines of its keep areas there, empty without any. `ring`:
    the id of its last step that wraps the picture round a centre. `where`: its own where as it is shown. `around`: all that a step added to it may look at besides its input.
    """

    after: list[str]
    steps: dict[str, StepIdentities]
    kept: list[str]
    ring: str | None
    where: str | None
    around: str


class IdentitiesOut(Schema):
    """What identifies the whole piece, whole and as its box leaves it, and the stages of its layers and groups by their ids.

    Pictures and answers about a stage that are kept under its identity are never another's, at any size, and are the same where it is the same.
    """

    whole: str
    delivered: str
    entries: dict[str, EntryIdentities]
