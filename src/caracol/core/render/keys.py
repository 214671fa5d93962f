"""Every key under which something computed is kept. No other module makes one.

A key is a digest of a description of what was computed. Descriptions are made from whole objects, field by field, so that whatever is added
to a step, a place or a quality is part of every key by itself; left out are names and ids, which change no picture, and, where that is
said, how a result is laid over its input. A model of which there are many says all of its fields itself, once (`described_once`). What cannot be described (a picture, a function) is refused rather than forgotten.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import fields, is_dataclass
from hashlib import blake2b
from typing import Any, Protocol

import numpy as np
from pydantic import BaseModel

from ..errors import MissingPhoto
from ..kinds.kind import Kind

NAMES = frozenset({"id", "name", "visible", "link"})
"""What nobody sees in a picture."""
LAYING = frozenset({"strength", "blend", "channels", "where"})
"""How a step's result is laid over its input."""
ENTRY = frozenset({"source", "place", "steps", "layers"})
"""What a layer or group shows, as apart from how it is laid over the others: its own picture's key says it."""


SIMPLE = frozenset({type(None), bool, int, float, str})


class Stage(Protocol):
    """Steps computed together; every field of it is described."""

    @property
    def settings(self) -> Iterable[BaseModel]:
        """The settings of all its steps."""


class Named(Protocol):
    """What knows the contents of photos by their names."""

    def digest(self, name: str) -> str:
        """Return what identifies the photo's contents."""


def digest(*parts: object) -> str:
    """Return a short digest of everything given, by its description."""
    return blake2b(repr(described(parts)).encode(), digest_size=16).hexdigest()


def described(value: Any, without: frozenset[str] = NAMES) -> Any:
    """Return what says all of a value, made of numbers, words and tuples alone.

    Parameters
    ----------
    value : object
        Numbers, words, models, arrays, and collections of them.
    without : frozenset of str
        Names of fields that nothing that is seen depends on.

    Returns
    -------
    object
        Hashable, alike for alike values.

    Raises
    ------
    TypeError
        The value, or something in it, cannot be described.

    Examples
    --------
    >>> described({"b": (1, 2.5), "a": None})
    ('mapping', ('a', None), ('b', (1, 2.5)))
    """
    if type(value) in SIMPLE or isinstance(value, str | int | float):
        return value
    if isinstance(value, tuple | list):
        return tuple(described(part, without) for part in value)
    if isinstance(value, Kind):
        return value.key
    if isinstance(value, BaseModel):
        told = getattr(value, "described_once", None)
        if told is not None:
            return told
        return _by_fields(value, type(value).model_fields, without)
    if is_dataclass(value) and not isinstance(value, type):
        return _by_fields(value, (field.name for field in fields(value)), without)
    if isinstance(value, Mapping):
        return ("mapping", *sorted((str(name), described(part, without)) for name, part in value.items()))
    if isinstance(value, frozenset | set):
        return tuple(sorted(map(repr, (described(part, without) for part in value))))
    if isinstance(value, np.generic):
        return value.item()
    raise TypeError(f"{type(value).__name__} cannot be part of a key; describe what it was made from")


def _by_fields(value: object, names: Iterable[str], without: frozenset[str]) -> Any:
    return (type(value).__name__, *((name, described(getattr(value, name), without)) for name in names if name not in without))


def photos_in(settings: Iterable[BaseModel], photos: Named) -> tuple[tuple[str, str | None], ...]:
    """Return name and contents of every photo that settings name; None for one that is gone, which is told where it is used."""
    found: dict[str, str | None] = {}
    for model in settings:
        for name, field in type(model).model_fields.items():
            extra = field.json_schema_extra
            photo = getattr(model, name)
            if isinstance(extra, dict) and extra.get("unit") == "photo" and photo is not None:
                try:
                    found[photo] = photos.digest(photo)
                except MissingPhoto:
                    found[photo] = None
    return tuple(sorted(found.items()))


def source(kind: str, contents: object) -> str:
    """Identify what a trail begins with."""
    return digest("source", kind, contents)


def after(before: str, stage: Stage, keep: object, looked_at: str | None, photos: Named) -> str:
    """Identify a trail after one more stage: what it was, the whole stage, the keep areas it respects, the layer it looks at, photos it names."""
    return digest("after", before, stage, keep, looked_at, photos_in(stage.settings, photos))


def unlaid(before: str, stage: Stage, keep: object, looked_at: str | None, photos: Named) -> str:
    """Identify what a stage makes, before that is laid over its input."""
    return digest("unlaid", before, described(stage, NAMES | LAYING), keep, looked_at, photos_in(stage.settings, photos))


def picture(what: str, longer: int, quality: object) -> str:
    """The key of a picture of something identified, at a size and quality."""
    return digest("picture", what, longer, quality)


def pyramid(of: str) -> str:
    """The key of the pyramid of a picture with this key."""
    return digest("pyramid", of)


def coded(pyramid_key: str, longer: int) -> str:
    """The key of the levels that drafts read of the pyramid with this key."""
    return digest("coded", pyramid_key, longer)


def prepared(what: object, settings: object) -> str:
    """The key of what is made of settings alone, before any picture is seen."""
    return digest("prepared", what, settings)


def resized(picture_key: str, shape: tuple[int, int]) -> str:
    """The key of a picture scaled to a shape."""
    return digest("resized", picture_key, shape)


def under(below: str, place: object, contain: bool) -> str:
    """Identify what lies under a layer, and how the layer lies on it."""
    return digest("under", below, place, contain)


def measured(picture_key: str, kind: Kind, settings: BaseModel, under_key: str | None = None) -> str:
    """The key of what a kind finds out about the picture with this key, and about what lies under it."""
    return digest("measured", picture_key, kind, settings, under_key)


def keep_mask(ground: str, keep: object, bends: object) -> str:
    """The key of keep areas pulled through bends."""
    return digest("keep", ground, keep, bends)


def guide(picture_key: str, looked_at: str | None, kind: Kind, settings: object) -> str:
    """The key of what a guided bend knows of the picture with this key, or of the looked-at layer."""
    return digest("guide", picture_key, looked_at, kind, settings)


def raster(input_key: str, kind: Kind, keep: object, photos: object) -> str:
    """Identify the work of a kind on the raster with this input's key."""
    return digest("raster", input_key, kind, keep, photos)


def remembered(work: str, part: object) -> str:
    """The key of something that such work remembers."""
    return digest("remembered", work, part)


def where(region: BaseModel, frame: object, shape: tuple[int, int]) -> str:
    """The key of a where's whole mask."""
    return digest("where", region, frame, shape)


def laid(entry: str, sheet: BaseModel) -> str:
    """Identify an entry and how it is laid over what is below."""
    return digest("laid", entry, described(sheet, NAMES | ENTRY))


def composite(frame: object, entries: Iterable[str]) -> str:
    """Identify entries laid over each other in a frame."""
    return digest("composite", frame, tuple(entries))
