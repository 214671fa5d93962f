"""Figures cut out of the Shelf's photos, kept there with what they were cut from."""

from __future__ import annotations

from io import BytesIO
from pathlib import PurePath

from PIL import Image

from ..core.errors import PictureError
from ..core.io.formats import Note, encode, to_integers
from ..core.piece.cutting import Cut, Search, cut_out, doubtful_of, look_for
from ..core.piece.where import Where
from ..core.pixels.figures import cut_figure
from ..core.pixels.pyramid import pyramid_of
from ..core.pixels.spaces import in_space
from ..core.reading.reading import read
from . import media
from .database import one_writer
from .models import Photo
from .photos import SHELF, add_photo, store_preview

SEEN = 1100
"""Pixels of a photo's longer side in which a cut is shown while it is made."""


def doubtful_in(photo: str, search: Search, outline: Where) -> list[tuple[float, float, float, float]]:
    """Return the parts of a search's box that an outline found in it does not reach."""
    return doubtful_of(outline, search, SHELF.pyramid(photo).frame)


def outline_in(photo: str, search: Search, feather: float) -> Where:
    """Return the outline of the figure in a rough box of a photo.

    Raises
    ------
    MissingPhoto, PictureError
    """
    return look_for(SHELF.pyramid(photo), search, feather)


def figure_preview(cut: Cut) -> bytes:
    """Return the figure where it stands in its photo, the rest transparent, as a PNG."""
    pyramid = SHELF.pyramid(cut.photo)
    picture = pyramid.look(min(SEEN, max(pyramid.rows, pyramid.cols)))
    rows, cols = picture.shape[:2]
    per = cols / 2 / pyramid.frame.half_w
    mask = cut.outline.mask(pyramid.frame, rows, cols)
    figure = cut_figure(picture, mask, cut.hair * per, cut.fringe, max(1.5, cut.outline.feather * per))
    out = BytesIO()
    Image.fromarray(to_integers(figure)).save(out, "PNG", compress_level=1)
    return out.getvalue()


def keep_figure(cut: Cut, name: str) -> Photo:
    """Put a figure on the Shelf as a cut-out.

    Raises
    ------
    MissingPhoto, PictureError
    """
    photo_cut = SHELF.pyramid(cut.photo)
    content = encode(to_integers(cut_out(photo_cut, cut)), "png", 0, Note(space=photo_cut.space))
    photo, _ = add_photo(content, f"{name}.png")
    photo.cut = cut.model_dump(mode="json")
    photo.save(update_fields=["cut"])
    return photo


def correct_figure(photo: Photo, cut: Cut) -> Photo:
    """Cut a figure of the Shelf again; pieces that it stands in show it so from then on.

    Raises
    ------
    MissingPhoto, PictureError
    """
    if photo.cut is None:
        raise PictureError(f"“{photo.name}” is a photo, not a figure that was cut out: cut one out of it, and correct that.")
    if cut.photo != photo.cut["photo"]:
        raise PictureError(
            f"“{photo.name}” was cut out of {photo.cut['photo']}, and is corrected there; cut a new figure out of {cut.photo}."
        )
    photo_cut = SHELF.pyramid(cut.photo)
    figure = cut_out(photo_cut, cut)
    content = encode(to_integers(figure), "png", 0, Note(space=photo_cut.space))
    pyramid = pyramid_of(in_space(figure, "srgb", photo_cut.space))
    stored = media.store("photos", content, ".png")
    with one_writer():
        photo.digest, photo.suffix = PurePath(stored).stem, ".png"
        photo.preview = store_preview(pyramid)
        photo.width, photo.height = pyramid.cols, pyramid.rows
        photo.reading = read(pyramid).as_data()
        photo.cut = cut.model_dump(mode="json")
        photo.save(update_fields=["digest", "suffix", "preview", "width", "height", "reading", "cut"])
    return photo
