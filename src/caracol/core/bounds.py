"""How much JSON from outside may hold: counted before anything in it is checked one by one.

What is refused here costs no more than to walk through it once; what passes can have no more faults than it can have parts.
"""

from __future__ import annotations

import json
from collections import Counter
from typing import Any

from .errors import PieceError

LARGEST = 12 << 20
"""Bytes of a piece's JSON, written without spaces: what is saved, delivered and opened is held to the same."""
SPACED = LARGEST + (4 << 20)
"""Bytes that are read: a writer may put spaces between, or more round it."""
DEEPEST = 64
"""Lists and objects in each other at most."""
MOST_OBJECTS = 50_000
MOST_LISTS = 400_000
LONGEST_LIST = 10_000
"""Entries of a list of anything but numbers, texts, or lists of them."""
MOST_KEYS = 1000
DEEPEST_GROUPS = 16
MOST = {
    "layers": 100, "steps": 2000, "shapes": 5000, "strokes": 4000, "points": 1_000_000, "keep": 1000, "channels": 20_000,
    "dials": 24, "slots": 100, "tags": 20,
}  # fmt: skip
"""What a piece or recipe may have of each in all."""
NAMES = {"layers": "layers and groups", "points": "points of strokes and outlines"}
Container = dict[str, Any] | list[Any]


def read_json(text: bytes | str) -> Any:
    """Return what JSON says.

    Raises
    ------
    PieceError
        It is too large, too deep, or holds too many parts; nothing in it was looked at.
    ValueError
        It is no JSON, or has numbers that JSON does not know.
    """
    if len(text) > SPACED:
        raise PieceError([f"it has {len(text) / (1 << 20):.1f} MB; at most {SPACED >> 20} MB are read"])
    opened = [text.count(mark) for mark in ("{", "[")] if isinstance(text, str) else [text.count(mark) for mark in (b"{", b"[")]
    if opened[0] > MOST_OBJECTS or opened[1] > MOST_LISTS:
        raise PieceError([f"it holds {max(opened):,} lists or objects; at most {MOST_OBJECTS:,} objects and {MOST_LISTS:,} lists are read"])
    try:
        data = json.loads(text, parse_constant=_reject_constant)
    except RecursionError as error:
        raise PieceError([_too_deep()]) from error
    check_shape(data)
    return data


def written(data: dict[str, Any]) -> str:
    """Return a piece's data as JSON without spaces.

    Raises
    ------
    PieceError
        It is larger than what is kept, delivered and opened again.
    """
    text = json.dumps(data, sort_keys=True, separators=(",", ":"), ensure_ascii=False)
    if len(text) > LARGEST // 4 and (size := len(text.encode())) > LARGEST:
        raise PieceError(
            [
                f"the piece: it takes {size / (1 << 20):.1f} MB; at most {LARGEST >> 20} MB are kept. Take strokes or points out of it, or split it"
            ]
        )
    return text


def _reject_constant(word: str) -> float:
    raise ValueError(f"{word} is not a number JSON knows")


def _too_deep() -> str:
    return f"lists and objects lie in each other more than {DEEPEST} deep; nothing here is written so"


def check_shape(data: Any) -> None:
    """Raise PieceError where JSON is deeper, or has longer lists or more keys, than anything here is written with."""
    here: list[Container] = [data] if isinstance(data, dict | list) else []
    for _ in range(DEEPEST):
        inner: list[Container] = []
        for one in here:
            within = _containers(one)
            if isinstance(one, dict) and len(one) > MOST_KEYS:
                raise PieceError([f"an object has {len(one):,} fields; at most {MOST_KEYS:,} are read"])
            if isinstance(one, list) and len(one) > LONGEST_LIST and any(isinstance(entry, dict) for entry in within):
                raise PieceError([f"a list has {len(one):,} entries; at most {LONGEST_LIST:,} are read"])
            inner += within
        here = inner
        if not here:
            return
    raise PieceError([_too_deep()])


def _containers(one: Container) -> list[Container]:
    """Return what lists and objects lie in one. Rows of a hundred thousand numbers are passed over at once, by their types."""
    values = one.values() if isinstance(one, dict) else one
    if not {dict, list} & set(map(type, values)):
        return []
    return [value for value in values if isinstance(value, dict | list)]


def check_counts(data: dict[str, Any]) -> None:
    """Raise PieceError where a piece's JSON has more layers, steps, shapes, strokes or points than a piece may have, or deeper groups.

    Whatever else is wrong in it is left to the check that follows.
    """
    check_shape(data)
    counts: Counter[str] = Counter()
    waiting: list[Container] = [data]
    while waiting:
        one = waiting.pop()
        if isinstance(one, dict):
            for name, value in one.items():
                if isinstance(value, list):
                    counts[_counted_as(name)] += _count(name, value)
        waiting += _containers(one)
    faults = [
        f"{name}: the piece has {counts[name]:,} {NAMES.get(name, name)} in all; at most {most:,} are taken"
        for name, most in MOST.items()
        if counts[name] > most
    ]
    deep = _depth(data)
    if deep > DEEPEST_GROUPS:
        faults.append(f"layers: groups lie in each other {deep} deep; at most {DEEPEST_GROUPS} are taken")
    if faults:
        raise PieceError(faults)


def _counted_as(name: str) -> str:
    return "points" if name in ("line", "outline") else name


def _count(name: str, value: list[Any]) -> int:
    """Return how many entries a list has; where points are written as a row of numbers, two are one."""
    flat = _counted_as(name) == "points" and bool(value) and not isinstance(value[0], list)
    return len(value) // 2 if flat else len(value)


def _depth(data: dict[str, Any]) -> int:
    """Return how many groups lie in each other at most."""
    here = [entry for entry in _entries(data) if "layers" in entry]
    deep = 0
    while here:
        deep += 1
        here = [entry for group in here for entry in _entries(group) if "layers" in entry]
    return deep


def _entries(group: dict[str, Any]) -> list[dict[str, Any]]:
    layers = group.get("layers")
    return [entry for entry in layers if isinstance(entry, dict)] if isinstance(layers, list) else []
