"""Requests and responses of the API."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal, Self
from uuid import UUID

from ninja import Schema
from pydantic import Field, JsonValue, model_validator

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
LARGEST_WHOLE = 4096
StartKey = Literal["planet", "sky-well", "tunnel", "inside-out", "plain"]


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


class StaleOut(Schema):
    """A refused save, and what is kept instead."""

    error: ErrorBody
    current: PieceOut


class UseOut(Schema):
    """How well a photo serves one use, and why."""

    use: str
    verdict: Literal["good", "fair", "poor"]
    reasons: list[str]


class LoopOut(Schema):
    """Two cuts, as shares of the width, and the agreement of the edges without and with them."""

    left: float
    right: float
    before: float
    after: float


class FeatureOut(Schema):
    """A face, a dial, lettering or a salient area, in shares of the photo."""

    kind: Literal["face", "dial", "lettering", "salient"]
    left: float
    top: float
    width: float
    height: float
    weight: float


class SeamOut(Schema):
    """How visible the join of left and right edge is, without and with the least visible way of closing it; 1 is like everywhere."""

    before: float
    after: float
    method: Literal["none", "cut", "blend", "crossfade"]


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
    darkness: float
    tone_spread: float
    hue_spread: float
    detail: float
    loop: LoopOut | None
    features: list[FeatureOut]
    uses: list[UseOut]
    words: str
    seam: SeamOut | None
    crush_top: float
    crush_bottom: float
    alone: bool


class HintData(Schema):
    """A stroke over what is figure, or what is not; points and radius in units of the photo."""

    points: Annotated[list[list[float]], Field(min_length=1, max_length=2000)]
    radius: Annotated[float, Field(gt=0, le=2)]
    add: bool = True


class SearchData(Schema):
    """Where a figure is looked for: a rough box in units of the photo (left, top, right, bottom), and strokes."""

    box: Annotated[list[float], Field(min_length=4, max_length=4)]
    hints: Annotated[list[HintData], Field(max_length=200)] = Field(default_factory=list)


class CutData(Schema):
    """How a figure is cut out: its photo by name, its outline in the photo's units, how far it follows hair, how much fringe is taken away."""

    photo: Annotated[str, Field(max_length=255)]
    outline: Where
    hair: Annotated[float, Field(ge=0, le=0.2)] = 0.0
    fringe: Annotated[float, Field(ge=0, le=1)] = 0.8
    search: SearchData | None = None


class OutlineIn(Schema):
    """Ask for the outline of a figure."""

    photo: Annotated[str, Field(max_length=255)]
    search: SearchData
    feather: Annotated[float, Field(ge=0, le=1)] = 0.004


class OutlineOut(Schema):
    """A proposed outline, as a where in the photo's units."""

    outline: Where


class FigureIn(Schema):
    """A figure to be kept."""

    name: Name
    cut: CutData


class FigurePatch(Schema):
    """A figure to be cut again."""

    cut: CutData


class PhotoOut(Schema):
    """A photo on the Shelf."""

    id: UUID
    name: str
    file_name: str
    width: int
    height: int
    preview: str
    thumbnail: str
    reading: ReadingOut
    notes: list[str]
    areas: list[AreaOut]
    keep: list[KeepAreaOut]
    transparent: bool
    cut: CutData | None = None
    """Of a figure that was cut out here: what it was cut from, and how."""
    added_at: datetime
    deleted: bool
    new: bool = True
    """False where an uploaded file was there already."""

    @staticmethod
    def resolve_reading(photo: Any) -> dict[str, Any]:
        """Return its reading, in the shape of this release."""
        return dict(photo.read.as_data())

    @staticmethod
    def resolve_preview(photo: Any) -> str:
        """Return an address that changes with what it shows, so that it may be cached for ever."""
        return f"/api/photos/{photo.id}/preview?{photo.preview[-12:-4]}"

    @staticmethod
    def resolve_thumbnail(photo: Any) -> str:
        return f"/api/photos/{photo.id}/thumbnail?{photo.preview[-12:-4]}"

    @staticmethod
    def resolve_deleted(photo: Any) -> bool:
        """Return whether it was taken off the Shelf."""
        return photo.deleted_at is not None


class AreaOut(Schema):
    """A named area of a photo: a `where` in the photo's own units."""

    name: Name
    where: Where


class KeepAreaOut(Schema):
    """A region of a photo that breaking steps move less, and how much is kept there; pieces started from the photo begin with it."""

    name: Annotated[str, Field(max_length=200)] = ""
    weight: Annotated[float, Field(ge=0, le=1)] = 1
    where: Where


class PhotoPatch(Schema):
    """What can be changed about a photo; what is left out stays."""

    name: Name | None = None
    areas: Annotated[list[AreaOut], Field(max_length=60)] | None = None
    keep: Annotated[list[KeepAreaOut], Field(max_length=50)] | None = None


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
    """A save: the revision it started from, and a token by which the same save sent twice is known.

    `history` is what was done before and after, as the Bench packs it; it is kept as it is.
    """

    revision: Annotated[int, Field(ge=1)]
    name: Name
    document: Document
    token: Annotated[str, Field(max_length=64)] = ""
    history: dict[str, Any] | None = None


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


class HistoryOut(Schema):
    """What was done to a piece, as the Bench packed it when it saved `revision`."""

    revision: int
    history: dict[str, Any] | None


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
        return sum(len(layer["steps"]) for layer in layers_in(piece.document, groups=True) if isinstance(layer.get("steps"), list))

    @staticmethod
    def resolve_layers(piece: Any) -> int:
        """Count the layers."""
        return len(layers_in(piece.document))

    @staticmethod
    def resolve_photo(piece: Any) -> str | None:
        """Return the photo of the lowest layer by its file's name."""
        source = next(iter(layers_in(piece.document)), {}).get("source")
        photo = source.get("photo") if isinstance(source, dict) else None
        return photo if isinstance(photo, str) else None


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


class PaletteIn(Schema):
    """A document whose colours are asked for."""

    document: Document


class PaletteOut(Schema):
    """The colours that a finished piece consists of, from dark to light."""

    colours: list[str]


class KeptOut(Schema):
    """The outlines of what is kept at a stage, closed, in units of the frame there."""

    lines: list[list[tuple[float, float]]]


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


class ExportIn(Schema):
    """What to export a piece as."""

    size: Annotated[int, Field(ge=16, le=16384)] = 2048
    shape: Literal["own", "square", "4:5", "9:16", "16:9", "typed"] = "own"
    ratio: Annotated[float, Field(ge=0.05, le=20)] = 1.0
    """Width ÷ height of a typed shape."""
    format: Literal["png", "png16", "jpeg", "webp", "avif", "tiff", "tiff16", "openraster", "map"] = "jpeg"
    quality: Annotated[int, Field(ge=1, le=100)] = 90
    space: Literal["srgb", "display-p3"] = "srgb"
    packing: Literal["lzw", "deflate"] = "deflate"
    """How a TIFF is made smaller."""
    dpi: Annotated[float, Field(ge=1, le=10000)] | None = None
    title: Annotated[str, Field(max_length=200)] = ""
    author: Annotated[str, Field(max_length=200)] = ""
    trail: bool = True
    """Whether the piece travels inside the file."""


class EstimateIn(Schema):
    """What is asked of an export before it is made."""

    document: Document
    options: ExportIn


class EstimateOut(Schema):
    """What an export would be: its pixels, about its bytes, and the longer side up to which the photo has a pixel for each (null without a photo)."""

    width: int
    height: int
    size_bytes: int
    honest: int | None


class ExportOut(Schema):
    """An export, or how far the work on it is."""

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


class DemoOut(Schema):
    """Whether the demo is being loaded, and how many photos it has."""

    loading: bool
    photos: int


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


class FilledOut(Schema):
    """The piece that a recipe makes."""

    document: Document


class TryOut(Schema):
    """A recipe on a photo, and how well the two suit each other: 2 good, 1 fair, 0 poor, and why."""

    recipe: UUID
    recipe_name: str
    photo: str
    photo_name: str
    ratio: float
    worth: int
    reason: str


class RunIn(Schema):
    """A recipe on chosen photos (file names), as files."""

    recipe: UUID
    photos: Annotated[list[str], Field(min_length=1, max_length=2000)]
    dials: dict[str, float] = Field(default_factory=dict)
    options: ExportIn
    pattern: Annotated[str, Field(min_length=1, max_length=120)] = "{photo}-{recipe}"


class RunOut(Schema):
    """A run, and how many of its photos are where; `share` of all its work is done, 0…1."""

    id: UUID
    name: str
    state: Literal["working", "paused", "done", "cancelled"]
    asked_at: datetime
    options: ExportIn
    waiting: int
    working: int
    done: int
    failed: int
    cancelled: int
    share: float
    size_bytes: int

    @staticmethod
    def resolve_waiting(run: Any) -> int:
        """Not begun yet."""
        return int(run.told["waiting"])

    @staticmethod
    def resolve_working(run: Any) -> int:
        """In hand."""
        return int(run.told["working"])

    @staticmethod
    def resolve_done(run: Any) -> int:
        """Whose files are there."""
        return int(run.told["done"])

    @staticmethod
    def resolve_failed(run: Any) -> int:
        """Each with its reason."""
        return int(run.told["failed"])

    @staticmethod
    def resolve_cancelled(run: Any) -> int:
        """Given up."""
        return int(run.told["cancelled"])

    @staticmethod
    def resolve_share(run: Any) -> float:
        """Photos in hand count by how far they are."""
        return float(run.told["share"])

    @staticmethod
    def resolve_size_bytes(run: Any) -> int:
        """Of all files."""
        return int(run.told["size_bytes"])


class RunPhotoOut(Schema):
    """One photo of a run."""

    id: int
    number: int
    photo: str
    file_name: str
    state: Literal["waiting", "working", "done", "failed", "cancelled"]
    share: float
    message: str
    size_bytes: int
    width: int
    height: int
    times: int
    """How often it was begun."""


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


StaleOut.model_rebuild()
