"""Settings of steps: frozen models whose fields carry label, unit, range and help."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, ClassVar, Literal, Self, cast

from pydantic import BaseModel, ConfigDict, Field, model_validator

When = dict[str, list[Any]] | None
Idle = tuple[tuple[dict[str, list[Any]], str], ...]
"""Values of other settings with which one has no effect, and why in a few words."""


@dataclass(frozen=True)
class Bond:
    """What two numbers of the same settings must be to each other, besides their own ranges.

    Parameters
    ----------
    sort : str
        `order`: the second is larger than the first by `by` at least. `proportion`: neither is more than `by` times the other.
    first, second : str
        Names of settings.
    by : float
    why : str
        What is said where it is not so.
    """

    sort: Literal["order", "proportion"]
    first: str
    second: str
    by: float
    why: str

    def holds(self, first: float, second: float) -> bool:
        """Whether two values are so."""
        if self.sort == "order":
            return second - first >= self.by - 1e-9
        return first <= self.by * second * (1 + 1e-9) and second <= self.by * first * (1 + 1e-9)


class Settings(BaseModel):
    """Base of every kind's settings: frozen, finite, no unknown fields."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, validate_default=True)
    bonds: ClassVar[tuple[Bond, ...]] = ()
    """What its numbers must be to each other."""
    described_by_parts: ClassVar[bool] = False
    """Whether keys describe it field by field: where it holds very many models that describe themselves once."""

    @model_validator(mode="after")
    def _bonds_hold(self) -> Self:
        for bond in self.bonds:
            if not bond.holds(getattr(self, bond.first), getattr(self, bond.second)):
                raise ValueError(bond.why)
        return self


def _idle(idle: Idle) -> dict[str, Any]:
    return {"idle": [{"when": when, "why": why} for when, why in idle]} if idle else {}


def number(
    default: Any, low: float, high: float, *, label: str, unit: str, help: str, step: float = 0.01, when: When = None,
    shown: tuple[float, float] | None = None, idle: Idle = (), fine: bool | None = None,
) -> Any:  # fmt: skip
    """Declare a number setting. `unit` is `units`, `turns`, `share`, `factor` or the like; the screen shows turns as degrees.

    `when` names another setting and the values of it with which this one has an effect; the screen leaves it out otherwise. `shown` is
    what a slider spans, where files may hold more. With `idle` it stays on the screen, which says why it does nothing now. A `fine` one is
    kept apart, for those who look for it.
    """
    extra = {"label": label, "widget": "number", "unit": unit, "step": step, "when": when} | (
        {} if shown is None else {"shown": list(shown)}
    )
    extra |= _idle(idle) | ({} if fine is None else {"fine": fine})
    return Field(default, ge=low, le=high, description=help, json_schema_extra=cast(Any, extra))


def auto_number(
    low: float, high: float, auto: list[dict[str, Any]], *, label: str, unit: str, help: str, step: float = 0.01, when: When = None,
    default: float | None = None,
) -> Any:  # fmt: skip
    """Declare a number that, left out (null, where it has a default), follows other settings.

    `auto` lists `{"when": {setting: value}, "value": v}`; the first whose `when` holds applies, and the last has none.
    """
    extra: dict[str, Any] = {"label": label, "widget": "number", "unit": unit, "step": step, "auto": auto, "when": when}
    return Field(default, ge=low, le=high, description=help, json_schema_extra=cast(Any, extra))


def auto_value(settings: Settings, name: str) -> float:
    """Return the value of setting `name`, or what an `auto_number` stands for when it is left out."""
    value = getattr(settings, name)
    if value is None:
        extra = cast(dict[str, Any], type(settings).model_fields[name].json_schema_extra)
        for rule in extra["auto"]:
            if all(getattr(settings, k) == v for k, v in rule.get("when", {}).items()):
                return float(rule["value"])
    return float(value)


def pairs(
    default: tuple[tuple[float, float], ...], *, label: str, kind: str, least: int, most: int, reach: float, help: str, when: When = None
) -> Any:
    """Declare a setting that is a list of pairs of numbers, edited on the picture: a `curve`, `corners` or an `outline`.

    Annotate it with `Pairs`; `reach` bounds the second number of a curve's pairs, or both of a corner's.
    """
    extra = {"label": label, "widget": kind, "step": None, "when": when, "reach": reach}
    return Field(default, min_length=least, max_length=most, description=help, json_schema_extra=cast(Any, extra))


def stops(default: Any, *, most: int, label: str, help: str) -> Any:
    """Declare the stops of a gradient: a list of models with `at` (0…1) and `colour`."""
    extra = {"label": label, "widget": "stops", "step": None, "when": None}
    return Field(default, min_length=2, max_length=most, description=help, json_schema_extra=cast(Any, extra))


def colours(*, least: int, most: int, label: str, help: str) -> Any:
    """Declare a list of colours `#rrggbb`; None leaves them to other settings."""
    extra = {"label": label, "widget": "colours", "step": None, "when": None}
    return Field(None, min_length=least, max_length=most, description=help, json_schema_extra=cast(Any, extra))


def bars(*, most: int, label: str, help: str) -> Any:
    """Declare a list of bars that are edited one by one on the picture; None leaves them to the seed."""
    return Field(
        None, max_length=most, description=help, json_schema_extra=cast(Any, {"label": label, "widget": "bars", "step": None, "when": None})
    )


def strokes(*, most: int, label: str, help: str) -> Any:
    """Declare a list of strokes that are made on the picture with a brush."""
    extra = {"label": label, "widget": "strokes", "step": None, "when": None}
    return Field((), max_length=most, description=help, json_schema_extra=cast(Any, extra))


def keys(*, most: int, label: str, help: str) -> Any:
    """Declare settings keyed by round: a list of models that each hold from their round on."""
    return Field(
        (), max_length=most, description=help, json_schema_extra=cast(Any, {"label": label, "widget": "keys", "step": None, "when": None})
    )


def layer(*, label: str, help: str) -> Any:
    """Declare a setting that names a layer below by its id, or none."""
    return Field(
        None, max_length=64, description=help, json_schema_extra=cast(Any, {"label": label, "widget": "layer", "step": None, "when": None})
    )


def photo(*, label: str, help: str, when: When = None) -> Any:
    """Declare a setting that names a photo of the Shelf, or none."""
    return Field(
        None, max_length=255, description=help, json_schema_extra=cast(Any, {"label": label, "widget": "photo", "step": None, "when": when})
    )


def seed(*, help: str = "Another number gives another random result. The same number always gives the same.", idle: Idle = ()) -> Any:
    """Declare the seed of a kind's random choices."""
    extra = {"label": "Random", "widget": "seed", "step": 1, "when": None} | _idle(idle)
    return Field(1, ge=0, le=999_999, description=help, json_schema_extra=cast(Any, extra))


def formula(default: str, *, label: str, help: str) -> Any:
    """Declare a setting that is one line of a formula (docs/formulas.md)."""
    return Field(default, description=help, json_schema_extra=cast(Any, {"label": label, "widget": "formula", "step": None, "when": None}))


def text(default: str, *, most: int, label: str, help: str) -> Any:
    """Declare a setting that is text."""
    return Field(
        default,
        max_length=most,
        description=help,
        json_schema_extra=cast(Any, {"label": label, "widget": "text", "step": None, "when": None}),
    )


def knobs(*, label: str, help: str) -> Any:
    """Declare the knobs of a formula (annotate it with a mapping of names to models with `value`, `low` and `high`)."""
    return Field(
        default_factory=dict,
        validate_default=False,
        description=help,
        json_schema_extra=cast(Any, {"label": label, "widget": "knobs", "step": None, "when": None}),
    )


def choice(default: Any, *, label: str, help: str, when: When = None, idle: Idle = ()) -> Any:
    """Declare a setting that is one of several words (annotate it with `Literal`) or a switch (annotate it with `bool`)."""
    return Field(default, description=help, json_schema_extra=cast(Any, {"label": label, "widget": "choice", "when": when} | _idle(idle)))


def colour(default: str | None, *, label: str, help: str, when: When = None) -> Any:
    """Declare a colour setting: `#rrggbb`, or None where the step finds its own."""
    return Field(
        default,
        pattern=r"^#[0-9a-fA-F]{6}$",
        description=help,
        json_schema_extra=cast(Any, {"label": label, "widget": "colour", "when": when}),
    )


def as_arguments(settings: Settings) -> dict[str, Any]:
    """Return settings by name, as a kind's functions take them: nested ones stay objects."""
    return {name: getattr(settings, name) for name in type(settings).model_fields}
