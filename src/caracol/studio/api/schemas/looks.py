"""Pictures of pieces, and what a look may be asked for."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from ninja import Schema
from pydantic import Field, JsonValue, model_validator

from ....core.steps.mend.touch_up import Stroke
from .common import LARGEST_WHOLE, Document, Name, Share


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


class LookIn(Schema):
    """Ask for a look: of the finished piece, or of one layer (the lowest when left out) after `upto` of its steps.

    `size` is the longer side of the whole picture; with `part`, only that part is made: the way to look at very large ones.
    `bench` and `turn` let newer requests of one place on the screen overtake older ones.
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
            raise ValueError(f"a whole look has at most {LARGEST_WHOLE} pixels on its longer side; ask for a part of it")
        return self


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


class ToldOut(Schema):
    """What a step found out about its input, as far as an artist is told: what there is depends on its kind."""

    told: dict[str, JsonValue]


class StrokeIn(StepIn):
    """A stroke that is made on a touch-up, and not yet one of its strokes."""

    stroke: Stroke


class DoubleOut(Schema):
    """A place that shows the same as another; in units, and how alike they are, 0…1."""

    x: float
    y: float
    from_x: float
    from_y: float
    radius: float
    likeness: float


class DoublesOut(Schema):
    """Where strokes betray themselves, the plainest to see first."""

    doubles: list[DoubleOut]


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


class VeiledIn(StepIn):
    """Ask for what a step acts on, as a tinted picture."""

    size: Annotated[int, Field(ge=16, le=2048)] = 768


class SoftIn(Schema):
    """Ask for where a finished piece would be soft at a size on its longer side."""

    document: Document
    size: Annotated[int, Field(ge=16, le=16384)]


class PaletteIn(Schema):
    """A document whose colours are asked for."""

    document: Document


class PaletteOut(Schema):
    """The colours that a finished piece consists of, from dark to light."""

    colours: list[str]


class KeptOut(Schema):
    """The outlines of what is kept at a stage, closed, in units of the frame there."""

    lines: list[list[tuple[float, float]]]


class WordsIn(Schema):
    """Ask where the words of a document lie."""

    document: Document


class WordingOut(Schema):
    """The words of one layer: the box around them (left, top, right, bottom), in units of the piece, and where they run past the frame.

    They may also be longer than their circle. `fitting` is the largest size at which they would not; null where they do not, or where no size would help.
    """

    layer: str
    box: tuple[float, float, float, float]
    past: list[Literal["left", "top", "right", "bottom", "circle"]]
    fitting: float | None


class WordingsOut(Schema):
    """The words of every layer that has some, the topmost first."""

    words: list[WordingOut]


class RollIn(Schema):
    """Ask for variants of a document: other seeds, or settings within a spread, in all steps or the chosen ones."""

    document: Document
    seed: Annotated[int, Field(ge=0, le=999_999)]
    spread: Annotated[float, Field(ge=0, le=1)] = 0.25
    vary: Literal["seeds", "settings", "both"] = "both"
    steps: Annotated[list[Annotated[str, Field(max_length=64)]], Field(max_length=400)] | None = None
    count: Annotated[int, Field(ge=1, le=24)] = 12


class VariantOut(Schema):
    """One variant, and what differs in it, in words."""

    document: Document
    changes: list[str]


class RollOut(Schema):
    """Variants of a document."""

    variants: list[VariantOut]


class ShelveIn(StageIn):
    """Put a stage on the Shelf as a picture of its own."""

    name: Name
    size: Annotated[int, Field(ge=16, le=8192)] = 2048


class BlendsIn(Schema):
    """Ask for every blend mode, or the where, of a layer, group or step."""

    document: Document
    layer: Annotated[str, Field(max_length=64)]
    step: Annotated[str, Field(max_length=64)] | None = None
    size: Annotated[int, Field(ge=16, le=1024)] = 200


class VeilIn(BlendsIn):
    """A where to be shown, as a tint or as its edge."""

    edge: bool = False
