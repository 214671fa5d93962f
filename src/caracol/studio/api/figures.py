"""Figures: outlined in photos of the Shelf, cut out, corrected."""

from __future__ import annotations

from typing import Any, TypeVar
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router, Status
from pydantic import BaseModel, ValidationError

from ...core.errors import PieceError
from ...core.piece.cutting import Cut, Search
from ...core.piece.faults import fault_message, path_of
from ..figures import correct_figure, doubtful_in, figure_preview, keep_figure, outline_in
from ..models import Photo
from ..photos import check_where
from .described import binary
from .schemas.common import FAULTS, ErrorOut
from .schemas.photos import CutData, FigureIn, FigurePatch, OutlineIn, OutlineOut, PhotoOut
from .serving import png, served

router = Router(tags=["figures"])


Checked = TypeVar("Checked", bound=BaseModel)


def _checked(model: type[Checked], data: dict[str, Any]) -> Checked:
    """Return data as a model; faults in words, as a piece has them."""
    try:
        return model.model_validate(data)
    except ValidationError as error:
        raise PieceError([f"{path_of(fault['loc'])}: {fault_message(fault)}" for fault in error.errors()]) from error


def _cut(data: CutData) -> Cut:
    """Return a checked cut."""
    return _checked(Cut, data.dict() | {"outline": check_where(data.outline)})


@router.post("/outlines", response={200: OutlineOut, **FAULTS}, operation_id="find_figure_outline")
def outline(request: HttpRequest, payload: OutlineIn) -> OutlineOut:
    """Find the outline of the figure in a rough box; strokes say what belongs to it and what does not."""
    with served(request):
        wanted = _checked(Search, payload.search.dict())
        found = outline_in(payload.photo, wanted, payload.feather)
        doubtful = doubtful_in(payload.photo, wanted, found)
    return OutlineOut(outline=found.model_dump(mode="json"), doubtful=doubtful)


@router.post(
    "/previews",
    response={200: None, **FAULTS},
    operation_id="render_figure",
    openapi_extra=binary("A PNG of the photo with all but the figure transparent.", "image/png"),
)
def show(request: HttpRequest, payload: CutData) -> HttpResponse:
    """Render the figure in its place in the photo, with the rest transparent."""
    with served(request):
        data = figure_preview(_cut(payload))
    return png(data)


@router.post("", response={201: PhotoOut, 507: ErrorOut, **FAULTS}, operation_id="add_figure")
def keep(request: HttpRequest, payload: FigureIn) -> Status[Photo]:
    """Put a figure on the Shelf as a cut-out."""
    with served(request):
        return Status(201, keep_figure(_cut(payload.cut), payload.name.strip()))


@router.put("/{photo_id}", response={200: PhotoOut, 507: ErrorOut, **FAULTS}, operation_id="correct_figure")
def correct(request: HttpRequest, photo_id: UUID, payload: FigurePatch) -> Photo:
    """Cut a figure of the Shelf again; pieces that it stands in show it so from then on."""
    with served(request):
        return correct_figure(get_object_or_404(Photo, id=photo_id), _cut(payload.cut))
