"""Recipes, and recipes tried on photos."""

from __future__ import annotations

from uuid import UUID

from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router, Status
from ninja.pagination import paginate

from ...core.bounds import read_json
from ...core.delivery.names import stem_for
from ...core.errors import PieceError
from ...core.piece.files import dump_piece, written_to_read
from ...core.piece.recipe import check_recipe, filled
from .. import recipes
from ..models import Piece, Recipe
from .described import DOWNLOAD, binary
from .pages import Pages
from .schemas.common import FAULTS
from .schemas.pieces import PieceRow
from .schemas.recipes import FilledOut, RecipeFileIn, RecipeFillIn, RecipeIn, RecipeKeepIn, RecipeOut, RecipePiecesIn, TryOut, tries_out
from .serving import download, served

router = Router(tags=["recipes"])


@router.get("", response={200: list[RecipeOut], **FAULTS}, operation_id="list_recipes")
@paginate(Pages)
def list_recipes(request: HttpRequest, search: str = "", gone: bool = False) -> QuerySet[Recipe]:
    """List the recipes, the newest first; `search` looks in names and tags; with `gone` those that were taken out."""
    found = Recipe.objects.gone() if gone else Recipe.objects.present()
    for word in search.split():
        found = found.filter(name__icontains=word) | found.filter(tags__icontains=word)
    return found


@router.post("", response={201: RecipeOut, **FAULTS}, operation_id="add_recipe")
def keep(request: HttpRequest, payload: RecipeKeepIn) -> Status[Recipe]:
    """Make a recipe of a piece, or of the trail of one of its layers."""
    slots = None if payload.slots is None else {slot.layer: slot.label for slot in payload.slots}
    dials = [dial.model_dump() for dial in payload.dials]
    return Status(201, recipes.keep(payload.document, payload.name.strip(), payload.tags, dials, payload.layer, slots))


@router.post("/imports", response={201: RecipeOut, **FAULTS}, operation_id="import_recipe")
def open_file(request: HttpRequest, payload: RecipeFileIn) -> Status[Recipe]:
    """Add a recipe from a file."""
    return Status(201, recipes.take_in(payload.data, payload.name.strip()))


@router.get("/{recipe_id}", response={200: RecipeOut, **FAULTS}, operation_id="get_recipe")
def get(request: HttpRequest, recipe_id: UUID) -> Recipe:
    """Return a recipe with what it leaves open."""
    return get_object_or_404(Recipe, id=recipe_id)


@router.put("/{recipe_id}", response={200: RecipeOut, **FAULTS}, operation_id="change_recipe")
def change(request: HttpRequest, recipe_id: UUID, payload: RecipeIn) -> Recipe:
    """Change a recipe's name, tags, dials and slots."""
    told = payload.model_dump()
    return recipes.change(get_object_or_404(Recipe, id=recipe_id), payload.name.strip(), payload.tags, told["dials"], told["slots"])


@router.post("/{recipe_id}/copies", response={201: RecipeOut, **FAULTS}, operation_id="copy_recipe")
def copy(request: HttpRequest, recipe_id: UUID) -> Status[Recipe]:
    """Add a copy of a recipe."""
    return Status(201, recipes.copy(get_object_or_404(Recipe, id=recipe_id)))


@router.delete("/{recipe_id}", response={200: RecipeOut, **FAULTS}, operation_id="delete_recipe")
def delete(request: HttpRequest, recipe_id: UUID) -> Recipe:
    """Delete a recipe; `restore` brings it back."""
    row = get_object_or_404(Recipe, id=recipe_id)
    row.remove()
    return row


@router.post("/{recipe_id}/restore", response={200: RecipeOut, **FAULTS}, operation_id="restore_recipe")
def restore(request: HttpRequest, recipe_id: UUID) -> Recipe:
    """Bring a deleted recipe back."""
    row = get_object_or_404(Recipe, id=recipe_id)
    row.bring_back()
    return row


@router.get(
    "/{recipe_id}/file",
    operation_id="get_recipe_file",
    response={200: None, **FAULTS},
    openapi_extra=binary("The recipe as JSON.", "application/json", headers=DOWNLOAD),
)
def file(request: HttpRequest, recipe_id: UUID) -> HttpResponse:
    """Return a recipe as a file."""
    row = get_object_or_404(Recipe, id=recipe_id)
    return download(written_to_read(row.data), "application/json", f"{stem_for(row.name, 'recipe')}.json")


@router.get(
    "/{recipe_id}/preview", operation_id="get_recipe_preview", response={200: None, **FAULTS}, openapi_extra=binary("A JPEG.", "image/jpeg")
)
def picture(request: HttpRequest, recipe_id: UUID, photo: str = "", dials: str = "", slots: str = "", size: int = 384) -> HttpResponse:
    """Return a recipe on a photo (its own where none is named) as a JPEG.

    `dials` is a JSON object of values by name, `slots` one of photos by layer.
    """
    row = get_object_or_404(Recipe, id=recipe_id)
    with served(request) as stop:
        data = recipes.try_picture(row, photo or recipes.shown_on(row), _values(dials), _chosen(slots), min(max(size, 32), 1024), stop)
    response = HttpResponse(data, content_type="image/jpeg")
    # What is seen depends on the recipe, which may be changed; the address names its last change.
    response["Cache-Control"] = "private, max-age=3600"
    return response


def _values(text: str) -> dict[str, float]:
    if not text:
        return {}
    try:
        return {str(name): float(value) for name, value in read_json(text).items()}
    except (ValueError, TypeError, AttributeError, OverflowError) as error:
        raise PieceError(["dials: expected a JSON object of numbers by name"]) from error


def _chosen(text: str) -> dict[str, str]:
    if not text:
        return {}
    try:
        return {str(layer): str(photo) for layer, photo in read_json(text).items()}
    except (ValueError, AttributeError) as error:
        raise PieceError(["slots: expected a JSON object of photos by layer"]) from error


@router.post("/{recipe_id}/documents", response={200: FilledOut, **FAULTS}, operation_id="make_recipe_document")
def fill(request: HttpRequest, recipe_id: UUID, payload: RecipeFillIn) -> FilledOut:
    """Return the document that a recipe makes of photos; nothing is stored."""
    row = get_object_or_404(Recipe, id=recipe_id)
    return FilledOut(document=dump_piece(filled(check_recipe(row.data), payload.photos, payload.dials)))


@router.post("/{recipe_id}/pieces", response={201: list[PieceRow], **FAULTS}, operation_id="make_recipe_pieces")
def make_pieces(request: HttpRequest, recipe_id: UUID, payload: RecipePiecesIn) -> Status[list[Piece]]:
    """Make and store a piece of the recipe for each of some photos."""
    return Status(201, recipes.make_pieces(get_object_or_404(Recipe, id=recipe_id), payload.photos, payload.dials, payload.slots))


@router.get("/{recipe_id}/try-ons", response={200: list[TryOut], **FAULTS}, operation_id="list_try_ons_of_recipe")
def list_try_ons(request: HttpRequest, recipe_id: UUID) -> list[TryOut]:
    """List every photo of the Shelf for one recipe, the best fit first, each with its reason and its preview."""
    return tries_out(recipes.tries_of_recipe(get_object_or_404(Recipe, id=recipe_id)))
