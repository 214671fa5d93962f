"""The colour space that a piece is worked in: sRGB, or Display P3 where one of its photos has colours that sRGB has not.

All numbers of a piece are of one space. A step does the same to the numbers of either (both share the curve of light), so that colours
beyond sRGB live through every trail; they are brought back only where a picture is asked for in sRGB.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from typing import Any, TypeVar
from weakref import WeakKeyDictionary

from pydantic import BaseModel

from ..errors import MissingPhoto, PictureError
from ..piece.model import PhotoSource, Piece
from ..pixels.pyramid import Pyramid
from ..pixels.spaces import Space, code_in
from .context import Photos

CODE = re.compile(r"#[0-9a-fA-F]{6}")
WORDS = frozenset({"name", "text", "title", "author", "id", "link"})
"""Fields that hold words: what looks like a colour's code there is none."""
Any_ = TypeVar("Any_")
_turned: WeakKeyDictionary[Pyramid, Pyramid] = WeakKeyDictionary()
"""Photos of sRGB that stand in a piece worked in Display P3; each as long as the photo itself is kept."""


def space_of(piece: Piece, photos: Photos) -> Space:
    """Return the space that has the colours of all photos seen in a piece; one that cannot be opened is told of where it is asked for."""
    for name in _photos_of(piece):
        try:
            space = photos.pyramid(name).space
        except (MissingPhoto, PictureError):
            continue
        if space != "srgb":
            return space
    return "srgb"


def _photos_of(piece: Piece) -> Iterator[str]:
    for layer in piece.walk():
        if not layer.visible:
            continue
        named = [layer.source.photo] if isinstance(layer.source, PhotoSource) else []
        named += [getattr(step.settings, "feed", None) for step in layer.steps if step.on]
        yield from (name for name in named if name)


class PhotosIn:
    """Photos as numbers of a space."""

    def __init__(self, photos: Photos, space: Space) -> None:
        self._photos = photos
        self._space = space

    def pyramid(self, name: str) -> Pyramid:
        """Return a photo; raises as the photos themselves do."""
        given = self._photos.pyramid(name)
        if given.space == self._space:
            return given
        if given not in _turned:
            _turned[given] = given.as_in(self._space)
        return _turned[given]

    def digest(self, name: str) -> str:
        """Return what identifies the photo's numbers."""
        digest = self._photos.digest(name)
        return digest if self._photos.pyramid(name).space == self._space else f"{digest} {self._space}"


def recoloured(piece: Piece, space: Space) -> Piece:
    """Return a piece whose colours, written in sRGB, are the codes of the space it is worked in, fine enough to be the same again."""
    return piece if space == "srgb" else _over(piece, lambda code: code_in(code, space, digits=4))


def converted_to_srgb(told: dict[str, Any], space: Space) -> dict[str, Any]:
    """Return what a step tells, with the codes of colours it found as those of sRGB."""
    return told if space == "srgb" else _over(told, lambda code: code_in(code, "srgb", space))


def _over(value: Any_, turn: Callable[[str], str]) -> Any_:
    """Return a value with every colour's code in it turned, however deep; what holds none is the same object."""
    found: Any = value
    if isinstance(value, str):
        found = turn(value) if CODE.fullmatch(value) else value
    elif isinstance(value, BaseModel):
        fields = {name: getattr(value, name) for name in type(value).model_fields if name not in WORDS}
        changed = {name: new for name, old in fields.items() if (new := _over(old, turn)) is not old}
        found = value.model_copy(update=changed) if changed else value
    elif isinstance(value, dict):
        found = {key: old if key in WORDS else _over(old, turn) for key, old in value.items()}
    elif isinstance(value, list | tuple):
        parts = [_over(old, turn) for old in value]
        same = all(new is old for new, old in zip(parts, value, strict=True))
        found = value if same else type(value)(parts)
    return found
