"""Photos, their readings, and figures cut out of them."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from ninja import Schema
from pydantic import Field

from .analyses import StageIn
from .common import Name, Where


class UseOut(Schema):
    """How well a photo serves one use, and why."""

    use: str
    verdict: Literal["good", "fair", "poor"]
    reasons: list[str]
    worth: float = 0.0


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
    uneven: float


class BroughtOut(Schema):
    """A step that another brings along."""

    kind: str
    settings: dict[str, Any]


class CompanionsOut(Schema):
    """What goes before and after a ring with this side inside."""

    inside: Literal["top", "bottom"]
    before: list[BroughtOut]
    after: list[BroughtOut]


class StageReadingOut(ReadingOut):
    """What Caracol sees in the picture after some steps, and what a ring that is put in there brings along."""

    companions: list[CompanionsOut]


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
    """A proposed outline, as a where in the photo's units, and boxes (left, top, right, bottom) that it was expected to reach and does not."""

    outline: Where
    doubtful: list[tuple[float, float, float, float]]


class FigureIn(Schema):
    """A figure to be kept."""

    name: Name
    cut: CutData


class FigurePatch(Schema):
    """A figure to be cut again."""

    cut: CutData


def thumbnail_of(photo: Any) -> str:
    """Return the address of a photo's picture for lists; it changes with what it shows."""
    return f"/api/v1/photos/{photo.id}/thumbnail?{photo.preview[-12:-4]}"


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
        return f"/api/v1/photos/{photo.id}/preview?{photo.preview[-12:-4]}"

    @staticmethod
    def resolve_thumbnail(photo: Any) -> str:
        return thumbnail_of(photo)

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


class StagePhotoIn(StageIn):
    """A document, or one of its layers after some steps, to become a photo of the Shelf."""

    name: Name
    size: Annotated[int, Field(ge=16, le=8192)] = 2048
