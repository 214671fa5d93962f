"""Every key under which something computed is kept. No other module makes one.

A key is a digest of a description of what was computed. Descriptions are made from whole objects, field by field, so that whatever is added
to a step, a place or a quality is part of every key by itself; whole numbers are described alike, however they were written; left out are names and ids, which change no picture, and, where that is
said, how a result is laid over its input. A model of which there are many says all of its fields itself, once (`described_once`). What cannot be described (a picture, a function) is refused rather than forgotten.
"""

from __future__ import annotations

from collections.abc import Hashable, Iterable, Iterator, Mapping
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import fields, is_dataclass
from functools import cache
from hashlib import blake2b
from typing import Any, Protocol, cast

import numpy as np
from pydantic import BaseModel

from ..errors import MissingPhoto
from ..kinds.kind import Kind

NAMES = frozenset({"id", "name", "visible", "link"})
"""What nobody sees in a picture."""
LAYING = frozenset({"strength", "blend", "channels", "where"})
"""How a step's result is laid over its input."""
UNLAID = NAMES | LAYING
ALONE = UNLAID | {"on"}
"""What a step finds out does not depend on, either."""
ENTRY = frozenset({"source", "place", "steps", "layers"})
"""What a layer or group shows, as apart from how it is laid over the others: its own picture's key says it."""
LAID = NAMES | ENTRY


_REMEMBERED: ContextVar[dict[tuple[int, frozenset[str]], tuple[Any, Any]] | None] = ContextVar("descriptions", default=None)
PLAIN: tuple[Any, ...] = (str, int, float, tuple, list)
SIMPLE = frozenset({type(None), bool, int, str})


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
    sort = type(value)
    if sort in SIMPLE:
        return value
    if sort is float:
        return int(value) if value.is_integer() else value
    if sort is tuple or sort is list:
        return tuple([described(part, without) for part in value])
    if isinstance(value, Kind):
        return value.key
    if isinstance(value, BaseModel) or (is_dataclass(value) and not isinstance(value, type)):
        return _known(value, without)
    if isinstance(value, Mapping):
        return ("mapping", *sorted((str(name), described(part, without)) for name, part in value.items()))
    if isinstance(value, frozenset | set):
        return tuple(sorted(map(repr, (described(part, without) for part in value))))
    if isinstance(value, np.generic):
        return described(value.item(), without)
    if isinstance(value, PLAIN):
        return described(_plain(value), without)
    raise TypeError(f"{type(value).__name__} cannot be part of a key; describe what it was made from")


def _plain(value: Any) -> Any:
    """Return a value of a class derived from a plain one as that one."""
    return next(plain(value) for plain in PLAIN if isinstance(value, plain))


@contextmanager
def remembering() -> Iterator[None]:
    """Describe each model only once inside this block, whoever asks for it: where very many keys are made of the same ones."""
    before = _REMEMBERED.set({})
    try:
        yield
    finally:
        _REMEMBERED.reset(before)


def _known(value: Any, without: frozenset[str]) -> Any:
    known = _REMEMBERED.get()
    if known is None:
        return _whole(value, without)
    at = (id(value), without)
    if at not in known:
        # The model is held with it, so that no other gets its id.
        known[at] = value, _whole(value, without)
    return known[at][1]


def _whole(value: Any, without: frozenset[str]) -> Any:
    """Return what says all of a model, in short."""
    told = getattr(value, "described_once", None)
    if told is not None:
        return told
    if isinstance(value, BaseModel) and not getattr(value, "described_by_parts", False):
        said = type(value).__pydantic_serializer__.to_json(value, exclude=set(without), serialize_as_any=True, warnings=False)
    else:
        said = repr(
            [described(getattr(value, name), without) for name in _fields_of(cast(Hashable, type(value))) if name not in without]
        ).encode()
    return type(value).__name__, blake2b(said, digest_size=16).hexdigest()


@cache
def _fields_of(sort: Any) -> tuple[str, ...]:
    return tuple(sort.model_fields) if issubclass(sort, BaseModel) else tuple(field.name for field in fields(sort))


@cache
def _photo_fields(sort: type[BaseModel]) -> tuple[str, ...]:
    extras = {name: field.json_schema_extra for name, field in sort.model_fields.items()}
    return tuple(name for name, extra in extras.items() if isinstance(extra, dict) and extra.get("widget") == "photo")


def photos_in(settings: Iterable[BaseModel], photos: Named) -> tuple[tuple[str, str | None], ...]:
    """Return name and contents of every photo that settings name; None for one that is gone, which is told where it is used."""
    found: dict[str, str | None] = {}
    for model in settings:
        for name in _photo_fields(type(model)):
            photo = getattr(model, name)
            if photo is not None:
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
    return digest("unlaid", before, described(stage, UNLAID), keep, looked_at, photos_in(stage.settings, photos))


def answer(before: str, stage: Stage, keep: object, looked_at: str | None, photos: Named) -> str:
    """Identify what is found out about a step on a trail: as `unlaid`, whether or not the step is switched on."""
    return digest("answer", before, described(stage, ALONE), keep, looked_at, photos_in(stage.settings, photos))


def shown_where(region: BaseModel, frame: object, picture_looked_at: str | None) -> str:
    """Identify a where as it is shown: its frame, and the picture that its ranges of tones look at."""
    return digest("shown where", region, frame, picture_looked_at)


def outlines(mask_key: str, frame: object) -> str:
    """Identify the outlines of keep areas in a frame."""
    return digest("outlines", mask_key, frame)


def surroundings(frame: object, keep: object, below: str | None, others: object) -> str:
    """Identify all that steps of a trail may look at besides their input."""
    return digest("surroundings", frame, keep, below, others)


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
    return digest("laid", entry, described(sheet, LAID))


def composite(frame: object, entries: Iterable[str]) -> str:
    """Identify entries laid over each other in a frame."""
    return digest("composite", frame, tuple(entries))
