"""Older pieces as they are written today."""

from __future__ import annotations

from typing import Any

RENAMED = {"spin-blur": "wheel-blur"}
"""Keys of kinds by the keys they had before."""


def lifted(data: dict[str, Any]) -> dict[str, Any]:
    """Return a piece's parsed JSON with the kinds of its steps by their keys of today; what is no piece is given back as it is."""
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
    return {**step, "kind": RENAMED[kind]} if isinstance(kind, str) and kind in RENAMED else step
