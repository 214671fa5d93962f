"""The Shelf's photos."""

from __future__ import annotations

from uuid import UUID

from django.db.models import QuerySet
from django.http import FileResponse, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import File, Router, Status
from ninja.files import UploadedFile
from ninja.pagination import paginate

from ...core.piece.files import check_piece
from .. import media, recipes, sandbox
from ..models import Photo
from ..photos import add_photo, check_keep, check_where, preview_of, suiting, thumbnail_of
from ..previews import add_stage_to_shelf
from .described import binary
from .pages import Pages
from .schemas.common import FAULTS, ErrorOut
from .schemas.photos import PhotoOut, PhotoPatch, StagePhotoIn
from .schemas.recipes import TryOut, tries_out
from .serving import served

router = Router(tags=["photos"])
FOREVER = "private, max-age=31536000, immutable"


@router.get("", response={200: list[PhotoOut], **FAULTS}, operation_id="list_photos")
@paginate(Pages)
def list_photos(
    request: HttpRequest, search: str = "", file_name: str = "", use: str = "", transparent: bool = False, gone: bool = False
) -> QuerySet[Photo]:
    """List the photos on the Shelf, newest first; `search` looks in names and readings, `file_name` finds the one a piece names.

    With a `use` those that suit it, the good ones first; with `transparent` cut-outs alone; with `gone` those that were taken off the Shelf.
    """
    found: QuerySet[Photo] = Photo.objects.gone() if gone else Photo.objects.present()
    found = suiting(found, use) if use else found
    found = found.filter(transparent=True) if transparent else found
    if search:
        found = found.filter(name__icontains=search) | found.filter(reading__words__icontains=search)
    return found.filter(file_name=file_name) if file_name else found


@router.post("", response={200: PhotoOut, 201: PhotoOut, 507: ErrorOut, **FAULTS}, operation_id="add_photo")
def upload(request: HttpRequest, file: File[UploadedFile]) -> Status[PhotoOut]:
    """Put one file on the Shelf. A file that is there already is returned with `new` false, and 200 in place of 201."""
    photo, new = add_photo(file.read(), file.name or "photo", sandbox.inspect_file)
    shown = PhotoOut.from_orm(photo)
    shown.new = new
    return Status(201 if new else 200, shown)


@router.post("/from-piece", response={201: PhotoOut, 507: ErrorOut, **FAULTS}, operation_id="add_photo_from_piece")
def add_from_piece(request: HttpRequest, payload: StagePhotoIn) -> Status[Photo]:
    """Render a document, or one of its layers after some steps, and put the picture on the Shelf with its transparency."""
    with served(request) as stop:
        return Status(201, add_stage_to_shelf(check_piece(payload.document), payload.upto, payload.layer, payload.name, payload.size, stop))


@router.get("/{photo_id}", response={200: PhotoOut, **FAULTS}, operation_id="get_photo")
def get(request: HttpRequest, photo_id: UUID) -> Photo:
    """Return one photo with its reading, its areas and where its pictures are; a deleted one too."""
    return get_object_or_404(Photo, id=photo_id)


@router.get("/{photo_id}/try-ons", response={200: list[TryOut], **FAULTS}, operation_id="list_try_ons_of_photo")
def list_try_ons(request: HttpRequest, photo_id: UUID) -> list[TryOut]:
    """List every recipe for one photo, the best fit first, each with its reason and its preview."""
    return tries_out(recipes.tries_of_photo(get_object_or_404(Photo, id=photo_id)))


@router.patch("/{photo_id}", response={200: PhotoOut, **FAULTS}, operation_id="change_photo")
def change(request: HttpRequest, photo_id: UUID, payload: PhotoPatch) -> Photo:
    """Rename a photo (pieces go on finding it), or keep its named areas and its keep areas."""
    photo = get_object_or_404(Photo, id=photo_id)
    if payload.name is not None:
        photo.name = payload.name.strip()
    if payload.areas is not None:
        photo.areas = [{"name": area.name.strip(), "where": check_where(area.where)} for area in payload.areas]
    if payload.keep is not None:
        photo.keep = check_keep([area.model_dump() for area in payload.keep])
    photo.save(update_fields=["name", "areas", "keep"])
    return photo


@router.delete("/{photo_id}", response={200: PhotoOut, **FAULTS}, operation_id="delete_photo")
def delete(request: HttpRequest, photo_id: UUID) -> Photo:
    """Take a photo off the Shelf; `restore` brings it back. Pieces made from it go on working."""
    photo = get_object_or_404(Photo, id=photo_id)
    photo.remove()
    return photo


@router.post("/{photo_id}/restore", response={200: PhotoOut, **FAULTS}, operation_id="restore_photo")
def restore(request: HttpRequest, photo_id: UUID) -> Photo:
    """Bring a deleted photo back."""
    photo = get_object_or_404(Photo, id=photo_id)
    photo.bring_back()
    return photo


@router.get(
    "/{photo_id}/preview",
    operation_id="get_photo_preview",
    response={200: None, **FAULTS},
    openapi_extra=binary("The photo as JPEG.", "image/jpeg"),
)
def preview(request: HttpRequest, photo_id: UUID) -> FileResponse:
    """Return the photo at up to 1024 pixels as JPEG."""
    photo = get_object_or_404(Photo, id=photo_id)
    response = media.answer(preview_of(photo), "image/jpeg")
    response["Cache-Control"] = FOREVER
    return response


@router.get(
    "/{photo_id}/thumbnail",
    operation_id="get_photo_thumbnail",
    response={200: None, **FAULTS},
    openapi_extra=binary("The photo as a small JPEG.", "image/jpeg"),
)
def thumbnail(request: HttpRequest, photo_id: UUID) -> HttpResponse:
    """Return the photo at up to 480 pixels as JPEG, for lists."""
    response = HttpResponse(thumbnail_of(get_object_or_404(Photo, id=photo_id)), content_type="image/jpeg")
    response["Cache-Control"] = FOREVER
    return response
