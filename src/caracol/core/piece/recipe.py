"""Recipes: a piece without its photos, with dials that stay open and slots that photos go into."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from pathlib import Path
from typing import Annotated, Any, Self, get_args

from pydantic import Field, model_validator

from ..errors import PieceError
from ..kinds.settings import Settings
from .files import checked, dump_piece, parsed
from .model import Group, Id, Layer, PhotoSource, Piece, Step

MOST_DIALS = 24
MOST_PLACES = 50
MOST_TAGS = 20
STRENGTH = "strength"
"""The one number of a step that a dial may turn besides its settings."""
Name = Annotated[str, Field(min_length=1, max_length=200)]
Place = tuple[Id, Id, Annotated[str, Field(min_length=1, max_length=64)]]
"""Layer, step, setting."""


class Dial(Settings):
    """A number that stays open, by name: it sets one or more settings, all to its value, within its own range."""

    name: Annotated[str, Field(min_length=1, max_length=60)]
    settings: tuple[Place, ...] = Field(min_length=1, max_length=MOST_PLACES)
    low: float
    high: float
    value: float

    @model_validator(mode="after")
    def _holds(self) -> Self:
        if not self.low < self.high:
            raise ValueError(f"dial {self.name!r}: low {self.low:g} is not below high {self.high:g}")
        if not self.low <= self.value <= self.high:
            raise ValueError(f"dial {self.name!r}: its value {self.value:g} is not between {self.low:g} and {self.high:g}")
        return self


class Slot(Settings):
    """A layer whose photo is chosen when the recipe is used."""

    layer: Id
    label: Annotated[str, Field(max_length=200)] = ""


class Recipe(Piece):
    """A piece whose slots have no photo, with a name, tags and dials."""

    name: Name = "Recipe"
    tags: tuple[Annotated[str, Field(min_length=1, max_length=40)], ...] = Field((), max_length=MOST_TAGS)
    dials: tuple[Dial, ...] = Field((), max_length=MOST_DIALS)
    slots: tuple[Slot, ...] = ()

    @model_validator(mode="after")
    def _dials_turn_something(self) -> Self:
        names: set[str] = set()
        for dial in self.dials:
            if dial.name in names:
                raise ValueError(f"dials: the name {dial.name!r} is taken twice")
            names.add(dial.name)
            for place in dial.settings:
                low, high, _ = self.range_of(place)
                if dial.low < low or dial.high > high:
                    raise ValueError(f"dial {dial.name!r}: {place[2]} takes {low:g} to {high:g}, not {dial.low:g} to {dial.high:g}")
        return self

    @model_validator(mode="after")
    def _slots_are_open(self) -> Self:
        open_ones = [layer.id for layer in self.open_layers()]
        for slot in self.slots:
            if slot.layer not in open_ones:
                raise ValueError(f"slots: the layer {slot.layer!r} has no photo left open; open are {', '.join(open_ones) or 'none'}")
        if len({slot.layer for slot in self.slots}) < len(self.slots):
            raise ValueError("slots: a layer is named twice")
        return self

    def open_layers(self) -> Iterator[Layer]:
        """Yield the layers whose photo is left open, from the lowest up."""
        for layer in self.walk():
            if isinstance(layer.source, PhotoSource) and layer.source.photo is None:
                yield layer

    def cut_outs(self) -> set[str]:
        """Return the open layers of cut-outs."""
        return {layer.id for layer in self.open_layers() if layer.source.kind == "cut-out"}

    @property
    def openings(self) -> tuple[Slot, ...]:
        """Every slot, from the lowest layer up; those that the recipe does not name are called like their layer."""
        named = {slot.layer: slot for slot in self.slots}
        return tuple(named.get(layer.id, Slot(layer=layer.id, label=layer.name or layer.id)) for layer in self.open_layers())

    def range_of(self, place: Place) -> tuple[float, float, bool]:
        """Return from where to where a setting may go, and whether it takes whole numbers alone.

        Raises
        ------
        ValueError
            There is no such layer, step or setting, or it is no number.
        """
        layer_id, step_id, name = place
        layer = next((entry for entry in self.entries() if entry.id == layer_id), None)
        if layer is None:
            raise ValueError(f"dials: no layer has the id {layer_id!r}")
        step = next((one for one in layer.steps if one.id == step_id), None)
        if step is None:
            raise ValueError(f"dials: the layer {layer_id!r} has no step {step_id!r}")
        return range_in(step, name)


def range_in(step: Step, name: str) -> tuple[float, float, bool]:
    """Return from where to where a number of a step may go, and whether it takes whole numbers alone; ValueError where it is none."""
    model: Any = type(step) if name == STRENGTH else type(step.settings)
    field = model.model_fields.get(name)
    if field is None:
        raise ValueError(f"dials: {step.definition.label} has no setting {name!r}")
    kinds = {field.annotation, *get_args(field.annotation)}
    low, high = (next((getattr(m, at) for m in field.metadata if hasattr(m, at)), None) for at in ("ge", "le"))
    if not kinds & {int, float} or bool in kinds or low is None or high is None:
        raise ValueError(f"dials: {name!r} of {step.definition.label} is no number with a range")
    return float(low), float(high), int in kinds and float not in kinds


def check_recipe(data: Any) -> Recipe:
    """Check parsed JSON and return it as a recipe; one without slots or dials is a plain piece without its photos.

    Raises
    ------
    PieceError
        With one line for each fault.
    """
    return checked(data, Recipe)


def load_recipe(path: Path) -> Recipe:
    """Read a recipe from a JSON file; faults as in `check_recipe`."""
    return check_recipe(parsed(path))


def dump_recipe(recipe: Recipe) -> dict[str, Any]:
    """Return the recipe as JSON-ready data, defaults included."""
    return dump_piece(recipe)


def recipe_schema() -> dict[str, Any]:
    """Return the JSON Schema of recipes."""
    return {"title": "Caracol recipe", **Recipe.model_json_schema()}


def filled(recipe: Recipe, photos: Mapping[str, str], values: Mapping[str, float] | None = None) -> Piece:
    """Return the piece that a recipe makes.

    Parameters
    ----------
    photos : mapping
        A photo's name for each open layer; cut-outs that get none stay empty.
    values : mapping, optional
        Of dials, by name; those left out stay as the recipe has them.

    Raises
    ------
    PieceError
        A slot gets no photo, there is no such dial, or a value lies outside its range.
    """
    data = dump_piece(recipe)
    optional = recipe.cut_outs()
    left = [slot for slot in recipe.openings if slot.layer not in photos and slot.layer not in optional]
    if left:
        raise PieceError([f"{recipe.name}: no photo for {', '.join(slot.label or slot.layer for slot in left)}"])
    for entry in _entries(data["layers"]):
        source = entry.get("source") or {}
        if entry["id"] in photos and source.get("kind") in ("photo", "cut-out") and source.get("photo") is None:
            source["photo"] = photos[entry["id"]]
    _turn(recipe, data, values or {})
    return checked({key: value for key, value in data.items() if key in Piece.model_fields}, Piece)


def with_one_photo(
    recipe: Recipe,
    photo: str,
    values: Mapping[str, float] | None = None,
    figure: str | None = None,
    chosen: Mapping[str, str] | None = None,
) -> Piece:
    """Return the piece that a recipe makes of one photo.

    The photo goes into every slot but those of cut-outs: they are given `figure`, a transparent picture, or stay empty without one. Where a
    recipe has cut-outs alone, the photo goes into them. Slots (layers) that are named in `chosen` get the photo that is chosen for them.

    Raises
    ------
    PieceError
        Something is chosen for what is no slot; or as `filled`.
    """
    chosen = chosen or {}
    slots_there = [slot.layer for slot in recipe.openings]
    unknown = [layer for layer in chosen if layer not in slots_there]
    if unknown:
        raise PieceError([f"slots: {recipe.name} has no slot {unknown[0]!r}; it has {', '.join(map(repr, slots_there)) or 'none'}"])
    figures = recipe.cut_outs()
    if len(figures) == len(recipe.openings):
        figures = set()
    figures -= set(chosen)
    by_slot = {slot.layer: figure if slot.layer in figures else photo for slot in recipe.openings}
    return filled(recipe, {layer: name for layer, name in (by_slot | dict(chosen)).items() if name is not None}, values)


def opened(recipe: Recipe, slots: Iterable[str] = ()) -> Recipe:
    """Return a recipe with a slot: of a plain piece, the photo of its lowest layer, and of the layers named in `slots`. One that has slots stays.

    Raises
    ------
    PieceError
        The lowest layer has no photo, so that nobody can say where one goes.
    """
    if recipe.openings:
        return recipe
    data, lowest = dump_recipe(recipe), recipe.layer
    if not isinstance(lowest.source, PhotoSource):
        kind = lowest.source.kind
        raise PieceError(
            [
                f"{recipe.name}: it names all its photos, and its bottom layer {lowest.id!r} is made of {kind}, so it does not say where a photo "
                'goes. Write "photo": null into the layer that takes it'
            ]
        )
    for entry in _entries(data["layers"]):
        source = entry.get("source") or {}
        if entry["id"] in {lowest.id, *slots} and source.get("kind") in ("photo", "cut-out"):
            # What is kept in a photo is that photo's.
            source.update({"photo": None, "keep": []})
    return check_recipe(data)


def _turn(recipe: Recipe, data: dict[str, Any], values: Mapping[str, float]) -> None:
    """Write the values of dials into a recipe's data."""
    known = {dial.name: dial for dial in recipe.dials}
    for name, value in values.items():
        if name not in known:
            raise PieceError([f"dial: {recipe.name} has no dial {name!r}; it has {', '.join(map(repr, known)) or 'none'}"])
        dial = known[name]
        if not dial.low <= value <= dial.high:
            raise PieceError([f"dial {name!r}: {value:g} is not between {dial.low:g} and {dial.high:g}"])
    steps = {(entry["id"], step["id"]): step for entry in _entries(data["layers"]) for step in entry["steps"]}
    for dial in recipe.dials:
        if dial.name not in values:
            continue
        for layer, step, setting in dial.settings:
            found = steps[layer, step]
            whole = recipe.range_of((layer, step, setting))[2]
            value = round(values[dial.name]) if whole else values[dial.name]
            (found if setting == STRENGTH else found["settings"])[setting] = value


def _entries(entries: list[dict[str, Any]]) -> Iterator[dict[str, Any]]:
    for entry in entries:
        yield entry
        yield from _entries(entry.get("layers") or [])


def _plain(name: str) -> str:
    """Return a name so that those of a photo and of its file are alike."""
    return " ".join(name.replace("-", " ").replace("_", " ").casefold().split())


def kept(
    piece: Piece, name: str, dials: Iterable[Mapping[str, Any]] = (), tags: Iterable[str] = (), layer: str | None = None,
    slots: Mapping[str, str] | None = None,
) -> Recipe:  # fmt: skip
    """Return a piece as a recipe.

    Parameters
    ----------
    layer : str, optional
        Keep only this layer's trail, as a layer of its own: not placed, fully opaque. All layers when left out.
    slots : mapping, optional
        A label for each layer whose photo is left open; the other photos stay named. All photos are left open when it is left out.

    Raises
    ------
    PieceError
        There is no such layer, or a dial turns nothing.
    """
    data = dump_piece(piece)
    if layer is not None:
        chosen = piece.find(layer)
        if isinstance(chosen, Group):
            raise PieceError([f"layer: {layer!r} is a group; keep all layers, or one of its layers"])
        (alone,) = (entry for entry in _entries(data["layers"]) if entry["id"] == layer)
        laid = {"visible": True, "opacity": 1, "blend": "normal", "where": None, "place": None, "link": None}
        data = {"caracol": data["caracol"], "layers": [alone | laid]}
        if alone["source"]["kind"] not in ("photo", "cut-out"):
            raise PieceError([f"layer: {layer!r} is no photo, so that its trail alone is no recipe; keep all layers"])
    openings = []
    for entry in _entries(data["layers"]):
        source = entry.get("source") or {}
        if source.get("kind") not in ("photo", "cut-out") or (slots is not None and entry["id"] not in slots):
            continue
        if _plain(str(source.get("photo")).rsplit(".", 1)[0]) == _plain(entry["name"]):
            entry["name"] = "Photo"
        # What is kept in a photo is that photo's.
        source.update({"photo": None, "keep": []})
        openings.append({"layer": entry["id"], "label": (slots or {}).get(entry["id"]) or entry["name"] or entry["id"]})
    return check_recipe({**data, "name": name, "tags": list(tags), "dials": [dict(dial) for dial in dials], "slots": openings})
