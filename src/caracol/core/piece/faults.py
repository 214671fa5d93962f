"""Faults of a piece file in words: where, what was found, what was expected."""

from __future__ import annotations

from reprlib import Repr
from typing import Any

from ..catalogue.registry import unknown_kind_message
from .model import SOURCE_KINDS

LONGEST_PART = 60
"""Letters of a field's name that are told."""
_SHORT = Repr()
_SHORT.maxlevel, _SHORT.maxstring, _SHORT.maxother = 3, 80, 80


def path_of(loc: tuple[Any, ...]) -> str:
    """Return a place in a piece file as its owner would write it: `layers[0].steps[2].settings.reach`."""
    out = ""
    for index, part in enumerate(loc):
        if isinstance(part, int):
            out += f"[{part}]"
        elif index > 1 and isinstance(loc[index - 1], int) and loc[index - 2] in ("steps", "shapes", "layers"):
            continue  # the discriminator's own mark, not a place in the file
        elif index > 1 and loc[index - 1] == "source" and part in SOURCE_KINDS:
            continue
        else:
            name = str(part)[:LONGEST_PART]
            out += f".{name}" if out else name
    return out or "the piece"


def fault_message(error: Any) -> str:
    """Return what a check found wrong, in a few words."""
    kind, ctx = error["type"], error.get("ctx", {})
    if kind == "union_tag_invalid" and error["loc"] and "steps" in error["loc"]:
        return unknown_kind_message(ctx["tag"])
    if kind == "union_tag_not_found":
        return "needs a kind"
    if kind == "extra_forbidden":
        return "unknown field; remove it or check its spelling"
    got = _SHORT.repr(error.get("input"))
    message = str(error["msg"]).removeprefix("Value error, ").removeprefix("Input ")
    return message if kind in ("missing", "value_error") else f"got {got[:80]}, {message[0].lower()}{message[1:]}"
