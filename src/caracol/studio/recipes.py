"""The recipe book: kept, edited, filled with photos and tried on them."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from django.utils import timezone

from ..core.errors import MissingPhoto
from ..core.io.formats import to_jpeg
from ..core.piece.builtin_recipes import BUILTIN_RECIPES
from ..core.piece.files import check_piece, dump_piece
from ..core.piece.fit import Fit, fit_of
from ..core.piece.recipe import Recipe, check_recipe, dump_recipe, kept, with_one_photo
from ..core.render import Context, Renderer
from .database import one_writer
from .models import Photo, Piece, free_name
from .models import Recipe as Row
from .photos import SHELF
from .pieces import create
from .rendering import CACHE, LIMITS


def load_builtin_recipes() -> int:
    """Put the recipes that come with Caracol into the book; those that are there, or were and were deleted, are left alone. Return how many."""
    known = set(Row.objects.exclude(key="").values_list("key", flat=True))
    new = [one for one in BUILTIN_RECIPES if one.key not in known]
    for one in reversed(new):  # the newest stands first, and so the first of ours
        recipe = check_recipe(one.data)
        Row.objects.create(key=one.key, name=recipe.name, tags=list(recipe.tags), data=dump_recipe(recipe), photo=one.photo)
    return len(new)


def keep(
    document: dict[str, Any], name: str, tags: Iterable[str], dials: Iterable[Mapping[str, Any]], layer: str | None, slots: Mapping[str, str] | None
) -> Row:  # fmt: skip
    """Keep a piece, or one layer's trail, as a recipe.

    Raises
    ------
    PieceError
        A dial turns nothing, or there is no such layer.
    """
    piece = check_piece(document)
    recipe = kept(piece, name, dials, tags, layer, slots)
    lowest = piece.find(layer) if layer else piece.layer
    return _create(recipe, getattr(getattr(lowest, "source", None), "photo", None) or "")


def take_in(data: dict[str, Any], name: str) -> Row:
    """Put a recipe that came as a file into the book."""
    recipe = check_recipe(data)
    called = recipe.name if "name" in data else name
    return _create(recipe.model_copy(update={"name": called}), "")


def copy(row: Row) -> Row:
    """Put a recipe into the book once more, under a name of its own."""
    return _create(check_recipe(row.data), row.photo)


def _create(recipe: Recipe, photo: str) -> Row:
    """Put a recipe into the book under a name that no other there has."""
    with one_writer():
        named = recipe.model_copy(update={"name": free_name(Row, recipe.name)})
        return Row.objects.create(name=named.name, tags=list(named.tags), data=dump_recipe(named), photo=photo)


def change(row: Row, name: str, tags: list[str], dials: list[dict[str, Any]], slots: list[dict[str, Any]]) -> Row:
    """Change what a recipe is called, what it is looked for by, and what it leaves open."""
    recipe = check_recipe({**row.data, "name": name, "tags": tags, "dials": dials, "slots": slots})
    row.name, row.tags, row.data, row.changed_at = name, tags, dump_recipe(recipe), timezone.now()
    row.save(update_fields=["name", "tags", "data", "changed_at"])
    row.__dict__.pop("read", None)
    return row


@dataclass(frozen=True)
class Try:
    """A recipe on a photo, and how well the two suit each other."""

    recipe: Row
    photo: Photo
    fit: Fit


def tries_of_recipe(row: Row) -> list[Try]:
    """Return a recipe on every photo of the Shelf, the best fit first."""
    recipe = check_recipe(row.data)
    return _sorted(Try(row, photo, fit_of(recipe, photo.read)) for photo in Photo.objects.present())


def tries_of_photo(photo: Photo) -> list[Try]:
    """Return every recipe of the book on a photo, the best fit first."""
    reading = photo.read
    return _sorted(Try(row, photo, fit_of(recipe, reading)) for row, recipe in _readable())


def _readable() -> Iterator[tuple[Row, Recipe]]:
    """Yield the recipes of the book that this release can read; one that it cannot must not hide the others."""
    for row in Row.objects.present():
        if row.read is not None:
            yield row, row.read


def _sorted(tries: Iterable[Try]) -> list[Try]:
    return sorted(tries, key=lambda one: -one.fit.worth)


def try_picture(
    row: Row, file_name: str, values: Mapping[str, float], slots: Mapping[str, str], size: int, stop: Callable[[], bool]
) -> bytes:
    """Return a recipe on a photo as a small JPEG; `slots` are photos chosen for some of its layers.

    Raises
    ------
    PieceError
        There is no such dial, or a value lies outside its range.
    MissingPhoto
        The photo is not on the Shelf.
    """
    piece = with_one_photo(check_recipe(row.data), file_name, values, figure_for(file_name), slots)
    return to_jpeg(Renderer(piece, Context(SHELF.once(), cache=CACHE, stop=stop, lenient=True, limits=LIMITS)).picture(size))


def shown_on(row: Row) -> str:
    """Return the file name of the photo that a recipe's picture is made of: its own, or the one on the Shelf that suits it best.

    Raises
    ------
    MissingPhoto
        There is no photo on the Shelf.
    """
    if row.photo and Photo.objects.present().filter(file_name=row.photo).exists():
        return row.photo
    best = next(iter(tries_of_recipe(row)), None)
    if best is None:
        raise MissingPhoto("there is no photo on the Shelf to show it on")
    return best.photo.file_name


def check_slots(slots: Mapping[str, str]) -> None:
    """Make sure that what is chosen for slots is on the Shelf; raises MissingPhoto."""
    there = set(Photo.objects.present().filter(file_name__in=slots.values()).values_list("file_name", flat=True))
    for name in slots.values():
        if name not in there:
            raise MissingPhoto(f"photo {name!r} is not on the Shelf")


def make_pieces(row: Row, file_names: Iterable[str], values: Mapping[str, float], slots: Mapping[str, str]) -> list[Piece]:
    """Make a piece of a recipe and each of some photos."""
    recipe = check_recipe(row.data)
    check_slots(slots)
    found = []
    for file_name in file_names:
        photo = Photo.objects.present().filter(file_name=file_name).first()
        if photo is None:
            raise MissingPhoto(f"photo {file_name!r} is not on the Shelf")
        piece = with_one_photo(recipe, file_name, values, figure_for(file_name), slots)
        found.append(create(f"{photo.name}, {row.name.lower()}", dump_piece(piece)))
    return found


def figure_for(file_name: str) -> str | None:
    """Return a transparent picture of the Shelf for a recipe's cut-outs, not the photo itself; None where there is none."""
    found = Photo.objects.present().filter(transparent=True).exclude(file_name=file_name).order_by("added_at").first()
    return None if found is None else found.file_name
