"""The Shelf: taking photos in, and giving them to the core."""

from __future__ import annotations

import logging
import re
import time
import unicodedata
from collections.abc import Callable
from dataclasses import fields
from io import BytesIO
from math import inf
from pathlib import PurePath
from typing import Any

from django.conf import settings
from django.db.models import Case, Q, QuerySet, Value, When
from PIL import Image

from ..core.errors import MissingPhoto, PictureError
from ..core.inspection import Inspected, inspect_file
from ..core.inspection import preview_of as small_picture
from ..core.io.decode import read_photo
from ..core.piece.files import check_piece, dump_piece
from ..core.pixels.pyramid import Pyramid, build_pyramid
from ..core.reading.reading import VERSION, Reading, read
from ..core.render.cache import Cache
from . import media, thumbnails
from .database import one_writer
from .decoding import DECODING
from .models import Photo, free_name

log = logging.getLogger(__name__)
MOMENT = 1.0
"""Seconds for which drafts believe what the database said of a photo."""
THUMBNAIL = 480
"""Pixels of the pictures in lists: twice as many as they are wide there, for screens with two for one."""
SUFFIXES = {"JPEG": ".jpg", "MPO": ".jpg", "PNG": ".png", "WEBP": ".webp", "TIFF": ".tif", "AVIF": ".avif"}


class ShelfPhotos:
    """Photos of the Shelf by file name, decoded once and kept while there is room."""

    def __init__(self, limit: int) -> None:
        self._pyramids = Cache(limit)
        self._lately = PhotosOnce(self), -inf

    def row(self, name: str) -> Photo:
        """Return what the database knows of a photo; raises MissingPhoto where it is not there."""
        try:
            return Photo.objects.get(file_name=name)
        except Photo.DoesNotExist as error:
            raise MissingPhoto(f"The photo “{name}” is not on the Shelf any more. Put it there again, or start from another.") from error

    def pyramid(self, name: str) -> Pyramid:
        """Return a photo's pyramid; raises MissingPhoto where row or file are gone."""
        return self.pyramid_of(self.row(name))

    def once(self) -> PhotosOnce:
        """Return the same photos, each looked up in the database only once: for one render."""
        return PhotosOnce(self)

    def lately(self) -> PhotosOnce:
        """Return the same photos as they were a moment ago at most: drafts under the hand need not ask for every one of them."""
        now = time.monotonic()
        looked, since = self._lately
        if now - since > MOMENT:
            looked, since = self._lately = self.once(), now
        return looked

    def pyramid_of(self, row: Photo) -> Pyramid:
        """Return the pyramid of a photo that was looked up; raises MissingPhoto where its file is gone."""

        def make() -> Pyramid:
            try:
                content = media.read(media.photo_name(row.digest, row.suffix))
            except FileNotFoundError as error:
                raise MissingPhoto(
                    f"The file of the photo “{row.name}” is gone from the disk. Put the photo on the Shelf again."
                ) from error
            with DECODING.of(row.width * row.height):
                loaded = read_photo(content, row.name)
                return build_pyramid(loaded.texels, loaded.space)

        return self._pyramids.get(row.digest, make)

    def digest(self, name: str) -> str:
        """Return the digest of a photo's file."""
        return self.row(name).digest


class PhotosOnce:
    """Photos of the Shelf as they were when first asked for."""

    def __init__(self, shelf: ShelfPhotos) -> None:
        self._shelf = shelf
        self._rows: dict[str, Photo] = {}

    def _row(self, name: str) -> Photo:
        if name not in self._rows:
            self._rows[name] = self._shelf.row(name)
        return self._rows[name]

    def pyramid(self, name: str) -> Pyramid:
        """Return a photo's pyramid; raises MissingPhoto where row or file are gone."""
        return self._shelf.pyramid_of(self._row(name))

    def digest(self, name: str) -> str:
        """Return the digest of a photo's file."""
        return self._row(name).digest


SHELF = ShelfPhotos(settings.PHOTO_CACHE)


def clean_name(name: str) -> str:
    """Make a file name from outside harmless: its last part only, no control characters, no more than 120 characters."""
    last = PurePath(name.replace("\\", "/")).name
    kept = "".join(c for c in unicodedata.normalize("NFC", last) if unicodedata.category(c)[0] != "C")
    kept = re.sub(r'[<>:"|?*%]+', "-", kept).strip(". ")
    stem, dot, ending = kept.rpartition(".")
    return (stem or ending)[:110].strip() if dot else kept[:110] or "photo"


def _free_file_name(stem: str, suffix: str) -> str:
    base = stem or "photo"
    for number in range(1, 100_000):
        name = f"{base}{'' if number == 1 else f'-{number}'}{suffix}"
        if not Photo.objects.filter(file_name=name).exists():
            return name
    raise PictureError(f"There are too many photos named {base}; rename this one first.")


def check_where(where: dict[str, Any]) -> dict[str, Any]:
    """Check a named area and return it with its defaults; faults as a piece has them."""
    step = {"id": "a", "kind": "tone", "settings": {}, "where": where}
    checked = dump_piece(check_piece({"caracol": 3, "layers": [{"id": "a", "steps": [step]}]}))
    return dict(checked["layers"][0]["steps"][0]["where"])


def check_keep(areas: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """Check keep areas and return them with their defaults; faults as a piece has them."""
    checked = dump_piece(check_piece({"caracol": 3, "layers": [{"id": "a", "source": {"kind": "photo", "keep": areas}}]}))
    return list(checked["layers"][0]["source"]["keep"])


def refresh_readings() -> int:
    """Read photos again whose reading was made by an older Caracol; return how many."""
    wanted = {field.name for field in fields(Reading)}
    count = 0
    for photo in Photo.objects.all():
        if isinstance(photo.reading, dict) and wanted <= set(photo.reading) and photo.reading["version"] == VERSION:
            continue
        try:
            photo.reading = read(SHELF.pyramid(photo.file_name)).as_data()
        except (MissingPhoto, PictureError) as error:
            log.warning("the photo %s cannot be read again: %s", photo.file_name, error)
            continue
        photo.save(update_fields=["reading"])
        count += 1
    return count


def suiting(photos: QuerySet[Photo], use: str) -> QuerySet[Photo]:
    """Return the photos that are good or fair for a use, the good ones first; an unknown use suits none."""
    good, fair = (Q(suits__contains=f"|{use}:{verdict}|") for verdict in ("good", "fair"))
    return photos.filter(good | fair).annotate(fit=Case(When(good, then=Value(0)), default=Value(1))).order_by("fit", "-added_at", "name")


def store_preview(pyramid: Pyramid) -> str:
    """Keep a photo's small picture and return where it lies."""
    return media.store("previews", small_picture(pyramid), ".jpg")


def preview_of(photo: Photo) -> str:
    """Return the stored name of a photo's preview; one that is gone is made again.

    Raises
    ------
    MissingPhoto
        The photo's file is gone as well.
    """
    if not media.exists(photo.preview):
        photo.preview = store_preview(SHELF.pyramid_of(photo))
        photo.save(update_fields=["preview"])
    return photo.preview


def thumbnail_of(photo: Photo) -> bytes:
    """Return a photo's picture for lists, a JPEG made of its preview and kept.

    Raises
    ------
    MissingPhoto
        The photo's file is gone, and its preview as well.
    """
    name = media.digest_of(f"{photo.preview} {THUMBNAIL}".encode())
    data = thumbnails.kept(name)
    if data is None:
        out = BytesIO()
        with Image.open(BytesIO(media.read(preview_of(photo)))) as preview:
            preview.thumbnail((THUMBNAIL, THUMBNAIL))
            preview.save(out, "JPEG", quality=85, subsampling=0)
        data = out.getvalue()
        thumbnails.keep(name, data)
    return data


def _already(content: bytes) -> Photo | None:
    """Return the photo that has this very content, undeleted, where its file is still there too: nothing of it need be read again."""
    photo = Photo.objects.filter(digest=media.digest_of(content)).first()
    # A preview that is gone is made again when it is asked for.
    if photo is None or not media.exists(media.photo_name(photo.digest, photo.suffix)):
        return None
    photo.deleted_at = None
    photo.save(update_fields=["deleted_at"])
    return photo


def add_photo(content: bytes, name: str, look: Callable[[bytes, str], Inspected] = inspect_file) -> tuple[Photo, bool]:
    """Take a photo in; a file that is there already comes back as it is, undeleted.

    Parameters
    ----------
    look : callable
        What reads the file: apart from this process where it comes from somebody else.

    Returns
    -------
    photo : Photo
    new : bool

    Raises
    ------
    PictureError
        Whatever is wrong with the file, in words for its owner.
    """
    stem = clean_name(name)
    if len(content) > settings.UPLOAD_LIMIT:
        raise PictureError(
            f"{name} has {len(content) >> 20} MB; at most {settings.UPLOAD_LIMIT >> 20} MB are taken. Make it smaller first."
        )
    there = _already(content)
    if there:
        return there, False
    with DECODING.of():
        found = look(content, stem)
    suffix = SUFFIXES[found.kind]
    stored = media.store("photos", content, suffix)
    digest = PurePath(stored).stem
    notes = list(found.notes)
    given = PurePath(name).suffix.lower().replace(".jpeg", ".jpg").replace(".tiff", ".tif")
    if given and given != suffix:
        notes.append(f"Its name ends with {given}, but it is a {suffix[1:].upper()} file; it was read as that.")
    preview = media.store("previews", found.preview, ".jpg")
    with one_writer():
        there = Photo.objects.filter(digest=digest).first()
        if there:
            there.deleted_at = None
            there.save(update_fields=["deleted_at"])
            return there, False
        photo = Photo.objects.create(
            transparent=found.transparent, name=free_name(Photo, stem), file_name=_free_file_name(stem, suffix), digest=digest, suffix=suffix, preview=preview,
            width=found.width, height=found.height, reading=found.reading, notes=notes,
        )  # fmt: skip
    return photo, True
