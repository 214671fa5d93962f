"""The demo's photos and pieces, put on the Shelf."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterable
from concurrent.futures import ProcessPoolExecutor
from typing import Any

from django.db import connections

from ...core.piece.cutting import Cut, Search
from ...core.piece.files import check_piece
from ...world.photos import SCENES, Scene, draw_photo
from .. import previews
from ..figures import keep_figure, outline_in
from ..models import Photo, Piece
from ..photos import add_photo
from ..pieces import create
from .pieces import FIGURES, PIECES


def load(told: Callable[[str], None], cores: int | None = None) -> None:
    """Draw the demo's photos and make its pieces; what is there already, or was once and was deleted, is left alone.

    Parameters
    ----------
    told : callable (str)
        Is told what is done next, a line each.
    cores : int, optional
        Processes that draw at once; 1 draws in this one.
    """
    known = set(Photo.objects.values_list("file_name", flat=True))
    missing = [scene for scene in SCENES if scene.file_name not in known]
    if missing:
        told(f"Drawing {len(missing)} demo photos …")
    if cores == 1:
        _put(map(draw_photo, missing), missing, told)
        for document in _made():
            _show(document)
        return
    # Processes that are forked must not share a connection.
    connections.close_all()
    with ProcessPoolExecutor(cores or os.cpu_count()) as pool:
        _put(pool.map(draw_photo, missing), missing, told)
        # The last ones take longest: begun first, they keep no core waiting at the end.
        for _ in pool.map(_show, reversed(_made())):
            pass


def _made() -> list[dict[str, Any]]:
    """Make the pieces that are not there yet, and return their documents."""
    names = set(Piece.objects.values_list("name", flat=True))
    return [create(name, document).document for name, document in PIECES if name not in names]


def _show(document: dict[str, Any]) -> None:
    """Draw the picture with which the Shelf shows a piece when it is first seen."""
    previews.thumbnail(check_piece(document), previews.THUMBNAIL)


def _cut(told: Callable[[str], None]) -> None:
    """Cut the demo's figures out of its photos; one that is there already, or was once, is left alone."""
    known = set(Photo.objects.values_list("file_name", flat=True))
    for name, data in FIGURES:
        if f"{name}.png" in known or data["photo"] not in known:
            continue
        search = Search.model_validate(data["search"])
        figure = keep_figure(Cut.model_validate({**data, "outline": outline_in(data["photo"], search, 0.004)}), name)
        # It stands beside its photo on the Shelf, not before all others.
        figure.added_at = Photo.objects.get(file_name=data["photo"]).added_at
        figure.save(update_fields=["added_at"])
        told(f"  {name}, cut out")


def _put(drawn: Iterable[bytes], scenes: list[Scene], told: Callable[[str], None]) -> None:
    for scene, content in zip(scenes, drawn, strict=True):
        add_photo(content, scene.file_name)
        told(f"  {scene.name}")
        _cut(told)  # while others are still drawn
    _cut(told)
