"""Piece files of older versions brought to today's: one function for each version that was written, by its number.

A migration reads what that version said, and never guesses: what a file leaves out has its default, in every version (docs/piece-format.md).
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from ..geometry.lines import packed

Data = dict[str, Any]
RENAMED = {"spin-blur": "wheel-blur"}
"""Keys of kinds by the keys they had in version 1."""


def migrate_v1(data: Data) -> Data:
    """Version 2 has wheel blurs, where version 1 also knew them as spin blurs, and ways to close a seam, where it had a switch."""
    return {**with_steps(data, _step_of_v1), "caracol": 2}


def _step_of_v1(step: Data) -> Data:
    kind = RENAMED.get(step["kind"], step["kind"])
    settings = step.get("settings")
    changed = {"settings": seam_settings(settings)} if kind == "close-seam" and isinstance(settings, dict) else {}
    return {**step, "kind": kind, **changed}


def seam_settings(settings: Data) -> Data:
    """Return settings of a close seam of version 1 as they are since: its crossfade was a switch once."""
    if "crossfade" not in settings:
        return settings
    rest = {name: value for name, value in settings.items() if name != "crossfade"}
    return {"method": "crossfade" if settings["crossfade"] is True else "none"} | rest


def migrate_v2(data: Data) -> Data:
    """Version 3 has lines of strokes as whole numbers, each point by how far it lies from the one before."""
    return {**with_steps(data, _step_of_v2), "caracol": 3}


def _step_of_v2(step: Data) -> Data:
    settings = step.get("settings")
    strokes = settings.get("strokes") if isinstance(settings, dict) and step["kind"] == "touch-up" else None
    if not isinstance(settings, dict) or not isinstance(strokes, list):
        return step
    return {**step, "settings": {**settings, "strokes": [stroke_of_v2(one) if isinstance(one, dict) else one for one in strokes]}}


def stroke_of_v2(stroke: Data) -> Data:
    """Return a stroke of version 2 as it is written since. What is no list of points stays, under its new name, for the check to tell."""
    points: Any = stroke.get("points")
    outline: Any = stroke.get("outline")
    found = dict(stroke)
    if are_points(outline, 2):
        found["outline"] = packed(outline)
    if not isinstance(points, list) or "line" in stroke:
        return found
    del found["points"]
    if not are_points(points, 3):
        return {**found, "line": points}
    pressure = [point[2] for point in points]
    return {**found, "line": packed(points), "pressure": pressure if any(one != 1 for one in pressure) else []}


def are_points(value: Any, parts: int) -> bool:
    """Whether a value is a list of points of so many numbers, none of them beyond counting."""
    return isinstance(value, list) and all(
        isinstance(point, list)
        and len(point) == parts
        and all(isinstance(part, int | float) and not isinstance(part, bool) and abs(part) < 1000 for part in point)
        for point in value
    )


MIGRATIONS: tuple[Callable[[Data], Data], ...] = (migrate_v1, migrate_v2)
"""What brings a version to the next: the first is of version 1."""
VERSION = len(MIGRATIONS) + 1
"""What is written today."""


def migrated(data: Data) -> Data:
    """Return a piece's parsed JSON of any version before today's as it is written today; what is no piece is given back as it is."""
    version = version_of(data)
    if version is None:
        return data
    for migrate in MIGRATIONS[version - 1 :]:
        data = migrate(data)
    return {**data, "caracol": version_of(data)}


def version_of(data: Data) -> int | None:
    """Return the version a piece says it is of; None where it says none, or what is no version."""
    version = data.get("caracol")
    if not isinstance(version, int | float) or isinstance(version, bool) or version < 1 or version != int(version):
        return None
    return int(version)


def with_steps(data: Data, change: Callable[[Data], Data]) -> Data:
    """Return a document with each of its steps changed, in layers and groups; what is no step is left as it is."""
    entries = data.get("layers")
    return data if not isinstance(entries, list) else {**data, "layers": [_entry(entry, change) for entry in entries]}


def _entry(entry: Any, change: Callable[[Data], Data]) -> Any:
    if not isinstance(entry, dict):
        return entry
    inner = with_steps(entry, change)
    steps = inner.get("steps")
    if not isinstance(steps, list):
        return inner
    known = [change(step) if isinstance(step, dict) and isinstance(step.get("kind"), str) else step for step in steps]
    return {**inner, "steps": known}
