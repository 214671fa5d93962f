"""The form of a piece document: what every layer, step and where has, with the settings of single kinds left open.

The whole schema (`files.piece_schema`) knows each kind's settings and is what documents are checked against. A program that edits
documents of any kind, as the Bench does, is typed by this one.
"""

from __future__ import annotations

from typing import Any

from ..steps.bend.formula import Knob
from ..steps.break_.melt import MeltKey
from ..steps.break_.slices import Bar
from ..steps.finish.gradient_map import Stop
from ..steps.mend.touch_up import Stroke, StrokeSource
from .keep import KeepArea
from .model import SOURCE_KINDS, Group, Layer, Piece, PieceBox, PieceFrame, Place, Step
from .where import Where

WHOLE = ("Where", "Place", "PieceBox", "KeepArea", "Bar", "Knob", "Stroke", "StrokeSource")
"""Parts that Caracol always writes whole, though a file may leave out what has a default."""
_SHOWN = ("label", "widget", "unit", "step", "when", "shown", "idle", "fine", "auto", "reach", "title")
"""What schemas of settings carry for panels."""


def _ref(name: str) -> dict[str, Any]:
    return {"$ref": f"#/$defs/{name}"}


def _list_of(name: str, most: int | None = None) -> dict[str, Any]:
    return {"type": "array", "items": _ref(name)} | ({} if most is None else {"maxItems": most})


def _bare(schema: Any) -> Any:
    """Return a schema without what only panels read."""
    if isinstance(schema, list):
        return [_bare(part) for part in schema]
    if not isinstance(schema, dict):
        return schema
    fields = schema.get("properties", {})
    rest = {key: _bare(part) for key, part in schema.items() if key not in (*_SHOWN, "properties")}
    return rest | ({"properties": {name: _bare(field) for name, field in fields.items()}} if fields else {})


def _own(model: Any, **other: dict[str, Any]) -> dict[str, Any]:
    """Return a model's schema without the models it refers to; `other` takes the place of some of its fields."""
    schema = _bare(model.model_json_schema())
    # A model that refers to itself stands among its own definitions.
    schema = schema.get("$defs", {}).get(model.__name__, schema) if "properties" not in schema else schema
    schema.pop("$defs", None)
    schema["properties"] = schema["properties"] | other
    return schema | ({"required": list(schema["properties"])} if model.__name__ in WHOLE else {})


def document_form() -> dict[str, dict[str, Any]]:
    """Return the schemas of a document's parts by name, `Document` the whole; they refer to each other as `#/$defs/…`.

    Notes
    -----
    A setting's value is one of: number, text, switch, pairs of numbers, bars, strokes, keys of a melt, stops of a gradient, knobs by name, nothing.
    """
    values: list[dict[str, Any]] = [{"type": kind} for kind in ("number", "string", "boolean", "null")]
    numbers = {"type": "array", "items": {"type": "array", "items": {"type": "number"}}}
    values += [numbers, {"type": "array", "items": {"type": "string"}}]
    values += [
        _list_of("Bar"),
        _list_of("MeltKey"),
        _list_of("Stop"),
        _list_of("KeepArea"),
        _list_of("Stroke"),
        {"type": "object", "additionalProperties": _ref("Knob")},
    ]
    kind = {"type": "string"}
    shape = {
        "description": "A shape of a where: a kind, how it joins, and its own numbers or points.",
        "type": "object",
        "properties": {
            "kind": kind,
            "join": {"type": "string", "enum": ["add", "subtract", "intersect"]},
        },
        "required": ["kind"],
        "additionalProperties": {
            "anyOf": [{"type": "number"}, {"type": "string"}, {"type": "array", "items": {"type": "array", "items": {"type": "number"}}}]
        },
    }
    source = {
        "description": "Where a layer's picture comes from: a photo by name, or a drawn kind with its settings.",
        "type": "object",
        "properties": {
            "kind": kind | {"enum": list(SOURCE_KINDS)},
            "photo": {"anyOf": [{"type": "string"}, {"type": "null"}]},
            "keep": _list_of("KeepArea", 50),
        },
        "required": ["kind"],
        "additionalProperties": _ref("SettingValue"),
    }
    step = _own(Step, settings=_ref("Settings"), kind=kind)
    entries = {"anyOf": [_ref("Layer"), _ref("Group")]}
    layers = {"type": "array", "items": entries, "minItems": 1, "maxItems": 100}
    return {
        "Document": _own(Piece, layers=layers),
        "PieceFrame": _own(PieceFrame),
        "PieceBox": _own(PieceBox),
        "Layer": _own(Layer, source=_ref("Source"), steps=_list_of("Step", 200)) | {"required": ["id", "source", "steps"]},
        "Group": _own(Group, layers=layers, steps=_list_of("Step", 200)),
        "Step": step | {"required": ["id", "kind", "settings"]},
        "Source": source,
        "Place": _own(Place),
        "Where": _own(Where, shapes=_list_of("Shape", 500)),
        "Shape": shape,
        "KeepArea": _own(KeepArea),
        "Settings": {"type": "object", "additionalProperties": _ref("SettingValue")},
        "SettingValue": {"anyOf": values},
        "Bar": _own(Bar),
        "Stroke": _own(Stroke, source=_ref("StrokeSource")),
        "StrokeSource": _own(StrokeSource, about={"anyOf": [numbers["items"], {"type": "null"}]}),
        "MeltKey": _own(MeltKey),
        "Knob": _own(Knob),
        "Stop": _own(Stop),
    }
