"""Kinds and drawn sources as data, for panels and documents."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Any

from ..kinds.kind import Kind
from ..kinds.settings import Settings
from ..sources.drawn import DrawnSource
from .registry import KINDS

FINE = frozenset({"edge", "lines"})
"""Settings that mean the same in every kind and are seldom touched: panels keep them apart."""


def describe_setting(name: str, schema: dict[str, Any]) -> dict[str, Any]:
    """Flatten one setting's JSON schema into what an inspector needs."""
    parts = [schema, *schema.get("anyOf", [])]
    found = {key: part[key] for part in reversed(parts) for key in ("type", "enum", "minimum", "maximum") if key in part}
    types = {part.get("type") for part in parts} - {None, "null"}
    reach = schema.get("reach")
    low, high = schema.get("shown") or (found.get("minimum", None if reach is None else -reach), found.get("maximum", reach))
    return {
        "name": name,
        "label": schema["label"],
        "widget": _widget_of(schema["widget"], types),
        "unit": schema.get("unit"),
        "type": _type_of(schema["widget"], types, "enum" in found),
        "choices": found.get("enum"),
        "minimum": low,
        "maximum": high,
        "step": schema.get("step"),
        "default": {} if "object" in types else schema.get("default"),
        "auto": schema.get("auto"),
        "when": schema.get("when"),
        "idle": [
            {"when": {other: [in_json(value) for value in values] for other, values in rule["when"].items()}, "why": rule["why"]}
            for rule in schema.get("idle", ())
        ],
        "fine": schema.get("fine", name in FINE),
        "nullable": any(part.get("type") == "null" for part in parts),
        "help": schema["description"],
    }


def in_json(value: Any) -> str:
    """Return a value as JSON writes it, a word without its quotes: what a page compares with its own."""
    return value if isinstance(value, str) else json.dumps(value)


def _widget_of(widget: str, types: set[Any]) -> str:
    """Return how a setting is set: a choice of yes and no is a switch."""
    return "switch" if widget == "choice" and "boolean" in types else widget


def _type_of(widget: str, types: set[Any], chosen: bool) -> str:
    if chosen:
        return "choice"
    return widget if types & {"array", "object"} or widget in ("photo", "layer") else str(next(iter(types)))


def describe_settings(model: type[Settings]) -> list[dict[str, Any]]:
    """Return the settings of a model that a panel shows, those with a label, as data."""
    properties = model.model_json_schema()["properties"]
    return [describe_setting(name, schema) for name, schema in properties.items() if "label" in schema]


def describe_source(source: type[DrawnSource]) -> dict[str, Any]:
    """Return one drawn source as data; its `looks` are settings that show what it can be."""
    return {
        "key": source.model_fields["kind"].default,
        "label": source.label,
        "purpose": source.purpose,
        "looks": [{"name": name, "settings": dict(settings), "words": []} for name, settings in source.looks],
        "settings": describe_settings(source),
    }


def describe(kind: Kind) -> dict[str, Any]:
    """Return one kind as data."""
    return {
        "key": kind.key,
        "label": kind.label,
        "family": kind.family,
        "purpose": kind.purpose,
        "words": list(kind.words),
        "geometric": kind.way in ("bend", "paint"),
        "respects_keep": kind.respects_keep,
        "by_hand": kind.by_hand,
        "role": kind.role,
        "plain": kind.plain or not kind.starts,
        "follows": kind.follow is not None,
        "grounded": kind.grounded,
        "guide_layer": getattr(kind, "guide_layer", None),
        "cuts": kind.cuts,
        "tells": kind.tell is not None or kind.survey is not None,
        "shows": getattr(kind, "show", None) is not None,
        "reshapes": "always" if kind.reshapes(kind.settings()) else getattr(kind, "changes_frame_by", None) or "never",
        "handles": list(kind.handles),
        "starts": [{"name": s.name, "settings": dict(s.settings), "words": list(s.words), "after": s.after} for s in kind.starts],
        "settings": describe_settings(kind.settings),
        "bonds": describe_bonds(kind.settings),
    }


def describe_bonds(model: type[Settings]) -> list[dict[str, Any]]:
    """Return what numbers of a model must be to each other, as data."""
    return [asdict(bond) for bond in model.bonds]


def describe_all() -> list[dict[str, Any]]:
    """Return the whole catalogue as data, in working order."""
    return [describe(kind) for kind in KINDS]
