"""Older pieces as they are written today."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

RENAMED = {"spin-blur": "wheel-blur"}
"""Keys of kinds by the keys they had before."""


def seam_settings(settings: dict[str, Any]) -> dict[str, Any]:
    """Return settings of a close seam as they are today: its crossfade was a switch once."""
    if "crossfade" not in settings:
        return settings
    rest = {name: value for name, value in settings.items() if name != "crossfade"}
    return {"method": "crossfade" if settings["crossfade"] is True else "none"} | rest


def as_it_was(added: dict[str, Any], *others: str) -> Callable[[dict[str, Any]], dict[str, Any]]:
    """Return what keeps the look of steps that were written before these settings were there.

    A saved step names every setting its kind had; so one that names all `others` but none of the added ones is an older one, and gets the values
    that do what it did. One written by hand names what it needs, and takes the defaults of today.
    """

    def lift(settings: dict[str, Any]) -> dict[str, Any]:
        older = all(name in settings for name in others) and not any(name in settings for name in added)
        return settings | added if older else settings

    return lift


SETTINGS: dict[str, Callable[[dict[str, Any]], dict[str, Any]]] = {
    "close-seam": seam_settings,
    "lens": as_it_was({"cover": False}, "form", "amount", "x", "y", "reach", "only", "edge"),
    "mosaic": as_it_was({"offset": 0, "keep_light": 0}, "pitch", "gap", "stretch"),
    "scan-lines": as_it_was({"keep_light": 0}, "pitch", "thickness", "softness", "dark", "bright", "interlace", "band", "band_at"),
    "tube": as_it_was({"keep_light": 0}, "mask", "pitch", "beam", "spread", "floor", "depth", "bloom", "reach", "gain", "glass"),
}
"""What brings the settings of a kind up to date."""


def lifted(data: dict[str, Any]) -> dict[str, Any]:
    """Return a piece's parsed JSON with the kinds and settings of its steps as they are today; what is no piece is given back as it is."""
    entries = data.get("layers")
    return data if not isinstance(entries, list) else {**data, "layers": [_entry(entry) for entry in entries]}


def _entry(entry: Any) -> Any:
    if not isinstance(entry, dict):
        return entry
    inner = lifted(entry)
    steps = inner.get("steps")
    return inner if not isinstance(steps, list) else {**inner, "steps": [_step(step) for step in steps]}


def _step(step: Any) -> Any:
    kind = step.get("kind") if isinstance(step, dict) else None
    if not isinstance(kind, str):
        return step
    kind = RENAMED.get(kind, kind)
    settings = step.get("settings")
    found = {"settings": SETTINGS[kind](settings)} if kind in SETTINGS and isinstance(settings, dict) else {}
    return {**step, "kind": kind, **found}
