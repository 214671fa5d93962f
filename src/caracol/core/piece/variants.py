"""Variants of a piece: other draws, and settings moved about within a spread."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from math import exp
from typing import Any, Literal

from ..catalogue.describe import describe
from ..catalogue.registry import get_kind
from ..geometry.frame import Frame
from ..kinds.kind import BendKind
from ..pixels.draws import draw, spread
from .files import check_piece, dump_piece
from .model import Group, Layer, Piece, Step

Vary = Literal["seeds", "settings", "both"]
CHOSEN = frozenset({"join", "meet", "along", "key", "order", "marks", "shade", "form", "fall", "mask"})
"""Choices of which any other will do: each is made anew as often as the spread says."""
UNVARIED = frozenset({"lines", "feed_from", "keep_light"})
"""Settings that change what a step costs or when, not what it looks like; and the light that is kept, which is to be kept in all."""
SEEDS = 1_000_000
FACTOR = {"units": 4.0, "count": 2.0, "share": 2.0}
"""Logarithm of the factor by which a spread of 1 moves a number of a break, by its unit; other numbers, and those of other families, move by
less: a planet twice as large is another picture, a shift twice as wide is the same one."""
NEAREST = 0.4
"""What is varied at all moves by at least this share of the spread."""
_FRAMES = (Frame(1.5), Frame(0.75))
"""A step keeps the frame's shape where it keeps both of these."""


@dataclass(frozen=True)
class Variant:
    """A piece like another, and what differs, in words."""

    piece: Piece
    changes: tuple[str, ...]


def roll(
    piece: Piece, seed: int, *, spread: float = 0.25, vary: Vary = "both", steps: frozenset[str] | None = None, count: int = 12
) -> list[Variant]:
    """Return `count` variants of a piece; the same seed gives the same ones.

    Parameters
    ----------
    spread : float
        How far settings are moved, 0…1: 1 halves or doubles most of them; those of breaks move further.
    vary : str
        Whether seeds are drawn again, settings moved, or both.
    steps : frozenset of str, optional
        Ids of the steps that may change, in any layer; all that are on when left out. Of linked layers one step stands for all: they stay alike.
    """
    return [_vary(piece, (seed, number), spread, vary, steps) for number in range(count)]


def _vary(piece: Piece, place: tuple[int, int], by: float, vary: Vary, steps: frozenset[str] | None) -> Variant:
    data = dump_piece(piece)
    changes: list[str] = []
    # Groups come after all layers: what is drawn for those does not hang on them.
    sheets = [*piece.walk(), *(entry for entry in piece.entries() if entry.members)]
    families: dict[str, list[Layer | Group]] = {}
    for sheet in sheets:
        families.setdefault(sheet.link or f"only {sheet.id}", []).append(sheet)
    for family in families.values():
        layer_index = sheets.index(family[0])
        for index, step in enumerate(family[0].steps):
            alike = [(sheet.id, sheet.steps[index]) for sheet in family if index < len(sheet.steps)]
            if not step.on or (steps is not None and not any(one.id in steps for _, one in alike)):
                continue
            changed = _vary_step(step, (*place, layer_index, index), by, vary)
            for sheet_id, _ in alike:
                _layer_data(data["layers"], sheet_id)["steps"][index]["settings"].update(changed)
            if changed:
                changes.append(f"{step.definition.label}: {', '.join(_named(step, changed))}")
    return Variant(check_piece(data), tuple(changes))


@cache
def _settings_of(kind: str) -> list[dict[str, Any]]:
    return list(describe(get_kind(kind))["settings"])


def _layer_data(entries: list[dict[str, Any]], layer_id: str) -> dict[str, Any]:
    for entry in entries:
        if entry["id"] == layer_id:
            return entry
        if "layers" in entry:
            try:
                return _layer_data(entry["layers"], layer_id)
            except KeyError:
                continue
    raise KeyError(layer_id)


def _named(step: Step, changed: dict[str, Any]) -> list[str]:
    labels = {setting["name"]: setting["label"] for setting in _settings_of(step.kind)}
    return [f"{labels[name].lower()} {_short(value)}" for name, value in changed.items()]


def _short(value: Any) -> str:
    if isinstance(value, str):
        return value.replace("-", " ")
    if isinstance(value, list):
        return "moved"
    return f"{value}" if isinstance(value, int) else f"{value:.3g}"


def _vary_step(step: Step, place: tuple[int, ...], by: float, vary: Vary) -> dict[str, Any]:
    out: dict[str, Any] = {}
    for n, setting in enumerate(_settings_of(step.kind)):
        name, value = setting["name"], getattr(step.settings, setting["name"])
        if setting["widget"] == "seed":
            if vary != "settings":
                out[name] = int(draw(*place, n, 0) * SEEDS)
        elif vary == "seeds" or name in UNVARIED or value is None or not _has_effect(step, setting):
            continue
        elif (step.definition.neutral or {}).get(name) == value:
            continue  # what is switched off stays so
        elif name in CHOSEN and setting["type"] == "choice":
            out.update(_chosen_anew(setting, value, (*place, n), by))
        elif setting["type"] == "bars":
            out[name] = [bar.model_dump() | {"shift": _moved_shift(bar, (*place, n, k), by)} for k, bar in enumerate(value)]
        elif setting["type"] == "tones":
            out[name] = _bent(value, (*place, n), by)
        elif setting["type"] == "stops":
            out[name] = [stop.model_dump() | {"at": _strayed(stop.at, (*place, n, k), by)} for k, stop in enumerate(value)]
        elif setting["type"] in ("number", "integer"):
            moved = _moved(step, setting, float(value), _plainly(spread(*place, n, 1)), by)
            if moved != value and _keeps_frame(step, {name: moved}):
                out[name] = int(moved) if setting["type"] == "integer" else moved
    return out


def _chosen_anew(setting: dict[str, Any], value: Any, place: tuple[int, ...], by: float) -> dict[str, Any]:
    """Return another choice of a setting, by its name, as often as `by` says; nothing else."""
    others = [choice for choice in setting["choices"] if choice != value]
    return {setting["name"]: others[int(draw(*place, 3) * len(others))]} if draw(*place, 2) < by else {}


def _keeps_frame(step: Step, changed: dict[str, Any]) -> bool:
    """Whether the frame has the same shape after a step with some settings changed: whoever rolls has chosen the shape, and keeps it."""
    kind = step.definition
    if not isinstance(kind, BendKind):
        return True
    varied = step.settings.model_copy(update=changed)
    return all(kind.frame_after(frame, varied) == kind.frame_after(frame, step.settings) for frame in _FRAMES)


def _strayed(value: float, place: tuple[int, ...], by: float) -> float:
    """Return a value of 0…1 moved by a tenth at most, black and white left alone."""
    return value if value in (0, 1) else max(0.0, min(1.0, round(value + 0.1 * by * spread(*place), 4)))


def _bent(curve: tuple[tuple[float, float], ...], place: tuple[int, ...], by: float) -> list[list[float]]:
    """Return a curve of tones whose new values are moved; its places stay, so that they go on from left to right."""
    return [[old, _strayed(new, (*place, k), 2 * by)] for k, (old, new) in enumerate(curve)]


def _moved_shift(bar: Any, place: tuple[int, ...], by: float) -> float:
    if bar.locked:
        return float(bar.shift)
    return max(-2.0, min(2.0, round(bar.shift + by * spread(*place) * max(0.05, abs(bar.shift)), 5)))


def _has_effect(step: Step, setting: dict[str, Any]) -> bool:
    when = setting["when"] or {}
    return all(str(getattr(step.settings, name)) in [str(v) for v in values] for name, values in when.items())


def _plainly(way: float) -> float:
    """Return a draw of -1…1 led away from 0: a setting that hardly moves shows nothing."""
    return (1 if way >= 0 else -1) * (NEAREST + (1 - NEAREST) * abs(way))


def _moved(step: Step, setting: dict[str, Any], value: float, way: float, by: float) -> float:
    """Move a number within its limits; one that stands at a limit moves away from it."""
    low, high = setting["minimum"], setting["maximum"]
    moved = _led(step, setting, value, way, by)
    if value in (low, high) and not low <= moved <= high:
        moved = _led(step, setting, value, -way, by)
    moved = max(low, min(high, moved))
    return float(round(moved)) if setting["type"] == "integer" else round(moved, 5)


def _led(step: Step, setting: dict[str, Any], value: float, way: float, by: float) -> float:
    """Return a number moved by a factor where it has a neutral value to be far from, or none below 0; else by itself or some of its steps."""
    neutral = (step.definition.neutral or {}).get(setting["name"])
    factor = FACTOR.get(setting["unit"]) if step.definition.family == "break" else None
    if neutral is not None:
        return float(neutral + (value - neutral) * exp((factor or 1.0) * by * way))
    if setting["minimum"] >= 0:
        return value * exp((factor or 0.7) * by * way)
    if value == 0 and setting["unit"] in ("turns", "revolutions"):
        return value  # what lies level goes on lying level
    return value + by * way * float(min(0.25 * (setting["maximum"] - setting["minimum"]), max(abs(value), 40 * setting["step"])))
